package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"time"

	"dorbin/core/message"
	"dorbin/core/requirements"
)

// Keeping is how long a packet is kept.
type Keeping struct {
	Until string // the last day, as 2026-03-31; empty is for good
	Lines bool   // a line stays of what was handed in
}

// SetKeeping keeps how long a packet is kept.
func (s *Store) SetKeeping(ctx context.Context, packet string, k Keeping) error {
	result, err := s.db.ExecContext(ctx, `UPDATE packets SET keep_until = ?, keep_lines = ? WHERE id = ?`, k.Until, k.Lines, packet)
	if err != nil {
		return fmt.Errorf("keep how long packet %s is kept: %w", packet, err)
	}
	if n, _ := result.RowsAffected(); n == 0 {
		return ErrNotFound
	}
	return nil
}

// PacketsKeptUntilBefore lists the packets whose last day was before this one, and which nobody has changed
// since a time.
func (s *Store) PacketsKeptUntilBefore(ctx context.Context, day string, since time.Time) ([]string, error) {
	ids, err := queryAll(ctx, s.db, scanString,
		`SELECT id FROM packets WHERE keep_until <> '' AND keep_until < ? AND changed < ? ORDER BY keep_until, id`, day, formatTime(since))
	if err != nil {
		return nil, fmt.Errorf("list the packets that are kept no longer: %w", err)
	}
	return ids, nil
}

// filesOfPacket are the hashes of a packet's files.
const filesOfPacket = `SELECT blob FROM sources WHERE packet = ?1 UNION SELECT working FROM sources WHERE packet = ?1
	UNION SELECT blob FROM exports WHERE packet = ?1 UNION SELECT blob FROM deliveries WHERE packet = ?1
	UNION SELECT blob FROM batch_files WHERE batch IN (SELECT id FROM batches WHERE packet = ?1)`

// Holdings are what belongs to a packet.
type Holdings struct {
	Sources  int
	Exports  int
	HandedIn int
	Texts    int // pages whose text is kept
	Earlier  int // earlier versions of the file that it was opened from
	Bytes    int64
}

// Holdings counts what belongs to a packet.
func (s *Store) Holdings(ctx context.Context, packet string) (h Holdings, err error) {
	row := s.db.QueryRowContext(ctx, `SELECT (SELECT count(*) FROM sources WHERE packet = ?1), (SELECT count(*) FROM exports WHERE packet = ?1),
		(SELECT count(*) FROM deliveries WHERE packet = ?1 AND state = ?2),
		(SELECT count(*) FROM texts WHERE content <> '' AND source IN (SELECT id FROM sources WHERE packet = ?1)),
		(SELECT count(*) FROM earlier_versions WHERE packet = ?1)`, packet, DeliveryDone)
	if err := row.Scan(&h.Sources, &h.Exports, &h.HandedIn, &h.Texts, &h.Earlier); err != nil {
		return h, fmt.Errorf("count what belongs to packet %s: %w", packet, err)
	}
	sums, err := queryAll(ctx, s.db, scanString, filesOfPacket, packet)
	if err != nil {
		return h, fmt.Errorf("list the packet's files: %w", err)
	}
	for _, sum := range sums {
		if sum == "" {
			continue
		}
		info, err := os.Stat(s.FilePath(sum))
		if errors.Is(err, fs.ErrNotExist) {
			continue
		}
		if err != nil {
			return h, fmt.Errorf("measure the packet's files: %w", err)
		}
		h.Bytes += info.Size()
	}
	return h, nil
}

// HandedIn is what was handed in of a packet that is deleted.
type HandedIn struct {
	ID       string
	Packet   string // its name
	Receiver string
	Name     string // of the file
	Bytes    int64
	Pages    int
	SHA256   string
	Delivery requirements.Delivery // without what an e-mail said
	Answer   message.Text
	Ended    time.Time
}

// keepLines has lines stay of what was handed in of a packet that is about to be deleted, if that is
// wanted.
func keepLines(ctx context.Context, tx querier, packet string) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO handed_in (id, packet, receiver, name, bytes, pages, sha256, delivery, answer, ended)
		SELECT d.id, p.name, d.receiver, d.name, d.bytes, d.pages, d.blob,
			json_object('by', json_extract(d.delivery, '$.by'), 'address', coalesce(json_extract(d.delivery, '$.address'), '')), d.answer, d.ended
		FROM deliveries AS d JOIN packets AS p ON p.id = d.packet
		WHERE d.packet = ?1 AND d.state = ?2 AND p.keep_lines = 1`, packet, DeliveryDone)
	if err != nil {
		return fmt.Errorf("keep lines of what was handed in: %w", err)
	}
	return nil
}

// HandedIn lists what was handed in of packets that are deleted, the newest first.
func (s *Store) HandedIn(ctx context.Context) ([]HandedIn, error) {
	return queryAll(ctx, s.db, scanHandedIn,
		`SELECT id, packet, receiver, name, bytes, pages, sha256, delivery, answer, ended FROM handed_in ORDER BY ended DESC, id`)
}

func scanHandedIn(row scanner) (h HandedIn, err error) {
	var delivery, ended string
	if err := row.Scan(&h.ID, &h.Packet, &h.Receiver, &h.Name, &h.Bytes, &h.Pages, &h.SHA256, &delivery, (*said)(&h.Answer), &ended); err != nil {
		return h, fmt.Errorf("read what was handed in: %w", err)
	}
	h.Ended = parseTime(ended)
	if err := json.Unmarshal([]byte(delivery), &h.Delivery); err != nil {
		return h, fmt.Errorf("decode how it was handed in: %w", err)
	}
	return h, nil
}

// ForgetHandedIn removes the line of what was handed in.
func (s *Store) ForgetHandedIn(ctx context.Context, id string) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		result, err := tx.ExecContext(ctx, `DELETE FROM handed_in WHERE id = ?`, id)
		if err != nil {
			return fmt.Errorf("forget what was handed in: %w", err)
		}
		if n, _ := result.RowsAffected(); n == 0 {
			return ErrNotFound
		}
		return nil
	})
}
