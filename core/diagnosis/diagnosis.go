// Package diagnosis finds which faults an engine has from what is known of it, and what to look at next.
//
// What a sure look shows is a fact: let G be the faults of which a sure look without rivals on this circuit is present.
// Hypotheses are the sets G ∪ S for every S of at most three other faults that the engine's circuit can have; S is
// not empty where G is. A set's prior weight is the product of its faults' odds, their history multipliers, the factor
// of every listed pair that it holds, and SetFactor once for every fault beyond the first. Findings are independent
// given the set, each a noisy OR of its causes with inhibitors (J. Pearl, Probabilistic Reasoning in Intelligent
// Systems, 1988, section 4.3):
//
//	P(present | F) = [1 − (1−leak) ∏(1−cause)] · ∏(1−block)
//
// Posteriors are exact: every set is summed. Only gains and looks ahead are computed on the likeliest sets.
package diagnosis

import (
	"slices"

	"hevrin/core/catalogue"
	"hevrin/core/ordering"
)

// Strategies for what to look at next.
const (
	Quickest      = "quickest"        // the greatest chance of confirming a fault per minute, looking ahead
	AlongTheWater = "along-the-water" // station after station on the side that the evidence points to
	Likeliest     = "likeliest"       // the sure look at the most probable fault
)

// Strategies lists them, the default first.
var Strategies = []string{Quickest, AlongTheWater, Likeliest}

const (
	foundProbability = 0.98      // a fault seen by a look that has rivals is found from this probability on
	restProbability  = 0.2       // done when another fault is less probable than this; common practice
	shownQ           = 20.0 / 21 // a computed finding counts as seen from a likelihood ratio of 20
	reportedSets     = 12
)

// Question is what is known of an engine.
type Question struct {
	Family     string
	Stations   []string // its circuit in the order of the water; nil: every station of the family
	PumpDrive  string   // what turns the raw-water pump, of catalogue.Drives; empty: not known
	History    []string
	Findings   []Evidence
	Strategy   string   // empty: quickest
	OpenAccess []string // what is open already
	Done       []string // checks not to offer again
	Yard       Yard     // what the yard goes by in place of the catalogue
	// Barred are checks that the engine's state does not allow, and why; Ahead are the minutes that its state costs before
	// a check, beside its access.
	Barred map[string]string
	Ahead  map[string]float64
	Brief  bool // leave out what moved each suspect, what does not go together, what is ruled out
	// Weighed: what a sure look shows is weighed as any other finding, none is given. So it was before; the bench
	// compares with it.
	Weighed bool
}

// What counted before looks were believed: the bench compares with it.
const (
	weighedFound = 0.95
	weighedRest  = 0.15
)

// found is the probability from which a fault is found that its sure look showed and did not prove.
func (q Question) found() float64 {
	if q.Weighed {
		return weighedFound
	}
	return foundProbability
}

// rest is the probability of any other fault under which a hunt is done.
func (q Question) rest() float64 {
	if q.Weighed {
		return weighedRest
	}
	return restProbability
}

// Evidence is a finding with its normalised likelihood Q = r/(1+r), r the likelihood ratio present to absent that was
// observed: 1 is present, 0 is absent, 0.5 tells nothing.
//
// Looks is how often it was looked for and not seen, where that is more than once: a second look, with more light, more
// time or the part out, misses half of what the first missed. 0 counts as 1.
//
// Point is the operating point, of the catalogue's, that a reading was judged at; empty: not said, or of what tells the
// same at each. Of one finding at several points the hardest counts: it shows what the others show and more.
type Evidence struct {
	Finding string
	Point   string
	Q       float64
	Looks   int
}

// Answer is what follows from a question.
type Answer struct {
	Suspects    []Posterior // every fault of the circuit, the most probable first
	Sets        []Set       // the likeliest sets
	NextChecks  []NextCheck
	Found       []string // seen by a sure look and probable enough
	Given       []string // of those, what a sure look without rivals showed: a fact
	Done        bool     // found, and another fault that a look could still show is improbable
	Unexplained []string // findings present that what was found (or else the likeliest set) does not explain
	OtherFault  float64  // probability of any fault outside Found
	// Consequences are the faults that those found bring with them, not yet looked for.
	Consequences []Consequence
	Conflicts    []Conflict // findings present that do not go together
	Outlooks     []Outlook  // by strategy
	RuledOut     []RuledOut // checks that are not offered
	Advice       Advice
}

// Advice is what to do now.
type Advice string

// What can be advised. What is found is put right and proved: the proof's readings are the cheapest look at
// everything else, and what shows there goes on from there. Where nothing is found and nothing is left to look at, the
// likeliest is put right and the proof decides.
const (
	LookOn          Advice = "look-on"
	PutRight        Advice = "put-right-and-prove"
	PutRightLikely  Advice = "put-right-the-likeliest-and-prove"
	NothingToAdvise Advice = ""
)

// advise says what to do with an answer.
func (a *Answer) advise() Advice {
	switch {
	case len(a.Found) > 0:
		return PutRight
	case len(a.NextChecks) > 0:
		return LookOn
	case len(a.Suspects) > 0 && a.Suspects[0].Probability >= likelyEnough:
		return PutRightLikely
	}
	return NothingToAdvise
}

// likelyEnough is the chance from which a suspect that no look showed is put right to see whether it helps; common
// practice.
const likelyEnough = 0.2

// Posterior is a fault with its probability.
type Posterior struct {
	Fault       string
	Probability float64
	Prior       float64 // before any finding, with the history
	MovedBy     []Move  // strongest first
}

// Move tells by how much one finding or history item raised (positive) or lowered a suspect: the change of its log
// odds (natural logarithm) against the same question with that item left out.
type Move struct {
	Kind    string // finding, history or OwnRates
	ID      string
	Point   string // the operating point that the finding was read at; empty: of what tells the same at each
	LogOdds float64
}

// OwnRates is the kind of move, and its id, that stands for all of the yard's own base rates.
const OwnRates = "own-rates"

// Set is a set of faults that are there together, and its probability.
type Set struct {
	Faults      []string
	Probability float64
}

// NextCheck is a check worth making, and why.
type NextCheck struct {
	Check         string
	Station       string
	Minutes       float64
	AccessMinutes float64 // what must be opened first; 0 when it is open
	StateMinutes  float64 // what the engine's state costs before it, as closing up before a run
	ConfirmChance float64 // chance that it confirms a fault not yet looked for
	GainBits      float64 // expected information about the faults, on the likeliest sets
	SavesMinutes  float64 // expected saving of a check that confirms nothing; 0 for the others
	Again         bool    // it was made and showed nothing: a second look
	// FirstSaves: of a fault found, what it is expected to save, in minutes, to make this look before it is closed up
	// and proved; 0 where the proof is the cheaper look.
	FirstSaves float64
	Reason     string
}

// Diagnoser answers questions from one catalogue. It holds no state and may be used from many goroutines.
type Diagnoser struct {
	catalogue *catalogue.Catalogue
	spaces    *spaces
}

// New makes an engine for a catalogue.
func New(c *catalogue.Catalogue) *Diagnoser { return &Diagnoser{c, newSpaces()} }

// Diagnose answers a question, or says what of it does not fit (input.Errors).
func (e *Diagnoser) Diagnose(q Question) (*Answer, error) {
	if q.Strategy == "" {
		q.Strategy = Quickest
	}
	if err := e.validate(q); err != nil {
		return nil, err
	}
	m := e.spaces.model(e.catalogue, q)
	b := m.infer()
	defer b.release()
	a := &Answer{Suspects: m.suspects(b), Sets: m.sets(b)}
	known := m.knowledge(b)
	a.Found = m.names(known.found)
	a.Given = m.names(m.given)
	a.OtherFault = 1 - b.within(known.found)
	a.Unexplained = m.unexplained(b, known.found)
	a.NextChecks, a.Outlooks = m.nextChecks(b, known, q.Strategy)
	a.Done = known.found != 0 && 1-b.within(known.found|m.exhausted(b)) < q.rest()
	a.Consequences = m.consequences(b, known)
	a.Advice = a.advise()
	if !q.Brief {
		a.Conflicts = m.conflicts(b)
		a.RuledOut = m.ruledOut(a.NextChecks)
	}
	return a, nil
}

func (m *model) suspects(b *belief) []Posterior {
	prior := m.priorMarginals(b)
	moves := make([][]Move, len(m.faults))
	if !m.question.Brief {
		moves = m.explain(b)
	}
	out := make([]Posterior, len(m.faults))
	for i, f := range m.faults {
		out[i] = Posterior{Fault: f.ID, Probability: b.marginal[i], Prior: prior[i], MovedBy: moves[i]}
	}
	slices.SortStableFunc(out, func(x, y Posterior) int { return ordering.Compare(y.Probability, x.Probability) })
	return out
}

func (m *model) sets(b *belief) []Set {
	var out []Set
	for _, i := range b.likeliest(reportedSets) {
		out = append(out, Set{Faults: m.names(m.hypotheses[i].mask), Probability: b.p[i]})
	}
	return out
}

// names lists the faults of a mask in the catalogue's order.
func (m *model) names(mask uint64) []string {
	out := []string{}
	for i, f := range m.faults {
		if mask&(1<<i) != 0 {
			out = append(out, f.ID)
		}
	}
	return out
}
