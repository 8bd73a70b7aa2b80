-- +goose Up
-- By which entry the facts of a craft or an engine were saved last, so that of two who change them at once the second is
-- told of the first.
ALTER TABLE craft ADD COLUMN saved TEXT NOT NULL DEFAULT '';
ALTER TABLE engines ADD COLUMN saved TEXT NOT NULL DEFAULT '';
UPDATE craft SET saved = coalesce((SELECT e.id FROM entries e WHERE e.subject_kind = 'craft' AND e.subject_id = craft.id
    AND e.kind = 'kept' AND e.id NOT IN (SELECT undoes FROM entries WHERE undoes IS NOT NULL)
    ORDER BY e.seq DESC LIMIT 1), '');
UPDATE engines SET saved = coalesce((SELECT e.id FROM entries e WHERE e.subject_kind = 'engine' AND
    e.subject_id = engines.id AND e.kind = 'kept' AND e.id NOT IN (SELECT undoes FROM entries WHERE undoes IS NOT NULL)
    ORDER BY e.seq DESC LIMIT 1), '');

-- +goose Down
ALTER TABLE engines DROP COLUMN saved;
ALTER TABLE craft DROP COLUMN saved;
