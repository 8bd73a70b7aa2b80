// Command yard makes a yard of many engines with many seasons on record and times the program's pages on it.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"math"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"time"

	"github.com/google/uuid"

	"hevrin/app"
	schedule "hevrin/app/maintenance"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/core/inventory"
	"hevrin/core/teardown"
	"hevrin/server"
	"hevrin/simulator"
	"hevrin/store"
)

func main() {
	engines := flag.Int("engines", 2000, "how many engines")
	seasons := flag.Int("seasons", 10, "of how many seasons")
	readings := flag.Int("readings", 5_000_000, "how many readings in all")
	folder := flag.String("data", filepath.Join(os.TempDir(), "hevrin-bench-yard"),
		"where the yard is made; kept for the next time")
	flag.Parse()
	if err := run(context.Background(), *engines, *seasons, *readings, *folder); err != nil {
		log.Fatal(err)
	}
}

var today = time.Date(2026, time.November, 1, 9, 0, 0, 0, time.UTC)

func run(ctx context.Context, engines, seasons, readings int, folder string) error {
	c, err := catalogue.Load()
	if err != nil {
		return err
	}
	s, err := store.Open(ctx, folder)
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }()
	empty, err := s.Empty(ctx)
	if err != nil {
		return err
	}
	if empty {
		begun := time.Now()
		if err := fill(ctx, c, s, engines, seasons, readings); err != nil {
			return err
		}
		fmt.Printf("made in %.0f s\n", time.Since(begun).Seconds())
	}
	facts, err := os.Stat(filepath.Join(folder, store.FileName))
	if err != nil {
		return err
	}
	fmt.Printf("%d engines, %d seasons, about %d readings, %.0f MB\n", engines, seasons, readings,
		float64(facts.Size())/1e6)
	now := today
	a := app.New(c, s, func() time.Time { return now })
	defer a.Close()
	begun := time.Now()
	if err := a.Resume(ctx); err != nil {
		return err
	}
	fmt.Printf("started in %.1f s\n", time.Since(begun).Seconds())
	supplier, err := simulator.NewSupplier()
	if err != nil {
		return err
	}
	handler, err := server.New(server.Config{App: a, Supplier: supplier, Version: "bench"})
	if err != nil {
		return err
	}
	return measure(handler, pagesOf(engines, seasons, func() { now = now.AddDate(0, 0, 1) }))
}

// page is what is asked for, each time anew.
type page struct {
	name string
	path func(i int) string
}

// times is how often each page is asked for.
const times = 21

// pagesOf lists the pages of a yard, with what the program has in memory of them and without.
func pagesOf(engines, seasons int, nextDay func()) []page {
	same := func(path string) func(int) string { return func(int) string { return path } }
	engine, job := *new(maker).engine(engines / 2), new(maker).lastJob(engines/2, seasons)
	return []page{
		{"yard", same("/yard")}, {"due list of the whole yard", same("/due")}, {"due list, 10 years ahead",
			same("/due?days=3650")},
		{"due list, first of a day", func(int) string { nextDay(); return "/due" }},
		{"calendar", same("/calendar.ics")}, {"due table", same("/due.csv")}, {"engine", same("/engines/" + engine)},
		{"engine's record", same("/engines/" + engine + "/record")},
		{"engine's record, another each", func(i int) string {
			return "/engines/" + *new(maker).engine(i % engines) +
				"/record"
		}},
		{"job, another each", func(i int) string { return "/jobs/" + new(maker).lastJob(i%engines, seasons) }},
		{"report, another each", func(i int) string {
			return "/jobs/" + new(maker).lastJob((times+i)%engines, seasons) +
				"/report"
		}},
		{"job", same("/jobs/" + job)}, {"report", same("/jobs/" + job + "/report")}, {"book", same("/methods")},
		{"inventory", same("/inventory")}, {"inventory for an engine, another each",
			func(i int) string { return "/inventory?engine=" + *new(maker).engine(i % engines) }}, {"inventory's table",
			same("/inventory.csv")}, {"supplier", same("/supplier?find=impeller")},
		{"craft, another each", func(i int) string { return "/craft/" + name("craft", i%engines) }},
		{"job's file, another each", func(i int) string {
			return "/jobs/" + new(maker).lastJob((2*times+i)%engines,
				seasons) + "/bundle"
		}},
		{"readings' table, another each", func(i int) string {
			return "/jobs/" + new(maker).lastJob((3*times+i)%engines, seasons) + "/readings.csv"
		}},
		{"report's sheets, another each", func(i int) string {
			return "/jobs/" + new(maker).lastJob((4*times+i)%engines,
				seasons) + "/report.pdf"
		}},
	}
}

// measure asks for every page again and again and prints how long it took, on this machine.
func measure(handler http.Handler, pages []page) error {
	fmt.Printf("%-34s %10s %10s %10s\n", "page", "first, ms", "median", "p95")
	for _, p := range pages {
		var took []float64
		for i := range times {
			r := httptest.NewRequest(http.MethodGet, server.BasePath+p.path(i), nil)
			r.Host = "localhost"
			w := httptest.NewRecorder()
			begun := time.Now()
			handler.ServeHTTP(w, r)
			took = append(took, float64(time.Since(begun).Microseconds())/1000)
			if w.Code != http.StatusOK {
				return fmt.Errorf("%s: %d %s", p.name, w.Code, w.Body.String())
			}
		}
		first := took[0]
		slices.Sort(took)
		fmt.Printf("%-34s %10.1f %10.1f %10.1f\n", p.name, first, took[len(took)/2], took[len(took)*95/100])
	}
	return nil
}

// maker makes the entries of a yard; ids follow from numbers, so that they are known again.
type maker struct {
	lots *rand.Rand
}

func name(kind string, n ...int) string {
	return uuid.NewSHA1(uuid.Nil, []byte(fmt.Sprint(kind, n))).String()
}

func (maker) engine(i int) *string { id := name("engine", i); return &id }

func (maker) lastJob(i, seasons int) string { return name("job", i, 2*seasons-1) }

// fill writes a yard in which each engine has two jobs a season, with rounds, checks and maintenance.
func fill(ctx context.Context, c *catalogue.Catalogue, s *store.Store, engines, seasons, readings int) error {
	m := maker{rand.New(rand.NewPCG(1, 2))}
	const perRound = 10
	rounds := max(1, readings/(engines*seasons*2*perRound))
	for i := range engines {
		l := m.logs(c, i, seasons, rounds)
		if err := s.Write(ctx, func(tx record.Tx) error { return keep(tx, c, l) }); err != nil {
			return err
		}
		if i%200 == 199 {
			fmt.Printf("%d engines\n", i+1)
		}
	}
	return s.Write(ctx, func(tx record.Tx) error { return m.inventory(tx, engines, seasons) })
}

// A yard's inventory: parts for so many kinds of pump, several a pump.
const (
	pumps = 30
	parts = 150
)

func pump(i int) string { return fmt.Sprintf("V%02d-50", i%pumps) }

func part(i int) string { return name("part", i) }

// inventory writes its log: every half-year each part was ordered, received and counted.
func (m maker) inventory(tx record.Tx, engines, seasons int) error {
	begun := today.AddDate(-seasons, 0, 0)
	for p := range parts {
		is := inventory.Part{Label: fmt.Sprintf("Part %03d for %s", p, pump(p)), Number: fmt.Sprintf("N-%03d", p),
			Where: fmt.Sprintf("Drawer %d", p%20), Minimum: 3, Price: 30, Fits: []inventory.Fit{{Pump: pump(p),
				How: inventory.Listed}}}
		if p < pumps {
			is.Maintenance = "impeller"
		}
		for k := range 3 {
			is.Fits = append(is.Fits, inventory.Fit{Engine: *m.engine((7*p + 301*k) % engines), How: inventory.Measured})
		}
		acts := []inventory.Act{{Do: inventory.SavePart, Is: &is}}
		for k := range 2 * seasons {
			order := name("order", p, k)
			acts = append(acts, inventory.Act{Do: inventory.Order, Order: order, Quantity: 80, Number: is.Number},
				inventory.Act{Do: inventory.Receive, Order: order, Quantity: 80}, inventory.Act{Do: inventory.Count,
					Quantity: float64(60 + m.lots.IntN(20))})
		}
		for i, a := range acts {
			a.Part = part(p)
			if err := tx.Append(entry(eventlog.OfYard, eventlog.InventoryID, eventlog.InventoryNoted, begun.AddDate(0, 2*i, 0),
				eventlog.Body{Inventory: &a})); err != nil {
				return err
			}
		}
	}
	return nil
}

// logs is a craft with one engine and its jobs, with the lines that the lists show of them.
type logs struct {
	entries []eventlog.Entry
	craft   record.Craft
	engine  record.Engine
	own     []eventlog.Entry // of the engine
	jobs    []record.Job
	life    []record.ServiceLine
	taken   []record.PartUsed
}

// keep writes it as the use cases would, past their checks: those take a hundred times as long.
func keep(tx record.Tx, c *catalogue.Catalogue, l logs) error {
	if err := tx.SaveCraft(l.craft); err != nil {
		return err
	}
	if err := tx.SaveEngine(l.engine); err != nil {
		return err
	}
	for _, e := range l.entries {
		if err := tx.Append(e); err != nil {
			return err
		}
	}
	for _, j := range l.jobs {
		if err := tx.SaveJob(j); err != nil {
			return err
		}
		if err := tx.SavePartsUsed(j.ID, slices.DeleteFunc(slices.Clone(l.taken),
			func(x record.PartUsed) bool { return x.JobID != j.ID })); err != nil {
			return err
		}
		if err := tx.SaveServiceLines(j.ID, slices.DeleteFunc(slices.Clone(l.life),
			func(x record.ServiceLine) bool { return x.JobID != j.ID })); err != nil {
			return err
		}
	}
	return tx.SaveMaintenance(record.MaintenanceState{EngineID: l.engine.ID, State: schedule.MaintenanceStateOf(l.engine,
		eventlog.MaintenanceOf(c, l.own), l.life, nil).Slim(c)})
}

// logs makes a craft with an engine that was looked at every half-year: rounds, checks, the meter, and what the rounds
// told.
func (m maker) logs(c *catalogue.Catalogue, i, seasons, rounds int) logs {
	craft, engine := name("craft", i), *m.engine(i)
	begun := today.AddDate(-seasons, 0, 0)
	family, _ := c.Family(catalogue.Closed)
	facts := eventlog.EngineFacts{CraftID: craft, Name: "Main", Family: catalogue.Closed, Fuel: "diesel", RatedKW: 60,
		RatedRPM: 3000, ThermostatC: 82, RawPump: pump(i), Circuit: family.Circuit}
	l := logs{craft: record.Craft{ID: craft, Name: fmt.Sprintf("Craft %04d", i), Berth: "Row " + string(rune('A'+i%20))},
		engine: record.Engine{ID: engine, CraftID: craft, Name: facts.Name, Family: facts.Family, Fuel: facts.Fuel,
			RatedKW: facts.RatedKW, RatedRPM: facts.RatedRPM, ThermostatC: facts.ThermostatC, RawPump: facts.RawPump,
			Circuit: facts.Circuit}}
	l.own = []eventlog.Entry{entry(eventlog.OfEngine, engine, eventlog.Saved, begun, eventlog.Body{Engine: &facts})}
	l.entries = []eventlog.Entry{entry(eventlog.OfCraft, craft, eventlog.Saved, begun,
		eventlog.Body{Craft: &eventlog.CraftFacts{Name: l.craft.Name, Berth: l.craft.Berth}})}
	hours := 0.0
	for k := range 2 * seasons {
		at := begun.AddDate(0, 6*k+1, m.lots.IntN(20))
		hours += 100 + 200*m.lots.Float64()
		l.own = append(l.own, entry(eventlog.OfEngine, engine, eventlog.Metered, at,
			eventlog.Body{Meter: &eventlog.Meter{Day: eventlog.Day(at.Format("2006-01-02")), Hours: math.Round(hours)}}))
		m.job(c, &l, name("job", i, k), at, hours, rounds)
		m.use(&l, part(i%pumps), at.Add(150*time.Minute))
	}
	l.entries = append(l.entries, l.own...)
	return l
}

// job adds a half-year's look.
func (m maker) job(c *catalogue.Catalogue, l *logs, job string, at time.Time, hours float64, rounds int) {
	engine := l.engine.ID
	add := func(k eventlog.Kind, after time.Duration, body eventlog.Body) {
		l.entries = append(l.entries, entry(eventlog.OfJob, job, k, at.Add(after), body))
	}
	n := 0
	tell := func(kind, item string, value, err float64) {
		l.life = append(l.life, record.ServiceLine{EngineID: engine, JobID: job, N: n, At: at, Kind: kind, Item: item,
			Value: value, Error: err})
		n++
	}
	add(eventlog.Opened, 0, eventlog.Body{EngineID: engine, Words: "Half-year's look"})
	tell(schedule.ServiceOpened, "", 0, 0)
	for r := range rounds {
		rpm := 1200 + float64(r%4)*400
		add(eventlog.RoundTaken, time.Duration(r+1)*time.Minute, eventlog.Body{Round: m.round(hours, rpm)})
		tell(schedule.ServiceRound, "", rpm, 0)
	}
	for check, item := range map[string]string{"belt-look": "belts", "strainer-look": "strainer",
		"seacock-look": "seacock"} {
		var stated []eventlog.Stated
		if x, ok := c.Check(check); ok {
			for _, f := range x.Settles {
				stated = append(stated, eventlog.Stated{ID: f, State: eventlog.Absent})
			}
		}
		add(eventlog.Checked, 2*time.Hour, eventlog.Body{Check: check, Outcome: eventlog.Done, Stated: stated})
		tell(schedule.ServiceDone, item, 0, 0)
	}
	explains := true
	add(eventlog.Closed, 3*time.Hour, eventlog.Body{Explains: &explains, Words: "in order"})
	tell(schedule.ServiceCause, "", 0, 0)
	tell(schedule.ServiceMeasure, "ua", 1/(1+0.02+4e-5*hours+0.01*m.lots.NormFloat64()), 0.02)
	tell(schedule.ServiceMeasure, "raw-flow", 0.97+0.02*m.lots.NormFloat64(), 0.03)
	tell(schedule.ServiceMeasure, "gauge", 0.5, 1)
	tell(schedule.ServiceMeasure, "approach", hours/1000+0.3*m.lots.NormFloat64(), 0.5)
	closed := at.Add(3 * time.Hour)
	l.jobs = append(l.jobs, record.Job{ID: job, EngineID: engine, OpenedAt: at, OpenedBy: "bench",
		Words: "Half-year's look", Complaint: []string{}, Faults: []string{}, Checks: 3, ClosedAt: &closed, Note: "in order",
		Works: []record.WorkLine{}})
}

// use takes a part off the inventory in the newest job.
func (m maker) use(l *logs, part string, at time.Time) {
	job := l.jobs[len(l.jobs)-1].ID
	l.entries = append(l.entries, entry(eventlog.OfJob, job, eventlog.TeardownNoted, at,
		eventlog.Body{Teardown: &teardown.Act{Do: teardown.Use, Used: &teardown.Used{Label: "Impeller", Quantity: 1,
			State: teardown.New, Stock: part}}}))
	l.taken = append(l.taken, record.PartUsed{JobID: job, PartID: part, EngineID: l.engine.ID, Quantity: 1, At: at})
}

func entry(kind eventlog.SubjectKind, subject string, k eventlog.Kind, at time.Time,
	body eventlog.Body) eventlog.Entry {
	return eventlog.Entry{ID: uuid.NewString(), Subject: eventlog.Subject{Kind: kind, ID: subject}, Kind: k, By: "bench",
		At: at, Body: body}
}

// round is ten readings that drift a little with the hours.
func (m maker) round(hours, rpm float64) *eventlog.Round {
	n := func(v, by float64) float64 { return math.Round(10*(v+by*m.lots.NormFloat64())) / 10 }
	load := math.Pow(rpm/3000, 3)
	r := &eventlog.Round{RPM: rpm, Load: 1, SeaC: 15, Salinity: 35, SpaceC: 30}
	for _, x := range []struct {
		station, side string
		value, error  float64
	}{{"thermostat", "coolant", 82 + 3*load + hours/3000, 1}, {"exchanger", "coolant", 45 + 25*load + hours/1000, 1},
		{"exchanger", "raw", 18 + 6*load, 1}, {"raw-hoses", "raw", 18 + 6*load, 1},
		{"elbow", "raw", 22 + 14*load, 1}, {"gauge", "", 83 + 3*load, 2}, {"gear-cooler", "raw", 16, 1}, {"block", "coolant",
			82 + 4*load, 1}, {"circ-pump", "coolant", 50 + 25*load, 1}, {"flow", "", 22 * rpm / 1000, 1}} {
		r.Readings = append(r.Readings, eventlog.Read{Station: x.station, Side: x.side, Value: n(x.value, x.error/3),
			Error: x.error})
	}
	return r
}
