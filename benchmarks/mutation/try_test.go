package main

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestChange(t *testing.T) {
	source := []byte("package p\n\nfunc f(a, b int) bool { return a <= b-1 }\n")
	for _, c := range []struct {
		kind   string
		column int
		want   string
	}{
		{"CONDITIONALS_BOUNDARY", 34, "a < b-1"},
		{"CONDITIONALS_NEGATION", 34, "a > b-1"},
		{"ARITHMETIC_BASE", 38, "a <= b+1"},
	} {
		got, err := change(source, mutation{Type: c.kind, Line: 3, Column: c.column})
		require.NoError(t, err)
		assert.Equal(t, "package p\n\nfunc f(a, b int) bool { return "+c.want+" }\n", string(got))
	}
	for _, m := range []mutation{
		{Type: "ARITHMETIC_BASE", Line: 3, Column: 1},
		{Type: "ARITHMETIC_BASE", Line: 9, Column: 1},
		{Type: "ARITHMETIC_BASE", Line: 3, Column: 90},
		{Type: "unknown", Line: 3, Column: 38},
	} {
		_, err := change(source, m)
		assert.ErrorContains(t, err, "was the file changed")
	}
}
