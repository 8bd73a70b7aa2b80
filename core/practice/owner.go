package practice

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"hevrin/core/catalogue"
)

// says is what an owner says of a finding, vague as owners are. What is not here no owner would notice.
var says = map[string][]string{
	"hot-under-load":           {"she gets hot when I push her", "fine at a crawl, but the needle climbs when I cruise"},
	"hot-at-idle":              {"she gets hot in the lock, and cools down once we go", "it is worst when we wait about"},
	"hot-everywhere":           {"she runs hot whatever I do", "hot at any speed now"},
	"runs-cool":                {"the needle hardly moves off the stop", "she never gets properly warm"},
	"came-suddenly":            {"it was all right in the morning", "from one minute to the next"},
	"came-gradually":           {"it has been getting worse all season", "a little more each trip"},
	"heater-lukewarm":          {"the cabin heater blows lukewarm"},
	"alarm-sounded":            {"the alarm went off", "something beeped, I stopped her at once"},
	"gauge-jumps":              {"the needle jumps about"},
	"gauge-normal-at-alarm":    {"the alarm went, but the needle stood where it always stands"},
	"power-cut":                {"she slowed down by herself"},
	"no-water-at-outlet":       {"nothing comes out at the back, I think", "I saw no water at the stern"},
	"weak-water-at-outlet":     {"there is some water at the back, less than there was", "it dribbles rather"},
	"good-water-at-outlet":     {"water comes out as ever"},
	"steam-at-outlet":          {"there is steam at the exhaust", "white clouds behind us"},
	"exhaust-hose-hot":         {"the big rubber hose gets hot"},
	"gas-in-engine-space":      {"it smells of exhaust below"},
	"sheen-at-outlet":          {"there is a rainbow on the water behind us"},
	"coolant-disappears":       {"I keep topping up the green stuff", "the tank is down again every week"},
	"coolant-boiled-over":      {"it boiled over into the bilge"},
	"milky-oil":                {"the oil looks like coffee with milk"},
	"bilge-water-salt":         {"there is water in the bilge, salt I think"},
	"bilge-water-coolant":      {"something sweet and green stands under the engine"},
	"bubbles-in-header":        {"it bubbles in the tank"},
	"rust-spray-line":          {"there is a rusty line over everything at the front"},
	"drip-at-weep-hole":        {"something drips from under a pump"},
	"belt-squeal-or-dust":      {"it squeals when I start her"},
	"bubbles-in-strainer":      {"there are bubbles in that glass thing"},
	"slow-to-prime":            {"it takes ages before any water comes"},
	"black-smoke":              {"she smokes black"},
	"cannot-reach-rated-speed": {"she does not get up to her old speed"},
	"fine-again-after-stopping": {"after a rest she is all right again for a while",
		"I stopped for ten minutes, then it was fine"},
}

// theories are what owners blame, by fault: common talk, and mostly wrong.
var theories = []struct{ fault, say string }{
	{"thermostat-shut", "My neighbour says it is always the thermostat."},
	{"impeller-tired", "It must be the impeller, it usually is."},
	{"circ-pump-worn", "I read that the water pump goes on these."},
	{"tubes-scaled", "Surely it only wants descaling."},
	{"gauge-wrong", "I bet it is only the gauge."},
	{"coolant-low", "I topped it up, so it cannot be that. Or can it?"},
}

// told are the topics of which an owner calls a mechanic.
var told = []string{"heat", "water", "panel", "fluids", "pump", "under-way"}

// tell lets the owner tell what shows, a few things of it, and blame something that it is not. Nothing is told where
// nothing that a fault causes would be noticed.
func (e *Engine) tell(r *rand.Rand) {
	var all []string
	reason := false
	for _, f := range e.c.Findings {
		if f.Source != catalogue.Complaint || says[f.ID] == nil || !slices.Contains(told, f.Topic) ||
			!e.shows(f.ID, e.ids()) {
			continue
		}
		all = append(all, f.ID)
		reason = reason || chance(f, e.ids(), 0) > 0
	}
	if !reason {
		return
	}
	r.Shuffle(len(all), func(i, k int) { all[i], all[k] = all[k], all[i] })
	// what a fault causes is what the call is about
	slices.SortStableFunc(all, func(a, b string) int { return e.rank(a) - e.rank(b) })
	e.Told = all[:min(mostTold, len(all))]
	e.mistake(r)
	for _, i := range r.Perm(len(theories)) {
		if !e.Has(theories[i].fault) {
			e.Theory = theories[i].fault
			e.Words = e.spoken(r, theories[i].say)
			return
		}
	}
}

// mistakenShare is the share of owners who have one thing wrong.
const mistakenShare = 0.4

// mistake lets the owner have one thing wrong: of a question, an option that is not so. It is said, and not taken as a
// finding; the one that is so is left for the learner to see.
func (e *Engine) mistake(r *rand.Rand) {
	wrong := r.Float64() < mistakenShare
	for _, i := range r.Perm(len(e.c.Groups)) {
		g := e.c.Groups[i]
		var said []string
		for _, id := range g.Findings {
			if says[id] != nil && !e.shows(id, e.ids()) {
				said = append(said, id)
			}
		}
		at := slices.IndexFunc(e.Told, func(id string) bool { return slices.Contains(g.Findings, id) })
		if !wrong || at < 0 || len(said) == 0 || len(e.Told) < 2 {
			continue
		}
		e.Mistaken = said[r.IntN(len(said))]
		e.Told = slices.Delete(slices.Clone(e.Told), at, at+1)
		return
	}
}

func (e *Engine) rank(finding string) int {
	f, _ := e.c.Finding(finding)
	if chance(f, e.ids(), 0) > 0 {
		return 0
	}
	return 1
}

// spoken puts what is told into an owner's sentences.
func (e *Engine) spoken(r *rand.Rand, theory string) string {
	var list []string
	for _, id := range e.Told {
		list = append(list, says[id][r.IntN(len(says[id]))])
	}
	if e.Mistaken != "" {
		list = append(list, says[e.Mistaken][r.IntN(len(says[e.Mistaken]))])
	}
	text := strings.Join(list, ", ") + "."
	return fmt.Sprintf("“%s%s %s”", strings.ToUpper(text[:1]), text[1:], theory)
}
