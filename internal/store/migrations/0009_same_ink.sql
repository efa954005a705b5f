-- +goose Up
-- Scans that look alike in the large, and whether their ink is the same.
CREATE TABLE same_ink (
    first       TEXT NOT NULL REFERENCES sources (id) ON DELETE CASCADE,
    first_page  INTEGER NOT NULL,      -- from 1
    second      TEXT NOT NULL REFERENCES sources (id) ON DELETE CASCADE,
    second_page INTEGER NOT NULL,
    same        INTEGER NOT NULL,      -- 0 or 1
    PRIMARY KEY (first, first_page, second, second_page)
) WITHOUT ROWID;
CREATE INDEX same_ink_second ON same_ink (second);

-- +goose Down
DROP TABLE same_ink;
