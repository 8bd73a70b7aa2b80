package plant

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/exchanger"
	"hevrin/core/fluid"
	"hevrin/core/hydraulics"
	"hevrin/core/validation"
)

// known is an engine of which everything is known that can stand side by side.
func known() EngineFacts {
	return EngineFacts{Family: Closed, Fuel: Diesel, RatedKW: 60, RatedRPM: 3000, ThermostatC: 82, Circuit: []string{"intake",
		"raw-pump", "exchanger", "elbow", "outlet", "circ-pump", "block", "thermostat"}}
}

// Every figure is taken at both ends of its range, and refused a little beyond, by its field.
func TestTheRangesOfAnEnginesFacts(t *testing.T) {
	rating := func() *MakersRating {
		return &MakersRating{HeatKW: 50, CoolantLMin: 90, CoolantInC: 90, RawLMin: 80, RawInC: 30}
	}
	tubes := func() *Tubes { return &Tubes{Tubes: 64, Passes: 2, InnerMM: 6.5, OuterMM: 8, LengthMM: 320} }
	for _, tc := range []struct {
		field       string
		least, most float64
		set         func(k *EngineFacts, v float64)
	}{
		{"rated_kw", 1, 5000, func(k *EngineFacts, v float64) { k.RatedKW = v }},
		{"rated_rpm", 300, 8000, func(k *EngineFacts, v float64) { k.RatedRPM = v }},
		{"cooling.propeller_exponent", 1, 4, func(k *EngineFacts, v float64) { k.Exponent = v }},
		{"cooling.raw_l_min", 1, 20000, func(k *EngineFacts, v float64) { k.RawLMin = v }},
		{"cooling.coolant_l_min", 1, 40000, func(k *EngineFacts, v float64) { k.CoolantLMin = v }},
		{"cooling.ua_w_k", 10, 1e6, func(k *EngineFacts, v float64) { k.UA = v }},
		{"cooling.block_kj_k", 5, 1e5, func(k *EngineFacts, v float64) { k.BlockKJK = v }},
		{"cooling.glycol_percent_volume", 1, 60, func(k *EngineFacts, v float64) { k.Glycol = v }},
		{"cooling.alarm_c", 85, 114, func(k *EngineFacts, v float64) { k.AlarmC = v }},
		{"cooling.exchanger_rating.heat_kw", 0.5, 20000, func(k *EngineFacts, v float64) { k.Rating = rating(); k.Rating.HeatKW = v }},
		{"cooling.exchanger_rating.coolant_l_min", 1, 40000,
			func(k *EngineFacts, v float64) { k.Rating = rating(); k.Rating.CoolantLMin = v }},
		{"cooling.exchanger_rating.coolant_in_c", 30, 120,
			func(k *EngineFacts, v float64) { k.Rating = rating(); k.Rating.CoolantInC = v }},
		{"cooling.exchanger_rating.raw_l_min", 1, 20000,
			func(k *EngineFacts, v float64) { k.Rating = rating(); k.Rating.RawLMin = v }},
		{"cooling.exchanger_rating.raw_in_c", 1, 60, func(k *EngineFacts, v float64) { k.Rating = rating(); k.Rating.RawInC = v }},
		{"cooling.exchanger_tubes.tubes", 1, 2000, func(k *EngineFacts, v float64) { k.Tubes = tubes(); k.Tubes.Tubes = int(v) }},
		{"cooling.exchanger_tubes.passes", 1, 12, func(k *EngineFacts, v float64) { k.Tubes = tubes(); k.Tubes.Passes = int(v) }},
		{"cooling.exchanger_tubes.inner_diameter_mm", 2, 50,
			func(k *EngineFacts, v float64) { k.Tubes = tubes(); k.Tubes.InnerMM, k.Tubes.OuterMM = v, v+1 }},
		{"cooling.exchanger_tubes.outer_diameter_mm", 6.6, 60,
			func(k *EngineFacts, v float64) { k.Tubes = tubes(); k.Tubes.OuterMM = v }},
		{"cooling.exchanger_tubes.length_mm", 50, 5000, func(k *EngineFacts, v float64) { k.Tubes = tubes(); k.Tubes.LengthMM = v }},
		{"cooling.exchanger_tubes.shell_coefficient_w_m2_k", 50, 20000,
			func(k *EngineFacts, v float64) { k.Tubes = tubes(); k.Tubes.ShellWM2K = v }},
	} {
		refused := func(v float64) bool {
			k := known()
			tc.set(&k, v)
			var wrong validation.Errors
			if err := k.check(); err != nil {
				require.True(t, errors.As(err, &wrong))
				require.Len(t, wrong, 1, "%s at %g", tc.field, v)
				require.Equal(t, tc.field, wrong[0].Field)
			}
			return len(wrong) > 0
		}
		for _, v := range []float64{tc.least, tc.most} {
			assert.False(t, refused(v), "%s at %g", tc.field, v)
		}
		beyond := math.Max(1, 0.001*tc.most)
		assert.True(t, refused(tc.most+beyond), "%s over %g", tc.field, tc.most)
		if under := tc.least - min(1, tc.least/2); under != 0 || tc.least > 2 {
			assert.True(t, refused(under), "%s under %g", tc.field, tc.least)
		}
	}
}

// What is not known of an engine is its type's, scaled by power; the pump turns by the engine's own speed.
func TestWhatIsNotKnownIsScaled(t *testing.T) {
	k := known()
	y := TypeFor(Closed, Diesel, Natural, 60)
	k.RatedKW, k.RatedRPM = 1.5*y.RatedKW, 0.8*y.RatedRPM
	require.Equal(t, y.ID, TypeFor(Closed, Diesel, Natural, k.RatedKW).ID)
	p, err := New(k)
	require.NoError(t, err)
	assert.InEpsilon(t, 1.5*y.CoolantLMin, p.CoolantLMin, 1e-12)
	assert.InEpsilon(t, 1.5*y.UA, p.UA, 1e-12)
	assert.InEpsilon(t, 1.5*y.BlockKJK, p.BlockKJK, 1e-12)
	assert.InEpsilon(t, 0.125*k.RatedKW, p.ShedWK, 1e-12)
	assert.InEpsilon(t, y.LitresPerRev*1.5/0.8, p.Pump.LitresPerRev, 1e-12)
	rise := y.SuctionKPa + y.DeliveryKPa + 1 + 3
	assert.InEpsilon(t, y.SlipLMinKPa*1.5*math.Sqrt(rise), p.Pump.Slip, 1e-12)

	// drops share out what is usual among the stations that there are
	suction, delivery := 0.0, 0.0
	for _, r := range p.Run {
		if r.Before {
			suction += r.DropKPa
		} else {
			delivery += r.DropKPa
		}
	}
	assert.InEpsilon(t, y.SuctionKPa, suction, 1e-12)
	assert.InEpsilon(t, y.DeliveryKPa, delivery, 1e-12)
	at := hydraulics.Pump{LitresPerRev: p.Pump.LitresPerRev, State: 1, Slip: p.Pump.Slip, MaxVacuumKPa: 48}
	assert.InEpsilon(t, at.Flow(k.RatedRPM, rise), p.designFlow(), 1e-12)

	k.RawLMin = 50 // by a bucket: the pump is the smaller
	slower, err := New(k)
	require.NoError(t, err)
	assert.InEpsilon(t, 50, slower.designFlow(), 1e-9)
	assert.InEpsilon(t, 50/p.designFlow(), slower.Pump.LitresPerRev/p.Pump.LitresPerRev, 1e-9)
	assert.InEpsilon(t, 50/p.designFlow(), slower.Pump.Slip/p.Pump.Slip, 1e-9)
}

// A family of another name cools as its circuit does; what is not said is taken from the rest.
func TestWhatIsGuessed(t *testing.T) {
	for _, tc := range []struct {
		family, with, want string
	}{{"", "exchanger", ""}, {Closed, "block", Closed}, {Direct, "exchanger", Direct}, {"keel", "exchanger", Closed},
		{"keel", "block", Direct}} {
		assert.Equal(t, tc.want, EngineFacts{Family: tc.family, Circuit: []string{tc.with}}.cooled().Family, "%+v", tc)
	}
	for _, tc := range []struct {
		fuel, wantFuel Fuel
		breathes, want Aspiration
		charge         bool
	}{{"", Diesel, "", Natural, false}, {"", Diesel, "", Turbo, true}, {Petrol, Petrol, "", Natural, true},
		{Diesel, Diesel, Natural, Natural, true}, {Petrol, Petrol, Turbo, Turbo, false}} {
		k := EngineFacts{Fuel: tc.fuel, Aspiration: tc.breathes}
		if tc.charge {
			k.Circuit = []string{"charge-cooler"}
		}
		got := k.guessed()
		assert.Equal(t, fmt.Sprint(tc.wantFuel, tc.want), fmt.Sprint(got.Fuel, got.Aspiration), "%+v", tc)
	}
	k := known()
	k.Circuit, k.Family = nil, ""
	err := k.check()
	assert.ErrorContains(t, err, "family")
	assert.ErrorContains(t, err, "circuit")
}

// What a person gave is told as such, with its value; what is usual with its reason.
func TestEachFactSaysItsSource(t *testing.T) {
	k := known()
	k.Exponent, k.RawLMin, k.BlockKJK, k.AlarmC, k.UA, k.CoolantLMin, k.Glycol = 2.7, 70, 99, 97, 1234, 111, 33
	given, err := New(k)
	require.NoError(t, err)
	for _, f := range given.Facts(k) {
		want := map[string]float64{"propeller_exponent": 2.7, "block_kj_k": 99, "alarm_c": 97, "ua_w_k": 1234, "coolant_l_min": 111,
			"glycol_percent_volume": 33, "raw_l_min": given.Rated.RawLMin}[f.ID]
		assert.InEpsilon(t, want, f.Value, 1e-12, f.ID)
		assert.Equal(t, Given, f.From, f.ID)
	}
	k = known()
	usual, err := New(k)
	require.NoError(t, err)
	for _, f := range usual.Facts(k) {
		assert.Equal(t, Usual, f.From, f.ID)
		if f.ID == "glycol_percent_volume" {
			assert.InDelta(t, 45, f.Value, 0)
		}
	}
}

// A sheet's flows are not the engine's: its resistance is that of the engine with each side's film as thick as the sheet's
// flow makes it, by the flow to the power of 0.8 in the tubes and 0.6 around them.
func TestARatingIsCarriedToTheEnginesFlows(t *testing.T) {
	usual, err := New(known())
	require.NoError(t, err)
	for _, of := range []struct{ raw, coolant float64 }{{1, 1}, {0.5, 1}, {1, 0.5}, {1, 2}, {2, 0.7}} {
		k := known()
		k.Rating = &MakersRating{HeatKW: 30, CoolantLMin: usual.Rated.ShellLMin * of.coolant, CoolantInC: 90,
			RawLMin: usual.Rated.RawLMin * of.raw, RawInC: 20}
		p, err := New(k)
		require.NoError(t, err)
		c, w := p.Coolant.At(90), fluid.SeaWater(fluid.OceanSalinity).At(20)
		sheet, err := exchanger.FromHeat(p.Arrangement,
			exchanger.Stream{C: k.Rating.CoolantLMin / 60000 * c.DensityKgM3 * c.SpecificHeat, InC: 90},
			exchanger.Stream{C: k.Rating.RawLMin / 60000 * w.DensityKgM3 * w.SpecificHeat, InC: 20}, 30000)
		require.NoError(t, err)
		resistance := p.TubeShare/math.Pow(of.raw, 0.8) + (1-p.TubeShare)/math.Pow(of.coolant, 0.6)
		assert.InEpsilon(t, sheet.UA*resistance, p.UA, 1e-6, of)
	}
}

// What is fitted to a healthy round is what the facts say: the usual figure, by as much as this engine's own is of it.
func TestFactsOfAFittedEngineAreItsOwn(t *testing.T) {
	p, err := New(known())
	require.NoError(t, err)
	p.own.Raw, p.own.UA, p.own.CoolantFlow = 0.8, 1.25, 0.9
	of := map[string]float64{}
	for _, f := range p.Facts(known()) {
		of[f.ID] = f.Value
	}
	assert.InEpsilon(t, 0.8*p.Rated.RawLMin, of["raw_l_min"], 1e-9)
	assert.InEpsilon(t, 1.25*p.UA, of["ua_w_k"], 1e-9)
	assert.InEpsilon(t, 0.9*p.CoolantLMin, of["coolant_l_min"], 1e-9)
}

// A tube is a tenth of a millimetre wider outside than inside at least.
func TestATubeHasAWall(t *testing.T) {
	for outer, taken := range map[float64]bool{6.65: true, 6.55: false, 6.45: false} {
		k := known()
		k.Tubes = &Tubes{Tubes: 64, Passes: 2, InnerMM: 6.5, OuterMM: outer, LengthMM: 320}
		_, err := New(k)
		assert.Equal(t, taken, err == nil, "%g mm: %v", outer, err)
	}
}

// An engine cooled by raw water alone has none of what belongs to a closed circuit, one thing as little as all.
func TestADirectEngineHasNoClosedCircuit(t *testing.T) {
	for name, set := range map[string]func(*EngineFacts){
		"coolant":      func(k *EngineFacts) { k.CoolantLMin = 90 },
		"glycol":       func(k *EngineFacts) { k.Glycol = 40 },
		"an exchanger": func(k *EngineFacts) { k.UA = 900 },
		"both":         func(k *EngineFacts) { k.CoolantLMin, k.Glycol = 90, 40 },
		"all":          func(k *EngineFacts) { k.UA, k.CoolantLMin, k.Glycol = 900, 90, 40 },
	} {
		k := EngineFacts{Family: Direct, Fuel: Diesel, RatedKW: 12, RatedRPM: 2600,
			Circuit: []string{"intake", "raw-pump", "block", "thermostat", "elbow", "outlet"}}
		_, err := New(k)
		require.NoError(t, err)
		set(&k)
		_, err = New(k)
		assert.ErrorContains(t, err, "no coolant and no heat exchanger", name)
	}
}
