package plant_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/plant"
)

// What each fault does at 2500 rev/min in 20 °C water, against health: raw flow, vacuum before the pump, pressure
// after it, the block, the exhaust mix. -1 less, 0 the same, 1 more. Common practice (handbook 2 and 3).
func TestEveryFaultActsAsTheTradeKnows(t *testing.T) {
	type acts struct{ flow, vacuum, pressure, block, mix int }
	before, after := acts{-1, 1, -1, 1, 1}, acts{-1, -1, 1, 1, 1}
	weakPump := acts{-1, -1, -1, 1, 1}
	coolant := acts{0, 0, 0, 1, 0}
	for id, want := range map[string]acts{
		"intake-blocked": before, "seacock-restricted": before, "strainer-clogged": before, "suction-hose-collapsed": before,
		"debris-at-cooler": after, "raw-filter-clogged": after, "elbow-choked": after, "sand-in-circuit": after,
		"tubes-blocked":          after,
		"impeller-vanes-missing": weakPump, "impeller-tired": weakPump, "impeller-drive-failed": weakPump,
		"pump-worn-body": weakPump, "pump-belt-slipping": weakPump,
		"pump-not-primed": weakPump, "strainer-air-leak": weakPump, "suction-air-leak": weakPump, "pump-cover-leak": weakPump,
		"tubes-scaled": coolant, "exchanger-bypass": coolant, "coolant-side-fouled": coolant,
		"raw-hose-leak": {0, 0, 0, 0, 1}, "coolant-low": coolant, "coolant-airbound": coolant, "circ-belt-slipping": coolant,
		"circ-pump-worn":         coolant,
		"coolant-hose-collapsed": coolant, "thermostat-lazy": coolant, "thermostat-shut": coolant, "thermostat-open": {0, 0,
			0, -1, 0},
		"overloaded": {0, 0, 0, 1, 1}, "gauge-wrong": {},
	} {
		p := usual(t, 1)
		op := at(p, 2500.0/3000, 20)
		if id == "thermostat-shut" { // that opens a part of the way: it shows where all of it is needed
			op = at(p, 1, 20)
		}
		h, err := plant.Ail(plant.Fault{ID: id, Severity: 0.6})
		require.NoError(t, err)
		require.True(t, p.Shows(id), id)
		well, ill := steady(t, p, op, plant.Well()), steady(t, p, op, h)
		check := func(name string, sign int, healthy, ailing, slack float64) {
			t.Helper()
			const least = 1e-3 // more than how closely the model is solved
			switch d := ailing - healthy; sign {
			case 1:
				assert.Greater(t, d, least, "%s: %s", id, name)
			case -1:
				assert.Less(t, d, -least, "%s: %s", id, name)
			default:
				assert.InDelta(t, 0, d, slack, "%s: %s", id, name)
			}
		}
		check("raw flow", want.flow, well.RawLMin, ill.RawLMin, 1e-6)
		check("vacuum", want.vacuum, well.VacuumKPa, ill.VacuumKPa, 1e-6)
		check("pressure", want.pressure, well.PressureKPa, ill.PressureKPa, 1e-6)
		check("block", want.block, well.BlockC, ill.BlockC, 1e-6)
		check("exhaust mix", want.mix, well.Elbow.MixedC, ill.Elbow.MixedC, 1.0)
	}
	direct := usual(t, 4)
	for _, id := range []string{"block-silted", "riser-choked", "thermostat-shut"} {
		h, err := plant.Ail(plant.Fault{ID: id, Severity: 0.6})
		require.NoError(t, err)
		op := at(direct, 0.85, 20)
		assert.Greater(t, steady(t, direct, op, h).BlockC, steady(t, direct, op, plant.Well()).BlockC, id)
	}
}

func TestSeverityNoneIsHealth(t *testing.T) {
	for _, id := range plant.Physical() {
		h, err := plant.Ail(plant.Fault{ID: id, Severity: 0})
		require.NoError(t, err)
		for i := range plant.Types() {
			p := usual(t, i)
			op := at(p, 0.7, 18)
			assert.InDelta(t, steady(t, p, op, plant.Well()).BlockC, steady(t, p, op, h).BlockC, 1e-9, id)
		}
	}
}

func TestFaultsShowOnlyWhereTheirPlaceIs(t *testing.T) {
	closed, direct := usual(t, 1), usual(t, 4)
	for id, on := range map[string][2]bool{"tubes-scaled": {true, false}, "block-silted": {false, true},
		"riser-choked": {false, true}, "elbow-choked": {true, false},
		"circ-pump-worn": {true, false}, "strainer-clogged": {true, true}, "gauge-wrong": {true, true},
		"thermostat-lazy": {true, true}, "milky-oil": {false, false}} {
		assert.Equal(t, on[0], closed.Shows(id), "%s, closed", id)
		assert.Equal(t, on[1], direct.Shows(id), "%s, direct", id)
	}
	leg := plantOf(t, plant.Types()[1], slices.DeleteFunc(slices.Clone(closedCircuit),
		func(s string) bool { return s == "seacock" || s == "raw-filter" }))
	assert.False(t, leg.Shows("seacock-restricted"), "a drive leg has no seacock")
	assert.False(t, leg.Shows("raw-filter-clogged"))
}

// Faults add up: two together are at least as hot as either.
func TestTwoFaultsAreNoBetterThanOne(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawPlant(t)
		op := drawOperation(t, p)
		hot := func() plant.Fault {
			id := drawFault(t, p)
			if _, special := cools[id]; special {
				id = "overloaded"
			}
			return plant.Fault{ID: id, Severity: rapid.Float64Range(0, 0.9).Draw(t, "severity")}
		}
		a, b := hot(), hot()
		if a.ID == b.ID || plant.Pattern(a.ID) == plant.Pattern(b.ID) { // the same knob: the later one counts
			return
		}
		one, err := plant.Ail(a)
		require.NoError(t, err)
		both, err := plant.Ail(a, b)
		require.NoError(t, err)
		require.GreaterOrEqual(t, steady(t, p, op, both).BlockC, steady(t, p, op, one).BlockC-1e-4, "%v and %v", a, b)
	})
}

func TestShouldsHaveABand(t *testing.T) {
	p := usual(t, 1)
	loose, err := p.Shoulds(at(p, 0.8, 18))
	require.NoError(t, err)
	sharp, err := p.AsFitted().Shoulds(at(p, 0.8, 18))
	require.NoError(t, err)
	for i, s := range loose {
		assert.Less(t, s.SpreadK, 12.0, s.Station)
		assert.LessOrEqual(t, sharp[i].SpreadK, s.SpreadK, s.Station)
		if s.Station == "intake" {
			assert.InDelta(t, 0, s.SpreadK, 1e-9, "the sea is the sea")
		}
	}
	assert.Equal(t, 0.2, plant.UsualError("flow", plant.Bucket, 1))
	assert.Equal(t, 2.5, plant.UsualError("flow", plant.Bucket, 50))
	assert.Equal(t, 2.0, plant.UsualError("outlet", plant.Surface, 40))
	assert.Equal(t, 1.0, plant.UsualError("outlet", plant.Contact, 40))
	assert.Equal(t, 2.0, plant.UsualError("gauge", plant.Contact, 80))
}
