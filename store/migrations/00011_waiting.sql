-- +goose Up
-- What a job waits for, in words; empty while it goes on.
ALTER TABLE jobs ADD COLUMN waiting TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE jobs DROP COLUMN waiting;
