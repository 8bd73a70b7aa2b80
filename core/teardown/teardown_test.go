package teardown_test

import (
	"fmt"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hevrin/core/catalogue"
	"hevrin/core/teardown"
	"hevrin/core/units"
	"hevrin/core/validation"
)

var load = sync.OnceValues(catalogue.Load)

func catalogueTask(t require.TestingT, id string) *catalogue.Task {
	c, err := load()
	require.NoError(t, err)
	task, ok := c.Task(id)
	require.True(t, ok, id)
	return &task
}

// account folds acts, one a minute; each must be allowed.
func account(t require.TestingT, acts ...teardown.Act) *teardown.Account {
	a := teardown.NewAccount()
	for i, x := range acts {
		require.NoError(t, x.Check(), "%+v", x)
		a.Take(teardown.Done{Act: x, By: "Kit Venn", At: time.Date(2026, 5, 4, 9, i, 0, 0, time.UTC), Entry: fmt.Sprint(i)})
	}
	return a
}

const change = "impeller-change/"

func shut() teardown.Act { return teardown.Act{Do: teardown.Isolate, Item: "seacock"} }
func begun(t require.TestingT) teardown.Act {
	return teardown.Act{Do: teardown.Begin, Task: catalogueTask(t, "impeller-change")}
}
func off(item string, n int) teardown.Act {
	return teardown.Act{Do: teardown.Off, Item: change + item, Count: n}
}
func on(item string, n int) teardown.Act {
	return teardown.Act{Do: teardown.On, Item: change + item, Count: n, State: teardown.New}
}

// Whoever taps in whatever order: the counts come to the sum, and an item is balanced just when off equals on.
func TestTapsAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		acts := []teardown.Act{begun(t)}
		offs, ons := 0, 0
		var taps []teardown.Act
		for range rapid.IntRange(1, 6).Draw(t, "off") {
			taps, offs = append(taps, off("cover-screws", 1)), offs+1
		}
		for range rapid.IntRange(0, 12).Draw(t, "on") {
			taps, ons = append(taps, on("cover-screws", 1)), ons+1
		}
		taps = rapid.Permutation(taps).Draw(t, "order")
		a := account(t, append(acts, taps...)...)
		i := a.Items[slices.IndexFunc(a.Items, func(i teardown.Item) bool { return i.ID == "cover-screws" })]
		require.Equal(t, max(0, offs-ons), i.StillOff())
		require.Equal(t, offs-ons, i.Off-i.On(), "a new round counts afresh")
		require.Equal(t, offs == ons, teardown.Ready(a.Conditions()[:1]))
	})
}

func wheel(states ...string) *teardown.Wheel {
	w := &teardown.Wheel{}
	for _, s := range states {
		b := teardown.Blade{State: s}
		if s == teardown.Torn {
			b.Share = 0.4
		}
		w.Blades = append(w.Blades, b)
	}
	return w
}

func TestThePieceLedger(t *testing.T) {
	piece := func(share float64, old bool) teardown.Act {
		return teardown.Act{Do: teardown.Found, Item: "gear-cooler", Piece: &teardown.Piece{Share: share, Old: old}}
	}
	set := teardown.Act{Do: teardown.SetWheel, Wheel: wheel(teardown.Gone, teardown.Torn, teardown.Sound, teardown.Sound,
		teardown.Sound, teardown.Cracked)}
	for _, c := range []struct {
		acts []teardown.Act
		open bool
		say  string
	}{
		{nil, false, "no blade is missing"},
		{[]teardown.Act{set}, true, "1.40 missing, 0.00 found: 1.40 of a blade unaccounted for"},
		{[]teardown.Act{set, piece(0.9, false)}, true, "1.40 missing, 0.90 found: 0.50 of a blade unaccounted for"},
		{[]teardown.Act{set, piece(0.9, false), piece(0.4, false)}, false, "1.40 missing, 1.30 found: all accounted for"},
		{[]teardown.Act{set, piece(0.9, false), piece(0.6, true)}, true,
			"1.40 missing, 0.90 found: 0.50 of a blade unaccounted for"},
		{[]teardown.Act{set, piece(1, false), piece(0.9, false)}, false,
			"0.50 of a blade more was found than is missing: some of it is from an earlier impeller, so count again"},
		{[]teardown.Act{set, {Do: teardown.GiveUp, Words: "back-flushed twice, owner told"}}, false,
			"1.40 missing, 0.00 found: 1.40 of a blade unaccounted for"},
	} {
		l := account(t, c.acts...).Ledger
		assert.Equal(t, c.say, l.Say())
		assert.Equal(t, c.open, l.Open(), c.say)
	}
	// a wheel tapped again opens the hunt again
	assert.True(t, account(t, set, teardown.Act{Do: teardown.GiveUp, Words: "enough"}, set).Ledger.Open())
}

// Where rubber stops, on four circuits: the pump, the hose that leaves it, then in the order of the water at the first
// passage narrower than the piece, crumbs beyond.
func TestWhereToLook(t *testing.T) {
	for name, c := range map[string]struct {
		circuit []string
		share   float64
		want    []string // "~" before what only crumbs reach
	}{
		"gear cooler first": {[]string{"intake", "strainer", "raw-pump", "gear-cooler", "exchanger", "raw-hoses", "elbow",
			"exhaust-hose", "silencer", "outlet"}, 1,
			[]string{"raw-pump", "raw-hoses", "gear-cooler", "~exchanger", "~elbow"}},
		"a filter catches it": {[]string{"intake", "raw-pump", "raw-filter", "oil-cooler", "exchanger", "elbow"}, 1,
			[]string{"raw-pump", "raw-filter", "~oil-cooler", "~exchanger", "~elbow"}},
		"oil cooler comes last": {[]string{"seacock", "raw-pump", "exchanger", "oil-cooler", "elbow"}, 0.5,
			[]string{"raw-pump", "exchanger", "~oil-cooler", "~elbow"}},
		"raw-cooled": {[]string{"strainer", "raw-pump", "thermostat", "block", "raw-hoses", "elbow",
			"exhaust-hose", "outlet"}, 1, []string{"raw-pump", "raw-hoses", "thermostat", "~block", "~elbow"}},
		"a crumb goes far": {[]string{"raw-pump", "gear-cooler", "exchanger", "elbow"}, 0.03, []string{"raw-pump",
			"gear-cooler", "exchanger", "elbow"}},
	} {
		var got []string
		for _, h := range teardown.WhereToLook(c.circuit, c.share, nil) {
			assert.NotEmpty(t, h.Say)
			got = append(got, map[bool]string{true: "~"}[h.Crumbs]+h.Station)
		}
		assert.Equal(t, c.want, got, name)
	}
	assert.Empty(t, teardown.WhereToLook([]string{"intake", "block"}, 1, nil), "no pump, no rubber")
	looked := teardown.WhereToLook([]string{"raw-pump", "gear-cooler", "exchanger"}, 1, []string{"gear-cooler"})
	assert.True(t, looked[1].Looked)
}

func TestVerdictsOnAWheel(t *testing.T) {
	sound := wheel(teardown.Sound, teardown.Sound, teardown.Sound, teardown.Sound)
	young := *sound
	young.Hours, young.Life = 60, 300
	old := *sound
	old.Hours, old.Life = 320, 300
	slips := *sound
	slips.HubLoud = true
	for name, c := range map[string]struct {
		w     teardown.Wheel
		keeps bool
		want  string
	}{
		"a blade gone": {*wheel(teardown.Gone, teardown.Sound, teardown.Sound), true, teardown.ReplaceAndHunt},
		"cracked":      {*wheel(teardown.Cracked, teardown.Sound, teardown.Sound), true, teardown.Replace},
		"set":          {*wheel(teardown.Set, teardown.Sound, teardown.Sound), true, teardown.Replace}, "hub": {slips, true,
			teardown.Replace}, "young": {young, true, teardown.ReuseIt},
		"young, the yard bins them": {young, false, teardown.Replace}, "past its hours": {old, true, teardown.Replace},
		"hours not known": {*sound, true, teardown.Replace},
	} {
		verdict, reasons := c.w.Judge(c.keeps)
		assert.Equal(t, c.want, verdict, name)
		assert.NotEmpty(t, reasons, name)
	}
}

func TestBodyAndElbow(t *testing.T) {
	b := teardown.Body{CamMM: 0.05, PlateMM: 0.2, CoverMM: 0.4}
	assert.True(t, b.Scored())
	assert.InDelta(t, 7, b.SlipFactor(), 1e-9) // (0.1 + 0.2 + 0.4)/0.1
	said := units.Join(b.Judge(), "\n").String()
	assert.Contains(t, said, "Cam: 0.05 mm: good")
	assert.Contains(t, said, "Wear plate: 0.20 mm, over 0.1 mm: dress it")
	assert.Contains(t, said, "Cover: 0.40 mm: turn it over once")
	b.CoverOnce = true
	assert.Contains(t, units.Join(b.Judge(), "\n").String(), "Cover: 0.40 mm, over 0.3 mm: replace it")
	assert.InDelta(t, 1, teardown.Body{}.SlipFactor(), 1e-9)
	for want, e := range map[string]teardown.Elbow{"good": {BoreMM: 45, NewBoreMM: 50}, "clean": {BoreMM: 33,
		NewBoreMM: 50}, "replace": {BoreMM: 25, NewBoreMM: 50}} {
		verdict, reasons := e.Judge()
		assert.Equal(t, want, verdict)
		assert.NotEmpty(t, reasons)
	}
	verdict, _ := teardown.Elbow{BoreMM: 50, NewBoreMM: 50, Pitted: true}.Judge()
	assert.Equal(t, "replace", verdict)
	for _, p := range teardown.LeakPlaces() {
		assert.NotEmpty(t, teardown.LeakSays(p))
	}
}

// What the bench tells the diagnosis: every finding is the catalogue's.
func TestTheBenchSpeaksTheCataloguesWords(t *testing.T) {
	c, err := catalogue.Load()
	require.NoError(t, err)
	present := func(a teardown.Act) map[string]bool {
		require.NoError(t, a.Check())
		m := map[string]bool{}
		for _, f := range a.Findings() {
			_, ok := c.Finding(f.Finding)
			assert.True(t, ok, f.Finding)
			m[f.Finding] = f.Present
		}
		return m
	}
	assert.Equal(t, map[string]bool{"blades-missing": true, "blades-cracked-or-set": true, "hub-or-key-slipping": false},
		present(teardown.Act{Do: teardown.SetWheel, Wheel: wheel(teardown.Gone, teardown.Set, teardown.Sound)}))
	assert.Equal(t, map[string]bool{"pump-body-scored": true}, present(teardown.Act{Do: teardown.SetBody,
		Body: &teardown.Body{PlateMM: 0.2}}))
	assert.Equal(t, map[string]bool{"elbow-narrowed": true, "elbow-thin-or-holed": false},
		present(teardown.Act{Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: 30, NewBoreMM: 50}}))
	assert.Equal(t, map[string]bool{"wet-at-cover": false, "wet-at-weep-raw": true, "milky-oil": false},
		present(teardown.Act{Do: teardown.SetLeaks, Leaks: []string{"weep-water"}}))
	found := func(at string, old bool) map[string]bool {
		return present(teardown.Act{Do: teardown.Found, Item: at, Piece: &teardown.Piece{Share: 0.5, Old: old}})
	}
	assert.Equal(t, map[string]bool{"fragments-at-cooler": true}, found("gear-cooler", false))
	assert.Equal(t, map[string]bool{"fragments-at-exchanger": true}, found("exchanger", false))
	assert.Equal(t, map[string]bool{"debris-in-filter": true}, found("raw-filter", false))
	assert.Empty(t, found("gear-cooler", true), "old rubber tells nothing new")
	assert.Empty(t, present(shut()))
}

func TestActsThatCannotBe(t *testing.T) {
	for field, a := range map[string]teardown.Act{
		"do": {Do: "dance"}, "item": {Do: teardown.Off, Count: 1}, "count": {Do: teardown.Off, Item: "x"},
		"words": {Do: teardown.Excuse, Item: "x"}, "task": {Do: teardown.Begin},
		"state": {Do: teardown.On, Item: "x", Count: 1, State: "shiny"}, "wheel": {Do: teardown.SetWheel},
		"wheel.blades": {Do: teardown.SetWheel, Wheel: &teardown.Wheel{}},
		"wheel.blades[0].share": {Do: teardown.SetWheel,
			Wheel: &teardown.Wheel{Blades: []teardown.Blade{{State: teardown.Torn}, {State: teardown.Sound},
				{State: teardown.Sound}}}},
		"piece.share": {Do: teardown.Found, Item: "raw-pump", Piece: &teardown.Piece{Share: 3}},
		"body":        {Do: teardown.SetBody}, "body.cam_mm": {Do: teardown.SetBody, Body: &teardown.Body{CamMM: -1}},
		"body.drive": {Do: teardown.SetBody, Body: &teardown.Body{DrivePlayMM: 0.2}}, "body.drive_play_mm": {Do: teardown.SetBody, Body: &teardown.Body{Drive: "key", DrivePlayMM: -1}},
		"elbow.bore_mm": {Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: 80, NewBoreMM: 50}},
		"leaks[0]":      {Do: teardown.SetLeaks, Leaks: []string{"roof"}}, "used": {Do: teardown.Use},
		"used.quantity": {Do: teardown.Use, Used: &teardown.Used{Label: "Impeller", State: teardown.New}}, "adds.label": {},
		"pass": {Do: teardown.Tighten, Item: "x", Pass: 9},
		"task.items[0].kind": {Do: teardown.Begin, Task: &catalogue.Task{Items: []catalogue.Item{{ID: "a", Label: "A",
			Count: 1, Kind: "thing"}}}},
	} {
		if field == "adds.label" {
			field, a = "adds[0].label", teardown.Act{Do: teardown.Add, Adds: &catalogue.Item{Kind: teardown.Part, Count: 1}}
		}
		var wrong validation.Errors
		require.ErrorAs(t, a.Check(), &wrong, field)
		assert.Equal(t, field, wrong[0].Field)
	}
}
