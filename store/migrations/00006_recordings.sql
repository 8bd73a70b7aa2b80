-- +goose Up
-- The gateway that tells an engine's readings, as JSON; see record.Feed.
ALTER TABLE engines ADD COLUMN feed TEXT;
-- What was read over time, in stretches of one place each: times in s from the recording's begin and what was read then, as
-- JSON lists. A stretch is written once.
CREATE TABLE track_pieces (
    recording_id TEXT NOT NULL,
    station      TEXT NOT NULL,
    side         TEXT NOT NULL,
    from_s       REAL NOT NULL,
    job_id       TEXT NOT NULL REFERENCES jobs (id),
    seconds      TEXT NOT NULL,
    readings     TEXT NOT NULL,
    PRIMARY KEY (recording_id, station, side, from_s)
) WITHOUT ROWID;
CREATE INDEX track_pieces_of_job ON track_pieces (job_id);

-- +goose Down
DROP TABLE track_pieces;
ALTER TABLE engines DROP COLUMN feed;
