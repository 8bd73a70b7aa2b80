package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/api"
	"hevrin/store"
)

// The test binary is the program itself when this is set, so that tests can run it, and kill it.
const runAsProgram = "HEVRIN_TEST_RUN_PROGRAM"

func TestMain(m *testing.M) {
	if os.Getenv(runAsProgram) != "" {
		main()
		return
	}
	os.Exit(m.Run())
}

type program struct {
	*exec.Cmd
	base string
}

var announced = regexp.MustCompile(`http://127\.0\.0\.1:\d+`)

func start(t *testing.T, args ...string) *program {
	t.Helper()
	cmd := exec.Command(os.Args[0], append(args, "--addr", "127.0.0.1:0")...) //nolint:gosec // the test's own binary
	cmd.Env = append(os.Environ(), runAsProgram+"=1")
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	go func() { _, _ = io.Copy(io.Discard, out) }()
	return &program{cmd, announced.FindString(line) + "/api/v1"}
}

func (p *program) put(path string, body map[string]any) (int, error) {
	raw, err := json.Marshal(body)
	if err != nil {
		return 0, err
	}
	r, err := http.NewRequest(http.MethodPut, p.base+path, bytes.NewReader(raw))
	if err != nil {
		return 0, err
	}
	r.Header.Set("Content-Type", "application/json")
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		return 0, err
	}
	defer func() { _ = answer.Body.Close() }()
	_, err = io.Copy(io.Discard, answer.Body)
	return answer.StatusCode, err
}

func (p *program) job(t *testing.T, id string) api.JobPage {
	t.Helper()
	answer, err := http.Get(p.base + "/jobs/" + id)
	require.NoError(t, err)
	defer func() { _ = answer.Body.Close() }()
	require.Equal(t, http.StatusOK, answer.StatusCode)
	var page api.JobPage
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&page))
	return page
}

// Killed while saving, again and again, the program loses no save that it answered.
func TestKilledWhileSavingItLosesNoAnsweredSave(t *testing.T) {
	folder := t.TempDir()
	craft, engine, job := uuid.NewString(), uuid.NewString(), uuid.NewString()
	answered := map[string]bool{}
	for round := range kills(5) {
		p := start(t, "serve", "--data", folder)
		if round == 0 {
			for path, body := range map[string]map[string]any{"/craft/" + craft: {"name": "c"}} {
				mustPut(t, p, path, body)
			}
			mustPut(t, p, "/engines/"+engine, map[string]any{"craft_id": craft, "name": "m", "family": "direct",
				"fuel":     "diesel",
				"rated_kw": 12, "rated_rpm": 2600, "thermostat_c": 60, "circuit": []string{"intake", "raw-pump", "elbow",
					"outlet"}})
			mustPut(t, p, "/jobs/"+job, map[string]any{"engine_id": engine})
		}
		death := time.AfterFunc(time.Duration(30+rand.IntN(250))*time.Millisecond, func() { _ = p.Process.Kill() })
		for n := 0; ; n++ {
			words := fmt.Sprintf("round %d note %d", round, n)
			status, err := p.put("/jobs/"+job+"/entries/"+uuid.NewString(), map[string]any{"kind": "note", "by": "T",
				"words": words})
			if err != nil {
				break // killed
			}
			require.Equal(t, http.StatusOK, status)
			answered[words] = true
		}
		death.Stop()
		_ = p.Wait()
	}
	require.NotEmpty(t, answered)
	p := start(t, "serve", "--data", folder)
	kept := map[string]bool{}
	for _, n := range p.job(t, job).Notes {
		assert.False(t, kept[n.Words], "kept twice: %s", n.Words)
		kept[n.Words] = true
	}
	for words := range answered {
		assert.True(t, kept[words], "lost: %s", words)
	}
	require.NoError(t, p.Process.Signal(syscall.SIGTERM))
	assert.NoError(t, p.Wait(), "a graceful stop ends without an error")
	s, err := store.Open(context.Background(), folder)
	require.NoError(t, err)
	assert.NoError(t, s.Check(context.Background(), true))
	assert.NoError(t, s.Close())
}

func mustPut(t *testing.T, p *program, path string, body map[string]any) {
	t.Helper()
	body["entry_id"], body["by"] = uuid.NewString(), "T"
	status, err := p.put(path, body)
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, status)
}

func TestDemoSeedsOnceAndRefusesOtherMachines(t *testing.T) {
	folder := t.TempDir()
	yard := func() api.Yard {
		p := start(t, "demo", "--data", folder)
		answer, err := http.Get(p.base + "/yard")
		require.NoError(t, err)
		defer func() { _ = answer.Body.Close() }()
		var y api.Yard
		require.NoError(t, json.NewDecoder(answer.Body).Decode(&y))
		require.NoError(t, p.Process.Signal(os.Interrupt))
		require.NoError(t, p.Wait())
		return y
	}
	first := yard()
	assert.GreaterOrEqual(t, len(first.Craft), 3)
	assert.Equal(t, first, yard(), "a second start adds nothing")

	cmd := exec.Command(os.Args[0], "serve", "--data", t.TempDir(), "--addr",
		"0.0.0.0:0") //nolint:gosec // the test's own binary
	cmd.Env = append(os.Environ(), runAsProgram+"=1")
	out, err := cmd.CombinedOutput()
	assert.Error(t, err)
	assert.Contains(t, string(out), "nobody signs in there")
}
