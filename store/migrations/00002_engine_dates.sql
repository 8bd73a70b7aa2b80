-- +goose Up
-- When something of an engine was last done, as JSON; see record.Dates.
ALTER TABLE engines ADD COLUMN dates TEXT NOT NULL DEFAULT '{}';

-- +goose Down
ALTER TABLE engines DROP COLUMN dates;
