package teardown

import (
	"maps"
	"slices"
	"strings"

	"hevrin/core/units"
	"hevrin/core/validation"
)

// Body is a pump's body as it was measured: depths of wear in mm, and the play of its drive, in mm at the wheel's rim
// with the shaft held.
type Body struct {
	CamMM        float64 `json:"cam_mm"`
	PlateMM      float64 `json:"plate_mm"`
	CoverMM      float64 `json:"cover_mm"`
	CoverOnce    bool    `json:"cover_turned,omitempty"` // it was turned over before
	OtherSideBad bool    `json:"cover_other_side_marked,omitempty"`
	Drive        string  `json:"drive,omitempty"` // of Drives; empty: its play was not measured
	DrivePlayMM  float64 `json:"drive_play_mm,omitempty"`
}

// drives are the ways in which a pump is driven, and what cures their play.
var drives = map[string]struct{ label, rework, replace string }{
	"tang": {"Drive tang", "new seals will not cure it: look at the slot too, and watch it",
		"replace the shaft, or the pump"},
	"key":    {"Key and keyway", "fit a new key", "new key and impeller, and the shaft if its keyway is wide"},
	"spline": {"Spline", "new impeller, and look at the shaft's teeth", "replace shaft and impeller"},
	"gear":   {"Gear", "look at its teeth and its nut, and watch it", "replace the gear, and look at what drives it"},
}

// Drives lists the ways in which a pump is driven.
func Drives() []string { return slices.Sorted(maps.Keys(drives)) }

// Limits of wear, in mm; common practice.
const (
	ReworkOverMM  = 0.1
	ReplaceOverMM = 0.3
	// of the drive's play, from memory: what is not felt is good, what slaps slips before long
	DriveReworkOverMM  = 0.3
	DriveReplaceOverMM = 0.6
)

func (b Body) check(wrong *validation.Errors) {
	between(wrong, "body.cam_mm", b.CamMM, 0, 10, "mm")
	between(wrong, "body.plate_mm", b.PlateMM, 0, 10, "mm")
	between(wrong, "body.cover_mm", b.CoverMM, 0, 10, "mm")
	between(wrong, "body.drive_play_mm", b.DrivePlayMM, 0, 20, "mm")
	if _, ok := drives[b.Drive]; !ok && (b.Drive != "" || b.DrivePlayMM > 0) {
		wrong.Add("body.drive", b.Drive, units.Sentence(strings.Join(Drives(), ", ")), "say how the pump is driven")
	}
}

// Scored says whether the wear is past what a healthy pump has.
func (b Body) Scored() bool { return max(b.CamMM, b.PlateMM, b.CoverMM) > ReworkOverMM }

// healthyEndMM is the end clearance of a sound pump, found by trial: a pump worn to the limit then slips some four
// times as much.
const healthyEndMM = 0.1

// SlipFactor is how much more a pump with this wear slips: leakage past the blades' ends goes as the clearance there.
func (b Body) SlipFactor() float64 { return (healthyEndMM + b.PlateMM + b.CoverMM) / healthyEndMM }

// Judge says what to do about each part of the body.
func (b Body) Judge() []units.Sentence {
	var list []units.Sentence
	worn := func(name string, mm, reworkOver, replaceOver float64, rework, replace string) {
		switch {
		case mm > replaceOver:
			list = append(list, units.Say("%s: %.2f, over %.1f: %s", name, units.Of(mm, "mm"), units.Of(replaceOver, "mm"),
				replace))
		case mm > reworkOver:
			list = append(list, units.Say("%s: %.2f, over %.1f: %s", name, units.Of(mm, "mm"), units.Of(reworkOver, "mm"),
				rework))
		default:
			list = append(list, units.Say("%s: %.2f: good", name, units.Of(mm, "mm")))
		}
	}
	part := func(name string, mm float64, rework string) {
		worn(name, mm, ReworkOverMM, ReplaceOverMM, rework, "replace it")
	}
	part("Cam", b.CamMM, "dress it, or fit a new one with the next kit")
	part("Wear plate", b.PlateMM, "dress it flat on glass with fine paper, or turn it over")
	rework := "turn it over, its other side is unmarked"
	if b.CoverOnce || b.OtherSideBad {
		rework = "dress it flat on glass with fine paper (about P500), no hollow"
	}
	if b.CoverMM > ReplaceOverMM && !b.CoverOnce && !b.OtherSideBad {
		list = append(list, units.Say("Cover: %.2f: turn it over once, its other side is unmarked",
			units.Of(b.CoverMM, "mm")))
	} else {
		part("Cover", b.CoverMM, rework)
	}
	if d, ok := drives[b.Drive]; ok {
		worn(d.label, b.DrivePlayMM, DriveReworkOverMM, DriveReplaceOverMM, d.rework, d.replace)
	}
	return list
}

// leakMeans says what a wet place on a pump means, and the finding that it is.
var leakMeans = map[string]struct{ say, kit, finding string }{
	"cover":      {"its gasket or O-ring", SmallKit, "wet-at-cover"},
	"weep-water": {"the water seal; a bearing is on notice", FullKit, "wet-at-weep-raw"},
	"weep-oil":   {"the oil seal", FullKit, ""},
	"flange":     {"the flange gasket", FlangeGasket, ""},
	"milky-oil":  {"both seals", FullKit, "milky-oil"},
	"shaft":      {"the bearings: play or grit at the shaft", FullKit + ", or the pump", ""},
}

// What cures a wet pump.
const (
	SmallKit     = "small kit (gaskets, O-ring, impeller)"
	FullKit      = "full kit (seals, bearings, gaskets, impeller)"
	FlangeGasket = "flange gasket, in most kits"
)

// LeakKit is what to fit for a wet place.
func LeakKit(place string) string { return leakMeans[place].kit }

// LeakPlaces lists the places where a pump can be wet.
func LeakPlaces() []string {
	list := make([]string, 0, len(leakMeans))
	for id := range leakMeans {
		list = append(list, id)
	}
	slices.Sort(list)
	return list
}

// LeakSays is what a wet place means.
func LeakSays(place string) string { return leakMeans[place].say }

// Elbow is an elbow as it was measured: the bore at its narrowest and when new, in mm.
type Elbow struct {
	BoreMM    float64 `json:"bore_mm"`
	NewBoreMM float64 `json:"new_bore_mm"`
	Pitted    bool    `json:"pitted,omitempty"` // through, or nearly
	Cracked   bool    `json:"cracked,omitempty"`
	FaceBad   bool    `json:"face_bad,omitempty"` // gasket face not flat
}

// Shares of the new bore; common practice.
const (
	elbowClean   = 2.0 / 3
	elbowReplace = 0.5
)

func (e Elbow) check(wrong *validation.Errors) {
	between(wrong, "elbow.new_bore_mm", e.NewBoreMM, 10, 400, "mm")
	between(wrong, "elbow.bore_mm", e.BoreMM, 0, max(e.NewBoreMM, 10), "mm")
}

// Judge gives the verdict on an elbow: good, clean or replace, and why.
func (e Elbow) Judge() (verdict string, reasons []units.Sentence) {
	share := e.BoreMM / e.NewBoreMM
	verdict = "good"
	if share <= elbowClean+1e-9 {
		verdict = "clean"
		reasons = append(reasons, units.Say("%.0f of %.0f is left: narrowed by a third or more", units.Of(e.BoreMM, "mm"),
			units.Of(e.NewBoreMM, "mm")))
	}
	if share <= elbowReplace+1e-9 {
		verdict = "replace"
		reasons = []units.Sentence{units.Say("%.0f of %.0f is left: half or less", units.Of(e.BoreMM, "mm"),
			units.Of(e.NewBoreMM, "mm"))}
	}
	if e.Pitted || e.Cracked {
		verdict = "replace"
		reasons = append(reasons, "pitted through or cracked: it lets gas out, and carbon monoxide kills")
	}
	if e.FaceBad {
		reasons = append(reasons, "the gasket face is not flat: dress it, or the new gasket blows")
	}
	if len(reasons) == 0 {
		reasons = []units.Sentence{units.Say("%.0f of %.0f is left and the wall is sound", units.Of(e.BoreMM, "mm"),
			units.Of(e.NewBoreMM, "mm"))}
	}
	return verdict, reasons
}

// Stated is a finding that the bench settles.
type Stated struct {
	Finding string
	Present bool
}

// Findings are what an act on the bench tells the diagnosis.
func (a Act) Findings() []Stated {
	switch {
	case a.Do == SetWheel && a.Wheel != nil:
		w := a.Wheel
		return []Stated{{"blades-missing", w.Missing() > 0}, {"blades-cracked-or-set", w.has(Cracked, Set)},
			{"hub-or-key-slipping", w.HubLoud}}
	case a.Do == SetBody && a.Body != nil:
		return []Stated{{"pump-body-scored", a.Body.Scored()}}
	case a.Do == SetElbow && a.Elbow != nil:
		verdict, _ := a.Elbow.Judge()
		return []Stated{{"elbow-narrowed", a.Elbow.BoreMM/a.Elbow.NewBoreMM <= elbowClean+1e-9}, {"elbow-thin-or-holed",
			verdict == "replace" && (a.Elbow.Pitted || a.Elbow.Cracked)}}
	case a.Do == SetLeaks:
		var list []Stated
		for _, place := range LeakPlaces() {
			if f := leakMeans[place].finding; f != "" {
				list = append(list, Stated{f, slices.Contains(a.Leaks, place)})
			}
		}
		return list
	case a.Do == Found && !a.Piece.Old:
		switch a.Item {
		case "gear-cooler", "oil-cooler", "charge-cooler":
			return []Stated{{"fragments-at-cooler", true}}
		case "exchanger":
			return []Stated{{"fragments-at-exchanger", true}}
		case "raw-filter":
			return []Stated{{"debris-in-filter", true}}
		}
	}
	return nil
}
