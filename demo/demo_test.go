package demo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app"
	"hevrin/core/catalogue"
	"hevrin/core/proving"
	"hevrin/demo"
	"hevrin/store"
)

func TestTheDemoHoldsARunThatCured(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	s, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	require.NoError(t, demo.Seed(context.Background(), c, s))
	a := app.New(c, s, time.Now)
	t.Cleanup(a.Close)
	yard, err := a.Yard(context.Background())
	require.NoError(t, err)
	signed := 0
	for _, craft := range yard {
		for _, e := range craft.Engines {
			for _, j := range e.Jobs {
				page, err := a.Job(context.Background(), j.ID)
				require.NoError(t, err)
				for _, run := range page.Proving.Runs {
					signed++
					assert.Equal(t, proving.Cured, run.Outcome, "%+v", run.Stages)
					assert.NotNil(t, run.Signed)
					assert.Contains(t, page.Repaired, "tubes-scaled", "the signature stands for what was found before it")
					assert.NotNil(t, page.Since)
					assert.Empty(t, page.Answer.Found)
					assert.NotEmpty(t, run.Gains)
					for _, g := range run.Gains {
						if g.Label == "Exchanger conductance" {
							assert.Greater(t, g.After, 1.5*g.Before)
						}
					}
				}
			}
		}
	}
	assert.Equal(t, 1, signed)
}
