// Command mutation changes the rules one by one, counts which changes the tests of their own package see, and prints
// the table of docs/mutation.md. Gremlins finds what can be changed. Each change is then tried here: gremlins itself
// leaves out what the coverage of Go does not count, the lines of a case and the conditions of an else.
package main

import (
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
)

// rules are the packages of rules, and how far the table is to come.
var rules = []string{
	"teardown", "enginestate", "hindsight", "wetwork", "maintenance", "inventory", "proving", "units", "workbench",
	"diagnosis", "plant",
}

// report is as much of a report of gremlins as is shown.
type report struct {
	Files []struct {
		Name      string     `json:"file_name"`
		Mutations []mutation `json:"mutations"`
	} `json:"files"`
}

// mutation is one change of one operator.
type mutation struct {
	Type   string `json:"type"`
	Status string `json:"status"`
	Line   int    `json:"line"`   // from 1
	Column int    `json:"column"` // in bytes, from 1
}

func main() {
	only := flag.String("only", "", "packages of core, by commas; left out: all of the rules")
	list := flag.Bool("list", false, "list each change that no test saw")
	from := flag.String("from", "", "a folder with reports NAME.json of gremlins, instead of finding the changes")
	flag.Parse()
	names := rules
	if *only != "" {
		names = strings.Split(*only, ",")
	}
	fmt.Println("| package | changes | seen | of all | live | of all |")
	fmt.Println("|---|---|---|---|---|---|")
	for _, name := range names {
		if err := show(name, *from, *list); err != nil {
			fmt.Fprintln(os.Stderr, name+":", err)
			os.Exit(1)
		}
	}
}

// show prints the row of a package.
func show(name, from string, list bool) error {
	raw, err := os.ReadFile(filepath.Join(from, name+".json"))
	if from == "" {
		raw, err = find(name)
	}
	if err != nil {
		return err
	}
	var r report
	if err := json.Unmarshal(raw, &r); err != nil {
		return err
	}
	n := map[string]int{}
	type place struct {
		file         string
		line, column int
	}
	minus := map[place]bool{} // gremlins changes a minus twice, as arithmetic and as a sign
	for _, f := range r.Files {
		for _, m := range f.Mutations {
			if at := (place{f.Name, m.Line, m.Column}); m.Type == "INVERT_NEGATIVES" || m.Type == "ARITHMETIC_BASE" {
				if minus[at] {
					continue
				}
				minus[at] = true
			}
			if m.Status != "KILLED" && m.Status != "TIMED OUT" {
				if m.Status, err = try("core/"+name, f.Name, m); err != nil {
					return err
				}
			}
			n[m.Status]++
			if list && m.Status != "KILLED" && m.Status != "TIMED OUT" {
				fmt.Fprintf(os.Stderr, "core/%s/%s:%d:%d %s %s\n", name, f.Name, m.Line, m.Column, m.Status, m.Type)
			}
		}
	}
	seen := n["KILLED"] + n["TIMED OUT"] // what runs for ever is seen too
	all := seen + n["LIVED"]             // what does not compile is no change
	share := func(k int) float64 { return 100 * float64(k) / float64(max(all, 1)) }
	fmt.Printf("| %s | %d | %d | %.0f %% | %d | %.0f %% |\n", name, all, seen, share(seen), n["LIVED"],
		share(n["LIVED"]))
	return nil
}

// find has gremlins list what can be changed in a package, in a copy of the core: it takes the whole folder along.
func find(name string) ([]byte, error) {
	dir, err := os.MkdirTemp("", "mutation")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	for _, folder := range []string{"core", "reference"} { // what the core's tests stand on
		if err := os.CopyFS(filepath.Join(dir, folder), os.DirFS(folder)); err != nil {
			return nil, err
		}
	}
	for _, file := range []string{"go.mod", "go.sum", "tools.mod", "tools.sum"} {
		text, err := os.ReadFile(file)
		if err != nil {
			return nil, err
		}
		if err := os.WriteFile(filepath.Join(dir, file), text, 0o600); err != nil {
			return nil, err
		}
	}
	c := exec.Command("go", "tool", "-modfile=tools.mod", "gremlins", "unleash", "./core/"+name, "--dry-run",
		"-o", "report.json")
	c.Dir = dir
	if out, err := c.CombinedOutput(); err != nil {
		return nil, fmt.Errorf("gremlins: %w\n%s", err, out)
	}
	return os.ReadFile(filepath.Join(dir, "report.json"))
}
