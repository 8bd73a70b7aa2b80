package store

import (
	"context"
	"sync/atomic"

	"gorm.io/gorm"

	"hevrin/app/record"
)

// Statements counts the SQL statements from now on, but for BEGIN and COMMIT: for tests and benchmarks of what one tap
// costs.
func (s *Store) Statements() *atomic.Int64 {
	var n atomic.Int64
	count := func(*gorm.DB) { n.Add(1) }
	for _, db := range []*gorm.DB{s.db, s.writing()} {
		c := db.Callback()
		for _, err := range []error{
			c.Query().After("gorm:query").Register("count:query", count),
			c.Create().After("gorm:create").Register("count:create", count),
			c.Update().After("gorm:update").Register("count:update", count),
			c.Delete().After("gorm:delete").Register("count:delete", count),
			c.Row().After("gorm:row").Register("count:row", count),
			c.Raw().After("gorm:raw").Register("count:raw", count),
		} {
			if err != nil {
				panic(err) // the names are known
			}
		}
	}
	return &n
}

// writing is how the record is written; for what is set up before anybody writes.
func (s *Store) writing() (db *gorm.DB) {
	err := s.Write(context.Background(), func(tx record.Tx) error {
		db = s.writer.db
		return nil
	})
	if err != nil {
		panic(err) // nothing is written
	}
	return db
}
