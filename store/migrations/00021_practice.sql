-- +goose Up
-- Practice: what was done in each try, and how it went. It is no part of the record, and no entry is ever made of it.
CREATE TABLE practice_tries (
    id TEXT PRIMARY KEY,
    person_id TEXT NOT NULL,
    person TEXT NOT NULL,
    code TEXT NOT NULL,
    begun_at DATETIME NOT NULL,
    ended_at DATETIME,
    did TEXT NOT NULL,
    result TEXT NOT NULL DEFAULT ''
);
CREATE INDEX practice_tries_by_person ON practice_tries (person_id, begun_at);
-- Who lets the one who leads see how their practice goes.
CREATE TABLE practice_shared (person_id TEXT PRIMARY KEY);

-- +goose Down
DROP TABLE practice_shared;
DROP TABLE practice_tries;
