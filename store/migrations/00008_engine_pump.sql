-- +goose Up
-- The type of an engine's raw-water pump, as on its plate: parts that fit it are found by it. Empty: not known.
ALTER TABLE engines ADD COLUMN raw_pump TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE engines DROP COLUMN raw_pump;
