package diagnosis_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/diagnosis"
)

// A fault is found from a probability of 0.97 on, seen by its sure look, and not below: over every sure look there is.
func TestFoundFromItsProbabilityOn(t *testing.T) {
	c, _ := engine(t)
	found, missed := 0, 0
	for _, family := range c.Families {
		for _, f := range c.Faults {
			for _, look := range f.Sure {
				a, err := diagnosis.New(c).Diagnose(diagnosis.Question{Family: family.ID, Findings: present(look.Finding)})
				if err != nil { // not on this family's circuit
					continue
				}
				for _, s := range a.Suspects {
					if s.Fault != f.ID || !slices.Contains(f.Families, family.ID) && len(f.Families) > 0 {
						continue
					}
					is := slices.Contains(a.Found, f.ID)
					assert.Equal(t, s.Probability >= 0.97, is, "%s by %s at %g", f.ID, look.Finding, s.Probability)
					if is {
						found++
					} else {
						missed++
					}
				}
			}
		}
	}
	assert.Positive(t, found)
	assert.Positive(t, missed)
}
