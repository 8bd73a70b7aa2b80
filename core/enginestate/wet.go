package enginestate

import (
	"slices"

	"hevrin/core/eventlog"
	"hevrin/core/teardown"
	"hevrin/core/wetwork"
)

// workLabels are what a piece of wet work is called.
var workLabels = map[string]string{wetwork.Flushing: "Flush", wetwork.Descale: "Descaling",
	wetwork.CoolantJob: "Coolant change"}

// wet takes an act of wet work in: what is in the circuit, and what it opened.
func (s *State) wet(e eventlog.Entry) {
	a, who := *e.Body.Wetwork, whoOf(e)
	if a.Do == wetwork.PlanIt {
		s.works = append(s.works, &work{Work: wetwork.Planned(wetwork.Done{Act: a, By: e.By, At: who.At}), since: who,
			label: workLabels[a.Kind]})
		return
	}
	i := slices.IndexFunc(s.works, func(w *work) bool { return w.ID == a.Work })
	if i < 0 {
		return
	}
	w := s.works[i]
	one := wetwork.Account{Works: []wetwork.Work{w.Work}}
	one.Take(wetwork.Done{Act: a, By: e.By, At: who.At, Entry: e.ID})
	w.Work = one.Works[0]
	if a.Do == wetwork.Begin {
		w.since = who
		if s.raw.State == Open && w.Kind != wetwork.CoolantJob {
			s.raw = RawWater{State: NotAsked, Why: "it was to be shut for: " + w.label, Since: who}
		}
	}
	switch {
	case w.Kind == wetwork.CoolantJob && a.Do == wetwork.Drained:
		s.isolated["coolant"] = who
		s.Hands.Take(teardown.Done{Act: teardown.Act{Do: teardown.Isolate, Item: "coolant", Litres: a.Litres}, By: e.By,
			At: who.At, Entry: e.ID})
	case w.Kind == wetwork.CoolantJob && a.Do == wetwork.End:
		s.Hands.Take(teardown.Done{Act: teardown.Act{Do: teardown.Lift, Item: "coolant"}, By: e.By, At: who.At,
			Entry: e.ID})
		s.coolant = Oil{}
	case a.Do == wetwork.CameOut && a.What == wetwork.Rubber:
		s.Hands.Take(teardown.Done{Act: teardown.Act{Do: teardown.Found, Item: a.Station,
			Piece: &teardown.Piece{Share: a.Share}}, Scope: e.Subject.ID + ":", By: e.By, At: who.At, Entry: e.ID})
	}
}

// begun says whether a work was begun: a plan alone changes nothing.
func (w *work) begun() bool { return len(w.Log) > 0 }

// acid says whether acid stands in the engine: a descaling in place that was begun and is not rinsed yet.
func (w *work) acid() bool {
	return w.Kind == wetwork.Descale && w.Descale != nil && w.Descale.Place == wetwork.InPlace && w.begun() &&
		!slices.Contains(w.Stages, wetwork.Stages[0])
}

// joints says whether the joints that a flush opened are still open.
func (w *work) joints() bool {
	return w.Kind == wetwork.Flushing && w.Flush != nil && w.begun() && !w.closed
}
