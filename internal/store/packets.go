package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"dorbin/core/message"
	"dorbin/core/packet"
)

// Packet is a packet as it is kept.
type Packet struct {
	ID       string
	Revision int
	State    packet.Packet
	Undo     message.Text // what undoing would take back, in words; empty when there is nothing
	Redo     message.Text
	Created  time.Time
	Changed  time.Time
	Cursor   int // how many of its steps are done
	Keeping
}

// Step is an entry of a packet's command log.
type Step struct {
	Words    message.Text
	Commands packet.Commands
	Delta    packet.Delta
	Number   int // from 1
	At       time.Time
}

// CreatePacket keeps a new packet.
func (s *Store) CreatePacket(ctx context.Context, id string, state packet.Packet) error {
	return createPacket(ctx, s.db, id, state)
}

func createPacket(ctx context.Context, db querier, id string, state packet.Packet) error {
	text, err := json.Marshal(state)
	if err != nil {
		return fmt.Errorf("encode packet: %w", err)
	}
	at := now()
	if _, err := db.ExecContext(ctx,
		`INSERT INTO packets (id, name, revision, cursor, state, created, changed) VALUES (?, ?, 1, 0, ?, ?, ?)`,
		id, state.Name, string(text), at, at); err != nil {
		return fmt.Errorf("create packet: %w", err)
	}
	return nil
}

const packetColumns = `id, revision, cursor, state, created, changed, keep_until, keep_lines,
	coalesce((SELECT words FROM steps WHERE packet = id AND seq = cursor), ''),
	coalesce((SELECT words FROM steps WHERE packet = id AND seq = cursor + 1), '')`

// Packet reads one packet.
func (s *Store) Packet(ctx context.Context, id string) (Packet, error) {
	row := s.db.QueryRowContext(ctx, `SELECT `+packetColumns+` FROM packets WHERE id = ?`, id)
	return s.scanPacket(row)
}

// Load reads one packet with its sources.
func (s *Store) Load(ctx context.Context, id string) (Packet, []Source, error) {
	p, err := s.Packet(ctx, id)
	if err != nil {
		return p, nil, err
	}
	sources, err := s.Sources(ctx, id)
	return p, sources, err
}

// Packets reads all packets, the last changed first.
func (s *Store) Packets(ctx context.Context) ([]Packet, error) {
	return queryAll(ctx, s.db, s.scanPacket, `SELECT `+packetColumns+` FROM packets ORDER BY changed DESC`)
}

type scanner interface{ Scan(...any) error }

func (s *Store) scanPacket(row scanner) (Packet, error) {
	var p Packet
	var state, created, changed string
	if err := row.Scan(&p.ID, &p.Revision, &p.Cursor, &state, &created, &changed, &p.Until, &p.Lines, (*said)(&p.Undo), (*said)(&p.Redo)); err != nil {
		return p, fmt.Errorf("read packet: %w", notFound(err))
	}
	var err error
	if p.State, err = s.states.decode(p.ID, state); err != nil {
		return p, fmt.Errorf("decode packet %s: %w", p.ID, err)
	}
	p.Created, p.Changed = parseTime(created), parseTime(changed)
	return p, nil
}

// DeletePacket deletes a packet with its log, sources and exports, and the files that
// nobody else owns. No byte of it stays on the disk, but for the lines of what was handed in that are
// to stay.
func (s *Store) DeletePacket(ctx context.Context, id string) error {
	defer s.texts.wrote()
	err := s.inTransaction(ctx, func(tx *sql.Tx) error {
		sums, err := queryAll(ctx, tx, scanString, filesOfPacket, id)
		if err != nil {
			return fmt.Errorf("list the packet's files: %w", err)
		}
		if err := keepLines(ctx, tx, id); err != nil {
			return err
		}
		result, err := tx.ExecContext(ctx, `DELETE FROM packets WHERE id = ?`, id)
		if err != nil {
			return fmt.Errorf("delete packet: %w", err)
		}
		if n, _ := result.RowsAffected(); n == 0 {
			return ErrNotFound
		}
		return release(ctx, tx, sums...)
	})
	if err != nil {
		return err
	}
	s.states.forget(id)
	ctx = context.WithoutCancel(ctx) // it is deleted: the rest is cleaning up
	if err := errors.Join(s.collectReleased(ctx), s.forgetInCopies(ctx, id)); err != nil {
		return err
	}
	return s.emptyLog(ctx)
}

// emptyLog moves what is in the write-ahead log into the database, and empties the log:
// pages from before a deletion are still in it.
func (s *Store) emptyLog(ctx context.Context) error {
	var busy, logged, moved int
	row := s.db.QueryRowContext(ctx, `PRAGMA wal_checkpoint(TRUNCATE)`)
	if err := row.Scan(&busy, &logged, &moved); err != nil {
		return fmt.Errorf("empty the database's log: %w", err)
	}
	return nil // somebody was reading if it was busy: the log is emptied the next time
}

// Append records a step together with the state it leads to, and returns the
// packet as it then is. Steps that had been undone are forgotten. It returns
// ErrStale when the packet is no longer as it was read.
func (s *Store) Append(ctx context.Context, p Packet, next packet.Packet, step Step) (Packet, error) {
	commands, err := json.Marshal(step.Commands)
	if err != nil {
		return p, fmt.Errorf("encode commands: %w", err)
	}
	delta, err := json.Marshal(step.Delta)
	if err != nil {
		return p, fmt.Errorf("encode delta: %w", err)
	}
	err = s.inTransaction(ctx, func(tx *sql.Tx) error {
		if err := s.update(ctx, tx, p, next, p.Cursor+1); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `DELETE FROM steps WHERE packet = ? AND seq > ?`, p.ID, p.Cursor); err != nil {
			return fmt.Errorf("forget undone steps: %w", err)
		}
		if _, err := tx.ExecContext(ctx,
			`INSERT INTO steps (packet, seq, words, commands, delta, at) VALUES (?, ?, ?, ?, ?, ?)`,
			p.ID, p.Cursor+1, said(step.Words), string(commands), string(delta), now()); err != nil {
			return fmt.Errorf("append step: %w", err)
		}
		return nil
	})
	if err != nil {
		return p, err
	}
	p.State, p.Undo, p.Redo = next, step.Words, message.Text{}
	p.Revision++
	p.Cursor++
	return p, nil
}

// Step reads a step of a packet's log; ErrNotFound when there is none.
func (s *Store) Step(ctx context.Context, id string, number int) (Step, error) {
	step := Step{Number: number}
	var commands, delta string
	err := s.db.QueryRowContext(ctx, `SELECT words, commands, delta FROM steps WHERE packet = ? AND seq = ?`, id, number).
		Scan((*said)(&step.Words), &commands, &delta)
	if err != nil {
		return step, fmt.Errorf("read step: %w", notFound(err))
	}
	if err := json.Unmarshal([]byte(commands), &step.Commands); err != nil {
		return step, fmt.Errorf("decode commands: %w", err)
	}
	if err := json.Unmarshal([]byte(delta), &step.Delta); err != nil {
		return step, fmt.Errorf("decode delta: %w", err)
	}
	return step, nil
}

// Steps lists a packet's log, the first step first, with words and times alone.
func (s *Store) Steps(ctx context.Context, id string) ([]Step, error) {
	return queryAll(ctx, s.db, func(row scanner) (Step, error) {
		var step Step
		var at string
		err := row.Scan(&step.Number, (*said)(&step.Words), &at)
		step.At = parseTime(at)
		return step, err
	}, `SELECT seq, words, at FROM steps WHERE packet = ? ORDER BY seq`, id)
}

// MarkAt records the state where this many steps are done. It returns ErrStale
// like Append.
func (s *Store) MarkAt(ctx context.Context, p Packet, next packet.Packet, steps int) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error { return s.update(ctx, tx, p, next, steps) })
}

func (s *Store) update(ctx context.Context, tx *sql.Tx, p Packet, next packet.Packet, cursor int) error {
	state, err := json.Marshal(next)
	if err != nil {
		return fmt.Errorf("encode packet: %w", err)
	}
	result, err := tx.ExecContext(ctx,
		`UPDATE packets SET name = ?, revision = revision + 1, cursor = ?, state = ?, changed = ? WHERE id = ? AND revision = ?`,
		next.Name, cursor, string(state), now(), p.ID, p.Revision)
	if err != nil {
		return fmt.Errorf("update packet: %w", err)
	}
	if n, _ := result.RowsAffected(); n == 0 {
		return ErrStale
	}
	s.states.remember(p.ID, string(state), next)
	return nil
}

type querier interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
	ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error)
}

func queryAll[T any](ctx context.Context, db querier, scan func(scanner) (T, error), query string, args ...any) ([]T, error) {
	rows, err := db.QueryContext(ctx, query, args...)
	if err != nil {
		return nil, fmt.Errorf("query: %w", err)
	}
	defer rows.Close() //nolint:errcheck // rows.Err tells what went wrong
	var all []T
	for rows.Next() {
		item, err := scan(rows)
		if err != nil {
			return nil, err
		}
		all = append(all, item)
	}
	if err := rows.Err(); err != nil {
		return nil, fmt.Errorf("query: %w", err)
	}
	return all, nil
}

func scanString(row scanner) (string, error) {
	var s string
	err := row.Scan(&s)
	return s, err
}
