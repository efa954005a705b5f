package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"

	"dorbin/core/check"
)

// Analyses reads what was learned of a source's pages; nil for those that have not
// been analysed.
func (s *Store) Analyses(ctx context.Context, source string, pages int) ([]*check.PageAnalysis, error) {
	type entry struct {
		page int
		text string
	}
	entries, err := queryAll(ctx, s.db, func(row scanner) (entry, error) {
		var e entry
		err := row.Scan(&e.page, &e.text)
		return e, err
	}, `SELECT page, signs FROM signs WHERE source = ?`, source)
	if err != nil {
		return nil, fmt.Errorf("read signs: %w", err)
	}
	signs := make([]*check.PageAnalysis, pages)
	for _, e := range entries {
		if e.page < 1 || e.page > pages {
			continue
		}
		signs[e.page-1] = &check.PageAnalysis{}
		if err := json.Unmarshal([]byte(e.text), signs[e.page-1]); err != nil {
			return nil, fmt.Errorf("decode signs: %w", err)
		}
	}
	return signs, nil
}

// AddAnalyses keeps what was learned of pages of a source, by their numbers.
func (s *Store) AddAnalyses(ctx context.Context, source string, signs map[int]*check.PageAnalysis) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		for page, sign := range signs {
			text, err := json.Marshal(sign)
			if err != nil {
				return fmt.Errorf("encode signs: %w", err)
			}
			if _, err := tx.ExecContext(ctx,
				`INSERT OR REPLACE INTO signs (source, page, signs) VALUES (?, ?, ?)`, source, page, string(text)); err != nil {
				return fmt.Errorf("keep signs: %w", notFound(err))
			}
		}
		return nil
	})
}

// Accepted lists the findings of a packet that are as they should be.
func (s *Store) Accepted(ctx context.Context, packetID string) (map[string]bool, error) {
	keys, err := queryAll(ctx, s.db, scanString, `SELECT finding FROM accepted WHERE packet = ?`, packetID)
	if err != nil {
		return nil, fmt.Errorf("read accepted findings: %w", err)
	}
	accepted := make(map[string]bool, len(keys))
	for _, key := range keys {
		accepted[key] = true
	}
	return accepted, nil
}

// Accept keeps that findings are as they should be, or forgets it.
func (s *Store) Accept(ctx context.Context, packetID string, findings []string, accepted bool) error {
	query := `INSERT OR IGNORE INTO accepted (packet, finding) VALUES (?, ?)`
	if !accepted {
		query = `DELETE FROM accepted WHERE packet = ? AND finding = ?`
	}
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		for _, finding := range findings {
			if _, err := tx.ExecContext(ctx, query, packetID, finding); err != nil {
				return fmt.Errorf("accept finding: %w", err)
			}
		}
		return nil
	})
}
