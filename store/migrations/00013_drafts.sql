-- +goose Up
-- What was typed or tapped in a job and not saved yet: no part of the record, kept so that another device goes on with it.
CREATE TABLE drafts (
    job_id TEXT NOT NULL REFERENCES jobs (id),
    what   TEXT NOT NULL,
    value  TEXT NOT NULL,
    by     TEXT NOT NULL,
    at     DATETIME NOT NULL,
    PRIMARY KEY (job_id, what)
);

-- +goose Down
DROP TABLE drafts;
