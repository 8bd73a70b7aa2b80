package app_test

import (
	"context"
	"fmt"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/people"
	"hevrin/app/record"
	"hevrin/core/eventlog"
	core "hevrin/core/people"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/store"
)

const (
	phrase  = "kettle moss ladder orange"
	phrase2 = "brass tide lantern almond"
)

var desk = people.From{Address: "10.0.0.5", Label: "Browser on a desk"}

// yardOf is a shop with a manager who is signed in, and the ways in.
func yardOf(t *testing.T) (s *shop, p *people.People, manager context.Context) {
	s = newShop(t)
	p = people.NewQuick(s.Log, s.kept)
	_, err := p.Begin(s.ctx, "Tamsin Vane", phrase)
	require.NoError(t, err)
	return s, p, as(t, s, p, "Tamsin Vane", phrase)
}

// as signs somebody in, and gives the context in which they ask.
func as(t *testing.T, s *shop, p *people.People, name, phrase string) context.Context {
	d, err := p.SignIn(s.ctx, name, phrase, desk, "")
	require.NoError(t, err)
	a, err := p.Actor(s.ctx, d.ID, desk.Address)
	require.NoError(t, err)
	return record.WithActor(s.ctx, a)
}

// join invites somebody, who accepts.
func join(t *testing.T, s *shop, p *people.People, manager context.Context, name string, role core.Role) context.Context {
	_, token, err := p.Invite(manager, name, role)
	require.NoError(t, err)
	d, err := p.Accept(s.ctx, token, phrase2, desk)
	require.NoError(t, err)
	a, err := p.Actor(s.ctx, d.ID, desk.Address)
	require.NoError(t, err)
	return record.WithActor(s.ctx, a)
}

func deviceOf(ctx context.Context) string { a, _ := record.ActorOf(ctx); return a.Device }

func audited(t *testing.T, s *shop, p *people.People) string {
	list, err := p.Audited(s.ctx, 1000)
	require.NoError(t, err)
	var out []string
	for _, e := range list {
		out = append(out, e.Body.Audit.What)
	}
	return strings.Join(out, " ")
}

func TestAYardBeginsWithAManagerWhoInvitesOthers(t *testing.T) {
	s, p, manager := yardOf(t)
	ready, err := p.Ready(s.ctx)
	require.NoError(t, err)
	assert.True(t, ready)
	_, err = p.Begin(s.ctx, "Somebody else", phrase)
	assert.ErrorContains(t, err, "has a manager already")

	kit, token, err := p.Invite(manager, "Kit Venn", core.Technician)
	require.NoError(t, err)
	_, _, err = p.Invite(manager, "kit  venn", core.Office)
	assert.ErrorContains(t, err, "somebody else's name already")
	who, err := p.Invitation(s.ctx, token)
	require.NoError(t, err)
	assert.Equal(t, kit, who)
	_, err = p.Accept(s.ctx, token, "too short", desk)
	assert.ErrorContains(t, err, "take 12 letters or more")
	d, err := p.Accept(s.ctx, token, phrase2, desk)
	require.NoError(t, err, "a bad passphrase does not use the invitation up")
	assert.Equal(t, kit.ID, d.PersonID)
	_, err = p.Accept(s.ctx, token, phrase2, desk)
	assert.ErrorContains(t, err, "used up", "replayed")
	_, err = p.Invitation(s.ctx, token)
	assert.ErrorContains(t, err, "used up")

	list, err := p.Roster(s.ctx)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.True(t, list[1].Account)
	assert.Contains(t, audited(t, s, p), "accepted invited signed-in set-up")
}

func TestAnInvitationEnds(t *testing.T) {
	s, p, manager := yardOf(t)
	kit, first, err := p.Invite(manager, "Kit Venn", core.Technician)
	require.NoError(t, err)
	_, second, err := p.InviteAgain(manager, kit.ID)
	require.NoError(t, err)
	_, err = p.Invitation(s.ctx, first)
	assert.Error(t, err, "a newer one takes its place")
	s.now = s.now.Add(core.InviteFor - time.Second)
	_, err = p.Invitation(s.ctx, second)
	require.NoError(t, err)
	s.now = s.now.Add(time.Second)
	_, err = p.Accept(s.ctx, second, phrase2, desk)
	assert.ErrorContains(t, err, "too old")
	_, err = p.Invitation(s.ctx, "guessed")
	assert.Error(t, err)

	// of those who take one at once one has it
	_, third, err := p.InviteAgain(manager, kit.ID)
	require.NoError(t, err)
	var all sync.WaitGroup
	var mu sync.Mutex
	taken := 0
	for i := range 8 {
		all.Go(func() {
			_, err := p.Accept(s.ctx, third, fmt.Sprint(phrase2, i), desk)
			mu.Lock()
			defer mu.Unlock()
			if err == nil {
				taken++
			}
		})
	}
	all.Wait()
	assert.Equal(t, 1, taken)

	// a new invitation is the way back for who forgot: the devices of before are signed out
	device := as(t, s, p, "Tamsin Vane", phrase)
	_, err = p.Actor(s.ctx, deviceOf(device), "")
	require.NoError(t, err)
}

func TestSigningIn(t *testing.T) {
	s, p, manager := yardOf(t)
	for _, c := range []struct{ name, phrase string }{{"Tamsin Vane", "wrong"}, {"Nobody", phrase}, {"", ""},
		{"Tamsin Vane", strings.Repeat("x", 10_000)}} {
		_, err := p.SignIn(s.ctx, c.name, c.phrase, people.From{Address: c.name + "1.2.3.4"}, "")
		assert.EqualError(t, err, "name and passphrase do not belong together: look at both, then try again", "%q", c.name)
	}
	d, err := p.SignIn(s.ctx, " tamsin VANE", phrase, desk, "")
	require.NoError(t, err)
	a, err := p.Actor(s.ctx, d.ID, desk.Address)
	require.NoError(t, err)
	assert.Equal(t, core.Manager, a.Role)
	assert.Equal(t, "Tamsin Vane", a.Name)

	// idle over a working day, and a month of use
	s.now = s.now.Add(core.IdleFor)
	_, err = p.Actor(s.ctx, d.ID, desk.Address)
	require.NoError(t, err)
	s.now = s.now.Add(core.IdleFor + time.Second)
	_, err = p.Actor(s.ctx, d.ID, desk.Address)
	assert.ErrorIs(t, err, people.ErrSignedOut)
	d, err = p.SignIn(s.ctx, "Tamsin Vane", phrase, desk, "")
	require.NoError(t, err)
	for range int(core.LastsFor/core.IdleFor) + 1 {
		_, _ = p.Actor(s.ctx, d.ID, desk.Address) // it is used all the while
		s.now = s.now.Add(core.IdleFor)
	}
	_, err = p.Actor(s.ctx, d.ID, desk.Address)
	assert.ErrorIs(t, err, people.ErrSignedOut)
	_, err = p.Actor(s.ctx, "made up", desk.Address)
	assert.ErrorIs(t, err, people.ErrSignedOut)

	// what a page asks by itself is no use of it: a desk that lies open is idle
	d, err = p.SignIn(s.ctx, "Tamsin Vane", phrase, desk, "")
	require.NoError(t, err)
	for range 15 {
		s.now = s.now.Add(time.Hour)
		_, err = p.Look(s.ctx, d.ID, desk.Address)
	}
	assert.ErrorIs(t, err, people.ErrSignedOut)

	// signed out: at once
	phone, err := p.SignIn(s.ctx, "Tamsin Vane", phrase, desk, "")
	require.NoError(t, err)
	news := p.Changed()
	require.NoError(t, p.EndDevice(manager, phone.ID))
	select {
	case <-news:
	default:
		t.Error("whoever holds a stream is not told")
	}
	_, err = p.Actor(s.ctx, phone.ID, desk.Address)
	assert.ErrorIs(t, err, people.ErrSignedOut)
	require.NoError(t, s.kept.SaveDevice(s.ctx, phone))
	_, err = p.Actor(s.ctx, phone.ID, desk.Address)
	assert.ErrorIs(t, err, people.ErrSignedOut, "one who was touching it at that moment does not bring it back")
	assert.NotContains(t, audited(t, s, p), phrase)
}

// Ten thousand tries: all but a handful are not even looked at, and nobody else waits for them.
func TestGuessingWaitsAndLocksNobodyOut(t *testing.T) {
	s, p, _ := yardOf(t)
	looked, thief := 0, people.From{Address: "10.0.0.66"}
	for range 10_000 {
		_, err := p.SignIn(s.ctx, "Tamsin Vane", "guess", thief, "")
		var wait *people.Wait
		if !assert.Error(t, err) {
			return
		}
		if !assert.ObjectsAreEqual(true, asWait(err, &wait)) {
			looked++
		}
		s.now = s.now.Add(100 * time.Millisecond) // ten a second, for a quarter of an hour
	}
	assert.Less(t, looked, 20)
	_, err := p.SignIn(s.ctx, "Tamsin Vane", phrase, thief, "")
	assert.ErrorContains(t, err, "too many wrong tries", "not even the right one, from there")
	_, err = p.SignIn(s.ctx, "Tamsin Vane", phrase, desk, "")
	assert.NoError(t, err, "she herself, from her own device")
	// names guessed one after the other from one address
	looked = 0
	for i := range 1000 {
		_, err := p.SignIn(s.ctx, fmt.Sprint("Name ", i), "guess", people.From{Address: "fd00::1"}, "")
		var wait *people.Wait
		if !asWait(err, &wait) {
			looked++
		}
	}
	assert.LessOrEqual(t, looked, 21)
	_, err = p.SignIn(s.ctx, "Name", "guess", people.From{Address: "fd00::ffff"}, "")
	assert.ErrorContains(t, err, "too many", "the same net")
	_, err = p.SignIn(s.ctx, "Name", "guess", people.From{Address: "fd00:0:0:1::1"}, "")
	assert.ErrorContains(t, err, "do not belong together")
}

func asWait(err error, to **people.Wait) bool {
	w, ok := err.(*people.Wait) //nolint:errorlint // it comes bare
	*to = w
	return ok
}

func TestASharedTabletChangesHandsByPIN(t *testing.T) {
	s, p, manager := yardOf(t)
	kit := join(t, s, p, manager, "Kit Venn", core.Technician)
	require.NoError(t, p.SetPIN(kit, phrase2, "483920", desk))
	assert.ErrorContains(t, p.SetPIN(kit, phrase2, "111111", desk), "neither the same")
	assert.ErrorContains(t, p.SetPIN(kit, "not mine", "483920", desk), "not your passphrase")
	tablet, err := p.SignIn(s.ctx, "Tamsin Vane", phrase, desk, "")
	require.NoError(t, err)
	me, _ := record.ActorOf(kit)
	assert.ErrorContains(t, p.Switch(s.ctx, tablet.ID, me.ID, "483920", desk), "the passphrase once more",
		"a PIN opens only a device on which the passphrase was given")
	again, err := p.SignIn(s.ctx, "Kit Venn", phrase2, desk, tablet.ID)
	require.NoError(t, err)
	assert.Equal(t, tablet.ID, again.ID)
	tiles, err := p.Tiles(s.ctx, tablet.ID)
	require.NoError(t, err)
	require.Len(t, tiles, 2)
	for _, tile := range tiles {
		assert.Equal(t, tile.People.Name == "Kit Venn", tile.PIN, tile.People.Name)
	}

	boss, _ := record.ActorOf(manager)
	require.NoError(t, p.SetPIN(manager, phrase, "582941", desk))
	require.NoError(t, p.Switch(s.ctx, tablet.ID, boss.ID, "582941", desk))
	a, err := p.Actor(s.ctx, tablet.ID, desk.Address)
	require.NoError(t, err)
	assert.Equal(t, "Tamsin Vane", a.Name)
	for i := range core.MostPINGuesses {
		assert.ErrorContains(t, p.Switch(s.ctx, tablet.ID, me.ID, "000001", desk), fmt.Sprintf("%d more", 4-i))
	}
	assert.ErrorContains(t, p.Switch(s.ctx, tablet.ID, me.ID, "483920", desk), "the passphrase once more")
	_, err = p.SignIn(s.ctx, "Kit Venn", phrase2, desk, tablet.ID)
	require.NoError(t, err)
	require.NoError(t, p.Switch(s.ctx, tablet.ID, me.ID, "483920", desk))
	for range 30 { // used all the while, but the passphrase was given long ago
		s.now = s.now.Add(12 * time.Hour)
		_, _ = p.Actor(s.ctx, tablet.ID, desk.Address)
	}
	assert.ErrorContains(t, p.Switch(s.ctx, tablet.ID, boss.ID, "582941", desk), "the passphrase once more")
}

func TestWhoIsSwitchedOffIsOutAndStaysOnRecord(t *testing.T) {
	s, p, manager := yardOf(t)
	kit := join(t, s, p, manager, "Kit Venn", core.Technician)
	me, _ := record.ActorOf(kit)
	boss, _ := record.ActorOf(manager)
	off, office, name := true, core.Office, "Kit Marrow"
	assert.ErrorContains(t, p.ChangePerson(manager, boss.ID, people.Change{Role: &office}), "nobody else could lead")
	require.NoError(t, p.ChangePerson(manager, me.ID, people.Change{Name: &name, Role: &office}))
	a, err := p.Actor(s.ctx, me.Device, desk.Address)
	require.NoError(t, err)
	assert.Equal(t, core.Office, a.Role, "at once")
	assert.Equal(t, []string{"Kit Venn"}, a.Names)
	require.NoError(t, p.ChangePerson(manager, me.ID, people.Change{Off: &off}))
	_, err = p.Actor(s.ctx, me.Device, desk.Address)
	assert.ErrorIs(t, err, people.ErrSignedOut)
	_, err = p.SignIn(s.ctx, name, phrase2, people.From{Address: "9"}, "")
	assert.ErrorContains(t, err, "do not belong together")
	_, _, err = p.InviteAgain(manager, me.ID)
	assert.ErrorContains(t, err, "works here no more")
	list, err := p.Roster(s.ctx)
	require.NoError(t, err)
	assert.Len(t, list, 2)
	_, err = s.Undo(manager, lastEntry(t, s, people.PeopleSubject), stamp())
	assert.ErrorContains(t, err, "nothing of them is taken back")
	_, err = s.Undo(manager, lastEntry(t, s, people.AuditSubject), stamp())
	assert.ErrorContains(t, err, "stays as it is")
}

func lastEntry(t *testing.T, s *shop, of eventlog.Subject) string {
	list, err := s.Store.Read(s.ctx).Entries(of)
	require.NoError(t, err)
	return list[len(list)-1].ID
}

func TestAChangedPassphraseSignsTheOthersOut(t *testing.T) {
	s, p, manager := yardOf(t)
	other := as(t, s, p, "Tamsin Vane", phrase)
	assert.ErrorContains(t, p.ChangePassphrase(manager, "not mine", phrase2, desk), "not your passphrase")
	require.NoError(t, p.ChangePassphrase(manager, phrase, phrase2, desk))
	_, err := p.Actor(s.ctx, deviceOf(other), desk.Address)
	assert.ErrorIs(t, err, people.ErrSignedOut)
	_, err = p.Actor(s.ctx, deviceOf(manager), desk.Address)
	assert.NoError(t, err)
	require.NoError(t, p.Reset(s.ctx, "tamsin vane", "ladder kettle tide brass"))
	_, err = p.Actor(s.ctx, deviceOf(manager), desk.Address)
	assert.ErrorIs(t, err, people.ErrSignedOut)
	as(t, s, p, "Tamsin Vane", "ladder kettle tide brass")
}

func TestADeviceIsItsPersonsOwn(t *testing.T) {
	s, p, manager := yardOf(t)
	kit := join(t, s, p, manager, "Kit Venn", core.Technician)
	wyn := join(t, s, p, manager, "Wyn Abery", core.Assistant)
	mine, err := p.Devices(kit)
	require.NoError(t, err)
	assert.Len(t, mine, 1)
	all, err := p.Devices(manager)
	require.NoError(t, err)
	assert.Len(t, all, 3)
	assert.ErrorIs(t, p.EndDevice(kit, deviceOf(wyn)), record.ErrNotFound)
	a, _ := record.ActorOf(wyn)
	assert.ErrorIs(t, p.EndAll(kit, a.ID), record.ErrNotFound)
	require.NoError(t, p.EndAll(manager, a.ID))
	_, err = p.Actor(s.ctx, deviceOf(wyn), "")
	assert.ErrorIs(t, err, people.ErrSignedOut)
	_, err = p.Actor(s.ctx, deviceOf(kit), "")
	assert.NoError(t, err)
}

// An assistant works, but signs no run, passes nothing over, and takes back what is their own alone.
func TestAnAssistantDoesNotSign(t *testing.T) {
	s, p, manager := yardOf(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	wyn := join(t, s, p, manager, "Wyn Abery", core.Assistant)
	st := func(by string) record.Stamp { x := stamp(); x.By = by; return x }
	note := func(ctx context.Context, by string, kind eventlog.Kind, b eventlog.Body) (string, error) {
		x := st(by)
		_, err := s.NoteInJob(ctx, job, kind, x, b)
		return x.EntryID, err
	}
	own, err := note(wyn, "Wyn Abery", eventlog.Noted, eventlog.Body{Words: "hot hands"})
	require.NoError(t, err)
	others, err := note(manager, "Tamsin Vane", eventlog.Noted, eventlog.Body{Words: "look again"})
	require.NoError(t, err)
	yes := true
	for _, b := range []struct {
		kind eventlog.Kind
		body eventlog.Body
	}{
		{eventlog.TeardownNoted, eventlog.Body{Teardown: &teardown.Act{Do: teardown.Override, Item: "seacock", Words: "x"}}},
		{eventlog.Proved, eventlog.Body{Proving: &proving.Act{Do: proving.Sign, Run: "r"}}},
		{eventlog.Closed, eventlog.Body{Explains: &yes, Words: "x", Despite: "in a hurry"}},
	} {
		_, err := note(wyn, "Wyn Abery", b.kind, b.body)
		var forbidden *record.Forbidden
		assert.ErrorAs(t, err, &forbidden)
		_, err = note(manager, "Tamsin Vane", b.kind, b.body)
		assert.NotErrorAs(t, err, &forbidden)
	}
	_, err = s.Undo(wyn, others, st("Wyn Abery"))
	assert.ErrorContains(t, err, "somebody else noted this")
	_, err = s.Undo(wyn, own, st("Wyn Abery"))
	assert.NoError(t, err)
	_, err = s.Undo(manager, others, st("Tamsin Vane"))
	assert.NoError(t, err)
}

// A backup that is gone back to signs nobody in who was signed out since.
func TestGoingBackToABackupSignsEverybodyOut(t *testing.T) {
	s, p, manager := yardOf(t)
	file, folder := filepath.Join(t.TempDir(), "b.db"), t.TempDir()
	_, err := s.kept.Backup(s.ctx, file)
	require.NoError(t, err)
	_, _, err = store.Restore(s.ctx, file, folder, false)
	require.NoError(t, err)
	back, err := store.Open(s.ctx, folder)
	require.NoError(t, err)
	defer func() { assert.NoError(t, back.Close()) }()
	again := people.NewQuick(record.NewLog(s.Catalogue, back, func() time.Time { return s.now }), back)
	_, err = again.Actor(s.ctx, deviceOf(manager), "")
	assert.ErrorIs(t, err, people.ErrSignedOut)
	_, err = again.SignIn(s.ctx, "Tamsin Vane", phrase, desk, "")
	assert.NoError(t, err, "the passphrase stays")
	_ = p
}
