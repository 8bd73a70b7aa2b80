package reminders_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"hevrin/app/maintenance"
	"hevrin/app/people"
	"hevrin/app/record"
	"hevrin/app/reminders"
	"hevrin/core/catalogue"
	"hevrin/core/inventory"
	core "hevrin/core/maintenance"
)

func day(d int) time.Time { return time.Date(2026, 3, d, 0, 0, 0, 0, time.UTC) }

func due(when time.Time, putOff *core.Postponement) maintenance.EngineDue {
	return maintenance.EngineDue{Craft: record.Craft{Name: "Ormsgill"}, Engine: record.EngineLine{Name: "Main"},
		Due: []core.Due{{MaintenanceItem: catalogue.MaintenanceItem{Do: "Change the impeller"}, When: when, PutOff: putOff}}}
}

func order(when time.Time, received float64) inventory.Line {
	return inventory.Line{Part: inventory.Part{Label: "Impeller kit"}, Orders: []inventory.Ordered{{Quantity: 2, Received: received, Due: when}}}
}

// Each thing is told twice at most: two weeks before it is due and on the day, an order on its day and the day after.
func TestWhatIsNewsOnADay(t *testing.T) {
	for name, x := range map[string]struct {
		when        time.Time
		since, upTo int
		title       string
	}{
		"due today":              {day(20), 19, 20, "1 thing is due"},
		"due while nobody asked": {day(19), 17, 20, "1 thing is due"},
		"told already":           {day(19), 19, 20, ""},
		"due tomorrow":           {day(21), 19, 20, ""},
		"in two weeks":           {day(17), 2, 3, "1 comes due in two weeks"},
		"in two weeks and a day": {day(18), 2, 3, ""},
		"nobody knows when":      {time.Time{}, 2, 3, ""},
	} {
		m := reminders.News([]maintenance.EngineDue{due(x.when, nil)}, nil, day(x.since).Add(7*time.Hour), day(x.upTo))
		assert.Equal(t, x.title, m.Title, name)
	}
	for name, x := range map[string]struct {
		received float64
		upTo     int
		title    string
	}{
		"expected today": {0, 20, "1 order is expected"}, "late": {1, 21, "1 order is late"},
		"late since yesterday": {0, 22, ""}, "all here": {2, 20, ""}, "tomorrow": {0, 19, ""},
	} {
		m := reminders.News(nil, []inventory.Line{order(day(20), x.received)}, day(x.upTo-1), day(x.upTo))
		assert.Equal(t, x.title, m.Title, name)
		if x.title != "" {
			assert.Equal(t, "/parts", m.Path)
		}
	}
	later := &core.Postponement{Until: day(28)}
	assert.Empty(t, reminders.News([]maintenance.EngineDue{due(day(20), later)}, nil, day(19), day(20)).Title, "put off")
}

func TestAMessageIsShort(t *testing.T) {
	list := []maintenance.EngineDue{due(day(20), nil), due(day(20), nil), due(day(20), nil), due(day(20), nil)}
	m := reminders.News(list, []inventory.Line{order(day(20), 0.5)}, day(19), day(20))
	assert.Equal(t, people.Message{Title: "4 things are due, 1 order is expected", Path: "/due", Tag: "due",
		Body: "Ormsgill, Main: Change the impeller, due\nOrmsgill, Main: Change the impeller, due\n" +
			"Ormsgill, Main: Change the impeller, due\nand 2 more"}, m)
}
