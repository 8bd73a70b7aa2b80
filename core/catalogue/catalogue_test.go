package catalogue_test

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/goccy/go-yaml"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
)

func load(t *testing.T) *catalogue.Catalogue {
	t.Helper()
	c, err := catalogue.Load()
	require.NoError(t, err)
	return c
}

func TestTheCatalogueProvesItself(t *testing.T) {
	c := load(t)
	assert.Len(t, c.Faults, 51)
	assert.GreaterOrEqual(t, len(c.Findings), 80)
	assert.InDelta(t, 0.25, c.SetFactor, 0)
}

// The rates of the trade's table of faults: A 8 %, B 4 %, C 1.5 %, D 0.5 % of jobs (common practice).
func TestBaseRates(t *testing.T) {
	c := load(t)
	for id, want := range map[string]float64{"strainer-clogged": 0.08, "intake-blocked": 0.04, "cap-weak": 0.015,
		"tube-holed": 0.005} {
		f, ok := c.Fault(id)
		require.True(t, ok, id)
		assert.InDelta(t, want, f.Prior, 0, id)
	}
}

func TestCircuitDecidesFaultsAndWhereAChecksStationLies(t *testing.T) {
	c := load(t)
	has := func(faults []catalogue.Fault, id string) bool {
		for _, f := range faults {
			if f.ID == id {
				return true
			}
		}
		return false
	}
	leg := []string{"intake", "raw-pump", "oil-cooler", "exchanger", "gear-cooler", "elbow", "outlet"}
	assert.False(t, has(c.FaultsOn(catalogue.Closed, leg), "seacock-restricted"), "a drive leg has no seacock")
	assert.True(t, has(c.FaultsOn(catalogue.Closed, leg), "debris-at-cooler"))
	assert.False(t, has(c.FaultsOn(catalogue.Direct, nil), "tubes-scaled"), "a raw-cooled engine has no exchanger")

	look, _ := c.Check("cooler-inlet-look")
	at, ok := c.StationOf(look, catalogue.Closed, leg)
	assert.True(t, ok)
	assert.Equal(t, "oil-cooler", at, "the first cooler of this circuit, not of the catalogue")
	_, ok = c.StationOf(look, catalogue.Closed, []string{"intake", "raw-pump", "outlet"})
	assert.False(t, ok)
	flush, _ := c.Check("block-flush")
	_, ok = c.StationOf(flush, catalogue.Closed, nil)
	assert.False(t, ok, "raw water never enters a closed-cooled block")
}

func TestCheckCircuitNamesTheStation(t *testing.T) {
	c := load(t)
	for _, f := range c.Families {
		assert.Empty(t, c.CheckCircuit("circuit", f.ID, f.Circuit))
	}
	for name, tc := range map[string]struct {
		family   string
		stations []string
		reason   string
	}{
		"unknown":           {catalogue.Closed, []string{"intake", "raw-pump", "funnel", "outlet"}, "funnel"},
		"twice":             {catalogue.Closed, []string{"intake", "raw-pump", "raw-pump", "outlet"}, "twice"},
		"not of the family": {catalogue.Direct, []string{"intake", "raw-pump", "exchanger", "outlet"}, "no Heat exchanger"},
		"no pump":           {catalogue.Closed, []string{"intake", "outlet"}, "Raw-water pump"},
	} {
		t.Run(name, func(t *testing.T) {
			wrong := c.CheckCircuit("circuit", tc.family, tc.stations)
			require.NotEmpty(t, wrong)
			assert.ErrorContains(t, wrong, tc.reason)
			assert.Contains(t, wrong[0].Field, "circuit")
		})
	}
}

func TestABadFileIsRefusedWithNameAndLine(t *testing.T) {
	for name, tc := range map[string]struct {
		file, from, to string
		says           []string
	}{
		"a word that is no field": {"pairs.yaml", "factor: 20", "fctor: 20", []string{"pairs.yaml", "fctor", "3 |"}},
		"a rate that is none": {"faults.yaml", "rate: D", "rate: E", []string{"faults.yaml", `"E"`, "A, B, C, D",
			"pump-bearing-failed stands at faults.yaml:"}},
		"a strength that is none": {"findings.yaml", "strength: strong", "strength: mighty", []string{"findings.yaml",
			"mighty", "stands at findings.yaml:"}},
		"an unknown fault": {"pairs.yaml", "b: [debris-at-cooler]", "b: [debris]",
			[]string{`unknown fault "debris"`}},
		"a sure look that deceives": {"findings.yaml", `label: "Basket choked", source: check, leak: 0.00002`,
			`label: "Basket choked", source: check, leak: 0.2`, []string{"strainer-clogged",
				"times better than its leak", "strainer-clogged stands at faults.yaml:8",
				"debris-in-strainer stands at findings.yaml:"}},
		"a rival not named": {"faults.yaml", "rivals: [{fault: seacock-restricted, told_by: intake-look}]",
			"rivals: []", []string{"intake-blocked", "cannot tell it from seacock-restricted"}},
		"a station without a check": {"checks.yaml", "stations: [anti-siphon]", "stations: [strainer]",
			[]string{"station anti-siphon has no check", "anti-siphon stands at stations.yaml:14"}},
		"a reading that is none":  {"readings.yaml", "id: gauge-off", "id: gauge-of", []string{"readings.yaml", `"gauge-of"`}},
		"readings of a complaint": {"readings.yaml", "id: gauge-off", "id: hot-under-load", []string{"no reading"}},
		"readings at no point": {"readings.yaml", "id: load, label", "id: cruise, label",
			[]string{`check temperatures-load: point "load"`}},
		"points out of order":   {"readings.yaml", "speed: 0.8", "speed: 0.2", []string{"point load", "more speed"}},
		"a reading for certain": {"readings.yaml", "gauge-wrong: 0.", "gauge-wrong: 1.", []string{"gauge-wrong idle"}},
		"a reading of no fault": {"readings.yaml", "{thermostat-open: ", "{thermostat-ope: ", []string{`"thermostat-ope"`}},
		"no reason":             {"history.yaml", `why: "the pump drank it"`, `why: ""`, []string{"grounded", "reason"}},
		"a number out of range": {"findings.yaml", "leak: 0.9", "leak: 1.9", []string{"leak 1.9"}},
	} {
		t.Run(name, func(t *testing.T) {
			files := spoiled(t, tc.file, tc.from, tc.to)
			_, err := catalogue.LoadFrom(files)
			require.Error(t, err)
			for _, s := range tc.says {
				assert.ErrorContains(t, err, s)
			}
		})
	}
}

// spoiled is the shipped data with one place in one file changed.
func spoiled(t *testing.T, file, from, to string) fstest.MapFS {
	t.Helper()
	out := fstest.MapFS{}
	entries, err := os.ReadDir("data")
	require.NoError(t, err)
	for _, e := range entries {
		raw, err := os.ReadFile("data/" + e.Name())
		require.NoError(t, err)
		if e.Name() == file {
			require.Contains(t, string(raw), from)
			raw = []byte(strings.Replace(string(raw), from, to, 1))
		}
		out[e.Name()] = &fstest.MapFile{Data: raw}
	}
	return out
}

// data/schema.json tells what may stand in each file; every file fits it.
func TestTheDataFilesFitTheirSchema(t *testing.T) {
	schema, err := jsonschema.NewCompiler().Compile("data/schema.json")
	require.NoError(t, err)
	all := map[string]any{}
	entries, err := filepath.Glob("data/*.yaml")
	require.NoError(t, err)
	for _, name := range entries {
		raw, err := os.ReadFile(name)
		require.NoError(t, err)
		var value any
		require.NoError(t, yaml.Unmarshal(raw, &value))
		asJSON, err := json.Marshal(value)
		require.NoError(t, err)
		value, err = jsonschema.UnmarshalJSON(bytes.NewReader(asJSON))
		require.NoError(t, err)
		all[filepath.Base(name)] = value
	}
	assert.NoError(t, schema.Validate(all))
	all["pairs.yaml"] = map[string]any{"pairs": []any{map[string]any{"a": []any{"x"}, "b": []any{"y"}, "factor": -1}}}
	assert.Error(t, schema.Validate(all), "and what does not fit is refused")
}
