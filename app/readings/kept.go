//go:build !js

package readings

// mostCached is how many answers are kept; one takes some tens of kilobytes.
const mostCached = 1024
