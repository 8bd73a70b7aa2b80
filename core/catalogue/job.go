package catalogue

import "slices"

// What a kind of job begins with.
const (
	Symptoms = "complaint" // what is seen
	Past     = "history"   // what happened, or was done, before
	Plan     = "plan"      // work that is known: no cause is asked for
)

// When a kind of job ends.
const (
	UntilProved = "proved" // by a run
	UntilDry    = "dry"    // after a run, and in the bilge
	UntilDone   = "done"   // every item of the plan
)

// RunsHot is the kind of a job of which nobody said another.
const RunsHot = "runs-hot"

// JobKind is a kind of job: what it begins with, and when it ends. Findings and History are taken as so when a job of
// the kind is opened. Handbook of the trade, 9.8.
type JobKind struct {
	ID       string   `json:"id" yaml:"id"`
	Label    string   `json:"label" yaml:"label"`
	Begins   string   `json:"begins" yaml:"begins"`
	Ends     string   `json:"ends" yaml:"ends"`
	Findings []string `json:"findings,omitempty" yaml:"findings"`
	History  []string `json:"history,omitempty" yaml:"history"`
	Why      string   `json:"why" yaml:"why"`
}

// Trouble is what an engine shows at the first look, with its kind of job.
type Trouble struct {
	ID       string   `json:"id" yaml:"id"`
	Label    string   `json:"label" yaml:"label"`
	Kind     string   `json:"kind" yaml:"kind"`
	Findings []string `json:"findings,omitempty" yaml:"findings"`
}

// Water is a kind of water that leaks, with the findings that it is; none where it shows nothing of the engine.
type Water struct {
	ID       string   `json:"id" yaml:"id"`
	Label    string   `json:"label" yaml:"label"`
	Findings []string `json:"findings,omitempty" yaml:"findings"`
	Why      string   `json:"why" yaml:"why"`
}

// JobKind finds a kind of job; an empty id is RunsHot.
func (c *Catalogue) JobKind(id string) (JobKind, bool) {
	if id == "" {
		id = RunsHot
	}
	return named(c.JobKinds, func(k JobKind) bool { return k.ID == id })
}

// Water finds a kind of water that leaks.
func (c *Catalogue) Water(id string) (Water, bool) {
	return named(c.Waters, func(w Water) bool { return w.ID == id })
}

func named[T any](list []T, is func(T) bool) (T, bool) {
	i := slices.IndexFunc(list, is)
	if i < 0 {
		var none T
		return none, false
	}
	return list[i], true
}
