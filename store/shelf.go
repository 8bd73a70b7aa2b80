package store

import (
	"time"

	"hevrin/core/shelf"
)

// Taken is what a job took off the shelf.
type Taken struct {
	JobID    string `gorm:"primaryKey"`
	N        int    `gorm:"primaryKey"`
	PartID   string
	Quantity float64
	At       time.Time
}

// TableName keeps the word.
func (Taken) TableName() string { return "taken" }

// SaveTaken rewrites what a job took off the shelf.
func (t *Tx) SaveTaken(job string, list []Taken) error {
	if err := t.db.Where("job_id = ?", job).Delete(&Taken{}).Error; err != nil || len(list) == 0 {
		return err
	}
	return t.db.Create(list).Error
}

// Taken lists what all jobs took off the shelf.
func (r *Reader) Taken() ([]shelf.Used, error) {
	var rows []struct {
		Taken
		EngineID string
	}
	err := r.db.Model(&Taken{}).Select("taken.*, jobs.engine_id").Joins("JOIN jobs ON jobs.id = taken.job_id").Order("taken.at, job_id, n").Scan(&rows).Error
	out := make([]shelf.Used, len(rows))
	for i, x := range rows {
		out[i] = shelf.Used{Part: x.PartID, Job: x.JobID, Engine: x.EngineID, Quantity: x.Quantity, At: x.At.UTC()}
	}
	return out, err
}
