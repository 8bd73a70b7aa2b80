-- +goose Up
-- Whose engine a job took a part for, beside it: the shelf sums what was taken by part and engine without opening the jobs.
ALTER TABLE taken ADD COLUMN engine_id TEXT NOT NULL DEFAULT '';
UPDATE taken SET engine_id = coalesce((SELECT engine_id FROM jobs WHERE jobs.id = taken.job_id), '');
DROP INDEX taken_of_part;
CREATE INDEX taken_of_part ON taken (part_id, engine_id, at, quantity);

-- +goose Down
DROP INDEX taken_of_part;
ALTER TABLE taken DROP COLUMN engine_id;
CREATE INDEX taken_of_part ON taken (part_id);
