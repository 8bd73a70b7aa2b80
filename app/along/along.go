// Package along gathers what a phone takes along of a craft, so that the work on it goes on without a link: all that is
// on record of it but pictures and the stretches of its recordings, and what the yard's jobs share.
package along

import (
	"context"
	"time"

	"hevrin/app/inventory"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	stock "hevrin/core/inventory"
)

// Form is that of what is taken along; a phone's program reads its own alone.
const Form = 1

// Along is a craft with all that is on record of it, at one moment.
type Along struct {
	Form        int                       `json:"form"`
	Catalogue   string                    `json:"catalogue"` // its version: the same knowledge must read it
	At          time.Time                 `json:"at"`
	Craft       record.Craft              `json:"craft"`
	Engines     []record.Engine           `json:"engines"`
	Jobs        []record.Job              `json:"jobs"`
	Service     []record.ServiceLine      `json:"service"`
	Maintenance []record.MaintenanceState `json:"maintenance"`
	Drafts      []record.Draft            `json:"drafts"`
	Parts       []record.PartUsed         `json:"parts"` // what these jobs took
	// Used is what all jobs took of each part since it was counted, these among them.
	Used    []stock.Used     `json:"used"`
	Entries []eventlog.Entry `json:"entries"` // a subject's in the order in which they were saved
	Photos  []string         `json:"photos"`  // the pictures that belong to it, by id
}

// Crafts are the use cases of taking craft along. They may be used from many goroutines.
type Crafts struct{ *record.Log }

// New keeps nothing itself.
func New(l *record.Log) *Crafts { return &Crafts{l} }

// jobKinds are the kinds of entry that a job may have.
var jobKinds = []eventlog.Kind{eventlog.Opened, eventlog.Found, eventlog.HistoryStated, eventlog.Checked,
	eventlog.Access, eventlog.Strategy, eventlog.Noted, eventlog.Calculated, eventlog.RoundTaken, eventlog.Closed,
	eventlog.Reopened, eventlog.Undo, eventlog.TeardownNoted, eventlog.Pictured, eventlog.WetworkNoted, eventlog.Proved,
	eventlog.Recorded}

// shared are the yard's logs that every job reads.
var shared = []eventlog.Subject{{Kind: eventlog.OfYard, ID: eventlog.YardID}, inventory.InventorySubject}

// Along gathers a craft as it stands.
func (a *Crafts) Along(ctx context.Context, id string) (*Along, error) {
	r := a.Store.Read(ctx)
	craft, ok, err := r.Craft(id)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, record.NotFound("craft", id)
	}
	out := &Along{Form: Form, Catalogue: a.Catalogue.Version, At: a.Now().UTC(), Craft: craft}
	for _, s := range append([]eventlog.Subject{{Kind: eventlog.OfCraft, ID: id}}, shared...) {
		if err := out.add(r.Entries(s)); err != nil {
			return nil, err
		}
	}
	counted := stock.Counted(inventory.Acts(out.Entries))
	if out.Used, err = r.PartsUsed(counted); err != nil {
		return nil, err
	}
	if out.Engines, err = r.Engines(id); err != nil {
		return nil, err
	}
	for _, e := range out.Engines {
		if err := a.engine(r, e, out); err != nil {
			return nil, err
		}
	}
	return out, nil
}

func (out *Along) add(entries []eventlog.Entry, err error) error {
	out.Entries = append(out.Entries, entries...)
	return err
}

// engine adds an engine with its jobs.
func (a *Crafts) engine(r record.Reader, e record.Engine, out *Along) error {
	if err := out.add(r.Entries(eventlog.Subject{Kind: eventlog.OfEngine, ID: e.ID})); err != nil {
		return err
	}
	entries, _, err := r.EntriesOfEngine(e.ID, jobKinds, 0)
	if err := out.add(entries, err); err != nil {
		return err
	}
	text, ok, err := r.Maintenance(e.ID)
	if err != nil {
		return err
	}
	if ok {
		state, err := text.Kept()
		if err != nil {
			return err
		}
		out.Maintenance = append(out.Maintenance, record.MaintenanceState{EngineID: e.ID, State: state})
	}
	jobs, err := r.Jobs(e.ID)
	if err != nil {
		return err
	}
	out.Jobs = append(out.Jobs, jobs...)
	of := map[string][]eventlog.Entry{}
	for _, x := range entries {
		of[x.Subject.ID] = append(of[x.Subject.ID], x)
		if x.Kind == eventlog.Pictured {
			out.Photos = append(out.Photos, x.ID)
		}
	}
	for _, j := range jobs {
		lines, err := r.ServiceLinesOf(j.ID)
		if err != nil {
			return err
		}
		out.Service = append(out.Service, lines...)
		drafts, err := r.Drafts(j.ID)
		if err != nil {
			return err
		}
		out.Drafts = append(out.Drafts, drafts...)
		if folded, ok := eventlog.FoldJob(a.Catalogue, of[j.ID]); ok {
			out.Parts = append(out.Parts, inventory.PartsOf(folded)...)
		}
	}
	return nil
}
