package diagnosis

// mostSpaces is how many circuits and spaces a phone keeps, which is at one job at a time; a space takes less than half
// a megabyte.
const mostSpaces = 6
