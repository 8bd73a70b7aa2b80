package reports

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hevrin/app/job"
	"hevrin/app/readings"
	"hevrin/app/recording"
	"hevrin/core/calculator"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/core/wetwork"
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
	Open     Outcome = "open"
)

// Cause is what was wrong, what cures it, and how it is known.
type Cause struct {
	Label, Remedy string
	Evidence      []string
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

// mostPhotos is how many pictures go in: two pages hold no more.
const mostPhotos = 4

// ReportOf makes the report of a job as it stands.
func ReportOf(ctx context.Context, c *catalogue.Catalogue, a Source, job string, system units.System) (*Report, error) {
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
	b.inOwnUnits()
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
	family := p.Engine.Family
	if f, ok := b.c.Family(family); ok {
		family = f.Label
	}
	r.EngineName = p.Engine.Name
	r.Engine = fmt.Sprintf("%s, %s of %g kW at %g rev/min, %s", p.Engine.Name, p.Engine.Fuel, p.Engine.RatedKW,
		p.Engine.RatedRPM, lower(family))
	r.Opened, r.By, r.Minutes, r.Complaint = p.Job.OpenedAt, p.Job.OpenedBy, p.Card.Minutes, p.Job.Words
	for _, id := range p.Card.Complaint {
		if f, ok := b.c.Finding(id); ok {
			r.Signs = append(r.Signs, f.Label)
		}
	}
	if c := p.Job.Closing; c != nil {
		r.Closed = &c.From.At
	}
	b.outcome()
}

func (b *builder) outcome() {
	r, run := b.r, b.run
	switch {
	case run != nil && run.Signed != nil && run.Outcome == proving.Cured:
		r.Outcome, r.Verdict, r.Says = Cured, "Cured",
			"Proved in a test run: every stage passed, the readings show nothing wrong."
		if names := excused(run); len(names) > 0 {
			r.Says = "Proved in a test run; left out with a reason: " + lower(strings.Join(names, ", ")) + "."
		}
	case run != nil && run.Signed != nil:
		r.Outcome, r.Verdict = NotCured, "Not cured"
		r.Says = "The test run failed: " + strings.Join(failures(run), "; ") + "."
	case b.page.Job.Closing != nil:
		r.Outcome, r.Verdict, r.Says = Closed, "Closed, not proved",
			"The job is closed, and no test run was signed: that it is cured is not shown."
	default:
		r.Outcome, r.Verdict, r.Says = Open, "Work goes on", "The job is not closed: this is how it stands."
	}
	if run != nil && run.Signed != nil {
		r.Signed = fmt.Sprintf("Signed by %s, %s", run.Signed.By, day(run.Signed.At))
	}
	if run != nil && run.Where != proving.Afloat {
		r.Says += " Made on a hose ashore: what depends on the sea's flow is not proved."
	}
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
func failures(run *job.RunPage) (list []string) {
	for _, s := range run.Stages {
		if s.ID == proving.VerdictStage && len(list) > 0 {
			continue
		}
		for _, k := range s.Criteria {
			if k.Standing == proving.Failed {
				list = append(list, strings.TrimSuffix(lower(k.Label)+": "+k.Say, ": "))
			}
		}
	}
	if len(list) == 0 {
		list = append(list, "see the stages")
	}
	return list
}

func (b *builder) causes() {
	faults := b.page.Card.Faults
	for _, id := range faults {
		f, ok := b.c.Fault(id)
		if !ok {
			continue
		}
		b.r.Causes = append(b.r.Causes, Cause{Label: f.Label, Remedy: f.Remedy, Evidence: b.evidence(f)})
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
					saw = append(saw, lower(finding.Label))
				}
			}
		}
		if len(saw) > 0 {
			list = append(list, fmt.Sprintf("%s: %s (%s, %s)", check.Label, strings.Join(saw, ", "), made.From.By,
				day(made.From.At)))
		}
	}
	return list
}

// figures are before and after of the run; without a run, of wet work; else what the rounds say now.
func (b *builder) figures() {
	switch {
	case b.run != nil && len(b.run.Gains) > 0:
		for _, g := range b.run.Gains {
			b.r.Figures = append(b.r.Figures, FigureLine{capital(g.Label), formatted(g.Before, g.BeforeError, g.Ratio),
				formatted(g.After, g.AfterError, g.Ratio)})
		}
		b.r.Against = b.run.Against
		return
	case b.page.Health == nil:
		return
	}
	for _, w := range b.page.Wetwork.Works {
		for _, g := range w.Gains {
			b.r.Figures = append(b.r.Figures, FigureLine{capital(g.Label), formatted(g.Before, g.BeforeError, true),
				formatted(g.After, g.AfterError, true)})
		}
	}
	b.r.Against = b.page.Comparison.Words()
	if len(b.r.Figures) > 0 {
		return
	}
	for _, f := range b.page.Health.Figures {
		if f.Known {
			b.r.Figures = append(b.r.Figures, FigureLine{capital(f.Label), formatted(f.Value, f.Error, f.Ratio), ""})
		}
	}
}

// formatted is a figure with its error, in words.
func formatted(v, e float64, ratio bool) string {
	if ratio {
		return fmt.Sprintf("%.0f ± %.0f %%", 100*v, math.Max(1, 100*e))
	}
	return fmt.Sprintf("%s ± %.1f K", signed(v), math.Max(0.1, e))
}

func signed(v float64) string {
	switch text := fmt.Sprintf("%.1f", math.Abs(v)); {
	case text == "0.0":
		return text
	case v < 0:
		return "−" + text
	default:
		return "+" + text
	}
}

// path puts the round after beside the round before that was read most like it.
func (b *builder) path() {
	rounds := b.page.Rounds
	if len(rounds) == 0 {
		return
	}
	after := rounds[len(rounds)-1]
	for _, x := range rounds { // the hardest of the newest: under load a weakness shows
		if since := b.run == nil || x.Order > b.run.Order; since && x.RPM >= after.RPM && !x.OutOfGear {
			after = x
		}
	}
	var before *readings.RoundRead
	for i, x := range rounds {
		earlier := b.run != nil && x.Order < b.run.Order
		if earlier && (before == nil || math.Abs(x.RPM-after.RPM) <= math.Abs(before.RPM-after.RPM)) {
			before = &rounds[i]
		}
	}
	path := &Path{After: operation(after)}
	if before != nil {
		path.Before = operation(*before)
	}
	for _, s := range after.Should {
		point := PathPoint{Label: b.place(s.Station, s.Side), Side: s.Side, Should: s.TempC}
		own := 1.0
		if x, ok := readAt(after, s.Station, s.Side); ok {
			point.After, own = &x.Value, x.Error
		}
		if before != nil {
			if x, ok := readAt(*before, s.Station, s.Side); ok {
				point.Before = &x.Value
			}
		}
		if point.After == nil && point.Before == nil {
			continue
		}
		point.Spread = 2 * math.Hypot(s.SpreadK, own)
		path.Points = append(path.Points, point)
	}
	if len(path.Points) > 0 {
		b.r.Path = path
	}
}

func readAt(r readings.RoundRead, station, side string) (eventlog.Read, bool) {
	for _, x := range r.Readings {
		if x.Station == station && (x.Side == "" || x.Side == side) {
			return x, true
		}
	}
	return eventlog.Read{}, false
}

func operation(r readings.RoundRead) string {
	gear := ""
	if r.OutOfGear {
		gear = ", out of gear"
	}
	return fmt.Sprintf("%s, %.0f rev/min%s, sea %.0f °C", day(r.From.At), r.RPM, gear, r.SeaC)
}

func (b *builder) station(id string) string {
	if s, ok := b.c.Station(id); ok {
		return s.Label
	}
	return id
}

// place is a station, with its side where it has two.
func (b *builder) place(id, side string) string {
	s, ok := b.c.Station(id)
	if !ok || len(s.Sides[b.page.Engine.Family]) < 2 {
		return b.station(id)
	}
	return s.Label + map[string]string{"raw": ", raw", "coolant": ", coolant"}[side]
}

// warmUp draws the run's recording, or else the job's last.
func (b *builder) warmUp(ctx context.Context, a Source) error {
	id := ""
	if n := len(b.page.Proving.Recordings); n > 0 {
		id = b.page.Proving.Recordings[n-1].ID
	}
	if b.run != nil && b.run.Warmed != nil && b.run.Warmed.Warmed != nil {
		id = b.run.Warmed.Warmed.Recording
	}
	if id == "" {
		return nil
	}
	p, err := a.Recording(ctx, b.page.Job.ID, id)
	if err != nil {
		return err
	}
	if picture, ok := warmUpPicture(p, b.page.Engine.ThermostatC); ok {
		b.r.Pictures = append(b.r.Pictures, picture)
	}
	return nil
}

// drawnPoints is as many as paper shows.
const drawnPoints = 400

func warmUpPicture(p *recording.RecordingPage, rating float64) (calculator.Picture, bool) {
	coolant, ok := proving.CoolantOf(p.Tracks)
	if !ok || coolant.Len() < 2 {
		return calculator.Picture{}, false
	}
	out := calculator.Picture{Title: "Warm-up, " + day(p.From.At),
		X: calculator.Axis{Label: "From the start of the recording", Unit: "s"}, Y: calculator.Axis{Label: "Temperature",
			Unit: "degC"}}
	add := func(t proving.Track, label string, role calculator.Role) {
		thin := t.Thin(drawnPoints)
		out.Lines = append(out.Lines, calculator.Line{Label: label, Role: role, X: thin.Seconds, Y: thin.Values})
	}
	add(coolant, "Coolant", calculator.HotSide)
	for _, t := range p.Tracks {
		if t.Station == "elbow" && t.Len() > 1 {
			add(t, "Elbow", calculator.ColdSide)
		}
	}
	for _, l := range p.Limits {
		if l.Place == coolant.Place {
			out.Limits = append(out.Limits, calculator.Limit{Label: l.Label,
				Role:   map[bool]calculator.Role{true: calculator.Stop, false: calculator.Should}[l.Stop || l.At > rating],
				Across: "y", At: l.At})
		}
	}
	if x := p.Analysis; x.OpenedAtS != nil {
		out.Marks = append(out.Marks, calculator.Mark{Label: fmt.Sprintf("opens at %.0f °C", *x.OpenedC), X: *x.OpenedAtS,
			Y: *x.OpenedC})
	}
	if x := p.Analysis; x.PlateauC != nil && x.PlateauToS != nil {
		out.Marks = append(out.Marks, calculator.Mark{Label: fmt.Sprintf("stands at %.0f °C", *x.PlateauC),
			X: (*x.PlateauFromS + *x.PlateauToS) / 2, Y: *x.PlateauC})
	}
	return out, true
}

// done lists what was done: tasks, wet work, what is on the bench, notes.
func (b *builder) done() {
	p, r := b.page, b.r
	seals, reused := 0, 0
	for _, i := range p.Account.Items {
		if i.Kind == teardown.Seal {
			seals, reused = seals+i.New, reused+i.Reused
		}
	}
	for _, t := range p.Account.Tasks {
		r.Done = append(r.Done, t.Label)
	}
	if seals > 0 {
		r.Done = append(r.Done, fmt.Sprintf("%d new %s fitted", seals, plural(seals, "seal")))
	}
	if reused > 0 {
		r.Done = append(r.Done, fmt.Sprintf("%d old %s put back, each with a reason on record", reused, plural(reused,
			"seal")))
	}
	for _, w := range p.Wetwork.Works {
		r.Done = append(r.Done, workWords(w.Work))
	}
	for _, n := range p.Job.Notes {
		r.Done = append(r.Done, n.Words)
	}
	for _, u := range p.Account.Used {
		line := PartLine{Label: u.Label, Number: u.PartNumber, State: u.State, Quantity: u.Quantity,
			Price: u.Quantity * u.Price}
		r.Parts, r.Total = append(r.Parts, line), r.Total+line.Price
	}
}

var workKinds = map[string]string{wetwork.Flushing: "Flushed", wetwork.Descale: "Descaled",
	wetwork.CoolantJob: "Coolant changed"}

func workWords(w wetwork.Work) string {
	say := workKinds[w.Kind]
	switch {
	case w.Descale != nil:
		say += fmt.Sprintf(" with %s, %.0f L of bath", w.Descale.Product.Label, w.Descale.BathL)
	case w.Coolant != nil:
		say += fmt.Sprintf(", %.1f L in", w.InL)
	}
	if w.Ended == nil {
		return say + ", not finished"
	}
	return strings.TrimSuffix(say+". "+w.Words, ". ")
}

func (b *builder) proof() {
	if b.run == nil {
		return
	}
	for _, s := range b.run.Stages {
		line := ProofLine{Label: s.Label, Standing: s.Standing}
		var say []string
		joints, dry := 0, 0
		for _, k := range s.Criteria {
			switch {
			case strings.HasPrefix(k.ID, "joint:"):
				joints++
				if k.Standing == proving.Passed {
					dry++
					continue
				}
				say = append(say, lower(k.Label)+" "+k.Say)
			case k.Standing == proving.Passed && slices.Contains(plainly, k.Say):
				say = append(say, lower(k.Label))
			case k.Say != "" && s.ID != proving.VerdictStage || k.ID == "readings" || k.ID == "codes":
				say = append(say, lower(k.Label)+": "+k.Say)
			}
		}
		if joints > 0 {
			say = append([]string{fmt.Sprintf("%d of %d joints dry", dry, joints)}, say...)
		}
		if s.Standing == proving.Excused {
			say = []string{"left out: " + s.Why}
		}
		line.Say = capital(strings.Join(say, "; "))
		b.r.Proof = append(b.r.Proof, line)
	}
}

// plainly says no more than the criterion itself.
var plainly = []string{"nothing", "dry", "measured"}

func (b *builder) due() {
	for _, w := range b.page.Card.Works {
		if w.Due != "" {
			when, err := time.Parse("2006-01-02", w.Due)
			if err == nil {
				b.r.Due = append(b.r.Due, DueLine{nextWork[w.Kind], "by " + day(when), w.Why})
			}
		}
	}
}

var nextWork = map[string]string{wetwork.Descale: "Descale again", wetwork.CoolantJob: "Change the coolant"}

// keepAnEyeOn is what the owner has to keep an eye on, and the cautions that go with it.
func (b *builder) keepAnEyeOn() {
	p, r := b.page, b.r
	if c := p.Job.Closing; c != nil && c.Words != "" {
		r.KeepAnEyeOn = append(r.KeepAnEyeOn, c.Words)
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
				fmt.Sprintf("Its coolant stood at %.0f °C in the test run. Some 10 K more under the same load is a reason to "+
					"look.", *w.Warmed.PlateauC))
		}
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
	{func(b *builder) bool { return b.page.Engine.Family == catalogue.Closed },
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
	return slices.ContainsFunc(p.Account.Used,
		func(u teardown.Used) bool { return strings.Contains(strings.ToLower(u.Label), "coolant") })
}

func (b *builder) photos(ctx context.Context, a Source) error {
	for i, x := range b.page.Job.Photos {
		if i >= mostPhotos {
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

// inOwnUnits turns the sentences into the reader's units.
func (b *builder) inOwnUnits() {
	r := b.r
	own := func(s string) string { return units.Rewrite(s, r.System) }
	for _, s := range []*string{&r.Says, &r.Verdict} {
		*s = own(*s)
	}
	for _, list := range [][]string{r.Done, r.KeepAnEyeOn, r.Cautions} {
		for i, s := range list {
			list[i] = own(s)
		}
	}
	for i := range r.Proof {
		r.Proof[i].Say = own(r.Proof[i].Say)
	}
	for i := range r.Figures {
		r.Figures[i].Before, r.Figures[i].After = own(r.Figures[i].Before), own(r.Figures[i].After)
	}
	for i := range r.Pictures {
		for k := range r.Pictures[i].Marks {
			r.Pictures[i].Marks[k].Label = own(r.Pictures[i].Marks[k].Label)
		}
	}
	if r.Path != nil {
		r.Path.Before, r.Path.After = own(r.Path.Before), own(r.Path.After)
	}
}

func day(t time.Time) string { return t.Format("2 January 2006") }

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func lower(s string) string {
	if len(s) < 2 || s[1] >= 'A' && s[1] <= 'Z' { // as UA
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

func plural(n int, word string) string {
	if n == 1 {
		return word
	}
	return word + "s"
}
