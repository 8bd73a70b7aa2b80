package store

import (
	"context"
	"database/sql"
	"errors"
)

// MakeOld makes an empty database of an older version.
func MakeOld(ctx context.Context, file string, version int64) (err error) {
	db, err := sql.Open("sqlite3", file)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	provider, err := migrator(db)
	if err != nil {
		return err
	}
	_, err = provider.UpTo(ctx, version)
	return err
}
