package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"dorbin/core/requirements"
)

// Receiver is a receiver that the installation knows.
type Receiver struct {
	ID       string
	Receiver requirements.Receiver
}

// Receivers lists the receivers that were made here.
func (s *Store) Receivers(ctx context.Context) ([]Receiver, error) {
	all, err := queryAll(ctx, s.db, scanReceiver, `SELECT id, receiver FROM receivers ORDER BY changed, id`)
	if err != nil {
		return nil, fmt.Errorf("read receivers: %w", err)
	}
	return all, nil
}

func scanReceiver(row scanner) (Receiver, error) {
	var r Receiver
	var encoded string
	if err := row.Scan(&r.ID, &encoded); err != nil {
		return r, err
	}
	if err := json.Unmarshal([]byte(encoded), &r.Receiver); err != nil {
		return r, fmt.Errorf("decode receiver %s: %w", r.ID, err)
	}
	return r, nil
}

// Receiver reads one of them. It returns ErrNotFound where there is none.
func (s *Store) Receiver(ctx context.Context, id string) (Receiver, error) {
	r, err := scanReceiver(s.db.QueryRowContext(ctx, `SELECT id, receiver FROM receivers WHERE id = ?`, id))
	if errors.Is(err, sql.ErrNoRows) {
		return r, fmt.Errorf("%w: receiver %s", ErrNotFound, id)
	}
	return r, err
}

// KeepReceiver keeps a receiver, in place of what was kept under its id.
func (s *Store) KeepReceiver(ctx context.Context, r Receiver) error {
	encoded, err := json.Marshal(r.Receiver)
	if err != nil {
		return fmt.Errorf("encode receiver: %w", err)
	}
	_, err = s.db.ExecContext(ctx, `INSERT OR REPLACE INTO receivers (id, receiver, changed) VALUES (?, ?, ?)`,
		r.ID, string(encoded), time.Now().UTC().Format(time.RFC3339Nano))
	if err != nil {
		return fmt.Errorf("keep receiver: %w", err)
	}
	return nil
}

// DeleteReceiver forgets a receiver. Packets keep what it asked for.
func (s *Store) DeleteReceiver(ctx context.Context, id string) error {
	if _, err := s.db.ExecContext(ctx, `DELETE FROM receivers WHERE id = ?`, id); err != nil {
		return fmt.Errorf("forget receiver: %w", err)
	}
	return nil
}
