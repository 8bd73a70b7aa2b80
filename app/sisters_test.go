package app_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
)

// Two engines behind one seacock: shut for the one it is shut for the other, at once and in both their jobs.
func TestASharedSeacockIsShutForBothEngines(t *testing.T) {
	s := newShop(t)
	craft := uuid.NewString()
	_, err := s.SaveCraft(s.ctx, craft, stamp(), eventlog.CraftFacts{Name: "Twin"})
	require.NoError(t, err)
	f, _ := s.Catalogue.Family(catalogue.Closed)
	engine := func(name string) string {
		id := uuid.NewString()
		_, err := s.SaveEngine(s.ctx, id, stamp(), eventlog.EngineFacts{CraftID: craft, Name: name, Family: catalogue.Closed,
			Fuel: "diesel", RatedKW: 60, RatedRPM: 3000, ThermostatC: 82, Circuit: f.Circuit, SharesSeacock: true})
		require.NoError(t, err)
		return id
	}
	port, starboard := s.job(engine("Port")), s.job(engine("Starboard"))
	s.hands(port, teardown.Act{Do: teardown.Isolate, Item: "seacock"})
	water := func(job string) enginestate.Water {
		page, err := s.Job(s.ctx, job)
		require.NoError(t, err)
		return page.State.Raw(eventlog.EngineFacts{Family: catalogue.Closed}).State
	}
	assert.Equal(t, enginestate.Shut, water(port))
	assert.Equal(t, enginestate.Shut, water(starboard))
	s.now = s.now.Add(1e9)
	s.hands(starboard, teardown.Act{Do: teardown.Lift, Item: "seacock"})
	assert.Equal(t, enginestate.Open, water(port))
	page, err := s.Job(s.ctx, port)
	require.NoError(t, err)
	assert.Empty(t, page.TeardownPage.Account.Isolated, "and its account says so")
}
