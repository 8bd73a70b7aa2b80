package record

import (
	"context"
	"fmt"
	"time"
)

// TroubleKind is what is wrong with the place where the record lies, so that it can be told apart from a slip of
// whoever asked.
type TroubleKind string

// The kinds of trouble.
const (
	Full     TroubleKind = "full"      // no room is left on the disk
	ReadOnly TroubleKind = "read-only" // the file or its folder may not be written
	Damaged  TroubleKind = "damaged"   // the file is not as SQLite wrote it
	Gone     TroubleKind = "gone"      // the file was moved or removed under the running program
	Busy     TroubleKind = "busy"      // too much waits to be written
)

// Trouble is an error of the place where the record lies. Nothing of the write that met it was kept.
type Trouble struct {
	Kind TroubleKind
	Err  error // what the system said; nil where the program saw it by itself
}

// whatToDo is told for each kind of trouble.
var whatToDo = map[TroubleKind]string{
	Full:     "the disk that holds the record is full: make room on it, then send again",
	ReadOnly: "the record cannot be written: let Hevrin write in its data folder, then send again",
	Damaged: "the record is damaged: stop Hevrin, keep the data folder as it is, and restore the last good backup into " +
		"another",
	Gone: "the record's file was moved or removed while Hevrin was running: stop Hevrin, put it back, and start again",
	Busy: "too many people write at once: try again in a moment",
}

// Say tells in a sentence what is wrong and what to do.
func (t *Trouble) Say() string { return whatToDo[t.Kind] }

// Error tells it with what the system said.
func (t *Trouble) Error() string {
	if t.Err == nil {
		return t.Say()
	}
	return fmt.Sprintf("%s (%v)", t.Say(), t.Err)
}

// Unwrap gives what the system said.
func (t *Trouble) Unwrap() error { return t.Err }

// Health is how the place where the record lies stands.
type Health struct {
	Folder   string
	Trouble  *Trouble // nil: none
	Checked  time.Time
	Whole    bool      // the whole file was read at Checked, not its outline alone
	FreeMB   int64     // on its disk
	Waiting  int       // writes in the queue
	Newest   time.Time // entry; zero: there is none
	Backup   BackupState
	Mirror   *BackupState // the second copy; nil: none is kept
	ClockSay string       // what is odd about the clock; empty: nothing
	// ChainSay names past entries that are not as they were kept, as the last reading of the whole found; empty: none.
	ChainSay string
}

// BackupState is how the backups stand.
type BackupState struct {
	Folder string    // empty: none are made by the program
	Last   time.Time // good one; zero: none
	Say    string    // why the last try failed; empty: it did not
	// AtStart is the backup that is to stand in the place of the record when the program is started next.
	AtStart string
}

// StoredBackup is a backup that the program made, and what it holds.
type StoredBackup struct {
	Name                          string
	Made                          time.Time
	Bytes                         int64
	Craft, Engines, Jobs, Entries int64
}

// How far the clock may lie off the newest entry before it is told: back by a little is a clock that was set right.
const (
	clockBackBy  = 10 * time.Minute
	clockAheadBy = 400 * 24 * time.Hour
)

// ClockSay tells what is odd about the clock, going by the newest entry; empty where nothing is.
func ClockSay(now, newest time.Time) string {
	switch {
	case newest.IsZero():
		return ""
	case now.Before(newest.Add(-clockBackBy)):
		return fmt.Sprintf("this machine's clock says %s, and the newest entry is of %s: set the clock right, or what is "+
			"noted now is stamped before what it follows", now.UTC().Format("2 January 2006 15:04"),
			newest.UTC().Format("2 January 2006 15:04"))
	case now.After(newest.Add(clockAheadBy)):
		return fmt.Sprintf("this machine's clock says %s, more than a year after the newest entry, of %s: look at the clock "+
			"before anything is noted", now.UTC().Format("2 January 2006"), newest.UTC().Format("2 January 2006"))
	}
	return ""
}

// Place is where the record lies, for whoever looks after it.
type Place interface {
	Health(ctx context.Context) Health
	// Check reads the record, its outline or the whole of it; damage is a Trouble.
	Check(ctx context.Context, whole bool) error
	// MakeBackup makes a verified backup now.
	MakeBackup(ctx context.Context) error
	// SendAway writes a verified copy to a new file, and gives the name under which it is sent.
	SendAway(ctx context.Context, file string) (name string, err error)
	// Backups lists those that the program made, the newest first.
	Backups(ctx context.Context) ([]StoredBackup, error)
	// VerifyBackup reads one whole; what is wrong with it is a Conflict.
	VerifyBackup(ctx context.Context, name string) error
	// RestoreAtStart lets one stand in the place of the record when the program is started next; no name: none.
	RestoreAtStart(ctx context.Context, name string) error
}
