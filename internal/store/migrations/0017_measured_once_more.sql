-- +goose Up

-- Faint ink is found, and pictures are kept whole, so what pages come to is measured anew.
DELETE FROM measured;

-- +goose Down
SELECT 1;
