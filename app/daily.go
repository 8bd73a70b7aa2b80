package app

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

// keepDue has what is due reckoned as each day begins, so that the day's first who asks has it at once.
func (a *App) keepDue(ctx context.Context) {
	a.endDay() // once is enough
	ctx, a.endDays = context.WithCancel(context.WithoutCancel(ctx))
	a.days.Go(func() {
		eachDay(ctx, a.now, func() {
			if _, err := a.DueInYard(ctx, 0); err != nil && ctx.Err() == nil {
				slog.Error("what is due could not be reckoned for the day", "error", err)
			}
		})
	})
}

// endDay ends it.
func (a *App) endDay() {
	if a.endDays != nil {
		a.endDays()
		a.days.Wait()
	}
}
