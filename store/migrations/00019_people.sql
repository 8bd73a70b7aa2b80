-- +goose Up
-- Secrets of people, their devices and what opens a door for a while. Who they are stands in the entries; nothing here
-- is worth anything by itself: passphrases are argon2id, tokens SHA-256.
CREATE TABLE accounts (
    person_id TEXT PRIMARY KEY,
    passphrase TEXT NOT NULL,
    pin TEXT NOT NULL DEFAULT '',
    changed_at DATETIME NOT NULL
);
CREATE TABLE devices (
    id TEXT PRIMARY KEY,
    person_id TEXT NOT NULL,
    label TEXT NOT NULL,
    address TEXT NOT NULL,
    made_at DATETIME NOT NULL,
    used_at DATETIME NOT NULL,
    ended_at DATETIME
);
CREATE INDEX devices_by_person ON devices (person_id);
-- Who gave their passphrase on a device, and may come back to it with a PIN.
CREATE TABLE device_people (
    device_id TEXT NOT NULL REFERENCES devices (id),
    person_id TEXT NOT NULL,
    since DATETIME NOT NULL,
    wrong INTEGER NOT NULL DEFAULT 0,
    PRIMARY KEY (device_id, person_id)
);
CREATE TABLE sessions (
    token TEXT PRIMARY KEY,
    data BLOB NOT NULL,
    expiry DATETIME NOT NULL
);
CREATE INDEX sessions_by_expiry ON sessions (expiry);
CREATE TABLE invitations (
    token TEXT PRIMARY KEY,
    person_id TEXT NOT NULL,
    made_at DATETIME NOT NULL,
    expires_at DATETIME NOT NULL,
    used_at DATETIME
);
CREATE INDEX invitations_by_person ON invitations (person_id);
-- Links by which an owner reads a report without signing in.
CREATE TABLE owner_links (
    id TEXT PRIMARY KEY,
    token TEXT NOT NULL UNIQUE,
    job_id TEXT NOT NULL,
    made_by TEXT NOT NULL,
    made_at DATETIME NOT NULL,
    expires_at DATETIME NOT NULL,
    ended_at DATETIME,
    opened INTEGER NOT NULL DEFAULT 0,
    opened_at DATETIME,
    answers INTEGER NOT NULL DEFAULT 0
);
CREATE INDEX owner_links_by_job ON owner_links (job_id);
-- Calendars that people subscribe to, one each.
CREATE TABLE calendars (
    person_id TEXT PRIMARY KEY,
    token TEXT NOT NULL UNIQUE,
    made_at DATETIME NOT NULL
);

-- +goose Down
DROP TABLE calendars;
DROP TABLE owner_links;
DROP TABLE invitations;
DROP TABLE sessions;
DROP TABLE device_people;
DROP TABLE devices;
DROP TABLE accounts;
