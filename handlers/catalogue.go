package handlers

import (
	"context"
	"fmt"
	"maps"
	"slices"

	"hevrin/api"
	"hevrin/core/catalogue"
	"hevrin/core/diagnosis"
	"hevrin/core/enginestate"
	"hevrin/core/eventlog"
	"hevrin/core/validation"
	"hevrin/core/workbench"
)

// catalogueHandlers answer what the catalogue alone can answer.
type catalogueHandlers struct {
	catalogue *catalogue.Catalogue
	diagnosis *diagnosis.Diagnoser
	version   string
}

func (h *catalogueHandlers) GetCatalogue(context.Context,
	api.GetCatalogueRequestObject) (api.GetCatalogueResponseObject, error) {
	return api.GetCatalogue200JSONResponse(catalogueView(h.catalogue)), nil
}

func (h *catalogueHandlers) Diagnose(ctx context.Context,
	r api.DiagnoseRequestObject) (api.DiagnoseResponseObject, error) {
	q, err := questionOf(*r.Body)
	if err != nil {
		return nil, err
	}
	stand, facts, err := h.standOf(*r.Body, q)
	if err != nil {
		return nil, err
	}
	ahead := stand.Ahead(facts)
	if q.Barred = maps.Clone(ahead.Barred); r.Body.State != nil {
		q.Ahead, q.OpenAccess = ahead.Minutes, stand.OpenAccess()
	}
	q.Barred["sister-look"] = "Whether there is a sister engine is not known here."
	answer, err := h.diagnosis.Diagnose(q)
	if err != nil {
		return nil, err
	}
	out := answerView(answer)
	if r.Body.State != nil {
		stepsBefore(SystemIn(ctx), ahead, answer.NextChecks, &out)
	}
	out.NotOffered = notOffered(answer, q.Barred)
	return api.Diagnose200JSONResponse(out), nil
}

// standOf is the state of the engine that a question is about, as far as it is given and its findings tell, and as much
// of the engine as the question says.
func (h *catalogueHandlers) standOf(b api.Question, q diagnosis.Question) (*enginestate.State, eventlog.EngineFacts,
	error) {
	facts := eventlog.EngineFacts{Family: q.Family, Fuel: "diesel", Circuit: q.Stations}
	if family, ok := h.catalogue.Family(q.Family); ok {
		facts.ThermostatC = family.ThermostatC
	}
	for _, s := range h.catalogue.Stations {
		if q.Stations == nil && len(s.Sides[q.Family]) > 0 {
			facts.Circuit = append(facts.Circuit, s.ID)
		}
	}
	var g enginestate.Given
	if s := b.State; s != nil {
		g = enginestate.Given{
			Heat:       string(api.Value(s.Heat)),
			Running:    api.Value(s.Running),
			Where:      string(api.Value(s.Where)),
			OpenAccess: api.Value(s.OpenAccess),
			Isolated: api.Each(api.Value(s.Isolated),
				func(i api.GivenStateIsolated) string { return string(i) }),
		}
		for _, id := range q.OpenAccess {
			if !slices.Contains(g.OpenAccess, id) {
				g.OpenAccess = append(g.OpenAccess, id)
			}
		}
	}
	for _, f := range q.Findings {
		if state, ok := map[float64]string{1: eventlog.Present, 0: eventlog.Absent}[f.Q]; ok {
			g.Seen = append(g.Seen, eventlog.Stated{ID: f.Finding, State: state})
		}
	}
	stand, err := enginestate.FromGiven(h.catalogue, g)
	return stand, facts, err
}

// notOffered lists the checks that the engine's state bars.
func notOffered(a *diagnosis.Answer, barred map[string]string) *[]api.RuledOut {
	list := []api.RuledOut{}
	for _, x := range a.RuledOut {
		if barred[x.Check] != "" && barred[x.Check] == x.Reason {
			list = append(list, api.RuledOut{Check: x.Check, Reason: x.Reason})
		}
	}
	return &list
}

func questionOf(b api.Question) (diagnosis.Question, error) {
	q := diagnosis.Question{Family: string(b.Family), History: api.Value(b.History), OpenAccess: api.Value(b.OpenAccess),
		Done: api.Value(b.Done), Strategy: string(api.Value(b.Strategy)), Stations: api.Value(b.Stations),
		PumpDrive: string(api.Value(b.PumpDrive)), Yard: diagnosis.Yard{Comeback: api.Value(b.ComebackMinutes)}}
	var wrong validation.Errors
	for i, f := range api.Value(b.Findings) {
		at := fmt.Sprintf("findings[%d]", i)
		e := diagnosis.Evidence{Finding: f.Id, Point: api.Value(f.Point), Looks: api.Value(f.Looks)}
		switch {
		case f.State != nil && f.Q != nil:
			wrong.Add(at, "state and q", "one of the two", "give either a state or q")
		case f.State != nil:
			if *f.State == api.PresencePresent {
				e.Q = 1
			}
		case f.Q != nil:
			e.Q = *f.Q
		default:
			wrong.Add(at, "neither state nor q", "one of the two", "say whether it is present or absent, or give q")
		}
		q.Findings = append(q.Findings, e)
	}
	return q, wrong.Err()
}

func catalogueView(c *catalogue.Catalogue) api.Catalogue {
	return api.Catalogue{
		Points: api.Each(c.Points, func(p catalogue.Point) api.OperatingPoint {
			return api.OperatingPoint{Id: p.ID, Label: p.Label, Speed: p.Speed}
		}),
		JobKinds: api.Each(c.JobKinds, jobKindView),
		Troubles: api.Each(c.Troubles, func(t catalogue.Trouble) api.Trouble {
			return api.Trouble{Id: t.ID, Label: t.Label, Kind: t.Kind, Findings: api.SomeList(t.Findings)}
		}),
		Waters: api.Each(c.Waters, func(w catalogue.Water) api.Water {
			return api.Water{Id: w.ID, Label: w.Label, Findings: api.SomeList(w.Findings), Why: w.Why}
		}),
		Version: c.Version, SetFactor: c.SetFactor,
		Families: api.Each(c.Families, func(f catalogue.Family) api.FamilyFacts {
			return api.FamilyFacts{Id: f.ID, Label: f.Label, What: f.What, ThermostatC: f.ThermostatC,
				Circuit: f.Circuit, Like: api.Some(f.Like)}
		}),
		Stations: api.Each(c.Stations, func(s catalogue.Station) api.Station {
			side := func(x string) api.Side { return api.Side(x) }
			out := api.Station{Id: s.ID, Label: s.Label, What: s.What, Closed: api.Each(s.Sides[catalogue.Closed], side),
				Direct: api.Each(s.Sides[catalogue.Direct], side)}
			if len(s.Sides) > 2 {
				others := map[string][]api.Side{}
				for family, list := range s.Sides {
					others[family] = api.Each(list, side)
				}
				delete(others, catalogue.Closed)
				delete(others, catalogue.Direct)
				out.Sides = &others
			}
			return out
		}),
		Faults: api.Each(c.Faults, faultView),
		Pairs: api.Each(c.Pairs, func(p catalogue.Pair) api.Pair {
			return api.Pair{A: p.A, B: p.B, Factor: p.Factor,
				Why: p.Why}
		}),
		History: api.Each(c.History, func(h catalogue.HistoryItem) api.HistoryItem {
			return api.HistoryItem{Id: h.ID, Label: h.Label, Multipliers: api.Each(h.Multipliers,
				func(m catalogue.Multiplier) api.Multiplier {
					return api.Multiplier{Fault: m.Fault, Factor: m.Factor, Why: m.Why}
				})}
		}),
		Findings: api.Each(c.Findings, func(f catalogue.Finding) api.Finding {
			return api.Finding{Id: f.ID, Label: f.Label, Topic: f.Topic, Source: api.Source(f.Source), Leak: f.Leak,
				LeakWhy: f.LeakWhy, Causes: api.Each(f.Causes, linkView), Blocks: api.Each(f.Blocks, linkView),
				At: strengthsView(f.At)}
		}),
		Groups: api.Each(c.Groups, func(g catalogue.Group) api.Group {
			return api.Group{Id: g.ID, Label: g.Label,
				Findings: g.Findings}
		}),
		Grades: api.Each(c.Grades, func(g catalogue.Grade) api.Grade {
			return api.Grade{Id: g.ID, Label: g.Label, Light: g.Light, Heavy: g.Heavy, Do: g.Do, Item: api.Some(g.Item)}
		}),
		Checks: api.Each(c.Checks, func(k catalogue.Check) api.Check { return checkView(c, k) }),
		Access: api.Each(c.Access, func(a catalogue.Access) api.Access {
			return api.Access{
				Id:       a.ID,
				Label:    a.Label,
				Minutes:  a.Minutes,
				Needs:    api.List(a.Needs),
				Cautions: api.List(a.Cautions),
				Why:      a.Why,
			}
		}),
		Needs: api.Each(c.Needs, func(n catalogue.Need) api.Labelled { return api.Labelled{Id: n.ID, Label: n.Label} }),
		Methods: api.Each(c.Methods, func(m catalogue.Method) api.Method {
			return api.Method{Id: m.ID, Label: m.Label, Default: m.Default, Why: m.Why, Schools: api.Each(m.Schools,
				func(s catalogue.School) api.Labelled { return api.Labelled{Id: s.ID, Label: s.Label} })}
		}),
		Upkeep: api.Each(c.Maintenance, func(u catalogue.MaintenanceItem) api.Labelled {
			return api.Labelled{Id: u.ID,
				Label: u.Label}
		}),
		Impeller: impellerWords(),
		Cautions: api.Each(c.Cautions, func(k catalogue.Caution) api.Caution {
			return api.Caution{Id: k.ID, Label: k.Label, Text: k.Text, Act: api.Some(k.Act)}
		}),
	}
}

func impellerWords() (w struct {
	CoverSeals []string `json:"cover_seals"`
	Drives     []string `json:"drives"`
	Inserts    []string `json:"inserts"`
}) {
	w.Drives, w.Inserts, w.CoverSeals = workbench.Drives, workbench.Inserts, workbench.CoverSeals
	return w
}

func faultView(f catalogue.Fault) api.Fault {
	return api.Fault{Id: f.ID, Label: f.Label, Stations: f.Stations, Families: f.Families, Prior: f.Prior,
		Why: f.Why, Remedy: f.Remedy,
		Sure: api.Each(f.Sure, func(s catalogue.SureLook) api.SureLook {
			return api.SureLook{
				Check:   s.Check,
				Finding: s.Finding,
				Rivals: api.Each(s.Rivals, func(r catalogue.Rival) api.Rival {
					return api.Rival{Fault: r.Fault, ToldBy: r.SettledBy}
				}),
			}
		})}
}

// strengthsView gives strengths by operating point and fault; nil for what tells the same at each.
func strengthsView(at map[string][]catalogue.Link) *map[string]map[string]float64 {
	if at == nil {
		return nil
	}
	out := map[string]map[string]float64{}
	for point, links := range at {
		out[point] = map[string]float64{}
		for _, l := range links {
			out[point][l.Fault] = l.Strength
		}
	}
	return &out
}

func testPressure(kPa []float64) *[]float64 {
	if len(kPa) == 0 {
		return nil
	}
	return &kPa
}

func linkView(l catalogue.Link) api.Link {
	return api.Link{Fault: l.Fault, Strength: l.Strength, Why: l.Why}
}

// checkView joins what the access needs to what the check itself needs.
func checkView(c *catalogue.Catalogue, k catalogue.Check) api.Check {
	access, _ := c.AccessTo(k.Access)
	all := k.Families
	if len(all) == 0 {
		all = c.FamilyIDs()
	}
	return api.Check{Id: k.ID, Label: k.Label, Station: k.Stations[0], Stations: k.Stations, Families: all,
		Minutes: k.Minutes, Access: api.Some(k.Access), Engine: api.EngineState(k.Engine),
		Needs: union(access.Needs, k.Needs), Cautions: union(access.Cautions, k.Cautions), Settles: k.Settles,
		Point: api.Some(k.Point), Reads: api.List(k.Reads), Confirms: api.List(k.Confirms), How: k.How,
		OfRemovedPart: api.Some(k.Removed), Asks: api.Some(k.Asks), TestKpa: testPressure(k.TestKPa)}
}

func union(a, b []string) []string {
	out := api.List(a)
	for _, x := range b {
		if !slices.Contains(out, x) {
			out = append(out, x)
		}
	}
	return out
}

func jobKindView(k catalogue.JobKind) api.JobKind {
	return api.JobKind{Id: k.ID, Label: k.Label, Begins: api.JobKindBegins(k.Begins), Ends: api.JobKindEnds(k.Ends),
		Findings: api.SomeList(k.Findings), History: api.SomeList(k.History), Why: k.Why}
}
