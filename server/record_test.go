package server_test

import (
	"context"
	"encoding/json"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/app"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/server"
	"hevrin/store"
)

// place is a record's place as somebody found it.
type place struct {
	record.Place
	health record.Health
	fails  error
}

func (p *place) Health(context.Context) record.Health { return p.health }
func (p *place) Check(context.Context, bool) error    { return p.fails }
func (p *place) MakeBackup(context.Context) error     { return p.fails }
func (p *place) Backups(context.Context) ([]record.StoredBackup, error) {
	return nil, p.fails
}
func (p *place) VerifyBackup(context.Context, string) error   { return p.fails }
func (p *place) RestoreAtStart(context.Context, string) error { return p.fails }

func at(t *testing.T, p *place) *house {
	c, err := catalogue.Load()
	require.NoError(t, err)
	s, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	e, err := server.New(server.Config{App: app.New(c, s, time.Now), Place: p, Version: "test"})
	require.NoError(t, err)
	return &house{t, e, s}
}

// Health tells what is wrong with the place by name and what to do; when the yard is reminded of backups.
func TestHealthIsHonest(t *testing.T) {
	now := time.Now()
	for name, c := range map[string]struct {
		is     record.Health
		status string
		old    bool
	}{
		"well": {record.Health{Newest: now, Backup: record.BackupState{Folder: "b", Last: now.Add(-47 * time.Hour)}},
			"ok", false},
		"no backup for two days": {record.Health{Newest: now, Backup: record.BackupState{Folder: "b",
			Last: now.Add(-49 * time.Hour)}}, "ok", true},
		"none ever":              {record.Health{Newest: now, Backup: record.BackupState{Folder: "b"}}, "ok", true},
		"nothing to back up yet": {record.Health{Backup: record.BackupState{Folder: "b"}}, "ok", false},
		"full":                   {record.Health{Trouble: &record.Trouble{Kind: record.Full}}, "trouble", false},
		"damaged":                {record.Health{Trouble: &record.Trouble{Kind: record.Damaged}}, "trouble", false},
	} {
		h := at(t, &place{health: c.is})
		var got api.Health
		require.NoError(t, json.Unmarshal(h.send(http.MethodGet, server.BasePath+"/health", "").Body.Bytes(), &got), name)
		assert.Equal(t, c.status, got.Status, name)
		assert.Equal(t, c.old, got.Record.Backup.Old != nil, name)
		if c.is.Trouble != nil {
			assert.EqualValues(t, c.is.Trouble.Kind, *got.Record.Trouble, name)
			assert.NotEmpty(t, *got.Record.Say, name)
		}
	}
}

// Trouble with the place is no slip of whoever asked: it is told by name, with when to try again.
func TestTroubleIsToldByName(t *testing.T) {
	for _, kind := range []record.TroubleKind{record.Full, record.ReadOnly, record.Damaged, record.Gone, record.Busy} {
		h := at(t, &place{fails: &record.Trouble{Kind: kind}})
		w := h.send(http.MethodPost, server.BasePath+"/record/backups", "")
		assert.Equal(t, http.StatusServiceUnavailable, w.Code)
		assert.NotEmpty(t, w.Header().Get("Retry-After"))
		var p api.Problem
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &p))
		assert.Equal(t, "/problems/record/"+string(kind), *p.Type)
		assert.Contains(t, p.Detail, "Nothing was half kept")
		assert.Equal(t, http.StatusOK, h.send(http.MethodPost, server.BasePath+"/record/check", "").Code,
			"what a check finds stands in its answer")
	}
}

// A device that asks for more than its share is told when to ask again, and answered again then.
func TestADeviceThatAsksForTooMuchIsTold(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	s, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	e, err := server.New(server.Config{App: app.New(c, s, time.Now), Version: "test", MostPerSecond: 2})
	require.NoError(t, err)
	h := &house{t, e, s}
	codes := map[int]int{}
	for range 30 {
		w := h.send(http.MethodGet, server.BasePath+"/health", "")
		codes[w.Code]++
		if w.Code == http.StatusTooManyRequests {
			assert.Equal(t, "1", w.Header().Get("Retry-After"))
		}
	}
	assert.InDelta(t, 10, codes[http.StatusOK], 1, "a burst of five seconds' worth")
	assert.Equal(t, 30, codes[http.StatusOK]+codes[http.StatusTooManyRequests])
}
