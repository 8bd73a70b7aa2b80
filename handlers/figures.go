package handlers

import (
	"maps"
	"slices"

	"hevrin/api"
	"hevrin/core/diagnosis"
	"hevrin/core/eventlog"
)

// FiguresView is what a yard goes by in place of the catalogue.
func FiguresView(m eventlog.YardMethods) api.YardFigures {
	out := api.YardFigures{Rates: map[string]float64{}, Minutes: map[string]float64{}, ComebackMinutes: m.Figures.Comeback,
		ComebackShipped: diagnosis.ComebackMinutes, Seen: m.Last}
	maps.Copy(out.Rates, m.Figures.Rates)
	maps.Copy(out.Minutes, m.Figures.Minutes)
	if out.ComebackMinutes == 0 {
		out.ComebackMinutes = diagnosis.ComebackMinutes
	}
	out.Chosen = []api.FiguresChosen{}
	for _, what := range slices.Sorted(maps.Keys(m.FiguresFrom)) {
		from := m.FiguresFrom[what]
		out.Chosen = append(out.Chosen, api.FiguresChosen{What: api.FiguresKind(what), By: from.By, At: from.At.UTC()})
	}
	return out
}
