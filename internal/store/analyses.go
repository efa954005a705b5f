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
	return s.inTransaction(ctx, func(tx *sql.Tx) error { return accept(ctx, tx, packetID, findings, accepted) })
}

func accept(ctx context.Context, tx querier, packetID string, findings []string, accepted bool) error {
	query := `INSERT OR IGNORE INTO accepted (packet, finding) VALUES (?, ?)`
	if !accepted {
		query = `DELETE FROM accepted WHERE packet = ? AND finding = ?`
	}
	for _, finding := range findings {
		if _, err := tx.ExecContext(ctx, query, packetID, finding); err != nil {
			return fmt.Errorf("accept finding: %w", err)
		}
	}
	return nil
}

// SameInk reads of which scans of a packet the ink was compared, and whether it is the same.
func (s *Store) SameInk(ctx context.Context, packetID string) (map[[2]check.Scan]bool, error) {
	type entry struct {
		pair [2]check.Scan
		same bool
	}
	entries, err := queryAll(ctx, s.db, func(row scanner) (e entry, err error) {
		err = row.Scan(&e.pair[0].Source, &e.pair[0].Page, &e.pair[1].Source, &e.pair[1].Page, &e.same)
		return e, err
	}, `SELECT first, first_page, second, second_page, same FROM same_ink
		WHERE first IN (SELECT id FROM sources WHERE packet = ?)`, packetID)
	if err != nil {
		return nil, fmt.Errorf("read which scans have the same ink: %w", err)
	}
	known := make(map[[2]check.Scan]bool, len(entries))
	for _, e := range entries {
		known[e.pair] = e.same
	}
	return known, nil
}

// AddSameInk keeps whether the ink of two scans is the same.
func (s *Store) AddSameInk(ctx context.Context, first, second check.Scan, same bool) error {
	_, err := s.db.ExecContext(ctx,
		`INSERT OR REPLACE INTO same_ink (first, first_page, second, second_page, same) VALUES (?, ?, ?, ?, ?)`,
		first.Source, first.Page, second.Source, second.Page, same)
	if err != nil {
		return fmt.Errorf("keep whether scans have the same ink: %w", notFound(err))
	}
	return nil
}
