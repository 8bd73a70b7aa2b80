package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"log/slog"
	"net/url"
	"path/filepath"
	"slices"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/mattn/go-sqlite3"
	"gorm.io/gorm"

	"hevrin/app/record"
)

// mostReaders is how many connections read at once; whoever needs another one waits.
const mostReaders = 8

// never cannot be cancelled. A statement whose context is cancelled is interrupted, and SQLite then rolls back the
// whole transaction around it (https://www.sqlite.org/c3ref/interrupt.html).
func never() context.Context { return context.Background() }

// connections opens a pool of connections to the record's file. Readers' are refused whatever would change it.
func connections(file string, most int, readOnly bool) (*sql.DB, error) {
	q := url.Values{
		"_journal_mode": {"WAL"}, "_foreign_keys": {"on"}, "_busy_timeout": {"5000"}, "_synchronous": {"FULL"},
	}
	if readOnly {
		q.Set("_query_only", "true")
	}
	dsn := url.URL{Scheme: "file", Opaque: filepath.ToSlash(file), RawQuery: q.Encode()}
	db, err := sql.Open(driverName, dsn.String())
	if err != nil {
		return nil, err
	}
	db.SetMaxIdleConns(most) // opening a connection is expensive
	db.SetMaxOpenConns(most)
	return db, nil
}

// speak speaks to SQLite through GORM over some connections.
func speak(c gorm.ConnPool, prepare bool) (*gorm.DB, error) {
	return gorm.Open(dialectOver(c), &gorm.Config{
		TranslateError: true, PrepareStmt: prepare, DisableAutomaticPing: true,
		SkipDefaultTransaction: true, // who writes begins its own: see transact
		Logger:                 newFailures(slog.Default()),
		NowFunc:                func() time.Time { return time.Now().UTC() },
	})
}

// writer is the one connection by which the record is written. It counts the transactions that end on it, so that the
// one which began is known to be the one which ends: SQLite ends one by itself where a statement in it is interrupted,
// or finds the disk full, and a savepoint after that begins another. It is used by one goroutine at a time.
type writer struct {
	pool  *sql.DB
	conn  lasting
	db    *gorm.DB
	ended int // how many transactions were committed or rolled back, by whoever
}

func newWriter(file string) (*writer, error) {
	pool, err := connections(file, 1, false)
	return &writer{pool: pool}, err
}

// connect takes the connection where it is not there, or not any more.
func (w *writer) connect() error {
	if w.conn.Conn != nil {
		if err := w.conn.PingContext(never()); !errors.Is(err, driver.ErrBadConn) && !errors.Is(err, sql.ErrConnDone) {
			return err
		}
		_ = w.disconnect() // it is gone
	}
	conn, err := w.pool.Conn(never())
	if err != nil {
		return err
	}
	err = conn.Raw(func(c any) error {
		lite, ok := c.(*sqlite3.SQLiteConn)
		if !ok {
			return fmt.Errorf("the connection is a %T", c)
		}
		lite.RegisterRollbackHook(func() { w.ended++ })
		lite.RegisterCommitHook(func() int { w.ended++; return 0 })
		return nil
	})
	var lasts lasting
	if err == nil {
		lasts, err = lastingOn(conn)
	}
	var db *gorm.DB
	if err == nil {
		db, err = speak(lasts, false)
	}
	if err != nil {
		return errors.Join(err, conn.Close())
	}
	w.conn, w.db = lasts, db
	return nil
}

func (w *writer) disconnect() (err error) {
	if w.conn.Conn != nil {
		err = w.conn.close()
	}
	w.conn, w.db = lasting{}, nil
	return err
}

func (w *writer) close() error { return errors.Join(w.disconnect(), w.pool.Close()) }

func (w *writer) do(words string) error {
	_, err := w.conn.Conn.ExecContext(never(), words)
	return err
}

// open tells whether a transaction is under way.
func (w *writer) open() (yes bool) {
	_ = w.conn.Raw(func(c any) error {
		lite, ok := c.(*sqlite3.SQLiteConn)
		yes = ok && !lite.AutoCommit()
		return nil
	})
	return yes
}

// errLost says that the transaction in which something was written is not the one that is under way.
var errLost = &record.Trouble{Kind: record.Busy, Err: errors.New("the transaction was ended before its time")}

// transact does writes in one transaction, each with a savepoint of its own, and gives an error where none of them was
// kept. It is nil only where the transaction that it began is the one that it committed.
func (w *writer) transact(doing []*write) (err error) {
	if err := w.connect(); err != nil {
		return err
	}
	// at once, since one that first reads and then writes could find the database locked
	if err := w.do("BEGIN IMMEDIATE"); err != nil {
		return err
	}
	begun := w.ended
	defer func() {
		if w.open() {
			err = errors.Join(err, w.do("ROLLBACK"))
		}
	}()
	for i, x := range doing {
		point := fmt.Sprintf("w%d", i)
		if err := w.do("SAVEPOINT " + point); err != nil {
			return err
		}
		if x.err = x.run(w.db); x.err != nil {
			if w.ended != begun {
				return lostBy(doing)
			}
			if err := w.do("ROLLBACK TO " + point); err != nil {
				return err
			}
		}
		if w.ended != begun || !w.open() {
			return lostBy(doing)
		}
		if err := w.do("RELEASE " + point); err != nil {
			return err
		}
	}
	if len(doing) == 1 && doing[0].err != nil {
		return nil // nothing is left to keep
	}
	if w.ended != begun {
		return lostBy(doing)
	}
	return w.do("COMMIT")
}

// lostBy is what all who shared a transaction are told that is no more: what the disk had against it, where one of them
// met that.
func lostBy(doing []*write) error {
	at := slices.IndexFunc(doing, func(w *write) bool { return troubleOf(w.err) != nil })
	if at < 0 {
		return errLost
	}
	return troubleOf(doing[at].err)
}

// mostStatements is how many statements are kept prepared.
const mostStatements = 256

// lasting is one connection, whose prepared statements outlive its transactions.
type lasting struct {
	*sql.Conn
	statements *lru.Cache[string, *sql.Stmt]
}

var _ gorm.ConnPool = lasting{}

func lastingOn(conn *sql.Conn) (lasting, error) {
	statements, err := lru.NewWithEvict(mostStatements, func(_ string, s *sql.Stmt) { _ = s.Close() })
	return lasting{conn, statements}, err
}

func (l lasting) prepared(query string) (*sql.Stmt, error) {
	if s, ok := l.statements.Get(query); ok {
		return s, nil
	}
	s, err := l.PrepareContext(never(), query)
	if err == nil {
		l.statements.Add(query, s)
	}
	return s, err
}

// ExecContext is that of gorm.ConnPool.
func (l lasting) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	s, err := l.prepared(query)
	if err != nil {
		return nil, err
	}
	return s.ExecContext(ctx, args...)
}

// QueryContext is that of gorm.ConnPool.
func (l lasting) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	s, err := l.prepared(query)
	if err != nil {
		return nil, err
	}
	return s.QueryContext(ctx, args...)
}

// QueryRowContext is that of gorm.ConnPool.
func (l lasting) QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row {
	s, err := l.prepared(query)
	if err != nil {
		return l.Conn.QueryRowContext(ctx, query, args...) // which tells the error
	}
	return s.QueryRowContext(ctx, args...)
}

// close lets the connection go, its statements first: SQLite keeps a connection open that has any.
func (l lasting) close() error {
	l.statements.Purge()
	return l.Close()
}
