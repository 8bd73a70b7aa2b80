package plant_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/plant"
	"hevrin/core/units"
	"hevrin/core/validation"
)

func limits(t require.TestingT, p plant.Plant, op plant.Operation, h plant.Health) plant.Limits {
	l, err := p.Limits(op, h, p.AlarmC)
	require.NoError(t, err)
	return l
}

// At the sea temperature and the speed that are told, it stands at the alarm; and each is where it crosses.
func TestLimitsStandAtTheAlarm(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawPlant(t)
		op := drawOperation(t, p)
		h, err := plant.Ail(plant.Fault{ID: drawFault(t, p), Severity: rapid.Float64Range(0, 0.9).Draw(t, "severity")})
		require.NoError(t, err)
		l := limits(t, p, op, h)
		require.InDelta(t, l.AlarmC-l.Is.BlockC, l.MarginK, 1e-9)
		if l.SeaC != nil && *l.SeaC > 0 {
			there := op
			there.SpaceC += *l.SeaC - op.SeaC
			there.SeaC = *l.SeaC
			require.InDelta(t, l.AlarmC, steady(t, p, there, h).BlockC, 0.05)
		}
		if l.RPM != nil && *l.RPM > 0.15*p.Engine.RatedRPM+1 {
			there := op
			there.RPM = *l.RPM
			require.InDelta(t, l.AlarmC, steady(t, p, there, h).BlockC, 0.05)
		}
		require.Equal(t, l.MarginK < 0, l.Spare < 0, "past the alarm, nothing is spare")
		if l.AlarmS != nil && l.MarginK <= 0 {
			require.Zero(t, *l.AlarmS)
		}
	})
}

func TestScaleEatsTheMargin(t *testing.T) {
	p := usual(t, 1)
	op := at(p, 0.9, 18)
	before := limits(t, p, op, plant.Well())
	assert.Zero(t, before.Gone())
	assert.Nil(t, before.SeaC, "a healthy engine stands any sea at cruise")
	last := before
	for _, ua := range []float64{0.8, 0.6, 0.45} {
		h := plant.Well()
		h.UA = ua
		l := limits(t, p, op, h)
		assert.Less(t, l.Spare, last.Spare)
		assert.Greater(t, l.Gone(), last.Gone())
		last = l
	}
	assert.NotNil(t, last.SeaC, "with less than half of it, some sea is too warm")
}

// By hand: without water 175 kJ/K from about 84 to 97 °C at some 25 kW of heat takes about a minute and a half.
func TestTimeToTheAlarm(t *testing.T) {
	p := usual(t, 1)
	l := limits(t, p, at(p, 0.8, 18), plant.Well())
	require.NotNil(t, l.AlarmS)
	assert.InDelta(t, 100, *l.AlarmS, 30)
	idle := limits(t, p, at(p, 0.3, 18), plant.Well())
	require.NotNil(t, idle.AlarmS)
	assert.Greater(t, *idle.AlarmS, 3**l.AlarmS, "idling, it takes longer")
}

func TestAnAlarmThatCannotBe(t *testing.T) {
	p := usual(t, 1)
	for _, c := range []float64{60, 82, 115, 200} {
		_, err := p.Limits(at(p, 0.8, 18), plant.Well(), c)
		var wrong validation.Errors
		require.ErrorAs(t, err, &wrong)
		assert.Equal(t, "alarm_c", wrong[0].Field)
	}
	_, err := p.Limits(at(p, 2, 18), plant.Well(), 97)
	assert.Error(t, err)
}

// An engine's own alarm goes before what is usual; it lies over the thermostat's rating and under boiling.
func TestAnEnginesOwnAlarm(t *testing.T) {
	p := usual(t, 1)
	assert.InDelta(t, p.ThermostatC+15, p.AlarmC, 1e-12)
	facts := plant.EngineFacts{Family: plant.Closed, Fuel: plant.Diesel, RatedKW: 60, RatedRPM: 3000, ThermostatC: 82,
		Circuit: p.Circuit}
	for c, fits := range map[float64]bool{84.9: false, 85: true, 93: true, 114: true, 114.1: false} {
		facts.AlarmC = c
		own, err := plant.New(facts)
		var wrong validation.Errors
		if !fits {
			require.ErrorAs(t, err, &wrong, "%g", c)
			assert.Equal(t, "cooling.alarm_c", wrong[0].Field)
			continue
		}
		require.NoError(t, err, "%g", c)
		assert.InDelta(t, c, own.AlarmC, 1e-12)
		assert.Less(t, *limits(t, own, at(own, 0.8, 18), plant.Well()).AlarmS+1e-9, 3600.0)
		for _, f := range own.Facts(facts) {
			if f.ID == "alarm_c" {
				assert.Equal(t, plant.Given, f.From)
			}
		}
	}
	v8 := plant.TypeFor(plant.Closed, plant.Petrol, plant.Natural, 150)
	assert.InDelta(t, 95, v8.UsualAlarmC(71), 1e-12, "93 to 96 °C is usual for a closed petrol V8 (from memory)")
	assert.InDelta(t, 95, v8.UsualAlarmC(91.9), 1e-12)
	assert.InDelta(t, 107, v8.UsualAlarmC(92), 1e-12, "with a warmer thermostat it would sound in every warm-up")
	direct := plant.TypeFor(plant.Direct, plant.Diesel, plant.Natural, 15)
	assert.InDelta(t, 75, direct.UsualAlarmC(60), 1e-12, "15 over the rating")
	assert.InDelta(t, 95, direct.UsualAlarmC(80), 1e-12)
	assert.InDelta(t, 95, direct.UsualAlarmC(88), 1e-12, "open raw water boils at 100 °C: it sounds before the steam")
	assert.InDelta(t, 110, plant.TypeFor(plant.Closed, plant.Diesel, plant.Natural, 60).UsualAlarmC(98), 1e-12,
		"a capped circuit at 115 °C")
	for thermostat, why := range map[float64]string{60: "15 °C over the thermostat's rating", 88: "5 °C under boiling"} {
		held := facts
		held.Family, held.ThermostatC, held.AlarmC = plant.Direct, thermostat, 0
		made, err := plant.New(held)
		require.NoError(t, err)
		at := slices.IndexFunc(made.Facts(held), func(f plant.Fact) bool { return f.ID == "alarm_c" })
		assert.Contains(t, made.Facts(held)[at].Why.In(units.Metric), why)
	}
	raw := facts
	raw.Family, raw.ThermostatC, raw.AlarmC = plant.Direct, 60, 99.5
	_, err := plant.New(raw)
	assert.Error(t, err, "raw water boils at 100 °C")
}

func BenchmarkLimits(b *testing.B) {
	p := usual(b, 1)
	for b.Loop() {
		limits(b, p, at(p, 0.9, 18), plant.Well())
	}
}

// With the gauge alone high, the thermostat's own temperature tells the gauge from the rest; with everything read and
// plain, nothing more is asked for.
func TestWhatFurtherReadingTellsMost(t *testing.T) {
	p := usual(t, 1)
	h := plant.Well()
	h.Gauge = 12
	op := at(p, 0.8, 18)
	rep, err := p.Judge([]plant.Round{roundAt(t, p, op, h, "gauge")})
	require.NoError(t, err)
	require.NotEmpty(t, rep.Next)
	var stations []string
	assert.Contains(t, rep.Next[0].Between, "gauge-off")
	assert.Greater(t, rep.Next[0].Bits, 0.5)
	for i, n := range rep.Next {
		assert.LessOrEqual(t, n.Bits, rep.Next[0].Bits)
		assert.NotEqual(t, "gauge", n.Station, "it was read (%d)", i)
		stations = append(stations, n.Station)
	}
	assert.Contains(t, stations, "thermostat")
	scaled, err := plant.Ail(plant.Fault{ID: "tubes-scaled", Severity: 0.8})
	require.NoError(t, err)
	full := judge(t, p, scaled, everywhere...)
	assert.Empty(t, full.Next)
}

// While the thermostat hides a weak exchanger at part load, what is asked for is a reading at full speed or round the
// exchanger, and it names the pattern that it would tell.
func TestTheNextReadingParts(t *testing.T) {
	p := usual(t, 1)
	h := plant.Well()
	h.Raw = 0.6
	rep, err := p.Judge([]plant.Round{roundAt(t, p, at(p, 0.9, 20), h, "raw-hoses", "thermostat")})
	require.NoError(t, err)
	require.NotEmpty(t, rep.Next)
	assert.Equal(t, "flow", rep.Next[0].Station, "a warm raw outlet: is it too little water or too much heat?")
	assert.Contains(t, rep.Next[0].Between, "raw-flow-low")
}
