package record

import (
	"time"
)

// PartUsed is what a job took off the inventory.
type PartUsed struct {
	JobID    string `gorm:"primaryKey"`
	N        int    `gorm:"primaryKey"`
	PartID   string
	EngineID string
	Quantity float64
	At       time.Time
}

// TableName keeps the word.
func (PartUsed) TableName() string { return "parts_used" }
