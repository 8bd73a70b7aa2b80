// Package record is what every use case shares: the lines that the lists are made of, the store behind narrow
// interfaces, and the one way in which an entry is added to the event log.
package record

import (
	"context"
	"time"

	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/core/proving"
)

// EntryReader reads the event log.
type EntryReader interface {
	// Entries lists a subject's entries in the order in which they were saved; none of an unknown subject.
	Entries(s eventlog.Subject) ([]eventlog.Entry, error)
	// EntriesAfter lists those added after a place in the record, and the place up to which the log is then known.
	EntriesAfter(s eventlog.Subject, seq int64) ([]eventlog.Entry, int64, error)
	// EntriesOfEngine lists those of some kinds of all jobs on an engine, added after a place in the record, in the order
	// in which they were saved, and the place up to which they are then known.
	EntriesOfEngine(engine string, kinds []eventlog.Kind, seq int64) ([]eventlog.Entry, int64, error)
	// Entry finds one entry by its id; not ok when there is none.
	Entry(id string) (eventlog.Entry, bool, error)
	// StoredEntries finds those of some entries that are on record, by id.
	StoredEntries(ids []string) (map[string]eventlog.Entry, error)
}

// CraftReader reads the craft of the yard.
type CraftReader interface {
	Craft(id string) (Craft, bool, error)
	AllCraft() ([]Craft, error)
}

// EngineReader reads engines.
type EngineReader interface {
	Engine(id string) (Engine, bool, error)
	// Engines lists the engines of the given craft, or of all when none is given, by name.
	Engines(craft ...string) ([]Engine, error)
	// EnginesBeside lists all engines of an engine's craft, itself among them, by name; none of an unknown engine.
	EnginesBeside(id string) ([]Engine, error)
	// EngineLines lists as much of every engine as the lists of the whole yard show.
	EngineLines() ([]EngineLine, error)
}

// JobReader reads jobs and what lies beside their entries.
type JobReader interface {
	Job(id string) (Job, bool, error)
	// Jobs lists the jobs of the given engines, the newest first.
	Jobs(engines ...string) ([]Job, error)
	OpenJobs() ([]Job, error)
	// JobsHolding lists the newest jobs, most at the most, that hold of every group one term at least: in their words,
	// notes, symptoms, causes, or as their engine's id.
	JobsHolding(groups [][]string, most int) ([]Job, error)
	Photo(id string) (Photo, bool, error)
	Photos(job string) ([]Photo, error)
	Tracks(recording string) ([]proving.Track, error)
	Pieces(job string) ([]TrackPiece, error)
	// Drafts lists what was typed in a job and not saved yet, the oldest first.
	Drafts(job string) ([]Draft, error)
}

// MaintenanceReader reads engines' service history and what their maintenance is computed from.
type MaintenanceReader interface {
	ServiceHistory(engine string) ([]ServiceLine, error)
	ServiceLinesOf(job string) ([]ServiceLine, error)
	AllMaintenance() (map[string]MaintenanceText, error)
	// Maintenance gives one engine's; not ok where it was never put together.
	Maintenance(engine string) (MaintenanceText, bool, error)
	EnginesWithoutMaintenance() ([]Engine, error)
}

// PartsReader reads what jobs took out of the inventory.
type PartsReader interface {
	// PartsUsed gives of some parts, by part and engine, when jobs last took one, and how much since the part was counted.
	PartsUsed(counted map[string]time.Time) ([]inventory.Used, error)
}

// Reader reads the record.
type Reader interface {
	EntryReader
	CraftReader
	EngineReader
	JobReader
	MaintenanceReader
	PartsReader
}

// Tx reads and adds in one transaction.
type Tx interface {
	Reader
	Append(e eventlog.Entry) error
	// AppendAfter adds an entry and gives its place in the record, above 0, unless its subject's log went on after a
	// place: then it is not added, and 0.
	AppendAfter(e eventlog.Entry, seq int64) (at int64, err error)
	AddPhoto(p Photo) error
	AddTracks(job, recording string, tracks []proving.Track) error
	AddPieces(pieces []TrackPiece) error
	SaveCraft(c Craft) error
	SaveEngine(e Engine) error
	SaveJob(j Job) error
	// SaveDraft keeps a draft in the place of the one under its name; one without a value is forgotten.
	SaveDraft(d Draft) error
	SaveServiceLines(job string, lines []ServiceLine) error
	SaveMaintenance(m MaintenanceState) error
	SavePartsUsed(job string, list []PartUsed) error
}

// Store keeps the record.
type Store interface {
	// Read gives a reader outside any transaction.
	Read(ctx context.Context) Reader
	// Write runs a use case in one transaction: all of it is saved, or nothing.
	Write(ctx context.Context, do func(Tx) error) error
	// WriteShared is Write that may share its commit with others. It must not keep what it reads.
	WriteShared(ctx context.Context, do func(Tx) error) error
	// ForgetMaintenance throws away what was put together of service histories: it is made anew from the entries.
	ForgetMaintenance(ctx context.Context) error
}

// EngineAndJobReader reads engines and jobs.
type EngineAndJobReader interface {
	EngineReader
	JobReader
}
