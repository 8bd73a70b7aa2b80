package teardown

import (
	"slices"
	"strings"

	"hevrin/core/catalogue"
)

// Engine is what a task must know of an engine to fit it.
type Engine struct {
	Closed, Petrol bool
	Circuit        []string
}

// ofCoolant are the words by which a line of a task speaks of coolant.
var ofCoolant = []string{"oolant", "Level after", "header", "Header", "lycol"}

// Fitted is a task as it is on an engine: no glycol and no hot cap on a raw-water-cooled block, which empties through
// the opening and is drained with its seacock shut; no petrol vapour on a diesel; no seacock on a leg, whose hose comes
// off.
func Fitted(t catalogue.Task, e Engine) catalogue.Task {
	t.Isolate, t.Cautions = slices.Clone(t.Isolate), slices.Clone(t.Cautions)
	if !e.Petrol {
		t.Cautions = without(t.Cautions, "petrol-vapour")
	}
	if !e.Closed {
		if slices.Contains(t.Isolate, "coolant") {
			t.Isolate = without(t.Isolate, "coolant")
			if !slices.Contains(t.Isolate, "seacock") {
				t.Isolate = append([]string{"seacock"}, t.Isolate...)
			}
			t.Steps = append([]string{"Drain the block into a vessel first: it empties through the opening."}, t.Steps...)
			if !slices.Contains(t.Cautions, "flooding") {
				t.Cautions = append([]string{"flooding"}, t.Cautions...)
			}
		}
		t.Cautions = without(t.Cautions, "glycol", "scald")
		for _, lines := range []*[]string{&t.Steps, &t.After, &t.While, &t.Parts, &t.Bring} {
			*lines = slices.DeleteFunc(slices.Clone(*lines), func(line string) bool {
				return slices.ContainsFunc(ofCoolant, func(w string) bool { return strings.Contains(line, w) })
			})
		}
	}
	if i := slices.Index(t.Isolate, "seacock"); i >= 0 && !slices.Contains(e.Circuit, "seacock") {
		t.Isolate[i] = "leg-hose"
	}
	return t
}

func without(list []string, gone ...string) []string {
	return slices.DeleteFunc(list, func(x string) bool { return slices.Contains(gone, x) })
}
