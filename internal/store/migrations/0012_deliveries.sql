-- +goose Up
-- Documents that were handed in, or are on their way.
CREATE TABLE deliveries (
    id       TEXT PRIMARY KEY,
    packet   TEXT NOT NULL REFERENCES packets (id) ON DELETE CASCADE,
    export   TEXT NOT NULL,            -- that was handed in
    name     TEXT NOT NULL,            -- of the file
    blob     TEXT NOT NULL,            -- the file
    bytes    INTEGER NOT NULL,
    pages    INTEGER NOT NULL,
    delivery TEXT NOT NULL,            -- how and where to, as JSON
    state    TEXT NOT NULL,            -- waiting, running, done, unclear, failed or cancelled
    stage    TEXT NOT NULL DEFAULT '', -- how far it had come, in its channel's words
    sent     INTEGER NOT NULL DEFAULT 0, -- bytes
    problem  TEXT NOT NULL DEFAULT '',
    answer   TEXT NOT NULL DEFAULT '', -- of the receiver
    created  TEXT NOT NULL,
    ended    TEXT NOT NULL DEFAULT ''
);
CREATE INDEX deliveries_packet ON deliveries (packet, created);
CREATE INDEX deliveries_blob ON deliveries (blob);

-- Passwords for handing in, sealed with a key that is not in the database.
CREATE TABLE secrets (
    place  TEXT PRIMARY KEY,           -- where it is a password to
    sealed BLOB NOT NULL
) WITHOUT ROWID;

-- +goose Down
DROP TABLE secrets;
DROP TABLE deliveries;
