package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app/maintenance"
	"hevrin/core/eventlog"
	"hevrin/core/plant"
	"hevrin/core/proving"
)

// After a run was begun the rounds since tell how the engine is; those before tell how it was.
func TestRoundsSinceTheRunTellHowTheEngineIs(t *testing.T) {
	s := newShop(t)
	t.Cleanup(s.Close)
	_, _, id, _ := twins(t, s)
	scaled := plant.Well()
	scaled.UA = 0.4
	ua := func(p *jobPage) float64 {
		require.NotNil(t, p.Health)
		for _, f := range p.Health.Figures {
			if f.ID == "ua" {
				return f.Value
			}
		}
		t.Fatal("no figure of the exchanger")
		return 0
	}
	s.note(id, eventlog.RoundTaken, readAt(t, 2000, scaled, nil))
	assert.InDelta(t, 0.4, ua(s.note(id, eventlog.RoundTaken, readAt(t, 2800, scaled, nil))), 0.1)
	begin := proving.Act{Do: proving.Begin, Run: "run", Where: proving.Afloat}
	assert.InDelta(t, 0.4, ua(s.note(id, eventlog.Proved, eventlog.Body{Proving: &begin})), 0.1, "nothing read since")
	after := s.note(id, eventlog.RoundTaken, readAt(t, 2800, plant.Well(), nil))
	assert.InDelta(t, 1, ua(after), 0.1)
}

// The approach of the exchanger goes into the service history from the hardest round, not from an idle one.
func TestTheApproachIsThatOfTheHardestRound(t *testing.T) {
	s := newShop(t)
	t.Cleanup(s.Close)
	_, _, id, _ := twins(t, s)
	scaled := plant.Well()
	scaled.UA = 0.5
	approach := func(rounds ...eventlog.Body) float64 {
		var page *jobPage
		for _, r := range rounds {
			page = s.note(id, eventlog.RoundTaken, r)
		}
		var entries []eventlog.Entry
		for _, l := range page.Log {
			entries = append(entries, l.Entry)
		}
		for _, l := range s.ServiceLinesOf(page.Job, entries, page.Engine) {
			if l.Kind == maintenance.ServiceMeasure && l.Item == "approach" {
				return l.Value
			}
		}
		t.Fatal("no approach")
		return 0
	}
	hard := approach(readAt(t, 2900, scaled, nil))
	assert.Greater(t, hard, 5.0)
	assert.InDelta(t, hard, approach(readAt(t, 1200, scaled, nil), readAt(t, 2000, scaled, nil)), 1e-9)
}

// An entry that is sent again under another name, or with other words, is another entry: its id is refused.
func TestAnEntryIsItsAuthorsOwn(t *testing.T) {
	s := newShop(t)
	t.Cleanup(s.Close)
	_, _, id, _ := twins(t, s)
	mine := stamp()
	body := eventlog.Body{Words: "dry at the cover"}
	_, err := s.NoteInJob(s.ctx, id, eventlog.Noted, mine, body)
	require.NoError(t, err)
	_, err = s.NoteInJob(s.ctx, id, eventlog.Noted, mine, body)
	require.NoError(t, err, "sent twice, saved once")
	theirs := mine
	theirs.By = "Somebody else"
	_, err = s.NoteInJob(s.ctx, id, eventlog.Noted, theirs, body)
	require.ErrorContains(t, err, "used before")
	_, err = s.NoteInJob(s.ctx, id, eventlog.Noted, mine, eventlog.Body{Words: "wet at the cover"})
	require.ErrorContains(t, err, "used before")
	_, err = s.NoteInJob(s.ctx, id, eventlog.Strategy, mine, eventlog.Body{Strategy: "likeliest"})
	require.ErrorContains(t, err, "used before")
	page, err := s.Job(s.ctx, id)
	require.NoError(t, err)
	assert.Len(t, page.Job.Notes, 1)
}
