package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
)

func (h *house) diagnose(q map[string]any) api.Answer {
	h.t.Helper()
	return read[api.Answer](h.t, h.postJSON("/api/v1/diagnose", q))
}

func offered(t *testing.T, a api.Answer, check string) api.NextCheck {
	t.Helper()
	for _, n := range a.NextChecks {
		if n.Check == check {
			return n
		}
	}
	require.Fail(t, "not offered", check)
	return api.NextCheck{}
}

// The state that is given costs minutes where it is known to stand in the way, is told where it is not known, and bars
// what the engine must not do.
func TestAStateThatIsGivenIsCounted(t *testing.T) {
	h := newHouse(t)
	hot := map[string]any{"family": "closed", "findings": []any{map[string]any{"id": "hot-under-load", "state": "present"}}}
	bare := h.diagnose(hot)
	assert.Nil(t, offered(t, bare, "strainer-look").NeedsFirst, "nothing was said of a state")

	hot["state"] = map[string]any{"running": true, "heat": "hot"}
	a := h.diagnose(hot)
	look := offered(t, a, "strainer-look")
	assert.Equal(t, 1.0, *look.StateMinutes, "open, and to be shut: a minute")
	assert.Empty(t, *look.NeedsFirst)
	assert.Equal(t, 110.0, *offered(t, a, "coolant-level").StateMinutes, "it just ran")

	hot["state"] = map[string]any{}
	look = offered(t, h.diagnose(hot), "strainer-look")
	assert.Nil(t, look.StateMinutes)
	require.Len(t, *look.NeedsFirst, 1)
	assert.Equal(t, "seacock-shut", (*look.NeedsFirst)[0].Id)
	assert.False(t, (*look.NeedsFirst)[0].Known)

	hot["state"] = map[string]any{"open_access": []string{"pump-cover-off"}, "isolated": []string{"seacock"}}
	a = h.diagnose(hot)
	assert.Zero(t, offered(t, a, "impeller-look").AccessMinutes)
	assert.Positive(t, *offered(t, a, "outlet-flow").StateMinutes, "closed up before it runs")
	assert.Equal(t, http.StatusUnprocessableEntity, h.postJSON("/api/v1/diagnose", map[string]any{"family": "closed",
		"state": map[string]any{"open_access": []string{"hatch"}}}).Code)
}

// A way of cooling that the catalogue has not is refused with those that it has, wherever an engine is given.
func TestAnUnknownFamilyIsRefused(t *testing.T) {
	h := newHouse(t)
	engine := map[string]any{"family": "keel", "fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000,
		"circuit": []string{"intake", "raw-pump", "outlet"}}
	for path, body := range map[string]any{
		"/api/v1/diagnose":    map[string]any{"family": "keel", "findings": []any{}},
		"/api/v1/plant/facts": map[string]any{"engine": engine},
	} {
		a := h.postJSON(path, body)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Code, path)
		assert.Contains(t, a.Body.String(), "closed, direct", path)
	}
}

// Milky oil is answered with looks at a standing engine: nothing that runs it.
func TestMilkyOilOffersNoRunningCheck(t *testing.T) {
	h := newHouse(t)
	c := read[api.Catalogue](t, h.send(http.MethodGet, "/api/v1/catalogue", ""))
	running := map[string]bool{}
	for _, k := range c.Checks {
		running[k.Id] = k.Engine == "running"
	}
	a := h.diagnose(map[string]any{"family": "closed", "findings": []any{map[string]any{"id": "milky-oil", "state": "present"}}})
	require.NotEmpty(t, a.NextChecks)
	for _, n := range a.NextChecks {
		assert.False(t, running[n.Check], n.Check)
	}
	require.NotNil(t, a.NotOffered)
	require.NotEmpty(t, *a.NotOffered)
	assert.Contains(t, (*a.NotOffered)[0].Reason, "Oil changed")
}

func TestWhatIsSeenIsGivenAndASecondLookIsTaken(t *testing.T) {
	h := newHouse(t)
	a := h.diagnose(map[string]any{"family": "closed", "findings": []any{map[string]any{"id": "tubes-crusted", "state": "present"}}})
	assert.Equal(t, []string{"tubes-scaled"}, a.Found)
	assert.Equal(t, []string{"tubes-scaled"}, a.Given)
	assert.Equal(t, api.AnswerAdvice("put-right-and-prove"), a.Advice)
	twice := func(looks int) float64 {
		a := h.diagnose(map[string]any{"family": "closed", "findings": []any{map[string]any{"id": "came-gradually", "state": "present"},
			map[string]any{"id": "tubes-crusted", "state": "absent", "looks": looks}}})
		for _, s := range a.Suspects {
			if s.Fault == "tubes-scaled" {
				return s.Probability
			}
		}
		return 0
	}
	assert.Less(t, twice(2), twice(1))
}
