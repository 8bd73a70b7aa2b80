package store

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"

	"github.com/gofrs/flock"
	"gorm.io/gorm"

	"hevrin/app/record"
	"hevrin/core/eventlog"
)

//go:embed migrations/*.sql
var migrations embed.FS

// FileName is the database's name in the data folder.
const FileName = "hevrin.db"

// Store is an open database. It may be used from many goroutines.
type Store struct {
	db       *gorm.DB // which reads alone
	writer   *writer  // used by writeInTurn alone, once the tables are as they are to be
	lock     *flock.Flock
	file     string
	opened   os.FileInfo // the file, as it was when it was opened
	standing atomic.Pointer[stand]
	backing  sync.Mutex    // one backup at a time
	writes   chan *write   // in turn, to the one who writes
	done     chan struct{} // closed once nobody writes any more
	lines    *lineCache
}

// Open opens the record in a folder and brings it to the newest version, or begins one where the folder is new or
// empty.
func Open(ctx context.Context, folder string) (*Store, error) { return OpenAs(ctx, folder, OrBegin) }

// OpenAs opens the record in a folder and brings it to the newest version; how says what is done where there is none. A
// copy is kept of a record whose tables are changed. A damaged one is opened to be read: see Health.
func OpenAs(ctx context.Context, folder string, how Opening) (*Store, error) {
	version, err := look(ctx, folder, how)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, unusable(folder, err)
	}
	lock, err := hold(folder, false)
	if err != nil {
		return nil, err
	}
	s, err := openFile(filepath.Join(folder, FileName), lock)
	if err != nil {
		return nil, errors.Join(unusable(folder, err), lock.Unlock())
	}
	if err := s.begin(ctx, version); err != nil {
		return nil, errors.Join(fmt.Errorf("cannot bring the database in %s up to date: %w", folder, err), s.Close())
	}
	return s, nil
}

// unusable names a folder that cannot be used, and what to do about one that may not be written.
func unusable(folder string, err error) error {
	if errors.Is(err, fs.ErrPermission) || errors.Is(err, syscall.EROFS) {
		return fmt.Errorf("the data folder %s cannot be written: let Hevrin write there, or say with --data where else: %w",
			folder, err)
	}
	return fmt.Errorf("cannot use the data folder %s: %w", folder, err)
}

// openFile opens the database, which others on the machine may not read.
func openFile(file string, lock *flock.Flock) (*Store, error) {
	f, err := os.OpenFile(file, os.O_CREATE|os.O_RDWR, 0o600) //nolint:gosec // the caller's own folder
	if err != nil {
		return nil, err
	}
	opened, err := f.Stat()
	if err := errors.Join(err, f.Chmod(0o600), f.Close()); err != nil {
		return nil, err
	}
	raw, err := connections(file, mostReaders, true)
	if err != nil {
		return nil, err
	}
	db, err := speak(raw, true)
	if err != nil {
		return nil, errors.Join(err, raw.Close())
	}
	to, err := newWriter(file)
	if err != nil {
		return nil, errors.Join(err, raw.Close())
	}
	s := &Store{db: db, writer: to, lock: lock, file: file, opened: opened, writes: make(chan *write, mostWaiting),
		done: make(chan struct{}), lines: newLineCache()}
	go s.writeInTurn()
	return s, nil
}

// begin checks a record that is there, and brings its tables to the newest version.
func (s *Store) begin(ctx context.Context, version int64) error {
	if version > 0 {
		if err := s.Check(ctx, false); err != nil {
			var t *record.Trouble
			if !errors.As(err, &t) {
				return err
			}
			slog.Error("the record was not found sound", "trouble", t.Kind, "error", err)
		}
	}
	if err := s.migrate(ctx, version); err != nil {
		return err
	}
	return os.WriteFile(filepath.Join(filepath.Dir(s.file), lockName), []byte(markOf), 0o600)
}

func (s *Store) migrate(ctx context.Context, version int64) error {
	provider, err := migrator(s.writer.pool)
	if err != nil {
		return err
	}
	pending, err := provider.HasPending(ctx)
	if err != nil || !pending {
		return err
	}
	if version > 0 {
		if now := s.standing.Load(); now != nil && now.trouble != nil {
			return now.trouble
		}
		if err := s.copyBefore(ctx, version); err != nil {
			return err
		}
	}
	_, err = provider.Up(ctx)
	return err
}

// Close lets the file go, once what waits is written.
func (s *Store) Close() error {
	close(s.writes)
	<-s.done
	raw, err := s.db.DB()
	if err != nil {
		return err
	}
	return errors.Join(raw.Close(), s.writer.close(), s.lock.Unlock())
}

// Empty tells whether nothing was ever kept.
func (s *Store) Empty(ctx context.Context) (bool, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&entryRow{}).Limit(1).Count(&n).Error
	return n == 0, err
}

// Write runs a use case in one transaction: all of it is kept, or nothing.
func (s *Store) Write(ctx context.Context, do func(record.Tx) error) error {
	return s.wait(&write{ctx: ctx, do: do, alone: true, done: make(chan struct{})})
}

// Read gives a reader outside any transaction.
func (s *Store) Read(ctx context.Context) record.Reader {
	return &Reader{s.db.WithContext(ctx), s.lines}
}

// Reader reads the record.
type Reader struct {
	db    *gorm.DB
	lines *lineCache // nil in a transaction
}

// Tx reads and adds in one transaction.
type Tx struct {
	Reader
	lined bool // a line of a craft, an engine or a job was written
}

// Entries lists a subject's entries in the order in which they were kept.
func (r *Reader) Entries(s eventlog.Subject) ([]eventlog.Entry, error) {
	list, _, err := r.EntriesAfter(s, 0)
	return list, err
}

// EntriesAfter lists what was added to a log after a place in the record, in order, and the place up to which it is
// then known.
func (r *Reader) EntriesAfter(s eventlog.Subject, seq int64) ([]eventlog.Entry, int64, error) {
	var rows []entryRow
	err := r.db.Where("subject_kind = ? AND subject_id = ? AND seq > ?", s.Kind, s.ID, seq).Order("seq").Find(&rows).Error
	out := make([]eventlog.Entry, len(rows))
	for i, row := range rows {
		out[i], seq = row.entry(), row.Seq
	}
	return out, seq, err
}

// EntriesOfEngine lists those of some kinds of all jobs on an engine, added after a place in the record, in order, and
// the place up to which they are then known.
func (r *Reader) EntriesOfEngine(engine string, kinds []eventlog.Kind, seq int64) ([]eventlog.Entry, int64, error) {
	var rows []entryRow
	jobs := r.db.Model(&record.Job{}).Select("id").Where("engine_id = ? AND NOT removed", engine)
	err := r.db.Where("subject_kind = ? AND kind IN ? AND seq > ? AND subject_id IN (?)", eventlog.OfJob, kinds, seq,
		jobs).
		Order("seq").Find(&rows).Error
	out := make([]eventlog.Entry, len(rows))
	for i, row := range rows {
		out[i], seq = row.entry(), row.Seq
	}
	return out, seq, err
}

// Entry finds one entry by its id.
func (r *Reader) Entry(id string) (eventlog.Entry, bool, error) {
	var rows []entryRow
	err := r.db.Where("id = ?", id).Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return eventlog.Entry{}, false, err
	}
	return rows[0].entry(), true, nil
}

// Append adds an entry to the record, with the hashes that bind it to all before it.
func (t *Tx) Append(e eventlog.Entry) error {
	_, err := t.append(e, "")
	return err
}

// AppendAfter adds an entry to the record and gives its place in it, above 0, unless the subject's log went on after a
// place: then it is not added, and 0.
func (t *Tx) AppendAfter(e eventlog.Entry, seq int64) (at int64, err error) {
	return t.append(e, " WHERE NOT EXISTS (SELECT 1 FROM entries WHERE subject_kind = ? AND subject_id = ? AND seq > ?)",
		e.Subject.Kind, e.Subject.ID, seq)
}

func (t *Tx) append(e eventlog.Entry, where string, args ...any) (at int64, err error) {
	body, err := json.Marshal(e.Body)
	if err != nil {
		return 0, err
	}
	return t.appendBody(e, body, where, args...)
}

func (t *Tx) appendBody(e eventlog.Entry, body []byte, where string, args ...any) (at int64, err error) {
	row := rowOf(e)
	all := append([]any{row.ID, row.SubjectKind, row.SubjectID, row.Kind, row.By, row.At, row.TappedAt, row.Undoes,
		string(body)}, args...)
	err = t.db.Raw(appendEntry+where+" RETURNING seq", all...).Find(&at).Error // Scan translates no errors
	return at, err
}

// SaveCraft rewrites a craft's line.
func (t *Tx) SaveCraft(c record.Craft) error { return t.saveLine(&c) }

// SaveEngine rewrites an engine's line.
func (t *Tx) SaveEngine(e record.Engine) error { return t.saveLine(&e) }

// SaveJob rewrites a job's line.
func (t *Tx) SaveJob(j record.Job) error { return t.saveLine(&j) }

func (t *Tx) saveLine(line any) error {
	t.lined = true
	return t.db.Save(line).Error
}

// AddPhoto keeps a picture; its entry must be there.
func (t *Tx) AddPhoto(p record.Photo) error {
	if err := t.db.Create(&p).Error; err != nil {
		return err
	}
	return t.seal(photoThings, "id = ?", p.ID)
}

// Photo finds a picture.
func (r *Reader) Photo(id string) (record.Photo, bool, error) {
	var rows []record.Photo
	err := r.db.Where("id = ?", id).Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return record.Photo{}, false, err
	}
	return rows[0], true, nil
}

// AllCraft lists the craft by name.
func (r *Reader) AllCraft() ([]record.Craft, error) {
	var out []record.Craft
	return out, r.db.Where("NOT removed").Order("name, id").Find(&out).Error
}

// Craft finds a craft.
func (r *Reader) Craft(id string) (record.Craft, bool, error) {
	return first[record.Craft](r, "craft", id)
}

// Engine finds an engine.
func (r *Reader) Engine(id string) (record.Engine, bool, error) {
	return first[record.Engine](r, "engine", id)
}

// Job finds a job.
func (r *Reader) Job(id string) (record.Job, bool, error) { return first[record.Job](r, "job", id) }

// first finds a line by its id; what says of what it is.
func first[T any](r *Reader, what, id string) (T, bool, error) {
	rows, err := kept(r.lines, what+" "+id, func() (rows []T, err error) {
		return rows, r.db.Where("id = ? AND NOT removed", id).Limit(1).Find(&rows).Error
	})
	if err != nil || len(rows) == 0 {
		var none T
		return none, false, err
	}
	return rows[0], true, nil
}

// Engines lists the engines of the given craft, or of all when none is given, by name.
func (r *Reader) Engines(craft ...string) ([]record.Engine, error) {
	var out []record.Engine
	q := r.db.Where("NOT removed").Order("name, id")
	if len(craft) > 0 {
		q = q.Where("craft_id IN ?", craft)
	}
	return out, q.Find(&out).Error
}

// EnginesBeside lists all engines of an engine's craft, itself among them, by name.
func (r *Reader) EnginesBeside(id string) ([]record.Engine, error) {
	return kept(r.lines, "beside "+id, func() (out []record.Engine, err error) {
		own := r.db.Model(&record.Engine{}).Select("craft_id").Where("id = ?", id)
		return out, r.db.Where("NOT removed AND craft_id = (?)", own).Order("name, id").Find(&out).Error
	})
}

// Jobs lists the jobs of the given engines, the newest first.
func (r *Reader) Jobs(engines ...string) ([]record.Job, error) {
	read := func() (out []record.Job, err error) {
		return out, r.db.Where("NOT removed AND engine_id IN ?", engines).Order("opened_at DESC, id").Find(&out).Error
	}
	if len(engines) > mostAsked {
		return read()
	}
	return kept(r.lines, "jobs "+strings.Join(engines, " "), read)
}

// JobsHolding is record.JobReader's.
func (r *Reader) JobsHolding(groups [][]string, most int) ([]record.Job, error) {
	const text = `(words || ' ' || note || ' ' || complaint || ' ' || faults || ' ' || engine_id)`
	q := r.db.Where("NOT removed")
	for _, group := range groups {
		var holds []string
		var args []any
		for _, term := range group {
			holds = append(holds, text+` LIKE ? ESCAPE '\'`)
			args = append(args, "%"+likeTerm.Replace(term)+"%")
		}
		q = q.Where("("+strings.Join(holds, " OR ")+")", args...)
	}
	var out []record.Job
	return out, q.Order("opened_at DESC, id").Limit(most).Find(&out).Error
}

// likeTerm takes their meaning from the signs of LIKE.
var likeTerm = strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`)

// OpenJobs lists every job that is not closed, the newest first.
func (r *Reader) OpenJobs() ([]record.Job, error) {
	var out []record.Job
	return out, r.db.Where("NOT removed AND closed_at IS NULL").Order("opened_at DESC, id").Find(&out).Error
}
