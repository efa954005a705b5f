-- +goose Up
-- The text of pages of sources, as they lie flat.
CREATE TABLE texts (
    source    TEXT NOT NULL REFERENCES sources (id) ON DELETE CASCADE,
    page      INTEGER NOT NULL,         -- from 1
    look      TEXT NOT NULL,            -- how the page comes to lie flat; empty is as it came in
    state     TEXT NOT NULL,            -- asked, read, own, none or failed
    languages TEXT NOT NULL DEFAULT '', -- that it is read in, joined by +
    turn      INTEGER NOT NULL DEFAULT 0, -- by which the page stands now, where it was asked for: degrees clockwise
    problem   TEXT NOT NULL DEFAULT '', -- why it could not be read, or what is wrong with the text
    words     INTEGER NOT NULL DEFAULT 0,
    doubtful  INTEGER NOT NULL DEFAULT 0, -- words that were read unsurely
    printed   INTEGER NOT NULL DEFAULT 0, -- the page number that is printed on it; 0 is unknown
    printed_of INTEGER NOT NULL DEFAULT 0, -- how many pages it says there are
    upright   INTEGER NOT NULL DEFAULT -1, -- by which the flat page is turned to be read, in degrees clockwise; -1 is unknown
    folded    TEXT NOT NULL DEFAULT '', -- as it is searched
    content   TEXT NOT NULL DEFAULT '', -- as JSON
    PRIMARY KEY (source, page, look)
);

-- What was said about reading a packet.
CREATE TABLE reading (
    packet    TEXT PRIMARY KEY REFERENCES packets (id) ON DELETE CASCADE,
    languages TEXT NOT NULL DEFAULT '', -- joined by +
    every     INTEGER NOT NULL DEFAULT 0 -- whether every page that comes in is read
) WITHOUT ROWID;

-- The text of PDFs that are there already.
INSERT INTO jobs (kind, key, packet, state, attempts, again, error, progress, ordinal)
SELECT 'ownText', id, packet, 'waiting', 0, 0, '', '', (SELECT coalesce(max(ordinal), 0) FROM jobs) + row_number() OVER (ORDER BY id)
FROM sources WHERE state = 'ready' AND kind IN ('pdf', 'office');

-- +goose Down
DROP TABLE reading;
DROP TABLE texts;
