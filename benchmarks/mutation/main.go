// Command mutation changes the rules one by one (gremlins), counts which changes the tests see, and prints the table
// of docs/mutation.md. It takes some minutes a package. What gremlins holds for not covered, it tries itself: the
// coverage of Go counts no line of a case and no condition of an else.
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
	"teardown", "wetwork", "maintenance", "inventory", "proving", "units", "workbench", "diagnosis", "plant",
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
	from := flag.String("from", "", "a folder with reports NAME.json that were made before, instead of making them")
	flag.Parse()
	names := rules
	if *only != "" {
		names = strings.Split(*only, ",")
	}
	fmt.Println("| package | changes | seen | of all | live | of all | does not compile |")
	fmt.Println("|---|---|---|---|---|---|---|")
	for _, name := range names {
		if err := show(name, *from, *list); err != nil {
			fmt.Fprintln(os.Stderr, name+":", err)
			os.Exit(1)
		}
	}
}

// show prints the row of a package.
func show(name, from string, list bool) error {
	file := filepath.Join(from, name+".json")
	if from == "" {
		file = filepath.Join(os.TempDir(), "mutation-"+name+".json")
		c := exec.Command("go", "tool", "-modfile=tools.mod", "gremlins", "unleash", "./core/"+name,
			"--timeout-coefficient", "20", "-o", file)
		c.Stderr = os.Stderr
		if err := c.Run(); err != nil {
			return err
		}
	}
	raw, err := os.ReadFile(file)
	if err != nil {
		return err
	}
	var r report
	if err := json.Unmarshal(raw, &r); err != nil {
		return err
	}
	n := map[string]int{}
	all := 0
	for _, f := range r.Files {
		for _, m := range f.Mutations {
			all++
			if m.Status == "NOT COVERED" || m.Status == "LIVED" {
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
	share := func(k int) float64 { return 100 * float64(k) / float64(max(all, 1)) }
	fmt.Printf("| %s | %d | %d | %.0f %% | %d | %.0f %% | %d |\n", name, all, seen, share(seen), n["LIVED"],
		share(n["LIVED"]), all-seen-n["LIVED"])
	return nil
}
