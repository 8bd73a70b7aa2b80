package people

import (
	"context"
	"fmt"
	"slices"
	"sync"
	"time"

	"github.com/google/uuid"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/people"
)

// nobody is by whom something was tried of which nobody knows who it was.
const nobody = "nobody known"

// Audit adds a line to the audit log. What cannot be written is told in the program's log and bars nothing.
func (a *People) Audit(ctx context.Context, line people.AuditLine) {
	by := nobody
	if line.Person != "" {
		if p, err := a.person(ctx, line.Person); err == nil {
			by = p.Name
		}
	}
	e := a.NewEntry(record.Stamp{EntryID: uuid.NewString(), By: by}, AuditSubject, eventlog.Audited,
		eventlog.Body{Audit: &line})
	// it is written though whoever asked goes away
	if err := a.Store.Write(context.WithoutCancel(ctx), func(tx record.Tx) error { return tx.Append(e) }); err != nil {
		logAudit(line, err)
	}
	a.tellOwner(ctx, line)
}

// WentBack puts on record that a backup was put in the place of the record. Unlike Audit it tells what went wrong: then
// it is said again at the next start.
func (a *People) WentBack(ctx context.Context, say string) error {
	e := a.NewEntry(record.Stamp{EntryID: uuid.NewString(), By: nobody}, AuditSubject, eventlog.Audited,
		eventlog.Body{Audit: &people.AuditLine{What: people.GoneBack, Say: say}})
	return a.Store.Write(context.WithoutCancel(ctx), func(tx record.Tx) error { return tx.Append(e) })
}

// Audited gives the audit log's newest lines, the newest first, at most so many; what was counted of strangers since
// their last line is written first.
func (a *People) Audited(ctx context.Context, most int) ([]eventlog.Entry, error) {
	a.refusals.report(ctx, a)
	entries, err := a.Store.Read(ctx).Entries(AuditSubject)
	if err != nil {
		return nil, err
	}
	entries = slices.Clone(entries[max(0, len(entries)-most):])
	slices.Reverse(entries)
	return entries, nil
}

// Times after which refusals of strangers that go on are written once more: longer each time, and from the beginning
// after a quiet day.
const (
	toldFirst   = 10 * time.Minute
	toldAtLeast = 6 * time.Hour
	quiet       = 24 * time.Hour
	mostNoted   = 1000 // addresses and names that are told apart
)

// refusals counts what strangers were refused: they could fill the record otherwise, which nobody may shorten. The
// first of each kind is written at once, those after it as one line now and then.
type refusals struct {
	mu    sync.Mutex
	kinds map[string]*spell
}

// spell is a run of refusals of one kind.
type spell struct {
	told, last       time.Time
	wait             time.Duration
	count            int // since it was told
	since            time.Time
	addresses, names map[string]bool
	line             people.AuditLine // the newest
}

// refused counts one, and writes what is to be told.
func (r *refusals) refused(ctx context.Context, a *People, line people.AuditLine) {
	if say, ok := r.counted(line, a.Now().UTC()); ok {
		a.Audit(ctx, say)
	}
}

func (r *refusals) counted(line people.AuditLine, now time.Time) (say people.AuditLine, ok bool) {
	r.mu.Lock()
	defer r.mu.Unlock()
	s := r.kinds[line.What]
	if s == nil || now.Sub(s.last) > quiet && s.count == 0 {
		if r.kinds == nil {
			r.kinds = map[string]*spell{}
		}
		r.kinds[line.What] = &spell{told: now, last: now, wait: toldFirst}
		return line, true
	}
	if s.last = now; s.count == 0 {
		s.since, s.addresses, s.names = now, map[string]bool{}, map[string]bool{}
	}
	s.count++
	s.line = line
	if len(s.addresses) < mostNoted {
		s.addresses[line.Address] = true
	}
	if len(s.names) < mostNoted && line.Of != "" {
		s.names[line.Of] = true
	}
	if since := now.Sub(s.told); since >= 0 && since < s.wait { // below 0 the clock was set back
		return say, false
	}
	s.wait = min(2*s.wait, toldAtLeast)
	return s.tell(now), true
}

// tell sums up what was counted.
func (s *spell) tell(now time.Time) people.AuditLine {
	line := people.AuditLine{What: s.line.What, Address: s.line.Address,
		Say: fmt.Sprintf("%d more since %s UTC, %d addresses, %d names, the last one told here", s.count,
			s.since.Format("2 January 15:04"), len(s.addresses), len(s.names)), Of: s.line.Of}
	s.told, s.count = now, 0
	return line
}

// report writes what was counted and not told yet.
func (r *refusals) report(ctx context.Context, a *People) {
	now := a.Now().UTC()
	var lines []people.AuditLine
	r.mu.Lock()
	for _, s := range r.kinds {
		if since := now.Sub(s.told); s.count > 0 && (since < 0 || since >= time.Minute) {
			lines = append(lines, s.tell(now))
		}
	}
	r.mu.Unlock()
	for _, l := range lines {
		a.Audit(ctx, l)
	}
}
