package app_test

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/app"
	"hevrin/app/record"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/hindsight"
	"hevrin/core/proving"
	"hevrin/store"
)

// A closed job is looked back on look by look: where its cause stood, what was offered, what it took; and as it was
// judged then it is kept.
func TestAClosedJobIsLookedBackOn(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	look := func(check string, minutes float64, state, finding string) {
		s.note(job, eventlog.Checked, eventlog.Body{Check: check, Outcome: eventlog.Done, Minutes: &minutes,
			Stated: says(state, finding).Stated})
	}
	s.note(job, eventlog.Found, says(eventlog.Present, "weak-water-at-outlet"))
	look("strainer-look", 8, eventlog.Absent, "debris-in-strainer")
	skipped := eventlog.Body{Check: "oil-look", Outcome: eventlog.Skipped}
	s.note(job, eventlog.Checked, skipped)
	look("impeller-look", 40, eventlog.Present, "blades-missing")
	page, err := s.Hindsight.Page(s.ctx)
	require.NoError(t, err)
	assert.Zero(t, page.Jobs, "it is open")
	s.note(job, eventlog.Proved, eventlog.Body{Proving: &proving.Act{Do: proving.Begin, Run: "r", Where: "afloat"}})
	look("strainer-look", 30, eventlog.Absent, "strainer-lid-draws-air")
	s.note(job, eventlog.Closed, despite("impeller-vanes-missing"))

	kept, err := s.kept.Hindsight(s.ctx)
	require.NoError(t, err)
	require.Len(t, kept, 1, "it is kept as it is closed")
	page, err = s.Hindsight.Page(s.ctx)
	require.NoError(t, err)
	require.Len(t, page.List, 1)
	back := page.List[0]
	assert.Equal(t, job, back.ID)
	assert.Equal(t, s.Catalogue.Version, back.Catalogue)
	assert.Positive(t, back.Complaint.Place)
	require.Len(t, back.Looks, 2, "neither what was passed over, nor what was looked at once the proof had begun")
	assert.Equal(t, "strainer-look", back.Looks[0].Check)
	assert.Positive(t, back.Looks[0].Offered)
	assert.InDelta(t, 8, back.Looks[0].Took, 1e-12)
	assert.Greater(t, back.Looks[0].After.Probability, back.Complaint.Probability, "a clean strainer speaks for the impeller")
	impeller := back.Looks[1]
	assert.Equal(t, "pump-cover-off", impeller.Opened)
	k, _ := s.Catalogue.Check("impeller-look")
	x, _ := s.Catalogue.AccessTo("pump-cover-off")
	assert.InDelta(t, k.Minutes+x.Minutes, impeller.Forecast, 1e-12)
	assert.Equal(t, hindsight.Ranking{Place: 1, Probability: 1}, impeller.After)
	assert.Greater(t, len(back.Possible), 20)
	assert.NotContains(t, back.Possible, "scale-in-block", "closed-cooled engines have none")
	assert.Equal(t, 1, page.Jobs)
	assert.Equal(t, 2, page.Timed)

	// what is kept stands as it was judged then, whatever the program would say now
	old := back
	old.Catalogue = "2025.3"
	raw, err := json.Marshal(old)
	require.NoError(t, err)
	row := kept[0]
	row.Body = string(raw)
	require.NoError(t, s.kept.SaveHindsight(s.ctx, row))
	page, err = s.Hindsight.Page(s.ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{"2025.3"}, page.Catalogues)

	// opened again it is no closed job; closed anew, it is looked back on anew
	s.now = s.now.Add(time.Hour)
	s.note(job, eventlog.Reopened, eventlog.Body{})
	page, err = s.Hindsight.Page(s.ctx)
	require.NoError(t, err)
	assert.Zero(t, page.Jobs)
	s.now = s.now.Add(time.Hour)
	s.note(job, eventlog.Closed, despite("strainer-clogged", "impeller-vanes-missing"))
	page, err = s.Hindsight.Page(s.ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{s.Catalogue.Version}, page.Catalogues)
	assert.Equal(t, []string{"strainer-clogged", "impeller-vanes-missing"}, page.List[0].Causes)
	assert.False(t, page.List[0].OneOf)
}

// Both were put right with no run between: which of them it was, nobody knows.
func TestOneOfSeveralIsLookedBackOnAsThat(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	body, yes := close("strainer-clogged", "impeller-vanes-missing"), true
	body.OneOf, body.Words = &yes, "Both renewed at once"
	closed := s.note(s.job(engine), eventlog.Closed, body)
	page, err := s.Hindsight.Page(s.ctx)
	require.NoError(t, err)
	assert.True(t, page.List[0].OneOf)
	lines := s.ServiceLinesOf(closed.Job, nil, closed.Engine)
	assert.Equal(t, "One of these, which is not known. Both renewed at once", lines[len(lines)-1].Label)
}

func despite(faults ...string) eventlog.Body {
	b := close(faults...)
	b.Despite = "closed up elsewhere"
	return b
}

// A job without a cause says nothing; one that was closed before anybody looked back is made up for.
func TestJobsOfBeforeAreLookedBackOnWhenAskedFor(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	s.note(s.job(engine), eventlog.Closed, close())
	named := s.job(engine)
	s.note(named, eventlog.Closed, close("strainer-clogged"))
	require.NoError(t, s.kept.ForgetHindsight(s.ctx))
	page, err := s.Hindsight.Page(s.ctx)
	require.NoError(t, err)
	assert.Equal(t, 1, page.Jobs)
	assert.Zero(t, page.Left)
	assert.Positive(t, page.Complaint.Three+1)
	assert.Equal(t, named, page.List[0].ID)
	for _, r := range page.Rates {
		if r.Fault == "strainer-clogged" {
			assert.InDelta(t, 1.0, r.Confirmed, 1e-12)
			assert.InDelta(t, hindsight.OwnRate(r.Catalogue, 1, 1), r.Own, 1e-12)
		}
	}
}

// What the yard goes by in place of the catalogue is chosen in its log, moves the suspects and the minutes of every
// job, and can be taken back. What a catalogue does not know any more is left out.
func TestAYardGoesByItsOwnFigures(t *testing.T) {
	s := newShop(t)
	_, engine := s.engine(eventlog.Dates{})
	job := s.job(engine)
	s.note(job, eventlog.Found, says(eventlog.Present, "weak-water-at-outlet"))
	answer := func() *diagnosis.Answer {
		p, err := s.Job(s.ctx, job)
		require.NoError(t, err)
		return p.Answer
	}
	share := func(fault string) float64 {
		list := answer().Suspects
		return list[slices.IndexFunc(list, func(x diagnosis.Posterior) bool { return x.Fault == fault })].Probability
	}
	minutes := func(check string) float64 {
		list := answer().NextChecks
		return list[slices.IndexFunc(list, func(n diagnosis.NextCheck) bool { return n.Check == check })].Minutes
	}
	set := func(f eventlog.Figures) string {
		st := stamp()
		_, err := s.NoteMethod(s.ctx, eventlog.FiguresSet, st, eventlog.Body{Figures: &f})
		require.NoError(t, err)
		return st.EntryID
	}
	before, took := share("strainer-clogged"), minutes("strainer-look")
	rates := set(eventlog.Figures{What: eventlog.FiguresRates, Values: map[string]float64{"strainer-clogged": 0.5}})
	assert.Greater(t, share("strainer-clogged"), before)
	set(eventlog.Figures{What: eventlog.FiguresMinutes, Values: map[string]float64{"strainer-look": 21}})
	assert.InDelta(t, 21, minutes("strainer-look"), 1e-12)
	assert.Greater(t, share("strainer-clogged"), before, "minutes leave the base rates alone")
	m, err := s.Methods(s.ctx)
	require.NoError(t, err)
	assert.Equal(t, "T", m.FiguresFrom[eventlog.FiguresRates].By)
	_, err = s.Undo(s.ctx, rates, stamp())
	require.NoError(t, err)
	assert.InDelta(t, before, share("strainer-clogged"), 1e-12)
	set(eventlog.Figures{What: eventlog.FiguresMinutes})
	assert.InDelta(t, took, minutes("strainer-look"), 1e-12)
	m, err = s.Methods(s.ctx)
	require.NoError(t, err)
	assert.Empty(t, m.FiguresFrom)

	for _, bad := range []eventlog.Figures{{What: "wind"}, {What: eventlog.FiguresComeback, Comeback: 601},
		{What: eventlog.FiguresRates, Values: map[string]float64{"unicorn": 0.1}},
		{What: eventlog.FiguresMinutes, Values: map[string]float64{"strainer-look": -1}}} {
		_, err := s.NoteMethod(s.ctx, eventlog.FiguresSet, stamp(), eventlog.Body{Figures: &bad})
		require.Error(t, err, bad)
	}
	gone := eventlog.Entry{ID: "1", Kind: eventlog.FiguresSet, Body: eventlog.Body{Figures: &eventlog.Figures{
		What: eventlog.FiguresRates, Values: map[string]float64{"of-another-year": 0.1, "strainer-clogged": 0.2}}}}
	assert.Equal(t, map[string]float64{"strainer-clogged": 0.2}, eventlog.FoldYard(s.Catalogue,
		[]eventlog.Entry{gone}).Figures.Rates)
}

// full is a record that takes no more of what is read from it over again.
type full struct{ *store.Store }

func (full) SaveHindsight(context.Context, record.Hindsight) error { return errors.New("no room") }

// One job that cannot be judged or kept does not take the page away: it is left out, told, and tried again.
func TestAJobThatCannotBeLookedBackOnIsLeftOut(t *testing.T) {
	s := newShop(t)
	s.App = app.New(s.Catalogue, full{s.kept}, func() time.Time { return s.now })
	_, engine := s.engine(eventlog.Dates{})
	s.note(s.job(engine), eventlog.Closed, close("strainer-clogged"))
	page, err := s.Hindsight.Page(s.ctx)
	require.NoError(t, err)
	assert.Zero(t, page.Jobs)
	assert.Equal(t, 1, page.Unjudged)
	s.Restart()
	page, err = s.Hindsight.Page(s.ctx)
	require.NoError(t, err)
	assert.Equal(t, 1, page.Jobs)
	assert.Zero(t, page.Unjudged)
	gone, stop := context.WithCancel(s.ctx)
	stop()
	_, err = s.Hindsight.Page(gone)
	require.Error(t, err)
}
