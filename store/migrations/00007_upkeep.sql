-- +goose Up
-- An engine's life as her jobs tell it: what was done, measured, fitted, found; rewritten with the job. at is when; value and
-- error are of a measure, in its own unit.
CREATE TABLE life (
    engine_id TEXT NOT NULL REFERENCES engines (id),
    job_id    TEXT NOT NULL REFERENCES jobs (id),
    n         INTEGER NOT NULL,
    at        DATETIME NOT NULL,
    kind      TEXT NOT NULL,
    item      TEXT NOT NULL,
    label     TEXT NOT NULL,
    value     REAL NOT NULL,
    error     REAL NOT NULL,
    PRIMARY KEY (job_id, n)
) WITHOUT ROWID;
CREATE INDEX life_of_engine ON life (engine_id, at);
-- What an engine's upkeep is reckoned from, put together from her log and her life, as JSON; see upkeep.Engine.
CREATE TABLE upkeep (
    engine_id TEXT PRIMARY KEY REFERENCES engines (id),
    state     TEXT NOT NULL
);

-- What jobs took off the yard's shelf; rewritten with the job.
CREATE TABLE taken (
    job_id   TEXT NOT NULL REFERENCES jobs (id),
    n        INTEGER NOT NULL,
    part_id  TEXT NOT NULL,
    quantity REAL NOT NULL,
    at       DATETIME NOT NULL,
    PRIMARY KEY (job_id, n)
) WITHOUT ROWID;
CREATE INDEX taken_of_part ON taken (part_id);

-- +goose Down
DROP TABLE taken;
DROP TABLE upkeep;
DROP TABLE life;
