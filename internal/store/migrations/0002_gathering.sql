-- +goose Up
ALTER TABLE sources ADD COLUMN damage TEXT NOT NULL DEFAULT ''; -- what is missing of it
ALTER TABLE sources ADD COLUMN wish TEXT NOT NULL DEFAULT '';   -- where a locked one is to be placed, as JSON

-- Sheets that were scanned and are looked through before they become a source.
CREATE TABLE batches (
    id       TEXT PRIMARY KEY,
    packet   TEXT NOT NULL UNIQUE REFERENCES packets (id) ON DELETE CASCADE,
    state    TEXT NOT NULL,         -- the pages in order and what is known of them, as JSON
    added    TEXT NOT NULL
);

-- The files of a batch's pages.
CREATE TABLE batch_files (
    batch    TEXT NOT NULL REFERENCES batches (id) ON DELETE CASCADE,
    blob     TEXT NOT NULL,
    PRIMARY KEY (batch, blob)
) WITHOUT ROWID;

-- Scanners that were added or found.
CREATE TABLE scanners (
    id       TEXT PRIMARY KEY,
    name     TEXT NOT NULL,
    address  TEXT NOT NULL UNIQUE,
    added    TEXT NOT NULL
);

-- +goose Down
DROP TABLE scanners;
DROP TABLE batch_files;
DROP TABLE batches;
ALTER TABLE sources DROP COLUMN wish;
ALTER TABLE sources DROP COLUMN damage;
