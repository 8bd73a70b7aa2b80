package store

import (
	"bytes"
	"context"
	"errors"
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

func TestOnlyStatementsThatFailedAreWrittenOut(t *testing.T) {
	var log bytes.Buffer
	all := newFailures(slog.New(slog.NewTextHandler(&log, nil)))
	said := 0
	say := func() (string, int64) { said++; return "INSERT INTO entries", 1 }
	for _, f := range []logger.Interface{all, all.LogMode(logger.Error)} {
		log.Reset()
		said = 0
		f.Trace(context.Background(), time.Now(), say, nil)
		assert.Zero(t, said)
		f.Trace(context.Background(), time.Now(), say, gorm.ErrRecordNotFound)
		assert.Empty(t, log.String(), "what is looked for and is not there is no failure")
		f.Trace(context.Background(), time.Now(), say, errors.New("the disk is full"))
		assert.Contains(t, log.String(), "INSERT INTO entries")
		assert.Contains(t, log.String(), "the disk is full")
	}
}
