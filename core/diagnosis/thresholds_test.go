package diagnosis_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// A fault seen by a look that has rivals is found from a probability of 0.98 on, and not below: with a complaint beside
// it that is believed a little more or less, until it is found or not by a hair.
func TestFoundFromItsProbabilityOn(t *testing.T) {
	c, e := engine(t)
	crossed := 0
	for _, f := range c.Faults {
		for _, look := range f.Sure {
			if len(look.Rivals) == 0 || !slices.Contains(f.Families, catalogue.Closed) {
				continue
			}
			ask := func(beside string, q float64) (p float64, found bool) {
				a, err := e.Diagnose(diagnosis.Question{Family: catalogue.Closed, Brief: true,
					Findings: append(present(look.Finding), diagnosis.Evidence{Finding: beside, Q: q})})
				require.NoError(t, err)
				at := slices.IndexFunc(a.Suspects, func(s diagnosis.Posterior) bool { return s.Fault == f.ID })
				if at < 0 { // not on this circuit
					return 0, false
				}
				p, found = a.Suspects[at].Probability, slices.Contains(a.Found, f.ID)
				assert.Equal(t, p >= 0.98, found, "%s by %s at %g", f.ID, look.Finding, p)
				return p, found
			}
			for _, beside := range tells(c, f.ID) {
				no, yes := 0.0, 1.0
				if _, found := ask(beside, no); found {
					break
				}
				if _, found := ask(beside, yes); !found {
					continue
				}
				for range 20 {
					if _, found := ask(beside, (no+yes)/2); found {
						yes = (no + yes) / 2
					} else {
						no = (no + yes) / 2
					}
				}
				over, _ := ask(beside, yes)
				under, _ := ask(beside, no)
				assert.InDelta(t, 0.98, over, 1e-4, "%s and %s", look.Finding, beside)
				assert.InDelta(t, 0.98, under, 1e-4, "%s and %s", look.Finding, beside)
				crossed++
				break
			}
		}
	}
	assert.Positive(t, crossed)
}

// tells are the complaints that a fault makes show.
func tells(c *catalogue.Catalogue, fault string) (list []string) {
	for _, f := range c.Findings {
		if f.Source == catalogue.Complaint &&
			slices.ContainsFunc(f.Causes, func(l catalogue.Link) bool { return l.Fault == fault }) {
			list = append(list, f.ID)
		}
	}
	return list
}
