package catalogue_test

import (
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/core/catalogue"
)

// The trade's tables (common practice), written out here a second time and by hand, so that a slip in the data files
// is seen. Rates: A 8 %, B 4 %, C 1.5 %, D 0.5 %; families c closed-cooled, d raw-water-cooled.
const faultTable = `
intake-blocked            c d  B  intake-look hose-off-flow
seacock-restricted        c d  B  seacock-look hose-off-flow
strainer-clogged          c d  A  strainer-look
strainer-air-leak         c d  C  strainer-look
suction-hose-collapsed    c d  C  suction-hose-look
suction-air-leak          c d  C  suction-hose-look
impeller-vanes-missing    c d  A  impeller-look
impeller-tired            c d  A  impeller-look
impeller-drive-failed     c d  C  impeller-look
pump-worn-body            c d  B  pump-measure
pump-cover-leak           c d  C  pump-leak-look
pump-shaft-seal-leak      c d  B  pump-leak-look
pump-bearing-failed       c d  D  pump-leak-look
pump-belt-slipping        c d  B  belt-look
pump-not-primed           c d  C  prime-test
debris-at-cooler          c d  B  cooler-inlet-look
raw-filter-clogged        c d  C  raw-filter-look
tubes-blocked             c    B  exchanger-look
tubes-scaled              c    A  exchanger-look scale-drop-test
tube-holed                c    D  exchanger-pressure-test
oil-cooler-holed          c d  D  cooler-pressure-test
exchanger-bypass          c    D  exchanger-look
raw-hose-leak             c d  C  leak-round
antisiphon-faulty         c d  D  antisiphon-look
elbow-choked              c    B  elbow-look
elbow-holed               c d  C  elbow-look
exhaust-hose-failed       c d  D  exhaust-hose-look
silencer-blocked          c d  D  silencer-look
coolant-low               c    B  coolant-level
coolant-leak              c    C  coolant-pressure-test
coolant-airbound          c    C  bleed-test
cap-weak                  c    C  cap-test
thermostat-shut           c d  B  thermostat-pot-test
thermostat-lazy           c d  B  thermostat-pot-test
thermostat-open           c d  B  thermostat-pot-test
circ-belt-slipping        c d  C  belt-look
circ-pump-worn            c d  C  circ-pump-look
circ-pump-seal-leak       c d  B  weep-look
coolant-side-fouled       c    C  flush-test
coolant-mix-wrong         c    D  coolant-strength
coolant-hose-collapsed    c    D  coolant-hose-look
block-silted                d  B  block-flush
riser-choked                d  B  elbow-look
sand-in-circuit           c d  C  impeller-look low-point-look
head-gasket-leak          c d  D  combustion-gas-test compression-test
overloaded                c d  B  top-speed-test
gauge-wrong               c d  B  gauge-compare
alarm-switch-wrong        c d  C  alarm-test
exhaust-sensor-wrong      c d  D  exhaust-compare
exhaust-flooded           c d  D  exhaust-low-point
raw-hose-choked           c d  C  raw-hose-bore`

// Check, own minutes, access, engine (r running, s stopped, a any).
const checkTable = `
strainer-look 4 - s
seacock-look 1 - a
hose-off-flow 4 suction-hose-off s
intake-look 8 under-hull s
seacock-bore-look 6 under-hull s
suction-hose-look 3 - a
suction-vacuum 5 gauge-teed-in r
delivery-pressure 5 gauge-teed-in r
prime-test 3 - r
outlet-flow 4 - r
belt-look 2 - s
impeller-look 6 pump-cover-off s
pump-measure 8 pump-cover-off s
pump-leak-look 4 - r
pump-shaft-feel 2 - s
raw-filter-look 4 - s
cooler-inlet-look 5 cooler-hose-off s
cooler-pressure-test 15 cooler-hose-off s
exchanger-look 6 end-caps-off s
scale-drop-test 2 end-caps-off s
exchanger-pressure-test 15 exchanger-isolated s
antisiphon-look 5 - s
elbow-look 8 elbow-hose-off s
exhaust-hose-look 4 elbow-hose-off s
silencer-look 6 elbow-hose-off s
leak-round 5 - r
coolant-level 1 - s
cap-test 5 - s
coolant-pressure-test 10 - s
bleed-test 10 - r
coolant-strength 2 - s
coolant-condition 2 - s
coolant-hose-look 2 - a
weep-look 3 - r
circ-pump-look 10 circ-pump-off s
thermostat-pot-test 15 thermostat-out s
flush-test 20 thermostat-out s
block-flush 20 thermostat-out s
low-point-look 10 low-hose-off s
combustion-gas-test 10 - r
compression-test 20 injectors-out s
top-speed-test 10 under-way r
gauge-compare 3 - r
alarm-test 5 - a
exhaust-compare 3 - r
twin-round 8 - r
temperatures-idle 6 - r
temperatures-load 8 alongside-in-gear r
look-over-side 1 - r
feel-hoses 2 - r
oil-look 3 - s
bilge-look 3 - a
sister-look 1 - a
exhaust-low-point 5 - s
raw-hose-bore 6 cooler-hose-off s
ask-when-hot 1 - a
ask-panel 1 - a
ask-exhaust 1 - a
ask-coolant 1 - a
ask-pump 1 - a
ask-under-way 1 - a`

var accessTable = map[string]float64{"suction-hose-off": 4, "under-hull": 20, "gauge-teed-in": 10,
	"pump-cover-off": 12, "cooler-hose-off": 6,
	"end-caps-off": 20, "exchanger-isolated": 25, "elbow-hose-off": 12, "circ-pump-off": 45, "thermostat-out": 15,
	"low-hose-off":      8,
	"alongside-in-gear": 10, "under-way": 30, "injectors-out": 60}

func rows(table string) [][]string {
	var out [][]string
	for line := range strings.Lines(strings.TrimSpace(table)) {
		out = append(out, strings.Fields(line))
	}
	return out
}

func TestTheFaultsAreThoseOfTheTable(t *testing.T) {
	c := load(t)
	rates := map[string]float64{"A": 0.08, "B": 0.04, "C": 0.015, "D": 0.005}
	families := map[string]string{"c": catalogue.Closed, "d": catalogue.Direct}
	table := rows(faultTable)
	assert.Len(t, c.Faults, len(table))
	for _, row := range table {
		f, ok := c.Fault(row[0])
		require.True(t, ok, row[0])
		var in []string
		rest := row[1:]
		for families[rest[0]] != "" {
			in = append(in, families[rest[0]])
			rest = rest[1:]
		}
		assert.Equal(t, in, f.Families, row[0])
		assert.InDelta(t, rates[rest[0]], f.Prior, 0, row[0])
		for _, check := range rest[1:] {
			k, ok := c.Check(check)
			require.True(t, ok, check)
			assert.Contains(t, k.Confirms, row[0], check)
		}
	}
}

// A stack is tried at 100 to 150 kPa where its maker says nothing, since 20 kPa proves nothing (handbook of the trade,
// from memory); what an oil side stands only its maker knows.
func TestAStackIsTriedAtItsPressure(t *testing.T) {
	for _, k := range load(t).Checks {
		var want []float64
		if k.ID == "exchanger-pressure-test" {
			want = []float64{100, 150}
		}
		assert.Equal(t, want, k.TestKPa, k.ID)
	}
}

func TestTheChecksAndAccessesAreThoseOfTheTable(t *testing.T) {
	c := load(t)
	engine := map[string]string{"r": catalogue.Running, "s": catalogue.Stopped, "a": catalogue.Any}
	table := rows(checkTable)
	assert.Len(t, c.Checks, len(table))
	for _, row := range table {
		k, ok := c.Check(row[0])
		require.True(t, ok, row[0])
		assert.Equal(t, row[1:], []string{strconv.FormatFloat(k.Minutes, 'f', -1, 64), orDash(k.Access), row[3]}, row[0])
		assert.Equal(t, engine[row[3]], k.Engine, row[0])
	}
	assert.Len(t, c.Access, len(accessTable))
	for id, minutes := range accessTable {
		a, ok := c.AccessTo(id)
		require.True(t, ok, id)
		assert.InDelta(t, minutes, a.Minutes, 0, id)
	}
}

func orDash(s string) string {
	if s == "" {
		return "-"
	}
	return s
}

func TestHistoryAndPairsAreThoseOfTheTable(t *testing.T) {
	c := load(t)
	odds := func(history, fault string) float64 {
		h, ok := c.HistoryItem(history)
		require.True(t, ok, history)
		for _, m := range h.Multipliers {
			if m.Fault == fault {
				return m.Factor
			}
		}
		return 1
	}
	for _, tc := range []struct {
		history, fault string
		factor         float64
	}{
		{"impeller-overdue", "impeller-tired", 3}, {"impeller-overdue", "impeller-drive-failed", 2},
		{"grounded", "sand-in-circuit", 10},
		{"grounded", "tubes-blocked", 3}, {"grounded", "intake-blocked", 2}, {"weed-about", "intake-blocked", 4},
		{"weed-about", "strainer-clogged", 3},
		{"laid-up", "pump-not-primed", 3}, {"laid-up", "thermostat-open", 2}, {"laid-up", "strainer-air-leak", 2},
		{"impeller-just-fitted", "pump-not-primed", 8}, {"impeller-just-fitted", "seacock-restricted", 4},
		{"impeller-just-fitted", "impeller-tired", 0.2},
		{"lost-blades-before", "tubes-blocked", 5}, {"warm-salt-undescaled", "tubes-scaled", 3}, {"warm-salt-undescaled",
			"block-silted", 2},
		{"elbow-old", "riser-choked", 3}, {"seacock-unworked", "seacock-restricted", 2}, {"coolant-old", "circ-pump-worn",
			2}, {"coolant-old", "tubes-scaled", 1},
	} {
		assert.InDelta(t, tc.factor, odds(tc.history, tc.fault), 0, "%s × %s", tc.history, tc.fault)
	}
	for _, tc := range []struct {
		a, b   string
		factor float64
	}{
		{"impeller-vanes-missing", "debris-at-cooler", 20}, {"impeller-vanes-missing", "tubes-blocked", 12},
		{"pump-not-primed", "impeller-tired", 3},
		{"sand-in-circuit", "pump-worn-body", 5}, {"pump-shaft-seal-leak", "pump-bearing-failed", 8}, {"pump-worn-body",
			"impeller-tired", 3},
		{"coolant-low", "coolant-airbound", 6}, {"coolant-low", "circ-pump-seal-leak", 6}, {"elbow-choked",
			"exhaust-hose-failed", 4},
		{"tubes-scaled", "elbow-choked", 2}, {"thermostat-shut", "head-gasket-leak", 3},
	} {
		i := slices.IndexFunc(c.Pairs, func(p catalogue.Pair) bool {
			return p.A == tc.a && p.B == tc.b || p.A == tc.b &&
				p.B == tc.a
		})
		require.GreaterOrEqual(t, i, 0, "%s + %s", tc.a, tc.b)
		assert.InDelta(t, tc.factor, c.Pairs[i].Factor, 0, "%s + %s", tc.a, tc.b)
	}
}

// Opposites keep each other away: a restriction before the pump speaks against a high delivery pressure, one after it
// against a low one, and every fault that costs raw water against good water at the outlet.
func TestOppositesAreBlockers(t *testing.T) {
	c := load(t)
	blocks := func(finding, fault string) bool {
		f, ok := c.Finding(finding)
		require.True(t, ok, finding)
		return slices.ContainsFunc(f.Blocks, func(l catalogue.Link) bool { return l.Fault == fault })
	}
	for _, before := range []string{"intake-blocked", "seacock-restricted", "strainer-clogged", "suction-hose-collapsed"} {
		assert.True(t, blocks("delivery-pressure-high", before), before)
		assert.True(t, blocks("good-water-at-outlet", before), before)
		assert.True(t, blocks("runs-cool", before), before)
	}
	for _, after := range []string{"debris-at-cooler", "raw-filter-clogged", "elbow-choked", "riser-choked",
		"tubes-blocked"} {
		assert.True(t, blocks("delivery-pressure-low", after), after)
		assert.True(t, blocks("good-water-at-outlet", after), after)
	}
	for _, hot := range []string{"hot-under-load", "hot-at-idle", "hot-everywhere", "plateau-above-rating"} {
		assert.True(t, blocks(hot, "thermostat-open"), hot)
	}
}
