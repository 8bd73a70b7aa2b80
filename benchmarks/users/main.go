// Command users lets many people work on one running Hevrin at once, over HTTP on this machine, and tells how it
// answers: `make bench-users`. Each has a job of their own and does what a technician does, with a pause between:
// opens the job, says what was found, notes something, takes a picture now and then, looks at the yard and at what is
// due. In the end every entry that was answered is looked for on the record.
package main

import (
	"bytes"
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"image"
	"image/png"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"slices"
	"sync"
	"time"

	"github.com/google/uuid"

	"hevrin/app"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/server"
	"hevrin/store"
)

func main() {
	users := flag.Int("users", 50, "people at once")
	last := flag.Duration("for", 10*time.Minute, "how long they work")
	pause := flag.Duration("pause", 2*time.Second, "between two things that one of them does, on average")
	flag.Parse()
	if err := run(*users, *last, *pause); err != nil {
		fmt.Fprintln(os.Stderr, "users:", err)
		os.Exit(1)
	}
}

func run(users int, last, pause time.Duration) (err error) {
	folder, err := os.MkdirTemp("", "hevrin-users")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(folder)) }()
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	c, err := catalogue.Load()
	if err != nil {
		return err
	}
	s, err := store.Open(ctx, folder)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	a := app.New(c, s, time.Now)
	defer a.Close()
	handler, err := server.New(server.Config{App: a, Version: "bench", Place: store.Place{Store: s}})
	if err != nil {
		return err
	}
	address, served := make(chan string, 1), make(chan error, 1)
	go func() {
		served <- server.Serve(ctx, "127.0.0.1:0", handler, func(at net.Addr) { address <- at.String() })
	}()
	y := &yard{at: "http://" + <-address + server.BasePath, took: map[string][]time.Duration{}, kept: map[string]string{}}
	var all sync.WaitGroup
	end := time.Now().Add(last)
	for i := range users {
		one := &person{yard: y, r: rand.New(rand.NewPCG(uint64(i), 1))} //nolint:gosec // a seed
		all.Go(func() { one.work(i, end, pause) })
	}
	all.Wait()
	y.tell()
	missing := 0
	for entry := range y.kept {
		if _, ok, err := s.Read(ctx).Entry(entry); err != nil || !ok {
			missing++
		}
	}
	fmt.Printf("\n%d entries answered, %d of them missing; %d errors\n", len(y.kept), missing, len(y.wrong))
	for _, w := range y.wrong[:min(5, len(y.wrong))] {
		fmt.Println("  ", w)
	}
	if err := s.Check(ctx, true); err != nil {
		return err
	}
	stop()
	if err := <-served; err != nil {
		return err
	}
	if missing+len(y.wrong) > 0 {
		return errors.New("not all of it was answered and kept")
	}
	return nil
}

// yard is what all work on: how long things took, what was kept, what went wrong.
type yard struct {
	at    string
	mu    sync.Mutex
	took  map[string][]time.Duration
	kept  map[string]string
	wrong []string
}

func (y *yard) tell() {
	names := make([]string, 0, len(y.took))
	for n := range y.took {
		names = append(names, n)
	}
	slices.Sort(names)
	fmt.Println("| what | times | median ms | p99 ms | most ms |\n|---|---|---|---|---|")
	for _, n := range names {
		list := y.took[n]
		slices.Sort(list)
		at := func(share float64) float64 {
			return float64(list[min(len(list)-1, int(share*float64(len(list))))].Microseconds()) / 1000
		}
		fmt.Printf("| %s | %d | %.1f | %.1f | %.1f |\n", n, len(list), at(0.5), at(0.99), at(1))
	}
}

// person works on a job of their own.
type person struct {
	*yard
	r           *rand.Rand
	engine, job string
	findings    []string
}

var circuit = []string{"intake", "seacock", "strainer", "suction-hose", "raw-pump", "exchanger", "raw-hoses", "elbow",
	"exhaust-hose", "silencer", "outlet", "header", "circ-pump", "block", "thermostat", "coolant-hoses", "gauge", "load"}

func (p *person) work(i int, end time.Time, pause time.Duration) {
	craft := uuid.NewString()
	p.engine, p.job = uuid.NewString(), uuid.NewString()
	p.put("craft", "/craft/"+craft, map[string]any{"name": fmt.Sprint("Craft ", i)})
	p.put("engine", "/engines/"+p.engine, map[string]any{"craft_id": craft, "name": "Main", "family": "closed",
		"fuel": "diesel", "rated_kw": 60, "rated_rpm": 3000, "thermostat_c": 82, "circuit": circuit})
	p.put("job opened", "/jobs/"+p.job, map[string]any{"engine_id": p.engine, "words": "hot"})
	c, err := catalogue.Load()
	if err != nil {
		return
	}
	for _, f := range c.Findings {
		if f.Source == "complaint" {
			p.findings = append(p.findings, f.ID)
		}
	}
	for time.Now().Before(end) {
		time.Sleep(time.Duration(p.r.ExpFloat64() * float64(pause)))
		switch n := p.r.IntN(20); {
		case n < 5:
			state := []string{eventlog.Present, eventlog.Absent, "unknown"}[p.r.IntN(3)]
			p.entry("finding", map[string]any{"kind": "finding", "stated": []map[string]any{{
				"id": p.findings[p.r.IntN(len(p.findings))], "state": state}}})
		case n < 9:
			p.entry("note", map[string]any{"kind": "note", "words": "Dry at the cover"})
		case n < 10:
			p.entry("picture", map[string]any{"kind": "photo", "words": "The cover", "photo": map[string]any{"data": picture()}})
		case n < 16:
			p.get("job page", "/jobs/"+p.job)
		case n < 18:
			p.get("yard", "/yard")
		case n < 19:
			p.get("due", "/due")
		default:
			p.get("engine", "/engines/"+p.engine)
		}
	}
}

// picture is one as a phone sends it, made small.
var picture = sync.OnceValue(func() string {
	var out bytes.Buffer
	if err := png.Encode(&out, image.NewGray(image.Rect(0, 0, 1280, 960))); err != nil {
		panic(err) // a buffer takes what it is given
	}
	return base64.StdEncoding.EncodeToString(out.Bytes())
})

func (p *person) entry(what string, body map[string]any) {
	entry := uuid.NewString()
	if p.put(what, "/jobs/"+p.job+"/entries/"+entry, body) {
		p.mu.Lock()
		p.kept[entry] = what
		p.mu.Unlock()
	}
}

func (p *person) put(what, path string, body map[string]any) bool {
	body["by"] = "U"
	if body["kind"] == nil {
		body["entry_id"] = uuid.NewString()
	}
	raw, err := json.Marshal(body)
	if err != nil {
		panic(err) // it is made of text and numbers
	}
	return p.ask(what, http.MethodPut, path, bytes.NewReader(raw))
}

func (p *person) get(what, path string) { p.ask(what, http.MethodGet, path, http.NoBody) }

func (p *person) ask(what, method, path string, body io.Reader) bool {
	r, err := http.NewRequestWithContext(context.Background(), method, p.at+path, body)
	if err != nil {
		panic(err) // the address is known
	}
	r.Header.Set("Content-Type", "application/json")
	begun := time.Now()
	answer, err := http.DefaultClient.Do(r)
	said := ""
	if err == nil {
		raw, broken := io.ReadAll(answer.Body)
		err = errors.Join(broken, answer.Body.Close())
		if answer.StatusCode != http.StatusOK {
			said = fmt.Sprintf("%d %.200s", answer.StatusCode, raw)
		}
	}
	if err != nil {
		said = err.Error()
	}
	took := time.Since(begun)
	p.mu.Lock()
	defer p.mu.Unlock()
	p.took[what] = append(p.took[what], took)
	if said != "" {
		p.wrong = append(p.wrong, what+": "+said)
	}
	return said == ""
}
