package maintenance

import (
	"context"
	"log/slog"
	"time"
)

// eachDay does something as each day begins, UTC, as the due lists count days; until its context ends.
func eachDay(ctx context.Context, now func() time.Time, do func()) {
	for {
		t := now().UTC()
		wait := time.NewTimer(t.Truncate(24*time.Hour).AddDate(0, 0, 1).Sub(t))
		select {
		case <-ctx.Done():
			wait.Stop()
			return
		case <-wait.C:
			do()
		}
	}
}

// ComputeDueDaily has what is due computed as each day begins, so that the day's first who asks has it at once.
func (a *Schedule) ComputeDueDaily(ctx context.Context) {
	a.StopDaily() // once is enough
	ctx, a.stopDays = context.WithCancel(context.WithoutCancel(ctx))
	a.days.Go(func() {
		eachDay(ctx, a.Now, func() {
			if _, err := a.DueInYard(ctx, 0); err != nil && ctx.Err() == nil {
				slog.Error("what is due could not be computed for the day", "error", err)
			}
		})
	})
}

// StopDaily ends it.
func (a *Schedule) StopDaily() {
	if a.stopDays != nil {
		a.stopDays()
		a.days.Wait()
	}
}
