package people

import (
	"context"
	"time"

	"github.com/google/uuid"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	"hevrin/core/people"
	"hevrin/core/units"
	"hevrin/core/validation"
)

// Link lets an owner read the report of one job without signing in, until it ends. Token is the SHA-256 of what opens
// it.
type Link struct {
	ID        string `gorm:"primaryKey"`
	Token     string
	JobID     string
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

// MakeLink gives what opens the report of a job for so many days: it is told once and kept nowhere.
func (a *People) MakeLink(ctx context.Context, job string, days int) (token string, err error) {
	if days < 1 || days > MostLinkDays {
		var wrong validation.Errors
		wrong.Add("days", days, units.Say("1 to %d", MostLinkDays), "say for how many days the owner may read it")
		return "", wrong
	}
	if _, ok, err := a.Store.Read(ctx).Job(job); err != nil {
		return "", err
	} else if !ok {
		return "", record.NotFound("job", job)
	}
	actor, _ := record.ActorOf(ctx)
	token = newToken()
	now := a.Now().UTC()
	l := Link{ID: uuid.NewString(), Token: hashOf(token), JobID: job, MadeBy: actor.Name, MadeAt: now,
		ExpiresAt: now.AddDate(0, 0, days)}
	if err := a.store.SaveLink(ctx, l); err != nil {
		return "", err
	}
	a.Audit(ctx, people.AuditLine{What: people.LinkMade, Person: actor.ID, Device: actor.Device, Of: job})
	return token, nil
}

// Links lists the links to a job's report, the newest first.
func (a *People) Links(ctx context.Context, job string) ([]Link, error) {
	return a.store.Links(ctx, job)
}

// EndLink ends a link; it opens nothing any more.
func (a *People) EndLink(ctx context.Context, id string) (job string, err error) {
	l, ok, err := a.store.Link(ctx, "", id)
	if err != nil {
		return "", err
	}
	if !ok {
		return "", record.NotFound("link", id)
	}
	if l.EndedAt == nil {
		now := a.Now().UTC()
		l.EndedAt = &now
		if err := a.store.SaveLink(ctx, l); err != nil {
			return "", err
		}
		actor, _ := record.ActorOf(ctx)
		a.Audit(ctx, people.AuditLine{What: people.LinkEnded, Person: actor.ID, Device: actor.Device, Of: l.JobID})
	}
	return l.JobID, nil
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
	var wrong validation.Errors
	if n := len([]rune(x.Name)); n == 0 || n > 60 {
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
