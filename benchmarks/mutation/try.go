package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
)

// operators is what each kind of change puts in an operator's place.
var operators = map[string]map[string]string{
	"CONDITIONALS_BOUNDARY": {"<": "<=", "<=": "<", ">": ">=", ">=": ">"},
	"CONDITIONALS_NEGATION": {"==": "!=", "!=": "==", "<": ">=", "<=": ">", ">": "<=", ">=": "<"},
	"ARITHMETIC_BASE":       {"+": "-", "-": "+", "*": "/", "/": "*", "%": "*"},
	"INCREMENT_DECREMENT":   {"++": "--", "--": "++"},
	"INVERT_NEGATIVES":      {"-": "+"},
}

// slowest names, by package, the tests that take most of its time: they run where the others have seen nothing.
var slowest = map[string]string{
	"diagnosis": "^Test(EveryProbabilityEqualsBruteForce|WhatIsWorthALookBeforeItIsClosedUp)$",
	"plant":     "^Test(AWarmUpReadingIsNoOpenThermostat|HerOwnRoundIsHealthyToHer|LimitsStandAtTheAlarm)$",
}

// change is a source with one operator put in another's place.
func change(source []byte, m mutation) ([]byte, error) {
	lines := bytes.SplitAfter(source, []byte("\n"))
	if m.Line < 1 || m.Line > len(lines) || m.Column < 1 || m.Column > len(lines[m.Line-1]) {
		return nil, fmt.Errorf("no line %d with a column %d: was the file changed since the report?", m.Line, m.Column)
	}
	line := lines[m.Line-1]
	before, rest := line[:m.Column-1], line[m.Column-1:]
	for length := 2; length > 0; length-- {
		if put, ok := operators[m.Type][string(rest[:min(length, len(rest))])]; ok {
			lines[m.Line-1] = bytes.Join([][]byte{before, []byte(put), rest[length:]}, nil)
			return bytes.Join(lines, nil), nil
		}
	}
	return nil, fmt.Errorf("line %d, column %d: no operator for %s: was the file changed since the report?",
		m.Line, m.Column, m.Type)
}

// try runs a package's tests over one change, which goes in by an overlay: the file itself stays as it is.
func try(folder, name string, m mutation) (status string, err error) {
	file, err := filepath.Abs(filepath.Join(folder, filepath.Base(name)))
	if err != nil {
		return "", err
	}
	source, err := os.ReadFile(file)
	if err != nil {
		return "", err
	}
	changed, err := change(source, m)
	if err != nil {
		return "", fmt.Errorf("%s: %w", file, err)
	}
	dir, err := os.MkdirTemp("", "mutation")
	if err != nil {
		return "", err
	}
	defer os.RemoveAll(dir)
	to, overlay := filepath.Join(dir, "changed.go"), filepath.Join(dir, "overlay.json")
	plan, err := json.Marshal(map[string]map[string]string{"Replace": {file: to}})
	if err != nil {
		return "", err
	}
	if err := os.WriteFile(to, changed, 0o600); err != nil {
		return "", err
	}
	if err := os.WriteFile(overlay, plan, 0o600); err != nil {
		return "", err
	}
	tests := filepath.Join(dir, "tests")
	build := exec.Command("go", "test", "-c", "-o", tests, "-overlay="+overlay, "./"+folder)
	switch out, err := build.CombinedOutput(); {
	case err == nil:
	case strings.HasPrefix(string(out), "# "): // the compiler's words on a package
		return "NOT VIABLE", nil
	default:
		return "", fmt.Errorf("go test -c: %w\n%s", err, out)
	}
	turns := []string{"-test.run=."}
	if slow, ok := slowest[filepath.Base(folder)]; ok {
		turns = []string{"-test.skip=" + slow, "-test.run=" + slow}
	}
	for _, which := range turns {
		run := exec.Command(tests, which, "-test.failfast", "-test.timeout=120s")
		run.Dir = folder
		out, err := run.CombinedOutput()
		if strings.Contains(string(out), "panic: test timed out") {
			return "TIMED OUT", nil
		}
		if err != nil {
			return "KILLED", nil
		}
	}
	return "LIVED", nil
}
