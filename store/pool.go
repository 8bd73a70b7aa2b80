package store

import (
	"context"
	"database/sql"

	"gorm.io/gorm"
)

// pool is the connections to the file, giving transactions whose statements outlive them: what is prepared in a
// transaction of database/sql is its own, and would be prepared anew in each.
type pool struct{ *sql.DB }

var _ gorm.ConnPoolBeginner = pool{}

// BeginTx begins a transaction.
func (p pool) BeginTx(ctx context.Context, options *sql.TxOptions) (gorm.ConnPool, error) {
	tx, err := p.DB.BeginTx(ctx, options)
	if err != nil {
		return nil, err
	}
	return &transaction{tx, p.DB}, nil
}

// GetDBConn gives the connections themselves.
func (p pool) GetDBConn() (*sql.DB, error) { return p.DB, nil }

// transaction is one, on one of the connections.
type transaction struct {
	*sql.Tx
	db *sql.DB
}

var _ gorm.Tx = (*transaction)(nil)

// PrepareContext prepares a statement for this and all later transactions, on another connection; where none is free,
// or it does not see what this transaction made, for this one alone.
func (t *transaction) PrepareContext(ctx context.Context, query string) (*sql.Stmt, error) {
	if now := t.db.Stats(); now.InUse < now.MaxOpenConnections {
		if statement, err := t.db.PrepareContext(ctx, query); err == nil {
			return statement, nil
		}
	}
	return t.Tx.PrepareContext(ctx, query)
}
