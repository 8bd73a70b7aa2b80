-- +goose Up
-- Entries may be about the yard too: the table is made anew, since a check cannot be changed. Triggers and index with it.
CREATE TABLE entries_new (
    seq          INTEGER PRIMARY KEY AUTOINCREMENT,
    id           TEXT NOT NULL UNIQUE,
    subject_kind TEXT NOT NULL CHECK (subject_kind IN ('craft', 'engine', 'job', 'yard')),
    subject_id   TEXT NOT NULL,
    kind         TEXT NOT NULL,
    by           TEXT NOT NULL,
    at           DATETIME NOT NULL,
    tapped_at    DATETIME,
    undoes       TEXT REFERENCES entries_new (id),
    body         TEXT NOT NULL
);
INSERT INTO entries_new SELECT seq, id, subject_kind, subject_id, kind, by, at, tapped_at, undoes, body FROM entries ORDER BY seq;
DROP TRIGGER entries_stay;
DROP TRIGGER entries_are_kept;
DROP TABLE entries;
ALTER TABLE entries_new RENAME TO entries;
CREATE INDEX entries_of_subject ON entries (subject_kind, subject_id, seq);
-- +goose StatementBegin
CREATE TRIGGER entries_stay BEFORE UPDATE ON entries BEGIN SELECT RAISE(ABORT, 'entries are never changed'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER entries_are_kept BEFORE DELETE ON entries BEGIN SELECT RAISE(ABORT, 'entries are never deleted'); END;
-- +goose StatementEnd
-- Pictures of jobs, kept in the transaction of their entry, whose id is theirs.
CREATE TABLE photos (
    id     TEXT PRIMARY KEY REFERENCES entries (id),
    job_id TEXT NOT NULL REFERENCES jobs (id),
    jpeg   BLOB NOT NULL
);
CREATE INDEX photos_of_job ON photos (job_id);

-- +goose Down
DROP TABLE photos;
