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
	var rows []Taken
	err := r.db.Order("at, job_id, n").Find(&rows).Error
	out := make([]shelf.Used, len(rows))
	for i, x := range rows {
		out[i] = shelf.Used{Part: x.PartID, Job: x.JobID, Quantity: x.Quantity, At: x.At.UTC()}
	}
	return out, err
}
