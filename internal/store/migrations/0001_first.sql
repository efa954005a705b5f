-- +goose Up
CREATE TABLE packets (
    id       TEXT PRIMARY KEY,
    name     TEXT NOT NULL,
    revision INTEGER NOT NULL,      -- grows with every change, also with undo
    cursor   INTEGER NOT NULL,      -- steps with seq <= cursor are done, later ones undone
    state    TEXT NOT NULL,         -- the packet as JSON
    created  TEXT NOT NULL,
    changed  TEXT NOT NULL
);

-- The command log of each packet.
CREATE TABLE steps (
    packet   TEXT NOT NULL REFERENCES packets (id) ON DELETE CASCADE,
    seq      INTEGER NOT NULL,
    words    TEXT NOT NULL,         -- what was done, for people
    commands TEXT NOT NULL,         -- as they were given, as JSON
    delta    TEXT NOT NULL,         -- leads from the state before to the state after, and back
    at       TEXT NOT NULL,
    PRIMARY KEY (packet, seq)
) WITHOUT ROWID;

CREATE TABLE sources (
    id       TEXT PRIMARY KEY,
    packet   TEXT NOT NULL REFERENCES packets (id) ON DELETE CASCADE,
    ordinal  INTEGER NOT NULL,      -- order of arrival; decides the origin colour
    name     TEXT NOT NULL,
    kind     TEXT NOT NULL,
    state    TEXT NOT NULL,         -- ready or locked
    blob     TEXT NOT NULL,         -- the bytes as they came in
    working  TEXT NOT NULL,         -- the bytes that pages are read from: the blob, or a repaired or unlocked copy
    bytes    INTEGER NOT NULL,
    pages    TEXT NOT NULL,         -- sizes and weights as JSON
    weighed  INTEGER NOT NULL,
    added    TEXT NOT NULL
);
CREATE INDEX sources_packet ON sources (packet, ordinal);

CREATE TABLE exports (
    id       TEXT PRIMARY KEY,
    packet   TEXT NOT NULL REFERENCES packets (id) ON DELETE CASCADE,
    name     TEXT NOT NULL,
    state    TEXT NOT NULL,         -- waiting, running, done, failed or cancelled
    request  TEXT NOT NULL,         -- the pages as they stood when it was asked for, as JSON
    total    INTEGER NOT NULL,
    done     INTEGER NOT NULL,
    problem  TEXT NOT NULL,
    blob     TEXT NOT NULL,
    receipt  TEXT NOT NULL,
    created  TEXT NOT NULL
);
CREATE INDEX exports_packet ON exports (packet, created);

-- +goose Down
DROP TABLE exports;
DROP TABLE sources;
DROP TABLE steps;
DROP TABLE packets;
