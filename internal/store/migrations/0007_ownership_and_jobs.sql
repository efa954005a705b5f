-- +goose Up
-- Who owns a stored file is asked by its hash.
CREATE INDEX sources_blob ON sources (blob);
CREATE INDEX sources_working ON sources (working);
CREATE INDEX exports_blob ON exports (blob);
CREATE INDEX batch_files_blob ON batch_files (blob);

-- Files whose owner was deleted. They are removed from the folder after the commit, or at
-- the next start, unless another row owns them.
CREATE TABLE released (
    sha256   TEXT PRIMARY KEY
) WITHOUT ROWID;

-- Work that goes on in the background, and after a restart.
CREATE TABLE jobs (
    kind     TEXT NOT NULL,
    key      TEXT NOT NULL,         -- what the work is about, such as the id of a source
    packet   TEXT NOT NULL REFERENCES packets (id) ON DELETE CASCADE,
    state    TEXT NOT NULL,         -- waiting, running or failed
    attempts INTEGER NOT NULL,      -- how often it was begun and did not end
    again    INTEGER NOT NULL,      -- asked for once more while it was running
    error    TEXT NOT NULL,         -- of the last attempt
    progress TEXT NOT NULL,         -- what it was working on, in its own words
    ordinal  INTEGER NOT NULL,      -- jobs of a kind are taken in this order
    PRIMARY KEY (kind, key)
) WITHOUT ROWID;
CREATE INDEX jobs_order ON jobs (kind, state, ordinal);
CREATE INDEX jobs_packet ON jobs (packet);

INSERT INTO jobs SELECT 'pageBytes', id, packet, 'waiting', 0, 0, '', '', row_number() OVER (ORDER BY added)
    FROM sources WHERE weighed = 0 AND state = 'ready';
INSERT INTO jobs SELECT 'analyze', id, packet, 'waiting', 0, 0, '', '', row_number() OVER (ORDER BY added)
    FROM sources WHERE state = 'ready' AND (SELECT count(*) FROM signs WHERE source = id) < json_array_length(pages);
INSERT INTO jobs SELECT 'export', id, packet, 'waiting', 0, 0, '', '', row_number() OVER (ORDER BY created)
    FROM exports WHERE state IN ('waiting', 'running');
INSERT INTO jobs SELECT 'compareWords', id, packet, 'waiting', 0, 0, '', '', row_number() OVER (ORDER BY created)
    FROM exports WHERE state = 'done' AND is_read = 0;

-- +goose Down
DROP TABLE jobs;
DROP TABLE released;
DROP INDEX batch_files_blob;
DROP INDEX exports_blob;
DROP INDEX sources_working;
DROP INDEX sources_blob;
