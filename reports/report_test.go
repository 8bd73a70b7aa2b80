package reports_test

import (
	"bytes"
	"context"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/app"
	"hevrin/app/job"
	"hevrin/app/record"
	"hevrin/app/recording"
	"hevrin/app/report"
	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
	"hevrin/core/proving"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/core/wetwork"
	"hevrin/reports"
)

func demoReports(t *testing.T, system units.System) (*app.App, map[string]*report.Report) {
	t.Helper()
	h := ofDemo(t)
	out := map[string]*report.Report{}
	for id := range h.files {
		r, err := report.Of(context.Background(), h.Catalogue, h.App, id, system)
		require.NoError(t, err)
		out[id] = r
	}
	return h.App, out
}

// Every job of the demo has a report of at most two pages that an outside reader finds well formed.
func TestAReportFitsTwoPages(t *testing.T) {
	_, list := demoReports(t, units.Metric)
	shots := os.Getenv("HEVRIN_REPORTS") // a folder, to look at them
	for id, r := range list {
		raw, err := reports.PDF(r, now, "test")
		require.NoError(t, err)
		require.NoError(t, api.Validate(bytes.NewReader(raw), nil), id)
		pages, err := api.PageCount(bytes.NewReader(raw), nil)
		require.NoError(t, err)
		assert.LessOrEqual(t, pages, 2, "%s of %s", id, r.Craft)
		if shots != "" {
			require.NoError(t, os.WriteFile(shots+"/"+r.Craft+"-"+id[:4]+".pdf", raw, 0o600))
		}
	}
}

func ofCraft(t *testing.T, list map[string]*report.Report, craft string, outcome report.Outcome) *report.Report {
	t.Helper()
	for _, r := range list {
		if r.Craft == craft && r.Outcome == outcome {
			return r
		}
	}
	require.Fail(t, "no report", "%s %s", craft, outcome)
	return nil
}

func TestAReportTellsWhatTheRecordTells(t *testing.T) {
	_, list := demoReports(t, units.Metric)
	r := ofCraft(t, list, "Sallow Ebb", report.Cured)
	assert.Equal(t, "Cured", r.Verdict)
	require.Len(t, r.Causes, 1)
	assert.Contains(t, r.Causes[0].Evidence[0], "Ide Marrack, 14 May 2026")
	require.NotEmpty(t, r.Figures)
	assert.NotEmpty(t, r.Figures[0].After)
	require.NotNil(t, r.Path)
	assert.Contains(t, r.Path.Before, "2400 rev/min")
	assert.Contains(t, r.Path.After, "24", "at the speed of the one before")
	for _, q := range r.Path.Points {
		if assert.NotNil(t, q.After) {
			assert.InDelta(t, q.Should, *q.After, q.Spread+2, q.Label)
		}
	}
	require.Len(t, r.Pictures, 1)
	require.Len(t, r.Proof, 8)
	for _, p := range r.Proof {
		assert.Equal(t, proving.Passed, p.Standing, p.Label)
	}
	assert.Len(t, r.Photos, 2)
	assert.InDelta(t, 18.5+6.2+13*4.1, r.Total, 1e-9)
}

func TestAReportSpeaksTheReadersUnits(t *testing.T) {
	_, list := demoReports(t, units.US)
	r := ofCraft(t, list, "Sallow Ebb", report.Cured)
	assert.Contains(t, r.Path.After, "°F")
	assert.NotContains(t, r.Path.After, "°C")
	for _, m := range r.Pictures[0].Marks {
		assert.Contains(t, m.Label, "°F")
	}
}

// A report of a job with nothing in it is a report all the same, and long words break.
func TestAnEmptyJobAndLongWords(t *testing.T) {
	r := &report.Report{Craft: "c", Engine: "e", Opened: now, By: "T", Outcome: report.Open, Verdict: "Work goes on",
		Complaint: string(bytes.Repeat([]byte("long words 🙂 "), 900)), System: units.Metric}
	raw, err := reports.PDF(r, time.Now(), "test")
	require.NoError(t, err)
	require.NoError(t, api.Validate(bytes.NewReader(raw), nil))
	pages, err := api.PageCount(bytes.NewReader(raw), nil)
	require.NoError(t, err)
	assert.Greater(t, pages, 1)
	empty := program(t)
	_, err = report.Of(context.Background(), empty.Catalogue, empty, "7b7c2f0e-0000-4000-8000-00000000000b",
		units.Metric)
	assert.ErrorIs(t, err, record.ErrNotFound)
}

// hostile are texts that have spoilt papers elsewhere.
var hostile = []string{"Bella 👍", "👩‍👩‍👧‍👦", "אבג 12 דה", "سفينة", "海神丸", "Ѐлин ΑΒΓ ẞ ŵ", "\x00\x07\x1b[31m", "a\rb\nc\td",
	"\u202Egnp.exe", "\xff\xfe", strings.Repeat("W", 3000), strings.Repeat("\u0301", 200), "{nb}", "%d %s"}

// Every text, whatever it is made of, is printed or replaced visibly; none spoils a paper.
func TestPapersTakeAnyText(t *testing.T) {
	print := func(t require.TestingT, words string) []byte {
		r := &report.Report{Craft: words, Engine: words, EngineName: words, Opened: now, By: words, Outcome: report.Open,
			Verdict: words, Complaint: words, System: units.Metric}
		raw, err := reports.PDF(r, now, "test")
		require.NoError(t, err, "%q", words)
		return raw
	}
	for _, words := range hostile {
		assert.NoError(t, api.Validate(bytes.NewReader(print(t, words)), nil), "%q", words)
	}
	rapid.Check(t, func(t *rapid.T) { print(t, rapid.StringN(0, 40, 200).Draw(t, "words")) })
}

// A job without a run, closed or open, does not say that anything is cured; what came of a recording under way is
// refused.
func TestOnlyASignedRunSaysCured(t *testing.T) {
	_, list := demoReports(t, units.Metric)
	for id, r := range list {
		if r.Outcome == report.Cured {
			assert.Equal(t, "Sallow Ebb", r.Craft, id)
			continue
		}
		assert.Empty(t, r.Signed, id)
		assert.NotContains(t, r.Verdict, "Cured", id)
		assert.NotEmpty(t, r.Says, id)
	}
}

// What was left open stands in the report.
func TestAReportSaysWhatIsOpen(t *testing.T) {
	_, list := demoReports(t, units.Metric)
	r := ofCraft(t, list, "Lissamar", report.Open)
	found := false
	for _, m := range r.KeepAnEyeOn {
		found = found || len(m) > 12 && m[:12] == "Not settled."
	}
	assert.True(t, found, "%v", r.KeepAnEyeOn)
	assert.NotEmpty(t, r.Cautions)
}

// What a run by hand and a leak run prove is told as what it is, and a service is no hunt that found nothing.
func TestAReportSaysHowItWasProved(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	at := time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)
	signed := func(how, outcome string) *job.Page {
		run := &proving.ProvingRun{How: how, Where: proving.Afloat,
			Signed: &proving.Done{Act: proving.Act{Outcome: outcome}, By: "Tam", At: at}}
		p := &job.Page{Job: &eventlog.Job{Wetwork: &wetwork.Account{}}, Answer: &diagnosis.Answer{}}
		p.Account = teardown.NewAccount()
		p.Proving.Runs = []job.RunPage{{ProvingRun: run, Outcome: outcome}}
		return p
	}
	planned := signed("", "")
	planned.Proving.Runs, planned.Job.Closing = nil, &eventlog.Closing{From: eventlog.Source{At: at}}
	planned.Kind = catalogue.JobKind{Begins: catalogue.Plan}
	planned.Plan = []job.PlanItem{{Do: "Clean the strainer", DoneAt: &at}, {Do: "Test the cap"}}
	for name, x := range map[string]struct {
		page          *job.Page
		outcome       report.Outcome
		verdict, says string
	}{
		"by readings": {signed("", proving.Cured), report.Cured, "Cured", "the readings show nothing wrong"},
		"by hand":     {signed(proving.ByHand, proving.Cured), report.Cured, "Cured", "Proved by hand"},
		"a leak run": {signed(proving.LeakRun, proving.Tight), report.Tight, "Tight, not proved under load",
			"Not proved under load"},
		"a service": {planned, report.Closed, "Closed, not all of it done", "Still due: test the cap."},
	} {
		r, err := report.Of(context.Background(), c, onePage{x.page}, "j", units.Metric)
		require.NoError(t, err)
		assert.Equal(t, x.outcome, r.Outcome, name)
		assert.Equal(t, x.verdict, r.Verdict, name)
		assert.Contains(t, r.Says, x.says, name)
	}
}

// Of causes that were put right together, it is said that it was one of them.
func TestAReportSaysWhereItWasOneOfSeveral(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	for _, oneOf := range []bool{false, true} {
		p := &job.Page{Job: &eventlog.Job{Wetwork: &wetwork.Account{}, Closing: &eventlog.Closing{OneOf: oneOf}},
			Answer: &diagnosis.Answer{}}
		p.Account = teardown.NewAccount()
		r, err := report.Of(context.Background(), c, onePage{p}, "j", units.Metric)
		require.NoError(t, err)
		assert.Equal(t, oneOf, r.OneOf != "")
		if oneOf {
			assert.Contains(t, r.OneOf, "which is not known")
		}
	}
}

// onePage is a source of one job that has neither recordings nor pictures.
type onePage struct{ page *job.Page }

func (o onePage) Job(context.Context, string) (*job.Page, error) { return o.page, nil }

func (onePage) Recording(context.Context, string, string) (*recording.RecordingPage, error) {
	return nil, nil
}

func (onePage) Photo(context.Context, string) ([]byte, error) { return nil, nil }
