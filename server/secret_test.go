package server_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Answers that hold a token, or are for who has one, are kept by nobody on the way.
func TestTokensAreNotKeptOnTheWay(t *testing.T) {
	y := newYard(t, ownTLS)
	boss := y.boss()
	for _, path := range []string{"/session", "/session/news", "/people", "/audit", "/jobs/" + id() + "/links", "/shared/x",
		"/invitations/x"} {
		assert.Equal(t, "no-store", boss.ask("GET", base+path, nil).Header().Get("Cache-Control"), path)
	}
	assert.Equal(t, "no-cache", boss.ask("GET", base+"/yard", nil).Header().Get("Cache-Control"))
}
