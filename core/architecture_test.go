// Package core_test keeps the rules of the house: who may import whom, in Go and in the front end.
package core_test

import (
	"flag"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var update = flag.Bool("update", false, "write the table of docs/architecture.md")

// room is a row of the plan: a folder, what lives there, and the rooms of ours that it may import. A name that ends in
// /… stands for all rooms below it; those rooms do not import each other unless they are named one by one.
type room struct{ name, what, imports string }

// house is the plan. docs/architecture.md shows it; a test fails when they differ.
var house = []room{
	{"core/validation", "the one shape in which the core refuses bad input", "core/units"},
	{"core/rootfind", "where a monotone function crosses zero", ""},
	{"core/ordering", "numbers put in order alike on every machine", ""},
	{"core/units", "units, their factors, how people write them, sentences with quantities", ""},
	{"core/fluid", "water, coolant, vapour", "core/units core/validation core/rootfind"},
	{"core/hydraulics", "friction, vane pump, the run of restrictions, the bucket", "core/rootfind"},
	{"core/exchanger", "rating, tube stack, fouling", "core/rootfind core/fluid core/hydraulics"},
	{"core/plant", "the whole engine: heat, elbow, rest, runs, faults, and reading it backwards",
		"core/units core/validation core/rootfind core/ordering core/fluid core/hydraulics core/exchanger"},
	{"core/workbench", "pot test, surface thermometer, repair choice, impeller fit", "core/units core/validation"},
	{"core/wetwork", "acid baths, scale, coolant; flush, descaling and coolant planned, timed and logged",
		"core/units core/validation core/fluid core/rootfind"},
	{"core/proving", "what a test run proves: its stages, what a recording shows, tracks", "core/units core/validation"},
	{"core/nmea", "sentences of NMEA 0183 read and written", ""},
	{"core/delimited", "bounds tables of text before they are taken apart", ""},
	{"core/datalog", "tables of data loggers read", "core/validation core/units core/delimited core/proving"},
	{"core/calculator", "the calculators by name: fields, reading what was typed, computing, warnings, pictures",
		"core/validation core/units core/delimited core/fluid core/hydraulics core/exchanger core/plant core/workbench " +
			"core/wetwork core/proving"},
	{"core/catalogue", "the knowledge of the trade: data files, their loader, the proof that they hold together",
		"core/units core/validation"},
	{"core/drawings", "which drawing shows each check, answer, access and step", "core/units core/validation core/catalogue"},
	{"core/maintenance", "hours over meters and seasons, growth fitted and predicted, what is due and why",
		"core/units core/validation core/catalogue"},
	{"core/inventory", "the yard's parts: counts, orders, what was wrong, what is to be ordered",
		"core/workbench core/units core/validation"},
	{"core/teardown", "what was isolated, taken off, found on the workbench and put back; rubber at large; what bars a " +
		"start", "core/units core/validation core/catalogue"},
	{"core/passphrase", "what a good passphrase is", "core/units core/validation"},
	{"core/people", "who may do what in a yard, how long wrong guesses wait",
		"core/units core/validation"},
	{"core/diagnosis", "which faults are likely, what to look at next, why",
		"core/units core/validation core/ordering core/catalogue"},
	{"core/eventlog", "entries, undo, what the entries make of a craft, an engine, a job, the yard's methods; what may " +
		"be noted", "core/units core/validation core/catalogue core/diagnosis core/inventory core/teardown " +
		"core/maintenance core/wetwork core/proving core/people"},
	{"core/enginestate", "the one account of an engine's state over all its jobs: what is open, off, shut, drained, " +
		"wrong or unknown, what settles it, what it means for a start and for each check",
		"core/units core/validation core/catalogue core/eventlog core/teardown core/wetwork core/maintenance core/proving " +
			"core/plant core/hindsight"},
	{"core/practice", "an engine to practise on: what is hidden, what shows, what repairs change, what is dangerous",
		"core/units core/validation core/catalogue core/plant core/teardown core/wetwork core/proving core/eventlog " +
			"core/enginestate"},
	{"core/coaching", "looks at a practice from outside: hints, a player by the program's advice, the review",
		"core/units core/validation core/catalogue core/diagnosis core/practice core/teardown core/eventlog"},
	{"core/hindsight", "closed jobs looked back on: where the cause stood, minutes against forecast, own base rates",
		"core/catalogue"},
	{"core/yardlist", "the lists that a yard kept before: columns recognised, rows read, what would go on record",
		"core/units core/validation core/catalogue core/plant core/inventory core/eventlog"},
	{"app/record", "the lines of the lists, the store behind narrow interfaces, the one way in which an entry is added",
		"core/…"},
	{"app/readings", "rounds of readings held against the model of their engine", "core/… app/record"},
	{"app/enginestate", "each engine's state, folded once and kept", "core/… app/record"},
	{"app/maintenance", "service history and what is due", "core/… app/record app/readings app/enginestate"},
	{"app/inventory", "the yard's parts", "core/… app/record app/maintenance"},
	{"app/engine", "craft, engines, their gateways", "core/… live app/record app/readings app/maintenance app/enginestate"},
	{"app/yard", "the whole yard; its tasks and methods", "core/… app/record app/engine"},
	{"app/recording", "recordings of gateways and data loggers", "core/… live app/record app/readings app/engine"},
	{"app/job", "a job from its complaint to its closing",
		"core/… app/record app/readings app/maintenance app/inventory app/engine app/enginestate app/yard app/recording"},
	{"app/exchange", "jobs out of the record and into another, whole",
		"core/… live app/record app/readings app/job app/recording"},
	{"app/yardlist", "brings a yard's own lists in, and takes them back as one", "core/… app/record"},
	{"app/people", "who works in the yard, their sign-ins and devices, invitations, the audit log", "core/… app/record"},
	{"app/hindsight", "looks back on closed jobs, and keeps of each what was seen when it was closed",
		"core/… app/record app/job app/yard"},
	{"app/tries", "what is kept of practice", ""},
	{"app/presence", "who else has a job open at this moment, and which check they are at", ""},
	{"app/reminders", "tells people each morning what came due and which orders are expected",
		"core/… app/record app/people app/maintenance app/inventory"},
	{"app/search", "finds things by a word of them, or by another name of the same thing",
		"core/… app/record app/inventory"},
	{"app/report", "what the owner is told of a job and of an engine", "core/… app/…"},
	{"app/along", "gathers what a phone takes along of a craft", "core/… app/…"},
	{"app/work", "joins the use cases of a yard's work: those that go on anywhere", "core/… live app/…"},
	{"app", "joins the use cases into one program", "core/… live app/…"},
	{"live", "listens to gateways on the boat's network", "core/units core/validation core/nmea"},
	{"network", "how phones reach the program: names, certificates, an authority of the yard's own, a proxy",
		"core/units core/validation"},
	{"push", "short messages to browsers by Web Push", "app/people network"},
	{"store", "SQLite through GORM behind the interfaces of `app/record`, `app/people` and `app/tries`: migrations, " +
		"transactions, backup", "core/… app/record app/people app/tries"},
	{"reports", "sheets to print, tables, calendar, a job as one file", "core/… app app/…"},
	{"reports/schema", "makes the published schema from the types", "core/eventlog reports"},
	{"reports/generate", "writes it", "reports/schema"},
	{"api", "`openapi.yaml`, the one contract, and the Go types generated from it", ""},
	{"api/limits", "what goes beyond the contract's limits, told in words", "core/units core/validation"},
	{"api/routes", "the contract served by Echo, generated from it", "api"},
	{"handlers", "answers the operations that need nothing but the use cases and the core: errors, views, units",
		"core/… app/… api"},
	{"web", "the front end, embedded", ""},
	{"server", "Echo: what only a server has (files, people, gateways), the guard, compression, the embedded front end",
		"core/… live app app/… api api/… handlers network reports training web"},
	{"phone", "the program that a phone takes along: the same use cases over a record in memory, by the same routes",
		"core/… app/… api api/limits handlers phone/…"},
	{"phone/memory", "a record in memory behind the interfaces of `app/record`", "core/… app/…"},
	{"phone/ship", "writes catalogue and limits as the phone's program reads them", "core/… api/… phone"},
	{"training", "practice jobs: the phone's program over a record of each, with a hidden engine behind it",
		"core/… app/… api handlers phone"},
	{"simulator", "stand-ins for a gateway, with an engine of the model behind it, and for a supplier", "core/…"},
	{"demo", "the invented yard, seeded through the use cases", "core/… app app/… store simulator"},
	{"reference", "tables of outside libraries that the core is checked against, and the script that makes them", ""},
	{"benchmarks/diagnosis", "the closed-loop bench of the diagnosis", "core/… benchmarks/diagnosis/frozen"},
	{"benchmarks/diagnosis/frozen", "the catalogue as it was before, to compare with", "core/…"},
	{"benchmarks/readings", "the closed-loop bench of the readings", "core/…"},
	{"benchmarks/practice", "practice jobs played by the program's advice", "core/…"},
	{"benchmarks/mutation", "changes the rules one by one and counts which changes no test sees", ""},
	{"benchmarks/users", "fifty people at once, and how they are answered", "core/… app app/… store server"},
	{"benchmarks/yard", "a large yard, and how long its pages take", "core/… app app/… store server simulator"},
	{"cmd/hevrin", "the commands; the one place that wires the simulators",
		"core/… app app/… store network push handlers server reports simulator demo"},
	{"web/src/theme", "colours, type, variants of MUI", ""},
	{"web/src/api", "the client, typed writes, queries, the outbox, what a device remembers and takes along", ""},
	{"web/src/illustrations", "the drawings: pen, geometry, plates", "web/src/theme"},
	{"web/src/ui", "what every feature shares", "web/src/api web/src/theme web/src/illustrations"},
	{"web/src/features/…", "screens, parts and hooks of one subject",
		"web/src/api web/src/ui web/src/theme web/src/illustrations"},
	{"web/src/testing", "what tests of screens share, and tests over several features",
		"web/src/api web/src/ui web/src/theme web/src/illustrations web/src/features/…"},
	{"web/src", "routes", "web/src/api web/src/ui web/src/theme web/src/features/…"},
}

// forbidden in the core: databases, HTTP, files, processes, randomness, other threads of time.
var forbidden = []string{"database", "net", "os", "gorm.io", "github.com/labstack", "github.com/mattn", "math/rand",
	"crypto/rand",
	"path/filepath", "syscall", "log"}

// drawn are the rooms that draw from a seed that they are given, and so from no chance: the same seed, the same drawing.
var drawn = map[string]string{"core/practice": "math/rand/v2"}

// broken lists what of some imports, by room, the plan does not allow.
func broken(plan []room, imports map[string][]string) (list []string) {
	for _, name := range slices.Sorted(maps(imports)) {
		r, known := roomOf(plan, name)
		if !known {
			list = append(list, name+" is not in the plan of the house")
			continue
		}
		for _, i := range imports[name] {
			if i != name && i != drawn[name] && !slices.ContainsFunc(strings.Fields(r.imports), func(may string) bool { return covers(may, i) }) {
				list = append(list, name+" may not import "+i)
			}
		}
		if strings.HasPrefix(name, "core/") {
			for _, i := range imports[name] {
				if i == drawn[name] {
					continue
				}
				if slices.ContainsFunc(forbidden, func(f string) bool { return i == f || strings.HasPrefix(i, f+"/") }) {
					list = append(list, name+" may not import "+i)
				}
			}
		}
	}
	return slices.Compact(list)
}

func maps(m map[string][]string) func(func(string) bool) {
	return func(yield func(string) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

func covers(pattern, name string) bool {
	if below, all := strings.CutSuffix(pattern, "…"); all {
		return strings.HasPrefix(name, below)
	}
	return pattern == name
}

// roomOf finds the row of a room: its own, else that which stands for all below a folder.
func roomOf(plan []room, name string) (room, bool) {
	at := slices.IndexFunc(plan, func(r room) bool { return r.name == name })
	if at < 0 {
		at = slices.IndexFunc(plan, func(r room) bool { return covers(r.name, name) })
	}
	if at < 0 {
		return room{}, false
	}
	return plan[at], true
}

func TestEveryRoomImportsOnlyWhatItMay(t *testing.T) {
	imports := importsOfGo(t)
	for name, list := range importsOfWeb(t) {
		imports[name] = append(imports[name], list...)
	}
	assert.Empty(t, broken(house, imports))
	for _, r := range house {
		if !strings.HasSuffix(r.name, "…") {
			assert.Contains(t, imports, r.name, "a row of the plan without a room")
		}
	}
}

// The test of the test: what is forbidden is found, in Go and in the front end.
func TestWhatIsForbiddenIsFound(t *testing.T) {
	for name, imports := range map[string]map[string][]string{
		"core/teardown may not import core/eventlog":                {"core/teardown": {"core/eventlog"}},
		"core/plant may not import net/http":                        {"core/plant": {"net/http"}},
		"core/plant may not import os":                              {"core/plant": {"os"}},
		"server may not import simulator":                           {"server": {"simulator"}},
		"app/record may not import store":                           {"app/record": {"store"}},
		"attic is not in the plan of the house":                     {"attic": nil},
		"web/src/features/job may not import web/src/features/yard": {"web/src/features/job": {"web/src/features/yard"}},
		"web/src/ui may not import web/src/features/job":            {"web/src/ui": {"web/src/features/job"}},
		"web/src/features/inventory may not import web/src/testing": {"web/src/features/inventory": {"web/src/testing"}},
		"web/src/features/maintenance may not import web/src/features/job": {"web/src/features/maintenance": {"web/src/api",
			"web/src/features/job"}},
	} {
		assert.Contains(t, broken(house, imports), name)
	}
	assert.Empty(t, broken(house, map[string][]string{"server": {"core/plant", "app"},
		"web/src/features/job": {"web/src/ui"}}))
}

func TestTheCoreReadsNoClock(t *testing.T) {
	out, err := exec.Command("grep", "-rnE", "--include=*.go", "--exclude=*_test.go",
		`time\.(Now|Since|Until|Sleep|After|Tick|New)`, ".").CombinedOutput()
	assert.Error(t, err, "the core reads no clock:\n%s", out) // grep ends with an error when it finds nothing
}

// importsOfGo lists what each room imports: ours without the module's name; of a core room the outside's too.
func importsOfGo(t *testing.T) map[string][]string {
	t.Helper()
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "hevrin/...").Output()
	require.NoError(t, err)
	list := map[string][]string{}
	for line := range strings.Lines(string(out)) {
		fields := strings.Fields(line)
		name := strings.TrimPrefix(fields[0], "hevrin/")
		list[name] = nil
		for _, i := range fields[1:] {
			ours, ok := strings.CutPrefix(i, "hevrin/")
			if ok || strings.HasPrefix(name, "core/") && slices.ContainsFunc(forbidden, func(f string) bool {
				return i == f ||
					strings.HasPrefix(i, f+"/")
			}) {
				list[name] = append(list[name], ours)
			}
		}
	}
	delete(list, "core")
	return list
}

var webImport = regexp.MustCompile(`(?:from|import|import\(|mock\()\s*"(\.[^"]*)"`)

// webFiles lists the front end's own files with what each imports, as paths from the root of the project without
// endings.
func webFiles(t *testing.T) map[string][]string {
	t.Helper()
	root := filepath.Join("..", "web", "src")
	files := map[string][]string{}
	require.NoError(t, filepath.WalkDir(root, func(file string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(file, ".ts") && !strings.HasSuffix(file, ".tsx") {
			return err
		}
		raw, err := os.ReadFile(file)
		name := strings.TrimPrefix(filepath.ToSlash(file), "../")
		files[name] = nil
		for _, m := range webImport.FindAllStringSubmatch(string(raw), -1) {
			files[name] = append(files[name], path.Join(path.Dir(name), m[1]))
		}
		return err
	}))
	return files
}

// webRoom is the room that a file of the front end lies in: web/src/NAME, web/src/features/NAME, or web/src itself.
func webRoom(file string) string {
	parts := strings.Split(path.Dir(file), "/")
	if len(parts) > 2 && parts[2] == "features" {
		return strings.Join(parts[:min(4, len(parts))], "/")
	}
	return strings.Join(parts[:min(3, len(parts))], "/")
}

// Tests may look at several rooms, as those of testing do.
func importsOfWeb(t *testing.T) map[string][]string {
	t.Helper()
	list := map[string][]string{}
	for file, imports := range webFiles(t) {
		here := webRoom(file)
		list[here] = append(list[here], nil...)
		if strings.Contains(file, ".test.") {
			continue
		}
		for _, i := range imports {
			if strings.HasSuffix(i, ".css") || strings.Contains(i, "/generated/") { // made by make
				continue
			}
			if there := webRoom(i); there != here && !slices.Contains(list[here], there) {
				list[here] = append(list[here], there)
			}
		}
	}
	return list
}

// No file of the front end comes back to itself by its imports, and no two differ by case only.
func TestTheFrontEndHasNoCircles(t *testing.T) {
	files := webFiles(t)
	names := map[string]string{}
	for f := range files {
		bare := strings.TrimSuffix(strings.TrimSuffix(f, ".tsx"), ".ts")
		if was, ok := names[strings.ToLower(bare)]; ok {
			t.Errorf("%s and %s differ by case or ending only", was, f)
		}
		names[strings.ToLower(bare)] = f
	}
	state := map[string]int{} // 1: being walked, 2: done
	var walk func(f string, way []string)
	walk = func(f string, way []string) {
		if state[f] == 1 {
			t.Errorf("a circle: %s", strings.Join(append(way, f), " → "))
		}
		if state[f] != 0 {
			return
		}
		state[f] = 1
		for _, i := range files[f] {
			if at, ok := names[strings.ToLower(i)]; ok {
				walk(at, append(way, f))
			}
		}
		state[f] = 2
	}
	for f := range files {
		walk(f, nil)
	}
}

const (
	tableBegins = "<!-- the plan: written by go test ./core -run Plan -update -->\n"
	tableEnds   = "<!-- the plan ends -->\n"
)

func TestThePlanStandsInTheDocs(t *testing.T) {
	var b strings.Builder
	b.WriteString("| room | what lives there | may import |\n|---|---|---|\n")
	for _, r := range house {
		may := strings.Join(strings.Fields(r.imports), ", ")
		if may == "" {
			may = "nothing of ours"
		}
		fmt.Fprintf(&b, "| `%s` | %s | %s |\n", r.name, r.what, may)
	}
	file := filepath.Join("..", "docs", "architecture.md")
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	before, rest, ok := strings.Cut(string(raw), tableBegins)
	require.True(t, ok, "docs/architecture.md has no place for the plan")
	is, after, ok := strings.Cut(rest, tableEnds)
	require.True(t, ok)
	if *update {
		require.NoError(t, os.WriteFile(file, []byte(before+tableBegins+b.String()+tableEnds+after), 0o600))
		return
	}
	assert.Equal(t, b.String(), is, "run go test ./core -run Plan -update")
}
