package demo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hevrin/app"
	"hevrin/core/catalogue"
	"hevrin/demo"
	"hevrin/store"
)

// From an empty folder to a program that answers.
func BenchmarkStart(b *testing.B) {
	for b.Loop() {
		c, err := catalogue.Load()
		require.NoError(b, err)
		s, err := store.Open(context.Background(), b.TempDir())
		require.NoError(b, err)
		require.NoError(b, demo.Seed(context.Background(), c, s))
		a := app.New(c, s, time.Now)
		require.NoError(b, a.Resume(context.Background()))
		a.Close()
		require.NoError(b, s.Close())
	}
}
