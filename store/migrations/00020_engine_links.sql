-- +goose Up
-- Links by which an owner reads an engine's page: engine_id instead of job_id.
ALTER TABLE owner_links ADD COLUMN engine_id TEXT NOT NULL DEFAULT '';
CREATE INDEX owner_links_by_engine ON owner_links (engine_id);
-- Devices to which reminders are pushed, and the keys that their browser made for that.
CREATE TABLE push_subscriptions (
    endpoint TEXT PRIMARY KEY,
    person_id TEXT NOT NULL,
    device_id TEXT NOT NULL,
    p256dh TEXT NOT NULL,
    auth TEXT NOT NULL,
    made_at DATETIME NOT NULL,
    told DATETIME NOT NULL,
    failed TEXT NOT NULL DEFAULT ''
);
CREATE INDEX push_subscriptions_by_device ON push_subscriptions (device_id);

-- +goose Down
DROP TABLE push_subscriptions;
DROP INDEX owner_links_by_engine;
ALTER TABLE owner_links DROP COLUMN engine_id;
