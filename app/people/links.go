package people

import (
	"cmp"
	"context"
	"time"

	"github.com/google/uuid"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/people"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Link lets an owner read the report of one job, or the page of one engine, without signing in, until it ends. Token is
// the SHA-256 of what opens it.
type Link struct {
	ID        string `gorm:"primaryKey"`
	Token     string
	JobID     string // empty: of an engine
	EngineID  string // empty: of a job
	MadeBy    string
	MadeAt    time.Time
	ExpiresAt time.Time
	EndedAt   *time.Time
	Opened    int
	OpenedAt  *time.Time
	Answers   int
}

// TableName is where links lie.
func (Link) TableName() string { return "owner_links" }

// Stands says whether a link opens at a time.
func (l Link) Stands(at time.Time) bool { return l.EndedAt == nil && at.Before(l.ExpiresAt) }

// Limits of a link: how many days it may hold, and how often it may be answered.
const (
	MostLinkDays = 365
	mostAnswers  = 20
	mostWords    = 2000
)

// Linked is what a link opens: one of the report of a job and the page of an engine.
type Linked struct{ JobID, EngineID string }

// ID is that of the job or of the engine.
func (o Linked) ID() string { return cmp.Or(o.JobID, o.EngineID) }

// Of is what the link opens.
func (l Link) Of() Linked { return Linked{l.JobID, l.EngineID} }

// exists says that what is to be linked is not there.
func (a *People) exists(ctx context.Context, o Linked) error {
	r := a.Store.Read(ctx)
	if o.EngineID != "" {
		if _, ok, err := r.Engine(o.EngineID); err != nil || !ok {
			return cmp.Or(err, record.NotFound("engine", o.EngineID))
		}
		return nil
	}
	if _, ok, err := r.Job(o.JobID); err != nil || !ok {
		return cmp.Or(err, record.NotFound("job", o.JobID))
	}
	return nil
}

// MakeLink gives what opens a report or an engine's page for so many days: it is told once and kept nowhere.
func (a *People) MakeLink(ctx context.Context, of Linked, days int) (token string, err error) {
	if days < 1 || days > MostLinkDays {
		var wrong validation.Errors
		wrong.Add("days", days, units.Say("1 to %d", MostLinkDays), "say for how many days the owner may read it")
		return "", wrong
	}
	if err := a.exists(ctx, of); err != nil {
		return "", err
	}
	actor, _ := record.ActorOf(ctx)
	token = newToken()
	now := a.Now().UTC()
	l := Link{ID: uuid.NewString(), Token: hashOf(token), JobID: of.JobID, EngineID: of.EngineID,
		MadeBy: actor.Name, MadeAt: now, ExpiresAt: now.AddDate(0, 0, days)}
	if err := a.store.SaveLink(ctx, l); err != nil {
		return "", err
	}
	a.Audit(ctx, people.AuditLine{What: people.LinkMade, Person: actor.ID, Device: actor.Device, Of: of.ID()})
	return token, nil
}

// Links lists the links to a report or an engine's page, the newest first.
func (a *People) Links(ctx context.Context, of Linked) ([]Link, error) {
	return a.store.Links(ctx, of)
}

// StandingLinks lists every link that opens something, of all jobs and engines, the newest first.
func (a *People) StandingLinks(ctx context.Context) ([]Link, error) {
	return a.store.StandingLinks(ctx, a.Now().UTC())
}

// EndLink ends a link; it opens nothing any more.
func (a *People) EndLink(ctx context.Context, id string) (of Linked, err error) {
	l, ok, err := a.store.Link(ctx, "", id)
	if err != nil {
		return of, err
	}
	if !ok {
		return of, record.NotFound("link", id)
	}
	if l.EndedAt == nil {
		now := a.Now().UTC()
		l.EndedAt = &now
		if err := a.store.SaveLink(ctx, l); err != nil {
			return of, err
		}
		actor, _ := record.ActorOf(ctx)
		a.Audit(ctx, people.AuditLine{What: people.LinkEnded, Person: actor.ID, Device: actor.Device, Of: l.Of().ID()})
	}
	return l.Of(), nil
}

// errNoLink says that a link opens nothing, whatever the reason.
var errNoLink = &eventlog.Conflict{Say: "this link has ended: ask the yard for another"}

// OpenLink gives the link that a token opens; counted, where somebody reads.
func (a *People) OpenLink(ctx context.Context, token string, counted bool) (Link, error) {
	l, ok, err := a.store.Link(ctx, hashOf(token), "")
	if err != nil {
		return l, err
	}
	if !ok || !l.Stands(a.Now()) {
		return l, errNoLink
	}
	if counted {
		_, err = a.store.CountLink(ctx, l.ID, a.Now().UTC(), false, 0)
	}
	return l, err
}

// errForReading says that an engine's page takes no answers.
var errForReading = &eventlog.Conflict{
	Say: "an engine's page is for reading: answer the report of a job, or call the yard"}

// Answer is what an owner says to a report.
type Answer struct {
	Name     string
	Approved bool
	Words    string
}

// AnswerLink checks an owner's answer and gives the note that it is in the job: by whom, and its words.
func (a *People) AnswerLink(ctx context.Context, token string, x Answer, from From) (job, by, words string, err error) {
	l, err := a.OpenLink(ctx, token, false)
	if err != nil {
		return "", "", "", err
	}
	if l.JobID == "" {
		return "", "", "", errForReading
	}
	var wrong validation.Errors
	if n := len([]rune(x.Name)); n > 60 || !validation.IsName(x.Name) {
		wrong.Add("name", x.Name, "1 to 60 letters", "say who you are")
	}
	if n := len([]rune(x.Words)); n > mostWords || n == 0 && !x.Approved {
		wrong.Add("words", units.Say("%d letters", n), units.Say("1 to %d letters", mostWords),
			"write your question, or approve")
	}
	if len(wrong) > 0 {
		return "", "", "", wrong
	}
	ok, err := a.store.CountLink(ctx, l.ID, a.Now().UTC(), true, mostAnswers)
	if err != nil {
		return "", "", "", err
	}
	if !ok {
		return "", "", "", &eventlog.Conflict{Say: "this link was answered often enough: call the yard"}
	}
	words = "Asks: " + x.Words
	if x.Approved {
		words = "Approved. " + x.Words
	}
	a.Audit(ctx, people.AuditLine{What: people.LinkAnswered, Address: from.Address, Of: l.JobID, Say: x.Name})
	return l.JobID, x.Name + ", by the owner's link", words, nil
}
