package store

import (
	"context"

	"gorm.io/gorm"

	"hevrin/app/record"
)

var _ record.HindsightStore = (*Store)(nil)

// Hindsight is that of record.HindsightStore.
func (s *Store) Hindsight(ctx context.Context) (list []record.Hindsight, err error) {
	return list, s.db.WithContext(ctx).Joins(`JOIN jobs ON jobs.id = hindsight.job_id AND NOT jobs.removed AND
		jobs.closed_at = hindsight.closed_at`).Order("hindsight.closed_at DESC, hindsight.job_id").Find(&list).Error
}

// ToLookBackOn is that of record.HindsightStore.
func (s *Store) ToLookBackOn(ctx context.Context) (ids []string, err error) {
	return ids, s.db.WithContext(ctx).Table("jobs").Joins(`LEFT JOIN hindsight ON hindsight.job_id = jobs.id AND
		hindsight.closed_at = jobs.closed_at`).
		Where("hindsight.job_id IS NULL AND NOT removed AND jobs.closed_at IS NOT NULL AND faults <> '[]'").
		Order("jobs.closed_at DESC, jobs.id").Pluck("jobs.id", &ids).Error
}

// SaveHindsight is that of record.HindsightStore.
func (s *Store) SaveHindsight(ctx context.Context, k record.Hindsight) error {
	return s.keep(ctx, func(db *gorm.DB) error { return db.Save(&k).Error })
}

// ForgetHindsight throws away what was kept of closed jobs: it is made anew when it is asked for.
func (s *Store) ForgetHindsight(ctx context.Context) error {
	return s.keep(ctx, func(db *gorm.DB) error { return db.Where("1 = 1").Delete(&record.Hindsight{}).Error })
}
