package record

import (
	"fmt"
	"strings"

	"hevrin/core/eventlog"
)

// LogLine is an entry with what became of it.
type LogLine struct {
	eventlog.Entry
	Undone  bool
	Changed []FieldChange // for a craft or an engine: what the entry changed against the one before
}

// FieldChange is one field that an entry changed.
type FieldChange struct{ Field, From, To string }

// LogLines gives a log with what became of each entry, in order; none of no entries.
func LogLines(entries []eventlog.Entry) []LogLine {
	undone := eventlog.Undone(entries)
	out := make([]LogLine, len(entries))
	var craft eventlog.CraftFacts
	var engine eventlog.EngineFacts
	for i := range entries {
		e := &entries[i]
		line := LogLine{Entry: *e, Undone: undone[e.ID]}
		switch {
		case e.Body.Craft != nil:
			line.Changed = changes(craftFields(craft), craftFields(*e.Body.Craft))
			if !line.Undone {
				craft = *e.Body.Craft
			}
		case e.Body.Engine != nil:
			line.Changed = changes(engineFields(engine), engineFields(*e.Body.Engine))
			if !line.Undone {
				engine = *e.Body.Engine
			}
		}
		out[i] = line
	}
	return out
}

func craftFields(f eventlog.CraftFacts) [][2]string {
	return [][2]string{{"name", f.Name}, {"owner", f.Owner}, {"berth", f.Berth}, {"note", f.Note},
		{"archived", map[bool]string{true: "yes"}[f.Archived]}}
}

func engineFields(f eventlog.EngineFacts) [][2]string {
	number := func(x float64) string {
		if x == 0 {
			return ""
		}
		return fmt.Sprint(x)
	}
	list := append([][2]string{{"name", f.Name}, {"family", f.Family}, {"fuel", f.Fuel}, {"rated_kw", number(f.RatedKW)},
		{"rated_rpm", number(f.RatedRPM)}, {"thermostat_c", number(f.ThermostatC)}, {"raw_pump", f.RawPump},
		{"shares_seacock", map[bool]string{true: "yes"}[f.SharesSeacock]},
		{"archived", map[bool]string{true: "yes"}[f.Archived]},
		{"circuit", strings.Join(f.Circuit, ", ")}}, f.Dates.Fields()...)
	return append(list, f.Cooling.Fields()...)
}

func changes(from, to [][2]string) []FieldChange {
	var out []FieldChange
	for i := range to {
		if from[i][1] != to[i][1] {
			out = append(out, FieldChange{to[i][0], from[i][1], to[i][1]})
		}
	}
	return out
}
