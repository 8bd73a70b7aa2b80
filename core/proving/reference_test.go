package proving_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/proving"
	"hevrin/reference"
)

// Drawn runs come out as by scipy's straight lines (scipy.stats.linregress) and numpy's medians, written apart from the
// core: reference/make.py. Every figure to nine places.
func TestRunsAsByTheReferenceLibrary(t *testing.T) {
	samples := map[string][]proving.Sample{}
	for _, row := range reference.Rows("test-run-samples") {
		name := row["run"]
		samples[name] = append(samples[name], proving.Sample{Seconds: row.Number("seconds"),
			CoolantC: row.Number("coolant_c")})
	}
	verdicts := map[string]int{}
	for _, row := range reference.Rows("test-run-results") {
		name := row["run"]
		require.NotEmpty(t, samples[name], name)
		run := proving.Run{RatingC: row.Number("rating_c"), Samples: samples[name], Load: proving.Load(row["load"]),
			PlateauMinutes: row.Number("plateau_minutes"), SlopeCMin: row.Number("slope_c_min"),
			BelowC: row.Number("below_c"), AboveC: row.Number("above_c")}
		is := run.Judge()
		assert.Equal(t, row["verdict"], string(is.Verdict), name)
		verdicts[row["verdict"]]++
		assert.Equal(t, row["odd"], strings.Trim(fmt.Sprint(is.Odd), "[]"), name)
		for figure, got := range map[string]*float64{"warm_up_c_min": is.WarmUpCMin, "opened_s": is.OpenedAtS,
			"opened_c": is.OpenedC, "plateau_c": is.PlateauC, "from_s": is.PlateauFromS, "to_s": is.PlateauToS,
			"slope": is.SlopeCMin, "slope_error": is.SlopeErrorC, "overshoot_c": is.OvershootC} {
			if row[figure] == "" {
				assert.Nil(t, got, "%s: %s", name, figure)
				continue
			}
			if assert.NotNil(t, got, "%s: %s", name, figure) {
				assert.InDelta(t, row.Number(figure), *got, max(1e-7, 1e-10*row.Number(figure)), "%s: %s", name, figure)
			}
		}
	}
	assert.GreaterOrEqual(t, len(verdicts), 6, "each way in which a run may end: %v", verdicts)
}
