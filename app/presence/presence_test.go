package presence_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"hevrin/app/presence"
)

func names(list []presence.Seen) (out []string) {
	for _, s := range list {
		out = append(out, s.Name+" "+s.Check)
	}
	return out
}

func TestWhoElseIsAtAJob(t *testing.T) {
	now := time.Date(2026, 6, 1, 9, 0, 0, 0, time.UTC)
	p := presence.New(func() time.Time { return now })
	assert.Empty(t, p.Here("j", presence.Seen{Device: "1", Name: "Kit"}, false))
	assert.Equal(t, []string{"Kit "}, names(p.Here("j", presence.Seen{Device: "2", Name: "Wyn", Check: "strainer-look"}, false)))
	assert.Equal(t, []string{"Wyn strainer-look"}, names(p.Here("j", presence.Seen{Device: "1", Name: "Kit"}, false)))
	assert.Empty(t, p.Here("other", presence.Seen{Device: "1", Name: "Kit"}, false), "of that job alone")
	assert.Equal(t, []string{"Wyn strainer-look"}, names(p.Here("j", presence.Seen{Device: "3", Name: "Kit"}, false)),
		"her own other device is nobody else")
	// since when does not begin anew with every word
	now = now.Add(10 * time.Second)
	p.Here("j", presence.Seen{Device: "2", Name: "Wyn", Check: "strainer-look"}, false)
	now = now.Add(10 * time.Second)
	others := p.Here("j", presence.Seen{Device: "1", Name: "Kit"}, false)
	assert.Equal(t, 20*time.Second, now.Sub(others[0].Since))
	// who says that they go is gone, who says nothing a while later
	p.Here("j", presence.Seen{Device: "2", Name: "Wyn"}, true)
	assert.Empty(t, p.Here("j", presence.Seen{Device: "1", Name: "Kit"}, false))
	p.Here("j", presence.Seen{Device: "2", Name: "Wyn"}, false)
	now = now.Add(presence.StaysFor)
	assert.Len(t, p.Here("j", presence.Seen{Device: "1", Name: "Kit"}, false), 1)
	now = now.Add(time.Second)
	assert.Empty(t, p.Here("j", presence.Seen{Device: "1", Name: "Kit"}, false))
}

func TestPresenceIsBounded(t *testing.T) {
	p := presence.New(time.Now)
	for i := range 200 {
		p.Here("j", presence.Seen{Device: fmt.Sprint(i), Name: fmt.Sprint("N", i)}, false)
	}
	assert.LessOrEqual(t, len(p.Here("j", presence.Seen{Device: "x", Name: "X"}, false)), 50)
}

func TestWhoListensIsToldOfMovesAlone(t *testing.T) {
	p := presence.New(time.Now)
	p.Here("before", presence.Seen{Device: "1", Name: "Kit"}, false)
	begin := p.Since(-1)
	assert.Empty(t, begin.Jobs, "what was before is not news")
	kit := presence.Seen{Device: "1", Name: "Kit"}
	at := kit
	at.Check = "strainer-look"
	number := begin.Number
	for _, x := range []struct {
		does    func()
		jobs    []string
		because string
	}{
		{func() { p.Here("j", kit, false) }, []string{"j"}, "came"},
		{func() { p.Here("j", kit, false) }, nil, "says again that she is there"},
		{func() { p.Here("j", at, false) }, []string{"j"}, "turned to a check"},
		{func() { p.Here("k", kit, false); p.Here("j", kit, true) }, []string{"k", "j"}, "went over"},
		{func() { p.Here("j", kit, true) }, nil, "was gone already"},
	} {
		news := p.Since(number).News
		x.does()
		m := p.Since(number)
		assert.Equal(t, x.jobs, m.Jobs, x.because)
		select {
		case <-news:
			assert.NotEmpty(t, x.jobs, x.because)
		default:
			assert.Empty(t, x.jobs, x.because)
		}
		number = m.Number
	}
}
