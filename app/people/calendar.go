package people

import (
	"context"
	"time"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/people"
)

// Calendar lets a person's own calendar program read what is due, without signing in. Token is the SHA-256 of what
// opens it.
type Calendar struct {
	PersonID string `gorm:"primaryKey"`
	Token    string
	MadeAt   time.Time
}

// TableName is where calendars lie.
func (Calendar) TableName() string { return "calendars" }

// MakeCalendar gives who asks what opens their calendar, told once; one of before opens nothing any more.
func (a *People) MakeCalendar(ctx context.Context) (token string, err error) {
	actor, _ := record.ActorOf(ctx)
	token = newToken()
	err = a.store.SaveCalendar(ctx, Calendar{PersonID: actor.ID, Token: hashOf(token), MadeAt: a.Now().UTC()})
	if err == nil {
		a.Audit(ctx, people.AuditLine{What: people.CalendarMade, Person: actor.ID, Device: actor.Device})
	}
	return token, err
}

// EndCalendar lets the calendar of who asks open nothing any more.
func (a *People) EndCalendar(ctx context.Context) error {
	actor, _ := record.ActorOf(ctx)
	a.Audit(ctx, people.AuditLine{What: people.CalendarEnded, Person: actor.ID, Device: actor.Device})
	return a.store.SaveCalendar(ctx, Calendar{PersonID: actor.ID})
}

// HasCalendar says whether who asks has one.
func (a *People) HasCalendar(ctx context.Context) (bool, error) {
	actor, _ := record.ActorOf(ctx)
	_, ok, err := a.store.Calendar(ctx, "", actor.ID)
	return ok, err
}

// OpenCalendar says whether a token opens a calendar: of somebody who works here, and may read what is due.
func (a *People) OpenCalendar(ctx context.Context, token string) error {
	c, ok, err := a.store.Calendar(ctx, hashOf(token), "")
	if err != nil {
		return err
	}
	if ok {
		if p, err := a.person(ctx, c.PersonID); err == nil && !p.Off && p.Role.May(people.Read) {
			return nil
		}
	}
	return &eventlog.Conflict{Say: "this calendar has ended: make another in Hevrin, under your name"}
}
