-- +goose Up
-- Whom documents are for, with what they ask for.
CREATE TABLE receivers (
    id       TEXT PRIMARY KEY,
    receiver TEXT NOT NULL,         -- as JSON
    changed  TEXT NOT NULL
) WITHOUT ROWID;

-- A packet's receiver was the name beside its limit.
UPDATE packets SET state = json_set(state, '$.receiver', json(
        (SELECT json_object(
            'name', json_extract(sizing, '$.receiver'),
            'rules', CASE WHEN json_extract(sizing, '$.limit') > 0 THEN json_object('fileBytes', json_extract(sizing, '$.limit')) ELSE json_object() END)
         FROM sizings WHERE sizings.packet = packets.id)))
    WHERE id IN (SELECT packet FROM sizings WHERE trim(coalesce(json_extract(sizing, '$.receiver'), '')) <> '');

-- What was learned of pages lacks their colours, and what pages of PDFs hold: they are looked at again.
DELETE FROM signs;
INSERT OR IGNORE INTO jobs (kind, key, packet, state, attempts, again, error, progress, ordinal)
SELECT 'analyze', id, packet, 'waiting', 0, 0, '', '', (SELECT coalesce(max(ordinal), 0) FROM jobs) + row_number() OVER (ORDER BY id)
FROM sources WHERE state = 'ready';

-- +goose Down
DROP TABLE receivers;
