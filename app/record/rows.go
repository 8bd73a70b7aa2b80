package record

import (
	"time"

	"hevrin/core/eventlog"
)

// Craft is a craft's line in the lists.
type Craft struct {
	ID                       string `gorm:"primaryKey"`
	Removed                  bool
	Name, Owner, Berth, Note string
	// Archived: it is not looked after any more; its record stays.
	Archived bool
	Saved    string // the entry by which its facts were saved last
}

// TableName keeps the word: the plural of craft is craft.
func (Craft) TableName() string { return "craft" }

// Engine is an engine's line in the lists.
type Engine struct {
	ID          string `gorm:"primaryKey"`
	Removed     bool
	CraftID     string
	Name        string
	Family      string
	Fuel        string
	RatedKW     float64 `gorm:"column:rated_kw"`
	RatedRPM    float64 `gorm:"column:rated_rpm"`
	ThermostatC float64 `gorm:"column:thermostat_c"`
	RawPump     string
	// SharesSeacock: one seacock and strainer with other engines of the craft.
	SharesSeacock bool
	Archived      bool                     // not looked after any more
	Saved         string                   // the entry by which its facts were saved last
	Circuit       []string                 `gorm:"serializer:json"`
	Dates         eventlog.Dates           `gorm:"serializer:json"`
	Cooling       eventlog.Cooling         `gorm:"serializer:json"`
	Baseline      *eventlog.StoredBaseline `gorm:"serializer:json"`
	Feed          *eventlog.Feed           `gorm:"serializer:json"`
}

// Job is a job's line in the lists.
type Job struct {
	ID        string `gorm:"primaryKey"`
	Removed   bool
	EngineID  string
	OpenedAt  time.Time
	OpenedBy  string
	Words     string
	Complaint []string `gorm:"serializer:json"` // findings of the complaint that are present
	Faults    []string `gorm:"serializer:json"` // the cause: as closed, or as found so far
	Minutes   float64
	Checks    int
	ClosedAt  *time.Time
	Note      string
	Works     []WorkLine `gorm:"serializer:json"`
	Waiting   string     // what for, in words; empty while it goes on
	Kind      string     // of the catalogue's kinds of job
	Verdict   string     // of the last proving run that was signed; empty before any
}

// WorkLine is a piece of wet work that was finished.
type WorkLine struct {
	Kind    string    `json:"kind"`
	Ended   time.Time `json:"ended"`
	Hours   float64   `json:"hours,omitempty"` // of the engine
	Product string    `json:"product,omitempty"`
	Litres  float64   `json:"litres,omitempty"`
	Minutes float64   `json:"minutes,omitempty"`
	Words   string    `json:"words,omitempty"`
	Due     string    `json:"due,omitempty"` // the next, by policy, as 2026-05-04
	Why     string    `json:"why,omitempty"`
	Caustic bool      `json:"caustic,omitempty"` // it took carbon and grease, no scale
}

// Draft is what was typed or tapped in a job and not saved yet: JSON under a name that says what it is about.
type Draft struct {
	JobID string `gorm:"primaryKey"`
	What  string `gorm:"primaryKey"`
	Value string
	By    string
	At    time.Time
}

// TrackPiece is a stretch of what was read at one place in a recording.
type TrackPiece struct {
	RecordingID string  `gorm:"primaryKey"`
	Station     string  `gorm:"primaryKey"`
	Side        string  `gorm:"primaryKey"`
	FromS       float64 `gorm:"primaryKey;column:from_s"`
	JobID       string
	Seconds     []float64 `gorm:"serializer:json"`
	Readings    []float64 `gorm:"serializer:json"`
}

// Photo is a picture of a job.
type Photo struct {
	ID    string `gorm:"primaryKey"`
	JobID string
	JPEG  []byte `gorm:"column:jpeg"`
}

// LongestPiece is how many points one stretch of a recording holds at most.
const LongestPiece = 5000
