package limits_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api/limits"
	"hevrin/core/validation"
)

// spec is a small contract, with what limits are read from and what they are not.
const spec = `{
	"paths": {"/notes/{id}": {"parameters": [{"name": "id"}], "put": {"requestBody": {"content": {"application/json":
		{"schema": {"$ref": "#/components/schemas/Note"}}}}}, "get": {}}},
	"components": {"schemas": {
		"Note": {"type": "object", "required": ["kind", "by"], "properties": {
			"kind": {"type": "string", "enum": ["note", "check"]},
			"by": {"type": "string", "minLength": 2, "maxLength": 4, "pattern": "^[a-zé]"},
			"minutes": {"type": "number", "minimum": 0, "maximum": 60},
			"count": {"type": "integer", "minimum": 1},
			"seen": {"type": "array", "minItems": 1, "maxItems": 2, "items": {"$ref": "#/components/schemas/Seen"}}}},
		"Seen": {"type": "object", "required": ["id"], "properties": {"id": {"type": "string", "maxLength": 3}}},
		"Other": {"type": "string"}}}}`

func contract(t *testing.T) *limits.Contract {
	c, err := limits.Of([]byte(spec), []string{"PUT /notes/{id}", "GET /notes/{id}"})
	require.NoError(t, err)
	return c
}

// Each limit at its edge and one beyond it; what is refused names the field as a person would write it.
func TestEachLimitAtItsEdge(t *testing.T) {
	c := contract(t)
	for given, refused := range map[string]string{
		`"minutes": 0`: "", `"minutes": 60`: "",
		`"minutes": -0.1`:           "minutes: number must be at least 0; number, from 0 to 60",
		`"minutes": 60.1`:           "minutes: number must be at most 60; number, from 0 to 60",
		`"count": 1`:                "",
		`"count": 1.5`:              "count: value must be an integer; integer",
		`"count": 0`:                "count: number must be at least 1; integer",
		`"by": "éé"`:                "",
		`"by": "éééé"`:              "",
		`"by": "é"`:                 "by: minimum string length is 2; string, at least 2 letters, at most 4 letters, of the form ^[a-zé]",
		`"by": "ééééé"`:             "by: maximum string length is 4; string, at least 2 letters, at most 4 letters, of the form ^[a-zé]",
		`"by": "Abc"`:               "by: string doesn't match the regular expression \"^[a-zé]\"; string, at least 2 letters, at most 4 letters, of the form ^[a-zé]",
		`"kind": "other"`:           `kind: value is not one of the allowed values ["note","check"]; string, one of [note check]`,
		`"seen": [{"id": "abc"}]`:   "",
		`"seen": []`:                "seen: minimum number of items is 1; array, at least 1, at most 2",
		`"seen": [{"id": "a"}, {}]`: "seen[1].id: property \"id\" is missing; a value for every field of: id",
		`"seen": [{"id": "abcd"}]`:  "seen[0].id: maximum string length is 3; string, at most 3 letters",
		`"seen": [{"id":"a"},{"id":"b"},{"id":"c"}]`: "seen: maximum number of items is 2; array, at least 1, at most 2",
		`"of another year": 7`:                       "",
		`"minutes": "left to whoever reads"`:         "",
	} {
		body := map[string]any{"kind": "note", "by": "kit"}
		require.NoError(t, json.Unmarshal([]byte("{"+given+"}"), &body))
		raw, err := json.Marshal(body)
		require.NoError(t, err)
		err = c.Check("PUT /notes/{id}", raw)
		if refused == "" {
			require.NoError(t, err, given)
			continue
		}
		var wrong validation.Errors
		require.ErrorAs(t, err, &wrong, given)
		require.Len(t, wrong, 1, given)
		say := strings.Replace(string(wrong[0].Say), " does not fit", "", 1)
		assert.Equal(t, refused, say+"; "+string(wrong[0].Allowed), given)
		assert.Equal(t, wrong[0].Field, strings.SplitN(refused, ":", 2)[0])
	}
}

// What is missing is told, all of it at once, and told back shortly where it is long.
func TestAllThatDoesNotFitIsToldAtOnce(t *testing.T) {
	var wrong validation.Errors
	require.ErrorAs(t, contract(t).Check("PUT /notes/{id}", []byte(`{"by": "`+strings.Repeat("a", 500)+`"}`)), &wrong)
	require.Len(t, wrong, 2)
	assert.Equal(t, "by", wrong[0].Field)
	assert.Equal(t, 120+len("…"), len(wrong[0].Given))
	assert.Equal(t, "kind", wrong[1].Field)
	assert.Equal(t, "nothing", wrong[1].Given)
}

// What has no limits is not looked at, nor what is no JSON, nor anything without a contract.
func TestWhatHasNoLimits(t *testing.T) {
	c := contract(t)
	require.NoError(t, c.Check("GET /notes/{id}", []byte(`{}`)))
	require.NoError(t, c.Check("PUT /elsewhere", []byte(`{}`)))
	require.NoError(t, c.Check("PUT /notes/{id}", []byte(`{"by": `)))
	var none *limits.Contract
	require.NoError(t, none.Check("PUT /notes/{id}", []byte(`{}`)))
	assert.NotContains(t, c.Schemas, "Other", "nothing leads to it")
	_, err := limits.Of([]byte(spec), []string{"PUT /notes"})
	require.Error(t, err)
	_, err = limits.Of([]byte("{"), nil)
	require.Error(t, err)
}
