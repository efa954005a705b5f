-- +goose Up
-- What was learned of pages lacks their tilt: they are looked at again.
DELETE FROM signs;

-- +goose Down
SELECT 1;
