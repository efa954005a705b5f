package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"dorbin/core/message"
	"dorbin/core/requirements"
	"dorbin/internal/jobs"
)

// DeliveryState is how far a document has come on its way to its receiver.
type DeliveryState string

// States of a delivery.
const (
	DeliveryWaiting   DeliveryState = "waiting"
	DeliveryRunning   DeliveryState = "running"
	DeliveryDone      DeliveryState = "done"
	DeliveryUnclear   DeliveryState = "unclear" // it may have arrived, or not
	DeliveryFailed    DeliveryState = "failed"
	DeliveryCancelled DeliveryState = "cancelled"
)

// Delivery is a document that was handed in, or is on its way.
type Delivery struct {
	ID       string
	Packet   string
	Export   string
	Name     string // of the file
	Blob     string
	Bytes    int64
	Pages    int
	Receiver string // whom it was for
	Delivery requirements.Delivery
	State    DeliveryState
	Stage    string // how far it had come, in its channel's words
	Sent     int64  // bytes
	Problem  message.Text
	Answer   message.Text
	Created  time.Time
	Ended    time.Time
}

const deliveryColumns = `id, packet, export, name, blob, bytes, pages, receiver, delivery, state, stage, sent, problem, answer, created, ended`

// AddDelivery keeps a delivery, with the job that does it.
func (s *Store) AddDelivery(ctx context.Context, d Delivery, work ...jobs.Job) error {
	delivery, err := json.Marshal(d.Delivery)
	if err != nil {
		return fmt.Errorf("encode delivery: %w", err)
	}
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		_, err := tx.ExecContext(ctx, `INSERT INTO deliveries (`+deliveryColumns+`) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			d.ID, d.Packet, d.Export, d.Name, d.Blob, d.Bytes, d.Pages, d.Receiver, string(delivery), d.State, d.Stage, d.Sent, said(d.Problem), said(d.Answer),
			now(), formatTime(d.Ended))
		if err != nil {
			return fmt.Errorf("add delivery: %w", notFound(err))
		}
		return addJobs(ctx, tx, d.Packet, work...)
	})
}

// UpdateDelivery keeps how far a delivery has come. It returns ErrNotFound for one that was deleted
// meanwhile.
func (s *Store) UpdateDelivery(ctx context.Context, d Delivery, work ...jobs.Job) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		result, err := tx.ExecContext(ctx, `UPDATE deliveries SET state = ?, stage = ?, sent = ?, problem = ?, answer = ?, ended = ? WHERE id = ?`,
			d.State, d.Stage, d.Sent, said(d.Problem), said(d.Answer), formatTime(d.Ended), d.ID)
		if err != nil {
			return fmt.Errorf("update delivery: %w", err)
		}
		if n, _ := result.RowsAffected(); n == 0 {
			return fmt.Errorf("update delivery %s: %w", d.ID, ErrNotFound)
		}
		return addJobs(ctx, tx, d.Packet, work...)
	})
}

// Delivery reads a delivery.
func (s *Store) Delivery(ctx context.Context, id string) (Delivery, error) {
	return scanDelivery(s.db.QueryRowContext(ctx, `SELECT `+deliveryColumns+` FROM deliveries WHERE id = ?`, id))
}

// Deliveries reads a packet's deliveries, the newest first.
func (s *Store) Deliveries(ctx context.Context, packet string) ([]Delivery, error) {
	return queryAll(ctx, s.db, scanDelivery, `SELECT `+deliveryColumns+` FROM deliveries WHERE packet = ? ORDER BY created DESC, id`, packet)
}

// LastDeliveries reads of each packet that was handed in its newest delivery that arrived.
func (s *Store) LastDeliveries(ctx context.Context) ([]Delivery, error) {
	return queryAll(ctx, s.db, scanDelivery, `SELECT `+deliveryColumns+` FROM deliveries AS d
		WHERE state = ?1 AND NOT EXISTS (
			SELECT 1 FROM deliveries AS later WHERE later.packet = d.packet AND later.state = ?1
				AND (later.created, later.id) > (d.created, d.id))
		ORDER BY created DESC`, DeliveryDone)
}

func scanDelivery(row scanner) (Delivery, error) {
	var d Delivery
	var delivery, created, ended string
	err := row.Scan(&d.ID, &d.Packet, &d.Export, &d.Name, &d.Blob, &d.Bytes, &d.Pages, &d.Receiver, &delivery, &d.State, &d.Stage, &d.Sent, (*said)(&d.Problem),
		(*said)(&d.Answer), &created, &ended)
	if err != nil {
		return d, fmt.Errorf("read delivery: %w", notFound(err))
	}
	if err := json.Unmarshal([]byte(delivery), &d.Delivery); err != nil {
		return d, fmt.Errorf("decode delivery %s: %w", d.ID, err)
	}
	d.Created = parseTime(created)
	if ended != "" {
		d.Ended = parseTime(ended)
	}
	return d, nil
}

// SealedSecret reads what was kept for a place; nil where nothing was.
func (s *Store) SealedSecret(ctx context.Context, place string) (sealed []byte, err error) {
	err = s.db.QueryRowContext(ctx, `SELECT sealed FROM secrets WHERE place = ?`, place).Scan(&sealed)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("read what is sealed: %w", err)
	}
	return sealed, nil
}

// KeepSealedSecret keeps what is sealed for a place; nil forgets it.
func (s *Store) KeepSealedSecret(ctx context.Context, place string, sealed []byte) error {
	var err error
	if sealed == nil {
		_, err = s.db.ExecContext(ctx, `DELETE FROM secrets WHERE place = ?`, place)
	} else {
		_, err = s.db.ExecContext(ctx, `INSERT OR REPLACE INTO secrets (place, sealed) VALUES (?, ?)`, place, sealed)
	}
	if err != nil {
		return fmt.Errorf("keep what is sealed: %w", err)
	}
	return nil
}
