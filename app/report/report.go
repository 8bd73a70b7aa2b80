// Package report puts together what the owner is told of a job and of an engine.
package report

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"hevrin/app/job"
	"hevrin/app/recording"
	"hevrin/core/calculator"
	"hevrin/core/catalogue"
	"hevrin/core/drawings"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/units"
)

// Report is what the owner is told of a job: what was wrong, what was done, and in numbers how it is now. Its sentences
// are in the reader's own units; its pictures are in °C and s.
type Report struct {
	Craft, Owner, Berth string
	EngineName, Engine  string // Engine with what it is
	JobID               string
	Opened              time.Time
	By                  string
	Closed              *time.Time
	Minutes             float64
	Outcome             Outcome
	Verdict             string // in a word or two
	Says                string // what it rests on, a sentence
	Signed              string // by whom and when; empty where nobody did
	Complaint           string
	Signs               []string
	Causes              []Cause
	OneOf               string // said of the causes where it was one of them; empty where all were wrong
	Figures             []FigureLine
	Against             string // what the figures were held against
	Path                *Path
	Pictures            []calculator.Picture
	Done                []string
	Parts               []PartLine
	Total               float64 // of the parts that have a price
	Proof               []ProofLine
	Photos              []PhotoLine
	MorePhotos          int // that did not go in
	Due                 []DueLine
	KeepAnEyeOn         []string // what to keep an eye on
	Cautions            []string
	System              units.System
}

// Outcome says how the job stands, in one word for shape and colour.
type Outcome string

// The outcomes of a report.
const (
	Cured    Outcome = "cured"
	NotCured Outcome = "not-cured"
	Closed   Outcome = "closed" // without a signed run
	Tight    Outcome = "tight"  // a leak run was signed: not proved under load
	Open     Outcome = "open"
)

// Cause is what was wrong, what cures it, and how it is known.
type Cause struct {
	Label, Remedy string
	Evidence      []string
	Drawing       drawings.Drawing // as it was seen, gone as far as was told
}

// FigureLine is a figure of the engine's health before and after. After is empty where nothing was read after.
type FigureLine struct{ Label, Before, After string }

// PartLine is a part that was used. Price is that of all of them; 0 where none was put down.
type PartLine struct {
	Label, Number, State string
	Quantity, Price      float64
}

// ProofLine is a stage of the proving run.
type ProofLine struct {
	Label    string
	Standing proving.Standing
	Say      string
}

// PhotoLine is a picture with its words.
type PhotoLine struct {
	ID, Words string
	At        time.Time
	JPEG      []byte
}

// DueLine is what comes next.
type DueLine struct{ What, When, Why string }

// Path is the temperature in flow order, station after station.
type Path struct {
	Points        []PathPoint
	Before, After string // at which operation each was read; Before is empty where there is no such round
}

// PathPoint is one place. Should and Spread (two standard deviations, the reading's own among them) are those of a
// healthy engine as the last round was read; nil: not read.
type PathPoint struct {
	Label, Side    string
	Should, Spread float64
	Before, After  *float64
}

// MostPhotos is how many pictures go in: two pages hold no more.
const MostPhotos = 4

// Of makes the report of a job as it stands.
func Of(ctx context.Context, c *catalogue.Catalogue, a Source, job string, system units.System) (*Report, error) {
	page, err := a.Job(ctx, job)
	if err != nil {
		return nil, err
	}
	b := &builder{c: c, page: page, run: lastRun(page), r: &Report{System: system}}
	b.head()
	b.causes()
	b.figures()
	b.path()
	b.done()
	b.proof()
	b.due()
	b.keepAnEyeOn()
	if err := b.warmUp(ctx, a); err != nil {
		return nil, err
	}
	if err := b.photos(ctx, a); err != nil {
		return nil, err
	}
	return b.r, nil
}

// Source is where a report comes from: the use cases of jobs, recordings and photos.
type Source interface {
	Job(ctx context.Context, id string) (*job.Page, error)
	Recording(ctx context.Context, job, id string) (*recording.RecordingPage, error)
	Photo(ctx context.Context, id string) ([]byte, error)
}

// builder puts a report together.
type builder struct {
	c    *catalogue.Catalogue
	page *job.Page
	run  *job.RunPage // the last that was signed, or else that is open
	r    *Report
}

func lastRun(p *job.Page) *job.RunPage {
	var open *job.RunPage
	for i := range slices.Backward(p.Proving.Runs) {
		switch r := &p.Proving.Runs[i]; {
		case r.Signed != nil:
			return r
		case r.Dropped == nil && open == nil:
			open = r
		}
	}
	return open
}

func (b *builder) head() {
	p, r := b.page, b.r
	r.Craft, r.Owner, r.Berth, r.JobID = p.Craft.Name, p.Craft.Owner, p.Craft.Berth, p.Job.ID
	r.EngineName = p.Engine.Name
	r.Engine = engineWords(b.c, p.Engine, r.System)
	r.Opened, r.By, r.Minutes, r.Complaint = p.Job.OpenedAt, p.Job.OpenedBy, p.Card.Minutes, p.Job.Words
	for _, id := range p.Card.Complaint {
		if f, ok := b.c.Finding(id); ok {
			r.Signs = append(r.Signs, f.Label)
		}
	}
	if l := p.Job.Opening.Leak; l != nil {
		r.Signs = append(r.Signs, b.leak(*l))
	}
	if c := p.Job.Closing; c != nil {
		r.Closed = &c.From.At
	}
	b.outcome()
}

// leak says what leaks, how much of it, and where it shows.
func (b *builder) leak(l eventlog.Leak) string {
	list := []string{"Leak"}
	if w, ok := b.c.Water(l.Water); ok {
		list = append(list, Lower(w.Label))
	}
	if l.PerDay > 0 {
		list = append(list, b.say("%.1f a day", units.Of(l.PerDay, "L")))
	}
	if l.Where != "" {
		list = append(list, l.Where)
	}
	return strings.Join(list, ", ")
}

func (b *builder) outcome() {
	r, run := b.r, b.run
	switch {
	case run != nil && run.Signed != nil && run.Outcome == proving.Cured:
		r.Outcome, r.Verdict, r.Says = Cured, "Cured", provedBy[run.How]
		if names := excused(run); len(names) > 0 {
			r.Says += " Left out with a reason: " + Lower(strings.Join(names, ", ")) + "."
		}
	case run != nil && run.Signed != nil && run.Outcome == proving.Tight:
		r.Outcome, r.Verdict, r.Says = Tight, "Tight, not proved under load", provedBy[run.How]
	case run != nil && run.Signed != nil:
		r.Outcome, r.Verdict = NotCured, "Not cured"
		r.Says = "The test run failed: " + strings.Join(b.failures(run), "; ") + "."
	case b.page.Kind.Begins == catalogue.Plan && b.page.Job.Closing != nil:
		r.Outcome, r.Verdict, r.Says = Closed, "Done", "What was planned is done; no test run was signed."
		if left := leftOfPlan(b.page); len(left) > 0 {
			r.Verdict, r.Says = "Closed, not all of it done", "Still due: "+strings.Join(left, ", ")+"."
		}
	case b.page.Job.Closing != nil:
		r.Outcome, r.Verdict, r.Says = Closed, "Closed, not proved",
			"The job is closed, and no test run was signed: that it is cured is not shown."
	default:
		r.Outcome, r.Verdict, r.Says = Open, "Work goes on", "The job is not closed: this is how it stands."
	}
	if run != nil && run.Signed != nil {
		r.Signed = fmt.Sprintf("Signed by %s, %s", run.Signed.By, Day(run.Signed.At))
	}
	if run != nil && run.Where != proving.Afloat {
		r.Says += " Made on a hose ashore: what depends on the sea's flow is not proved."
	}
}

// provedBy says how a run proves what it proves.
var provedBy = map[string]string{
	proving.ByReadings: "Proved in a test run: every stage passed, the readings show nothing wrong.",
	proving.ByHand: "Proved by hand in a test run: water at the outlet, where the needle stood against a thermometer, " +
		"minutes at cruising speed, top speed, dry joints and a dry bilge.",
	proving.LeakRun: "Ten minutes and more at the berth: joints and bilge stayed dry. Not proved under load.",
}

// leftOfPlan is what of a planned job's plan was not done.
func leftOfPlan(p *job.Page) (left []string) {
	for _, i := range p.Plan {
		if i.DoneAt == nil {
			left = append(left, Lower(i.Do))
		}
	}
	return left
}

func excused(run *job.RunPage) (names []string) {
	for _, s := range run.Stages {
		if s.Standing == proving.Excused {
			names = append(names, s.Label)
		}
	}
	return names
}

// failures are what failed in a run, each with what was seen.
func (b *builder) failures(run *job.RunPage) (list []string) {
	for _, s := range run.Stages {
		if s.ID == proving.VerdictStage && len(list) > 0 {
			continue
		}
		for _, k := range s.Criteria {
			if k.Standing == proving.Failed {
				list = append(list, strings.TrimSuffix(Lower(k.Label)+": "+k.Say.In(b.r.System), ": "))
			}
		}
	}
	if run.NextDay != nil && !run.NextDay.OK {
		list = append(list, strings.TrimSuffix("it dripped on the day after: "+run.NextDay.Words, ": "))
	}
	if len(list) == 0 {
		list = append(list, "see the stages")
	}
	return list
}

func (b *builder) causes() {
	if c := b.page.Job.Closing; c != nil && c.OneOf {
		b.r.OneOf = "It was one of these. They were put right together, with no run between, so which is not known."
	}
	faults := b.page.Card.Faults
	for _, id := range faults {
		f, ok := b.c.Fault(id)
		if !ok {
			continue
		}
		drawn := drawings.All().Fault(f)
		cause := Cause{Label: f.Label, Remedy: f.Remedy, Evidence: b.evidence(f), Drawing: drawn.Drawing}
		for _, x := range b.page.Enough {
			if x.Fault == id && x.Share != nil { // as it was seen or measured, not what it might be
				cause.Evidence = append(cause.Evidence, b.say("By the model of the engine: %s.", x.Say))
				cause.Drawing = drawn.GoneBy(*x.Share)
			}
		}
		cause.Drawing = drawings.All().On(b.page.Engine.Circuit, cause.Drawing)
		b.r.Causes = append(b.r.Causes, cause)
	}
}

// evidence says how a fault is known: its sure looks, each with what was seen and by whom.
func (b *builder) evidence(f catalogue.Fault) (list []string) {
	for _, made := range b.page.Job.Checks {
		if made.Outcome != eventlog.Done || !slices.ContainsFunc(f.Sure,
			func(s catalogue.SureLook) bool { return s.Check == made.Check }) {
			continue
		}
		check, _ := b.c.Check(made.Check)
		var saw []string
		for _, k := range b.page.Job.Findings {
			if k.Check == made.Check && k.Q == 1 {
				if finding, ok := b.c.Finding(k.ID); ok {
					saw = append(saw, Lower(finding.Label))
				}
			}
		}
		if len(saw) > 0 {
			list = append(list, fmt.Sprintf("%s: %s (%s, %s)", check.Label, strings.Join(saw, ", "), made.From.By,
				Day(made.From.At)))
		}
	}
	return list
}

// keepAnEyeOn is what the owner has to keep an eye on, and the cautions that go with it.
func (b *builder) keepAnEyeOn() {
	p, r := b.page, b.r
	if c := p.Job.Closing; c != nil && c.Words != "" {
		r.KeepAnEyeOn = append(r.KeepAnEyeOn, c.Words)
	}
	if c := p.Job.Closing; c != nil && c.WatchHours > 0 {
		r.KeepAnEyeOn = append(r.KeepAnEyeOn, fmt.Sprintf("It comes and goes: on watch for %.0f running hours. If it comes "+
			"back, say what was running, how hard and how warm it was.", c.WatchHours))
	}
	if c := p.Job.Closing; c != nil && c.Despite != "" {
		r.KeepAnEyeOn = append(r.KeepAnEyeOn, "Closed with something open: "+c.Despite)
	}
	if run := b.run; run != nil && run.Signed != nil {
		if run.Signed.Words != "" {
			r.KeepAnEyeOn = append(r.KeepAnEyeOn, run.Signed.Words)
		}
		if run.Codes != nil && run.Codes.Words != "" {
			r.KeepAnEyeOn = append(r.KeepAnEyeOn, "Latched at the panel: "+run.Codes.Words)
		}
		if run.NextDay == nil && r.Outcome == Cured {
			r.KeepAnEyeOn = append(r.KeepAnEyeOn, "Look under the engine the day after the run, with a dry tissue, for drips.")
		}
		if w := run.Warmed; w != nil && w.Warmed.PlateauC != nil && r.Outcome == Cured {
			r.KeepAnEyeOn = append(r.KeepAnEyeOn,
				b.say("Its coolant stood at %.0f in the test run. Some %.0f more under the same load is a reason to look.",
					units.Of(*w.Warmed.PlateauC, "degC"), units.Of(10, "K")))
		}
	}
	if p.State != nil {
		for _, c := range p.State.Unfit() {
			if c.Reason != "" {
				r.KeepAnEyeOn = append(r.KeepAnEyeOn, fmt.Sprintf("%s went back although it was condemned (%s): %s", c.Label,
					c.Why, c.Reason))
			}
		}
	}
	for _, x := range p.AlsoSeen {
		if !x.PutRight {
			r.KeepAnEyeOn = append(r.KeepAnEyeOn, fmt.Sprintf("Also seen: %s (%s, %s). Not what caused it, and still to be "+
				"put right: %s.", Lower(x.Label), x.Since.By, Day(x.Since.At), Lower(x.Grade.Do)))
		}
	}
	for _, o := range p.Account.PassedOver() {
		r.KeepAnEyeOn = append(r.KeepAnEyeOn, fmt.Sprintf("Started with something open (%s): %s", o.Against, o.Words))
	}
	for _, s := range p.Standing {
		r.KeepAnEyeOn = append(r.KeepAnEyeOn, "Not settled. "+s)
	}
	for _, rule := range ownersCautions {
		if rule.when(b) {
			r.Cautions = append(r.Cautions, rule.say)
		}
	}
}

// ownersCautions are told where they bite. Common practice.
var ownersCautions = []struct {
	when func(*builder) bool
	say  string
}{
	{func(b *builder) bool { return b.r.Outcome == NotCured },
		"Do not load it until it is cured: ease it at the first sign of heat, and stop it if no water comes at the outlet."},
	{func(b *builder) bool { return b.r.Outcome != NotCured },
		"If it runs hot: ease it, look for water at the outlet, stop it if there is none."},
	{func(b *builder) bool { return catalogue.HasCoolant(b.page.Engine.Family, b.page.Engine.Circuit) },
		"Never open a hot cap: coolant under pressure scalds."},
	{func(b *builder) bool {
		return slices.ContainsFunc(b.page.Wetwork.Works, func(w job.WetworkItem) bool { return w.Coolant != nil }) ||
			drained(b.page)
	}, "Coolant is poisonous and sweet: keep it from people and pets, never let it overboard."},
	{func(b *builder) bool { return slices.ContainsFunc(b.page.Card.Faults, exhaustFault) },
		"A leaking exhaust carries carbon monoxide: keep an alarm in the cabin."},
}

func exhaustFault(id string) bool {
	return slices.Contains([]string{"elbow-holed", "exhaust-hose-failed", "silencer-blocked"}, id)
}

func drained(p *job.Page) bool {
	return slices.ContainsFunc(p.Account.PartsUsed(),
		func(u teardown.Used) bool { return strings.Contains(strings.ToLower(u.Label), "coolant") })
}

func (b *builder) photos(ctx context.Context, a Source) error {
	for i, x := range b.page.Job.Photos {
		if i >= MostPhotos {
			b.r.MorePhotos++
			continue
		}
		jpeg, err := a.Photo(ctx, x.From.Entry)
		if err != nil {
			return err
		}
		b.r.Photos = append(b.r.Photos, PhotoLine{x.From.Entry, x.Words, x.From.At, jpeg})
	}
	return nil
}
