-- +goose Up
-- What kind of job it is, and what its last proving run came to.
ALTER TABLE jobs ADD COLUMN kind TEXT NOT NULL DEFAULT 'runs-hot';
ALTER TABLE jobs ADD COLUMN verdict TEXT NOT NULL DEFAULT '';

-- The verdicts that are signed already: of each job the last one that was not taken back.
UPDATE jobs SET verdict = COALESCE((
    SELECT json_extract(e.body, '$.proving.outcome') FROM entries e
    WHERE e.subject_kind = 'job' AND e.subject_id = jobs.id AND e.kind = 'proving'
      AND json_extract(e.body, '$.proving.do') = 'sign'
      AND NOT EXISTS (SELECT 1 FROM entries u WHERE u.undoes = e.id)
    ORDER BY e.seq DESC LIMIT 1), '');

-- What dripped on the day after is no cure.
UPDATE jobs SET verdict = 'not-cured' WHERE verdict = 'cured' AND (
    SELECT COALESCE(json_extract(n.body, '$.proving.ok'), 0) FROM entries n
    WHERE n.subject_kind = 'job' AND n.subject_id = jobs.id AND n.kind = 'proving'
      AND json_extract(n.body, '$.proving.do') = 'next-day'
      AND NOT EXISTS (SELECT 1 FROM entries u WHERE u.undoes = n.id)
    ORDER BY n.seq DESC LIMIT 1) = 0;

-- +goose Down
ALTER TABLE jobs DROP COLUMN verdict;
ALTER TABLE jobs DROP COLUMN kind;
