package units

import (
	"math"
	"regexp"
	"strconv"
	"strings"
)

// metric finds quantities in sentences: one number, a range or a number with its error, and a unit behind it.
var metric = regexp.MustCompile(`(-?\d+(?:\.\d+)?)((?: to | ± | and )(-?\d+(?:\.\d+)?))? (°C|K/min|kg/h|L/min|m/s|kPa|kW|kg|mm|K|L)([^\pL\d/]|$)`)

// Rewrite turns the quantities of a sentence, written in metric units, into a system's own, with decimals enough to say
// as much in a larger unit. Differences of temperature, written in K so that they are told from temperatures, are said in
// degrees.
func Rewrite(sentence string, system System) string {
	if system == Metric {
		return differences.ReplaceAllString(sentence, "$1 °C$2")
	}
	return metric.ReplaceAllStringFunc(sentence, func(found string) string {
		m := metric.FindStringSubmatch(found)
		from := bySymbol[m[4]]
		to := from.ShownAs(system)
		more := max(0, int(math.Ceil(math.Log10(to.Factor/from.Factor))))
		text := rewritten(m[1], more, func(v float64) float64 { return to.FromBase(from.ToBase(v)) })
		switch {
		case strings.HasPrefix(m[2], " ± "):
			text += " ± " + rewritten(m[3], more, func(v float64) float64 { return v * from.Factor / to.Factor })
		case m[2] != "":
			text += strings.TrimSuffix(m[2], m[3]) + rewritten(m[3], more,
				func(v float64) float64 { return to.FromBase(from.ToBase(v)) })
		}
		return text + " " + to.Symbol + m[5]
	})
}

// differences finds those of temperature in sentences.
var differences = regexp.MustCompile(`(\d) K(/min|[^\pL\d/]|$)`)

// rewritten is a written number turned, with as many decimals as it had and some more.
func rewritten(text string, more int, turn func(float64) float64) string {
	v, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return text
	}
	_, decimals, _ := strings.Cut(text, ".")
	return strconv.FormatFloat(turn(v), 'f', len(decimals)+more, 64)
}

// bySymbol holds the metric units that stand in sentences.
var bySymbol = func() map[string]Unit {
	m := map[string]Unit{}
	for _, id := range []string{"degC", "K/min", "kg/h", "L/min", "m/s", "kPa", "kW", "kg", "mm", "K", "L"} {
		m[Must(id).Symbol] = Must(id)
	}
	m["°C"], m["K"], m["K/min"] = Must("degC"), Must("K"), Must("K/min")
	return m
}()
