package teardown_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"hevrin/core/catalogue"
	"hevrin/core/teardown"
)

// hands is an account of these acts on a task with a cover, a seal, bolts, and a hose below the waterline and one above.
func hands(acts ...teardown.Act) *teardown.Account {
	task := &catalogue.Task{ID: "t", Items: []catalogue.Item{
		{ID: "cover", Label: "Cover", Kind: teardown.Part, Count: 1},
		{ID: "clip", Label: "Clip", Kind: teardown.Part, Count: 3},
		{ID: "seal", Label: "O-ring", Kind: teardown.Seal, Count: 2, Where: "cap"},
		{ID: "gasket", Label: "Gasket", Kind: teardown.Seal, Count: 1},
		{ID: "bolts", Label: "Bolts", Kind: teardown.Fasteners, Count: 6},
		{ID: "low", Label: "Suction hose", Kind: teardown.Hose, Count: 1, Below: true},
		{ID: "high", Label: "Header hose", Kind: teardown.Hose, Count: 1}}}
	a := teardown.NewAccount()
	a.Take(teardown.Done{Act: teardown.Act{Do: teardown.Begin, Task: task}})
	for i, x := range acts {
		if x.Item != "" && x.Do != teardown.Isolate && x.Do != teardown.Lift && x.Do != teardown.Override {
			x.Item = "t/" + x.Item
		}
		a.Take(teardown.Done{Act: x, At: time.Unix(int64(i), 0)})
	}
	return a
}

func cameOff(item string, n int) teardown.Act {
	return teardown.Act{Do: teardown.Off, Item: item, Count: n}
}

func wentBack(item, state string, n int) teardown.Act {
	return teardown.Act{Do: teardown.On, Item: item, Count: n, State: state}
}

// Each thing that must be so before a start: what stands in the way in words, and the touch that settles it. Nothing is
// ready before, each is once it is so.
func TestWhatBarsAStart(t *testing.T) {
	clamps := func(item string, n int, reach bool) teardown.Act {
		return teardown.Act{Do: teardown.On, Item: item, State: teardown.Reused, Clamps: n, Reach: reach}
	}
	pass := func(n int) teardown.Act { return teardown.Act{Do: teardown.Tighten, Item: "bolts", Pass: n} }
	for _, c := range []struct {
		acts []teardown.Act
		why  string // of the one that bars; empty: ready
		is   teardown.Condition
	}{
		{nil, "", teardown.Condition{}},
		{[]teardown.Act{cameOff("cover", 1)}, "Cover: still off",
			teardown.Condition{ID: "off:t/cover", Settle: teardown.On, Item: "t/cover", State: teardown.Reused, Count: 1}},
		{[]teardown.Act{cameOff("clip", 3), wentBack("clip", teardown.New, 1)}, "2 × Clip: still off",
			teardown.Condition{ID: "off:t/clip", Settle: teardown.On, Item: "t/clip", State: teardown.Reused, Count: 2}},
		{[]teardown.Act{cameOff("clip", 1), wentBack("clip", teardown.Reused, 1)}, "", teardown.Condition{}},
		{[]teardown.Act{cameOff("clip", 1), wentBack("clip", teardown.Reused, 2)}, "Clip: 1 more on than came off: count again",
			teardown.Condition{ID: "count:t/clip"}},
		{[]teardown.Act{cameOff("seal", 2), wentBack("seal", teardown.New, 1)}, "All seals replaced: O-ring (cap): 2 off, 1 on",
			teardown.Condition{ID: "seals-matched"}},
		{[]teardown.Act{cameOff("seal", 2), wentBack("seal", teardown.New, 2)}, "", teardown.Condition{}},
		{[]teardown.Act{cameOff("seal", 1), wentBack("seal", teardown.New, 2)},
			"All seals replaced: O-ring (cap): 2 on, only 1 came off: is an old one still in there?",
			teardown.Condition{ID: "seals-matched"}},
		{[]teardown.Act{cameOff("gasket", 1), wentBack("gasket", teardown.Reused, 1)},
			"All seals replaced: Gasket: the old one went back without a reason", teardown.Condition{ID: "seals-matched"}},
		{[]teardown.Act{cameOff("gasket", 1), {Do: teardown.On, Item: "gasket", Count: 1, State: teardown.Reused,
			Words: "none aboard"}}, "", teardown.Condition{}},
		{[]teardown.Act{cameOff("gasket", 1), {Do: teardown.Excuse, Item: "gasket", Words: "sealant"}}, "", teardown.Condition{}},
		// below the waterline two clamps whose heads a driver reaches, above it one
		{[]teardown.Act{cameOff("low", 1), wentBack("low", teardown.New, 1)}, "Suction hose: clamped: 0 of 2 clamps",
			teardown.Condition{ID: "clamps:t/low", Settle: teardown.On, Item: "t/low", State: teardown.New, Clamps: 2}},
		{[]teardown.Act{cameOff("low", 1), wentBack("low", teardown.Reused, 1), clamps("low", 1, true)},
			"Suction hose: clamped: 1 of 2 clamps",
			teardown.Condition{ID: "clamps:t/low", Settle: teardown.On, Item: "t/low", State: teardown.Reused, Clamps: 2}},
		{[]teardown.Act{cameOff("low", 1), wentBack("low", teardown.Reused, 1), clamps("low", 2, false)},
			"Suction hose: clamped: clamp heads where no driver reaches",
			teardown.Condition{ID: "clamps:t/low", Settle: teardown.On, Item: "t/low", State: teardown.Reused, Clamps: 2}},
		{[]teardown.Act{cameOff("low", 1), wentBack("low", teardown.Reused, 1), clamps("low", 2, true)}, "", teardown.Condition{}},
		{[]teardown.Act{cameOff("high", 1), wentBack("high", teardown.Reused, 1)}, "Header hose: clamped: 0 of 1 clamps",
			teardown.Condition{ID: "clamps:t/high", Settle: teardown.On, Item: "t/high", State: teardown.Reused, Clamps: 1}},
		{[]teardown.Act{cameOff("high", 1), wentBack("high", teardown.Reused, 1), clamps("high", 1, false)}, "", teardown.Condition{}},
		// a pattern is asked from three fasteners up, once they are back
		{[]teardown.Act{cameOff("bolts", 2), wentBack("bolts", teardown.Reused, 2)}, "", teardown.Condition{}},
		{[]teardown.Act{cameOff("bolts", 3), wentBack("bolts", teardown.Reused, 3)},
			"Fasteners tightened in their passes: Bolts: 0 of 3 passes", teardown.Condition{ID: "tightened"}},
		{[]teardown.Act{cameOff("bolts", 3), wentBack("bolts", teardown.Reused, 3), pass(2)},
			"Fasteners tightened in their passes: Bolts: 2 of 3 passes", teardown.Condition{ID: "tightened"}},
		{[]teardown.Act{cameOff("bolts", 3), wentBack("bolts", teardown.Reused, 3), pass(3), pass(1)}, "", teardown.Condition{}},
		{[]teardown.Act{cameOff("bolts", 3), wentBack("bolts", teardown.Reused, 3), pass(3), cameOff("bolts", 3),
			wentBack("bolts", teardown.Reused, 3)}, "Fasteners tightened in their passes: Bolts: 0 of 3 passes",
			teardown.Condition{ID: "tightened"}},
		{[]teardown.Act{{Do: teardown.SetWheel, Wheel: &teardown.Wheel{Blades: []teardown.Blade{{State: teardown.Gone}}}}},
			"All rubber accounted for: 1.00 missing, 0.00 found: 1.00 of a blade unaccounted for",
			teardown.Condition{ID: "pieces"}},
		{[]teardown.Act{{Do: teardown.Isolate, Item: "battery"}}, "Battery on again: battery off",
			teardown.Condition{ID: "battery", Settle: teardown.Lift, Item: "battery"}},
		{[]teardown.Act{{Do: teardown.Isolate, Item: "battery"}, {Do: teardown.Lift, Item: "battery"}}, "",
			teardown.Condition{}},
		// the raw water's own are asked elsewhere, with what the boat lies in
		{[]teardown.Act{{Do: teardown.Isolate, Item: "seacock"}, {Do: teardown.Isolate, Item: "leg-hose"}}, "",
			teardown.Condition{}},
	} {
		list := hands(c.acts...).Conditions()
		standing := teardown.Standing(list)
		assert.Equal(t, c.why == "", teardown.Ready(list), "%v", c.acts)
		if c.why == "" {
			assert.Empty(t, standing, "%v", c.acts)
			continue
		}
		if !assert.Equal(t, []string{c.why}, standing) {
			continue
		}
		for _, is := range list {
			if !is.Passed() {
				assert.Equal(t, c.is, teardown.Condition{ID: is.ID, Settle: is.Settle, Item: is.Item, State: is.State,
					Count: is.Count, Clamps: is.Clamps}, c.why)
			}
		}
	}
}

// What is passed over stays so only while the same stands in the way; once more comes off, it is asked again.
func TestWhatIsPassedOverIsAskedAgainWhenItChanges(t *testing.T) {
	over := func(against string) teardown.Act {
		return teardown.Act{Do: teardown.Override, Item: "seals-matched", Words: "no ring aboard", Against: against}
	}
	ready := func(acts ...teardown.Act) bool {
		a := hands(acts...)
		list := a.Conditions()
		a.Overrides(list)
		return teardown.Ready(list)
	}
	seal := []teardown.Act{cameOff("gasket", 1)}
	assert.False(t, ready(seal...))
	assert.True(t, ready(append(seal, over("Gasket: 1 off, 0 on"))...))
	assert.False(t, ready(append(seal, over("Gasket: 1 off, 0 on"), cameOff("seal", 1))...), "another seal came off since")
	assert.False(t, ready(append(seal, over("something else"))...))
	a := hands(append(seal, over("Gasket: 1 off, 0 on"), wentBack("gasket", teardown.New, 1))...)
	list := a.Conditions()
	a.Overrides(list)
	for _, c := range list {
		assert.Empty(t, c.Overridden, "what is so is not passed over")
	}
	assert.Len(t, a.PassedOver(), 1)
	// what is passed over lets a start go ahead, and a job be closed
	assert.Empty(t, teardown.Standing([]teardown.Condition{{ID: "x", Stands: true, Overridden: "because"}}))
	assert.Empty(t, teardown.Standing([]teardown.Condition{{ID: "x", Why: "asked at the start alone"}}))
	assert.Equal(t, []string{"X: why"}, teardown.Standing([]teardown.Condition{{Label: "X", Why: "why", Stands: true}}))
}

// What is well is listed too, as one line each; what is not, in its place.
func TestTheListOfWhatMustBeSo(t *testing.T) {
	ids := func(acts ...teardown.Act) (list []string) {
		for _, c := range hands(acts...).Conditions() {
			list = append(list, c.ID)
		}
		return list
	}
	assert.Equal(t, []string{"parts-back", "seals-matched", "hoses-clamped", "tightened", "pieces"}, ids())
	assert.Equal(t, []string{"off:t/cover", "off:t/low", "seals-matched", "clamps:t/high", "tightened", "pieces", "battery"},
		ids(cameOff("cover", 1), cameOff("low", 1), cameOff("high", 1), wentBack("high", teardown.New, 1),
			teardown.Act{Do: teardown.Isolate, Item: "battery"}))
}
