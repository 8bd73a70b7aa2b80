package plant

import "math"

// Moment is a plant at a time of a run, in s from its start.
type Moment struct {
	Seconds        float64
	BlockC, GaugeC float64
	RawOutC        float64
	ElbowC         float64
	RawLMin        float64
	Opening        float64
}

// Phase is a stretch of a run under one operation and health, up to a time.
type Phase struct {
	UntilS    float64
	Operation Operation
	Health    Health
}

// stepS is the time step: far under the minutes in which a block warms.
const stepS = 1.0

// Follow follows the block's temperature through phases, from a start in °C, told every so many seconds: block heat
// capacity times its change is what comes in less what leaves (Runge and Kutta's fourth order). It stops at boiling.
func (p Plant) Follow(startC float64, phases []Phase, everyS float64) ([]Moment, error) {
	return p.FollowBy(startC, phases, everyS, stepS)
}

// FollowBy is Follow by a time step of so many seconds.
func (p Plant) FollowBy(t float64, phases []Phase, everyS, step float64) ([]Moment, error) {
	var list []Moment
	now, told := 0.0, 0.0
	for _, ph := range phases {
		if err := p.Check(ph.Operation); err != nil {
			return nil, err
		}
		f, err := p.flow(ph.Operation, ph.Health)
		if err != nil {
			return nil, err
		}
		for now < ph.UntilS-1e-9 {
			if now >= told-1e-9 {
				list = append(list, f.moment(now, t))
				told += everyS
			}
			dt := min(step, ph.UntilS-now, math.Max(told-now, 1e-6))
			t = p.step(&f, t, dt)
			now += dt
		}
		if now >= told-1e-9 || ph.UntilS == phases[len(phases)-1].UntilS {
			list = append(list, f.moment(now, t))
			told = now + everyS
		}
	}
	return list, nil
}

// step is the block's temperature a moment later.
func (p Plant) step(f *flowing, t, dt float64) float64 {
	rate := func(t float64) float64 { return (f.intoBlock - f.away(t) - f.shed(t)) / (1000 * p.BlockKJK) }
	k1 := rate(t)
	k2 := rate(t + k1*dt/2)
	k3 := rate(t + k2*dt/2)
	k4 := rate(t + k3*dt)
	return min(t+dt/6*(k1+2*k2+2*k3+k4), p.BoilsC)
}

func (f *flowing) moment(now, t float64) Moment {
	s := f.state(t)
	return Moment{now, t, s.GaugeC, s.RawOutC, s.Elbow.MixedC, s.RawLMin, s.Opening}
}

// Running is an engine that is followed as its operation changes, with no plan made beforehand.
type Running struct {
	p      Plant
	blockC float64
}

// Running starts to follow the plant from a block at a temperature in °C.
func (p Plant) Running(startC float64) *Running { return &Running{p, startC} }

// Step goes on by so many seconds at an operation with a health, and gives the state then.
func (r *Running) Step(op Operation, h Health, seconds float64) (State, error) {
	if err := r.p.Check(op); err != nil {
		return State{}, err
	}
	f, err := r.p.flow(op, h)
	if err != nil {
		return State{}, err
	}
	for left := seconds; left > 0; left -= stepS {
		r.blockC = r.p.step(&f, r.blockC, min(stepS, left))
	}
	return f.state(r.blockC), nil
}

// Stand goes on by so many seconds with the engine stopped: the block sheds its heat to the space.
func (r *Running) Stand(spaceC, seconds float64) float64 {
	r.blockC = spaceC + (r.blockC-spaceC)*math.Exp(-r.p.ShedWK*seconds/(1000*r.p.BlockKJK))
	return r.blockC
}

// SecondsTo is the time in which the block, running as it does, comes to a temperature after a change of health; not
// ok when it never does within an hour.
func (p Plant) SecondsTo(limitC float64, op Operation, was, is Health) (seconds float64, ok bool, err error) {
	before, err := p.Steady(op, was)
	if err != nil {
		return 0, false, err
	}
	const hour, stretch = 3600.0, 300.0
	t := before.BlockC
	for from := 0.0; from < hour; from += stretch {
		run, err := p.Follow(t, []Phase{{stretch, op, is}}, 1)
		if err != nil {
			return 0, false, err
		}
		for _, m := range run {
			if m.BlockC >= limitC {
				return from + m.Seconds, true, nil
			}
		}
		t = run[len(run)-1].BlockC
	}
	return 0, false, nil
}
