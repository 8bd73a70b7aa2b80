package training

import (
	"time"

	"hevrin/core/eventlog"
	"hevrin/phone"
)

// Did is one thing that was done in a try, at a moment of its own clock.
type Did struct {
	ID      string         `json:"id"`
	At      time.Time      `json:"at"`
	Do      string         `json:"do"`
	Ask     *phone.Request `json:"ask,omitempty"`
	Check   string         `json:"check,omitempty"`
	Minutes float64        `json:"minutes,omitempty"`
	Part    string         `json:"part,omitempty"`
	Offer   int            `json:"offer,omitempty"` // of an order: its place among what is offered
}

// Ask is a request to the job's own program that changed it, or was refused. The others are what can be done beside it.
const (
	Ask     = "ask"
	Look    = "look"
	Wait    = "wait"
	Prove   = "prove"
	Read    = "read"
	Measure = "measure"
	Order   = "order"
	Hint    = "hint"
	End     = "end"
)

// doing is what each of them does to the engine.
var doing = map[string]func(r *Room, g *going, d Did) error{
	Look: func(_ *Room, g *going, d Did) error {
		_, err := g.world.Look(d.Check)
		return err
	},
	Wait: func(_ *Room, g *going, d Did) error {
		_, err := g.world.Wait(d.Minutes)
		return err
	},
	Prove: func(_ *Room, g *going, _ Did) error {
		run, err := g.world.Prove()
		if err == nil && !g.world.Over() {
			g.run = &run
		}
		return err
	},
	Read: func(_ *Room, g *going, _ Did) error {
		round, err := g.world.Read()
		if err == nil && !g.world.Over() {
			g.round = &round
		}
		return err
	},
	Measure: func(_ *Room, g *going, d Did) error {
		_, err := g.world.Measure(d.Part)
		return err
	},
	Order: func(_ *Room, g *going, d Did) error {
		_, err := g.world.Order(d.Part, d.Offer)
		return err
	},
	Hint: func(r *Room, g *going, _ Did) error {
		h, err := r.coach.Hint(g.world)
		if err == nil {
			g.world.Hint(h.Words, h.Minutes)
		}
		return err
	},
	End: func(_ *Room, g *going, _ Did) error {
		g.world.End()
		return nil
	},
}

// apply does one thing, now or when a try is made anew.
func (r *Room) apply(g *going, d Did) (phone.Answer, error) {
	if len(g.did) >= mostDone {
		return phone.Answer{}, &eventlog.Conflict{Say: "too much was done in this practice: end it, and begin another"}
	}
	if d.Do == Ask {
		return g.ask(*d.Ask), nil
	}
	do, ok := doing[d.Do]
	if !ok {
		return phone.Answer{}, &eventlog.Conflict{Say: "there is no such thing to do"}
	}
	return phone.Answer{}, do(r, g, d)
}
