package store

import (
	"context"
	"errors"
	"log/slog"
	"time"

	"gorm.io/gorm/logger"
)

// failures logs the statements that failed. GORM's own logger writes out every statement before it looks whether it is
// to be logged.
type failures struct{ logger.Interface }

func newFailures(to *slog.Logger) failures {
	return failures{logger.NewSlogLogger(to, logger.Config{LogLevel: logger.Error, IgnoreRecordNotFoundError: true})}
}

// LogMode gives the same at another level.
func (f failures) LogMode(level logger.LogLevel) logger.Interface {
	return failures{f.Interface.LogMode(level)}
}

// Trace logs a statement that failed with err, unless whoever asked went away.
func (f failures) Trace(ctx context.Context, begun time.Time, said func() (sql string, rows int64), err error) {
	if err != nil && !errors.Is(err, context.Canceled) {
		f.Interface.Trace(ctx, begun, said, err)
	}
}
