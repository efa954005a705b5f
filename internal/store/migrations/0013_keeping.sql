-- +goose Up
-- How long a packet is kept, and whether a line stays of what was handed in of it.
ALTER TABLE packets ADD COLUMN keep_until TEXT NOT NULL DEFAULT ''; -- the last day, as 2026-03-31; empty is for good
ALTER TABLE packets ADD COLUMN keep_lines INTEGER NOT NULL DEFAULT 1;

-- What was handed in of packets that are deleted, without content.
CREATE TABLE handed_in (
    id       TEXT PRIMARY KEY,
    packet   TEXT NOT NULL,    -- its name
    receiver TEXT NOT NULL,    -- whom it was for
    name     TEXT NOT NULL,    -- of the file
    bytes    INTEGER NOT NULL,
    pages    INTEGER NOT NULL,
    sha256   TEXT NOT NULL,
    delivery TEXT NOT NULL,    -- how and where to, as JSON
    answer   TEXT NOT NULL,    -- of the receiver
    ended    TEXT NOT NULL
) WITHOUT ROWID;

-- +goose Down
DROP TABLE handed_in;
ALTER TABLE packets DROP COLUMN keep_lines;
ALTER TABLE packets DROP COLUMN keep_until;
