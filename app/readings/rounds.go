package readings

import (
	"fmt"
	"math"
	"slices"

	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

// RoundRead is a round with what a healthy engine reads at its operation, and what the last round of its baseline and
// of its sister comes to there.
type RoundRead struct {
	eventlog.RoundMade
	Should         []plant.Should
	Baseline, Twin []plant.Read
}

// PlantFacts is what the model takes for an engine of what is kept of it.
func PlantFacts(e eventlog.EngineFacts) plant.EngineFacts {
	c := e.Cooling
	k := plant.EngineFacts{Family: e.Family, Fuel: plant.Fuel(e.Fuel), RatedKW: e.RatedKW, RatedRPM: e.RatedRPM,
		ThermostatC: e.ThermostatC, Circuit: e.Circuit,
		Aspiration: plant.Aspiration(c.Aspiration), Exponent: c.PropellerExponent, RawLMin: c.RawLMin,
		CoolantLMin: c.CoolantLMin, UA: c.UA, BlockKJK: c.BlockKJK, Glycol: c.Glycol, AlarmC: c.AlarmC}
	if r := c.Rating; r != nil {
		rating := plant.MakersRating(*r)
		k.Rating = &rating
	}
	if t := c.Tubes; t != nil {
		tubes := plant.Tubes(*t)
		k.Tubes = &tubes
	}
	return k
}

// RoundOf is a kept round as the model takes it.
func RoundOf(r eventlog.Round) plant.Round {
	out := plant.Round{Operation: plant.Operation{RPM: r.RPM, Load: r.Load, SeaC: r.SeaC, Salinity: r.Salinity,
		SpaceC: r.SpaceC, OutOfGear: r.OutOfGear}, RanMin: r.RanMin}
	for _, x := range r.Readings {
		out.Reads = append(out.Reads, plant.Read{Station: x.Station, Side: x.Side, Value: x.Value, Error: x.Error})
	}
	return out
}

// CheckRound refuses a round that the model of this engine cannot take, by the field within the entry.
func CheckRound(e eventlog.EngineFacts, r eventlog.Round) error {
	p, err := plant.New(PlantFacts(e))
	if err != nil {
		return validation.Under("round.engine", err)
	}
	return validation.Renamed(p.CheckRounds([]plant.Round{RoundOf(r)}), "rounds[0].", "round.")
}

// Surfaces that a surface thermometer is pointed at, with their emissivities (memory) and one standard deviation of
// them. Matt ones are what it is set for.
var surfaces = map[string]struct{ emissivity, error float64 }{
	"matt": {0.95, 0.02}, "rust": {0.8, 0.05}, "oxidised": {0.6, 0.1}, "bright": {0.1, 0.05},
}

// setFor is the emissivity that a surface thermometer is set for, as most are.
const setFor = 0.95

// Pointed is the true temperature under a surface thermometer's reading, in °C, and one standard deviation of it, by
// the sum for surface thermometers.
func Pointed(readingC, errorK float64, surface string, spaceC float64) (trueC, trueError float64, err error) {
	s, ok := surfaces[surface]
	if !ok {
		var wrong validation.Errors
		wrong.Add("surface", surface, "matt, rust, oxidised, bright", "say what it was pointed at")
		return 0, 0, wrong
	}
	at := func(reading, emissivity float64) float64 {
		v, e := workbench.SurfaceTemperature(reading, setFor, emissivity, spaceC)
		if e != nil {
			err = e
		}
		return v
	}
	trueC = at(readingC, s.emissivity)
	if err != nil {
		var wrong validation.Errors
		wrong.Add("value", readingC, "what a surface in this space can send",
			"%s: was it pointed at the part? A strip of matt tape gives a reading that can be trusted", err)
		return 0, 0, wrong
	}
	byReading := (at(readingC+1, s.emissivity) - trueC) * errorK
	bySurface := trueC - at(readingC, s.emissivity+s.error)
	return trueC, math.Hypot(byReading, bySurface), err
}

// unsure is the ratio either side of 1 within which a reading says nothing worth noting.
const unsure = 1.5

// surest bounds what readings alone may say: a slip of the thermometer is never out of the question.
const surest = 0.98

// Judged is what a job's rounds say, and what they were held against.
type Judged struct {
	Health     *plant.HealthReport // nil without rounds, or where the model cannot take the engine
	Rounds     []RoundRead
	Comparison Comparison
}

// Judge takes what the job's rounds tell into its findings.
func (a *Models) Judge(r record.Reader, job *eventlog.Job, e record.Engine, beside []record.Engine) (Judged, error) {
	at := a.Now()
	if n := len(job.Rounds); n > 0 {
		at = job.Rounds[n-1].From.At
	}
	twin, err := a.TwinOf(r, e, beside, at)
	if err != nil {
		return Judged{}, err
	}
	f, err := a.Fitted(e, twin)
	plain := Judged{Rounds: plainRounds(job), Comparison: f.Comparison}
	if err != nil || len(job.Rounds) == 0 {
		return plain, nil //nolint:nilerr // the rounds stand, unjudged
	}
	out := Judged{Comparison: f.Comparison}
	for _, made := range job.Rounds {
		x, err := a.Expected(e, twin, made.Round)
		if err != nil {
			return plain, nil //nolint:nilerr // as above
		}
		out.Rounds = append(out.Rounds, RoundRead{made, x.Should, x.baseline, x.twin})
	}
	telling := currentRounds(job)
	report, err := a.Judged(e, twin, telling)
	if err != nil { // the circuit was changed since
		return plain, nil //nolint:nilerr // as above
	}
	computed := a.computedFindings(report, a.hardest(telling, e.RatedRPM), len(telling))
	job.TakeComputed(computed, job.Rounds[len(job.Rounds)-1].Order)
	out.Health = &report
	return out, nil
}

// currentRounds are the rounds that tell how the engine is now: since a proving run was begun and a round was taken in
// it, it is another engine than the one that came.
func currentRounds(job *eventlog.Job) []eventlog.Round {
	var all, since []eventlog.Round
	begun := job.ProvedFrom()
	for _, r := range job.Rounds {
		all = append(all, r.Round)
		if r.Order > begun {
			since = append(since, r.Round)
		}
	}
	if len(since) > 0 {
		return since
	}
	return all
}

// carried is the round of a list whose speed is nearest, brought to an operation; none when it cannot be.
func carried(p plant.Plant, list []eventlog.Round, to plant.Operation) []plant.Read {
	nearest, off := -1, math.Inf(1)
	for i, r := range list {
		if d := math.Abs(r.RPM - to.RPM); d < off {
			nearest, off = i, d
		}
	}
	if nearest < 0 {
		return nil
	}
	reads, err := p.Carried(RoundOf(list[nearest]), to)
	if err != nil {
		return nil
	}
	return reads
}

func plainRounds(job *eventlog.Job) []RoundRead {
	out := make([]RoundRead, len(job.Rounds))
	for i, r := range job.Rounds {
		out[i] = RoundRead{RoundMade: r}
	}
	return out
}

// hardest is the hardest operating point that rounds were read at, of an engine of a rated speed, in rev/min.
func (a *Models) hardest(rounds []eventlog.Round, ratedRPM float64) (point string) {
	fastest := 0.0
	for _, r := range rounds {
		if !r.OutOfGear { // it hardly works then, at any speed
			fastest = max(fastest, r.RPM/ratedRPM)
		}
	}
	for i, p := range a.Catalogue.Points {
		if i == 0 || fastest >= p.Speed-speedOff {
			point = p.ID
		}
	}
	return point
}

// speedOff is how far below a point's share of rated speed a round still counts as read there.
const speedOff = 0.05

// computedFindings are what rounds tell clearly, read off at a point. What is read off directly tells of a fault what
// it shows there; a pattern was weighed with what each fault shows at the speeds that were read.
func (a *Models) computedFindings(r plant.HealthReport, point string, rounds int) []eventlog.ComputedFinding {
	var list []eventlog.ComputedFinding
	for _, l := range r.Findings {
		f, ok := a.Catalogue.Finding(l.ID)
		if !ok || f.Source != catalogue.Reading || l.Ratio < unsure && l.Ratio > 1/unsure {
			continue
		}
		q := math.Min(math.Max(l.Normalised(), 1-surest), surest)
		at := ""
		if plant.ReadOff(l.ID) && slices.Contains(a.Catalogue.PointsOf(l.ID), point) {
			at = point
		}
		why := fmt.Sprintf("computed from %d %s of readings", rounds, map[bool]string{true: "round",
			false: "rounds"}[rounds == 1])
		list = append(list, eventlog.ComputedFinding{ID: l.ID, Point: at, Q: q, Why: why})
	}
	return list
}
