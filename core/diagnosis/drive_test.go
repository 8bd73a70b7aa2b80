package diagnosis_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// A belt is asked about only where something can be driven by one: what turns the pump is a fact of the engine.
func TestABeltIsNoSuspectOfAPumpThatHasNone(t *testing.T) {
	suspected := func(drive string) (belt bool) {
		a := ask(t, diagnosis.Question{Family: catalogue.Closed, PumpDrive: drive,
			Findings: present("weak-water-at-outlet", "belt-squeal-or-dust")})
		for _, s := range a.Suspects {
			belt = belt || s.Fault == "pump-belt-slipping"
		}
		return belt
	}
	for drive, has := range map[string]bool{"": true, "belt": true, "gear": false, "crank": false, "cam": false} {
		assert.Equal(t, has, suspected(drive), drive)
	}
	c, e := engine(t)
	_, err := e.Diagnose(diagnosis.Question{Family: catalogue.Closed, PumpDrive: "sail"})
	require.ErrorContains(t, err, "pump_drive")
	// the circulation pump has a belt of its own, and the look at it stays
	a := ask(t, diagnosis.Question{Family: catalogue.Closed, PumpDrive: "gear", Findings: present("belt-squeal-or-dust")})
	assert.Equal(t, "circ-belt-slipping", a.Suspects[0].Fault)
	f, _ := c.Fault("pump-belt-slipping")
	assert.Equal(t, "belt", f.Drive)
}
