package people

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"slices"
	"time"

	"github.com/google/uuid"

	"hevrin/app/record"
	"hevrin/core/eventlog"
	goodphrase "hevrin/core/passphrase"
	"hevrin/core/people"
	"hevrin/core/validation"
)

func logAudit(line people.AuditLine, err error) {
	slog.Error("the audit log could not be written", "what", line.What, "error", err)
}

// Entry is somebody on the roster: who they are, whether they chose a passphrase, until when their invitation is open.
type Entry struct {
	people.Person
	Account   bool
	PIN       bool
	InvitedTo time.Time // zero: no invitation is open
}

// Roster lists everybody, those who left last.
func (a *People) Roster(ctx context.Context) ([]Entry, error) {
	all, err := a.all(a.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	accounts, err := a.store.Accounts(ctx)
	if err != nil {
		return nil, err
	}
	open, err := a.store.Invited(ctx, a.Now().UTC())
	if err != nil {
		return nil, err
	}
	out := make([]Entry, len(all))
	for i, p := range all {
		out[i] = Entry{Person: p, InvitedTo: open[p.ID]}
		if at := slices.IndexFunc(accounts, func(x Account) bool { return x.PersonID == p.ID }); at >= 0 {
			out[i].Account, out[i].PIN = true, accounts[at].PIN != ""
		}
	}
	slices.SortStableFunc(out, func(x, y Entry) int {
		return map[bool]int{false: 0, true: 1}[x.Off] - map[bool]int{false: 0, true: 1}[y.Off]
	})
	return out, nil
}

// Ready says whether a manager can sign in: without one a yard cannot be run.
func (a *People) Ready(ctx context.Context) (bool, error) {
	list, err := a.Roster(ctx)
	return slices.ContainsFunc(list, func(e Entry) bool { return e.Account && e.Role == people.Manager && !e.Off }), err
}

// save writes what a person is, by whoever asks.
func (a *People) save(ctx context.Context, p people.Person, by string) error {
	e := a.NewEntry(record.Stamp{EntryID: uuid.NewString(), By: by}, PeopleSubject, eventlog.PersonSaved,
		eventlog.Body{Person: &p})
	return a.Save(ctx, e, func(_ record.Reader, before []eventlog.Entry) error {
		all := eventlog.People(before)
		if err := p.Check(all); err != nil {
			return err
		}
		if people.LastManager(all, p) {
			return &eventlog.Conflict{Say: "nobody else could lead the yard then: make somebody else a manager first"}
		}
		return nil
	})
}

// Begin makes the first manager, who chooses a passphrase at once. It is refused once a manager can sign in.
func (a *People) Begin(ctx context.Context, name, phrase string) (people.Person, error) {
	ready, err := a.Ready(ctx)
	if err != nil {
		return people.Person{}, err
	}
	if ready {
		return people.Person{}, &eventlog.Conflict{Say: "the yard has a manager already: sign in, and invite others " +
			"from there"}
	}
	if err := goodphrase.Check(name, phrase); err != nil {
		return people.Person{}, err
	}
	p := people.Person{ID: uuid.NewString(), Name: name, Role: people.Manager, Was: []string{name}}
	all, err := a.all(a.Store.Read(ctx))
	if err != nil {
		return p, err
	}
	for _, x := range all { // a set-up that broke off between the name and the passphrase
		if people.Same(x.Name, name) {
			p = x
			p.Role, p.Off = people.Manager, false
		}
	}
	if err := a.save(ctx, p, name); err != nil {
		return p, err
	}
	hash, err := a.hash(ctx, phrase)
	if err != nil {
		return p, err
	}
	err = a.store.SaveAccount(ctx, Account{PersonID: p.ID, Passphrase: hash, ChangedAt: a.Now().UTC()})
	if err == nil {
		a.Audit(ctx, people.AuditLine{What: people.SetUp, Person: p.ID})
	}
	return p, err
}

// Invite puts somebody on the roster, and gives what opens their invitation: it is told once and kept nowhere.
func (a *People) Invite(ctx context.Context, name string, role people.Role) (people.Person, string, error) {
	p := people.Person{ID: uuid.NewString(), Name: name, Role: role}
	actor, _ := record.ActorOf(ctx)
	if err := a.save(ctx, p, actor.Name); err != nil {
		return p, "", err
	}
	token, err := a.invite(ctx, p)
	return p, token, err
}

// InviteAgain gives somebody a new invitation, as when they forgot their passphrase; any other of theirs is void.
func (a *People) InviteAgain(ctx context.Context, person string) (people.Person, string, error) {
	p, err := a.person(ctx, person)
	if err != nil {
		return p, "", err
	}
	if p.Off {
		return p, "", &eventlog.Conflict{Say: p.Name + " works here no more: switch them on first"}
	}
	token, err := a.invite(ctx, p)
	return p, token, err
}

func (a *People) invite(ctx context.Context, p people.Person) (string, error) {
	token, now := newToken(), a.Now().UTC()
	err := a.store.Invite(ctx, Invitation{Token: hashOf(token), PersonID: p.ID, MadeAt: now,
		ExpiresAt: now.Add(people.InviteFor)})
	actor, _ := record.ActorOf(ctx)
	a.Audit(ctx, people.AuditLine{What: people.Invited, Person: actor.ID, Device: actor.Device, Of: p.ID, Say: p.Name})
	return token, err
}

// errNoInvitation says that a token opens nothing, whatever the reason.
var errNoInvitation = &eventlog.Conflict{Say: "this invitation is used up, too old, or replaced by a newer one: " +
	"ask the manager for " +
	"another"}

// Invitation tells whom a token invites.
func (a *People) Invitation(ctx context.Context, token string) (people.Person, error) {
	i, ok, err := a.store.Invitation(ctx, hashOf(token))
	if err != nil {
		return people.Person{}, err
	}
	if !ok || i.UsedAt != nil || !a.Now().Before(i.ExpiresAt) {
		return people.Person{}, errNoInvitation
	}
	p, err := a.person(ctx, i.PersonID)
	if errors.Is(err, record.ErrNotFound) || p.Off {
		return p, errNoInvitation
	}
	return p, err
}

// Accept takes an invitation: its person chooses a passphrase and is signed in on this device; all others of theirs are
// signed out. It can be done once.
func (a *People) Accept(ctx context.Context, token, phrase string, from From) (Device, error) {
	p, err := a.Invitation(ctx, token)
	if err != nil {
		if errors.Is(err, errNoInvitation) {
			a.refusals.refused(ctx, a, people.AuditLine{What: people.InviteRefused, Address: from.Address})
		}
		return Device{}, err
	}
	if err := goodphrase.Check(p.Name, phrase); err != nil {
		return Device{}, err
	}
	hash, err := a.hash(ctx, phrase)
	if err != nil {
		return Device{}, err
	}
	now := a.Now().UTC()
	if mine, err := a.store.UseInvitation(ctx, hashOf(token), now); err != nil || !mine {
		return Device{}, errors.Join(err, map[bool]error{true: nil, false: errNoInvitation}[mine || err != nil])
	}
	if err := a.store.SaveAccount(ctx, Account{PersonID: p.ID, Passphrase: hash, ChangedAt: now}); err != nil {
		return Device{}, err
	}
	if err := a.store.EndDevices(ctx, "", p.ID, "", now); err != nil {
		return Device{}, err
	}
	a.ended.tell()
	d, err := a.deviceFor(ctx, p, from, "")
	if err == nil {
		a.Audit(ctx, people.AuditLine{What: people.Accepted, Person: p.ID, Device: d.ID, Address: from.Address, Say: d.Label})
	}
	return d, err
}

// Change is what of a person is changed; nil: it stays.
type Change struct {
	Name *string
	Role *people.Role
	Off  *bool
	Was  *[]string
}

// ChangePerson changes a person's name, role, whether they work here, or which earlier names are theirs. Who is
// switched off is signed out everywhere.
func (a *People) ChangePerson(ctx context.Context, person string, to Change) error {
	p, err := a.person(ctx, person)
	if err != nil {
		return err
	}
	if to.Name != nil && *to.Name != p.Name {
		p.Was = append(slices.Clone(p.Was), p.Name) // what stands under it stays theirs
		p.Name = *to.Name
	}
	if to.Role != nil {
		p.Role = *to.Role
	}
	if to.Off != nil {
		p.Off = *to.Off
	}
	if to.Was != nil {
		p.Was = *to.Was
	}
	if len(p.Was) > mostWas {
		var wrong validation.Errors
		wrong.Add("was", len(p.Was), "40 at most", "tie fewer names to one person")
		return wrong
	}
	actor, _ := record.ActorOf(ctx)
	if err := a.save(ctx, p, actor.Name); err != nil {
		return err
	}
	if p.Off {
		if err := a.store.EndDevices(ctx, "", p.ID, "", a.Now().UTC()); err != nil {
			return err
		}
	}
	if p.Off || !p.Role.May(people.Hand) { // who may hand nothing out has nothing handed out
		n, err := a.store.EndLinks(ctx, append(slices.Clone(p.Was), p.Name), a.Now().UTC())
		if err != nil {
			return err
		}
		if n > 0 {
			a.Audit(ctx, people.AuditLine{What: people.LinkEnded, Person: actor.ID, Device: actor.Device, Of: p.ID,
				Say: fmt.Sprintf("%d that %s had made", n, p.Name)})
		}
	}
	a.ended.tell()
	a.Audit(ctx, people.AuditLine{What: people.PersonChanged, Person: actor.ID, Device: actor.Device, Of: p.ID,
		Say: p.Name + ", " + p.Role.Label() + map[bool]string{true: ", switched off", false: ""}[p.Off]})
	return nil
}

const mostWas = 40

// Reset gives a person a new passphrase from the machine itself, and signs all their devices out: for the manager who
// forgot theirs.
func (a *People) Reset(ctx context.Context, name, phrase string) error {
	all, err := a.all(a.Store.Read(ctx))
	if err != nil {
		return err
	}
	at := slices.IndexFunc(all, func(p people.Person) bool { return people.Same(p.Name, name) })
	if at < 0 {
		return record.NotFound("person", name)
	}
	if err := goodphrase.Check(name, phrase); err != nil {
		return err
	}
	hash, err := a.hash(ctx, phrase)
	if err != nil {
		return err
	}
	now := a.Now().UTC()
	if err := a.store.SaveAccount(ctx, Account{PersonID: all[at].ID, Passphrase: hash, ChangedAt: now}); err != nil {
		return err
	}
	err = a.store.EndDevices(ctx, "", all[at].ID, "", now)
	a.Audit(ctx, people.AuditLine{What: people.PassphraseChanged, Person: all[at].ID, Say: "on the machine itself"})
	return err
}

// Names lists names under which something stands in the record and that are nobody's: those of before anybody signed
// in.
func (a *People) Names(ctx context.Context) ([]string, error) {
	all, err := a.all(a.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	written, err := a.store.Writers(ctx)
	if err != nil {
		return nil, err
	}
	return slices.DeleteFunc(written, func(name string) bool {
		return name == nobody || slices.ContainsFunc(all, func(p people.Person) bool {
			return p.Name == name || slices.Contains(p.Was, name)
		})
	}), nil
}
