package main

import (
	"bytes"
	"context"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/eventlog"
	"hevrin/store"
)

// runs runs a command of the program to its end.
func runs(t *testing.T, args ...string) (string, error) {
	t.Helper()
	cmd := exec.Command(os.Args[0], args...) //nolint:gosec // the test's own binary
	cmd.Env = append(os.Environ(), runAsProgram+"=1")
	out, err := cmd.CombinedOutput()
	return string(out), err
}

// A backup taken while saves go on, some of them killed in the middle, and the program killed at last: what was
// answered before a backup began is in it, what was answered at all is in the record, and both are whole.
func TestBackupsWhileWritingAndKilled(t *testing.T) {
	folder, backups := t.TempDir(), t.TempDir()
	craft, engine, job := uuid.NewString(), uuid.NewString(), uuid.NewString()
	p := start(t, "serve", "--data", folder)
	mustPut(t, p, "/craft/"+craft, map[string]any{"name": "c"})
	mustPut(t, p, "/engines/"+engine, map[string]any{"craft_id": craft, "name": "m", "family": "direct", "fuel": "diesel",
		"rated_kw": 12, "rated_rpm": 2600, "thermostat_c": 60, "circuit": []string{"intake", "raw-pump", "elbow", "outlet"}})
	mustPut(t, p, "/jobs/"+job, map[string]any{"engine_id": engine})

	var mu sync.Mutex
	var answered []string
	stopped := make(chan struct{})
	go func() {
		defer close(stopped)
		for n := 0; ; n++ {
			words := fmt.Sprintf("note %d", n)
			status, err := p.put("/jobs/"+job+"/entries/"+uuid.NewString(), map[string]any{"kind": "note", "by": "T",
				"words": words})
			if err != nil || status != http.StatusOK {
				return // killed
			}
			mu.Lock()
			answered = append(answered, words)
			mu.Unlock()
		}
	}()
	known := func() []string { mu.Lock(); defer mu.Unlock(); return append([]string(nil), answered...) }
	require.Eventually(t, func() bool { return len(known()) > 5 }, 60*time.Second, time.Millisecond)
	whole := map[string][]string{} // by backup: what was answered before it began
	for i := range max(12, 2*kills(0)) {
		file := filepath.Join(backups, fmt.Sprintf("%d.db", i))
		before := known()
		cmd := exec.Command(os.Args[0], "backup", file, "--data", folder) //nolint:gosec // the test's own binary
		cmd.Env = append(os.Environ(), runAsProgram+"=1")
		require.NoError(t, cmd.Start())
		if i%2 == 1 {
			time.AfterFunc(time.Duration(5+rand.IntN(120))*time.Millisecond, func() { _ = cmd.Process.Kill() })
		}
		if cmd.Wait() == nil {
			whole[file] = before
		} else {
			assert.Equal(t, 1, i%2, "a backup that nobody killed failed")
		}
	}
	require.NoError(t, p.Process.Kill())
	_ = p.Wait()
	<-stopped
	require.GreaterOrEqual(t, len(whole), 6)
	files, err := filepath.Glob(filepath.Join(backups, "*.db"))
	require.NoError(t, err)
	for _, file := range files { // one that was killed has no name, or is whole
		into := filepath.Join(t.TempDir(), "restored")
		out, err := runs(t, "restore", file, "--data", into)
		require.NoError(t, err, out)
		holdsNotes(t, into, job, whole[file])
	}
	holdsNotes(t, folder, job, known())
}

// holdsNotes sees that a record is whole and has every note.
func holdsNotes(t *testing.T, folder, job string, notes []string) {
	t.Helper()
	s, err := store.Open(context.Background(), folder)
	require.NoError(t, err)
	defer func() { assert.NoError(t, s.Close()) }()
	assert.NoError(t, s.Check(context.Background(), true))
	entries, err := s.Read(context.Background()).Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: job})
	require.NoError(t, err)
	kept := map[string]bool{}
	for _, e := range entries {
		kept[e.Body.Words] = true
	}
	for _, words := range notes {
		assert.True(t, kept[words], "lost: %s", words)
	}
}

var jobLine = regexp.MustCompile(`(?m)^([0-9a-f-]{36})  2026-05-14  Sallow Ebb`)

func TestExportAndImportByCommand(t *testing.T) {
	folder, empty, out := t.TempDir(), t.TempDir(), t.TempDir()
	p := start(t, "demo", "--data", folder)
	list, err := runs(t, "export", "--data", folder)
	require.NoError(t, err, list)
	found := jobLine.FindStringSubmatch(list)
	require.NotNil(t, found, list)
	job := found[1]
	file := filepath.Join(out, "job.hevrin.json")
	said, err := runs(t, "export", job, "--data", folder, "--out", file)
	require.NoError(t, err, said)
	said, err = runs(t, "export", job, "--data", folder, "--out", file)
	assert.Error(t, err)
	assert.Contains(t, said, "there already")
	for as, begins := range map[string]string{"report": "%PDF", "readings": "\uFEFFtaken at", "parts": "\uFEFFcraft"} {
		said, err = runs(t, "export", job, "--data", folder, "--as", as, "--out", "-")
		require.NoError(t, err)
		assert.True(t, strings.HasPrefix(said, begins), as)
	}
	require.NoError(t, p.Process.Signal(syscall.SIGTERM))
	require.NoError(t, p.Wait())

	said, err = runs(t, "import", file, "--data", empty, "--try")
	require.NoError(t, err, said)
	assert.Contains(t, said, "Would take: Sallow Ebb, Main")
	said, err = runs(t, "import", file, "--data", empty)
	require.NoError(t, err, said)
	again := filepath.Join(out, "again.hevrin.json")
	_, err = runs(t, "export", job, "--data", empty, "--out", again)
	require.NoError(t, err)
	was, err := os.ReadFile(file) //nolint:gosec // the test's own
	require.NoError(t, err)
	is, err := os.ReadFile(again) //nolint:gosec // the test's own
	require.NoError(t, err)
	exported := regexp.MustCompile(`"exported_at": "[^"]*"`)
	assert.True(t, bytes.Equal(exported.ReplaceAll(was, nil), exported.ReplaceAll(is, nil)),
		"the same bytes but for the time")

	large := filepath.Join(out, "large.json")
	require.NoError(t, os.WriteFile(large, nil, 0o600))
	require.NoError(t, os.Truncate(large, 1<<30))
	said, err = runs(t, "import", large, "--data", empty)
	assert.Error(t, err)
	assert.Contains(t, said, "no job's file is over")
	said, err = runs(t, "restore", file, "--data", t.TempDir())
	assert.Error(t, err)
	assert.Contains(t, said, "no backup of Hevrin")
}
