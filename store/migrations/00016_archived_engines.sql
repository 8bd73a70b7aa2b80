-- +goose Up
-- Whether an engine is not looked after any more.
ALTER TABLE engines ADD COLUMN archived INTEGER NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE engines DROP COLUMN archived;
