package yardlist

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/units"
)

// Taken is a list that was brought in. Back is set where it was taken back since.
type Taken struct {
	ID string
	eventlog.List
	From eventlog.Source
	Back bool
}

// Taken lists the lists that were brought in, the newest first.
func (a *Lists) Taken(ctx context.Context) ([]Taken, error) {
	entries, err := a.Store.Read(ctx).Entries(listsSubject)
	if err != nil {
		return nil, err
	}
	undone := eventlog.Undone(entries)
	var out []Taken
	for _, e := range entries {
		if e.Body.List != nil {
			out = append(out, Taken{e.ID, *e.Body.List, e.Source(), undone[e.ID]})
		}
	}
	slices.Reverse(out)
	return out, nil
}

// TakeBack takes back every entry that a list brought. It is refused, whole, where something was done since with what
// it brought: that would be lost. Sent again, nothing is added.
func (a *Lists) TakeBack(ctx context.Context, list string, s record.Stamp) ([]Taken, error) {
	id, err := uuid.Parse(list)
	if err != nil {
		return nil, record.NotFound("list", list)
	}
	b := batch{log: a.Log}
	err = a.Store.Write(ctx, func(tx record.Tx) error {
		b.forget()
		own, ok, err := tx.Entry(list)
		if err != nil {
			return err
		}
		if !ok || own.Body.List == nil {
			return record.NotFound("list", list)
		}
		lists, err := tx.Entries(listsSubject)
		if err != nil {
			return err
		}
		if eventlog.Undone(lists)[list] {
			return nil
		}
		brought, ids, err := broughtBy(tx, id, own.Body.List.Entries)
		if err != nil {
			return err
		}
		if err := a.untouched(tx, brought, ids); err != nil {
			return err
		}
		back := uuid.NewSHA1(id, []byte(s.EntryID))
		for i, e := range slices.Backward(brought) {
			log, err := tx.Entries(e.Subject)
			if err != nil {
				return err
			}
			if eventlog.Undone(log)[e.ID] {
				continue // by hand
			}
			b.add(a.NewEntry(record.Stamp{EntryID: entryOf(back, i), By: s.By, TappedAt: s.TappedAt}, e.Subject,
				eventlog.Undo, eventlog.Body{Undoes: e.ID}))
		}
		b.add(a.NewEntry(s, listsSubject, eventlog.Undo, eventlog.Body{Undoes: list}))
		return b.write(tx)
	})
	if err != nil {
		return nil, err
	}
	b.announce(ctx)
	return a.Taken(ctx)
}

// broughtBy gives the entries that a list brought, in their order.
func broughtBy(r record.Reader, list uuid.UUID, n int) (entries []eventlog.Entry, ids map[string]bool, err error) {
	ids = map[string]bool{}
	order := make([]string, n)
	for i := range order {
		order[i] = entryOf(list, i)
		ids[order[i]] = true
	}
	found, err := r.StoredEntries(order)
	for _, id := range order {
		if e, ok := found[id]; ok {
			entries = append(entries, e)
		}
	}
	return entries, ids, err
}

// untouched refuses where something stands that needs what a list brought, and that the list did not bring.
func (a *Lists) untouched(r record.Reader, brought []eventlog.Entry, ids map[string]bool) error {
	jobs, engines, parts := map[string]bool{}, map[string]string{}, map[string]string{}
	craft := map[string]string{}
	for _, e := range brought {
		switch {
		case e.Kind == eventlog.Opened:
			jobs[e.Subject.ID] = true
		case e.Body.Engine != nil:
			engines[e.Subject.ID] = e.Body.Engine.Name
		case e.Body.Craft != nil:
			craft[e.Subject.ID] = e.Body.Craft.Name
		case e.Body.Inventory != nil && e.Body.Inventory.Is != nil:
			parts[e.Body.Inventory.Part] = e.Body.Inventory.Is.Label
		}
	}
	changed := func(kind eventlog.SubjectKind, id, name string) error {
		log, err := r.Entries(eventlog.Subject{Kind: kind, ID: id})
		if err != nil {
			return err
		}
		for _, e := range eventlog.Standing(log) {
			if !ids[e.ID] {
				return inUse("%s was changed or worked on since, by %s", name, e.By)
			}
		}
		return nil
	}
	for id := range jobs {
		if err := changed(eventlog.OfJob, id, "a job of it"); err != nil {
			return err
		}
	}
	for id, name := range engines {
		if err := changed(eventlog.OfEngine, id, name); err != nil {
			return err
		}
		list, err := r.Jobs(id)
		if err != nil {
			return err
		}
		for _, j := range list {
			if !jobs[j.ID] {
				return inUse("%s has a job since: %s", name, j.Words)
			}
		}
	}
	for id, name := range craft {
		if err := changed(eventlog.OfCraft, id, name); err != nil {
			return err
		}
		list, err := r.Engines(id)
		if err != nil {
			return err
		}
		for _, e := range list {
			if engines[e.ID] == "" {
				return inUse("%s has another engine since: %s", name, e.Name)
			}
		}
	}
	return a.partsUntouched(r, parts, ids)
}

func inUse(say string, args ...any) error {
	return &eventlog.Conflict{Say: "the list cannot be taken back as one: " + units.Say(say, args...).String() +
		". Take single lines back where they stand"}
}

// partsUntouched refuses where a part was counted, ordered or used since.
func (a *Lists) partsUntouched(r record.Reader, parts map[string]string, ids map[string]bool) error {
	if len(parts) == 0 {
		return nil
	}
	log, err := r.Entries(eventlog.Subject{Kind: eventlog.OfYard, ID: eventlog.InventoryID})
	if err != nil {
		return err
	}
	for _, e := range eventlog.Standing(log) {
		if s := e.Body.Inventory; s != nil && parts[s.Part] != "" && !ids[e.ID] {
			return inUse("%s was counted, ordered or changed since, by %s", parts[s.Part], e.By)
		}
	}
	used, err := r.PartsUsed(nil)
	if err != nil {
		return err
	}
	for _, u := range used {
		if parts[u.Part] != "" {
			return inUse("%s was used in a job since", parts[u.Part])
		}
	}
	return nil
}
