package app_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/wetwork"
)

// Before and after a descaling: the gain is told from the readings with their error, and none is called none;
// afterwards the engine counts as descaled.
func TestTheGainOfADescaling(t *testing.T) {
	for name, c := range map[string]struct {
		before, after float64
		better        bool
	}{"a real one": {0.55, 1, true}, "none": {0.97, 1, false}} {
		s := newShop(t)
		port, _, job, _ := twins(t, s)
		weak := plant.Well()
		weak.UA = c.before
		work := uuid.NewString()
		do := func(a wetwork.Act) {
			a.Work = work
			_, err := s.NoteInJob(s.ctx, job, eventlog.WetworkNoted, stamp(), eventlog.Body{Wetwork: &a})
			require.NoError(t, err)
		}
		_, err := s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), readAt(t, 2800, weak, nil))
		require.NoError(t, err)
		do(wetwork.Act{Do: wetwork.PlanIt, Kind: wetwork.Descale, Descale: &wetwork.DescalePlan{Place: wetwork.InPlace,
			Product: wetwork.Products[0], TargetPercent: 10, Loop: []string{"exchanger"},
			Materials: map[string][]string{"exchanger": {"copper-alloy"}}, TankL: 30, BathL: 18, Minutes: 60}})
		do(wetwork.Act{Do: wetwork.Begin})
		p, err := s.Job(s.ctx, job)
		require.NoError(t, err)
		assert.NotEmpty(t, p.Wetwork.Works[0].GainMissing)
		do(wetwork.Act{Do: wetwork.End})
		healed := plant.Well()
		healed.UA = c.after
		p, err = s.NoteInJob(s.ctx, job, eventlog.RoundTaken, stamp(), readAt(t, 2800, healed, nil))
		require.NoError(t, err)
		require.NotEmpty(t, p.Wetwork.Works[0].Gains, name)
		g := p.Wetwork.Works[0].Gains[0]
		assert.Equal(t, c.better, g.Better, "%s: %+v", name, g)
		assert.InDelta(t, c.before, g.Before, 0.08)
		assert.False(t, g.Worse)
		page, err := s.Engine(s.ctx, port)
		require.NoError(t, err)
		assert.Equal(t, wetwork.Descale, page.Jobs[0].Works[0].Kind)
	}
}
