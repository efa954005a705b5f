-- +goose Up
-- Whom a document was handed in for is beside it: an export's order is long to read.
ALTER TABLE deliveries ADD COLUMN receiver TEXT NOT NULL DEFAULT '';
UPDATE deliveries SET receiver = coalesce((SELECT json_extract(request, '$.asked.name') FROM exports WHERE exports.id = deliveries.export), '');

-- +goose Down
ALTER TABLE deliveries DROP COLUMN receiver;
