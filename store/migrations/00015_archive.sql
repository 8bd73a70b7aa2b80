-- +goose Up
-- Whether a craft is not looked after any more.
ALTER TABLE craft ADD COLUMN archived INTEGER NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE craft DROP COLUMN archived;
