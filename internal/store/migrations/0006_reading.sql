-- +goose Up
ALTER TABLE exports ADD COLUMN is_read INTEGER NOT NULL DEFAULT 0; -- the words of its changed pages were compared

DELETE FROM measured; -- pages are measured anew: what is not seen of a photograph is told otherwise

-- +goose Down
ALTER TABLE exports DROP COLUMN is_read;
