package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/store"
)

// One entry in a transaction of its own, with full sync.
func BenchmarkAppend(b *testing.B) {
	s, err := store.Open(context.Background(), b.TempDir())
	require.NoError(b, err)
	defer func() { _ = s.Close() }()
	subject := eventlog.Subject{Kind: eventlog.OfJob, ID: uuid.NewString()}
	for b.Loop() {
		e := eventlog.Entry{ID: uuid.NewString(), Subject: subject, Kind: eventlog.Noted, By: "U", At: time.Now().UTC(),
			Body: eventlog.Body{Words: "Dry at the cover"}}
		require.NoError(b, s.Write(context.Background(), func(tx record.Tx) error { return tx.Append(e) }))
	}
}
