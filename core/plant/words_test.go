package plant

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a fault is to a complaint of ten degrees, at the edges: all of it from the least on, part of it from a quarter on.
func TestWhatAFaultIsToAComplaint(t *testing.T) {
	for _, tc := range []struct {
		healthy, least, most float64
		want                 Sufficiency
	}{
		{80, 90, 95, EnoughAlone}, {80, 89.9, 95, HangsOnIt}, {80, 82.5, 89.9, PartOfIt}, {80, 82.4, 89.9, HangsOnIt},
		{80, 82.5, 90, HangsOnIt}, {80, 80, 82.5, HangsOnIt}, {80, 80, 82.4, NotEnough}, {80, 81, 90, HangsOnIt},
		{90, 99, 99, CannotSay}, {91, 99, 99, CannotSay}, {89.9, 90, 90, EnoughAlone},
	} {
		x := Explained{Verdict: CannotSay, HealthyC: tc.healthy, LeastC: tc.least, MostC: tc.most, ToC: 90}
		x.judge()
		assert.Equal(t, tc.want, x.Verdict, "%+v", tc)
	}
}

func TestWhatAFaultIsToAComplaintInWords(t *testing.T) {
	op, elbow := Operation{RPM: 2600, SeaC: 18}, extents["elbow-choked"]
	one := "20 % of the bore's width gone costs this engine 1 °C at 2600 rev/min in a sea of 18 °C"
	some := "20 to 80 % of the bore's width gone costs this engine 1 to 9 °C at 2600 rev/min in a sea of 18 °C"
	for _, tc := range []struct {
		verdict    Sufficiency
		most, from float64
		want       string
	}{
		{EnoughAlone, 0.2, 0, one + ": enough by itself (10 °C are to be explained)"},
		{PartOfIt, 0.2, 0, one + ": part of it (10 °C are to be explained)"},
		{HangsOnIt, 0.2, 0, one + ": part of it (10 °C are to be explained)"},
		{NotEnough, 0.2, 0, one + ": not what overheated it (10 °C are to be explained)"},
		{CannotSay, 0.2, 0, one + ", and in health it is as hot there: the model cannot say"},
		{HangsOnIt, 0.8, 0.36, some + ": enough by itself from about 36 % on. How much was it?"},
		{HangsOnIt, 0.8, math.NaN(), some + ": at most part of it (10 °C are to be explained). How much was it?"},
		{PartOfIt, 0.8, 0.36, some + ": at most part of it (10 °C are to be explained). How much was it?"},
		{EnoughAlone, 0.8, 0, some + ": enough by itself"},
		{NotEnough, 0.8, 0, some + ": not what overheated it (10 °C are to be explained)"},
		{CannotSay, 0.8, 0, some + ", and in health it is as hot there: the model cannot say"},
	} {
		x := Explained{Verdict: tc.verdict, HealthyC: 80, LeastC: 81, MostC: 89, ToC: 90, From: tc.from}
		assert.Equal(t, tc.want, x.words(op, elbow, 0.2, tc.most).String())
	}
}

// Extents worked by hand: half a passage shut multiplies its drop by 4, half a bore gone by 16, of the 400 of one all but
// shut; half of 0.85 of the tubes; a crust that fills half a bore of 6 mm is 0.879 mm thick, 0.586e-3 m² K/W, and takes
// 1/1.879 of the conductance of which 0.12 is the worst.
func TestHowFarAFaultHasGone(t *testing.T) {
	for fault, want := range map[string]float64{"strainer-clogged": math.Log(4) / math.Log(400),
		"elbow-choked": math.Log(16) / math.Log(400), "tubes-blocked": 0.5 / 0.85, "impeller-tired": 0.5,
		"tubes-scaled": math.Log(1.8787) / math.Log(1/0.12)} {
		x, ok := ExtentOf(fault)
		require.True(t, ok, fault)
		assert.InDelta(t, want, x.Severity(0.5), 1e-4, fault)
		assert.InDelta(t, 0, x.Severity(0), 1e-12, fault)
	}
	for _, fault := range []string{"elbow-choked", "riser-choked", "tubes-scaled"} { // by a third or more, as it is asked
		x, _ := ExtentOf(fault)
		assert.InDelta(t, 1.0/3, x.Least, 1e-12, fault)
	}
	x, _ := ExtentOf("tubes-blocked")
	assert.InDelta(t, 1, x.Severity(0.9), 0, "no worse than all")
	x, _ = ExtentOf("elbow-choked")
	assert.InDelta(t, 1, x.Severity(0.9), 0)
}

// Readings that may be slips, at the edge of each question.
func TestWhatMayBeASlip(t *testing.T) {
	s := State{RawLMin: 50, GaugeC: 82, Readings: []Reading{{Station: "raw-hoses", Side: "raw", TempC: 30},
		{Station: "outlet", Side: "raw", TempC: 45}, {Station: "thermostat", Side: "coolant", TempC: 84}}}
	raw := func(v float64) Read { return Read{Station: "raw-hoses", Side: "raw", Value: v} }
	coolant := func(v float64) Read { return Read{Station: "thermostat", Side: "coolant", Value: v} }
	for _, tc := range []struct {
		read    Read
		hottest float64 // 0: not read
		want    string
	}{
		{Read{Station: "flow", Value: 100}, 0, ""},
		{Read{Station: "flow", Value: 101}, 0, "101 L/min is twice what this pump moves: is it L/min?"},
		{Read{Station: "nowhere", Value: 500}, 0, ""},
		{raw(60), 60, ""},
		{raw(61), 60, "raw water of 61 °C, hotter than the coolant's 60 °C: are the two swapped?"},
		{raw(61), 0, ""},
		{Read{Station: "outlet", Side: "raw", Value: 75}, 60, ""},
		{coolant(129), 0, ""},
		{coolant(183), 0, "183 is far over what is read there: was it °F? That would be 84 °C"},
		{coolant(218), 0, "218 is far over what is read there: was it °F? That would be 103 °C"},
		{coolant(219.3), 0, ""}, // 104 °C: twenty off as well
		{raw(14), 0, ""},
		{raw(11.9), 0, "12 °C is colder than the sea's 15 °C: read it again?"},
		{raw(12), 0, ""},
		{coolant(15), 0, ""},
		{coolant(14.9), 0, "coolant of 15 °C, colder than the sea: is it the raw side?"},
		{Read{Station: "gauge", Side: "coolant", Value: 10}, 0, ""},
	} {
		assert.Equal(t, tc.want, s.doubt(tc.read, 15, tc.hottest, tc.hottest > 0).String(), "%+v", tc.read)
	}
}

// The information of a reading, worked by hand: patterns of 0.4, 0.4 and 0.2 that would read 10, 14 and 12 ± 1 apart from
// each other with an error of 1: the mean is 12, between them 0.8·4 = 3.2, within 1: ½ log₂ 4.2.
func TestTheInformationOfAReading(t *testing.T) {
	list := []weighed{{Healthy, Well(), 0.4}, {"a", Well(), 0.4}, {"b", Well(), 0.2}}
	values := []float64{10, 14, 12}
	bits, parted := information(list, func(i int) float64 { return values[i] }, 1)
	assert.InDelta(t, 0.5*math.Log2(4.2), bits, 1e-12)
	assert.Equal(t, [2]string{Healthy, "a"}, parted)

	// a pattern at two severities that read 12 and 16: its variance of 4 counts within, 0.4·4 + 1
	list = []weighed{{Healthy, Well(), 0.6}, {"a", Well(), 0.2}, {"a", Well(), 0.2}}
	values = []float64{10, 12, 16}
	bits, _ = information(list, func(i int) float64 { return values[i] }, 1)
	mean := 0.6*10 + 0.4*14
	between := 0.6*square(10-mean) + 0.4*square(14-mean)
	assert.InDelta(t, 0.5*math.Log2(1+between/2.6), bits, 1e-12)

	// weights that do not sum to 1 are shares all the same
	for i := range list {
		list[i].weight *= 3
	}
	again, _ := information(list, func(i int) float64 { return values[i] }, 1)
	assert.InDelta(t, bits, again, 1e-12)
}

// Health and each pattern count alike beforehand, worked by hand: two faults of a pattern at 2 and 4 share it, one of
// another has 3: of 1 + 1 + 2 + 3.
func TestPatternsShareAlike(t *testing.T) {
	list := shares([]hypothesis{{"tubes-scaled", Well(), 2}, {"exchanger-bypass", Well(), 4}, {"overloaded", Well(), 3},
		{"gauge-wrong", Well(), 1e-5}})
	var weights []float64
	for _, w := range list {
		weights = append(weights, w.weight)
	}
	assert.InDeltaSlice(t, []float64{1.0 / 7, 1.0 / 7, 2.0 / 7, 3.0 / 7}, weights, 1e-5, "what weighs nothing is left out")
	assert.Equal(t, []string{Healthy, "exchanger-weak", "exchanger-weak", "heat-high"},
		[]string{list[0].pattern, list[1].pattern, list[2].pattern, list[3].pattern})
}

// Far out the penalty grows slower than the square: for two readings from 8 on, 2·√(32·8) − 8 = 24 where the square has 32.
func TestOneWildReadingDoesNotDecide(t *testing.T) {
	assert.InDelta(t, 7.9, robust(7.9, 2), 0)
	assert.InDelta(t, 8, robust(8, 2), 1e-12)
	assert.InDelta(t, 24, robust(32, 2), 1e-12)
}

// The odds that a reading is past a threshold of 4, read to 2: even at 4, 0.8413 to 0.1587 a deviation over, and against a
// threshold of less than one and a half deviations that many.
func TestTheOddsOfBeingPastAThreshold(t *testing.T) {
	assert.InDelta(t, 1, direct{off: 4, limit: 4}.ratio(2), 1e-12)
	assert.InDelta(t, 0.841344746/0.158655254, direct{off: 6, limit: 4}.ratio(2), 1e-6)
	assert.InDelta(t, 0.158655254/0.841344746, direct{off: 2, limit: 4}.ratio(2), 1e-6)
	assert.InDelta(t, 1, direct{off: 4.5, limit: 4}.ratio(3), 1e-12)
	assert.InDelta(t, 1000, direct{off: 400, limit: 4}.ratio(2), 0)
}

// The findings that a reading bears on, with how far past each it is.
func TestWhatAReadingBearsOn(t *testing.T) {
	for _, tc := range []struct {
		station, side string
		want          []direct
	}{
		{"thermostat", "coolant", []direct{{"plateau-above-rating", 6, 4}, {"plateau-below-rating", -6, 5}}},
		{"block", "", []direct{{"plateau-above-rating", 6, 4}, {"plateau-below-rating", -6, 5}}},
		{"thermostat", "raw", nil},
		{"outlet", "raw", []direct{{"exhaust-mix-hot", 6, 8}}},
		{"raw-hoses", "raw", []direct{{"raw-rise-high", 6, 0.3 * (40 - 15)}}},
		{"exchanger", "coolant", nil},
	} {
		got := directOf(Read{Station: tc.station, Side: tc.side}, 46, 40, 15)
		require.Len(t, got, len(tc.want), tc.station)
		for i, w := range tc.want {
			assert.Equal(t, w.finding, got[i].finding)
			assert.InDelta(t, w.off, got[i].off, 1e-12)
			assert.InDelta(t, w.limit, got[i].limit, 1e-12)
		}
	}
	for _, f := range Told() {
		assert.Equal(t, f == "exhaust-mix-hot" || f == "plateau-above-rating" || f == "plateau-below-rating" ||
			f == "raw-rise-high", ReadOff(f), f)
	}
}

// A pattern's ratio is its faults' mean against health, or against the mean of the other patterns if that is more; weak is
// what would not show two errors off.
func TestAPatternsRatio(t *testing.T) {
	var r HealthReport
	r.patterns(map[string]float64{"overloaded": 12, "thermostat-open": 2, "gauge-wrong": 0.4, "circ-pump-worn": 3,
		"coolant-low": 5}, map[string]float64{"overloaded": 2, "thermostat-open": 1.9, "circ-pump-worn": 1, "coolant-low": 2.5,
		"gauge-wrong": 9})
	want := map[string]float64{"heat-high": 12 / ((2 + 0.4 + 4) / 3.0), "coolant-flow-low": 4 / ((12 + 2 + 0.4) / 3.0),
		"thermostat-open": 2 / ((12 + 0.4 + 4) / 3.0), "gauge-off": 0.4 / ((12 + 2 + 4) / 3.0)}
	require.Len(t, r.Patterns, len(want))
	for _, p := range r.Patterns {
		assert.InDelta(t, want[p.ID], p.Ratio, 1e-12, p.ID)
	}
	assert.Equal(t, "heat-high", r.Patterns[0].ID)
	assert.Equal(t, []string{"thermostat-open"}, r.Weak)
}

// What the figures of a plant say.
func TestThePlantsFiguresInWords(t *testing.T) {
	r := HealthReport{Figures: []Figure{
		{ID: "raw-flow", Label: "raw-water flow", Value: 0.62, Error: 0.08, Known: true, Ratio: true},
		{ID: "ua", Label: "exchanger", Value: 0.1, Error: 0.3, Known: true, Ratio: true},
		{ID: "gauge", Label: "gauge", Value: 4, Error: 2, Known: true},
		{ID: "gauge", Label: "gauge", Value: -4, Error: 2, Known: true},
		{ID: "thermostat", Label: "thermostat", Value: 5, Error: 2, Known: true},
		{ID: "thermostat", Label: "thermostat", Value: -5, Error: 2, Known: true},
		{ID: "thermostat", Label: "thermostat", Value: 2, Error: 2, Known: true},
		{ID: "thermostat", Label: "thermostat", Value: -2, Error: 2, Known: true},
		{ID: "heat", Label: "heat"}, {ID: "flow", Label: "coolant flow"},
	}}
	var said []string
	for _, s := range r.words() {
		said = append(said, s.String())
	}
	assert.Equal(t, []string{
		"Raw-water flow about 62 % of healthy, could be 54 to 70.",
		"Exchanger about 10 % of healthy, could be 0 to 40.",
		"Gauge reads 4 °C high, give or take 2 °C.",
		"Gauge reads 4 °C low, give or take 2 °C.",
		"Thermostat opens 5 °C late, give or take 2 °C.",
		"Thermostat opens 5 °C early, give or take 2 °C.",
		"Thermostat as it should be, give or take 2 °C.",
		"Thermostat as it should be, give or take 2 °C.",
		"Not to be judged from these readings: heat, coolant flow.",
	}, said)
	assert.Equal(t, "a weak exchanger", PatternLabel("exchanger-weak"))
	assert.Equal(t, "no-such", PatternLabel("no-such"))
}

// How much of a healthy engine's spare power is gone.
func TestHowMuchOfTheMarginIsGone(t *testing.T) {
	for _, tc := range []struct{ spare, healthy, want float64 }{{0.2, 0.4, 0.5}, {0.4, 0.4, 0}, {0.6, 0.4, 0}, {-0.1, 0.4, 1},
		{0.1, 0, 0}, {0, 0, 0}, {0.1, -0.1, 0}} {
		assert.InDelta(t, tc.want, Limits{Spare: tc.spare, HealthySpare: tc.healthy}.Gone(), 1e-12, "%+v", tc)
	}
}

// What rounds may hold, at the edges of each range, with the field that is told.
func TestWhatARoundMayHold(t *testing.T) {
	y := Types()[1]
	p, err := New(EngineFacts{Family: y.Family, Fuel: y.Fuel, Aspiration: y.Aspiration, RatedKW: y.RatedKW,
		RatedRPM: y.RatedRPM, Circuit: []string{"intake", "raw-pump", "exchanger", "elbow", "outlet", "circ-pump", "block",
			"thermostat", "gauge"}})
	require.NoError(t, err)
	op := Operation{RPM: 0.5 * y.RatedRPM, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}
	for _, tc := range []struct {
		ran  float64
		read Read
		want string
	}{
		{0, Read{Station: "thermostat", Value: -20, Error: 0.1}, ""},
		{1440, Read{Station: "thermostat", Value: 400, Error: 0.1}, ""},
		{1441, Read{Station: "thermostat", Value: 80, Error: 0.1}, "rounds[0].operation.ran_min"},
		{-1, Read{Station: "thermostat", Value: 80, Error: 0.1}, "rounds[0].operation.ran_min"},
		{0, Read{Station: "thermostat", Value: -20.1, Error: 0.1}, "rounds[0].readings[0].value"},
		{0, Read{Station: "thermostat", Value: 400.1, Error: 0.1}, "rounds[0].readings[0].value"},
		{0, Read{Station: "flow", Value: 0, Error: 0.1}, ""},
		{0, Read{Station: "flow", Value: 20000, Error: 0.1}, ""},
		{0, Read{Station: "flow", Value: -0.1, Error: 0.1}, "rounds[0].readings[0].value"},
		{0, Read{Station: "flow", Value: 20001, Error: 0.1}, "rounds[0].readings[0].value"},
		{0, Read{Station: "thermostat", Value: 80}, "rounds[0].readings[0].error"},
		{0, Read{Station: "thermostat", Value: 80, Error: math.Inf(1)}, "rounds[0].readings[0].error"},
		{0, Read{Station: "nowhere", Value: 80, Error: 1}, "rounds[0].readings[0].station"},
	} {
		err := p.CheckRounds([]Round{{Operation: op, RanMin: tc.ran, Reads: []Read{tc.read}}})
		if tc.want == "" {
			assert.NoError(t, err, "%+v", tc)
			continue
		}
		require.Error(t, err, "%+v", tc)
		assert.Contains(t, err.Error(), tc.want)
	}
	assert.ErrorContains(t, p.CheckRounds(nil), "at least one round")
	assert.ErrorContains(t, p.CheckRounds([]Round{{Operation: op}}), "round 1 holds no reading")
}
