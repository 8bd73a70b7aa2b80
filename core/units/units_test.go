package units_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/units"
	"hevrin/reference"
)

// Against pint, a units library that is not ours (reference/tables/units.csv).
func TestFactorsAreThoseOfAnOutsideLibrary(t *testing.T) {
	for _, r := range reference.Rows("units") {
		u, err := units.Find(r["unit"])
		require.NoError(t, err)
		want := r.Number("in_base_unit")
		assert.InDelta(t, want, u.ToBase(r.Number("value")), 1e-6*max(1, want), "%s %s", r["value"], u.ID)
	}
}

// NIST Special Publication 811 (2008), appendix B.8; inch, pound, gallon and metric horsepower are exact there.
func TestFactorsOfNIST(t *testing.T) {
	for id, want := range map[string]float64{"gal-us": 3.785412, "gal-imp": 4.54609, "psi": 6.894757, "inHg": 3.386389, "lbf ft": 1.355818,
		"hp":        0.7456999,
		"hp-metric": 0.7354988, "in": 25.4, "ft": 304.8, "lb": 0.45359237, "gal-us/min": 60 * 6.309020e-2} {
		assert.InEpsilon(t, want, units.Must(id).Factor, 1e-6, id)
	}
}

func TestReadUnderstandsWhatPeopleType(t *testing.T) {
	for _, c := range []struct {
		text, in   string
		system     units.System
		value, err float64
	}{
		{"160F", "degC", units.Metric, 71.1111, 0},
		{"160 °F", "degC", units.Metric, 71.1111, 0},
		{"71", "degC", units.US, 71, 0},
		{"344.26 K", "degC", units.Metric, 71.11, 0},
		{"−1.5", "degC", units.Metric, -1.5, 0},
		{"12 gpm", "L/min", units.US, 45.4249, 0},
		{"12 gpm", "L/min", units.Imperial, 54.5531, 0},
		{"12 imp gpm", "L/min", units.US, 54.5531, 0},
		{"10 gal/min", "L/min", units.Metric, 37.8541, 0},
		{"2700 l/h", "L/min", units.Metric, 45, 0},
		{"3/8 in", "mm", units.Metric, 9.525, 0},
		{"1 1/2\"", "mm", units.Metric, 38.1, 0},
		{"1-1/2 in", "mm", units.Metric, 38.1, 0},
		{"12,5", "mm", units.Metric, 12.5, 0},
		{".5 in", "mm", units.Metric, 12.7, 0},
		{"60 ± 1 °C", "degC", units.Metric, 60, 1},
		{"140 +/- 1.8 F", "degC", units.Metric, 60, 1},
		{"12 gpm ± 0.5", "L/min", units.US, 45.4249, 1.892706},
		{"60 °C ± 1.8 °F", "degC", units.US, 60, 1},
		{"1:30", "s", units.Metric, 90, 0},
		{"1:00:05", "s", units.Metric, 3605, 0},
		{"1:30", "min", units.Metric, 1.5, 0},
		{"80 hp", "kW", units.Metric, 59.656, 0},
		{"80 PS", "kW", units.Metric, 58.84, 0},
		{"6 inHg", "kPa", units.Metric, 20.3183, 0},
		{"2 lb", "g", units.Metric, 907.185, 0},
		{"1e3", "W/K", units.Metric, 1000, 0},
		{"10 F", "K", units.Metric, 5.5556, 0},
	} {
		got, err := units.Read(c.text, units.Must(c.in), c.system)
		require.NoError(t, err, c.text)
		assert.InDelta(t, c.value, got.Value, 1e-3*max(1, c.value)/10, c.text)
		assert.InDelta(t, c.err, got.Error, 1e-6, c.text)
	}
}

func TestReadSaysWhatToDo(t *testing.T) {
	for text, says := range map[string]string{
		"":        "nothing was typed",
		"NaN":     "not a number",
		"Inf":     "not a number",
		"1e999":   "can be computed with",
		"1/0":     "can be computed with",
		"warm":    "not a number",
		"60 ± x":  "not a number",
		"12 gpm":  "measures volume-flow",
		"12 wigs": "is not known here",
		"12 13":   "is not known here",
	} {
		_, err := units.Read(text, units.Must("degC"), units.Metric)
		assert.ErrorContains(t, err, says, text)
	}
}

func TestUnitsThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		u := rapid.SampledFrom(units.Units()).Draw(t, "unit")
		v := rapid.Float64Range(-1e6, 1e6).Draw(t, "value")
		require.InDelta(t, v, u.FromBase(u.ToBase(v)), 1e-6)
		to := units.Preferred(u.Dimension, rapid.SampledFrom(units.Systems).Draw(t, "system"))
		there, err := units.Convert(v, u, to)
		require.NoError(t, err)
		back, err := units.Convert(there, to, u)
		require.NoError(t, err)
		require.InDelta(t, v, back, 1e-6)
	})
	_, err := units.Convert(1, units.Must("mm"), units.Must("kW"))
	assert.ErrorContains(t, err, "do not convert")
}

func TestShownAsKeepsToTheHabitOfTheSystem(t *testing.T) {
	for _, c := range []struct {
		id     string
		system units.System
		want   string
	}{{"degC", units.US, "degF"}, {"degC", units.Imperial, "degC"}, {"L/min", units.US, "gal-us/min"},
		{"L/min", units.Imperial, "gal-imp/min"},
		{"L/h", units.US, "gal-us/h"}, {"min", units.US, "min"}, {"h", units.US, "h"}, {"g", units.Metric, "g"},
		{"mm", units.US, "in"},
		{"K", units.US, "F-diff"}, {"kW", units.US, "hp"}, {"percent", units.US, "percent"}} {
		assert.Equal(t, c.want, units.Must(c.id).ShownAs(c.system).ID, "%s in %s", c.id, c.system)
	}
}

func TestShowKeepsTwoFigures(t *testing.T) {
	for want, got := range map[string]string{"71.1 °C": units.Must("degC").Show(71.111),
		"0.000190 m² K/W": units.Must("m2 K/W").Show(0.000190), "3": units.Must("1").Show(3),
		"2769 kg/h": units.Must("kg/h").Show(2768.55), "0.0 °C": units.Must("degC").Show(-1e-12)} {
		assert.Equal(t, want, got)
	}
}

// Every way to write a unit leads to that unit, and to no other of its dimension.
func TestEveryWrittenFormLeadsHome(t *testing.T) {
	for _, u := range units.Units() {
		for _, w := range append([]string{u.ID, u.Symbol}, u.Written...) {
			if w == "" || u.Dimension == units.None || u.Dimension == units.Money || u.Dimension == units.MoneyRate {
				continue
			}
			got, err := units.Read("1 "+w, u, units.US)
			require.NoError(t, err, "%s as %q", u.ID, w)
			assert.InDelta(t, 1, got.Value, 1e-9, "%s as %q", u.ID, w)
		}
	}
}
