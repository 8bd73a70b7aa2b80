package store

import (
	"context"
	"fmt"
	"slices"
	"sync/atomic"

	"gorm.io/gorm"

	"hevrin/app/record"
)

// How many writes wait at most, and how many are committed together.
const (
	mostWaiting  = 1024
	mostTogether = 32
)

// write is one use case that waits for its turn to write.
type write struct {
	ctx   context.Context //nolint:containedctx // it is the caller's, who waits as long
	do    func(record.Tx) error
	alone bool // in a transaction of its own
	begun atomic.Bool
	done  chan struct{}
	lined bool // it wrote a line
	err   error
	panic any
}

// WriteShared is Write that may share its commit with others that wait at the same time: each is undone by itself where
// it fails. It must not keep what it reads, since the commit may yet fail.
func (s *Store) WriteShared(ctx context.Context, do func(record.Tx) error) error {
	return s.wait(&write{ctx: ctx, do: do, done: make(chan struct{})})
}

// wait lets a write have its turn. SQLite's own waiting is by sleeping and knows no turns, so that the process takes
// care.
func (s *Store) wait(w *write) error {
	select {
	case s.writes <- w:
	default:
		return &record.Trouble{Kind: record.Busy}
	}
	select {
	case <-w.done:
	case <-w.ctx.Done():
		if w.begun.CompareAndSwap(false, true) { // it will not be done any more
			return w.ctx.Err()
		}
		<-w.done
	}
	if w.panic != nil {
		panic(w.panic)
	}
	return w.err
}

// writeInTurn does what waits, in turn, until the store is closed.
func (s *Store) writeInTurn() {
	defer close(s.done)
	var next *write
	for {
		first := next
		if next = nil; first == nil {
			var open bool
			if first, open = <-s.writes; !open {
				return
			}
		}
		together := []*write{first}
		for !first.alone && len(together) < mostTogether && next == nil {
			select {
			case w, open := <-s.writes:
				switch {
				case !open:
					s.commit(together)
					return
				case w.alone:
					next = w
				default:
					together = append(together, w)
				}
				continue
			default:
			}
			break
		}
		s.commit(together)
	}
}

// commit does writes in one transaction and tells each how it went.
func (s *Store) commit(list []*write) {
	var doing []*write
	for _, w := range list {
		switch {
		case !w.begun.CompareAndSwap(false, true):
		case w.ctx.Err() != nil: // its caller went away, and is not waiting yet
			w.err = w.ctx.Err()
			close(w.done)
		default:
			doing = append(doing, w)
		}
	}
	if len(doing) == 0 {
		return
	}
	err := s.writable()
	if err == nil {
		err = s.writer.transact(doing)
	}
	if slices.ContainsFunc(doing, func(w *write) bool { return w.lined }) {
		s.lines.written.Add(1)
	}
	if t := troubleOf(err); t != nil {
		err = t
	}
	for _, w := range doing {
		if w.err == nil {
			w.err = err
		}
		close(w.done)
	}
}

// run does a write; what panics is the caller's to see.
func (w *write) run(tx *gorm.DB) (err error) {
	defer func() {
		if w.panic = recover(); w.panic != nil {
			err = fmt.Errorf("a write panicked: %v", w.panic)
		}
	}()
	// what the caller's context carries, without its end: once begun, a write is not broken off
	t := &Tx{Reader: Reader{db: tx.WithContext(context.WithoutCancel(w.ctx))}}
	defer func() { w.lined = w.lined || t.lined }()
	return w.do(t)
}
