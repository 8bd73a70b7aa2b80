-- +goose Up
-- entries is the record itself: rows are added, never changed. craft, engines and jobs are what the entries make of
-- them, rewritten in the same transaction so that lists need no folding.
CREATE TABLE entries (
    seq          INTEGER PRIMARY KEY AUTOINCREMENT,
    id           TEXT NOT NULL UNIQUE,
    subject_kind TEXT NOT NULL CHECK (subject_kind IN ('craft', 'engine', 'job')),
    subject_id   TEXT NOT NULL,
    kind         TEXT NOT NULL,
    by           TEXT NOT NULL,
    at           DATETIME NOT NULL,
    tapped_at    DATETIME,
    undoes       TEXT REFERENCES entries (id),
    body         TEXT NOT NULL
);
CREATE INDEX entries_of_subject ON entries (subject_kind, subject_id, seq);
-- +goose StatementBegin
CREATE TRIGGER entries_stay BEFORE UPDATE ON entries BEGIN SELECT RAISE(ABORT, 'entries are never changed'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER entries_are_kept BEFORE DELETE ON entries BEGIN SELECT RAISE(ABORT, 'entries are never deleted'); END;
-- +goose StatementEnd

CREATE TABLE craft (
    id      TEXT PRIMARY KEY,
    removed INTEGER NOT NULL DEFAULT 0,
    name    TEXT NOT NULL,
    owner   TEXT NOT NULL,
    berth   TEXT NOT NULL,
    note    TEXT NOT NULL
);
CREATE TABLE engines (
    id           TEXT PRIMARY KEY,
    removed      INTEGER NOT NULL DEFAULT 0,
    craft_id     TEXT NOT NULL REFERENCES craft (id),
    name         TEXT NOT NULL,
    family       TEXT NOT NULL,
    fuel         TEXT NOT NULL,
    rated_kw     REAL NOT NULL,
    rated_rpm    REAL NOT NULL,
    thermostat_c REAL NOT NULL,
    circuit      TEXT NOT NULL
);
CREATE INDEX engines_of_craft ON engines (craft_id);
CREATE TABLE jobs (
    id        TEXT PRIMARY KEY,
    removed   INTEGER NOT NULL DEFAULT 0,
    engine_id TEXT NOT NULL REFERENCES engines (id),
    opened_at DATETIME NOT NULL,
    opened_by TEXT NOT NULL,
    words     TEXT NOT NULL,
    complaint TEXT NOT NULL,
    faults    TEXT NOT NULL,
    minutes   REAL NOT NULL,
    checks    INTEGER NOT NULL,
    closed_at DATETIME,
    note      TEXT NOT NULL
);
CREATE INDEX jobs_of_engine ON jobs (engine_id, opened_at);

-- +goose Down
DROP TABLE jobs;
DROP TABLE engines;
DROP TABLE craft;
DROP TABLE entries;
