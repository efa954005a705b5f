package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"dorbin/internal/jobs"
)

// Batch is sheets that were scanned and are not placed yet. A packet has at most
// one.
type Batch struct {
	ID     string
	Packet string
	State  string // as JSON
}

// Batch reads a packet's batch; ErrNotFound when there is none.
func (s *Store) Batch(ctx context.Context, packet string) (Batch, error) {
	b := Batch{Packet: packet}
	err := s.db.QueryRowContext(ctx, `SELECT id, state FROM batches WHERE packet = ?`, packet).Scan(&b.ID, &b.State)
	if err != nil {
		return b, fmt.Errorf("read batch: %w", notFound(err))
	}
	return b, nil
}

// BatchByID reads a batch.
func (s *Store) BatchByID(ctx context.Context, id string) (Batch, error) {
	b := Batch{ID: id}
	err := s.db.QueryRowContext(ctx, `SELECT packet, state FROM batches WHERE id = ?`, id).Scan(&b.Packet, &b.State)
	if err != nil {
		return b, fmt.Errorf("read batch: %w", notFound(err))
	}
	return b, nil
}

// SaveBatch keeps a batch, new or changed, with the files that it owns from now on and
// the work that is to be done on it. It returns ErrNotFound when its packet is gone.
func (s *Store) SaveBatch(ctx context.Context, b Batch, files []string, work ...jobs.Job) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx,
			`INSERT INTO batches (id, packet, state, added) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO UPDATE SET state = excluded.state`,
			b.ID, b.Packet, b.State, now()); err != nil {
			return fmt.Errorf("save batch: %w", notFound(err))
		}
		for _, file := range files {
			if _, err := tx.ExecContext(ctx, `INSERT OR IGNORE INTO batch_files (batch, blob) VALUES (?, ?)`, b.ID, file); err != nil {
				return fmt.Errorf("save batch: %w", err)
			}
		}
		return addJobs(ctx, tx, b.Packet, work...)
	})
}

// DeleteBatch forgets a batch and releases its files.
func (s *Store) DeleteBatch(ctx context.Context, id string) error {
	err := s.inTransaction(ctx, func(tx *sql.Tx) error {
		files, err := queryAll(ctx, tx, scanString, `SELECT blob FROM batch_files WHERE batch = ?`, id)
		if err != nil {
			return fmt.Errorf("list the batch's files: %w", err)
		}
		if _, err := tx.ExecContext(ctx, `DELETE FROM batches WHERE id = ?`, id); err != nil {
			return fmt.Errorf("delete batch: %w", err)
		}
		return release(ctx, tx, files...)
	})
	if err != nil {
		return err
	}
	return s.collectReleased(context.WithoutCancel(ctx))
}

// Scanner is a device that was added.
type Scanner struct {
	ID, Name, Address string
}

// AddScanner keeps a device. One that is known by its address gets the new name.
func (s *Store) AddScanner(ctx context.Context, scanner Scanner) (Scanner, error) {
	err := s.db.QueryRowContext(ctx,
		`INSERT INTO scanners (id, name, address, added) VALUES (?, ?, ?, ?)
		 ON CONFLICT (address) DO UPDATE SET name = excluded.name RETURNING id`,
		scanner.ID, scanner.Name, scanner.Address, time.Now().UTC().Format(time.RFC3339Nano)).Scan(&scanner.ID)
	if err != nil {
		return scanner, fmt.Errorf("add scanner: %w", err)
	}
	return scanner, nil
}

// Scanners lists the devices in the order they were added.
func (s *Store) Scanners(ctx context.Context) ([]Scanner, error) {
	return queryAll(ctx, s.db, scanScanner, `SELECT id, name, address FROM scanners ORDER BY added`)
}

// Scanner reads one device.
func (s *Store) Scanner(ctx context.Context, id string) (Scanner, error) {
	return scanScanner(s.db.QueryRowContext(ctx, `SELECT id, name, address FROM scanners WHERE id = ?`, id))
}

// DeleteScanner forgets a device.
func (s *Store) DeleteScanner(ctx context.Context, id string) error {
	if _, err := s.db.ExecContext(ctx, `DELETE FROM scanners WHERE id = ?`, id); err != nil {
		return fmt.Errorf("delete scanner: %w", err)
	}
	return nil
}

func scanScanner(row scanner) (Scanner, error) {
	var s Scanner
	if err := row.Scan(&s.ID, &s.Name, &s.Address); err != nil {
		return s, fmt.Errorf("read scanner: %w", notFound(err))
	}
	return s, nil
}
