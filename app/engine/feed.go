package engine

import (
	"context"
	"math"
	"slices"
	"strings"

	"hevrin/app/readings"
	"hevrin/app/record"
	"hevrin/core/datalog"
	"hevrin/core/eventlog"
	"hevrin/core/nmea"
	"hevrin/core/proving"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/live"
)

// SaveFeed keeps the gateway that tells an engine's readings, and what its channels are mounted on.
func (a *Engines) SaveFeed(ctx context.Context, engine string, s record.Stamp,
	feed eventlog.Feed) (*EnginePage, error) {
	if err := live.CheckNear(feed.Address); err != nil {
		return nil, err
	}
	e := a.NewEntry(s, eventlog.Subject{Kind: eventlog.OfEngine, ID: engine}, eventlog.FeedSaved,
		eventlog.Body{Feed: &feed})
	err := a.Save(ctx, e, func(_ record.Reader, entries []eventlog.Entry) error {
		facts, ok := eventlog.Engine(entries)
		if !ok {
			return record.NotFound("engine", engine)
		}
		return eventlog.CheckFeed(a.Catalogue, facts, feed)
	})
	if err != nil {
		return nil, err
	}
	return a.Engine(ctx, engine)
}

// HeardChannel is one channel of a gateway as it is heard now, and the place that is kept for it.
type HeardChannel struct {
	live.Channel
	Unit  string // id
	Place *proving.Place
	Guess *proving.Place // that its name speaks of
}

// LivePage is what is heard of an engine's gateway, or of an address that is tried out.
type LivePage struct {
	Address string
	Status  live.Status
	Heard   []HeardChannel
	Places  []proving.Place // where this engine can be read
	Feed    *eventlog.Feed  // as it is kept; nil when none is
}

// Live listens to an engine's gateway, or to another address of this machine that is tried out for it. Any other must
// be saved first, which leaves an entry: nobody is to make the program knock at doors unseen.
func (a *Engines) Live(ctx context.Context, engine, address string) (*LivePage, error) {
	e, ok, err := a.Store.Read(ctx).Engine(engine)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, record.NotFound("engine", engine)
	}
	page := &LivePage{Address: address, Places: eventlog.Places(a.Catalogue, record.FactsOf(e)), Feed: e.Feed}
	if address == "" && e.Feed != nil {
		page.Address = e.Feed.Address
	}
	if page.Address == "" {
		return page, nil
	}
	if own := e.Feed != nil && e.Feed.Address == page.Address; !own && !live.OnThisMachine(page.Address) {
		var wrong validation.Errors
		wrong.Add("address", address, "the address that is saved for this engine, or one of this machine",
			"save the gateway's address first: then it is listened to")
		return nil, wrong
	}
	f, release, err := a.Hub.Use(page.Address)
	if err != nil {
		return nil, err
	}
	defer release()
	page.Status = f.Status()
	for _, c := range page.Status.Channels {
		h := HeardChannel{Channel: c, Unit: nmea.Units[c.Quantity]}
		if e.Feed != nil {
			for _, x := range e.Feed.Channels {
				if x.Channel == c.Name {
					h.Place = &x.Place
				}
			}
		}
		if g, ok := guessed(h, page); ok {
			h.Guess = &g
		}
		page.Heard = append(page.Heard, h)
	}
	return page, nil
}

// sentenceOf are sentences that speak of one place only.
var sentenceOf = map[string]string{"RPM": "rpm", "MTW": "sea"}

// guessed is the place that a channel's own name speaks of, if no other channel before it does.
func guessed(h HeardChannel, page *LivePage) (proving.Place, bool) {
	words := strings.Fields(h.Name) // talker, sentence, transducer
	name := words[len(words)-1]
	for _, w := range words {
		if say, ok := sentenceOf[w]; ok {
			name = say
		}
	}
	g, ok := datalog.Guess(name, h.Unit, page.Places)
	taken := slices.ContainsFunc(page.Heard, func(x HeardChannel) bool { return x.Guess != nil && *x.Guess == g })
	return g, ok && !taken
}

// Listener follows an engine's gateway by place.
type Listener struct {
	Feed     *live.Feed
	Channels []eventlog.FeedChannel
	Limits   []readings.AlarmLine
	Release  func()
	seq      uint64
}

// HasFeed says whether an engine has a gateway with at least one channel mapped.
func HasFeed(e record.Engine) bool { return e.Feed != nil && len(e.Feed.Channels) > 0 }

// ErrNoFeed refuses what needs a gateway on an engine that has none.
func ErrNoFeed() error {
	return &eventlog.Conflict{Say: "this engine has no feed yet: give the gateway's address and say what each channel " +
		"is mounted on"}
}

// Listen follows an engine's gateway until Release is called.
func (a *Engines) Listen(ctx context.Context, engine string) (*Listener, error) {
	e, ok, err := a.Store.Read(ctx).Engine(engine)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, record.NotFound("engine", engine)
	}
	return a.ListenTo(e)
}

// ListenTo follows the gateway of an engine that was read already; see Listen.
func (a *Engines) ListenTo(e record.Engine) (*Listener, error) {
	if !HasFeed(e) {
		return nil, ErrNoFeed()
	}
	f, release, err := a.Hub.Use(e.Feed.Address)
	if err != nil {
		return nil, err
	}
	places := make([]proving.Place, len(e.Feed.Channels))
	for i, c := range e.Feed.Channels {
		places[i] = c.Place
	}
	return &Listener{Feed: f, Channels: e.Feed.Channels, Limits: readings.AlarmLines(e, places), Release: release}, nil
}

// History is all that is remembered, by place; what comes after it is given by Next.
func (l *Listener) History() []proving.Track {
	l.seq = 0
	return l.Next()
}

// From lets Next begin with what comes from now on.
func (l *Listener) From() { _, l.seq = l.Feed.Since(math.MaxUint64) }

// Next is what came since the last time, by place, corrected; places of which nothing came are empty.
func (l *Listener) Next() []proving.Track {
	points, next := l.Feed.Since(l.seq)
	l.seq = next
	out := make([]proving.Track, len(l.Channels))
	at := map[string]int{}
	for i, c := range l.Channels {
		out[i].Place = c.Place
		at[c.Channel] = i
	}
	heard := l.Feed.Status().Channels
	index := make([]int, len(heard))
	for k, c := range heard {
		i, ok := at[c.Name]
		if !ok || units.Must(out[i].Unit()).Dimension != dimensionOf(c.Quantity) {
			i = -1
		}
		index[k] = i
	}
	for _, p := range points {
		if i := index[p.Channel]; i >= 0 {
			t := &out[i]
			t.Seconds, t.Values = append(t.Seconds, p.Seconds), append(t.Values, p.Value+l.Channels[i].Offset)
		}
	}
	return out
}

func dimensionOf(q nmea.Quantity) units.Dimension {
	u := nmea.Units[q]
	if u == "" {
		return ""
	}
	return units.Must(u).Dimension
}

// FeedRound is a round of readings taken of the gateway over the last while.
type FeedRound struct {
	Round   eventlog.Round
	Seconds float64
	Unquiet []units.Sentence // what still moves, in words
}

// Errors of what a gateway's senders tell where nothing else is kept, one standard deviation: common practice.
const (
	senderErrorK   = 1.0
	senderOfFlow   = 0.03
	roundSeconds   = 60.0
	quietKMin      = 1.0 // a place that moves by more is not at rest
	salinityUsual  = 35.0
	leastFlowError = 0.2
)

// RoundFromFeed takes a round of readings of an engine's gateway: the mean of the last minute at every place.
func (a *Engines) RoundFromFeed(ctx context.Context, engine string) (*FeedRound, error) {
	l, err := a.Listen(ctx, engine)
	if err != nil {
		return nil, err
	}
	defer l.Release()
	return roundOfTracks(l.History(), l.Channels, l.Feed.Status().Seconds)
}

func roundOfTracks(tracks []proving.Track, channels []eventlog.FeedChannel, now float64) (*FeedRound, error) {
	out := &FeedRound{Seconds: roundSeconds, Round: eventlog.Round{Load: 1, Salinity: salinityUsual, SpaceC: 30}}
	told := map[string]bool{}
	for i, t := range tracks {
		level, ok := t.LevelOver(now, max(roundSeconds, 4*t.Usual()))
		if !ok {
			continue
		}
		told[t.Station] = true
		switch t.Station {
		case "rpm":
			out.Round.RPM = math.Round(level.Mean)
			if math.Abs(level.Slope) > 100 {
				out.Unquiet = append(out.Unquiet, "the speed changes")
			}
			continue
		case "sea":
			out.Round.SeaC = round1(level.Mean)
			continue
		case "space":
			out.Round.SpaceC = round1(level.Mean)
			continue
		case "hours": // of the engine, not of the round
			continue
		}
		read := eventlog.Read{Station: t.Station, Side: t.Side, Value: round1(level.Mean), Instrument: "feed"}
		own := senderErrorK
		if t.Station == "flow" {
			own = max(senderOfFlow*level.Mean, leastFlowError)
		} else if math.Abs(level.Slope) > quietKMin {
			out.Unquiet = append(out.Unquiet, units.Say("%s moves by %+.1f", t.Place, units.Of(level.Slope, "K/min")))
		}
		if channels[i].Error > 0 {
			own = channels[i].Error
		}
		read.Error = math.Round(1000*math.Hypot(own, level.Error)) / 1000
		out.Round.Readings = append(out.Round.Readings, read)
	}
	var wrong validation.Errors
	for _, need := range []string{"rpm", "sea"} {
		if !told[need] {
			wrong.Add(need, "nothing in the last minute", "a channel that tells it",
				"the feed does not tell %s now: a round needs it", map[string]string{"rpm": "the engine's speed",
					"sea": "the sea's temperature"}[need])
		}
	}
	if len(out.Round.Readings) == 0 {
		wrong.Add("channels", "nothing in the last minute", "1 reading or more",
			"the feed tells no temperature and no flow now")
	}
	slices.SortStableFunc(out.Round.Readings, func(x, y eventlog.Read) int {
		return map[bool]int{true: 1, false: 0}[x.Station == "flow"] - map[bool]int{true: 1, false: 0}[y.Station == "flow"]
	})
	return out, wrong.Err()
}

func round1(v float64) float64 { return math.Round(10*v) / 10 }
