package app_test

import (
	"context"
	"fmt"
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
)

// However many come at once, five wrong PINs are judged on a device and ten on all of a person's; the sixtieth is not
// let in though it is right.
func TestPINsAtOnceAreCounted(t *testing.T) {
	s, p, manager := yardOf(t)
	require.NoError(t, p.SetPIN(manager, phrase, "582941", desk))
	boss, _ := record.ActorOf(manager)
	var devices []string
	for range 3 {
		d, err := p.SignIn(s.ctx, "Tamsin Vane", phrase, desk, "")
		require.NoError(t, err)
		devices = append(devices, d.ID)
	}
	attack := func(device string) (judged int) {
		answers := make([]error, 60)
		var all sync.WaitGroup
		for i := range answers {
			all.Go(func() { answers[i] = p.Switch(s.ctx, device, boss.ID, fmt.Sprintf("%06d", 100*i+7), desk) })
		}
		all.Wait()
		for _, err := range answers {
			if assert.Error(t, err) && strings.Contains(err.Error(), "that is not the PIN") {
				judged++
			}
		}
		return judged
	}
	assert.Equal(t, core.MostPINGuesses, attack(devices[0]))
	assert.ErrorContains(t, p.Switch(s.ctx, devices[0], boss.ID, "582941", desk), "the passphrase once more")
	assert.Equal(t, core.MostPINGuessesOfAll-core.MostPINGuesses, attack(devices[1]))
	assert.Equal(t, 0, attack(devices[2]), "all devices together took as many")
	assert.ErrorContains(t, p.Switch(s.ctx, devices[2], boss.ID, "582941", desk), "the passphrase once more")

	_, err := p.SignIn(s.ctx, "Tamsin Vane", phrase, desk, devices[2])
	require.NoError(t, err)
	require.NoError(t, p.Switch(s.ctx, devices[2], boss.ID, "582941", desk), "the passphrase opens it again")
	assert.ErrorContains(t, p.Switch(s.ctx, devices[0], boss.ID, "582941", desk), "the passphrase once more",
		"and nowhere else")
}

// Passphrases that are tried at once are judged no oftener than one after the other.
func TestGuessesAtOnceAreCounted(t *testing.T) {
	s, p, _ := yardOf(t)
	var all sync.WaitGroup
	answers := make([]error, 60)
	for i := range answers {
		all.Go(func() {
			_, answers[i] = p.SignIn(s.ctx, "Tamsin Vane", "not the passphrase", people.From{Address: "10.0.0.9"}, "")
		})
	}
	all.Wait()
	judged := 0
	for _, err := range answers {
		var wait *people.Wait
		if !asWait(err, &wait) {
			judged++
		}
	}
	assert.LessOrEqual(t, judged, 4, "three are free, the next one is waited for")
	assert.Positive(t, judged)
}

// However much strangers try, the audit log grows by a few lines, which tell how much it was.
func TestStrangersDoNotFillTheAuditLog(t *testing.T) {
	s, p, _ := yardOf(t)
	before := strings.Count(audited(t, s, p), "refused")
	try := func(n int) {
		for i := range n {
			_, err := p.SignIn(s.ctx, fmt.Sprint("Nobody ", i), "wrong", people.From{Address: fmt.Sprintf("10.9.%d.%d",
				i/250, i%250)}, "")
			require.Error(t, err)
			_, err = p.Accept(s.ctx, "no such invitation", phrase2, people.From{Address: "10.9.0.1"})
			require.Error(t, err)
		}
	}
	try(500)
	list, err := s.Store.Read(s.ctx).Entries(people.AuditSubject)
	require.NoError(t, err)
	assert.LessOrEqual(t, strings.Count(fmt.Sprint(kindsOf(list)), "refused")-before, 2, "the first of each kind")
	s.now = s.now.Add(2 * time.Minute)
	shown, err := p.Audited(s.ctx, 10)
	require.NoError(t, err)
	said := ""
	for _, e := range shown {
		said += e.Body.Audit.Say + "\n"
	}
	assert.Contains(t, said, "499 more since", "who looks is told all of it")
	assert.Contains(t, said, "499 addresses, 499 names")
	for range 7 * 24 { // a week of it, all day and night
		try(3)
		s.now = s.now.Add(time.Hour)
	}
	list, err = s.Store.Read(s.ctx).Entries(people.AuditSubject)
	require.NoError(t, err)
	assert.Less(t, strings.Count(fmt.Sprint(kindsOf(list)), "refused"), 2*(7*4+8))
	s.now = s.now.Add(48 * time.Hour)
	try(1)
	assert.Contains(t, strings.SplitN(audited(t, s, p), " ", 3)[0], "refused", "after a quiet day it is told at once")
}

func kindsOf(entries []eventlog.Entry) (out []string) {
	for _, e := range entries {
		out = append(out, e.Body.Audit.What)
	}
	return out
}

// A name of which nothing is seen is nobody's and nothing's.
func TestNamesAreSeen(t *testing.T) {
	s, p, manager := yardOf(t)
	for _, name := range []string{"\u200b", "Kit\nVenn", "\u202eneV tiK"} {
		_, _, err := p.Invite(manager, name, core.Technician)
		assert.ErrorContains(t, err, "nobody sees", "%q", name)
		_, err = s.Engines.SaveCraft(manager, "c"+name, record.Stamp{EntryID: "e" + name, By: "U"}, eventlog.CraftFacts{Name: name})
		assert.ErrorContains(t, err, "nobody sees", "%q", name)
		_, err = s.Engines.SaveCraft(manager, "c"+name, record.Stamp{EntryID: "e" + name, By: name}, eventlog.CraftFacts{Name: "Wisp"})
		assert.ErrorContains(t, err, "nobody sees", "%q", name)
	}
}

// An owner's link ends with the right of who made it; those of others stand, and all that stand are in one list.
func TestLinksEndWithTheirMaker(t *testing.T) {
	s, p, manager := yardOf(t)
	kit := join(t, s, p, manager, "Kit Venn", core.Technician)
	me, _ := record.ActorOf(kit)
	_, engine := s.engine(eventlog.Dates{})
	link := func(by context.Context) string {
		token, err := p.MakeLink(by, people.Linked{EngineID: engine}, 30)
		require.NoError(t, err)
		return token
	}
	his, hers := link(kit), link(manager)
	standing := func(want int) {
		list, err := p.StandingLinks(manager)
		require.NoError(t, err)
		assert.Len(t, list, want)
	}
	standing(2)
	name, office, assistant := "Kit Marrow", core.Office, core.Assistant
	require.NoError(t, p.ChangePerson(manager, me.ID, people.Change{Name: &name, Role: &office}))
	standing(2)
	require.NoError(t, p.ChangePerson(manager, me.ID, people.Change{Role: &assistant}))
	standing(1)
	_, err := p.OpenLink(s.ctx, his, true)
	assert.ErrorContains(t, err, "ended")
	_, err = p.OpenLink(s.ctx, hers, true)
	require.NoError(t, err)
	assert.Contains(t, audited(t, s, p), core.LinkEnded)
}
