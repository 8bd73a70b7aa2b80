package diagnosis_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
)

// How symptoms divide the suspects: the trade's own logic (common practice). What is leant to must become likelier
// than it was, what is leant away from less likely.
func TestSymptomsDivideTheSuspectsAsTheTradeHasIt(t *testing.T) {
	for name, tc := range map[string]struct {
		family       string
		history      []string
		seen         []string
		to, awayFrom []string
	}{
		"hot under load only, good water": {catalogue.Closed, nil, []string{"hot-under-load", "good-water-at-outlet"},
			[]string{"tubes-scaled", "thermostat-lazy", "circ-pump-worn", "overloaded"}, []string{"thermostat-shut",
				"strainer-clogged"}},
		"hot at idle, better with speed": {catalogue.Closed, nil, []string{"hot-at-idle"},
			[]string{"pump-worn-body", "coolant-low", "coolant-airbound", "circ-belt-slipping"}, []string{"tubes-scaled"}},
		"hot at any speed, good water": {catalogue.Closed, nil, []string{"hot-everywhere", "good-water-at-outlet"},
			[]string{"thermostat-shut", "coolant-low", "circ-pump-worn", "head-gasket-leak"}, []string{"strainer-clogged"}},
		"no water at the outlet": {catalogue.Closed, nil, []string{"no-water-at-outlet"},
			[]string{"impeller-drive-failed", "pump-not-primed", "impeller-vanes-missing", "seacock-restricted"},
			[]string{"coolant-low", "thermostat-lazy"}},
		"weak water, steam, hose hot": {catalogue.Closed, nil, []string{"weak-water-at-outlet", "steam-at-outlet",
			"exhaust-hose-hot"},
			[]string{"intake-blocked", "impeller-vanes-missing", "elbow-choked"}, []string{"gauge-wrong"}},
		"runs cool, heater lukewarm": {catalogue.Closed, nil, []string{"runs-cool", "heater-lukewarm"},
			[]string{"thermostat-open"}, []string{"strainer-clogged", "intake-blocked", "tubes-scaled", "impeller-tired"}},
		"power cut, exhaust hot": {catalogue.Closed, nil, []string{"power-cut", "exhaust-hose-hot"},
			[]string{"impeller-vanes-missing", "raw-hose-leak", "elbow-choked"}, []string{"thermostat-lazy"}},
		"coolant vanishes": {catalogue.Closed, nil, []string{"coolant-disappears"},
			[]string{"tube-holed", "head-gasket-leak", "cap-weak"}, []string{"impeller-tired"}},
		"bubbles in the header": {catalogue.Closed, nil, []string{"bubbles-in-header"}, []string{"head-gasket-leak"},
			[]string{"strainer-clogged"}},
		"rusty spray line": {catalogue.Closed, nil, []string{"rust-spray-line"}, []string{"circ-pump-seal-leak",
			"pump-shaft-seal-leak"}, []string{"overloaded"}},
		"milky oil": {catalogue.Closed, nil, []string{"milky-oil"}, []string{"pump-shaft-seal-leak",
			"oil-cooler-holed", "head-gasket-leak"}, []string{"thermostat-shut"}},
		"after a grounding": {catalogue.Closed, []string{"grounded"}, nil, []string{"sand-in-circuit", "impeller-tired",
			"tubes-blocked"}, []string{"thermostat-shut"}},
		"after a lay-up": {catalogue.Closed, []string{"laid-up"}, nil,
			[]string{"impeller-tired", "pump-not-primed", "thermostat-shut"}, []string{"overloaded"}},
		"just after an impeller": {catalogue.Closed, []string{"impeller-just-fitted"}, nil,
			[]string{"pump-not-primed", "pump-cover-leak", "seacock-restricted"}, []string{"tubes-scaled", "impeller-tired"}},
		"one engine of two": {catalogue.Closed, nil, []string{"sister-engine-normal"}, []string{"impeller-tired"},
			[]string{"overloaded"}},
		"raw-cooled, hot at all speeds": {catalogue.Direct, nil, []string{"hot-everywhere", "came-gradually"},
			[]string{"block-silted", "riser-choked"}, []string{"pump-not-primed"}},
	} {
		t.Run(name, func(t *testing.T) {
			before := ask(t, diagnosis.Question{Family: tc.family})
			after := ask(t, diagnosis.Question{Family: tc.family, History: tc.history, Findings: present(tc.seen...)})
			for _, f := range tc.to {
				assert.Greater(t, probability(after, f), probability(before, f), f)
			}
			for _, f := range tc.awayFrom {
				assert.Less(t, probability(after, f), probability(before, f), f)
			}
		})
	}
}
