package maintenance

import (
	"context"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
)

// Over three days and a bit of a clock that is drawn ahead it is done three times, each as a day begins; ended, never
// again.
func TestItIsDoneAsEachDayBegins(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		ctx, end := context.WithCancel(t.Context())
		east := time.FixedZone("east", 9*3600) // a zone of the machine's own makes no other day
		var done []time.Time
		go eachDay(ctx, func() time.Time { return time.Now().In(east) }, func() { done = append(done, time.Now().UTC()) })
		begun := time.Now().UTC().Truncate(24 * time.Hour)
		time.Sleep(3*24*time.Hour + 5*time.Hour)
		synctest.Wait()
		assert.Equal(t, []time.Time{begun.AddDate(0, 0, 1), begun.AddDate(0, 0, 2), begun.AddDate(0, 0, 3)}, done)
		end()
		synctest.Wait()
		time.Sleep(48 * time.Hour)
		assert.Len(t, done, 3)
	})
}
