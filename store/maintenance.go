package store

import (
	"context"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hevrin/app/record"
)

// SaveServiceLines rewrites what a job tells of its engine's service history.
func (t *Tx) SaveServiceLines(job string, lines []record.ServiceLine) error {
	if err := t.db.Where("job_id = ?", job).Delete(&record.ServiceLine{}).Error; err != nil || len(lines) == 0 {
		return err
	}
	return t.db.CreateInBatches(lines, 100).Error
}

// ServiceHistory lists an engine's service history, the oldest first.
func (r *Reader) ServiceHistory(engine string) ([]record.ServiceLine, error) {
	var out []record.ServiceLine
	return out, r.db.Where("engine_id = ?", engine).Order("at, job_id, n").Find(&out).Error
}

// ServiceLinesOf lists what one job tells of it, in its own order.
func (r *Reader) ServiceLinesOf(job string) ([]record.ServiceLine, error) {
	var out []record.ServiceLine
	return out, r.db.Where("job_id = ?", job).Order("n").Find(&out).Error
}

// SaveMaintenance rewrites what an engine's maintenance is computed from.
func (t *Tx) SaveMaintenance(u record.MaintenanceState) error {
	return t.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&u).Error
}

// EngineLines lists the engines of the yard by name.
func (r *Reader) EngineLines() ([]record.EngineLine, error) {
	var out []record.EngineLine
	return out, r.db.Model(&record.Engine{}).Where("NOT removed").Order("name, id").Find(&out).Error
}

// AllMaintenance gives it for every engine, by its id.
func (r *Reader) AllMaintenance() (map[string]record.MaintenanceText, error) {
	var rows []record.MaintenanceText
	err := r.db.Find(&rows).Error
	out := make(map[string]record.MaintenanceText, len(rows))
	for _, u := range rows {
		out[u.EngineID] = u
	}
	return out, err
}

// Maintenance gives one engine's; not ok where it was never put together.
func (r *Reader) Maintenance(engine string) (record.MaintenanceText, bool, error) {
	var rows []record.MaintenanceText
	err := r.db.Where("engine_id = ?", engine).Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return record.MaintenanceText{}, false, err
	}
	return rows[0], true, nil
}

// EnginesWithoutMaintenance lists the engines whose maintenance was never put together: those of an older version.
func (r *Reader) EnginesWithoutMaintenance() ([]record.Engine, error) {
	var out []record.Engine
	return out, r.db.Where("NOT removed AND id NOT IN (SELECT engine_id FROM maintenance)").Find(&out).Error
}

// ForgetMaintenance throws away what was put together of service histories and maintenance: it is made anew from the
// entries.
func (s *Store) ForgetMaintenance(ctx context.Context) error {
	return s.keep(ctx, func(tx *gorm.DB) error {
		if err := tx.Where("1 = 1").Delete(&record.ServiceLine{}).Error; err != nil {
			return err
		}
		return tx.Where("1 = 1").Delete(&record.MaintenanceState{}).Error
	})
}
