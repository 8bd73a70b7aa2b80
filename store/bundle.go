package store

import (
	"hevrin/app/record"
	"hevrin/core/eventlog"
)

// Photos gives a job's pictures by their entries' ids.
func (r *Reader) Photos(job string) ([]record.Photo, error) {
	var out []record.Photo
	return out, r.db.Where("job_id = ?", job).Order("id").Find(&out).Error
}

// Pieces gives the stretches of a job's recordings as they lie, by recording, place and time.
func (r *Reader) Pieces(job string) ([]record.TrackPiece, error) {
	var out []record.TrackPiece
	return out, r.db.Where("job_id = ?", job).Order("recording_id, station, side, from_s").Find(&out).Error
}

// AddPieces keeps stretches of recordings as they lie.
func (t *Tx) AddPieces(pieces []record.TrackPiece) error {
	if len(pieces) == 0 {
		return nil
	}
	if err := t.db.CreateInBatches(pieces, 100).Error; err != nil {
		return err
	}
	return t.sealPieces(pieces)
}

// StoredEntries finds those of some entries that are on record already, by id.
func (r *Reader) StoredEntries(ids []string) (map[string]eventlog.Entry, error) {
	out := map[string]eventlog.Entry{}
	const most = 500 // variables in one question
	for len(ids) > 0 {
		n := min(most, len(ids))
		var rows []entryRow
		if err := r.db.Where("id IN ?", ids[:n]).Find(&rows).Error; err != nil {
			return nil, err
		}
		for _, row := range rows {
			out[row.ID] = row.entry()
		}
		ids = ids[n:]
	}
	return out, nil
}
