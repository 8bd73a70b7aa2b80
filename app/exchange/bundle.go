package exchange

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"hevrin/app/record"
	"hevrin/core/eventlog"
)

// Bundle is a job with everything that belongs to it: the logs of its craft, its engine and itself, in the order in
// which their entries were kept, its pictures, and the stretches of its recordings.
type Bundle struct {
	CraftID, EngineID, JobID string
	Craft, Engine, Job       []eventlog.Entry
	Photos                   []record.Photo
	Pieces                   []record.TrackPiece
}

// Bundle gives a job as a bundle. While a recording goes on it is refused: what is read in the meantime would be lost.
func (a *Bundles) Bundle(ctx context.Context, job string) (*Bundle, error) {
	r := a.Store.Read(ctx)
	entries, err := r.Entries(eventlog.Subject{Kind: eventlog.OfJob, ID: job})
	if err != nil {
		return nil, err
	}
	j, ok := eventlog.FoldJob(a.Catalogue, entries)
	if !ok {
		return nil, record.NotFound("job", job)
	}
	if _, open := j.Open(); open {
		return nil, &eventlog.Conflict{Say: "a recording goes on in this job: end it first, then export the job"}
	}
	engine, _, err := r.Engine(j.EngineID)
	if err != nil {
		return nil, err
	}
	b := &Bundle{CraftID: engine.CraftID, EngineID: engine.ID, JobID: job, Job: entries}
	if b.Engine, err = r.Entries(eventlog.Subject{Kind: eventlog.OfEngine, ID: b.EngineID}); err != nil {
		return nil, err
	}
	if b.Craft, err = r.Entries(eventlog.Subject{Kind: eventlog.OfCraft, ID: b.CraftID}); err != nil {
		return nil, err
	}
	if b.Photos, err = r.Photos(job); err != nil {
		return nil, err
	}
	b.Pieces, err = r.Pieces(job)
	return b, err
}

// Imported says what taking a bundle in comes to.
type Imported struct {
	Craft  eventlog.CraftFacts
	Engine eventlog.EngineFacts
	Job    *eventlog.Job
	// What is new of each log. Nothing is new of a log that goes on here already.
	NewCraft, NewEngine, NewJob int
	Photos                      int
	Recordings                  int
	// Kept says, in words, what was left as it stands here because it differs.
	Stored []string
}

// ImportBundle takes a job in that was exported, all of it or nothing; tried, it only says what would be taken. Every
// entry must pass what it would have to pass when it is typed. A bundle that is here already adds nothing.
func (a *Bundles) ImportBundle(ctx context.Context, b *Bundle, tried bool) (*Imported, error) {
	taken, err := a.checkBundle(b)
	if err != nil {
		return nil, err
	}
	r := a.Store.Read(ctx)
	if tried {
		_, err := a.newOf(r, b, taken)
		return taken, err
	}
	var fresh [3]newLog
	err = a.Store.Write(ctx, func(tx record.Tx) error {
		if fresh, err = a.newOf(tx, b, taken); err != nil {
			return err
		}
		for _, log := range fresh {
			if err := a.addLog(tx, log); err != nil {
				return err
			}
		}
		if taken.NewJob == 0 {
			return nil
		}
		return addBeside(tx, b, fresh[2].entries)
	})
	if err != nil {
		return taken, err
	}
	for _, log := range fresh {
		if n := len(log.entries); n > 0 {
			a.Announce(ctx, log.entries[n-1])
		}
	}
	return taken, nil
}

// addLog adds entries to a log and rewrites its line.
func (a *Bundles) addLog(tx record.Tx, log newLog) error {
	if len(log.entries) == 0 {
		return nil
	}
	for _, e := range log.entries {
		if err := tx.Append(e); err != nil {
			return err
		}
	}
	return a.Projections[log.subject.Kind](tx, log.subject.ID, append(slices.Clone(log.here), log.entries...))
}

// addBeside adds what lies beside a job's new entries.
func addBeside(tx record.Tx, b *Bundle, entries []eventlog.Entry) error {
	recordings, ids := map[string]bool{}, map[string]bool{}
	for _, e := range entries {
		ids[e.ID] = true
		if e.Body.Recording != nil && e.Body.Recording.Do != eventlog.RecordingEnded {
			recordings[e.Body.Recording.ID] = true
		}
	}
	for _, p := range b.Photos {
		if ids[p.ID] {
			if err := tx.AddPhoto(p); err != nil {
				return err
			}
		}
	}
	var pieces []record.TrackPiece
	for _, p := range b.Pieces {
		if recordings[p.RecordingID] {
			pieces = append(pieces, p)
		}
	}
	return tx.AddPieces(pieces)
}

// newLog is what is new of one log, after what is here.
type newLog struct {
	subject       eventlog.Subject
	here, entries []eventlog.Entry
}

// newOf finds what is new of a bundle's logs: craft, engine, job.
func (a *Bundles) newOf(r record.Reader, b *Bundle, taken *Imported) ([3]newLog, error) {
	var out [3]newLog
	given := [3][]eventlog.Entry{b.Craft, b.Engine, b.Job}
	var ids []string
	for _, log := range given {
		for _, e := range log {
			ids = append(ids, e.ID)
		}
	}
	known, err := r.StoredEntries(ids)
	if err != nil {
		return out, err
	}
	subjects := [3]eventlog.Subject{{Kind: eventlog.OfCraft, ID: b.CraftID}, {Kind: eventlog.OfEngine, ID: b.EngineID},
		{Kind: eventlog.OfJob, ID: b.JobID}}
	counts := [3]*int{&taken.NewCraft, &taken.NewEngine, &taken.NewJob}
	taken.Stored = nil
	for i, s := range subjects {
		here, err := r.Entries(s)
		if err != nil {
			return out, err
		}
		out[i] = newLog{subject: s, here: here}
		if err := sameAsHere(given[i], known); err != nil {
			return out, err
		}
		switch n := len(here); {
		case startsWith(given[i], here):
			out[i].entries = given[i][n:]
		case startsWith(here, given[i]): // it has gone on here since
		case s.Kind == eventlog.OfJob:
			return out, &eventlog.Conflict{Say: fmt.Sprintf("this job has gone on both here and where it was exported (%d "+
				"entries here, %d in the file): it cannot be put together. Go on with one of the two", n, len(given[i]))}
		default:
			taken.Stored = append(taken.Stored,
				fmt.Sprintf("the %s was changed both here and there: it stays as it stands here", s.Kind))
		}
		*counts[i] = len(out[i].entries)
	}
	taken.Photos, taken.Recordings = 0, 0
	for _, e := range out[2].entries {
		switch {
		case e.Body.Photo != nil:
			taken.Photos++
		case e.Body.Recording != nil && e.Body.Recording.Do != eventlog.RecordingEnded:
			taken.Recordings++
		}
	}
	return out, nil
}

func startsWith(list, with []eventlog.Entry) bool {
	return len(list) >= len(with) && slices.EqualFunc(list[:len(with)], with,
		func(a, b eventlog.Entry) bool { return a.ID == b.ID })
}

// sameAsHere refuses entries that are on record with other words: one of the two was tampered with.
func sameAsHere(given []eventlog.Entry, known map[string]eventlog.Entry) error {
	for _, e := range given {
		old, ok := known[e.ID]
		if !ok {
			continue
		}
		is, err := json.Marshal(e)
		if err != nil {
			return err
		}
		was, err := json.Marshal(old)
		if err != nil {
			return err
		}
		if !bytes.Equal(is, was) {
			return &eventlog.Conflict{Say: fmt.Sprintf("entry %s is on record here with other words: the file, or the "+
				"record, was changed by hand", e.ID)}
		}
	}
	return nil
}

// mostEntries is more than a job of many weeks has; the check of a log grows with its square.
const mostEntries = 5000
