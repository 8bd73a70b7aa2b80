package live

import "time"

// clock is a feed's time in s, never going back: the gateway's own where it tells the time, else this machine's. A
// gateway's clock that is set, or leaps by more than an hour, goes on by this machine's.
type clock struct {
	seconds       float64   // at the last that counts
	wall          time.Time // … by this machine
	reportedFirst time.Time // what the gateway told last
	step          float64   // between its last two, in its own s
	paceOwn       float64   // the last few steps together, in its own s, the older counting less
	paceWall      float64   // … in this machine's
	heard         bool
	last          float64 // the latest that was given out
}

const (
	toldFor    = 5 * time.Second // a gateway that tells no time for so long has no clock
	mostLeapS  = 3600.0
	leastWallS = 1e-6
	paceKeeps  = 0.8 // of what the steps before counted, at every step
	shortOfS   = 1.5 * leastApartS
)

// reported says whether the gateway's own clock counts.
func (c *clock) reported(now time.Time) bool { return c.heard && now.Sub(c.wall) < toldFor }

// hear takes what the gateway tells.
func (c *clock) hear(at, now time.Time) {
	wall := max(0, now.Sub(c.wall).Seconds())
	if !c.reported(now) {
		c.seconds, c.step, c.paceOwn, c.paceWall = c.at(now), 0, 0, 0
	} else {
		d := at.Sub(c.reportedFirst).Seconds()
		if d < 0 || d > mostLeapS {
			d = wall
		}
		c.seconds, c.step = c.seconds+d, d
		c.paceOwn, c.paceWall = paceKeeps*c.paceOwn+d, paceKeeps*c.paceWall+wall
	}
	c.reportedFirst, c.wall, c.heard = at, now, true
}

// at is the feed's time now. Between two tellings it goes on at the pace of the last few, and stays short of one step:
// what a gateway tells late, or together with what it tells next, is still told before it.
func (c *clock) at(now time.Time) float64 {
	wall := max(0, now.Sub(c.wall).Seconds())
	at := c.seconds
	switch {
	case !c.reported(now):
		at += wall
	case c.step > shortOfS:
		at += min(c.step-shortOfS, wall*c.paceOwn/max(c.paceWall, leastWallS))
	}
	c.last = max(c.last, at)
	return c.last
}
