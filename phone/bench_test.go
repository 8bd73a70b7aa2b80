package phone_test

import (
	"encoding/json"
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"hevrin/phone"
)

// BenchmarkTap is what a tap on a finding costs the phone's program, here without WebAssembly: that takes some three
// times as long.
func BenchmarkTap(b *testing.B) {
	w := newWalk(b)
	w.drawJob(3, 6)
	p, err := phone.New()
	require.NoError(b, err)
	var last *phone.Request
	for _, s := range w.steps {
		switch {
		case s.Request == nil:
			require.NoError(b, p.Take(s.Along))
		case s.Request.Method == http.MethodPut:
			last = s.Request
			p.Answer(*s.Request)
		}
	}
	for i := 0; b.Loop(); i++ {
		state := "present"
		if i%2 == 1 {
			state = "absent"
		}
		raw, err := json.Marshal(map[string]any{"kind": "finding", "by": "Wren",
			"stated": []map[string]any{{"id": "weak-water-at-outlet", "state": state}}})
		require.NoError(b, err)
		r := phone.Request{Method: http.MethodPut, Path: "/jobs/" + w.job + "/entries/" + uuid.NewString(), Body: raw,
			At: last.At, Units: "metric"}
		a := p.Answer(r)
		require.Equal(b, http.StatusOK, a.Status, string(a.Body))
	}
}
