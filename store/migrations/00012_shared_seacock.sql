-- +goose Up
-- Whether an engine takes its water through one seacock and strainer with others of its craft.
ALTER TABLE engines ADD COLUMN shares_seacock INTEGER NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE engines DROP COLUMN shares_seacock;
