package training

import (
	"hevrin/api"
	"hevrin/core/practice"
	"hevrin/core/proving"
	"hevrin/core/units"
)

// runView is a run as it is told, with what the probes showed over it.
func runView(e *practice.Engine, r *practice.Run) *api.PracticeRun {
	out := &api.PracticeRun{TopShare: r.TopShare, SmellOk: r.Smell, Dry: r.Dry, Seen: api.Each(r.Seen, seenView),
		WaterAfterS: api.Some(r.WaterAfterS), TakenBackS: api.Some(r.TakenBackS), FullC: api.Some(r.FullC),
		IdleC:    api.Some(r.IdleC),
		Pictures: []api.Picture{}}
	if len(r.Tracks) == 0 {
		return out
	}
	out.GaugeC, out.ProbeC = &r.GaugeC, &r.ProbeC
	heat := pictureOf("Needle and thermometer", "Temperature", "degC",
		line("Needle", api.PictureRoleHot, r.Track("gauge")), line("Thermometer", api.PictureRolePlain,
			r.Track("thermostat")))
	heat.Limits = append(heat.Limits, api.PictureLimit{Label: "Thermostat's rating", Role: api.PictureRoleShould,
		Across: api.Y, At: e.Kind.Facts.ThermostatC})
	heat.Bands = speeds(r, e.Kind.Facts.RatedRPM)
	water := pictureOf("Raw water", "Raw water", "L/min", line("Raw water", api.PictureRoleCold, r.Track("flow")))
	water.Bands = heat.Bands
	out.Pictures = append(out.Pictures, heat, water)
	return out
}

func pictureOf(title, axis, unit string, lines ...api.PictureLine) api.Picture {
	return api.Picture{Title: title, X: api.Axis{Label: "Since the start", Unit: "s"},
		Y: api.Axis{Label: axis, Unit: unit}, Lines: lines, Bands: []api.PictureBand{}, Limits: []api.PictureLimit{},
		Marks: []api.PictureMark{}, Bars: []api.PictureBar{}}
}

func line(label string, role api.PictureRole, t proving.Track) api.PictureLine {
	return api.PictureLine{Label: label, Role: role, X: t.Seconds, Y: t.Values}
}

// loaded is from which share of the rated speed a stretch is shaded: that at which a run is judged.
const loaded = proving.CruiseOfRated

// speeds are the stretches under load, each at its speed.
func speeds(r *practice.Run, ratedRPM float64) []api.PictureBand {
	bands := []api.PictureBand{}
	t := r.Track("rpm")
	for i := 0; i < t.Len(); {
		end := i
		for end+1 < t.Len() && t.Values[end+1] == t.Values[i] {
			end++
		}
		if v := t.Values[i]; v >= loaded*ratedRPM {
			bands = append(bands, api.PictureBand{Label: units.Say("%.0f rev/min", v).String(), Role: api.PictureRolePlain,
				Across: api.X, From: t.Seconds[i], To: t.Seconds[min(end+1, t.Len()-1)]})
		}
		i = end + 1
	}
	return bands
}

func partView(x practice.Stock) api.PracticePart {
	return api.PracticePart{Id: x.ID, Label: x.Label, Faults: x.Faults, Measured: api.Each(x.Measured, measureView),
		Offers: api.Each(x.Offers, func(o practice.Offer) api.PracticeOffer {
			return api.PracticeOffer{Measures: api.Each(o.Measures, measureView), Price: o.Price}
		}), Ready: x.Ready, Wrong: x.Wrong}
}

func measureView(m practice.Measure) api.PracticeMeasure {
	return api.PracticeMeasure{Label: m.Label, Unit: m.Unit, Value: m.Value}
}
