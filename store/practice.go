package store

import (
	"context"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hevrin/app/tries"
)

var _ tries.Store = (*Store)(nil)

// Try is that of tries.Store.
func (s *Store) Try(ctx context.Context, id string) (tries.Try, bool, error) {
	return one[tries.Try](s.db.WithContext(ctx), "id = ?", id)
}

// Tries is that of tries.Store. What was done in each is left out.
func (s *Store) Tries(ctx context.Context, person string, most int) (list []tries.Try, err error) {
	return list, s.db.WithContext(ctx).Omit("did").Where("person_id = ?", person).Order("begun_at DESC, id").Limit(most).
		Find(&list).Error
}

// SaveTry is that of tries.Store.
func (s *Store) SaveTry(ctx context.Context, t tries.Try) error {
	return s.keep(ctx, func(db *gorm.DB) error { return db.Save(&t).Error })
}

// Share is that of tries.Store.
func (s *Store) Share(ctx context.Context, person string, shared bool) error {
	return s.keep(ctx, func(db *gorm.DB) error {
		if shared {
			return db.Clauses(clause.OnConflict{DoNothing: true}).Create(&tries.Shared{PersonID: person}).Error
		}
		return db.Where("person_id = ?", person).Delete(&tries.Shared{}).Error
	})
}

// Sharing is that of tries.Store.
func (s *Store) Sharing(ctx context.Context) (list []string, err error) {
	return list, s.db.WithContext(ctx).Model(&tries.Shared{}).Order("person_id").Pluck("person_id", &list).Error
}
