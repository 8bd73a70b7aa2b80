package store

import (
	"context"
	"encoding/json"
	"time"

	"gorm.io/gorm/clause"

	"hevrin/core/upkeep"
)

// Life is a line of an engine's life, as one of her jobs tells it.
type Life struct {
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
func (Life) TableName() string { return "life" }

// Upkeep is what an engine's upkeep is reckoned from.
type Upkeep struct {
	EngineID string        `gorm:"primaryKey"`
	State    upkeep.Engine `gorm:"serializer:json"`
}

// TableName keeps the word.
func (Upkeep) TableName() string { return "upkeep" }

// SaveLife rewrites what a job tells of its engine's life.
func (t *Tx) SaveLife(job string, lines []Life) error {
	if err := t.db.Where("job_id = ?", job).Delete(&Life{}).Error; err != nil || len(lines) == 0 {
		return err
	}
	return t.db.CreateInBatches(lines, 100).Error
}

// Life lists an engine's life, the oldest first.
func (r *Reader) Life(engine string) ([]Life, error) {
	var out []Life
	return out, r.db.Where("engine_id = ?", engine).Order("at, job_id, n").Find(&out).Error
}

// SaveUpkeep rewrites what an engine's upkeep is reckoned from.
func (t *Tx) SaveUpkeep(u Upkeep) error {
	return t.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&u).Error
}

// UpkeepText is an engine's upkeep as it lies, not read yet.
type UpkeepText struct{ EngineID, State string }

// TableName keeps the word.
func (UpkeepText) TableName() string { return "upkeep" }

// Read reads it for an engine with her facts.
func (u UpkeepText) Read(e EngineLine) (s upkeep.Engine, err error) {
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

// AllUpkeep gives it for every engine, by her id.
func (r *Reader) AllUpkeep() (map[string]UpkeepText, error) {
	var rows []UpkeepText
	err := r.db.Find(&rows).Error
	out := make(map[string]UpkeepText, len(rows))
	for _, u := range rows {
		out[u.EngineID] = u
	}
	return out, err
}

// EnginesWithoutUpkeep lists the engines whose upkeep was never put together: those of an older version.
func (r *Reader) EnginesWithoutUpkeep() ([]Engine, error) {
	var out []Engine
	return out, r.db.Where("NOT removed AND id NOT IN (SELECT engine_id FROM upkeep)").Find(&out).Error
}

// ForgetUpkeep throws away what was put together of lives and upkeep: it is made anew from the entries.
func (s *Store) ForgetUpkeep(ctx context.Context) error {
	return s.Write(ctx, func(t *Tx) error {
		if err := t.db.Where("1 = 1").Delete(&Life{}).Error; err != nil {
			return err
		}
		return t.db.Where("1 = 1").Delete(&Upkeep{}).Error
	})
}
