package store

import (
	"slices"

	"hevrin/app/record"
	"hevrin/core/proving"
)

// AddTracks keeps what was read in a recording of a job, in stretches. A stretch that is there already is left as it
// is.
func (t *Tx) AddTracks(job, recording string, tracks []proving.Track) error {
	var rows []record.TrackPiece
	for _, x := range tracks {
		for from := 0; from < x.Len(); from += record.LongestPiece {
			to := min(from+record.LongestPiece, x.Len())
			rows = append(rows, record.TrackPiece{RecordingID: recording, Station: x.Station, Side: x.Side,
				FromS: x.Seconds[from], JobID: job, Seconds: x.Seconds[from:to], Readings: x.Values[from:to]})
		}
	}
	var there []record.TrackPiece
	if err := t.db.Select("station", "side", "from_s").Where("recording_id = ?", recording).Find(&there).
		Error; err != nil {
		return err
	}
	type place struct {
		station, side string
		from          float64
	}
	known := map[place]bool{}
	for _, x := range there {
		known[place{x.Station, x.Side, x.FromS}] = true
	}
	rows = slices.DeleteFunc(rows, func(x record.TrackPiece) bool { return known[place{x.Station, x.Side, x.FromS}] })
	return t.AddPieces(rows)
}

// Tracks gives what was read in a recording, by place, times rising.
func (r *Reader) Tracks(recording string) ([]proving.Track, error) {
	var rows []record.TrackPiece
	if err := r.db.Where("recording_id = ?", recording).Order("station, side, from_s").Find(&rows).Error; err != nil {
		return nil, err
	}
	var list []proving.Track
	for _, row := range rows {
		p := proving.Place{Station: row.Station, Side: row.Side}
		if n := len(list); n == 0 || list[n-1].Place != p {
			list = append(list, proving.Track{Place: p})
		}
		t := &list[len(list)-1]
		t.Seconds, t.Values = append(t.Seconds, row.Seconds...), append(t.Values, row.Readings...)
	}
	return list, nil
}
