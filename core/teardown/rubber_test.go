package teardown_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/catalogue"
	"hevrin/core/teardown"
)

// A blade is taken to be 22 mm wide and a share of it by its root; a passage narrower than that stops it, and only crumbs
// go on (common practice).
func TestThePassageThatStopsAPiece(t *testing.T) {
	for station, gap := range map[string]float64{"raw-filter": 2, "gear-cooler": 7, "oil-cooler": 7, "charge-cooler": 6,
		"exchanger": 6.5, "thermostat": 12, "elbow": 10} {
		share := gap * gap / (22 * 22)
		for _, c := range []struct {
			share  float64
			crumbs bool
		}{{share * 0.999, false}, {share * 1.001, true}, {-1, false}} {
			list := teardown.WhereToLook([]string{"seacock", "raw-pump", station, "block"}, c.share, []string{station})
			assert.Len(t, list, 3, station)
			assert.Equal(t, []bool{false, false, c.crumbs}, []bool{list[0].Crumbs, list[1].Crumbs, list[2].Crumbs},
				"%s, %.4f of a blade", station, c.share)
			assert.Equal(t, []bool{false, true, false}, []bool{list[0].Looked, list[1].Looked, list[2].Looked})
		}
	}
	// the block lets a whole blade through; what is past the elbow has left
	list := teardown.WhereToLook([]string{"raw-pump", "block", "elbow", "exhaust-hose", "exchanger"}, 1, nil)
	var at []string
	for _, h := range list {
		at = append(at, h.Station)
		assert.False(t, h.Crumbs, h.Station)
	}
	assert.Equal(t, []string{"raw-pump", "block", "elbow"}, at)
	// the hose that leaves the pump comes right after it, where the circuit names it; else with it
	hoses := teardown.WhereToLook([]string{"raw-pump", "exchanger", "raw-hoses", "elbow"}, 0.5, nil)
	assert.Equal(t, []string{"raw-pump", "raw-hoses", "exchanger", "elbow"},
		[]string{hoses[0].Station, hoses[1].Station, hoses[2].Station, hoses[3].Station})
	const housing = "in the housing, behind the cam and in the outlet port"
	assert.Equal(t, housing, hoses[0].Say)
	assert.Equal(t, housing+", then in the hose that leaves it", list[0].Say)
	assert.Empty(t, teardown.WhereToLook([]string{"seacock", "exchanger"}, 1, nil), "no pump, no rubber of it")
}

// A wheel at the ends of what it may be.
func TestAWheelAtItsEdge(t *testing.T) {
	blades := func(n int, last teardown.Blade) []teardown.Blade {
		return append(slices.Repeat([]teardown.Blade{{State: teardown.Sound}}, n-1), last)
	}
	sound := teardown.Blade{State: teardown.Sound}
	for _, c := range []struct {
		wheel teardown.Wheel
		wrong []string
	}{
		{teardown.Wheel{Blades: blades(3, sound)}, nil},
		{teardown.Wheel{Blades: blades(2, sound)}, []string{"wheel.blades"}},
		{teardown.Wheel{Blades: blades(16, sound)}, nil},
		{teardown.Wheel{Blades: blades(17, sound)}, []string{"wheel.blades"}},
		{teardown.Wheel{Blades: blades(6, teardown.Blade{State: "melted"})}, []string{"wheel.blades[5].state"}},
		{teardown.Wheel{Blades: blades(6, teardown.Blade{State: teardown.Torn, Share: 0})}, []string{"wheel.blades[5].share"}},
		{teardown.Wheel{Blades: blades(6, teardown.Blade{State: teardown.Torn, Share: 1})}, []string{"wheel.blades[5].share"}},
		{teardown.Wheel{Blades: blades(6, teardown.Blade{State: teardown.Torn, Share: 0.99})}, nil},
		{teardown.Wheel{Blades: blades(6, sound), Hours: 20000, Life: 20000}, nil},
		{teardown.Wheel{Blades: blades(6, sound), Hours: 20001, Life: 20001}, []string{"wheel.hours", "wheel.life_hours"}},
		{teardown.Wheel{Blades: blades(6, sound), Hours: -1}, []string{"wheel.hours"}},
	} {
		assert.Equal(t, c.wrong, fieldsOf(t, teardown.Act{Do: teardown.SetWheel, Wheel: &c.wheel}), "%+v", c.wheel)
	}
}

// The account of the rubber in words and as what bars a start: a tenth of a blade may stay at large, more may not.
func TestRubberAtLarge(t *testing.T) {
	torn := func(share float64) *teardown.Wheel {
		return &teardown.Wheel{Blades: []teardown.Blade{{State: teardown.Torn, Share: share}, {State: teardown.Sound},
			{State: teardown.Gone}}}
	}
	found := func(share float64, old bool) teardown.Done {
		return teardown.Done{Act: teardown.Act{Do: teardown.Found, Item: "exchanger",
			Piece: &teardown.Piece{Share: share, Old: old}}}
	}
	for _, c := range []struct {
		missing, found float64
		old            bool
		open           bool
		say            string
	}{
		{0.5, 1.4, false, false, "1.50 missing, 1.40 found: all accounted for"},
		{0.5, 1.39, false, true, "1.50 missing, 1.39 found: 0.11 of a blade unaccounted for"},
		{0.5, 1.6, false, false, "1.50 missing, 1.60 found: all accounted for"},
		{0.5, 1.61, false, false,
			"0.11 of a blade more was found than is missing: some of it is from an earlier impeller, so count again"},
		{0.5, 1.5, true, true, "1.50 missing, 0.00 found: 1.50 of a blade unaccounted for"},
	} {
		a := teardown.NewAccount()
		a.Take(teardown.Done{Act: teardown.Act{Do: teardown.SetWheel, Wheel: torn(c.missing)}})
		a.Take(found(c.found, c.old))
		assert.Equal(t, c.open, a.Ledger.Open(), "%+v", c)
		assert.Equal(t, c.say, a.Ledger.Say())
		if c.old {
			assert.InDelta(t, c.found, a.Ledger.Old, 1e-12)
		}
	}
}

// What a check saw and what is tapped of the wheel must come to the same, or the start stays barred.
func TestBladesThatACheckSawMissing(t *testing.T) {
	whole := &teardown.Wheel{Blades: slices.Repeat([]teardown.Blade{{State: teardown.Sound}}, 6)}
	gone := &teardown.Wheel{Blades: append(slices.Clone(whole.Blades[1:]), teardown.Blade{State: teardown.Gone})}
	wheel := func(a *teardown.Account, w *teardown.Wheel) {
		a.Take(teardown.Done{Act: teardown.Act{Do: teardown.SetWheel, Wheel: w}})
	}
	a := teardown.NewAccount()
	a.BladesMissing(true)
	assert.True(t, a.Ledger.Unseen && a.Ledger.Open())
	assert.Equal(t, "blades are missing, how much is not known: tap the wheel as it came out", a.Ledger.Say())
	wheel(a, whole)
	assert.True(t, !a.Ledger.Unseen && a.Ledger.Denied && a.Ledger.Open())
	assert.Equal(t, "a check saw blades missing, the wheel tapped is whole: which is so?", a.Ledger.Say())
	wheel(a, gone)
	assert.True(t, !a.Ledger.Denied && a.Ledger.Open())
	a.BladesMissing(true)
	assert.False(t, a.Ledger.Unseen, "how much is known: the wheel was tapped")
	a.Take(teardown.Done{Act: teardown.Act{Do: teardown.GiveUp, Words: "the circuit was flushed both ways"}})
	assert.False(t, a.Ledger.Open())
	a.BladesMissing(true)
	assert.True(t, a.Ledger.Open(), "seen again: the hunt is open again")
	a.BladesMissing(false)
	wheel(a, whole)
	assert.False(t, a.Ledger.Open() || a.Ledger.Denied)
	assert.Equal(t, "no blade is missing", a.Ledger.Say())
}

// How far a fault has gone: as said, else as measured on the bench.
func TestHowFarAFaultHasGone(t *testing.T) {
	a := teardown.NewAccount()
	extent := func(fault string) any {
		share, ok := a.Extent(fault)
		if !ok {
			return nil
		}
		return share
	}
	assert.Nil(t, extent("elbow-choked"))
	a.Take(teardown.Done{Act: teardown.Act{Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: 30, NewBoreMM: 40}}})
	a.Take(teardown.Done{Act: teardown.Act{Do: teardown.SetWheel, Wheel: &teardown.Wheel{Blades: []teardown.Blade{
		{State: teardown.Gone}, {State: teardown.Torn, Share: 0.5}, {State: teardown.Sound}, {State: teardown.Sound}}}}})
	assert.Equal(t, 0.25, extent("elbow-choked"))
	assert.Equal(t, 0.25, extent("riser-choked"))
	assert.Equal(t, 0.375, extent("impeller-vanes-missing"))
	assert.Nil(t, extent("fouled-exchanger"))
	whole := teardown.NewAccount()
	whole.Take(teardown.Done{Act: teardown.Act{Do: teardown.SetWheel, Wheel: &teardown.Wheel{Blades: []teardown.Blade{
		{State: teardown.Sound}}}}})
	whole.Take(teardown.Done{Act: teardown.Act{Do: teardown.SetElbow, Elbow: &teardown.Elbow{BoreMM: 30}}})
	for _, fault := range []string{"impeller-vanes-missing", "elbow-choked"} {
		_, ok := whole.Extent(fault)
		assert.False(t, ok, "nothing is missing, nor known of the bore when new")
	}
	a.Take(teardown.Done{Act: teardown.Act{Do: teardown.HowFar, Item: "elbow-choked", Share: 0.6}})
	assert.Equal(t, 0.6, extent("elbow-choked"))
}

// A sound wheel by its hours: at its life it goes, under half of it it may go back where the yard keeps sound ones, and
// where its hours are not known a new one is the cheaper risk.
func TestASoundWheelByItsHours(t *testing.T) {
	for _, c := range []struct {
		hours, life float64
		verdict     string
		say         string
	}{
		{200, 200, teardown.Replace, "sound, but at 200 of its 200 hours"},
		{199, 200, teardown.Replace, "sound; with so many hours on it, fit a new one while it is open"},
		{100, 200, teardown.Replace, "sound; with so many hours on it, fit a new one while it is open"},
		{99, 200, teardown.ReuseIt, "sound at 99 of its 200 hours: it may go back, or lie by as a spare, labelled so"},
		{99, 0, teardown.Replace, "sound; with so many hours on it, fit a new one while it is open"},
		{0, 200, teardown.Replace, "it looks sound; its hours are not known, so a new one is the cheaper risk"},
		{0, 0, teardown.Replace, "it looks sound; its hours are not known, so a new one is the cheaper risk"},
	} {
		w := teardown.Wheel{Blades: []teardown.Blade{{State: teardown.Sound}}, Hours: c.hours, Life: c.life}
		verdict, reasons := w.Judge(true)
		assert.Equal(t, c.verdict, verdict, "%+v", c)
		assert.Equal(t, []string{c.say}, reasons)
		verdict, _ = w.Judge(false)
		assert.Equal(t, teardown.Replace, verdict, "a yard that keeps none")
	}
}

// The impeller that comes out once more is another one: its rubber is carried on. Any other part is not.
func TestAnImpellerThatComesOutOnceMore(t *testing.T) {
	for item, carried := range map[string]bool{teardown.Impeller: true, "cover": false} {
		a := teardown.NewAccount()
		take := func(x teardown.Act) { a.Take(teardown.Done{Act: x}) }
		take(teardown.Act{Do: teardown.Begin, Task: &catalogue.Task{ID: "t", Items: []catalogue.Item{
			{ID: item, Kind: teardown.Part, Count: 1}}}})
		take(teardown.Act{Do: teardown.Off, Item: "t/" + item, Count: 1})
		take(teardown.Act{Do: teardown.SetWheel, Wheel: &teardown.Wheel{Blades: []teardown.Blade{{State: teardown.Gone}}}})
		take(teardown.Act{Do: teardown.On, Item: "t/" + item, Count: 1, State: teardown.New})
		take(teardown.Act{Do: teardown.Off, Item: "t/" + item, Count: 1})
		assert.Equal(t, carried, a.Wheel == nil, item)
		assert.InDelta(t, 1, a.Ledger.AtLarge, 1e-9, "nobody found it")
	}
}

// In an account of several jobs an act is of its own job's item, and of another's where its own has none.
func TestAnActOfAnotherJob(t *testing.T) {
	task := func(id string) *catalogue.Task {
		return &catalogue.Task{ID: id, Items: []catalogue.Item{{ID: "cover", Kind: teardown.Part, Count: 1}}}
	}
	a := teardown.NewAccount()
	a.Take(teardown.Done{Scope: "1/", Act: teardown.Act{Do: teardown.Begin, Task: task("t")}})
	a.Take(teardown.Done{Scope: "2/", Act: teardown.Act{Do: teardown.Begin, Task: task("t")}})
	off := teardown.Act{Do: teardown.Off, Item: "t/cover", Count: 1}
	a.Take(teardown.Done{Scope: "2/", Act: off})
	assert.Equal(t, []int{0, 1}, []int{of(t, a, "1/t/cover").Off, of(t, a, "2/t/cover").Off})
	off.Item = "1/t/cover"
	a.Take(teardown.Done{Scope: "2/", Act: off})
	assert.Equal(t, []int{1, 1}, []int{of(t, a, "1/t/cover").Off, of(t, a, "2/t/cover").Off})
	off.Item = "t/elsewhere"
	a.Take(teardown.Done{Scope: "2/", Act: off})
	assert.Len(t, a.Items, 2)
}

// How a part went back, in words: nothing is said of what was not.
func TestHowAPartWentBackInWords(t *testing.T) {
	assert.Empty(t, teardown.Refit{}.Says())
	assert.Len(t, teardown.Refit{Plate: "C 12"}.Says(), 1)
	assert.Len(t, teardown.Refit{Plate: "C 12", TorqueNM: 0.5}.Says(), 2)
}
