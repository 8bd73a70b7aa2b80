package readings

// mostCached is how many answers a phone keeps: of the job at hand, with what is foreseen of it. One takes some tens of
// kilobytes.
const mostCached = 128
