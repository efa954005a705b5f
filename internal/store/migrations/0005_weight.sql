-- +goose Up
-- What pages weigh by the ways they can be written, and what they lose.
CREATE TABLE measured (
    source   TEXT NOT NULL REFERENCES sources (id) ON DELETE CASCADE,
    page     INTEGER NOT NULL,      -- from 1
    look     TEXT NOT NULL,         -- fingerprint of what the pixels depend on
    versions TEXT NOT NULL,         -- as JSON
    PRIMARY KEY (source, page, look)
) WITHOUT ROWID;

-- How much a packet's document may weigh, and what was decided for single pages.
CREATE TABLE sizings (
    packet   TEXT PRIMARY KEY REFERENCES packets (id) ON DELETE CASCADE,
    sizing   TEXT NOT NULL          -- as JSON
) WITHOUT ROWID;

ALTER TABLE exports ADD COLUMN weighed INTEGER NOT NULL DEFAULT 0; -- pages whose ways were measured before it is written

ALTER TABLE exports ADD COLUMN settings TEXT NOT NULL DEFAULT ''; -- what was asked for, apart from the pages, as JSON

-- +goose Down
ALTER TABLE exports DROP COLUMN settings;
ALTER TABLE exports DROP COLUMN weighed;
DROP TABLE sizings;
DROP TABLE measured;
