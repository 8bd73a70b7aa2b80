-- +goose Up
-- Tables by the standard words of the trade and of software; what they hold stays as it is.
ALTER TABLE life RENAME TO service_history;
DROP INDEX life_of_engine;
CREATE INDEX service_history_of_engine ON service_history (engine_id, at);
ALTER TABLE upkeep RENAME TO maintenance;
ALTER TABLE taken RENAME TO parts_used;
DROP INDEX taken_of_part;
CREATE INDEX parts_used_of_part ON parts_used (part_id, engine_id, at, quantity);

-- +goose Down
DROP INDEX parts_used_of_part;
ALTER TABLE parts_used RENAME TO taken;
CREATE INDEX taken_of_part ON taken (part_id, engine_id, at, quantity);
ALTER TABLE maintenance RENAME TO upkeep;
DROP INDEX service_history_of_engine;
ALTER TABLE service_history RENAME TO life;
CREATE INDEX life_of_engine ON life (engine_id, at);
