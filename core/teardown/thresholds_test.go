package teardown_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/teardown"
)

// A sound impeller may go back up to half of its hours, and not beyond; at its hours it goes.
func TestASoundImpellerGoesBackUpToHalfItsHours(t *testing.T) {
	for hours, want := range map[float64]string{1: teardown.ReuseIt, 149: teardown.ReuseIt, 150: teardown.Replace,
		200: teardown.Replace, 239: teardown.Replace, 299: teardown.Replace, 300: teardown.Replace} {
		w := wheel(teardown.Sound, teardown.Sound, teardown.Sound)
		w.Hours, w.Life = hours, 300
		verdict, _ := w.Judge(true)
		assert.Equal(t, want, verdict, "%g of 300 h", hours)
	}
}

// At a limit the wear is still good, or still to be dressed; past it, it is not.
func TestAtTheLimitsOfWear(t *testing.T) {
	for _, c := range []struct {
		mm   float64
		want string
	}{
		{0.1, "Cam: 0.10 mm: good"},
		{0.11, "Cam: 0.11 mm, over 0.1 mm: dress it, or fit a new one with the next kit"},
		{0.3, "Cam: 0.30 mm, over 0.1 mm: dress it, or fit a new one with the next kit"},
		{0.31, "Cam: 0.31 mm, over 0.3 mm: replace it"},
	} {
		b := teardown.Body{CamMM: c.mm}
		assert.Equal(t, c.want, b.Judge()[0].String())
		assert.Equal(t, c.mm > 0.1, b.Scored(), "%g", c.mm)
	}
	for _, c := range []struct {
		body teardown.Body
		want string
	}{
		{teardown.Body{CoverMM: 0.3}, "Cover: 0.30 mm, over 0.1 mm: turn it over, its other side is unmarked"},
		{teardown.Body{CoverMM: 0.31}, "Cover: 0.31 mm: turn it over once, its other side is unmarked"},
		{teardown.Body{CoverMM: 0.2, CoverOnce: true},
			"Cover: 0.20 mm, over 0.1 mm: dress it flat on glass with fine paper (about P500), no hollow"},
		{teardown.Body{CoverMM: 0.2, OtherSideBad: true},
			"Cover: 0.20 mm, over 0.1 mm: dress it flat on glass with fine paper (about P500), no hollow"},
		{teardown.Body{CoverMM: 0.31, CoverOnce: true}, "Cover: 0.31 mm, over 0.3 mm: replace it"},
		{teardown.Body{CoverMM: 0.31, OtherSideBad: true}, "Cover: 0.31 mm, over 0.3 mm: replace it"},
	} {
		assert.Equal(t, c.want, c.body.Judge()[2].String())
	}
}

// The play of a drive is told by how the pump is driven; one that was not measured is not told.
func TestAtTheLimitsOfADrive(t *testing.T) {
	assert.Len(t, teardown.Body{}.Judge(), 3)
	for _, c := range []struct {
		drive string
		mm    float64
		want  string
	}{
		{"key", 0.3, "Key and keyway: 0.30 mm: good"},
		{"key", 0.31, "Key and keyway: 0.31 mm, over 0.3 mm: fit a new key"},
		{"spline", 0.6, "Spline: 0.60 mm, over 0.3 mm: new impeller, and look at the shaft's teeth"},
		{"tang", 0.61, "Drive tang: 0.61 mm, over 0.6 mm: replace the shaft, or the pump"},
		{"gear", 0.61, "Gear: 0.61 mm, over 0.6 mm: replace the gear, and look at what drives it"},
	} {
		says := teardown.Body{Drive: c.drive, DrivePlayMM: c.mm}.Judge()
		assert.Equal(t, c.want, says[3].String())
		assert.False(t, teardown.Body{Drive: c.drive, DrivePlayMM: c.mm}.Scored(), "it is no wear of the body")
	}
}

// Two thirds of the bore left is to be cleaned, half is to be replaced; a wall that is gone or cracked goes whatever
// the bore, a face that is not flat only wants dressing. What the bench says to the diagnosis goes with it.
func TestAtTheLimitsOfAnElbow(t *testing.T) {
	for _, c := range []struct {
		elbow         teardown.Elbow
		want          string
		narrow, holed bool
	}{
		{teardown.Elbow{BoreMM: 60.1, NewBoreMM: 90}, "good", false, false},
		{teardown.Elbow{BoreMM: 60, NewBoreMM: 90}, "clean", true, false},
		{teardown.Elbow{BoreMM: 45.1, NewBoreMM: 90}, "clean", true, false},
		{teardown.Elbow{BoreMM: 45, NewBoreMM: 90}, "replace", true, false},
		{teardown.Elbow{BoreMM: 90, NewBoreMM: 90, Pitted: true}, "replace", false, true},
		{teardown.Elbow{BoreMM: 90, NewBoreMM: 90, Cracked: true}, "replace", false, true},
		{teardown.Elbow{BoreMM: 90, NewBoreMM: 90, FaceBad: true}, "good", false, false},
	} {
		verdict, reasons := c.elbow.Judge()
		assert.Equal(t, c.want, verdict, "%+v", c.elbow)
		assert.Len(t, reasons, 1)
		assert.Equal(t, []teardown.Stated{{Finding: "elbow-narrowed", Present: c.narrow},
			{Finding: "elbow-thin-or-holed", Present: c.holed}},
			teardown.Act{Do: teardown.SetElbow, Elbow: &c.elbow}.Findings(), "%+v", c.elbow)
	}
}

// An act whose measure is missing says nothing, and a whole wheel says that it is whole.
func TestTheBenchSaysNoMoreThanWasMeasured(t *testing.T) {
	for _, do := range []string{teardown.SetWheel, teardown.SetBody, teardown.SetElbow, teardown.Found} {
		a := teardown.Act{Do: do}
		if do == teardown.Found {
			a.Item, a.Piece = "roof", &teardown.Piece{Share: 1}
		}
		assert.Empty(t, a.Findings(), do)
	}
	whole := teardown.Act{Do: teardown.SetWheel, Wheel: wheel(teardown.Sound, teardown.Sound, teardown.Sound)}
	for _, f := range whole.Findings() {
		assert.False(t, f.Present, f.Finding)
	}
	sound := teardown.Act{Do: teardown.SetBody, Body: &teardown.Body{PlateMM: 0.1}}
	assert.Equal(t, []teardown.Stated{{Finding: "pump-body-scored"}}, sound.Findings())
}

// The ends of the ranges are in them.
func TestTheEndsOfTheRanges(t *testing.T) {
	put := func(change func(a *teardown.Act)) teardown.Act {
		a := teardown.Act{Do: teardown.On, Item: "x", Count: 1, State: teardown.New}
		change(&a)
		return a
	}
	bolts := func(count int, shape string) teardown.Act {
		return teardown.Act{Do: teardown.Add, Adds: &catalogue.Item{ID: "b", Label: "Bolts", Kind: teardown.Fasteners,
			Count: count, Shape: shape}}
	}
	for _, a := range []teardown.Act{
		{Do: teardown.Off, Item: "x", Count: -50}, {Do: teardown.Off, Item: "x", Count: 200},
		put(func(a *teardown.Act) { a.Clamps = 8 }),
		put(func(a *teardown.Act) { a.State, a.Words = teardown.Reused, "the new one is on order" }),
		bolts(1, ""), bolts(24, teardown.Ring), bolts(3, teardown.Rectangle),
		bolts(2, "heap"), bolts(25, "heap"), // too few or too many for a pattern: how they stand is not asked
		{Do: teardown.Tighten, Item: "x", Pass: 1}, {Do: teardown.Tighten, Item: "x", Pass: 6},
	} {
		require.NoError(t, a.Check(), "%+v", a)
	}
	for _, a := range []teardown.Act{
		{Do: teardown.Off, Item: "x", Count: -51}, {Do: teardown.Off, Item: "x", Count: 201}, {Do: teardown.Off, Item: "x"},
		put(func(a *teardown.Act) { a.Clamps = 9 }),
		put(func(a *teardown.Act) { a.Clamps = -1 }),
		bolts(3, "heap"), bolts(24, "heap"), bolts(0, ""), bolts(201, ""),
		{Do: teardown.Tighten, Item: "x"}, {Do: teardown.Tighten, Item: "x", Pass: 7},
	} {
		require.Error(t, a.Check(), "%+v", a)
	}
}
