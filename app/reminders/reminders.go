// Package reminders tells people each morning, on the devices that ask for it, what came due in the yard since they
// were told last, and which orders are expected or late.
package reminders

import (
	"context"
	"fmt"
	"log/slog"
	"strings"
	"time"

	stock "hevrin/app/inventory"
	"hevrin/app/maintenance"
	"hevrin/app/people"
	"hevrin/core/inventory"
)

// ahead is how long before something is due it is told: time to order what it takes.
const ahead = 14 * 24 * time.Hour

// hour is when the day's reminders go, by the clock of the machine.
const hour = 7

// mostLines is how many things a message names; a phone shows few.
const mostLines = 3

// Reminders are sent from what the yard knows. Start and Stop may be called once each.
type Reminders struct {
	Schedule *maintenance.Schedule
	Stock    *stock.Stock
	People   *people.People
	stop     context.CancelFunc
	done     chan struct{}
}

// lookEvery is how often is looked whether a new day's hour has come, and how soon what did not go is tried again.
const lookEvery = 20 * time.Minute

// Start sends reminders as the days come, until Stop.
func (r *Reminders) Start(ctx context.Context) {
	ctx, r.stop = context.WithCancel(context.WithoutCancel(ctx))
	r.done = make(chan struct{})
	go func() {
		defer close(r.done)
		tick := time.NewTicker(lookEvery)
		defer tick.Stop()
		for {
			if err := r.Send(ctx, r.Schedule.Now()); err != nil && ctx.Err() == nil {
				slog.Error("no reminders could be sent", "error", err)
			}
			select {
			case <-ctx.Done():
				return
			case <-tick.C:
			}
		}
	}()
}

// Stop ends them.
func (r *Reminders) Stop() {
	r.stop()
	<-r.done
}

// Send tells whoever was not told today, once the hour has come.
func (r *Reminders) Send(ctx context.Context, now time.Time) error {
	if now.Hour() < hour {
		return nil
	}
	today := dayOf(now)
	var due []maintenance.EngineDue
	var lines []inventory.Line
	return r.People.Remind(ctx, today, func(since time.Time) (m people.Message, err error) {
		if due == nil { // once, and only where somebody is to be told
			if due, err = r.Schedule.DueInYard(ctx, ahead); err != nil {
				return m, err
			}
			page, err := r.Stock.Inventory(ctx)
			if err != nil {
				return m, err
			}
			lines = page.Lines
		}
		return News(due, lines, since, today), nil
	})
}

// dayOf is the day of a time as days are written in the record: at midnight UTC.
func dayOf(t time.Time) time.Time {
	y, m, d := t.Date()
	return time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
}

// News is what came up after a day, up to another: what is due in two weeks or now, orders that are expected or late.
// It has no title where nothing did.
func News(due []maintenance.EngineDue, lines []inventory.Line, since, upTo time.Time) (m people.Message) {
	since = dayOf(since)
	came := func(t time.Time) bool { return !t.IsZero() && t.After(since) && !t.After(upTo) }
	var says, titles []string
	count := func(n int, one, more string) {
		switch {
		case n == 1:
			titles = append(titles, one)
		case n > 1:
			titles = append(titles, fmt.Sprintf(more, n))
		}
	}
	now, soon := 0, 0
	for _, e := range due {
		for _, d := range e.Due {
			what := fmt.Sprintf("%s, %s: %s", e.Craft.Name, e.Engine.Name, d.Do)
			switch {
			case d.PutOff != nil && d.PutOff.Until.After(upTo):
			case came(d.When):
				now++
				says = append(says, what+", due")
			case came(d.When.Add(-ahead)):
				soon++
				says = append(says, what+", by "+d.When.Format("2 January"))
			}
		}
	}
	count(now, "1 thing is due", "%d things are due")
	count(soon, "1 comes due in two weeks", "%d come due in two weeks")
	orders := len(says)
	expected, late := 0, 0
	for _, l := range lines {
		for _, o := range l.Orders {
			switch {
			case o.Left() <= 0:
			case came(o.Due):
				expected++
				says = append(says, fmt.Sprintf("Expected: %g × %s", o.Left(), l.Label))
			case came(o.Due.AddDate(0, 0, 1)):
				late++
				says = append(says, fmt.Sprintf("Late: %g × %s", o.Left(), l.Label))
			}
		}
	}
	count(expected, "1 order is expected", "%d orders are expected")
	count(late, "1 order is late", "%d orders are late")
	if len(says) == 0 {
		return m
	}
	m = people.Message{Title: strings.Join(titles, ", "), Path: "/due", Tag: "due"}
	if orders == 0 {
		m.Path = "/parts"
	}
	if left := len(says) - mostLines; left > 0 {
		says = append(says[:mostLines], fmt.Sprintf("and %d more", left))
	}
	m.Body = strings.Join(says, "\n")
	return m
}
