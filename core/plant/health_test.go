package plant_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/plant"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// roundAt reads an ailing engine without noise, with the errors of usual instruments.
func roundAt(t require.TestingT, p plant.Plant, op plant.Operation, h plant.Health, stations ...string) plant.Round {
	s := steady(t, p, op, h)
	r := plant.Round{Operation: op, RanMin: 1000} // at rest
	for _, name := range stations {
		switch name {
		case "flow":
			r.Reads = append(r.Reads, plant.Read{Station: name, Value: s.RawLMin, Error: 0.05*s.RawLMin + 0.1})
			continue
		case "gauge":
			r.Reads = append(r.Reads, plant.Read{Station: name, Value: s.GaugeC, Error: 2})
			continue
		}
		for _, x := range s.Readings {
			if x.Station == name {
				r.Reads = append(r.Reads, plant.Read{Station: name, Side: x.Side, Value: x.TempC, Error: 1})
			}
		}
	}
	return r
}

var everywhere = []string{"flow", "gauge", "thermostat", "exchanger", "raw-hoses", "outlet", "coolant-hoses"}

func judge(t require.TestingT, p plant.Plant, h plant.Health, stations ...string) plant.HealthReport {
	rep, err := p.Judge([]plant.Round{roundAt(t, p, at(p, 0.3, 18), h, stations...), roundAt(t, p, at(p, 1, 18), h,
		stations...)})
	require.NoError(t, err)
	return rep
}

func figureOf(t *testing.T, r plant.HealthReport, id string) plant.Figure {
	t.Helper()
	for _, f := range r.Figures {
		if f.ID == id {
			return f
		}
	}
	t.Fatalf("there is no figure %s", id)
	return plant.Figure{}
}

// No fault, no finding: every healthy engine of every type, read without noise, raises nothing.
func TestNoFaultNoFinding(t *testing.T) {
	for i, y := range plant.Types() {
		rep := judge(t, usual(t, i), plant.Well(), everywhere...)
		for _, f := range rep.Findings {
			assert.Less(t, f.Ratio, plant.SaysLeaning, "%s raises %s", y.ID, f.ID)
		}
		for _, f := range rep.Figures {
			assert.InDelta(t, f.Healthy, f.Value, 0.02, "%s: %s", y.ID, f.ID)
		}
	}
}

func TestTheFiguresComeBack(t *testing.T) {
	for _, c := range []struct {
		id    string
		set   func(*plant.Health)
		is    float64
		close float64
	}{
		{"raw-flow", func(h *plant.Health) { h.Raw = 0.6 }, 0.6, 0.06},
		{"ua", func(h *plant.Health) { h.UA = 0.6 }, 0.6, 0.08},
		{"coolant-flow", func(h *plant.Health) { h.CoolantFlow = 0.6 }, 0.6, 0.1},
		{"heat", func(h *plant.Health) { h.Heat = 1.2 }, 1.2, 0.08},
		{"thermostat", func(h *plant.Health) { h.ThermostatShift = 5 }, 5, 1},
		{"gauge", func(h *plant.Health) { h.Gauge = 8 }, 8, 1.5},
	} {
		h := plant.Well()
		c.set(&h)
		f := figureOf(t, judge(t, usual(t, 1), h, everywhere...), c.id)
		assert.InDelta(t, c.is, f.Value, c.close, c.id)
		assert.True(t, f.Known, c.id)
	}
}

// At idle most restrictions hardly show (handbook 9.6: the raw rise with the strainer choked is 0.5 K more), under load
// they do; a pump that moves nothing shows anywhere, and its pattern can be judged at idle all the same.
func TestWhatHardlyShowsIsTold(t *testing.T) {
	p := usual(t, 1)
	seen := func(share float64) plant.HealthReport {
		rep, err := p.Judge([]plant.Round{roundAt(t, p, at(p, share, 15), plant.Well(), everywhere...)})
		require.NoError(t, err)
		return rep
	}
	idle, full := seen(0.27), seen(1)
	assert.Contains(t, idle.Hidden, "strainer-clogged")
	assert.NotContains(t, idle.Weak, "raw-flow-low")
	assert.Contains(t, idle.Hidden, "circ-pump-worn")
	assert.NotContains(t, full.Hidden, "circ-pump-worn")
	for _, rep := range []plant.HealthReport{idle, full} {
		assert.NotContains(t, rep.Hidden, "pump-not-primed")
		assert.NotContains(t, rep.Hidden, "thermostat-open")
	}
	assert.Less(t, len(full.Hidden), len(idle.Hidden))
}

// What the readings cannot tell apart comes out wide, and is said to be so.
func TestWhatCannotBeToldIsWide(t *testing.T) {
	p := usual(t, 1)
	rep, err := p.Judge([]plant.Round{roundAt(t, p, at(p, 0.3, 15), plant.Well(), "gauge")})
	require.NoError(t, err)
	for _, id := range []string{"raw-flow", "ua", "coolant-flow", "heat"} {
		assert.False(t, figureOf(t, rep, id).Known, id)
	}
	assert.Contains(t, rep.Weak, "exchanger-weak")
	assert.Contains(t, units.Join(rep.Words, " ").String(), "Not to be judged from these readings: raw flow, exchanger")
	for _, f := range rep.Findings {
		assert.Less(t, f.Ratio, plant.SaysFound, f.ID)
	}
}

func TestFaultsAreFoundWithTheirTwins(t *testing.T) {
	p := usual(t, 1)
	for id, want := range map[string][2]string{"impeller-vanes-missing": {"raw-flow-low", "raw-flow-low"},
		"tubes-scaled":       {"exchanger-weak", "exchanger-weak"},
		"circ-belt-slipping": {"coolant-flow-low", "coolant-drop-high"}, "thermostat-open": {"thermostat-open",
			"plateau-below-rating"},
		"thermostat-lazy": {"thermostat-late", "plateau-above-rating"}, "overloaded": {"heat-high", "engine-heat-high"},
		"gauge-wrong":   {"gauge-off", "gauge-off"},
		"raw-hose-leak": {"raw-water-lost", "exhaust-mix-hot"}} {
		// losing half of it hardly warms the hose
		h, err := plant.Ail(plant.Fault{ID: id, Severity: map[bool]float64{true: 0.95, false: 0.6}[id == "raw-hose-leak"]})
		require.NoError(t, err)
		rep := judge(t, p, h, everywhere...)
		assert.Equal(t, want[0], rep.Patterns[0].ID, id)
		assert.Greater(t, rep.Patterns[0].Ratio, plant.SaysFound, id)
		assert.Equal(t, want[0], plant.Pattern(id))
		for _, f := range rep.Findings {
			if f.ID == want[1] {
				assert.Greater(t, f.Ratio, plant.SaysLeaning, "%s should show %s", id, f.ID)
				assert.Greater(t, f.Normalised(), 0.8)
			}
		}
	}
	assert.Equal(t, "", plant.Pattern("milky-oil"))
}

// What one fault explains is not laid at another's door.
func TestOneFaultDoesNotAccuseAnother(t *testing.T) {
	h, err := plant.Ail(plant.Fault{ID: "tubes-scaled", Severity: 0.7})
	require.NoError(t, err)
	for _, f := range judge(t, usual(t, 1), h, everywhere...).Findings {
		if f.ID == "raw-flow-low" || f.ID == "gauge-off" || f.ID == "engine-heat-high" {
			assert.Less(t, f.Ratio, 1.0, f.ID)
		}
	}
}

func TestABaselineMakesTheJudgementSharper(t *testing.T) {
	p := usual(t, 1)
	h := plant.Well()
	h.UA = 0.8
	rounds := []plant.Round{roundAt(t, p, at(p, 1, 22), h, everywhere...)}
	loose, err := p.Judge(rounds)
	require.NoError(t, err)
	sharp, err := p.AsFitted().Judge(rounds)
	require.NoError(t, err)
	assert.Less(t, figureOf(t, sharp, "ua").Error, figureOf(t, loose, "ua").Error)
	ratio := func(r plant.HealthReport) float64 {
		for _, f := range r.Findings {
			if f.ID == "exchanger-weak" {
				return f.Ratio
			}
		}
		return 0
	}
	assert.Greater(t, ratio(sharp), ratio(loose))
}

func TestRoundsThatCannotBeAreRefused(t *testing.T) {
	p := usual(t, 1)
	good := plant.Read{Station: "thermostat", Value: 84, Error: 1}
	for field, rounds := range map[string][]plant.Round{
		"rounds":                  nil,
		"rounds[0].readings":      {{Operation: at(p, 0.8, 15)}},
		"rounds[0].operation.rpm": {{Operation: at(p, 1.5, 15), Reads: []plant.Read{good}}},
		"rounds[0].readings[1].error": {{Operation: at(p, 0.8, 15), Reads: []plant.Read{good, {Station: "flow",
			Value: 40}}}},
		"rounds[0].readings[0].value": {{Operation: at(p, 0.8, 15), Reads: []plant.Read{{Station: "flow", Value: -4,
			Error: 1}}}},
		"rounds[0].readings[0].station": {{Operation: at(p, 0.8, 15), Reads: []plant.Read{{Station: "mast", Value: 20,
			Error: 1}}}},
	} {
		_, err := p.Judge(rounds)
		var wrong validation.Errors
		require.ErrorAs(t, err, &wrong, field)
		assert.Equal(t, field, wrong[0].Field)
	}
}

func BenchmarkJudge(b *testing.B) {
	p := usual(b, 1)
	h := plant.Well()
	h.UA = 0.6
	rounds := []plant.Round{roundAt(b, p, at(p, 0.3, 18), h, everywhere...), roundAt(b, p, at(p, 1, 18), h, everywhere...)}
	for b.Loop() {
		if _, err := p.Judge(rounds); err != nil {
			b.Fatal(err)
		}
	}
}
