//go:build !js

package diagnosis

// mostSpaces is how many circuits and spaces are kept; a space takes less than half a megabyte.
const mostSpaces = 64
