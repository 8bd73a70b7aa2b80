package teardown_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/teardown"
	"hevrin/core/units"
)

func refit(item string, r teardown.Refit) teardown.Act {
	return teardown.Act{Do: teardown.Refitted, Item: change + item, Refit: &r}
}

func used(label string, n float64, holds ...string) teardown.Act {
	return teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: label, Quantity: n, State: teardown.New, Holds: holds}}
}

func itemOf(t *testing.T, a *teardown.Account, id string) teardown.Item {
	t.Helper()
	for _, i := range a.Items {
		if i.ID == id {
			return i
		}
	}
	require.Fail(t, "not on the list", id)
	return teardown.Item{}
}

func TestHowAPartWentBackIsKeptUntilItIsOffAgain(t *testing.T) {
	r := teardown.Refit{OtherMake: true, Thread: teardown.Paste, TorqueNM: 8, Places: "long stud lower inboard"}
	acts := []teardown.Act{shut(), begun(t), off("cover", 1), on("cover", 1), refit("cover", r)}
	assert.Equal(t, r, itemOf(t, account(t, acts...), "cover").Refit)
	var says []string
	for _, s := range r.Says() {
		says = append(says, s.In(units.Metric))
	}
	assert.Equal(t, []string{"of another make", "paste on the threads", "long stud lower inboard", "done up to 8.0 N m"}, says)
	assert.Equal(t, teardown.Refit{}, itemOf(t, account(t, append(acts, off("cover", 1))...), "cover").Refit)
}

func TestSealantInPlaceOfAGasketCountsForItUntilTheProperPart(t *testing.T) {
	acts := []teardown.Act{shut(), begun(t), off("cover-seal", 1), refit("cover-seal", teardown.Refit{Sealant: "grey, thin"})}
	a := account(t, acts...)
	assert.Zero(t, itemOf(t, a, "cover-seal").StillOff())
	for _, c := range a.Conditions() {
		assert.True(t, c.OK || c.ID != "seals-matched", c.Why)
	}
	assert.Equal(t, 1, itemOf(t, account(t, append(acts, off("cover-seal", 1))...), "cover-seal").StillOff(), "off again")
}

// Taken out of what was said, the sealant excuses nothing any more; and a part that is off is not back for sealant.
func TestSealantExcusesASealAloneAndOnlyWhileItIsSaid(t *testing.T) {
	acts := []teardown.Act{shut(), begun(t), off("cover-seal", 1), refit("cover-seal", teardown.Refit{Sealant: "grey"}),
		refit("cover-seal", teardown.Refit{OtherMake: true})}
	assert.Equal(t, 1, itemOf(t, account(t, acts...), "cover-seal").StillOff())
	cover := account(t, shut(), begun(t), off("cover", 1), refit("cover", teardown.Refit{Sealant: "grey"}))
	assert.Equal(t, 1, itemOf(t, cover, "cover").StillOff())
	assert.Empty(t, itemOf(t, cover, "cover").Refit.Sealant)
}

func TestRefitsThatCannotBe(t *testing.T) {
	for what, r := range map[string]teardown.Refit{"a thread with butter": {Thread: "butter"}, "below nothing": {TorqueNM: -1},
		"beyond any bolt here": {TorqueNM: 1001}} {
		assert.Error(t, refit("cover", r).Check(), what)
	}
	assert.NoError(t, refit("cover", teardown.Refit{TorqueNM: 1000}).Check())
	assert.Error(t, teardown.Act{Do: teardown.Refitted, Item: change + "cover"}.Check(), "nothing said")
	assert.Error(t, teardown.Act{Do: teardown.Wait, Item: "part"}.Check(), "waits for what?")
	assert.Error(t, teardown.Act{Do: teardown.Wait, Item: "weather", Words: "sun"}.Check())
}

// What went back new is what was used, once, whether it was put down or not.
func TestPartsTickedNewAreThePartsUsedOnce(t *testing.T) {
	done := []teardown.Act{shut(), begun(t), off("impeller", 1), on("impeller", 1), off("cover-seal", 1), on("cover-seal", 1),
		off("cover", 1), {Do: teardown.On, Item: change + "cover", Count: 1, State: teardown.Reused}}
	for what, x := range map[string]struct {
		puts []teardown.Act
		want []string
	}{
		"nothing put down":              {nil, []string{"Impeller", "Cover gasket or O-ring"}},
		"the impeller by its name":      {[]teardown.Act{used("Impeller, 10 blades", 1)}, []string{"Impeller, 10 blades", "Cover gasket or O-ring"}},
		"a gasket, as people write":     {[]teardown.Act{used("Gasket", 1)}, []string{"Gasket", "Impeller"}},
		"a kit with both in it":         {[]teardown.Act{used("Small kit", 1, "1 impeller", "2 cover gaskets")}, []string{"Small kit"}},
		"a kit without the seal":        {[]teardown.Act{used("Kit", 1, "impeller")}, []string{"Kit", "Cover gasket or O-ring"}},
		"something else":                {[]teardown.Act{used("Glycerine", 1)}, []string{"Glycerine", "Impeller", "Cover gasket or O-ring"}},
		"an old one counts for nothing": {[]teardown.Act{{Do: teardown.Use, Used: &teardown.Used{Label: "Impeller", Quantity: 1, State: teardown.Reused}}}, []string{"Impeller", "Impeller", "Cover gasket or O-ring"}},
		"put down for the item": {[]teardown.Act{{Do: teardown.Use, Used: &teardown.Used{Label: "XK-4", Quantity: 1,
			State: teardown.New, For: change + "impeller"}}}, []string{"XK-4", "Cover gasket or O-ring"}},
	} {
		var labels []string
		for _, u := range account(t, append(done, x.puts...)...).PartsUsed() {
			labels = append(labels, u.Label)
		}
		assert.ElementsMatch(t, x.want, labels, what)
	}
}

// Two of a part back new, one put down for it: one more was used.
func TestOneOfTwoPutDownLeavesOne(t *testing.T) {
	a := account(t, teardown.Act{Do: teardown.Begin, Task: catalogueTask(t, "descale-bench")},
		teardown.Act{Do: teardown.Off, Item: "descale-bench/cap-seals", Count: 2},
		teardown.Act{Do: teardown.On, Item: "descale-bench/cap-seals", Count: 2, State: teardown.New},
		teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: "Ring", Quantity: 1, State: teardown.New,
			For: "descale-bench/cap-seals"}})
	require.Len(t, a.FittedNew(), 1)
	assert.Equal(t, 1.0, a.FittedNew()[0].Quantity)
}

func TestWhatAKitLacksForATask(t *testing.T) {
	needs := teardown.Needs(*catalogueTask(t, "pump-rebuild"))
	assert.Equal(t, []string{"Cover gasket or O-ring", "Cam", "Shaft with bearings", "Water seal", "Oil seal",
		"Slinger or drain O-ring"}, needs)
	assert.Equal(t, []string{"Cam", "Shaft with bearings", "Oil seal", "Slinger or drain O-ring"},
		teardown.Lacks(needs, []string{"Cover gasket", "Water seal", "Seal"}), "a seal of no name is none of them")
	assert.Empty(t, teardown.Lacks(nil, nil))
}

func TestAJobWaitsUntilItGoesOn(t *testing.T) {
	wait := teardown.Act{Do: teardown.Wait, Item: "part", Words: "full kit, on order"}
	assert.Equal(t, "a part: full kit, on order", account(t, wait).Waiting.Say())
	assert.Nil(t, account(t, wait, teardown.Act{Do: teardown.GoOn}).Waiting)
}

func TestEachLeakHasWhatCuresIt(t *testing.T) {
	for place, kit := range map[string]string{"cover": teardown.SmallKit, "weep-water": teardown.FullKit,
		"weep-oil": teardown.FullKit, "flange": teardown.FlangeGasket, "milky-oil": teardown.FullKit} {
		assert.Equal(t, kit, teardown.LeakKit(place), place)
	}
}
