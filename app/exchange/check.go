package exchange

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/jpeg"

	"hevrin/app/job"
	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/maintenance"
	"hevrin/core/proving"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/live"
)

// checkBundle says what a bundle holds, or what is wrong with it, by the field of the file.
func (a *Bundles) checkBundle(b *Bundle) (*Imported, error) {
	taken := &Imported{}
	var wrong validation.Errors
	if n := len(b.Craft) + len(b.Engine) + len(b.Job); n > mostEntries {
		wrong.Add("job.entries", n, units.Say("%d at most", mostEntries),
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

func oddEntry(log string, i int, e eventlog.Entry, allowed units.Sentence) error {
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
				return eventlog.CheckMaintenance(a.Catalogue, f, *e.Body.Maintenance, leftBehind(*e.Body.Maintenance), e.At)
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
		wrong.Add("engine.entries", facts.CraftID, units.Sentence(b.CraftID),
			"the engine is of another craft than the one in the file")
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
		return validation.Under(at("job", i), fitsOne(versions, func(f eventlog.EngineFacts) error {
			return eventlog.CheckOpening(a.Catalogue, f, e.Body)
		}))
	case e.Kind == eventlog.Opened || i == 0:
		return oddEntry("job", i, e, "opened first, on the engine of the file, and only once")
	case e.Kind == eventlog.Undo:
		return checkUndo("job", i, before, e)
	case j.ID == "":
		return oddEntry("job", i, e, "nothing after the job's opening was taken back")
	}
	err := fitsOne(versions, func(f eventlog.EngineFacts) error {
		if err := eventlog.CheckJobEntry(a.Catalogue, f, j, nil, e); err != nil {
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
			wrong.Add(field+".jpeg", units.Say("%d bytes", len(p.JPEG)), units.Say("a whole JPEG picture of %d by %d",
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
			wrong.Add(field+".readings", len(p.Readings), units.Say("as many as its seconds (%d), 1 to %d", n,
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

// leftBehind takes what an act says of a job's follow-up as it is: that job need not be in the file.
func leftBehind(a eventlog.MaintenanceAct) []maintenance.FollowUp {
	if f, ok := maintenance.FollowUpOf(a.Item); ok {
		return []maintenance.FollowUp{f}
	}
	return nil
}
