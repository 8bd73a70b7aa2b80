package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/store"
)

func TestAStatementOutlivesItsTransaction(t *testing.T) {
	s, err := store.Open(t.Context(), t.TempDir())
	require.NoError(t, err)
	defer func() { require.NoError(t, s.Close()) }()
	one, err := store.Begin(s, 2)
	require.NoError(t, err)
	statement, err := one.PrepareContext(t.Context(), "SELECT 1")
	require.NoError(t, err)
	require.NoError(t, one.Commit())
	var n int
	require.NoError(t, statement.QueryRowContext(t.Context()).Scan(&n), "the next transaction asks for it")
	require.NoError(t, statement.Close())

	two, err := store.Begin(s, 2)
	require.NoError(t, err)
	_, err = two.ExecContext(t.Context(), "CREATE TABLE unseen (id INTEGER)")
	require.NoError(t, err)
	_, err = two.PrepareContext(t.Context(), "SELECT id FROM unseen")
	require.NoError(t, err, "no other connection sees it yet")
	require.NoError(t, two.Rollback())

	three, err := store.Begin(s, 1)
	require.NoError(t, err)
	prepared := make(chan error)
	go func() {
		_, err := three.PrepareContext(t.Context(), "SELECT 2")
		prepared <- err
	}()
	select {
	case err := <-prepared:
		assert.NoError(t, err, "on its own connection, as no other is free")
	case <-time.After(10 * time.Second):
		t.Error("it waits for the connection that it holds itself")
	}
	require.NoError(t, three.Rollback())
}
