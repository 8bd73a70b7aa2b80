package memory

import (
	"cmp"
	"encoding/json"
	"slices"
	"strings"
	"sync"
	"time"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/core/proving"
)

// reader reads, each time under a lock of its own.
type reader struct {
	s    *Store
	lock sync.Locker
}

// held locks and gives what unlocks.
func (r *reader) held() (unlock func()) {
	r.lock.Lock()
	return r.lock.Unlock
}

func (r *reader) Entries(s eventlog.Subject) ([]eventlog.Entry, error) {
	list, _, err := r.EntriesAfter(s, 0)
	return list, err
}

// EntriesAfter reads from the end: what is asked for is mostly new.
func (r *reader) EntriesAfter(s eventlog.Subject, seq int64) ([]eventlog.Entry, int64, error) {
	list, last := r.after(seq, func(e *eventlog.Entry) bool { return e.Subject == s })
	return list, last, nil
}

func (r *reader) EntriesOfEngine(engine string, kinds []eventlog.Kind, seq int64) ([]eventlog.Entry, int64, error) {
	list, last := r.after(seq, func(e *eventlog.Entry) bool {
		j, ok := r.s.jobs[e.Subject.ID]
		return e.Subject.Kind == eventlog.OfJob && ok && !j.Removed && j.EngineID == engine && slices.Contains(kinds, e.Kind)
	})
	return list, last, nil
}

func (r *reader) after(seq int64, want func(*eventlog.Entry) bool) ([]eventlog.Entry, int64) {
	defer r.held()()
	all, out := r.s.entries, []eventlog.Entry{}
	from, _ := slices.BinarySearchFunc(all, seq+1, func(e numbered, n int64) int { return cmp.Compare(e.seq, n) })
	for i := range all[from:] {
		if e := &all[from+i]; want(&e.Entry) {
			out, seq = append(out, e.Entry), e.seq
		}
	}
	return out, seq
}

func (r *reader) Entry(id string) (eventlog.Entry, bool, error) {
	defer r.held()()
	i, ok := r.s.byID[id]
	if !ok {
		return eventlog.Entry{}, false, nil
	}
	return r.s.entries[i].Entry, true, nil
}

func (r *reader) StoredEntries(ids []string) (map[string]eventlog.Entry, error) {
	defer r.held()()
	out := map[string]eventlog.Entry{}
	for _, id := range ids {
		if i, ok := r.s.byID[id]; ok {
			out[id] = r.s.entries[i].Entry
		}
	}
	return out, nil
}

// these gives what is wanted of a table, sorted.
func these[K comparable, V any](r *reader, table map[K]V, want func(V) bool, order func(a, b V) int) []V {
	defer r.held()()
	out := []V{}
	for _, v := range table {
		if want(v) {
			out = append(out, v)
		}
	}
	slices.SortFunc(out, order)
	return out
}

func one[V any](r *reader, table map[string]V, id string, removed func(V) bool) (V, bool, error) {
	defer r.held()()
	v, ok := table[id]
	if !ok || removed(v) {
		var none V
		return none, false, nil
	}
	return v, true, nil
}

func (r *reader) Craft(id string) (record.Craft, bool, error) {
	return one(r, r.s.craft, id, func(c record.Craft) bool { return c.Removed })
}

func (r *reader) AllCraft() ([]record.Craft, error) {
	return these(r, r.s.craft, func(c record.Craft) bool { return !c.Removed }, func(a, b record.Craft) int {
		return cmp.Or(cmp.Compare(a.Name, b.Name), cmp.Compare(a.ID, b.ID))
	}), nil
}

func byName(a, b record.Engine) int {
	return cmp.Or(cmp.Compare(a.Name, b.Name), cmp.Compare(a.ID, b.ID))
}

func (r *reader) Engine(id string) (record.Engine, bool, error) {
	return one(r, r.s.engines, id, func(e record.Engine) bool { return e.Removed })
}

func (r *reader) Engines(craft ...string) ([]record.Engine, error) {
	return these(r, r.s.engines, func(e record.Engine) bool {
		return !e.Removed && (len(craft) == 0 || slices.Contains(craft, e.CraftID))
	}, byName), nil
}

func (r *reader) EnginesBeside(id string) ([]record.Engine, error) {
	own, ok, err := r.Engine(id)
	if !ok || err != nil {
		return nil, err
	}
	return r.Engines(own.CraftID)
}

func (r *reader) EngineLines() ([]record.EngineLine, error) {
	engines, err := r.Engines()
	out := make([]record.EngineLine, len(engines))
	for i, e := range engines {
		circuit, err := json.Marshal(e.Circuit)
		if err != nil {
			return nil, err
		}
		out[i] = record.EngineLine{ID: e.ID, CraftID: e.CraftID, Name: e.Name, Family: e.Family, RawPump: e.RawPump,
			Circuit: string(circuit), Archived: e.Archived}
	}
	return out, err
}

func newestFirst(a, b record.Job) int {
	return cmp.Or(b.OpenedAt.Compare(a.OpenedAt), cmp.Compare(a.ID, b.ID))
}

func (r *reader) Job(id string) (record.Job, bool, error) {
	return one(r, r.s.jobs, id, func(j record.Job) bool { return j.Removed })
}

func (r *reader) Jobs(engines ...string) ([]record.Job, error) {
	return these(r, r.s.jobs, func(j record.Job) bool { return !j.Removed && slices.Contains(engines, j.EngineID) },
		newestFirst), nil
}

func (r *reader) OpenJobs() ([]record.Job, error) {
	return these(r, r.s.jobs, func(j record.Job) bool { return !j.Removed && j.ClosedAt == nil }, newestFirst), nil
}

func (r *reader) JobsHolding(groups [][]string, most int) ([]record.Job, error) {
	list := these(r, r.s.jobs, func(j record.Job) bool {
		text := strings.ToLower(strings.Join([]string{j.Words, j.Note, strings.Join(j.Complaint, " "),
			strings.Join(j.Faults, " "), j.EngineID}, " "))
		return !j.Removed && !slices.ContainsFunc(groups, func(group []string) bool {
			return !slices.ContainsFunc(group, func(term string) bool { return strings.Contains(text, strings.ToLower(term)) })
		})
	}, newestFirst)
	return list[:min(most, len(list))], nil
}

// Photo gives a picture taken here; those that were taken along lie elsewhere.
func (r *reader) Photo(id string) (record.Photo, bool, error) {
	return one(r, r.s.photos, id, func(record.Photo) bool { return false })
}

func (r *reader) Photos(job string) ([]record.Photo, error) {
	return these(r, r.s.photos, func(p record.Photo) bool { return p.JobID == job },
		func(a, b record.Photo) int { return cmp.Compare(a.ID, b.ID) }), nil
}

func (r *reader) Drafts(job string) ([]record.Draft, error) {
	return these(r, r.s.drafts, func(d record.Draft) bool { return d.JobID == job }, func(a, b record.Draft) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.What, b.What))
	}), nil
}

func (r *reader) Pieces(job string) ([]record.TrackPiece, error) {
	return r.stretches(func(p record.TrackPiece) bool { return p.JobID == job }), nil
}

func (r *reader) stretches(want func(record.TrackPiece) bool) (out []record.TrackPiece) {
	defer r.held()()
	for _, p := range r.s.pieces {
		if want(p) {
			out = append(out, p)
		}
	}
	slices.SortFunc(out, func(a, b record.TrackPiece) int {
		return cmp.Or(cmp.Compare(a.RecordingID, b.RecordingID), cmp.Compare(a.Station, b.Station),
			cmp.Compare(a.Side, b.Side), cmp.Compare(a.FromS, b.FromS))
	})
	return out
}

func (r *reader) Tracks(recording string) ([]proving.Track, error) {
	var list []proving.Track
	for _, p := range r.stretches(func(p record.TrackPiece) bool { return p.RecordingID == recording }) {
		at := proving.Place{Station: p.Station, Side: p.Side}
		if n := len(list); n == 0 || list[n-1].Place != at {
			list = append(list, proving.Track{Place: at})
		}
		t := &list[len(list)-1]
		t.Seconds, t.Values = append(t.Seconds, p.Seconds...), append(t.Values, p.Readings...)
	}
	return list, nil
}

func (t *tx) AddPieces(pieces []record.TrackPiece) error {
	t.s.pieces = append(t.s.pieces, pieces...)
	return nil
}

func (t *tx) AddTracks(job, recording string, tracks []proving.Track) error {
	for _, x := range tracks {
		if x.Len() > 0 {
			t.s.pieces = append(t.s.pieces, record.TrackPiece{RecordingID: recording, Station: x.Station, Side: x.Side,
				FromS: x.Seconds[0], JobID: job, Seconds: x.Seconds, Readings: x.Values})
		}
	}
	return nil
}

func (r *reader) ServiceHistory(engine string) ([]record.ServiceLine, error) {
	return r.serviceLines(func(l record.ServiceLine) bool { return l.EngineID == engine }), nil
}

func (r *reader) ServiceLinesOf(job string) ([]record.ServiceLine, error) {
	return r.serviceLines(func(l record.ServiceLine) bool { return l.JobID == job }), nil
}

func (r *reader) serviceLines(want func(record.ServiceLine) bool) (out []record.ServiceLine) {
	defer r.held()()
	for _, lines := range r.s.service {
		for _, l := range lines {
			if want(l) {
				out = append(out, l)
			}
		}
	}
	slices.SortFunc(out, func(a, b record.ServiceLine) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.JobID, b.JobID), cmp.Compare(a.N, b.N))
	})
	return out
}

func (r *reader) AllMaintenance() (map[string]record.MaintenanceText, error) {
	defer r.held()()
	out := map[string]record.MaintenanceText{}
	for id, m := range r.s.maintenance {
		text, err := textOf(m)
		if err != nil {
			return nil, err
		}
		out[id] = text
	}
	return out, nil
}

func (r *reader) Maintenance(engine string) (record.MaintenanceText, bool, error) {
	defer r.held()()
	m, ok := r.s.maintenance[engine]
	if !ok {
		return record.MaintenanceText{}, false, nil
	}
	text, err := textOf(m)
	return text, err == nil, err
}

func textOf(m record.MaintenanceState) (record.MaintenanceText, error) {
	raw, err := json.Marshal(m.State)
	return record.MaintenanceText{EngineID: m.EngineID, State: string(raw)}, err
}

func (r *reader) EnginesWithoutMaintenance() ([]record.Engine, error) {
	return these(r, r.s.engines, func(e record.Engine) bool {
		_, has := r.s.maintenance[e.ID]
		return !e.Removed && !has
	}, byName), nil
}

func (r *reader) PartsUsed(counted map[string]time.Time) ([]inventory.Used, error) {
	defer r.held()()
	sums := map[[2]string]inventory.Used{}
	for key, u := range r.s.used {
		if since, wanted := counted[key[0]]; wanted {
			if since.After(r.s.counted) { // it was counted anew here
				u.Quantity = 0
			}
			sums[key] = u
		}
	}
	for _, p := range r.s.taken { // of what was told, what the jobs here took is summed as it stands now
		if since, wanted := counted[p.PartID]; wanted && !since.After(r.s.counted) {
			addUsed(sums, p, since, -1)
		}
	}
	for _, list := range r.s.parts {
		for _, p := range list {
			if since, wanted := counted[p.PartID]; wanted {
				addUsed(sums, p, since, 1)
			}
		}
	}
	out := make([]inventory.Used, 0, len(sums))
	for _, u := range sums {
		out = append(out, u)
	}
	slices.SortFunc(out, func(a, b inventory.Used) int {
		return cmp.Or(cmp.Compare(a.Part, b.Part), cmp.Compare(a.Engine, b.Engine))
	})
	return out, nil
}

// addUsed adds to a sum what a job took, or with -1 takes it away again; it counts where it was taken since the part
// was counted.
func addUsed(sums map[[2]string]inventory.Used, p record.PartUsed, since time.Time, times float64) {
	key := [2]string{p.PartID, p.EngineID}
	u := sums[key]
	u.Part, u.Engine = p.PartID, p.EngineID
	if !p.At.Before(since) {
		u.Quantity += times * p.Quantity
	}
	if p.At.After(u.At) {
		u.At = p.At
	}
	sums[key] = u
}
