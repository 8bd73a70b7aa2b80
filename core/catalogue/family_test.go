package catalogue_test

import (
	"bytes"
	"encoding/json"
	"os"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/goccy/go-yaml"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
)

// dry is a third family: through an exchanger, and out over the side without wetting the exhaust.
func dry(t *testing.T) string {
	t.Helper()
	raw, err := os.ReadFile("testdata/families/dry-exhaust.yaml")
	require.NoError(t, err)
	return string(raw)
}

func withFamily(t *testing.T, file string) fstest.MapFS {
	t.Helper()
	files := spoiled(t, "pairs.yaml", "", "")
	files["families/dry-exhaust.yaml"] = &fstest.MapFile{Data: []byte(file)}
	return files
}

// A third family is a file: it has the faults, checks, tasks and maintenance of the one that it is like, where its
// stations are, and the others are as they were.
func TestAThirdFamilyIsAFile(t *testing.T) {
	c, err := catalogue.LoadFrom(withFamily(t, dry(t)))
	require.NoError(t, err)
	shipped := load(t)
	assert.Equal(t, append(shipped.FamilyIDs(), "dry-exhaust"), c.FamilyIDs())
	f, ok := c.Family("dry-exhaust")
	require.True(t, ok)
	assert.Empty(t, c.CheckCircuit("circuit", f.ID, f.Circuit))
	assert.NotEmpty(t, c.CheckCircuit("circuit", f.ID, append(slices.Clone(f.Circuit), "elbow")), "its exhaust is dry")
	bare := slices.DeleteFunc(slices.Clone(f.Circuit), func(s string) bool { return s == "exchanger" })
	assert.ErrorContains(t, c.CheckCircuit("circuit", f.ID, bare), "leave it as it is",
		"without it the state would take its hot coolant for raw water")
	assert.True(t, catalogue.HasCoolant(f.ID, f.Circuit))

	has := func(of *catalogue.Catalogue, family string) (list []string) {
		for _, x := range of.FaultsOn(family, f.Circuit) {
			list = append(list, x.ID)
		}
		return list
	}
	assert.Equal(t, has(shipped, catalogue.Closed), has(c, f.ID))
	assert.Equal(t, has(shipped, catalogue.Direct), has(c, catalogue.Direct))
	assert.NotContains(t, has(c, f.ID), "elbow-choked")
	assert.NotContains(t, has(c, f.ID), "block-silted", "raw water never enters its block")

	for _, k := range c.Checks {
		_, like := c.StationOf(k, catalogue.Closed, f.Circuit)
		_, own := c.StationOf(k, f.ID, f.Circuit)
		assert.Equal(t, like, own, k.ID)
	}
	for _, u := range c.Maintenance {
		assert.Equal(t, u.On(catalogue.Closed, f.Circuit), u.On(f.ID, f.Circuit), u.ID)
	}
	for _, x := range c.Tasks {
		assert.Equal(t, slices.Contains(x.Families, catalogue.Closed), slices.Contains(x.Families, f.ID), x.ID)
	}
}

func TestAFamilysFileThatDoesNotFitIsRefused(t *testing.T) {
	for name, x := range map[string][2]string{
		`like "keel" is not closed or direct`: {"like: closed", "like: keel"},
		`station "funnel" is not one`:         {"elbow: []", "funnel: []"},
		"has no Strainer":                     {"elbow: []", "strainer: []"},
		"its circuit says otherwise":          {"raw-pump, exchanger, ", "raw-pump, "},
		"like direct, and its circuit":        {"like: closed", "like: direct"},
		"coler":                               {"names:", "coler:"},
	} {
		_, err := catalogue.LoadFrom(withFamily(t, strings.Replace(dry(t), x[0], x[1], 1)))
		assert.ErrorContains(t, err, name)
	}
}

func TestAFamilysFileFitsTheSchema(t *testing.T) {
	schema, err := jsonschema.NewCompiler().Compile("data/schema.json")
	require.NoError(t, err)
	read := func(file string) any {
		var value any
		require.NoError(t, yaml.Unmarshal([]byte(file), &value))
		asJSON, err := json.Marshal(map[string]any{"families/dry-exhaust.yaml": value})
		require.NoError(t, err)
		value, err = jsonschema.UnmarshalJSON(bytes.NewReader(asJSON))
		require.NoError(t, err)
		return value
	}
	assert.NoError(t, schema.Validate(read(dry(t))))
	assert.Error(t, schema.Validate(read(strings.Replace(dry(t), "like: closed", "like: keel", 1))))
}

// Any other family's circuit tells whether coolant runs in its block.
func TestWhatRunsInTheBlock(t *testing.T) {
	exchanger := []string{"intake", "raw-pump", "exchanger", "outlet"}
	assert.True(t, catalogue.HasCoolant(catalogue.Closed, nil))
	assert.False(t, catalogue.HasCoolant(catalogue.Direct, exchanger))
	assert.True(t, catalogue.HasCoolant("another", exchanger))
	assert.False(t, catalogue.HasCoolant("another", exchanger[:2]))
}
