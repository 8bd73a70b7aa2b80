package server_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"sort"
	"strconv"
	"strings"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api/routes"
	"hevrin/core/catalogue"
	"hevrin/server"
)

// drawer draws requests from the contract: mostly what fits it, now and then what does not.
type drawer struct {
	r     *rand.Rand
	words []string // ids that mean something to the program, and some that mean nothing
}

// value draws something that a schema takes, or, seldom, something else.
func (d *drawer) value(ref *openapi3.SchemaRef, depth int) any {
	if ref == nil || ref.Value == nil || d.r.IntN(200) == 0 {
		return []any{nil, "", "=1+1", -1, 1e300, true, []any{}, map[string]any{}, "\u202e👍\x00"}[d.r.IntN(9)]
	}
	s := ref.Value
	if len(s.AllOf) > 0 {
		return d.value(s.AllOf[0], depth)
	}
	if len(s.OneOf) > 0 {
		return d.value(s.OneOf[d.r.IntN(len(s.OneOf))], depth)
	}
	if len(s.Enum) > 0 {
		return s.Enum[d.r.IntN(len(s.Enum))]
	}
	switch {
	case s.Type.Is("object"):
		return d.object(s, depth)
	case s.Type.Is("array"):
		list := []any{}
		least := int(s.MinItems) //nolint:gosec // small
		for range least + d.r.IntN(3) {
			if depth < 6 {
				list = append(list, d.value(s.Items, depth+1))
			}
		}
		return list
	case s.Type.Is("boolean"):
		return d.r.IntN(2) == 0
	case s.Type.Is("integer"):
		return int(d.number(s))
	case s.Type.Is("number"):
		return d.number(s)
	}
	return d.text(s)
}

func (d *drawer) object(s *openapi3.Schema, depth int) any {
	out := map[string]any{}
	names := make([]string, 0, len(s.Properties))
	for name := range s.Properties {
		names = append(names, name)
	}
	sort.Strings(names) // the same requests from the same seed
	required := map[string]bool{}
	for _, name := range s.Required {
		required[name] = true
	}
	for _, name := range names {
		if required[name] && d.r.IntN(100) > 0 || !required[name] && d.r.IntN(3) == 0 && depth < 6 {
			out[name] = d.value(s.Properties[name], depth+1)
		}
	}
	return out
}

func (d *drawer) number(s *openapi3.Schema) float64 {
	least, most := -50.0, 200.0
	if s.Min != nil {
		least = *s.Min
	}
	if s.Max != nil {
		most = *s.Max
	}
	switch d.r.IntN(8) {
	case 0:
		return least
	case 1:
		return most
	case 2:
		return 0
	}
	return least + d.r.Float64()*(most-least)
}

func (d *drawer) text(s *openapi3.Schema) string {
	switch {
	case s.Format == "date-time":
		return []string{"2026-05-01T08:00:00Z", "9000-01-01T00:00:00Z", "1900-01-01T00:00:00Z"}[d.r.IntN(3)]
	case s.Format == "byte":
		return []string{"", "aGFsbG8=", "JFNERFQ="}[d.r.IntN(3)]
	case strings.Contains(s.Pattern, "[0-9a-f]{8}"):
		return uuid.NewString()
	case strings.Contains(s.Pattern, "[0-9]{4}"):
		return []string{"2026-05-01", "2026-02-30", "0000-00-00"}[d.r.IntN(3)]
	}
	return d.words[d.r.IntN(len(d.words))]
}

// idsOf lists the ids that the catalogue knows: drawn requests are to come far into the program.
func idsOf(t testing.TB) []string {
	c, err := catalogue.Load()
	require.NoError(t, err)
	list := []string{"", "x", "Kit", "mast", strings.Repeat("W", 200), "a\r\nb", "Bella 👍", "127.0.0.1:1", "heat-carried",
		"rpm", "raw", "coolant"}
	for _, s := range c.Stations {
		list = append(list, s.ID)
	}
	for _, f := range c.Findings {
		list = append(list, f.ID)
	}
	for _, k := range c.Checks {
		list = append(list, k.ID)
	}
	for _, f := range c.Faults {
		list = append(list, f.ID)
	}
	return list
}

// Requests drawn from the contract, thousands of them on one record: each has its answer, none of 500 or more, none a
// panic. HEVRIN_REQUESTS says how many; make fuzz draws a hundred thousand.
func TestDrawnRequestsAreAnswered(t *testing.T) {
	spec, err := routes.GetSpec()
	require.NoError(t, err)
	h := newHouse(t)
	craft, engine, job := uuid.NewString(), uuid.NewString(), uuid.NewString()
	require.Equal(t, http.StatusOK, h.put("/craft/"+craft, map[string]any{"entry_id": uuid.NewString(), "by": "Kit",
		"name": "Gull"}).Code)
	require.Equal(t, http.StatusOK, h.put("/engines/"+engine, map[string]any{"entry_id": uuid.NewString(), "by": "Kit",
		"craft_id": craft, "name": "Main", "family": "closed", "fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000,
		"thermostat_c": 82, "circuit": heavyCircuit}).Code)
	require.Equal(t, http.StatusOK, h.put("/jobs/"+job, map[string]any{"entry_id": uuid.NewString(), "by": "Kit",
		"engine_id": engine, "words": "hot"}).Code)
	many := 600
	if n, err := strconv.Atoi(os.Getenv("HEVRIN_REQUESTS")); err == nil {
		many = n
	}
	seed := uint64(len(os.Getenv("HEVRIN_REQUESTS"))) + 7
	d := &drawer{rand.New(rand.NewPCG(seed, 1)), idsOf(t)}
	type operation struct {
		method, path string
		of           *openapi3.Operation
	}
	var all []operation
	for _, path := range spec.Paths.InMatchingOrder() {
		for method, of := range spec.Paths.Value(path).Operations() {
			if !strings.HasSuffix(path, "/stream") && path != "/changes" && path != "/backup" { // they do not end, or take long
				all = append(all, operation{method, path, of})
			}
		}
	}
	sort.Slice(all, func(i, j int) bool { return all[i].path+all[i].method < all[j].path+all[j].method })
	known := map[string]string{"{craft_id}": craft, "{engine_id}": engine, "{job_id}": job}
	codes := map[int]int{}
	for range many {
		o := all[d.r.IntN(len(all))]
		path, query := o.path, url.Values{}
		for id, is := range known {
			if d.r.IntN(10) > 0 {
				path = strings.ReplaceAll(path, id, is)
			}
		}
		for _, p := range append(spec.Paths.Value(o.path).Parameters, o.of.Parameters...) {
			drawn := fmt.Sprint(d.value(p.Value.Schema, 0))
			if p.Value.In == "path" {
				path = strings.ReplaceAll(path, "{"+p.Value.Name+"}", url.PathEscape(drawn))
			} else if p.Value.In == "query" && d.r.IntN(2) == 0 {
				query.Set(p.Value.Name, drawn)
			}
		}
		body := ""
		if o.of.RequestBody != nil {
			drawn := d.value(o.of.RequestBody.Value.Content.Get("application/json").Schema, 0)
			if m, ok := drawn.(map[string]any); ok && m["engine_id"] != nil && d.r.IntN(10) > 0 {
				m["engine_id"] = engine
			}
			raw, err := json.Marshal(drawn)
			require.NoError(t, err)
			body = string(raw)
		}
		r := httptest.NewRequest(o.method, server.BasePath+path+"?"+query.Encode(), strings.NewReader(body))
		r.Host = "localhost:8420"
		r.Header.Set("Content-Type", "application/json")
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		codes[w.Code]++
		wanted := w.Code < 500
		if !assert.True(t, wanted, "%s %s?%s %s: %d %s", o.method, path, query.Encode(), body, w.Code, w.Body.String()) {
			return
		}
	}
	t.Log("answers", codes)
	assert.Greater(t, codes[http.StatusOK], many/10, "drawn requests are to come far")
}
