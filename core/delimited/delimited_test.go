package delimited_test

import (
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/delimited"
)

func TestLimits(t *testing.T) {
	row := func(cells int) string { return strings.Repeat(",", cells-1) + "\n" }
	for name, c := range map[string]struct {
		text string
		line int // 0: it is taken
	}{
		"none":                 {"", 0},
		"a table":              {"a,b\n1,\"x\ny\"\n", 0},
		"as many columns":      {row(delimited.MostCells), 0},
		"one more":             {"a,b\n" + row(delimited.MostCells+1), 2},
		"as long":              {strings.Repeat("x", delimited.MostBytes) + "\n", 0},
		"longer":               {"\n\n" + strings.Repeat("x", delimited.MostBytes+2), 3},
		"a quote never closed": {"a\n\"" + strings.Repeat("x\n", delimited.MostBytes), 2},
		"a quote within":       {strings.Repeat("1\" pipe\n", delimited.MostBytes), 0},
		"quotes alone":         {strings.Repeat("\"", 6<<20), 1},
		"commas alone":         {strings.Repeat(",", 20<<20), 1},
		"many good rows":       {strings.Repeat("1,\"2,3\",4\n", 100_000), 0},
	} {
		t.Run(name, func(t *testing.T) {
			err := delimited.Check(c.text, ',')
			if c.line == 0 {
				require.NoError(t, err)
				return
			}
			var large *delimited.TooLarge
			require.ErrorAs(t, err, &large)
			assert.Equal(t, c.line, large.Line)
		})
	}
}

// What is taken holds no row that encoding/csv finds larger.
func TestItCountsAsTheReaderDoes(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		piece := rapid.SampledFrom([]string{",", "\"", "\n", "x", "\"\"", strings.Repeat(",", 700), "\",\"", "\r\n"})
		text := strings.Join(rapid.SliceOfN(piece, 0, 40).Draw(t, "text"), "")
		r := csv.NewReader(strings.NewReader(text))
		r.LazyQuotes, r.FieldsPerRecord = true, -1
		rows, err := r.ReadAll()
		if err != nil || delimited.Check(text, ',') != nil {
			return
		}
		for _, row := range rows {
			if len(row) > delimited.MostCells {
				t.Fatalf("a row of %d", len(row))
			}
		}
	})
}

func BenchmarkCheck(b *testing.B) {
	text := strings.Repeat("12.5,\"a, b\",3,4,5\n", 1<<20)
	b.SetBytes(int64(len(text)))
	for b.Loop() {
		if err := delimited.Check(text, ','); err != nil {
			b.Fatal(err)
		}
	}
}
