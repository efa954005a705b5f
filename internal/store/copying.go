package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"dorbin/core/packet"
)

// CopySource gives a packet a source that shows the same as another packet's, with all that
// was learned of it and the work that is left to do on it. The files are shared.
func (s *Store) CopySource(ctx context.Context, id, newID, packetID string) (Source, error) {
	defer s.texts.wrote()
	err := s.inTransaction(ctx, func(tx *sql.Tx) error { return copySource(ctx, tx, id, newID, packetID) })
	if err != nil {
		return Source{}, err
	}
	return s.Source(ctx, newID)
}

// copySource copies a source's rows. One that is gone has none.
func copySource(ctx context.Context, tx querier, id, newID, packetID string) error {
	for _, query := range []string{
		`INSERT INTO sources (id, packet, ordinal, name, kind, state, blob, working, bytes, pages, weighed, added, damage, wish, expected)
		 SELECT ?2, ?3, (SELECT coalesce(max(ordinal), 0) + 1 FROM sources WHERE packet = ?3),
			name, kind, state, blob, working, bytes, pages, weighed, added, damage, wish, expected FROM sources WHERE id = ?1`,
		`INSERT INTO signs (source, page, signs) SELECT ?2, page, signs FROM signs WHERE source = ?1 AND ?3 <> ''`,
		`INSERT INTO measured (source, page, look, versions, words)
		 SELECT ?2, page, look, versions, words FROM measured WHERE source = ?1 AND ?3 <> ''`,
		`INSERT INTO texts (source, page, look, state, languages, turn, problem, words, doubtful, printed, printed_of, upright, folded, content)
		 SELECT ?2, page, look, state, languages, turn, problem, words, doubtful, printed, printed_of, upright, folded, content
		 FROM texts WHERE source = ?1 AND state <> 'asked' AND ?3 <> ''`,
		`INSERT INTO jobs (kind, key, packet, state, attempts, again, error, progress, ordinal)
		 SELECT kind, ?2, ?3, 'waiting', 0, 0, '', '', (SELECT max(ordinal) FROM jobs) + row_number() OVER (ORDER BY ordinal)
		 FROM jobs WHERE key = ?1 AND state <> 'failed'`,
	} {
		if _, err := tx.ExecContext(ctx, query, id, newID, packetID); err != nil {
			return fmt.Errorf("copy source %s: %w", id, notFound(err))
		}
	}
	return nil
}

// PacketCopy is a new packet that is as another one stands, without its history and exports.
type PacketCopy struct {
	From, ID string
	State    packet.Packet
	Sources  [][2]packet.SourceID     // the other packet's in their order, each with its copy
	Reviewed map[packet.PageID]string // fingerprints of pages that were reviewed
	Accepted []string                 // keys of findings that are as they should be
}

// CopyPacket keeps a copy of a packet. It returns ErrNotFound when the other one is gone.
func (s *Store) CopyPacket(ctx context.Context, c PacketCopy) error {
	defer s.texts.wrote()
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		if err := createPacket(ctx, tx, c.ID, c.State); err != nil {
			return err
		}
		for _, pair := range c.Sources {
			if err := copySource(ctx, tx, string(pair[0]), string(pair[1]), c.ID); err != nil {
				return err
			}
		}
		for _, query := range []string{
			`INSERT INTO sizings (packet, sizing) SELECT ?2, sizing FROM sizings WHERE packet = ?1`,
			`INSERT INTO reading (packet, languages, every) SELECT ?2, languages, every FROM reading WHERE packet = ?1`,
		} {
			if _, err := tx.ExecContext(ctx, query, c.From, c.ID); err != nil {
				return fmt.Errorf("copy what the packet is to be made like: %w", err)
			}
		}
		return errors.Join(setReviewed(ctx, tx, c.ID, c.Reviewed), accept(ctx, tx, c.ID, c.Accepted, true))
	})
}
