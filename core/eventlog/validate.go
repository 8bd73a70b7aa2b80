package eventlog

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// fieldsOf lists, by the kind of a job's entry, the fields that it must and may have.
var fieldsOf = map[Kind]struct{ must, may []string }{
	Found:         {must: []string{"stated"}},
	HistoryStated: {must: []string{"stated"}},
	Checked:       {must: []string{"check", "outcome"}, may: []string{"stated", "minutes", "words", "round"}},
	Access:        {must: []string{"access", "open"}},
	Strategy:      {must: []string{"strategy"}},
	Noted:         {must: []string{"words"}},
	RoundTaken:    {must: []string{"round"}, may: []string{"words"}},
	Calculated:    {must: []string{"sum"}, may: []string{"words", "stated"}},
	TeardownNoted: {must: []string{"strip"}},
	WetworkNoted:  {must: []string{"wet"}},
	Pictured:      {must: []string{"photo"}, may: []string{"words"}},
	Proved:        {must: []string{"proving"}, may: []string{"stated"}},
	Recorded:      {must: []string{"recording"}},
	Closed: {must: []string{"explains_everything"}, may: []string{"faults", "words", "despite", "watch_hours",
		"one_of_these"}},
	Reopened: {},
}

func (b Body) given() map[string]bool {
	return map[string]bool{"stated": len(b.Stated) > 0, "check": b.Check != "", "outcome": b.Outcome != "",
		"minutes": b.Minutes != nil, "access": b.Access != "", "open": b.Open != nil, "strategy": b.Strategy != "",
		"faults": len(b.Faults) > 0, "explains_everything": b.Explains != nil, "sum": b.Calculation != nil,
		"round": b.Round != nil, "strip": b.Teardown != nil, "photo": b.Photo != nil, "wet": b.Wetwork != nil,
		"proving": b.Proving != nil, "recording": b.Recording != nil, "despite": strings.TrimSpace(b.Despite) != "",
		"watch_hours": b.WatchHours != nil, "one_of_these": b.OneOf != nil,
		"words": strings.TrimSpace(b.Words) != ""}
}

// Stand is how an engine stands before an entry. Without one, as for a job that went its way on another record, nothing
// is held against it.
type Stand struct {
	Conditions []teardown.Condition
	// Holds says whether an item is on the engine's account, by its key.
	Holds func(key string) bool
	// Unfit says why an item must not go back, by its key; empty where it may.
	Unfit func(key string) string
	// Joint says whether something is open that an act closes up, by its id.
	Joint func(id string) bool
}

// CheckJobEntry says what keeps an entry from being added to a job on an engine: input.Errors for what is wrong in
// itself, a Conflict for what does not fit the job or the engine as they stand.
func CheckJobEntry(c *catalogue.Catalogue, engine EngineFacts, job *Job, stand *Stand, e Entry) error {
	kind, _ := c.JobKind(job.Opening.Kind)
	v := &checker{c: c, engine: engine, body: e.Body, planned: kind.Begins == catalogue.Plan}
	v.fields(e.Kind)
	if check, ok := contents[e.Kind]; ok && len(v.wrong) == 0 {
		check(v)
	}
	if len(v.wrong) > 0 {
		return v.wrong
	}
	switch {
	case e.Kind == Reopened && job.Closing == nil:
		return conflict("the job is open already")
	case !slices.Contains(afterwards, e.Kind) && !nextDay(e) && job.Closing != nil:
		return conflict("the job is closed: reopen it to go on")
	case e.Kind == Closed && strings.TrimSpace(e.Body.Despite) == "":
		if stand == nil {
			return nil
		}
		if standing := job.Standing(stand.Conditions); len(standing) > 0 {
			return conflict("something still stands in the way. %s. Settle it, or say in words why the job ends all the same",
				strings.Join(standing, ". "))
		}
	case e.Kind == Proved:
		if say := job.Proving.Refuse(*e.Body.Proving); say != "" {
			return conflict("%s", say)
		}
	case e.Kind == Recorded:
		return checkRecording(job, *e.Body.Recording)
	case e.Kind == WetworkNoted:
		if say := job.Wetwork.Refuse(*e.Body.Wetwork); say != "" {
			return conflict("%s", say)
		}
	case e.Kind == TeardownNoted:
		return checkAct(c, engine, job, stand, *e.Body.Teardown)
	}
	return nil
}

// afterwards lists what a closed job still takes.
var afterwards = []Kind{Reopened, Noted, Calculated, Pictured}

// nextDay: the drip look of the day after a run, which a closed job takes too.
func nextDay(e Entry) bool { return e.Body.Proving != nil && e.Body.Proving.Do == proving.NextDay }

func checkRecording(job *Job, r Recording) error {
	kept, known := job.Recording(r.ID)
	_, open := job.Open()
	switch {
	case r.Do == RecordingEnded && (!known || kept.Ended != nil):
		return conflict("that recording is ended already, or not on this job any more")
	case r.Do != RecordingEnded && known:
		return conflict("that recording is on this job already")
	case r.Do == RecordingBegun && open:
		return conflict("a recording goes on already: end it first")
	}
	return nil
}

// ofItems are the acts that are about an item on the list.
var ofItems = []string{teardown.Off, teardown.On, teardown.Noted, teardown.Excuse, teardown.Tighten, teardown.Counted,
	teardown.Refitted}

// engineShut says whether something known stands in the way of a run, beside what nobody said yet.
func engineShut(stand *Stand) bool {
	return slices.ContainsFunc(stand.Conditions, func(c teardown.Condition) bool { return c.Stands && !c.Passed() })
}

// checkAct says what keeps an act from being taken into the account as it stands.
func checkAct(c *catalogue.Catalogue, engine EngineFacts, job *Job, stand *Stand, a teardown.Act) error {
	var wrong validation.Errors
	if stand == nil {
		stand = &Stand{Holds: func(string) bool { return true }, Unfit: func(string) string { return "" },
			Joint: func(string) bool { return true }}
		if slices.Contains([]string{teardown.Tick, teardown.Override, teardown.Start}, a.Do) {
			return nil
		}
	}
	conditions := stand.Conditions
	known := func(id string) bool {
		return slices.ContainsFunc(conditions, func(x teardown.Condition) bool { return x.ID == id })
	}
	switch {
	case a.Do == teardown.On && a.Count > 0 && a.State == teardown.Reused && strings.TrimSpace(a.Words) == "" &&
		stand.Unfit(a.Item) != "":
		wrong.Add("strip.words", "nothing", "a reason", "it was condemned (%s): fit a new one, or say in words why the old "+
			"one goes back", stand.Unfit(a.Item))
	case a.Do == teardown.Ran && engineShut(stand):
		return conflict("something is still open or shut here: settle it one by one")
	case a.Do == teardown.GoOn && job.Teardown.Waiting == nil:
		return conflict("the job goes on already")
	case (a.Do == teardown.PutRight || a.Do == teardown.HowFar) && !slices.ContainsFunc(
		c.FaultsOn(engine.Family, engine.Circuit), func(f catalogue.Fault) bool { return f.ID == a.Item }):
		wrong.Add("strip.item", a.Item, "a fault that this engine can have", "this engine cannot have that fault")
	case a.Do == teardown.Close && !stand.Joint(a.Item):
		return conflict("that is closed up already, or not on record any more")
	case slices.Contains(ofItems, a.Do) && !job.Teardown.Has(a.Item) && !stand.Holds(a.Item):
		return conflict("%q is not on this job's list any more: it may have been taken back on another device", a.Item)
	case a.Do == teardown.Heed:
		if _, ok := c.Caution(a.Item); !ok {
			wrong.Add("strip.item", a.Item, "a caution of the catalogue", "there is no such caution")
		}
	case a.Do == teardown.Choose:
		m, ok := c.Method(a.Item)
		if _, school := m.School(a.State); !ok || !school {
			wrong.Add("strip.state", a.State, "a school of the question", "there is no such way of doing it")
		}
	case (a.Do == teardown.Tick || a.Do == teardown.Override) && !known(a.Item):
		wrong.Add("strip.item", a.Item, "a condition of this job's start", "there is no such condition now")
	case (a.Do == teardown.Found || a.Do == teardown.Looked) && !slices.Contains(engine.Circuit, a.Item):
		wrong.Add("strip.item", a.Item, "a station of this engine", "this engine has no such place")
	case a.Do == teardown.Start && !teardown.Ready(conditions):
		var list []string
		for _, x := range conditions {
			if !x.Passed() {
				list = append(list, x.Label+": "+x.Why)
			}
		}
		return conflict("not ready to start. %s", strings.Join(list, ". "))
	}
	return wrong.Err()
}

type checker struct {
	c      *catalogue.Catalogue
	engine EngineFacts
	body   Body
	// planned: the job is of a kind of which no cause is asked.
	planned bool
	wrong   validation.Errors
}

func (v *checker) fields(k Kind) {
	rule, ok := fieldsOf[k]
	if !ok {
		v.wrong.Add("kind", k,
			"finding, history, check, access, strategy, note, sum, round, strip, photo, wet, proving, recording, closed, "+
				"reopened", "a job keeps no such entry")
		return
	}
	for field, given := range v.body.given() {
		must, may := slices.Contains(rule.must, field), slices.Contains(rule.may, field)
		switch {
		case must && !given:
			v.wrong.Add(field, "nothing", "a value", "an entry of kind %s needs %s", k, field)
		case given && !must && !may:
			v.wrong.Add(field, "a value", "nothing", "an entry of kind %s has no %s: leave it out", k, field)
		}
	}
	slices.SortFunc(v.wrong, func(a, b *validation.Error) int { return strings.Compare(a.Field, b.Field) })
}

var contents = map[Kind]func(*checker){
	Found: func(v *checker) {
		v.stated(findings, func(id string) bool { _, ok := v.c.Finding(id); return ok })
	},
	HistoryStated: func(v *checker) {
		v.stated("history item", func(id string) bool { _, ok := v.c.HistoryItem(id); return ok })
	},
	Checked: (*checker).check,
	Access: func(v *checker) {
		if _, ok := v.c.Opening(v.body.Access); !ok {
			v.wrong.Add("access", v.body.Access, "an access or a joint of the catalogue", "there is no such access")
		}
	},
	Strategy: func(v *checker) {
		if !slices.Contains(diagnosis.Strategies, v.body.Strategy) {
			v.wrong.Add("strategy", v.body.Strategy, units.Sentence(strings.Join(diagnosis.Strategies, ", ")),
				"there is no such order of search")
		}
	},
	Closed: (*checker).closed,
	Calculated: func(v *checker) {
		v.stated(findings, func(id string) bool { _, ok := v.c.Finding(id); return ok })
	},
	WetworkNoted: func(v *checker) {
		v.under("wet", v.body.Wetwork.Check(v.engine.RawStations(v.c)))
	},
	Proved: func(v *checker) {
		v.under("proving", v.body.Proving.Check())
		v.stated(findings, func(id string) bool { _, ok := v.c.Finding(id); return ok })
	},
	Recorded: func(v *checker) {
		r := v.body.Recording
		if strings.TrimSpace(r.ID) == "" {
			v.wrong.Add("recording.id", "nothing", "an id", "say which recording it is")
		}
		if !slices.Contains([]string{RecordingBegun, RecordingEnded, RecordingWhole}, r.Do) {
			v.wrong.Add("recording.do", r.Do, "begin, end", "say whether it begins or ends")
		}
		for i, p := range r.Places {
			if !PlaceOn(v.c, v.engine, p) {
				v.wrong.Add(fmt.Sprintf("recording.places[%d]", i), p.String(), "a place of this engine",
					"this engine has no such place")
			}
		}
	},
	TeardownNoted: func(v *checker) {
		v.under("strip", v.body.Teardown.Check())
	},
}

// under takes the slips of a part in, with their fields under its name.
func (v *checker) under(part string, err error) {
	var wrong validation.Errors
	if errors.As(err, &wrong) {
		for _, w := range wrong {
			w.Field = part + "." + w.Field
		}
		v.wrong = append(v.wrong, wrong...)
	}
}

// findings is the kind of what a look states.
const findings = "finding"

func (v *checker) stated(kind string, known func(string) bool) {
	seen, chosen := map[string]bool{}, map[string]bool{}
	for i, s := range v.body.Stated {
		at := fmt.Sprintf("stated[%d]", i)
		switch {
		case !known(s.ID):
			v.wrong.Add(at+".id", s.ID, "an id of the catalogue", "there is no %s %q", kind, s.ID)
		case seen[s.ID]:
			v.wrong.Add(at+".id", s.ID, "each once", "%q is given twice", s.ID)
		}
		seen[s.ID] = true
		if s.State == Unsure && (kind != findings || v.body.Check == "") {
			v.wrong.Add(at+".state", s.State, "present, absent, unknown", "only a look can be unsure of what it saw")
		}
		if !slices.Contains([]string{Present, Absent, Unknown, Unsure}, s.State) {
			v.wrong.Add(at+".state", s.State, "present, absent, unknown, unsure", "say whether it is so")
		}
		if s.Q != nil && (math.IsNaN(*s.Q) || *s.Q < 0 || *s.Q > 1) {
			v.wrong.Add(at+".q", *s.Q, "0 to 1", "a normalised likelihood lies between 0 and 1")
		}
		v.grades(at, s)
		if g, grouped := v.c.GroupOf(s.ID); grouped {
			if s.State == Unsure {
				v.wrong.Add(at+".state", s.State, "present, absent, unknown", "one option of a question is so or not")
			}
			if s.Q != nil {
				v.wrong.Add(at+".q", *s.Q, "nothing", "one option of a question is so or not: give its state")
			}
			if s.State == Present && chosen[g] {
				v.wrong.Add(at+".id", s.ID, units.Sentence("one option of "+g), "only one of these can be so: keep the one that is")
			}
			chosen[g] = chosen[g] || s.State == Present
		}
	}
}

// grades refuses a light grade of wear beside a heavy one of the same thing.
func (v *checker) grades(at string, s Stated) {
	g, light := v.c.LightGrade(s.ID)
	if !light || s.State != Present {
		return
	}
	for _, other := range v.body.Stated {
		if slices.Contains(g.Heavy, other.ID) && other.State == Present {
			v.wrong.Add(at+".id", s.ID, units.Sentence(s.ID+" or "+other.ID), "%s is worn a little or much, not both: keep "+
				"the one that is so", g.Label)
		}
	}
}

func (v *checker) check() {
	b := v.body
	check, ok := v.c.Check(b.Check)
	if !ok {
		v.wrong.Add("check", b.Check, "a check of the catalogue", "there is no such check")
		return
	}
	if _, here := v.c.StationOf(check, v.engine.Family, v.engine.Circuit); !here {
		v.wrong.Add("check", b.Check, "a check on this engine's circuit", "this engine has no place for: %s", check.Label)
	}
	if !slices.Contains([]string{Done, Inconclusive, Skipped}, b.Outcome) {
		v.wrong.Add("outcome", b.Outcome, "done, inconclusive, skipped", "say how it went")
	}
	if b.Minutes != nil && (math.IsNaN(*b.Minutes) || *b.Minutes < 0 || *b.Minutes > 1440) {
		v.wrong.Add("minutes", *b.Minutes, "0 to 1440", "say how many minutes it took")
	}
	if (b.Outcome == Done) != (len(b.Stated) > 0 || b.Round != nil) {
		v.wrong.Add("stated", len(b.Stated), "findings or readings of a check that was done, none otherwise",
			"say what was found or read, or that it was inconclusive")
	}
	if b.Round != nil && len(check.Reads) == 0 {
		v.wrong.Add("round", b.Check, "a check that is read off", "no figure tells this: say what was found")
	}
	v.stated(findings, func(id string) bool { return slices.Contains(check.Settles, id) })
}

// mostWatchHours is how long a trouble that comes and goes is watched at most: a season of much use.
const mostWatchHours = 1000

func (v *checker) closed() {
	possible := v.c.FaultsOn(v.engine.Family, v.engine.Circuit)
	seen := map[string]bool{}
	for i, f := range v.body.Faults {
		at := fmt.Sprintf("faults[%d]", i)
		switch {
		case !slices.ContainsFunc(possible, func(x catalogue.Fault) bool { return x.ID == f }):
			v.wrong.Add(at, f, "a fault that this engine can have", "this engine cannot have %q", f)
		case seen[f]:
			v.wrong.Add(at, f, "each once", "%q is given twice", f)
		}
		seen[f] = true
	}
	if h := v.body.WatchHours; h != nil && !(*h >= 1 && *h <= mostWatchHours) {
		v.wrong.Add("watch_hours", *h, units.Say("1 to %d h", mostWatchHours), "say for how many running hours it is watched")
	}
	if v.body.OneOf != nil && *v.body.OneOf && len(v.body.Faults) < 2 {
		v.wrong.Add("one_of_these", true, "two causes or more", "name the causes of which one it was")
	}
	if !v.planned && len(v.body.Faults) == 0 && strings.TrimSpace(v.body.Words) == "" {
		v.wrong.Add("words", "nothing", "a sentence", "no cause is named: say in a few words why the job ends here")
	}
}

// CheckCraft says what does not fit in a craft's facts.
func CheckCraft(f CraftFacts) error {
	var wrong validation.Errors
	name(&wrong, "name", f.Name)
	return wrong.Err()
}

// Limits of an engine's facts: wide enough for any boat, narrow enough to catch a slipped digit. Common practice.
const (
	minKW, maxKW                   = 1, 5000
	minRPM, maxRPM                 = 300, 8000
	minThermostatC, maxThermostatC = 40, 100
)

// CheckEngine says what does not fit in an engine's facts.
func CheckEngine(c *catalogue.Catalogue, f EngineFacts) error {
	var wrong validation.Errors
	name(&wrong, "name", f.Name)
	if _, ok := c.Family(f.Family); !ok {
		wrong.Add("family", f.Family, units.Sentence(strings.Join(c.FamilyIDs(), ", ")), "say how the engine is cooled")
		return wrong
	}
	if f.Fuel != "diesel" && f.Fuel != "petrol" {
		wrong.Add("fuel", f.Fuel, "diesel, petrol", "say what it burns")
	}
	within(&wrong, "rated_kw", f.RatedKW, minKW, maxKW, "kW")
	within(&wrong, "rated_rpm", f.RatedRPM, minRPM, maxRPM, "rev/min")
	within(&wrong, "thermostat_c", f.ThermostatC, minThermostatC, maxThermostatC, "°C")
	checkDates(&wrong, f.Dates)
	if d := f.Cooling.PumpDrive; d != "" && !slices.Contains(catalogue.Drives, d) {
		wrong.Add("cooling.pump_drive", d, units.Sentence(strings.Join(catalogue.Drives, ", ")),
			"say what turns the raw-water pump, or leave it out")
	}
	if f.SharesSeacock && !slices.Contains(f.Circuit, "seacock") {
		wrong.Add("shares_seacock", "an engine without a seacock", "a seacock in the circuit",
			"this engine's circuit has no seacock to share: put it in, or say that it shares none")
	}
	wrong = append(wrong, c.CheckCircuit("circuit", f.Family, f.Circuit)...)
	return wrong.Err()
}

func within(wrong *validation.Errors, field string, x, least, most float64, unit string) {
	if math.IsNaN(x) || x < least || x > most {
		wrong.Add(field, x, units.Range(least, most, unit), "look at the figure and its unit again")
	}
}

// Places lists where an engine can be read: what is no station, then its stations with their sides in the order of the
// water.
func Places(c *catalogue.Catalogue, f EngineFacts) []proving.Place {
	var list []proving.Place
	for _, id := range proving.Free() {
		if id != "gauge" || slices.Contains(f.Circuit, "gauge") {
			list = append(list, proving.Place{Station: id})
		}
	}
	for _, id := range f.Circuit {
		s, ok := c.Station(id)
		if !ok || id == "gauge" || id == "load" || id == "exhaust-sensor" {
			continue
		}
		for _, side := range s.Sides[f.Family] {
			if side != "raw" && side != "coolant" {
				continue
			}
			list = append(list, proving.Place{Station: id, Side: side})
		}
	}
	return list
}

// PlaceOn says whether an engine has a place.
func PlaceOn(c *catalogue.Catalogue, f EngineFacts, p proving.Place) bool {
	return slices.Contains(Places(c, f), p)
}

// mostOffset bounds what a channel may be corrected by, in its place's unit; more is a broken sender.
const mostOffset = 500

// CheckFeed says what does not fit in a feed of an engine; its address is looked at elsewhere.
func CheckFeed(c *catalogue.Catalogue, engine EngineFacts, f Feed) error {
	var wrong validation.Errors
	channels, places := map[string]bool{}, map[proving.Place]bool{}
	for i, x := range f.Channels {
		at := fmt.Sprintf("channels[%d]", i)
		switch {
		case strings.TrimSpace(x.Channel) == "":
			wrong.Add(at+".channel", "nothing", "a channel of the gateway", "say which channel it is")
		case channels[x.Channel]:
			wrong.Add(at+".channel", x.Channel, "each once", "that channel is given twice")
		case !PlaceOn(c, engine, x.Place):
			wrong.Add(at+".station", x.Place.String(), "a place of this engine", "this engine has no such place")
		case places[x.Place]:
			wrong.Add(at+".station", x.Place.String(), "each place once",
				"two channels are said to be at the same place: keep the one to go by")
		}
		if !(math.Abs(x.Offset) <= mostOffset) {
			wrong.Add(at+".offset", x.Offset, "up to 500 either way", "no sender is that far off: change it")
		}
		if !(x.Error >= 0 && x.Error <= mostOffset) {
			wrong.Add(at+".error", x.Error, "0 to 500", "say how well it reads")
		}
		channels[x.Channel], places[x.Place] = true, true
	}
	return wrong.Err()
}
