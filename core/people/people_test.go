package people_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"hevrin/core/people"
)

// The table of rights, written out once more: whoever changes it means to.
func TestWhoMayDoWhat(t *testing.T) {
	rights := map[people.Right]string{ // manager, technician, assistant, office
		people.Read: "mtao", people.Work: "mta", people.Plan: "mtao", people.Facts: "mtao", people.Stock: "mtao",
		people.Hand: "mto", people.Sign: "mt", people.Correct: "mt", people.Methods: "mt", people.Keep: "m", people.Lead: "m",
	}
	for _, d := range people.Roles {
		for right, who := range rights {
			assert.Equal(t, strings.Contains(who, string(d.Role[0])), d.Role.May(right), "%s: %s", d.Role, right)
		}
		assert.Len(t, d.Role.Rights(), len(d.Rights))
		assert.NotEmpty(t, d.Label)
		assert.NotEmpty(t, d.Does)
	}
	assert.False(t, people.Role("owner").May(people.Read))
	assert.Equal(t, "owner", people.Role("owner").Label())
}

func TestPINs(t *testing.T) {
	for pin, good := range map[string]bool{"483920": true, "112233": true, "000000": false, "123456": false, "654321": false,
		"12345": false, "1234567": false, "12a456": false, "": false, "135791": true} {
		assert.Equal(t, good, people.CheckPIN(pin) == nil, pin)
	}
}

func TestWrongGuessesWait(t *testing.T) {
	for _, c := range []struct {
		name, address int
		wait          time.Duration
	}{
		{0, 0, 0}, {3, 3, 0}, {4, 4, time.Second}, {5, 5, 2 * time.Second}, {10, 10, 64 * time.Second},
		{13, 13, 512 * time.Second}, {14, 14, 15 * time.Minute}, {1000, 1000, 15 * time.Minute},
		{0, 20, 0}, {0, 21, time.Second}, {1, 23, 4 * time.Second}, {0, 1000, 15 * time.Minute}, {-1, -1, 0},
	} {
		assert.Equal(t, c.wait, people.WaitAfter(c.name, c.address), "%+v", c)
	}
	// ten thousand tries of one name from one address take over three months
	total := time.Duration(0)
	for n := range 10_000 {
		total += people.WaitAfter(n, n)
	}
	assert.Greater(t, total, 90*24*time.Hour)
}

func TestAPersonsFacts(t *testing.T) {
	others := []people.Person{{ID: "1", Name: "Tamsin Vane", Role: people.Manager}, {ID: "2", Name: "Kit", Role: people.Office}}
	assert.NoError(t, people.Person{ID: "3", Name: "Wyn", Role: people.Technician}.Check(others))
	assert.NoError(t, people.Person{ID: "2", Name: "Kit", Role: people.Manager}.Check(others))
	assert.ErrorContains(t, people.Person{ID: "3", Name: "tamsin  VANE", Role: people.Office}.Check(others), "somebody else's")
	assert.ErrorContains(t, people.Person{ID: "3", Name: " ", Role: people.Office}.Check(others), "give the name")
	assert.ErrorContains(t, people.Person{ID: "3", Name: strings.Repeat("a", 81), Role: people.Office}.Check(nil), "give the name")
	assert.ErrorContains(t, people.Person{ID: "3", Name: "Wyn", Role: "owner"}.Check(others), "what they do")
}

func TestAYardKeepsAManager(t *testing.T) {
	all := []people.Person{{ID: "1", Role: people.Manager}, {ID: "2", Role: people.Manager, Off: true},
		{ID: "3", Role: people.Technician}}
	assert.True(t, people.LastManager(all, people.Person{ID: "1", Role: people.Technician}))
	assert.True(t, people.LastManager(all, people.Person{ID: "1", Role: people.Manager, Off: true}))
	assert.False(t, people.LastManager(all, people.Person{ID: "1", Role: people.Manager}))
	assert.False(t, people.LastManager(all, people.Person{ID: "3", Role: people.Office}))
	assert.False(t, people.LastManager(all, people.Person{ID: "2", Role: people.Manager, Off: true}))
	all[2].Role = people.Manager
	assert.False(t, people.LastManager(all, people.Person{ID: "1", Role: people.Office}))
}

func TestWhoseAccountALineIsAbout(t *testing.T) {
	line := func(what string) people.AuditLine { return people.AuditLine{What: what, Person: "boss", Of: "kit"} }
	for what, whose := range map[string]string{people.SignedIn: "boss", people.PassphraseChanged: "boss",
		people.PINChanged: "boss", people.Accepted: "boss", people.Invited: "kit", people.PersonChanged: "kit",
		people.PINRefused: "kit", people.Exported: "", people.Denied: "", people.SignInRefused: ""} {
		person, say, ok := people.AccountNews(line(what))
		assert.Equal(t, whose, person, what)
		assert.Equal(t, whose != "", ok, what)
		assert.Equal(t, whose != "", say != "", what)
	}
	_, _, ok := people.AccountNews(people.AuditLine{What: people.SignedIn})
	assert.False(t, ok, "nobody is known")
}
