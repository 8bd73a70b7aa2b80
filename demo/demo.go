// Package demo seeds an invented yard: a small slip on an invented estuary and the working craft it looks after. All
// names are made up. Ids and times are fixed, so that pictures of the demo repeat.
package demo

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"hevrin/app"
	appjob "hevrin/app/job"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/datalog"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/core/wetwork"
	"hevrin/store"
)

// Seed fills an empty record with the demo; one that holds anything is left alone.
func Seed(ctx context.Context, c *catalogue.Catalogue, s *store.Store) error {
	empty, err := s.Empty(ctx)
	if err != nil || !empty {
		return err
	}
	w := &writer{ctx: ctx, by: "Ide Marrack"}
	w.app = app.New(c, s, func() time.Time { return w.now })
	tender, err := tenderBoat()
	if err != nil {
		return err
	}
	launch, launchKept, err := patienceBoat()
	if err != nil {
		return err
	}
	err = w.app.Bulk(ctx, func(ctx context.Context) error {
		w.ctx = ctx
		for _, b := range append(slices.Clone(boats), tender, launch) {
			w.boat(b)
		}
		return w.err
	})
	if err != nil {
		return err
	}
	w.ctx = ctx
	w.upkeep(patienceName+" Main", launchKept)
	for _, k := range keptUp {
		w.upkeep(k.engine, k.kept)
	}
	w.shelf()
	w.keep(func() error {
		_, err := w.app.SaveFeed(w.ctx, id(tenderName+" Main"), w.stamp(tenderName+" feed"), tenderFeed())
		return err
	})
	return w.err
}

// writer keeps entry after entry through the program's own use cases, so that the demo can hold nothing that a
// technician could not have put there. The first error stops it.
type writer struct {
	ctx context.Context
	app *app.App
	by  string
	now time.Time
	err error
}

var space = uuid.MustParse("6b1f2c9e-50a4-4d0e-9a37-8f6c1f0d7e21")

// id is the same at every seeding.
func id(name string) string { return uuid.NewSHA1(space, []byte(name)).String() }

func (w *writer) stamp(entry string) record.Stamp { return record.Stamp{EntryID: id(entry), By: w.by} }

func (w *writer) keep(do func() error) {
	if w.err == nil {
		w.err = do()
	}
	w.now = w.now.Add(time.Minute)
}

func (w *writer) boat(b boat) {
	w.now = time.Date(2024, time.March, 4, 8, 30, 0, 0, time.UTC)
	craft := id(b.name)
	w.keep(func() error {
		_, err := w.app.SaveCraft(w.ctx, craft, w.stamp(b.name+" kept"), eventlog.CraftFacts{Name: b.name, Owner: b.owner,
			Berth: b.berth, Note: b.note})
		return err
	})
	for _, e := range b.engines {
		w.now = time.Date(2024, time.March, 4, 8, 40, 0, 0, time.UTC)
		name := b.name + " " + e.facts.Name
		facts := e.facts
		facts.CraftID = craft
		w.keep(func() error {
			_, err := w.app.SaveEngine(w.ctx, id(name), w.stamp(name+" kept"), facts)
			return err
		})
		for _, j := range e.jobs {
			w.job(name, j)
		}
	}
}

// maintenance keeps what the meter showed and what was said of its maintenance.
func (w *writer) upkeep(engine string, e kept) {
	note := func(entry string, meter *eventlog.Meter, act *eventlog.MaintenanceAct) {
		w.keep(func() error {
			_, err := w.app.NoteMaintenance(w.ctx, id(engine), w.stamp(engine+entry), meter, act)
			return err
		})
	}
	for i := range e.meter {
		note(fmt.Sprintf(" meter %d", i), &e.meter[i], nil)
	}
	for i := range e.upkeep {
		note(fmt.Sprintf(" maintenance %d", i), nil, &e.upkeep[i])
	}
}

// kinds are those of the jobs that are not about an engine that runs hot, by what was told.
var kinds = map[string]string{
	"Never warms up, port is fine. Heater in the wheelhouse lukewarm.": "runs-cold",
	"Touched bottom on Tuesday. Hot since.":                            "after-grounding",
	"Quarter's look":                                                   "inspection",
}

func (w *writer) job(engine string, j job) {
	w.now, w.by = j.at, j.by
	name := engine + j.at.Format(time.RFC3339)
	w.keep(func() error {
		_, err := w.app.OpenJob(w.ctx, id(name), w.stamp(name+" opened"), appjob.Start{Engine: id(engine), Words: j.words,
			Opening: eventlog.Opening{Kind: kinds[j.words]}})
		return err
	})
	var rounds []string
	for i, s := range j.steps {
		entry := fmt.Sprintf("%s step %c", name, 'a'+i)
		w.now = w.now.Add(s.pause)
		if s.kind == eventlog.Closed || s.body.Teardown != nil && s.body.Teardown.Do == teardown.Start {
			w.settle(name, engine)
		}
		w.keep(func() error {
			if s.kind == eventlog.BaselineSet {
				_, err := w.app.SaveBaseline(w.ctx, id(engine), w.stamp(entry), id(name), rounds, s.body.Words)
				return err
			}
			if f := s.file; f != nil {
				_, err := w.app.ImportDatalog(w.ctx, id(name), w.stamp(entry), f.id, f.name, f.raw, f.mapping)
				return err
			}
			_, err := w.app.NoteInJob(w.ctx, id(name), s.kind, w.stamp(entry), s.body)
			return err
		})
		if s.kind == eventlog.RoundTaken {
			rounds = append(rounds, id(entry))
		}
		if s.body.Minutes != nil {
			w.now = w.now.Add(time.Duration(*s.body.Minutes) * time.Minute)
		}
	}
}

// settle puts right by one touch each whatever stands open before a job ends or an engine is started, as a person does.
func (w *writer) settle(name, engine string) {
	for n := range 20 {
		var left []teardown.Condition
		w.keep(func() error {
			e, s, err := w.app.States.Engine(w.ctx, id(engine))
			if err != nil {
				return err
			}
			left = slices.DeleteFunc(s.Conditions(record.FactsOf(e)), func(c teardown.Condition) bool {
				return c.Passed() || !c.Stands || c.Settle == ""
			})
			return nil
		})
		if len(left) == 0 {
			return
		}
		c := left[0]
		kind, body := eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: c.Settle, Item: c.Item,
			State: c.State,
			Count: c.Count}}
		if c.Settle == enginestate.Closing {
			s := shutAgain(c.Item)
			kind, body = s.kind, s.body
		}
		w.keep(func() error {
			_, err := w.app.NoteInJob(w.ctx, id(name), kind, w.stamp(fmt.Sprintf("%s settled %d at %s", name, n,
				w.now.Format(time.RFC3339))), body)
			return err
		})
	}
}

// The steps of a demo job.

type step struct {
	kind  eventlog.Kind
	body  eventlog.Body
	pause time.Duration // before it
	file  *file
}

// file is a logger's file that is taken in.
type file struct {
	name, id string
	raw      []byte
	mapping  datalog.Mapping
}

func stated(state string, ids ...string) []eventlog.Stated {
	var out []eventlog.Stated
	for _, x := range ids {
		out = append(out, eventlog.Stated{ID: x, State: state})
	}
	return out
}

func seen(ids ...string) step {
	return step{kind: eventlog.Found, body: eventlog.Body{Stated: stated(eventlog.Present, ids...)}}
}
func not(ids ...string) step {
	return step{kind: eventlog.Found, body: eventlog.Body{Stated: stated(eventlog.Absent, ids...)}}
}
func told(ids ...string) step {
	return step{kind: eventlog.HistoryStated, body: eventlog.Body{Stated: stated(eventlog.Present, ids...)}}
}

// sum keeps a sum with what was given to it, as a JSON object.
func sum(name, words, given string) step {
	var fields map[string]any
	if err := json.Unmarshal([]byte(given), &fields); err != nil {
		panic(fmt.Sprintf("the demo's %s: %v", name, err)) // a test seeds the demo
	}
	return step{kind: eventlog.Calculated, body: eventlog.Body{Words: words,
		Calculation: &eventlog.Calculation{Name: name, Given: fields, Units: string(units.Metric)}}}
}

// round keeps a round of readings at a speed in a sea, in °C by contact probe; flow in L/min.
func round(words string, rpm, seaC, flow float64, temperatures ...eventlog.Read) step {
	const salinity, overSea, contact = 35, 15, 1
	r := eventlog.Round{RPM: rpm, Load: 1, SeaC: seaC, Salinity: salinity, SpaceC: seaC + overSea}
	for _, x := range temperatures {
		x.Instrument = "contact"
		if x.Error == 0 {
			x.Error = contact
		}
		r.Readings = append(r.Readings, x)
	}
	r.Readings = append(r.Readings, eventlog.Read{Station: "flow", Value: flow, Error: flow / 20, Instrument: "bucket"})
	return step{kind: eventlog.RoundTaken, body: eventlog.Body{Words: words, Round: &r}}
}

func raw(station string, c float64) eventlog.Read {
	return eventlog.Read{Station: station, Side: "raw", Value: c}
}

func coolant(station string, c float64) eventlog.Read {
	return eventlog.Read{Station: station, Side: "coolant", Value: c}
}

// by keeps something done by hand.
func by(a teardown.Act) step {
	return step{kind: eventlog.TeardownNoted, body: eventlog.Body{Teardown: &a}}
}

func off(item string, n int) step { return by(teardown.Act{Do: teardown.Off, Item: item, Count: n}) }

// blades is an impeller as it came out, a letter a blade: s sound, g gone, h half of it torn off, c cracked.
func blades(states string) step {
	is := map[rune]teardown.Blade{'s': {State: teardown.Sound}, 'g': {State: teardown.Gone}, 'h': {State: teardown.Torn,
		Share: 0.5}, 'c': {State: teardown.Cracked}}
	w := teardown.Wheel{Hours: 240, Life: 300}
	for _, b := range states {
		w.Blades = append(w.Blades, is[b])
	}
	return by(teardown.Act{Do: teardown.SetWheel, Wheel: &w})
}

func piece(at string, share float64) step {
	return by(teardown.Act{Do: teardown.Found, Item: at, Piece: &teardown.Piece{Share: share}})
}

// wetWork keeps something done in a piece of wet work; its id is made of its name.
func wetWork(name string, a wetwork.Act) step {
	a.Work = id(name)
	return step{kind: eventlog.WetworkNoted, body: eventlog.Body{Wetwork: &a}}
}

// wait lets minutes go by before the next step, as a check does that takes so long.
func wait(s step, minutes float64) step {
	s.pause = time.Duration(minutes * float64(time.Minute))
	return s
}

// standard makes the job's rounds so far the engine's own standard.
func standard(words string) step {
	return step{kind: eventlog.BaselineSet, body: eventlog.Body{Words: words}}
}

// photo keeps a drawing of a tube plate in the place of a photo.
func photo(words string, crust float64) (step, error) {
	data, err := tubePlate(crust)
	return step{kind: eventlog.Pictured, body: eventlog.Body{Photo: &eventlog.Photo{Data: data}, Words: words}}, err
}

func note(words string) step { return step{kind: eventlog.Noted, body: eventlog.Body{Words: words}} }

func looked(check string, minutes float64, present, absent []string) step {
	return step{kind: eventlog.Checked, body: eventlog.Body{Check: check, Outcome: eventlog.Done, Minutes: &minutes,
		Stated: append(stated(eventlog.Present, present...), stated(eventlog.Absent, absent...)...)}}
}

// shutAgain closes up what a check opened.
func shutAgain(access string) step {
	no := false
	return step{kind: eventlog.Access, body: eventlog.Body{Access: access, Open: &no}}
}

func skipped(check, words string) step {
	return step{kind: eventlog.Checked, body: eventlog.Body{Check: check, Outcome: eventlog.Skipped, Words: words}}
}

func closed(words string, faults ...string) step {
	all := true
	return step{kind: eventlog.Closed, body: eventlog.Body{Faults: faults, Explains: &all, Words: words}}
}
