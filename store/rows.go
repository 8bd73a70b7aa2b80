package store

import (
	"time"

	"hevrin/core/eventlog"
)

type entryRow struct {
	Seq         int64 `gorm:"primaryKey;autoIncrement"`
	ID          string
	SubjectKind eventlog.SubjectKind
	SubjectID   string
	Kind        eventlog.Kind
	By          string
	At          time.Time
	TappedAt    *time.Time
	Undoes      *string
	Body        eventlog.Body `gorm:"serializer:json"`
}

func (entryRow) TableName() string { return "entries" }

func rowOf(e eventlog.Entry) entryRow {
	row := entryRow{ID: e.ID, SubjectKind: e.Subject.Kind, SubjectID: e.Subject.ID, Kind: e.Kind, By: e.By, At: e.At,
		TappedAt: e.TappedAt, Body: e.Body}
	if e.Body.Undoes != "" {
		row.Undoes = &e.Body.Undoes
	}
	return row
}

func (r entryRow) entry() eventlog.Entry {
	e := eventlog.Entry{ID: r.ID, Subject: eventlog.Subject{Kind: r.SubjectKind, ID: r.SubjectID}, Kind: r.Kind, By: r.By,
		At: r.At.UTC(), Body: r.Body}
	if r.TappedAt != nil {
		t := r.TappedAt.UTC()
		e.TappedAt = &t
	}
	return e
}
