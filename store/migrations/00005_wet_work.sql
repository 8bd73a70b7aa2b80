-- +goose Up
-- Wet work of a job that was finished, as JSON; see store.WorkLine.
ALTER TABLE jobs ADD COLUMN works TEXT NOT NULL DEFAULT '[]';

-- +goose Down
ALTER TABLE jobs DROP COLUMN works;
