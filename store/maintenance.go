package store

import (
	"context"
	"encoding/json"
	"time"

	"gorm.io/gorm/clause"

	"hevrin/core/maintenance"
)

// ServiceLine is a line of an engine's life, as one of her jobs tells it.
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
func (ServiceLine) TableName() string { return "life" }

// MaintenanceState is what an engine's upkeep is reckoned from.
type MaintenanceState struct {
	EngineID string             `gorm:"primaryKey"`
	State    maintenance.Engine `gorm:"serializer:json"`
}

// TableName keeps the word.
func (MaintenanceState) TableName() string { return "upkeep" }

// SaveServiceLines rewrites what a job tells of its engine's life.
func (t *Tx) SaveServiceLines(job string, lines []ServiceLine) error {
	if err := t.db.Where("job_id = ?", job).Delete(&ServiceLine{}).Error; err != nil || len(lines) == 0 {
		return err
	}
	return t.db.CreateInBatches(lines, 100).Error
}

// ServiceHistory lists an engine's life, the oldest first.
func (r *Reader) ServiceHistory(engine string) ([]ServiceLine, error) {
	var out []ServiceLine
	return out, r.db.Where("engine_id = ?", engine).Order("at, job_id, n").Find(&out).Error
}

// SaveMaintenance rewrites what an engine's upkeep is reckoned from.
func (t *Tx) SaveMaintenance(u MaintenanceState) error {
	return t.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&u).Error
}

// MaintenanceText is an engine's upkeep as it lies, not read yet.
type MaintenanceText struct{ EngineID, State string }

// TableName keeps the word.
func (MaintenanceText) TableName() string { return "upkeep" }

// Read reads it for an engine with her facts.
func (u MaintenanceText) Read(e EngineLine) (s maintenance.Engine, err error) {
	if err := json.Unmarshal([]byte(u.State), &s); err != nil {
		return s, err
	}
	s.Family, s.Circuit = e.Family, nil
	return s, json.Unmarshal([]byte(e.Circuit), &s.Circuit)
}

// EngineLine is as much of an engine as the lists of the whole yard show; Circuit is as it lies, not read yet.
type EngineLine struct{ ID, CraftID, Name, Family, RawPump, Circuit string }

// EngineLines lists the engines of the yard by name.
func (r *Reader) EngineLines() ([]EngineLine, error) {
	var out []EngineLine
	return out, r.db.Model(&Engine{}).Where("NOT removed").Order("name, id").Find(&out).Error
}

// AllMaintenance gives it for every engine, by her id.
func (r *Reader) AllMaintenance() (map[string]MaintenanceText, error) {
	var rows []MaintenanceText
	err := r.db.Find(&rows).Error
	out := make(map[string]MaintenanceText, len(rows))
	for _, u := range rows {
		out[u.EngineID] = u
	}
	return out, err
}

// EnginesWithoutMaintenance lists the engines whose upkeep was never put together: those of an older version.
func (r *Reader) EnginesWithoutMaintenance() ([]Engine, error) {
	var out []Engine
	return out, r.db.Where("NOT removed AND id NOT IN (SELECT engine_id FROM upkeep)").Find(&out).Error
}

// ForgetMaintenance throws away what was put together of lives and upkeep: it is made anew from the entries.
func (s *Store) ForgetMaintenance(ctx context.Context) error {
	return s.Write(ctx, func(t *Tx) error {
		if err := t.db.Where("1 = 1").Delete(&ServiceLine{}).Error; err != nil {
			return err
		}
		return t.db.Where("1 = 1").Delete(&MaintenanceState{}).Error
	})
}
