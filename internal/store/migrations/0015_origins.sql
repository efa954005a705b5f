-- +goose Up
-- The files of folders that packets were opened from, and that they are saved back to.
CREATE TABLE origins (
    packet   TEXT PRIMARY KEY REFERENCES packets (id) ON DELETE CASCADE,
    folder   TEXT NOT NULL,            -- its name
    path     TEXT NOT NULL,            -- of the file in the folder, with slashes
    sha256   TEXT NOT NULL,            -- of the file as it was opened, or saved last
    bytes    INTEGER NOT NULL,
    modified TEXT NOT NULL,            -- the time that the folder has of it
    export   TEXT NOT NULL DEFAULT '', -- that was saved last; empty where none was
    saved    TEXT NOT NULL DEFAULT ''  -- when
) WITHOUT ROWID;
CREATE INDEX origins_file ON origins (folder, path);

-- What was in their place before a document was saved.
CREATE TABLE earlier_versions (
    packet TEXT NOT NULL REFERENCES packets (id) ON DELETE CASCADE,
    folder TEXT NOT NULL,
    path   TEXT NOT NULL,
    sha256 TEXT NOT NULL,
    kept   TEXT NOT NULL,              -- when
    PRIMARY KEY (packet, folder, path)
) WITHOUT ROWID;

-- +goose Down
DROP TABLE earlier_versions;
DROP TABLE origins;
