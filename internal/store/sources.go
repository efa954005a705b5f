package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"dorbin/core/geometry"
	"dorbin/core/raster"
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
	Damage  string // what is missing of it, in a sentence; empty when it is whole
	Wish    string // where it is to be placed once it can be opened, as JSON
	Weighed bool   // the weights are measured
	// Expected is how many pages the sheets put into the scanner should have made;
	// 0 is unknown.
	Expected int
	Added    time.Time
}

// SourcePage is what is known of a page of a source.
type SourcePage struct {
	Size   geometry.Size `json:"size"`   // points, upright
	Pixels [2]int        `json:"pixels"` // of an image page
	Weight int64         `json:"weight"` // bytes
	// Scanned tells that the size is the paper's own, not that of a photograph.
	Scanned bool `json:"scanned,omitempty"`
	// Paper is where a paper was found in a photograph, Fold where two facing
	// pages meet; zero when there is none.
	Paper geometry.Outline `json:"paper,omitzero"`
	Fold  raster.Fold      `json:"fold,omitzero"`
}

// AddSource keeps a new source and gives it its ordinal.
func (s *Store) AddSource(ctx context.Context, source Source) (Source, error) {
	pages, err := json.Marshal(source.Pages)
	if err != nil {
		return source, fmt.Errorf("encode source pages: %w", err)
	}
	source.Added = time.Now().UTC()
	row := s.db.QueryRowContext(ctx,
		`INSERT INTO sources (id, packet, ordinal, name, kind, state, blob, working, bytes, pages, weighed, added, damage, wish, expected)
		 VALUES (?1, ?2, (SELECT coalesce(max(ordinal), 0) + 1 FROM sources WHERE packet = ?2), ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14)
		 RETURNING ordinal`,
		source.ID, source.Packet, source.Name, source.Kind, source.State, source.Blob, source.Working,
		source.Bytes, string(pages), source.Weighed, source.Added.Format(time.RFC3339Nano), source.Damage, source.Wish, source.Expected)
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

const sourceColumns = `id, packet, ordinal, name, kind, state, blob, working, bytes, pages, weighed, added, damage, wish, expected`

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
		&source.Blob, &source.Working, &source.Bytes, &pages, &source.Weighed, &added, &source.Damage, &source.Wish, &source.Expected)
	if err != nil {
		return source, fmt.Errorf("read source: %w", notFound(err))
	}
	if source.Pages, err = s.pages.decode(source.ID, pages); err != nil {
		return source, fmt.Errorf("decode source %s: %w", source.ID, err)
	}
	source.Added = parseTime(added)
	return source, nil
}
