-- +goose Up
-- The words of a page apart from how it can be written: plans are asked for often, and go by
-- their number alone.
ALTER TABLE measured ADD COLUMN words TEXT NOT NULL DEFAULT '[]'; -- read surely on the page as it is, as JSON

UPDATE measured SET words = json_extract(versions, '$.words') WHERE json_type(versions, '$.words') = 'array';
UPDATE measured SET versions = json_set(json_remove(versions, '$.words'), '$.wordCount', json_array_length(words));

-- +goose Down
UPDATE measured SET versions = json_set(json_remove(versions, '$.wordCount'), '$.words', json(words));
ALTER TABLE measured DROP COLUMN words;
