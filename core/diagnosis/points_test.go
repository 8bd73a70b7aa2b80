package diagnosis_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// What restricts the raw water hardly shows at idle (handbook 9.6: the strainer choked, +0.5 K; tubes scaled, nothing): a
// "no" there leaves them suspected, a "no" under load does not.
func TestAReadingAtIdleHardlyClears(t *testing.T) {
	c, _ := engine(t)
	asked := func(e ...diagnosis.Evidence) diagnosis.Question {
		return diagnosis.Question{Family: catalogue.Closed, Findings: append(present("hot-under-load"), e...)}
	}
	odds := func(q diagnosis.Question, fault string) float64 {
		p := probability(ask(t, q), fault)
		return p / (1 - p)
	}
	cooler := func(finding, point string) diagnosis.Evidence {
		return diagnosis.Evidence{Finding: finding, Point: point}
	}
	before := odds(asked(), "strainer-clogged")
	idle := odds(asked(cooler("raw-rise-high", "idle")), "strainer-clogged")
	load := odds(asked(cooler("raw-rise-high", "load")), "strainer-clogged")
	assert.Greater(t, idle, 0.9*before)
	assert.Less(t, load, 0.7*before)
	assert.Greater(t, odds(asked(cooler("plateau-above-rating", "idle")), "tubes-scaled"),
		10*odds(asked(cooler("plateau-above-rating", "load")), "tubes-scaled"))

	// and one seen there tells of what shows there
	rise := func(point string) diagnosis.Question {
		return asked(diagnosis.Evidence{Finding: "raw-rise-high", Point: point, Q: 1})
	}
	a := ask(t, rise("idle"))
	moved := false
	for _, s := range a.Suspects {
		for _, m := range s.MovedBy {
			if m.ID == "raw-rise-high" {
				assert.Equal(t, "idle", m.Point)
				moved = true
			}
		}
	}
	assert.True(t, moved)
	assert.Greater(t, odds(rise("idle"), "impeller-vanes-missing")/odds(rise("idle"), "strainer-clogged"),
		3*odds(rise("load"), "impeller-vanes-missing")/odds(rise("load"), "strainer-clogged"))
	require.NotEmpty(t, c.Points)
}

// What was read at idle is still to be read under load; what was read under load, or is known without a point, is not read
// at idle any more.
func TestWhatIsReadAtTheHardestPointIsKnownAtAll(t *testing.T) {
	c, e := engine(t)
	all := func(check, point string) (list []diagnosis.Evidence) {
		k, _ := c.Check(check)
		for _, f := range k.Settles {
			x := diagnosis.Evidence{Finding: f}
			if len(c.PointsOf(f)) > 0 {
				x.Point = point
			}
			list = append(list, x)
		}
		return list
	}
	offered := func(check string, known []diagnosis.Evidence) bool {
		_, ok := next(ask(t, diagnosis.Question{Family: catalogue.Closed, Findings: known}), check)
		return ok
	}
	idle, load, any := all("temperatures-idle", "idle"), all("temperatures-load", "load"), all("temperatures-load", "")
	idle = append(idle, diagnosis.Evidence{Finding: "engine-heat-high", Point: "load"}) // is read under load alone
	assert.False(t, offered("temperatures-idle", idle))
	assert.True(t, offered("temperatures-load", idle))
	for _, known := range [][]diagnosis.Evidence{load, any} {
		assert.False(t, offered("temperatures-idle", known))
		assert.False(t, offered("temperatures-load", known))
	}

	q := diagnosis.Question{Family: catalogue.Closed, Findings: []diagnosis.Evidence{{Finding: "raw-rise-high", Point: "idle"},
		{Finding: "raw-rise-high", Point: "load", Q: 1}}}
	both := ask(t, q)
	q.Findings = q.Findings[1:]
	assert.Equal(t, ask(t, q).Suspects, both.Suspects, "of both the harder counts")

	for _, wrong := range []diagnosis.Evidence{{Finding: "raw-rise-high", Point: "flat-out"}, {Finding: "blades-missing",
		Point: "idle"}} {
		_, err := e.Diagnose(diagnosis.Question{Family: catalogue.Closed, Findings: []diagnosis.Evidence{wrong}})
		assert.ErrorContains(t, err, "findings[0].point", "%+v", wrong)
	}
	_, err := e.Diagnose(diagnosis.Question{Family: catalogue.Closed, Findings: []diagnosis.Evidence{
		{Finding: "raw-rise-high", Point: "idle"}, {Finding: "raw-rise-high", Point: "idle", Q: 1}}})
	assert.ErrorContains(t, err, "given twice")
}
