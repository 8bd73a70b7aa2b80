// Command readings judges drawn rounds of drawn engines, each with a physical fault at a middling severity or in
// health, and prints how often the fault, or one that cannot be told from it, stands at the top.
package main

import (
	"flag"
	"fmt"
	"log"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strings"

	"hevrin/core/plant"
)

func main() {
	cases := flag.Int("cases", 500, "ailing engines drawn")
	healthy := flag.Int("healthy", 2000, "healthy engines drawn")
	seed := flag.Uint64("seed", 7, "seed of the drawing")
	baseline := flag.Bool("baseline", false, "hold each engine against its own healthy rounds")
	points := flag.Bool("points", false, "by operating point: idle alone, cruise alone, both")
	table := flag.Int("strengths", 0, "draw so many engines of each fault and print core/catalogue/data/readings.yaml")
	flag.Parse()
	if *table > 0 {
		if err := strengths(os.Stdout, *table, *seed); err != nil {
			log.Fatal(err)
		}
		return
	}
	if *points {
		if err := byPoint(*cases, *healthy, *seed, *baseline); err != nil {
			log.Fatal(err)
		}
		return
	}
	got, err := run(*cases, *healthy, *seed, *baseline, idleAndFull)
	if err != nil {
		log.Fatal(err)
	}
	got.print(os.Stdout)
}

// Speeds that rounds are read at, as shares of rated.
var (
	idleAndFull = []float64{0.27, 1}
	idle        = []float64{0.27}
	cruise      = []float64{0.8}
)

// byPoint prints what can be told at idle alone, at cruise alone, and at both: of the faults that the model says can
// be told there, how often the pattern stands in the top three; of the others how often any pattern was named all the
// same.
func byPoint(cases, healthy int, seed uint64, baseline bool) error {
	fmt.Println("| read at | can be told | of them in the top three | cannot be told | of them another named | " +
		"healthy that raise a finding |")
	fmt.Println("|---|---|---|---|---|---|")
	for _, p := range []struct {
		label  string
		shares []float64
	}{{"idle alone", idle}, {"cruise alone", cruise}, {"both", []float64{idle[0], cruise[0]}}} {
		got, err := run(cases, healthy, seed, baseline, p.shares)
		if err != nil {
			return err
		}
		var told, three, not, named int
		var hidden []string
		for _, id := range plant.Physical() {
			if t := got.faults[id]; t != nil {
				told, three, not, named = told+t.drawn-t.undecided, three+t.toldThree, not+t.undecided, named+t.misnamed
				if 2*t.undecided > t.drawn {
					hidden = append(hidden, id)
				}
			}
		}
		fmt.Printf("| %s | %d | %.1f %% | %d | %d | %.1f %% |\n", p.label, told,
			100*float64(three)/float64(max(told, 1)), not, named, 100*float64(got.anyRaised)/float64(got.healthy))
		defer fmt.Printf("\n%s, mostly not to be told: %s\n", p.label, strings.Join(hidden, ", "))
	}
	return nil
}

var closedCircuit = []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "raw-filter", "gear-cooler",
	"oil-cooler", "exchanger", "raw-hoses", "elbow", "exhaust-hose",
	"silencer", "outlet", "header", "circ-pump", "block", "thermostat", "coolant-hoses", "gauge", "load"}

var directCircuit = []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "gear-cooler", "thermostat",
	"block", "raw-hoses", "elbow", "exhaust-hose", "silencer", "outlet",
	"gauge", "load"}

// engine is a drawn engine: what is believed of it, and what it is.
type engine struct {
	believed, real plant.Plant
	kind           plant.Type
	shares         []float64 // of rated speed, at which it is read
}

// drawEngine draws an engine of a type, healthy, that differs a little from what its type says.
func drawEngine(r *rand.Rand) (engine, error) {
	types := plant.Types()
	t := types[r.IntN(len(types))]
	circuit := closedCircuit
	if t.Family == plant.Direct {
		circuit = directCircuit
	}
	k := plant.EngineFacts{Family: t.Family, Fuel: t.Fuel, Aspiration: t.Aspiration, RatedKW: t.RatedKW,
		RatedRPM: t.RatedRPM, Circuit: circuit}
	believed, err := plant.New(k)
	if err != nil {
		return engine{}, err
	}
	vary := func(spread float64) float64 { return math.Exp(spread * r.NormFloat64()) }
	k.RawLMin = believed.Rated.RawLMin * vary(0.06)
	k.CoolantLMin, k.UA = t.CoolantLMin*vary(0.06), t.UA*vary(0.06)
	real, err := plant.New(k)
	if err != nil {
		return engine{}, err
	}
	real.ThermostatC += 1 * r.NormFloat64()
	return engine{believed, real, t, idleAndFull}, nil
}

// mostC is the end of a thermometer's scale, °C.
const mostC = 400

// rounds reads an engine at rest at speeds, with the errors of a contact probe, a surface thermometer and a
// bucket.
func (e engine) rounds(r *rand.Rand, h plant.Health) ([]plant.Round, error) {
	h.Heat *= math.Exp(0.03 * r.NormFloat64())
	sea := 8 + 18*r.Float64()
	var list []plant.Round
	for _, share := range e.shares {
		op := plant.Operation{RPM: share * e.kind.RatedRPM, Load: 1, SeaC: sea, Salinity: 35, SpaceC: sea + 15}
		s, err := e.real.Steady(op, h)
		if err != nil {
			return nil, err
		}
		round := plant.Round{Operation: op, RanMin: 1000} // at rest
		add := func(station, side string, truth, err float64) {
			value := truth + err*r.NormFloat64()
			if station == "flow" { // nobody reads less than none
				value = max(value, 0)
			} else { // nor more than an instrument has: such an engine is stopped long before
				value = min(value, mostC)
			}
			round.Reads = append(round.Reads, plant.Read{Station: station, Side: side, Value: value, Error: err})
		}
		add("flow", "", max(s.RawLMin, 0), max(0.05*s.RawLMin, 0.3))
		add("gauge", "", s.GaugeC, 2)
		for _, x := range s.Readings {
			switch x.Station {
			case "thermostat":
				add(x.Station, x.Side, x.TempC, 1)
			case "exchanger", "raw-hoses", "outlet", "coolant-hoses":
				add(x.Station, x.Side, x.TempC, map[bool]float64{true: 1, false: 2}[x.Side == "coolant"])
			}
		}
		list = append(list, round)
	}
	return list, nil
}

// fit holds the engine against rounds of it in health, on another day.
func (e *engine) fit(r *rand.Rand) error {
	rounds, err := e.rounds(r, plant.Well())
	if err != nil {
		return err
	}
	e.believed, err = e.believed.Calibrated(rounds, plant.LeftByBaseline)
	return err
}

// tally is how one fault came out.
type tally struct {
	drawn, first, topThree int
	undecided              int // that the model says cannot be told from these rounds
	toldThree              int // of the others, in the top three
	misnamed               int // of the undecided, another pattern was found
}

type result struct {
	faults    map[string]*tally
	confusion map[string]map[string]int // pattern of the fault drawn: pattern that came first
	healthy   int
	raised    map[string]int // healthy engines that raised a finding
	anyRaised int
}

func run(cases, healthy int, seed uint64, baseline bool, shares []float64) (*result, error) {
	r := rand.New(rand.NewPCG(seed, 1))
	got := &result{faults: map[string]*tally{}, confusion: map[string]map[string]int{}, raised: map[string]int{}}
	ids := plant.Physical()
	draw := func() (engine, error) {
		e, err := drawEngine(r)
		e.shares = shares
		if err == nil && baseline {
			err = e.fit(r)
		}
		return e, err
	}
	for i := 0; i < cases; i++ {
		e, err := draw()
		if err != nil {
			return nil, err
		}
		id := ids[i%len(ids)]
		if !e.believed.Shows(id) {
			i--
			if r.IntN(4) == 0 { // the type may not have the place: draw another engine, now and then another fault
				i++
			}
			continue
		}
		if err := got.ailing(r, e, id); err != nil {
			return nil, err
		}
	}
	for range healthy {
		e, err := draw()
		if err != nil {
			return nil, err
		}
		if err := got.well(r, e); err != nil {
			return nil, err
		}
	}
	return got, nil
}

func (g *result) ailing(r *rand.Rand, e engine, id string) error {
	severity := 0.4 + 0.25*r.Float64()
	h, err := plant.Ail(plant.Fault{ID: id, Severity: severity})
	if err != nil {
		return err
	}
	rounds, err := e.rounds(r, h)
	if err != nil {
		return err
	}
	rep, err := e.believed.Judge(rounds)
	if err != nil {
		return err
	}
	t := g.faults[id]
	if t == nil {
		t = &tally{}
		g.faults[id] = t
	}
	t.drawn++
	want := plant.Pattern(id)
	place := slices.IndexFunc(rep.Patterns, func(l plant.Leaning) bool { return l.ID == want })
	weak := slices.Contains(rep.Hidden, id) || len(rep.Patterns) == 0
	switch {
	case weak:
		t.undecided++
		if len(rep.Patterns) > 0 && place != 0 && rep.Patterns[0].Ratio >= rep.SaysFound {
			t.misnamed++
		}
	case place >= 0 && place < 3:
		t.toldThree++
	}
	if place == 0 {
		t.first++
	}
	if place >= 0 && place < 3 {
		t.topThree++
	}
	if g.confusion[want] == nil {
		g.confusion[want] = map[string]int{}
	}
	if len(rep.Patterns) > 0 {
		g.confusion[want][rep.Patterns[0].ID]++
	}
	return nil
}

func (g *result) well(r *rand.Rand, e engine) error {
	rounds, err := e.rounds(r, plant.Well())
	if err != nil {
		return err
	}
	rep, err := e.believed.Judge(rounds)
	if err != nil {
		return err
	}
	g.healthy++
	any := false
	for _, l := range rep.Findings {
		if l.Ratio >= rep.SaysFound {
			g.raised[l.ID]++
			any = true
		}
	}
	if any {
		g.anyRaised++
	}
	return nil
}

// share of the ailing engines with their finding in the top three, and first.
func (g *result) shares() (topThree, first float64) {
	n := 0
	for _, t := range g.faults {
		n += t.drawn
		topThree += float64(t.topThree)
		first += float64(t.first)
	}
	return topThree / float64(n), first / float64(n)
}

func (g *result) print(w *os.File) {
	three, first := g.shares()
	fmt.Fprintf(w, "pattern in the top three %.1f %%, first %.1f %%; healthy engines that raise a finding %.1f %%\n\n",
		100*three, 100*first, 100*float64(g.anyRaised)/float64(g.healthy))
	fmt.Fprintln(w, "| fault, middling | drawn | first | top three |")
	fmt.Fprintln(w, "|---|---|---|---|")
	for _, id := range plant.Physical() {
		if t := g.faults[id]; t != nil {
			fmt.Fprintf(w, "| %s | %d | %d | %d |\n", id, t.drawn, t.first, t.topThree)
		}
	}
	var findings []string
	for f := range g.confusion {
		findings = append(findings, f)
	}
	slices.Sort(findings)
	fmt.Fprintf(w, "\n| drawn \\ first | %s |\n|---%s|\n", strings.Join(findings, " | "), strings.Repeat("|---",
		len(findings)))
	for _, f := range findings {
		fmt.Fprintf(w, "| %s |", f)
		for _, x := range findings {
			fmt.Fprintf(w, " %d |", g.confusion[f][x])
		}
		fmt.Fprintln(w)
	}
	fmt.Fprintf(w, "\nhealthy engines that raised: %v of %d\n", g.raised, g.healthy)
}
