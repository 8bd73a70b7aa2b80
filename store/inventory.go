package store

import (
	"strings"
	"time"

	"hevrin/app/record"
	"hevrin/core/inventory"
)

// SavePartsUsed rewrites what a job took off the inventory.
func (t *Tx) SavePartsUsed(job string, list []record.PartUsed) error {
	if err := t.db.Where("job_id = ?", job).Delete(&record.PartUsed{}).Error; err != nil || len(list) == 0 {
		return err
	}
	return t.db.Create(list).Error
}

// PartsUsed gives of some parts, by part and engine, when jobs last took one for it, and how much of it since the part
// was counted; of a part that was never counted, all.
func (r *Reader) PartsUsed(counted map[string]time.Time) ([]inventory.Used, error) {
	if len(counted) == 0 {
		return nil, nil
	}
	var rows []string
	var args []any
	for part, at := range counted {
		rows, args = append(rows, "(?, ?)"), append(args, part, at.UTC())
	}
	var list []record.PartUsed
	// The parts lead, the index follows; at stands bare beside its max: SQLite gives that of the row with the max.
	err := r.db.Raw("WITH counted (part_id, since) AS (VALUES "+strings.Join(rows, ", ")+`)
		SELECT parts_used.part_id, engine_id, at, max(at), sum(CASE WHEN at >= since THEN quantity ELSE 0 END) AS quantity
		FROM counted CROSS JOIN parts_used ON parts_used.part_id = counted.part_id 
		GROUP BY parts_used.part_id, engine_id`, args...).Scan(&list).Error
	out := make([]inventory.Used, len(list))
	for i, x := range list {
		out[i] = inventory.Used{Part: x.PartID, Engine: x.EngineID, Quantity: x.Quantity, At: x.At.UTC()}
	}
	return out, err
}
