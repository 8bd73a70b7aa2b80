package yardlist

import (
	"context"

	"hevrin/app/record"
	"hevrin/core/eventlog"
)

// batch adds entries to many logs in one transaction, and rewrites the line of each log once.
type batch struct {
	log     *record.Log
	entries []eventlog.Entry
}

// forget begins anew, as where a transaction is tried again.
func (b *batch) forget() { b.entries = nil }

func (b *batch) add(e eventlog.Entry) { b.entries = append(b.entries, e) }

// write adds the entries in their order, then rewrites the lines of their subjects in the order in which they need one
// another: a craft before its engines before their jobs.
func (b *batch) write(tx record.Tx) error {
	var order []eventlog.Subject
	seen := map[eventlog.Subject]bool{}
	for _, e := range b.entries {
		if err := tx.Append(e); err != nil {
			return err
		}
		if !seen[e.Subject] {
			seen[e.Subject] = true
			order = append(order, e.Subject)
		}
	}
	for _, kind := range []eventlog.SubjectKind{eventlog.OfCraft, eventlog.OfEngine, eventlog.OfJob} {
		for _, s := range order {
			if s.Kind != kind {
				continue
			}
			log, err := tx.Entries(s)
			if err != nil {
				return err
			}
			if err := b.log.Projections[kind](tx, s.ID, log); err != nil {
				return err
			}
		}
	}
	return nil
}

// announce lets whoever follows the record know of the last entry of each log.
func (b *batch) announce(ctx context.Context) {
	last := map[eventlog.Subject]int{}
	for i, e := range b.entries {
		last[e.Subject] = i
	}
	for i, e := range b.entries {
		if last[e.Subject] == i {
			b.log.Announce(ctx, e)
		}
	}
}
