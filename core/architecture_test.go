// Package core_test keeps the rules of the house: who may import whom.
package core_test

import (
	"os/exec"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rooms lists, for every room, the rooms of ours that it may import. See docs/architecture.md.
var rooms = map[string][]string{
	"core/input":      {},
	"core/solve":      {},
	"core/quantity":   {},
	"core/fluid":      {"core/input", "core/solve"},
	"core/hydraulics": {"core/solve"},
	"core/exchanger":  {"core/solve", "core/fluid", "core/hydraulics"},
	"core/plant":      {"core/input", "core/solve", "core/fluid", "core/hydraulics", "core/exchanger"},
	"core/bench":      {"core/input"},
	"core/wet":        {"core/input", "core/fluid", "core/solve"},
	"core/proving":    {"core/input"},
	"core/nmea":       {},
	"core/logger":     {"core/input", "core/quantity", "core/proving"},
	"live":            {"core/input", "core/nmea"},
	"rig":             {"core/bench", "core/nmea", "core/plant", "core/trade"},
	"core/sums":       {"core/input", "core/quantity", "core/fluid", "core/hydraulics", "core/exchanger", "core/plant", "core/bench", "core/wet", "core/proving"},
	"core/upkeep":     {"core/input", "core/trade"},
	"core/shelf":      {"core/bench", "core/input"},
	"reference":       {},
	"core/trade":      {"core/input"},
	"core/diagnose":   {"core/input", "core/trade"},
	"core/strip":      {"core/input", "core/trade"},
	"core/record":     {"core/input", "core/trade", "core/diagnose", "core/shelf", "core/strip", "core/upkeep", "core/wet", "core/proving"},
	"store":           {"core/record", "core/proving", "core/shelf", "core/upkeep"},
	"app":             {"core/logger", "core/proving", "live", "core/nmea", "core/input", "core/trade", "core/diagnose", "core/bench", "core/record", "core/shelf", "core/strip", "core/upkeep", "core/wet", "core/plant", "core/quantity", "core/sums", "store"},
	"papers":          {"app", "core/input", "core/plant", "core/proving", "core/quantity", "core/record", "core/strip", "core/sums", "core/trade", "core/upkeep", "core/wet", "store"},
	"papers/schema":   {"core/record", "papers"},
	"papers/generate": {"papers/schema"},
	"api":             {},
	"web":             {},
	"server":          {"api", "app", "core/logger", "core/proving", "live", "core/nmea", "papers", "rig", "core/input", "core/trade", "core/diagnose", "core/bench", "core/record", "core/shelf", "core/strip", "core/upkeep", "core/wet", "core/fluid", "core/plant", "core/quantity", "core/sums", "store", "web"},
	"demo":            {"app", "core/bench", "core/shelf", "core/upkeep", "core/proving", "core/plant", "core/nmea", "core/logger", "rig", "core/fluid", "core/quantity", "core/record", "core/strip", "core/trade", "core/wet", "store"},
	"bench/readings":  {"core/plant"},
	"bench/yard":      {"app", "core/record", "core/shelf", "core/strip", "core/trade", "server", "store"},
	"bench/diagnosis": {"core/diagnose", "core/trade"},
	"cmd/hevrin":      {"app", "papers", "rig", "core/input", "core/quantity", "core/sums", "core/trade", "demo", "server", "store"},
}

// forbidden in the core: databases, HTTP, files, processes, randomness, other threads of time.
var forbidden = []string{"database/", "net", "os", "gorm.io/", "github.com/labstack/", "github.com/mattn/", "math/rand", "crypto/rand",
	"path/filepath", "syscall", "log"}

func TestEveryRoomImportsOnlyWhatItMay(t *testing.T) {
	for room, imports := range importsOf(t) {
		allowed, known := rooms[room]
		assert.True(t, known, "%s is not in the plan of the house", room)
		for _, i := range imports {
			if ours, ok := strings.CutPrefix(i, "hevrin/"); ok {
				assert.Contains(t, allowed, ours, "%s may not import %s", room, ours)
			}
		}
	}
}

func TestTheCoreKnowsNoDatabaseNoNetworkNoClockNoFile(t *testing.T) {
	for room, imports := range importsOf(t) {
		if !strings.HasPrefix(room, "core/") {
			continue
		}
		for _, i := range imports {
			assert.False(t, slices.ContainsFunc(forbidden, func(f string) bool { return i == f || strings.HasPrefix(i, strings.TrimSuffix(f, "/")+"/") }),
				"%s imports %s", room, i)
		}
	}
	out, err := exec.Command("grep", "-rnE", "--include=*.go", "--exclude=*_test.go", `time\.(Now|Since|Until|Sleep|After|Tick|New)`, ".").CombinedOutput()
	assert.Error(t, err, "the core reads no clock:\n%s", out) // grep ends with an error when it finds nothing
}

func importsOf(t *testing.T) map[string][]string {
	t.Helper()
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "hevrin/...").Output()
	require.NoError(t, err)
	list := map[string][]string{}
	for line := range strings.Lines(string(out)) {
		fields := strings.Fields(line)
		list[strings.TrimPrefix(fields[0], "hevrin/")] = fields[1:]
	}
	delete(list, "core")
	return list
}
