package diagnosis

import (
	"math"

	"hevrin/core/ordering"
)

// clearing finds, once something is found, how fast each check brings down the chance that any other fault is there:
// the expected fall of its logarithm, down to where the job is done, for a minute. Settled are the faults that do not
// keep a job open: those found, and those that no look can show any more.
func (m *model) clearing(n *nearby, settled uint64, candidates []*candidate) {
	rest, _ := n.other(n.p, settled)
	if rest < restProbability {
		return
	}
	for _, c := range candidates {
		expected := 0.0
		take := func(w []float64, found uint64) {
			if left, sum := n.other(w, found); sum > 0 {
				expected += sum * math.Log(max(left/sum, restProbability))
			}
		}
		if c.again != 0 {
			missed, shown := n.splitAgain(c.again &^ settled)
			take(missed, settled)
			take(shown, settled|c.again)
		} else {
			for o, w := range n.split(c.informative) {
				take(w, settled|shownIn(c.informative, o))
			}
		}
		if falls := ordering.Difference(math.Log(rest) - expected); falls > 0 {
			c.clears = falls / c.total()
		}
	}
}

// other is the weight of the hypotheses that hold more than what was found, and that of all.
func (n *nearby) other(w []float64, found uint64) (rest, sum float64) {
	for i, h := range n.h {
		sum += w[i]
		if h.mask&^found != 0 {
			rest += w[i]
		}
	}
	return rest, sum
}

// splitAgain gives the weights where one more look misses all of the faults again, and where it shows any of them.
func (n *nearby) splitAgain(again uint64) (missed, shown []float64) {
	missed, shown = make([]float64, len(n.h)), make([]float64, len(n.h))
	for i, h := range n.h {
		missed[i] = n.p[i]
		if h.mask&again != 0 {
			missed[i] *= missedAgain
			shown[i] = n.p[i] - missed[i]
		}
	}
	return missed, shown
}

// shownIn are the faults that an outcome of findings shows for certain.
func shownIn(telling []*table, outcome int) (faults uint64) {
	for j, t := range telling {
		if outcome&(1<<j) != 0 {
			faults |= t.shows
		}
	}
	return faults
}
