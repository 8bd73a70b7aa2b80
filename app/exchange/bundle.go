package exchange

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"slices"

	"hevrin/app/job"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/validation"
	"hevrin/live"
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

// checkBundle says what a bundle holds, or what is wrong with it, by the field of the file.
func (a *Bundles) checkBundle(b *Bundle) (*Imported, error) {
	taken := &Imported{}
	var wrong validation.Errors
	if n := len(b.Craft) + len(b.Engine) + len(b.Job); n > mostEntries {
		wrong.Add("job.entries", n, fmt.Sprintf("%d at most", mostEntries),
			"no job is as long as that: this file was not made by Hevrin")
		return nil, wrong
	}
	if err := a.checkCraftLog(b, taken); err != nil {
		return nil, err
	}
	versions, err := a.checkEngineLog(b, taken)
	if err != nil {
		return nil, err
	}
	if err := a.checkJobLog(b, versions, taken); err != nil {
		return nil, err
	}
	if err := checkPhotos(b); err != nil {
		return nil, err
	}
	return taken, a.checkPieces(b, versions, taken.Job)
}

// at names an entry of a bundle's log.
func at(log string, i int) string { return fmt.Sprintf("%s.entries[%d]", log, i) }

func oddEntry(log string, i int, e eventlog.Entry, allowed string) error {
	var wrong validation.Errors
	wrong.Add(at(log, i)+".kind", e.Kind, allowed,
		"an entry of kind %s cannot stand there: this file was changed, or not made by Hevrin", e.Kind)
	return wrong
}

// checkUndo checks an entry that takes another back.
func checkUndo(log string, i int, before []eventlog.Entry, e eventlog.Entry) error {
	if err := eventlog.CheckUndo(before, e.Body.Undoes, 0); err != nil {
		return validation.Under(at(log, i), refusedAs("undoes", e.Body.Undoes, err))
	}
	return nil
}

// refusedAs turns a conflict within a bundle into a slip of its field: the file is wrong, not the record.
func refusedAs(field, given string, err error) error {
	if clash := (*eventlog.Conflict)(nil); errors.As(err, &clash) {
		var wrong validation.Errors
		wrong.Add(field, given, "what the entries before it allow", "%s", clash.Say)
		return wrong
	}
	return err
}

func (a *Bundles) checkCraftLog(b *Bundle, taken *Imported) error {
	for i, e := range b.Craft {
		switch {
		case e.Kind == eventlog.Undo:
			if err := checkUndo("craft", i, b.Craft[:i], e); err != nil {
				return err
			}
		case e.Kind == eventlog.Saved && e.Body.Craft != nil:
			if err := eventlog.CheckCraft(*e.Body.Craft); err != nil {
				return validation.Under(at("craft", i)+".body.craft", err)
			}
		default:
			return oddEntry("craft", i, e, "kept, undo")
		}
	}
	facts, ok := eventlog.Craft(b.Craft)
	if !ok {
		return nothingStands("craft")
	}
	taken.Craft = facts
	return nil
}

func nothingStands(log string) error {
	var wrong validation.Errors
	wrong.Add(log+".entries", "none that stands", "one entry that stands, at least",
		"the file tells nothing of the %s: export it again", log)
	return wrong
}

// checkEngineLog gives the engine's facts as they ever stood, the newest last.
func (a *Bundles) checkEngineLog(b *Bundle, taken *Imported) ([]eventlog.EngineFacts, error) {
	var versions []eventlog.EngineFacts
	for i, e := range b.Engine {
		var err error
		field := ".body.engine"
		switch {
		case e.Kind == eventlog.Undo:
			if err := checkUndo("engine", i, b.Engine[:i], e); err != nil {
				return nil, err
			}
		case e.Kind == eventlog.Saved && e.Body.Engine != nil:
			if err = eventlog.CheckEngine(a.Catalogue, *e.Body.Engine); err == nil {
				versions = append(versions, *e.Body.Engine)
			}
		case e.Kind == eventlog.BaselineSet && e.Body.Baseline != nil:
			field = ".body.baseline"
			err = checkRounds(versions, e.Body.Baseline.Rounds)
		case e.Kind == eventlog.FeedSaved && e.Body.Feed != nil:
			field = ".body.feed"
			if err = live.CheckAddress(e.Body.Feed.Address); err == nil {
				err = fitsOne(versions, func(f eventlog.EngineFacts) error {
					return eventlog.CheckFeed(a.Catalogue, f,
						*e.Body.Feed)
				})
			}
		case e.Kind == eventlog.Metered && e.Body.Meter != nil:
			field = ".body"
			err = eventlog.CheckMeter(b.Engine[:i], *e.Body.Meter, e.At)
		case e.Kind == eventlog.MaintenanceNoted && e.Body.Maintenance != nil:
			field = ".body"
			err = fitsOne(versions, func(f eventlog.EngineFacts) error {
				return eventlog.CheckMaintenance(a.Catalogue, f, *e.Body.Maintenance, e.At)
			})
		default:
			return nil, oddEntry("engine", i, e, "kept, baseline, feed, hours, upkeep, undo")
		}
		if err != nil {
			return nil, validation.Under(at("engine", i)+field, err)
		}
	}
	facts, ok := eventlog.Engine(b.Engine)
	if !ok {
		return nil, nothingStands("engine")
	}
	if facts.CraftID != b.CraftID {
		var wrong validation.Errors
		wrong.Add("engine.entries", facts.CraftID, b.CraftID, "the engine is of another craft than the one in the file")
		return nil, wrong
	}
	taken.Engine = facts
	return append(versions, facts), nil
}

func checkRounds(versions []eventlog.EngineFacts, rounds []eventlog.Round) error {
	return fitsOne(versions, func(f eventlog.EngineFacts) error {
		for _, r := range rounds {
			if err := readings.CheckRound(f, r); err != nil {
				return err
			}
		}
		return nil
	})
}

// fitsOne asks for an engine as it ever stood, the newest first: what was noted fitted it as it stood then.
func fitsOne(versions []eventlog.EngineFacts, check func(eventlog.EngineFacts) error) error {
	var first error
	for i := len(versions) - 1; i >= 0; i-- {
		err := check(versions[i])
		if err == nil {
			return nil
		}
		if first == nil {
			first = err
		}
	}
	if first == nil {
		return nothingStands("engine")
	}
	return first
}

func (a *Bundles) checkJobLog(b *Bundle, versions []eventlog.EngineFacts, taken *Imported) error {
	i := -1
	job, ok, err := eventlog.Replay(a.Catalogue, b.Job, func(j *eventlog.Job, before []eventlog.Entry,
		e eventlog.Entry) error {
		i++
		return a.checkJobStep(b, versions, i, j, before, e)
	})
	if err != nil {
		return err
	}
	if !ok {
		return nothingStands("job")
	}
	if _, open := job.Open(); open {
		var wrong validation.Errors
		wrong.Add("job.entries", "a recording that goes on", "recordings that are ended",
			"end the recording where it is made, then export the job again")
		return wrong
	}
	taken.Job = job
	return nil
}

func (a *Bundles) checkJobStep(b *Bundle, versions []eventlog.EngineFacts, i int, j *eventlog.Job,
	before []eventlog.Entry, e eventlog.Entry) error {
	switch {
	case e.Kind == eventlog.Opened && i == 0 && e.Body.EngineID == b.EngineID:
		return nil
	case e.Kind == eventlog.Opened || i == 0:
		return oddEntry("job", i, e, "opened first, on the engine of the file, and only once")
	case e.Kind == eventlog.Undo:
		return checkUndo("job", i, before, e)
	case j.ID == "":
		return oddEntry("job", i, e, "nothing after the job's opening was taken back")
	}
	err := fitsOne(versions, func(f eventlog.EngineFacts) error {
		if err := eventlog.CheckJobEntry(a.Catalogue, f, j, e); err != nil {
			return err
		}
		if e.Body.Round != nil {
			return readings.CheckRound(f, *e.Body.Round)
		}
		return nil
	})
	if clash := (*eventlog.Conflict)(nil); errors.As(err, &clash) {
		return validation.Under(at("job", i), refusedAs("kind", string(e.Kind), err))
	}
	if err != nil {
		return validation.Under(at("job", i)+".body", err)
	}
	return nil
}

// checkPhotos sees that every picture has its entry and every entry its picture, and that they are what they are said
// to be.
func checkPhotos(b *Bundle) error {
	var wrong validation.Errors
	of := map[string]*eventlog.Photo{}
	for _, e := range b.Job {
		if e.Body.Photo != nil {
			of[e.ID] = e.Body.Photo
		}
	}
	for i, p := range b.Photos {
		field := fmt.Sprintf("photos[%d]", i)
		facts, ok := of[p.ID]
		if !ok {
			wrong.Add(field+".id", p.ID, "the id of a photo's entry, each once", "there is no entry for this picture")
			return wrong
		}
		delete(of, p.ID)
		picture, err := jpegOf(p.JPEG)
		if err != nil || picture.Width != facts.Width || picture.Height != facts.Height {
			wrong.Add(field+".jpeg", fmt.Sprintf("%d bytes", len(p.JPEG)), fmt.Sprintf("a whole JPEG picture of %d by %d",
				facts.Width, facts.Height), "the picture is broken off or another one: export the job again")
			return wrong
		}
	}
	for id := range of {
		wrong.Add("photos", "nothing for "+id, "a picture for every entry of kind photo",
			"a picture is missing: export the job again")
		return wrong
	}
	return nil
}

// jpegOf reads a picture whole.
func jpegOf(raw []byte) (image.Config, error) {
	facts, err := jpeg.DecodeConfig(bytes.NewReader(raw))
	if err != nil {
		return facts, err
	}
	if facts.Width > job.MostPixels || facts.Height > job.MostPixels {
		return facts, fmt.Errorf("%d by %d is too large", facts.Width, facts.Height)
	}
	_, err = jpeg.Decode(bytes.NewReader(raw))
	return facts, err
}

// checkPieces sees that every stretch belongs to a recording and is one.
func (a *Bundles) checkPieces(b *Bundle, versions []eventlog.EngineFacts, job *eventlog.Job) error {
	last := map[string]float64{}
	known := map[string]bool{}
	for _, e := range b.Job { // one that was taken back has its readings still
		if r := e.Body.Recording; r != nil && r.Do != eventlog.RecordingEnded {
			known[r.ID] = true
		}
	}
	for i, p := range b.Pieces {
		var wrong validation.Errors
		field := fmt.Sprintf("pieces[%d]", i)
		place := proving.Place{Station: p.Station, Side: p.Side}
		key := p.RecordingID + " " + place.String()
		before, seen := last[key]
		err := fitsOne(versions, func(f eventlog.EngineFacts) error {
			if !eventlog.PlaceOn(a.Catalogue, f, place) {
				return record.ErrNotFound
			}
			return nil
		})
		switch n := len(p.Seconds); {
		case !known[p.RecordingID]:
			wrong.Add(field+".recording", p.RecordingID, "a recording of the job",
				"these readings belong to no recording of the job")
		case err != nil:
			wrong.Add(field+".station", place.String(), "a place of this engine", "this engine has no such place")
		case n == 0 || n != len(p.Readings) || n > record.LongestPiece:
			wrong.Add(field+".readings", len(p.Readings), fmt.Sprintf("as many as its seconds (%d), 1 to %d", n,
				record.LongestPiece), "the stretch is broken off")
		case p.FromS != p.Seconds[0] || seen && p.Seconds[0] <= before || !rising(p.Seconds):
			wrong.Add(field+".seconds", p.Seconds[0], "times that rise from stretch to stretch, the first as from_s",
				"the times run backwards")
		}
		if err := wrong.Err(); err != nil {
			return err
		}
		last[key] = p.Seconds[len(p.Seconds)-1]
	}
	return nil
}

func rising(list []float64) bool {
	for i := 1; i < len(list); i++ {
		if !(list[i] > list[i-1]) {
			return false
		}
	}
	return true
}
