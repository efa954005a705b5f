package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/raster"
	"dorbin/internal/jobs"
)

// States of a source.
const (
	SourceReady  = "ready"
	SourceLocked = "locked" // protected with a password that is not known yet
)

// Source is something that came in.
type Source struct {
	ID        string
	Packet    string
	Ordinal   int // counted from 1 in its packet
	Name      string
	Kind      string
	State     string
	Blob      string // SHA-256 of the bytes as they came in
	Working   string // SHA-256 of the bytes that pages are read from
	Bytes     int64
	Pages     []SourcePage
	Damage    message.Text // what is missing of it, in a sentence; empty when it is whole
	Placement string       // where it is to be placed once it can be opened, as JSON
	Measured  bool         // the sizes are measured
	// Expected is how many pages the sheets put into the scanner should have made;
	// 0 is unknown.
	Expected int
	Added    time.Time
}

// SourcePage is what is known of a page of a source.
type SourcePage struct {
	Size   geometry.Size `json:"size"`   // points, upright
	Pixels [2]int        `json:"pixels"` // of an image page
	Bytes  int64         `json:"weight"` // bytes
	// Shared are the bytes of what other pages of a PDF lead to as well, such as fonts; of each page, Bytes has a part of them.
	Shared int64 `json:"shared,omitempty"`
	// Scanned tells that the size is the paper's own, not that of a photograph.
	Scanned bool `json:"scanned,omitempty"`
	// Headings are the titles of the PDF's bookmarks that open the page, once it is measured.
	Headings []string `json:"headings,omitempty"`
	// Paper is where a paper was found in a photograph, Fold where two facing
	// pages meet; zero when there is none.
	Paper geometry.PaperQuad `json:"paper,omitzero"`
	Fold  raster.Fold        `json:"fold,omitzero"`
}

// AddSource keeps a new source with the work that is to be done on it, and gives it its
// ordinal. It returns ErrNotFound when its packet is gone.
func (s *Store) AddSource(ctx context.Context, source Source, work ...jobs.Job) (Source, error) {
	pages, err := json.Marshal(source.Pages)
	if err != nil {
		return source, fmt.Errorf("encode source pages: %w", err)
	}
	source.Added = time.Now().UTC()
	err = s.inTransaction(ctx, func(tx *sql.Tx) error {
		row := tx.QueryRowContext(ctx,
			`INSERT INTO sources (id, packet, ordinal, name, kind, state, blob, working, bytes, pages, weighed, added, damage, wish, expected)
			 VALUES (?1, ?2, (SELECT coalesce(max(ordinal), 0) + 1 FROM sources WHERE packet = ?2), ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14)
			 RETURNING ordinal`,
			source.ID, source.Packet, source.Name, source.Kind, source.State, source.Blob, source.Working,
			source.Bytes, string(pages), source.Measured, source.Added.Format(time.RFC3339Nano), said(source.Damage), source.Placement, source.Expected)
		if err := row.Scan(&source.Ordinal); err != nil {
			return fmt.Errorf("add source: %w", notFound(err))
		}
		return addJobs(ctx, tx, source.Packet, work...)
	})
	return source, err
}

// UpdateSource records what has been learned about a source since it came in, with the
// work that is to be done on it now. A copy that pages are no longer read from is
// released.
func (s *Store) UpdateSource(ctx context.Context, source Source, work ...jobs.Job) error {
	pages, err := json.Marshal(source.Pages)
	if err != nil {
		return fmt.Errorf("encode source pages: %w", err)
	}
	err = s.inTransaction(ctx, func(tx *sql.Tx) error {
		var before string
		if err := tx.QueryRowContext(ctx, `SELECT working FROM sources WHERE id = ?`, source.ID).Scan(&before); err != nil {
			return fmt.Errorf("update source: %w", notFound(err))
		}
		if _, err := tx.ExecContext(ctx,
			`UPDATE sources SET state = ?, working = ?, pages = ?, weighed = ?, damage = ? WHERE id = ?`,
			source.State, source.Working, string(pages), source.Measured, said(source.Damage), source.ID); err != nil {
			return fmt.Errorf("update source: %w", err)
		}
		return errors.Join(release(ctx, tx, before), addJobs(ctx, tx, source.Packet, work...))
	})
	if err != nil {
		return err
	}
	return s.collectReleased(context.WithoutCancel(ctx))
}

// DeleteSource forgets a source that no page refers to, and releases its files.
func (s *Store) DeleteSource(ctx context.Context, id string) error {
	err := s.inTransaction(ctx, func(tx *sql.Tx) error {
		var blob, working string
		row := tx.QueryRowContext(ctx, `DELETE FROM sources WHERE id = ? RETURNING blob, working`, id)
		if err := row.Scan(&blob, &working); err != nil {
			return fmt.Errorf("delete source: %w", notFound(err))
		}
		return release(ctx, tx, blob, working)
	})
	if err != nil {
		return err
	}
	return s.collectReleased(context.WithoutCancel(ctx))
}

const sourceColumns = `id, packet, ordinal, name, kind, state, blob, working, bytes, pages, weighed, added, damage, wish, expected`

// Source reads one source.
func (s *Store) Source(ctx context.Context, id string) (Source, error) {
	return s.scanSource(s.db.QueryRowContext(ctx, `SELECT `+sourceColumns+` FROM sources WHERE id = ?`, id))
}

// AllSources reads the sources of all packets, each packet's in the order they came in.
func (s *Store) AllSources(ctx context.Context) (map[string][]Source, error) {
	all, err := queryAll(ctx, s.db, s.scanSource, `SELECT `+sourceColumns+` FROM sources ORDER BY packet, ordinal`)
	if err != nil {
		return nil, err
	}
	byPacket := map[string][]Source{}
	for _, source := range all {
		byPacket[source.Packet] = append(byPacket[source.Packet], source)
	}
	return byPacket, nil
}

// Sources reads a packet's sources in the order they came in.
func (s *Store) Sources(ctx context.Context, packet string) ([]Source, error) {
	return queryAll(ctx, s.db, s.scanSource, `SELECT `+sourceColumns+` FROM sources WHERE packet = ? ORDER BY ordinal`, packet)
}

func (s *Store) scanSource(row scanner) (Source, error) {
	var source Source
	var pages, added string
	err := row.Scan(&source.ID, &source.Packet, &source.Ordinal, &source.Name, &source.Kind, &source.State,
		&source.Blob, &source.Working, &source.Bytes, &pages, &source.Measured, &added, (*said)(&source.Damage), &source.Placement, &source.Expected)
	if err != nil {
		return source, fmt.Errorf("read source: %w", notFound(err))
	}
	if source.Pages, err = s.pages.decode(source.ID, pages); err != nil {
		return source, fmt.Errorf("decode source %s: %w", source.ID, err)
	}
	source.Added = parseTime(added)
	return source, nil
}
