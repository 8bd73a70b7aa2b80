package record

import (
	"encoding/json"
	"time"

	"hevrin/core/maintenance"
)

// ServiceLine is a line of an engine's service history, as one of its jobs tells it.
type ServiceLine struct {
	EngineID string
	JobID    string `gorm:"primaryKey"`
	N        int    `gorm:"primaryKey"`
	At       time.Time
	Kind     string
	Item     string
	Label    string
	Value    float64
	Error    float64
}

// TableName keeps the word.
func (ServiceLine) TableName() string { return "service_history" }

// MaintenanceState is what an engine's maintenance is computed from.
type MaintenanceState struct {
	EngineID string             `gorm:"primaryKey"`
	State    maintenance.Engine `gorm:"serializer:json"`
}

// TableName keeps the word.
func (MaintenanceState) TableName() string { return "maintenance" }

// MaintenanceText is an engine's maintenance as it lies, not read yet.
type MaintenanceText struct{ EngineID, State string }

// TableName keeps the word.
func (MaintenanceText) TableName() string { return "maintenance" }

// Kept reads it as it was kept.
func (u MaintenanceText) Kept() (s maintenance.Engine, err error) {
	return s, json.Unmarshal([]byte(u.State), &s)
}

// Read reads it for an engine with its facts.
func (u MaintenanceText) Read(e EngineLine) (s maintenance.Engine, err error) {
	if s, err = u.Kept(); err != nil {
		return s, err
	}
	s.Family, s.Circuit = e.Family, nil
	return s, json.Unmarshal([]byte(e.Circuit), &s.Circuit)
}

// EngineLine is as much of an engine as the lists of the whole yard show; Circuit is as it lies, not read yet.
type EngineLine struct {
	ID, CraftID, Name, Family, RawPump, Circuit string
	Archived                                    bool
}
