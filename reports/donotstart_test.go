package reports_test

import (
	"bytes"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hevrin/reports"
)

func TestTheSheetToHangIsOnePageUntilItsReasonsFillIt(t *testing.T) {
	at := time.Date(2026, 5, 18, 9, 0, 0, 0, time.UTC)
	pages := func(reasons int) int {
		d := reports.DoNotStart{Craft: "Brackling", Engine: "Main", NoCranking: true,
			Reasons: make([]reports.Reason, reasons)}
		for i := range d.Reasons {
			d.Reasons[i] = reports.Reason{Label: "Pump cover off", Why: "since 09:12, by Kit Venn"}
		}
		raw, err := d.PDF(at, "test")
		require.NoError(t, err)
		again, err := d.PDF(at, "test")
		require.NoError(t, err)
		require.True(t, bytes.Equal(raw, again), "the same sheet is the same file")
		return bytes.Count(raw, []byte("/Type /Page\n"))
	}
	require.Equal(t, 1, pages(0))
	require.Equal(t, 1, pages(12))
	require.Greater(t, pages(60), 1, "nothing is left out")
}
