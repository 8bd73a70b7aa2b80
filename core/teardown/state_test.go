package teardown_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/teardown"
)

// of is an item of an account.
func of(t *testing.T, a *teardown.Account, key string) teardown.Item {
	for _, i := range a.Items {
		if i.Key == key {
			return i
		}
	}
	require.Fail(t, "no such item", key)
	return teardown.Item{}
}

// What is off, back, excused and noted of one item, tap by tap.
func TestAnItemTapByTap(t *testing.T) {
	noted := func(x teardown.Act, words string) teardown.Act {
		x.Words = words
		return x
	}
	a := hands(noted(cameOff("clip", 2), "one bent"))
	clip := of(t, a, "t/clip")
	assert.Equal(t, []any{2, 2, false, []string{"one bent"}}, []any{clip.Off, clip.StillOff(), clip.Back(), clip.Notes})
	assert.Equal(t, 3, of(t, hands(cameOff("clip", 5)), "t/clip").Off, "no more can be off than there are")
	assert.Equal(t, 0, of(t, hands(cameOff("clip", 1), cameOff("clip", -3)), "t/clip").Off)
	assert.False(t, of(t, hands(), "t/clip").Back(), "it was never off")

	a = hands(cameOff("clip", 3), wentBack("clip", teardown.New, 2), noted(wentBack("clip", teardown.Reused, 1), "sound"),
		noted(wentBack("clip", teardown.New, -1), "one too many"))
	clip = of(t, a, "t/clip")
	assert.Equal(t, []any{1, 1, 2, 1, "sound"}, []any{clip.New, clip.Reused, clip.On(), clip.StillOff(), clip.Why})
	assert.Equal(t, []string{"one too many"}, clip.Notes, "why the old one goes back is no note")
	assert.Equal(t, time.Unix(3, 0), a.FittedAt["t/clip"])
	gone := hands(cameOff("clip", 1), wentBack("clip", teardown.New, -2), wentBack("clip", teardown.Reused, -2))
	assert.Equal(t, []int{0, 0}, []int{of(t, gone, "t/clip").New, of(t, gone, "t/clip").Reused})

	excused := hands(cameOff("seal", 1), teardown.Act{Do: teardown.Excuse, Item: "seal", Words: "none fitted"})
	assert.True(t, of(t, excused, "t/seal").Back())
	assert.False(t, of(t, hands(cameOff("seal", 1), teardown.Act{Do: teardown.Excuse, Item: "seal", Words: "x"},
		cameOff("seal", 1)), "t/seal").Back(), "one more came off: asked again")

	// clamps are told without how many are back, and keep what was told before
	hose := of(t, hands(cameOff("low", 1), wentBack("low", teardown.New, 1), teardown.Act{Do: teardown.On, Item: "low",
		State: teardown.New, Clamps: 2, Reach: true, Chafe: true}, wentBack("low", teardown.Reused, -1)), "t/low")
	assert.Equal(t, []any{1, 0, 2, true, true}, []any{hose.New, hose.Reused, hose.Clamps, hose.Reach, hose.Chafe})

	counted := func(n int, shape string) teardown.Item {
		return of(t, hands(teardown.Act{Do: teardown.Counted, Item: "bolts", Count: 4, State: teardown.Rectangle},
			teardown.Act{Do: teardown.Counted, Item: "bolts", Count: n, State: shape}), "t/bolts")
	}
	assert.Equal(t, teardown.Rectangle, counted(8, "").Shape, "how they stand was said before")
	assert.Equal(t, teardown.Ring, counted(8, teardown.Ring).Shape)
	assert.Equal(t, 8, counted(8, "").Count)
}

// What was off and back and comes off once more is counted afresh, with its notes; while some is off it goes on.
func TestOnceMore(t *testing.T) {
	first := []teardown.Act{cameOff("clip", 2), wentBack("clip", teardown.New, 2)}
	again := of(t, hands(append(first, cameOff("clip", 1))...), "t/clip")
	assert.Equal(t, []int{1, 1, 0}, []int{again.Round, again.Off, again.New})
	part := of(t, hands(cameOff("clip", 2), wentBack("clip", teardown.New, 1), cameOff("clip", 1)), "t/clip")
	assert.Equal(t, []int{0, 3, 1}, []int{part.Round, part.Off, part.New})
	back := of(t, hands(append(first, cameOff("clip", -1))...), "t/clip")
	assert.Equal(t, []int{0, 1, 2}, []int{back.Round, back.Off, back.New}, "what is taken back is no new round")
	twice := of(t, hands(append(first, cameOff("clip", 1), wentBack("clip", teardown.New, 1), cameOff("clip", 2))...), "t/clip")
	assert.Equal(t, 2, twice.Round)
}

// What comes off or is shut lets the looks go that only a person makes, and a start does; putting back does not.
func TestWhatLetsLooksGo(t *testing.T) {
	tick := teardown.Act{Do: teardown.Tick, Item: "dry"}
	stands := func(acts ...teardown.Act) bool {
		a := teardown.NewAccount()
		for _, x := range append([]teardown.Act{tick}, acts...) {
			a.Take(teardown.Done{Act: x})
		}
		_, ok := a.Ticked["dry"]
		return ok
	}
	assert.True(t, stands())
	assert.False(t, stands(teardown.Act{Do: teardown.Untick, Item: "dry"}))
	assert.False(t, stands(teardown.Act{Do: teardown.Isolate, Item: "seacock"}))
	assert.True(t, stands(teardown.Act{Do: teardown.Lift, Item: "seacock"}))
	assert.False(t, stands(teardown.Act{Do: teardown.Start}))
	assert.False(t, stands(teardown.Act{Do: teardown.Add, Adds: &catalogue.Item{ID: "x", Count: 1}}))
	a := hands(cameOff("cover", 1), wentBack("cover", teardown.New, 1))
	assert.Equal(t, 1, a.Stirred)
	assert.True(t, a.Opened && !a.Oil && !a.Drained)
	a.Take(teardown.Done{Act: teardown.Act{Do: teardown.Isolate, Item: "coolant"}})
	assert.True(t, a.Drained)
	assert.Equal(t, 2, a.Stirred)
	a.Take(teardown.Done{Act: teardown.Act{Do: teardown.Add, Adds: &catalogue.Item{ID: "filter", Count: 1, Oil: true}}})
	assert.True(t, a.Oil)
	a.Take(teardown.Done{Act: teardown.Act{Do: teardown.Start}, By: "Kit"})
	assert.False(t, a.Opened || a.Oil || a.Drained, "the next start is looked at afresh")
	assert.Equal(t, "Kit", a.Starts[0].By)
}

// What is shut is shut once, until it is lifted, each by itself; an account in which something was done is not empty.
func TestWhatIsShut(t *testing.T) {
	var none *teardown.Account
	assert.True(t, none.Empty())
	assert.True(t, teardown.NewAccount().Empty())
	a := teardown.NewAccount()
	take := func(do, item string) {
		a.Take(teardown.Done{Act: teardown.Act{Do: do, Item: item}, By: "Kit", At: time.Unix(9, 0)})
	}
	take(teardown.Isolate, "seacock")
	take(teardown.Isolate, "battery")
	take(teardown.Isolate, "seacock")
	assert.False(t, a.Empty())
	require.Len(t, a.Isolated, 2)
	assert.Equal(t, teardown.Isolated{ID: "seacock", Banner: "SEACOCK SHUT", By: "Kit", At: time.Unix(9, 0)}, a.Isolated[1])
	assert.False(t, a.Drained)
	take(teardown.Lift, "seacock")
	assert.Equal(t, []bool{false, true}, []bool{a.Shut("seacock"), a.Shut("battery")})
}

// A task is begun once, what is added is off at once; the rebuild goes backwards.
func TestTheRebuildGoesBackwards(t *testing.T) {
	a := hands(cameOff("cover", 1), cameOff("gasket", 1), cameOff("clip", 2), wentBack("gasket", teardown.New, 1))
	a.Take(teardown.Done{Act: teardown.Act{Do: teardown.Begin, Task: &catalogue.Task{ID: "t", Items: []catalogue.Item{
		{ID: "cover", Label: "Cover", Kind: teardown.Part, Count: 1}}}}})
	assert.Len(t, a.Tasks, 1)
	bracket := &catalogue.Item{ID: "b", Label: "Bracket", Kind: teardown.Part, Count: 2}
	for range 2 {
		a.Take(teardown.Done{Act: teardown.Act{Do: teardown.Add, Adds: bracket}})
	}
	var order []string
	for _, i := range a.Rebuild() {
		order = append(order, i.Key)
	}
	assert.Equal(t, []string{"own/b", "t/clip", "t/cover"}, order)
	assert.Equal(t, 2, of(t, a, "own/b").Off)
	assert.True(t, a.Has("own/b") && !a.Has("own/c"))
	assert.Len(t, a.Keys(), 8)
	assert.True(t, a.Keys()["t/seal"])
}

// Another impeller: what is at large of the last one goes on with it, its pieces and looks do not; one that is fitted new
// answers what a check saw of the old.
func TestAnotherImpeller(t *testing.T) {
	missing := func(share float64) *teardown.Wheel {
		return &teardown.Wheel{Blades: []teardown.Blade{{State: teardown.Torn, Share: share}, {State: teardown.Sound}}}
	}
	take := func(a *teardown.Account, scope string, x teardown.Act) {
		a.Take(teardown.Done{Act: x, Scope: scope})
	}
	piece := func(share float64) teardown.Act {
		return teardown.Act{Do: teardown.Found, Item: "exchanger", Piece: &teardown.Piece{Share: share}}
	}
	wheel := func(share float64) teardown.Act { return teardown.Act{Do: teardown.SetWheel, Wheel: missing(share)} }
	a := teardown.NewAccount()
	take(a, "1/", wheel(0.8))
	take(a, "1/", piece(0.3))
	take(a, "1/", teardown.Act{Do: teardown.Looked, Item: "exchanger"})
	take(a, "1/", wheel(0.9)) // tapped again in the same job: the same wheel
	assert.InDelta(t, 0.6, a.Ledger.AtLarge, 1e-9)
	assert.Equal(t, []string{"exchanger"}, a.Ledger.Looked)
	take(a, "2/", wheel(0.2))
	assert.InDelta(t, 0.8, a.Ledger.AtLarge, 1e-9, "0.6 of before and 0.2 of this one")
	assert.Empty(t, a.Ledger.Looked)
	take(a, "2/", piece(0.8))
	assert.False(t, a.Ledger.Open())
	take(a, "3/", wheel(0.2))
	assert.InDelta(t, 0.2, a.Ledger.AtLarge, 1e-9, "what was found is not carried on")

	fitted := func(item string) bool {
		a := teardown.NewAccount()
		task := &catalogue.Task{ID: "t", Items: []catalogue.Item{{ID: item, Kind: teardown.Part, Count: 1}}}
		take(a, "", teardown.Act{Do: teardown.Begin, Task: task})
		a.BladesMissing(true)
		take(a, "", teardown.Act{Do: teardown.Off, Item: "t/" + item, Count: 1})
		take(a, "", teardown.Act{Do: teardown.On, Item: "t/" + item, Count: 1, State: teardown.New})
		take(a, "", wheel(1e-12))
		take(a, "", teardown.Act{Do: teardown.SetWheel, Wheel: &teardown.Wheel{Blades: []teardown.Blade{{State: teardown.Sound}}}})
		return a.Ledger.Denied
	}
	assert.False(t, fitted(teardown.Impeller), "what the check saw was the old one")
	assert.True(t, fitted("cover"))
}

// What is said to be put right stands once, as said last; the job waits until it goes on; used parts and methods are kept
// as they come.
func TestWhatElseIsSaid(t *testing.T) {
	a := teardown.NewAccount()
	take := func(x teardown.Act, entry string) {
		a.Take(teardown.Done{Act: x, Entry: entry, By: entry, At: time.Unix(int64(len(entry)), 0)})
	}
	take(teardown.Act{Do: teardown.PutRight, Item: "worn"}, "a")
	take(teardown.Act{Do: teardown.PutRight, Item: "leak"}, "b")
	take(teardown.Act{Do: teardown.PutRight, Item: "worn"}, "c")
	require.Len(t, a.PutRight, 2)
	assert.Equal(t, []string{"leak", "worn"}, []string{a.PutRight[0].Item, a.PutRight[1].Item})
	assert.Equal(t, "c", a.PutRight[1].Entry)
	take(teardown.Act{Do: teardown.HowFar, Item: "worn", Share: 0.4}, "d")
	take(teardown.Act{Do: teardown.HowFar, Item: "leak", Share: 0.2}, "e")
	for fault, share := range map[string]float64{"worn": 0.4, "leak": 0.2} {
		is, ok := a.Extent(fault)
		assert.True(t, ok)
		assert.Equal(t, share, is)
	}
	take(teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: "Seal"}}, "ff")
	assert.Equal(t, []string{"ff"}, a.UsedFrom)
	assert.Equal(t, time.Unix(2, 0), a.UsedAt["ff"])
	take(teardown.Act{Do: teardown.Heed, Item: "flooding"}, "g")
	take(teardown.Act{Do: teardown.Choose, Item: "vent", State: "open"}, "h")
	take(teardown.Act{Do: teardown.SetLeaks}, "i")
	assert.Equal(t, []any{[]string{"flooding"}, "open", true, 0}, []any{a.Heeded, a.Methods["vent"], a.LeaksSaid, len(a.Leaks)})
}
