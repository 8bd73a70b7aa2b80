package units_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/units"
)

func TestASentenceSpeaksTheReadersUnits(t *testing.T) {
	of := units.Of
	for _, c := range []struct {
		say                  units.Sentence
		metric, us, imperial string
	}{
		{units.Say("it opens at %.1f, %.1f under its rating of %.0f", of(80.8, "degC"), of(1.2, "K"), of(82, "degC")),
			"it opens at 80.8 °C, 1.2 °C under its rating of 82 °C",
			"it opens at 177.4 °F, 2.2 °F under its rating of 180 °F",
			"it opens at 80.8 °C, 1.2 °C under its rating of 82 °C"},
		{units.Say("moving by %.2f", units.Within(0.1, 0.02, "K/min")), "moving by 0.10 ± 0.02 °C/min",
			"moving by 0.18 ± 0.04 °F/min", "moving by 0.10 ± 0.02 °C/min"},
		{units.Say("%.0f", units.Within(82, 2, "degC")), "82 ± 2 °C", "180 ± 4 °F", "82 ± 2 °C"},
		// an error is a difference
		{units.Say("%+.1f", of(0.5, "K")), "+0.5 °C", "+0.9 °F", "+0.5 °C"},
		{units.Say("%+.1f", units.Within(-0.5, 1, "K")), "-0.5 ± 1.0 °C", "-0.9 ± 1.8 °F", "-0.5 ± 1.0 °C"},
		{units.Say("%+.1f and %+.1f", of(0, "K"), of(-1, "K")), "+0.0 °C and -1.0 °C", "+0.0 °F and -1.8 °F",
			"+0.0 °C and -1.0 °C"},
		// a larger unit gets decimals enough to say as much
		{units.Say("%.2f in", of(6.35, "mm")), "6.35 mm in", "0.2500 in in", "0.2500 in in"},
		{units.Say("%.1f", of(45.5, "L")), "45.5 L", "12.02 US gal", "10.01 imp gal"},
		// without a number of decimals: as given, turned with four digits
		{units.Range(4, 200, "mm"), "4 to 200 mm", "0.1575 to 7.874 in", "0.1575 to 7.874 in"},
		{units.Range(0, 1234567, "L/min"), "0 to 1234567 L/min", "0 to 326100 US gpm", "0 to 271600 imp gpm"},
		{units.Say("%.0f", units.Between(10, 30, "degC")), "10 to 30 °C", "50 to 86 °F", "10 to 30 °C"},
		{units.Range(1, 8, "clamps"), "1 to 8 clamps", "1 to 8 clamps", "1 to 8 clamps"},
		{units.Range(-1, 8, ""), "-1 to 8", "-1 to 8", "-1 to 8"},
		{units.Say("%d of %s, %v", 3, "these", of(1, "kg")), "3 of these, 1 kg", "3 of these, 2.205 lb",
			"3 of these, 2.205 lb"},
		{"as 12 kg in words that a person wrote", "as 12 kg in words that a person wrote",
			"as 12 kg in words that a person wrote", "as 12 kg in words that a person wrote"},
	} {
		assert.Equal(t, c.metric, c.say.In(units.Metric))
		assert.Equal(t, c.us, c.say.In(units.US))
		assert.Equal(t, c.imperial, c.say.In(units.Imperial))
	}
}

func TestASentenceInASentenceKeepsItsValues(t *testing.T) {
	inner := units.Say("at %.0f", units.Of(100, "degC"))
	whole := units.Join([]units.Sentence{inner, units.Say("%s again", inner)}, "; ")
	assert.Equal(t, "at 212 °F; at 212 °F again", whole.In(units.US))
	assert.Equal(t, "at 100 °C; at 100 °C again", whole.String())
}

func TestSentencesOfAValueAreSaidInPlace(t *testing.T) {
	type part struct {
		Words string
		Says  []units.Sentence
	}
	hot := units.Say("%.0f", units.Of(100, "degC"))
	v := struct {
		Result any // holds a copy
		Parts  []part
		Say    *units.Sentence
		None   any
	}{part{"", []units.Sentence{hot}}, []part{{"100 °C", []units.Sentence{hot, "plain"}}}, &hot, nil}
	units.Speak(&v, units.US)
	assert.Equal(t, part{"", []units.Sentence{"212 °F"}}, v.Result)
	assert.Equal(t, []part{{"100 °C", []units.Sentence{"212 °F", "plain"}}}, v.Parts)
	assert.Equal(t, units.Sentence("212 °F"), *v.Say)
	units.Speak(&v, units.Metric)
	assert.Equal(t, units.Sentence("212 °F"), *v.Say, "what was said stays")
}

func TestASentenceIsWrittenInMetricUnits(t *testing.T) {
	raw, err := json.Marshal(map[string]units.Sentence{"say": units.Say("%.1f", units.Of(1.5, "L"))})
	require.NoError(t, err)
	assert.JSONEq(t, `{"say":"1.5 L"}`, string(raw))
	var back map[string]units.Sentence
	require.NoError(t, json.Unmarshal(raw, &back))
	assert.Equal(t, units.Sentence("1.5 L"), back["say"])
}
