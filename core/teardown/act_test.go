package teardown_test

import (
	"errors"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
	"hevrin/core/teardown"
	"hevrin/core/validation"
)

// fieldsOf are the fields that an act is refused for.
func fieldsOf(t *testing.T, a teardown.Act) (fields []string) {
	err := a.Check()
	var wrong validation.Errors
	require.True(t, err == nil || errors.As(err, &wrong), "%v", err)
	for _, w := range wrong {
		fields = append(fields, w.Field)
	}
	slices.Sort(fields)
	return slices.Compact(fields)
}

// Each act as it should be, at the edge of what it takes, and one step beyond.
func TestEachActAtItsEdge(t *testing.T) {
	cover := catalogue.Item{ID: "c", Label: "Cover", Kind: "part", Count: 1}
	items := func(change func(*catalogue.Item)) *catalogue.Task {
		x := cover
		change(&x)
		return &catalogue.Task{Items: []catalogue.Item{x}}
	}
	ring := func(count int, shape string) *catalogue.Task {
		return items(func(x *catalogue.Item) { x.Kind, x.Count, x.Shape = "fasteners", count, shape })
	}
	for _, c := range []struct {
		act   teardown.Act
		wrong []string
	}{
		{teardown.Act{Do: "no such act"}, []string{"do"}},
		{teardown.Act{Do: teardown.Isolate, Item: "seacock", Litres: 2000}, nil},
		{teardown.Act{Do: teardown.Isolate, Item: "seacock", Litres: 2001}, []string{"litres"}},
		{teardown.Act{Do: teardown.Lift, Item: "hatch"}, []string{"item"}},
		{teardown.Act{Do: teardown.Begin}, []string{"task"}},
		{teardown.Act{Do: teardown.Begin, Task: items(func(*catalogue.Item) {})}, nil},
		{teardown.Act{Do: teardown.Begin, Task: items(func(x *catalogue.Item) { x.ID = " " })}, []string{"task.items[0].label"}},
		{teardown.Act{Do: teardown.Begin, Task: items(func(x *catalogue.Item) { x.Label = "" })},
			[]string{"task.items[0].label"}},
		{teardown.Act{Do: teardown.Begin, Task: items(func(x *catalogue.Item) { x.Kind = "wish" })},
			[]string{"task.items[0].kind"}},
		{teardown.Act{Do: teardown.Begin, Task: items(func(x *catalogue.Item) { x.Count = 0 })},
			[]string{"task.items[0].count"}},
		{teardown.Act{Do: teardown.Begin, Task: items(func(x *catalogue.Item) { x.Count = 200 })}, nil},
		{teardown.Act{Do: teardown.Begin, Task: items(func(x *catalogue.Item) { x.Count = 201 })},
			[]string{"task.items[0].count"}},
		{teardown.Act{Do: teardown.Begin, Task: &catalogue.Task{Items: []catalogue.Item{cover, cover}}},
			[]string{"task.items[1].id"}},
		// a shape is asked only where a pattern is drawn: more than two, not more than can be shown
		{teardown.Act{Do: teardown.Begin, Task: ring(2, "star")}, nil},
		{teardown.Act{Do: teardown.Begin, Task: ring(3, "star")}, []string{"task.items[0].shape"}},
		{teardown.Act{Do: teardown.Begin, Task: ring(teardown.MostFasteners, "star")}, []string{"task.items[0].shape"}},
		{teardown.Act{Do: teardown.Begin, Task: ring(teardown.MostFasteners+1, "star")}, nil},
		{teardown.Act{Do: teardown.Begin, Task: ring(6, "")}, nil},
		{teardown.Act{Do: teardown.Begin, Task: ring(6, teardown.Shapes[0])}, nil},
		{teardown.Act{Do: teardown.Begin, Task: items(func(x *catalogue.Item) { x.Count, x.Shape = 6, "star" })}, nil},
		{teardown.Act{Do: teardown.Add}, []string{"adds"}},
		{teardown.Act{Do: teardown.Add, Adds: &cover}, nil},
		{teardown.Act{Do: teardown.Add, Adds: &catalogue.Item{}}, []string{"adds[0].count", "adds[0].kind", "adds[0].label"}},
		{teardown.Act{Do: teardown.Off, Item: "c", Count: 1}, nil},
		{teardown.Act{Do: teardown.Off, Item: "c", Count: 0}, []string{"count"}},
		{teardown.Act{Do: teardown.Off, Item: "c", Count: -50}, nil},
		{teardown.Act{Do: teardown.Off, Item: "c", Count: -51}, []string{"count"}},
		{teardown.Act{Do: teardown.Off, Item: "c", Count: 200}, nil},
		{teardown.Act{Do: teardown.Off, Item: "c", Count: 201}, []string{"count"}},
		{teardown.Act{Do: teardown.Off, Count: 1}, []string{"item"}},
		{teardown.Act{Do: teardown.On, Item: "c", Count: 1, State: teardown.New}, nil},
		{teardown.Act{Do: teardown.On, Item: "c", Count: 1, State: "old"}, []string{"state"}},
		// it is back already and its clamps are counted: how many are back is not asked again
		{teardown.Act{Do: teardown.On, Item: "c", State: teardown.Reused, Clamps: 8}, nil},
		{teardown.Act{Do: teardown.On, Item: "c", State: teardown.Reused, Clamps: 9}, []string{"clamps"}},
		{teardown.Act{Do: teardown.On, Item: "c", State: teardown.Reused}, []string{"count"}},
		{teardown.Act{Do: teardown.On, Item: "c", State: teardown.Reused, Count: 300, Clamps: 2}, []string{"count"}},
		{teardown.Act{Do: teardown.Noted, Item: "c"}, []string{"words"}},
		{teardown.Act{Do: teardown.Tighten, Item: "c", Pass: 6}, nil},
		{teardown.Act{Do: teardown.Tighten, Item: "c", Pass: 7}, []string{"pass"}},
		{teardown.Act{Do: teardown.Tighten, Item: "c"}, []string{"pass"}},
		{teardown.Act{Do: teardown.SetWheel}, []string{"wheel"}},
		{teardown.Act{Do: teardown.Found, Item: "p"}, []string{"piece"}},
		{teardown.Act{Do: teardown.Found, Item: "p", Piece: &teardown.Piece{Share: 0.01}}, nil},
		{teardown.Act{Do: teardown.Found, Item: "p", Piece: &teardown.Piece{Share: 1.01}}, []string{"piece.share"}},
		{teardown.Act{Do: teardown.SetBody}, []string{"body"}},
		{teardown.Act{Do: teardown.SetElbow}, []string{"elbow"}},
		{teardown.Act{Do: teardown.SetLeaks, Leaks: []string{teardown.LeakPlaces()[0], "hull"}}, []string{"leaks[1]"}},
		{teardown.Act{Do: teardown.Use}, []string{"used"}},
		{teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: " ", Quantity: 1, State: "new"}}, []string{"used"}},
		{teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: "x", Quantity: 1000, State: "new", Price: 1e6,
			Minutes: 1440}}, nil},
		{teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: "x", State: "lost", Price: -1, Minutes: 1441}},
			[]string{"used.minutes", "used.price", "used.quantity", "used.state"}},
		{teardown.Act{Do: teardown.Choose, Item: "q"}, []string{"state"}},
		{teardown.Act{Do: teardown.Choose, Item: "q", State: "a school"}, nil},
		{teardown.Act{Do: teardown.Counted, Item: "c", Count: 1}, nil},
		{teardown.Act{Do: teardown.Counted, Item: "c", Count: 200, State: teardown.Shapes[0]}, nil},
		{teardown.Act{Do: teardown.Counted, Item: "c", Count: 1, State: "star"}, []string{"state"}},
		{teardown.Act{Do: teardown.Counted, Item: "c", Count: 201}, []string{"count"}},
		{teardown.Act{Do: teardown.Lies, Item: "on a hill"}, []string{"item"}},
		{teardown.Act{Do: teardown.Heat, Item: "glowing"}, []string{"item"}},
		{teardown.Act{Do: teardown.OilIs, Item: "sound"}, nil},
		{teardown.Act{Do: teardown.OilIs, Item: "changed"}, []string{"words"}},
		{teardown.Act{Do: teardown.OilIs, Item: "changed", Words: "head gasket; cylinders cleared by R."}, nil},
		{teardown.Act{Do: teardown.OilIs, Item: "new"}, []string{"item"}},
		{teardown.Act{Do: teardown.Holds, Item: "perhaps"}, []string{"item"}},
		{teardown.Act{Do: teardown.HowFar, Item: "c", Share: 1}, nil},
		{teardown.Act{Do: teardown.HowFar, Item: "c", Share: 1.01}, []string{"share"}},
		{teardown.Act{Do: teardown.HowFar, Item: "c", Share: -0.01}, []string{"share"}},
		{teardown.Act{Do: teardown.Override, Item: "c", Words: " "}, []string{"words"}},
		{teardown.Act{Do: teardown.GiveUp}, []string{"words"}},
		{teardown.Act{Do: teardown.Start}, nil},
	} {
		assert.Equal(t, c.wrong, fieldsOf(t, c.act), "%+v", c.act)
	}
}
