-- +goose Up
-- Which pages were looked at, and how they were then.
CREATE TABLE looks (
    packet   TEXT NOT NULL REFERENCES packets (id) ON DELETE CASCADE,
    page     TEXT NOT NULL,
    look     TEXT NOT NULL,         -- the page's fingerprint when it was looked at
    PRIMARY KEY (packet, page)
) WITHOUT ROWID;

-- What was learned from looking at the pages of sources.
CREATE TABLE signs (
    source   TEXT NOT NULL REFERENCES sources (id) ON DELETE CASCADE,
    page     INTEGER NOT NULL,      -- from 1
    signs    TEXT NOT NULL,         -- as JSON
    PRIMARY KEY (source, page)
) WITHOUT ROWID;

-- Findings that are as they should be.
CREATE TABLE accepted (
    packet   TEXT NOT NULL REFERENCES packets (id) ON DELETE CASCADE,
    finding  TEXT NOT NULL,
    PRIMARY KEY (packet, finding)
) WITHOUT ROWID;

ALTER TABLE sources ADD COLUMN expected INTEGER NOT NULL DEFAULT 0; -- pages that the sheets put into the scanner make; 0 is unknown

-- +goose Down
ALTER TABLE sources DROP COLUMN expected;
DROP TABLE accepted;
DROP TABLE signs;
DROP TABLE looks;
