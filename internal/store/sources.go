package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"dorbin/core/geometry"
)

// States of a source.
const (
	SourceReady  = "ready"
	SourceLocked = "locked" // protected with a password that is not known yet
)

// Source is something that came in.
type Source struct {
	ID      string
	Packet  string
	Ordinal int // counted from 1 in its packet
	Name    string
	Kind    string
	State   string
	Blob    string // SHA-256 of the bytes as they came in
	Working string // SHA-256 of the bytes that pages are read from
	Bytes   int64
	Pages   []SourcePage
	Weighed bool // the weights are measured
	Added   time.Time
}

// SourcePage is what is known of a page of a source.
type SourcePage struct {
	Size   geometry.Size `json:"size"`   // points, upright
	Pixels [2]int        `json:"pixels"` // of an image page
	Weight int64         `json:"weight"` // bytes
}

// AddSource keeps a new source and gives it its ordinal.
func (s *Store) AddSource(ctx context.Context, source Source) (Source, error) {
	pages, err := json.Marshal(source.Pages)
	if err != nil {
		return source, fmt.Errorf("encode source pages: %w", err)
	}
	source.Added = time.Now().UTC()
	row := s.db.QueryRowContext(ctx,
		`INSERT INTO sources (id, packet, ordinal, name, kind, state, blob, working, bytes, pages, weighed, added)
		 VALUES (?1, ?2, (SELECT coalesce(max(ordinal), 0) + 1 FROM sources WHERE packet = ?2), ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11)
		 RETURNING ordinal`,
		source.ID, source.Packet, source.Name, source.Kind, source.State, source.Blob, source.Working,
		source.Bytes, string(pages), source.Weighed, source.Added.Format(time.RFC3339Nano))
	if err := row.Scan(&source.Ordinal); err != nil {
		return source, fmt.Errorf("add source: %w", err)
	}
	return source, nil
}

// UpdateSource records what has been learned about a source since it came in.
func (s *Store) UpdateSource(ctx context.Context, source Source) error {
	pages, err := json.Marshal(source.Pages)
	if err != nil {
		return fmt.Errorf("encode source pages: %w", err)
	}
	if _, err := s.db.ExecContext(ctx,
		`UPDATE sources SET state = ?, working = ?, pages = ?, weighed = ? WHERE id = ?`,
		source.State, source.Working, string(pages), source.Weighed, source.ID); err != nil {
		return fmt.Errorf("update source: %w", err)
	}
	return nil
}

// DeleteSource forgets a source that no page refers to.
func (s *Store) DeleteSource(ctx context.Context, id string) error {
	if _, err := s.db.ExecContext(ctx, `DELETE FROM sources WHERE id = ?`, id); err != nil {
		return fmt.Errorf("delete source: %w", err)
	}
	return nil
}

const sourceColumns = `id, packet, ordinal, name, kind, state, blob, working, bytes, pages, weighed, added`

// Source reads one source.
func (s *Store) Source(ctx context.Context, id string) (Source, error) {
	return s.scanSource(s.db.QueryRowContext(ctx, `SELECT `+sourceColumns+` FROM sources WHERE id = ?`, id))
}

// Sources reads a packet's sources in the order they came in.
func (s *Store) Sources(ctx context.Context, packet string) ([]Source, error) {
	return queryAll(ctx, s.db, s.scanSource, `SELECT `+sourceColumns+` FROM sources WHERE packet = ? ORDER BY ordinal`, packet)
}

// UnweighedSources reads the sources whose pages have yet to be weighed.
func (s *Store) UnweighedSources(ctx context.Context) ([]Source, error) {
	return queryAll(ctx, s.db, s.scanSource,
		`SELECT `+sourceColumns+` FROM sources WHERE weighed = 0 AND state = ? ORDER BY added`, SourceReady)
}

func (s *Store) scanSource(row scanner) (Source, error) {
	var source Source
	var pages, added string
	err := row.Scan(&source.ID, &source.Packet, &source.Ordinal, &source.Name, &source.Kind, &source.State,
		&source.Blob, &source.Working, &source.Bytes, &pages, &source.Weighed, &added)
	if err != nil {
		return source, fmt.Errorf("read source: %w", notFound(err))
	}
	if source.Pages, err = s.pages.decode(source.ID, pages); err != nil {
		return source, fmt.Errorf("decode source %s: %w", source.ID, err)
	}
	source.Added = parseTime(added)
	return source, nil
}
