package store

import (
	"context"
	"database/sql"
	"fmt"

	"dorbin/core/packet"
)

// Reviewed gives the fingerprints that a packet's pages had when they were
// reviewed.
func (s *Store) Reviewed(ctx context.Context, packetID string) (map[packet.PageID]string, error) {
	type review struct {
		page        packet.PageID
		fingerprint string
	}
	fingerprints, err := queryAll(ctx, s.db, func(row scanner) (review, error) {
		var r review
		err := row.Scan(&r.page, &r.fingerprint)
		return r, err
	}, `SELECT page, look FROM looks WHERE packet = ?`, packetID)
	if err != nil {
		return nil, fmt.Errorf("read what was reviewed: %w", err)
	}
	reviewed := make(map[packet.PageID]string, len(fingerprints))
	for _, r := range fingerprints {
		reviewed[r.page] = r.fingerprint
	}
	return reviewed, nil
}

// SetReviewed keeps the fingerprints of pages that were reviewed; an empty one
// forgets that.
func (s *Store) SetReviewed(ctx context.Context, packetID string, fingerprints map[packet.PageID]string) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error { return setReviewed(ctx, tx, packetID, fingerprints) })
}

func setReviewed(ctx context.Context, tx querier, packetID string, fingerprints map[packet.PageID]string) error {
	for page, fingerprint := range fingerprints {
		query, args := `INSERT OR REPLACE INTO looks (packet, page, look) VALUES (?, ?, ?)`, []any{packetID, page, fingerprint}
		if fingerprint == "" {
			query, args = `DELETE FROM looks WHERE packet = ? AND page = ?`, args[:2]
		}
		if _, err := tx.ExecContext(ctx, query, args...); err != nil {
			return fmt.Errorf("keep what was reviewed: %w", notFound(err))
		}
	}
	return nil
}
