-- +goose Up
-- What is known of an engine's cooling, and the healthy rounds that she is judged by, as JSON; see record.Cooling and
-- record.BaselineKept.
ALTER TABLE engines ADD COLUMN cooling TEXT NOT NULL DEFAULT '{}';
ALTER TABLE engines ADD COLUMN baseline TEXT;

-- +goose Down
ALTER TABLE engines DROP COLUMN baseline;
ALTER TABLE engines DROP COLUMN cooling;
