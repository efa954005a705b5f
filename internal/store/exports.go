package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"dorbin/core/message"
	"dorbin/internal/jobs"
)

// States of an export.
const (
	ExportWaiting   = "waiting"
	ExportRunning   = "running"
	ExportDone      = "done"
	ExportFailed    = "failed"
	ExportCancelled = "cancelled"
)

// Export is a document being made or made. Request and Receipt are JSON that
// the store does not look into.
type Export struct {
	ID       string
	Packet   string
	Name     string
	State    string
	Settings string // what was asked for, shorter than the request
	Request  string
	Total    int // pages
	Measured int // pages whose encodings were measured
	Done     int
	Problem  message.Text
	Blob     string
	Receipt  string
	Created  time.Time
}

// AddExport keeps a new export that waits for its turn, with the job that makes it.
func (s *Store) AddExport(ctx context.Context, e Export, work jobs.Job) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		_, err := tx.ExecContext(ctx,
			`INSERT INTO exports (id, packet, name, state, request, settings, total, done, problem, blob, receipt, created)
			 VALUES (?, ?, ?, ?, ?, ?, ?, 0, '', '', '', ?)`,
			e.ID, e.Packet, e.Name, ExportWaiting, e.Request, e.Settings, e.Total, now())
		if err != nil {
			return fmt.Errorf("add export: %w", notFound(err))
		}
		return addJobs(ctx, tx, e.Packet, work)
	})
}

// UpdateExport records how far an export has come, with the work that is to be done on it
// then. It returns ErrNotFound for one that was deleted meanwhile.
func (s *Store) UpdateExport(ctx context.Context, e Export, work ...jobs.Job) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		result, err := tx.ExecContext(ctx,
			`UPDATE exports SET name = ?, state = ?, weighed = ?, done = ?, problem = ?, blob = ?, receipt = ? WHERE id = ?`,
			e.Name, e.State, e.Measured, e.Done, said(e.Problem), e.Blob, e.Receipt, e.ID)
		if err != nil {
			return fmt.Errorf("update export: %w", err)
		}
		if n, _ := result.RowsAffected(); n == 0 {
			return fmt.Errorf("update export %s: %w", e.ID, ErrNotFound)
		}
		return addJobs(ctx, tx, e.Packet, work...)
	})
}

const exportColumns = `id, packet, name, state, request, settings, total, weighed, done, problem, blob, receipt, created`

// Export reads one export.
func (s *Store) Export(ctx context.Context, id string) (Export, error) {
	return scanExport(s.db.QueryRowContext(ctx, `SELECT `+exportColumns+` FROM exports WHERE id = ?`, id))
}

// Exports reads a packet's exports, the newest first.
func (s *Store) Exports(ctx context.Context, packet string) ([]Export, error) {
	return queryAll(ctx, s.db, scanExport, `SELECT `+exportColumns+` FROM exports WHERE packet = ? ORDER BY created DESC`, packet)
}

// CountExports counts a packet's exports.
func (s *Store) CountExports(ctx context.Context, packet string) (count int, err error) {
	if err := s.db.QueryRowContext(ctx, `SELECT count(*) FROM exports WHERE packet = ?`, packet).Scan(&count); err != nil {
		return 0, fmt.Errorf("count exports: %w", err)
	}
	return count, nil
}

// UnreadExports reads the finished exports whose words have yet to be compared, the oldest
// first.
func (s *Store) UnreadExports(ctx context.Context) ([]Export, error) {
	return queryAll(ctx, s.db, scanExport,
		`SELECT `+exportColumns+` FROM exports WHERE state = ? AND is_read = 0 ORDER BY created`, ExportDone)
}

// SetExportRead keeps that the words of an export were compared.
func (s *Store) SetExportRead(ctx context.Context, id string) error {
	if _, err := s.db.ExecContext(ctx, `UPDATE exports SET is_read = 1 WHERE id = ?`, id); err != nil {
		return fmt.Errorf("keep that export %s was read: %w", id, err)
	}
	return nil
}

func scanExport(row scanner) (Export, error) {
	var e Export
	var created string
	err := row.Scan(&e.ID, &e.Packet, &e.Name, &e.State, &e.Request, &e.Settings, &e.Total, &e.Measured, &e.Done, (*said)(&e.Problem), &e.Blob, &e.Receipt, &created)
	if err != nil {
		return e, fmt.Errorf("read export: %w", notFound(err))
	}
	e.Created = parseTime(created)
	return e, nil
}
