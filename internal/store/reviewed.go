package store

import (
	"context"
	"database/sql"
	"fmt"

	"dorbin/core/packet"
)

// Reviewed gives the fingerprints that a packet's pages had when they were looked
// at.
func (s *Store) Reviewed(ctx context.Context, packetID string) (map[packet.PageID]string, error) {
	type look struct {
		page packet.PageID
		look string
	}
	looks, err := queryAll(ctx, s.db, func(row scanner) (look, error) {
		var l look
		err := row.Scan(&l.page, &l.look)
		return l, err
	}, `SELECT page, look FROM looks WHERE packet = ?`, packetID)
	if err != nil {
		return nil, fmt.Errorf("read what was looked at: %w", err)
	}
	looked := make(map[packet.PageID]string, len(looks))
	for _, l := range looks {
		looked[l.page] = l.look
	}
	return looked, nil
}

// SetReviewed keeps the fingerprints of pages that were looked at; an empty one
// forgets that.
func (s *Store) SetReviewed(ctx context.Context, packetID string, looks map[packet.PageID]string) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		for page, look := range looks {
			query, args := `INSERT OR REPLACE INTO looks (packet, page, look) VALUES (?, ?, ?)`, []any{packetID, page, look}
			if look == "" {
				query, args = `DELETE FROM looks WHERE packet = ? AND page = ?`, args[:2]
			}
			if _, err := tx.ExecContext(ctx, query, args...); err != nil {
				return fmt.Errorf("keep what was looked at: %w", notFound(err))
			}
		}
		return nil
	})
}
