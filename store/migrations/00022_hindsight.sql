-- +goose Up
-- Where the cause of a closed job stood among the suspects at each look, as it was judged when it was closed.
CREATE TABLE hindsight (job_id TEXT PRIMARY KEY, closed_at DATETIME NOT NULL, body TEXT NOT NULL);

-- +goose Down
DROP TABLE hindsight;
