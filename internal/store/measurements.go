package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
)

// MeasuredKey names a page as its encodings were measured.
type MeasuredKey struct {
	Source      string
	Page        int    // from 1
	Fingerprint string // fingerprint of what the pixels depend on
}

// Measurements reads what is known of how the pages of a packet's sources can be written,
// as JSON that the store does not look into.
func (s *Store) Measurements(ctx context.Context, packet string) (map[MeasuredKey]string, error) {
	type entry struct {
		MeasuredKey
		versions string
	}
	entries, err := queryAll(ctx, s.db, func(row scanner) (entry, error) {
		var e entry
		err := row.Scan(&e.Source, &e.Page, &e.Fingerprint, &e.versions)
		return e, err
	}, `SELECT source, page, look, versions FROM measured WHERE source IN (SELECT id FROM sources WHERE packet = ?)`, packet)
	if err != nil {
		return nil, fmt.Errorf("read what was measured: %w", err)
	}
	measured := make(map[MeasuredKey]string, len(entries))
	for _, e := range entries {
		measured[e.MeasuredKey] = e.versions
	}
	return measured, nil
}

// AddMeasurement keeps how a page can be written.
func (s *Store) AddMeasurement(ctx context.Context, key MeasuredKey, versions string) error {
	_, err := s.db.ExecContext(ctx,
		`INSERT INTO measured (source, page, look, versions) VALUES (?, ?, ?, ?)
		 ON CONFLICT (source, page, look) DO UPDATE SET versions = excluded.versions`, key.Source, key.Page, key.Fingerprint, versions)
	if err != nil {
		return fmt.Errorf("keep what was measured: %w", notFound(err))
	}
	return nil
}

// MeasuredWords reads the words that were read on a page as it is; none when it was not
// read.
func (s *Store) MeasuredWords(ctx context.Context, key MeasuredKey) (words []string, err error) {
	var text string
	err = s.db.QueryRowContext(ctx,
		`SELECT words FROM measured WHERE source = ? AND page = ? AND look = ?`, key.Source, key.Page, key.Fingerprint).Scan(&text)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	if err == nil {
		err = json.Unmarshal([]byte(text), &words)
	}
	if err != nil {
		return nil, fmt.Errorf("read the words of a page: %w", err)
	}
	return words, nil
}

// SetMeasuredWords keeps the words that were read on a page as it is.
func (s *Store) SetMeasuredWords(ctx context.Context, key MeasuredKey, words []string) error {
	text, err := json.Marshal(words)
	if err != nil {
		return fmt.Errorf("encode words: %w", err)
	}
	_, err = s.db.ExecContext(ctx,
		`UPDATE measured SET words = ? WHERE source = ? AND page = ? AND look = ?`, string(text), key.Source, key.Page, key.Fingerprint)
	if err != nil {
		return fmt.Errorf("keep the words of a page: %w", err)
	}
	return nil
}

// Sizing reads how much a packet's document may take up, as JSON; empty when nothing was
// said about it.
func (s *Store) Sizing(ctx context.Context, packet string) (string, error) {
	var sizing string
	err := s.db.QueryRowContext(ctx, `SELECT sizing FROM sizings WHERE packet = ?`, packet).Scan(&sizing)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return "", fmt.Errorf("read sizing: %w", err)
	}
	return sizing, nil
}

// SetSizing keeps how much a packet's document may take up.
func (s *Store) SetSizing(ctx context.Context, packet, sizing string) error {
	if _, err := s.db.ExecContext(ctx, `INSERT OR REPLACE INTO sizings (packet, sizing) VALUES (?, ?)`, packet, sizing); err != nil {
		return fmt.Errorf("keep sizing: %w", notFound(err))
	}
	return nil
}
