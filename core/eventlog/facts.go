package eventlog

import (
	"fmt"

	"hevrin/core/catalogue"
)

// CraftFacts is what is kept of a craft.
type CraftFacts struct {
	Name  string `json:"name"`
	Owner string `json:"owner,omitempty"`
	Berth string `json:"berth,omitempty"`
	Note  string `json:"note,omitempty"`
	// Archived: it is not looked after any more; its record stays.
	Archived bool `json:"archived,omitempty"`
}

// EngineFacts is what is kept of an engine. Circuit lists its stations in the order of the water.
type EngineFacts struct {
	CraftID     string  `json:"craft_id"`
	Name        string  `json:"name"`
	Family      string  `json:"family"`
	Fuel        string  `json:"fuel"`
	RatedKW     float64 `json:"rated_kw"`
	RatedRPM    float64 `json:"rated_rpm"`
	ThermostatC float64 `json:"thermostat_c"`
	RawPump     string  `json:"raw_pump,omitempty"` // its type, as on its plate
	// SharesSeacock: it takes its water through one seacock and strainer with other engines of its craft.
	SharesSeacock bool     `json:"shares_seacock,omitempty"`
	Archived      bool     `json:"archived,omitempty"` // not looked after any more, as one that was taken out
	Circuit       []string `json:"circuit"`
	Dates         Dates    `json:"dates,omitzero"`
	Cooling       Cooling  `json:"cooling,omitzero"`
}

// HasCoolant tells whether coolant runs in its block.
func (f EngineFacts) HasCoolant() bool { return catalogue.HasCoolant(f.Family, f.Circuit) }

// Cooling is what is known of an engine's cooling beyond its power and speed; what is 0, nil or empty is not known, and
// is taken from its type.
type Cooling struct {
	Aspiration        string        `json:"aspiration,omitempty"`
	PumpDrive         string        `json:"pump_drive,omitempty"` // what turns the raw-water pump, of catalogue.Drives
	PropellerExponent float64       `json:"propeller_exponent,omitempty"`
	RawLMin           float64       `json:"raw_l_min,omitempty"`
	CoolantLMin       float64       `json:"coolant_l_min,omitempty"`
	UA                float64       `json:"ua_w_k,omitempty"`
	Rating            *MakersRating `json:"exchanger_rating,omitempty"`
	Tubes             *Tubes        `json:"exchanger_tubes,omitempty"`
	BlockKJK          float64       `json:"block_kj_k,omitempty"`
	Glycol            float64       `json:"glycol_percent_volume,omitempty"`
	AlarmC            float64       `json:"alarm_c,omitempty"` // at which its own temperature alarm sounds
}

// Fields lists the figures with their names, for logs.
func (c Cooling) Fields() [][2]string {
	figure := func(v float64) string {
		if v == 0 {
			return ""
		}
		return fmt.Sprint(v)
	}
	list := [][2]string{{"aspiration", c.Aspiration}, {"propeller_exponent", figure(c.PropellerExponent)},
		{"raw_l_min", figure(c.RawLMin)}, {"coolant_l_min", figure(c.CoolantLMin)},
		{"ua_w_k", figure(c.UA)}, {"exchanger_rating", ""}, {"exchanger_tubes", ""}, {"block_kj_k", figure(c.BlockKJK)},
		{"glycol_percent_volume", figure(c.Glycol)}, {"pump_drive", c.PumpDrive}, {"alarm_c", figure(c.AlarmC)}}
	if r := c.Rating; r != nil {
		list[5][1] = fmt.Sprintf("%g kW from %g L/min of coolant at %g °C to %g L/min of raw water at %g °C", r.HeatKW,
			r.CoolantLMin, r.CoolantInC, r.RawLMin, r.RawInC)
	}
	if t := c.Tubes; t != nil {
		list[6][1] = fmt.Sprintf("%d tubes, %d passes, %g/%g mm, %g mm long", t.Tubes, t.Passes, t.InnerMM, t.OuterMM,
			t.LengthMM)
	}
	return list
}

// MakersRating is what a maker's sheet says that an exchanger passes.
type MakersRating struct {
	HeatKW      float64 `json:"heat_kw"`
	CoolantLMin float64 `json:"coolant_l_min"`
	CoolantInC  float64 `json:"coolant_in_c"`
	RawLMin     float64 `json:"raw_l_min"`
	RawInC      float64 `json:"raw_in_c"`
}

// Tubes is an exchanger's stack as it is counted and measured.
type Tubes struct {
	Tubes     int     `json:"tubes"`
	Passes    int     `json:"passes"`
	InnerMM   float64 `json:"inner_diameter_mm"`
	OuterMM   float64 `json:"outer_diameter_mm"`
	LengthMM  float64 `json:"length_mm"`
	ShellWM2K float64 `json:"shell_coefficient_w_m2_k,omitempty"`
}
