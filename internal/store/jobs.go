package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"dorbin/internal/jobs"
)

// addJobs asks for work within a transaction: whoever adds a source has its jobs committed
// with it. A job that is running is done once more afterwards; one that failed is tried
// anew.
func addJobs(ctx context.Context, tx querier, packetID string, all ...jobs.Job) error {
	for _, job := range all {
		_, err := tx.ExecContext(ctx,
			`INSERT INTO jobs (kind, key, packet, state, attempts, again, error, progress, ordinal)
			 VALUES (?1, ?2, ?3, 'waiting', 0, 0, '', '', (SELECT coalesce(max(ordinal), 0) + 1 FROM jobs))
			 ON CONFLICT (kind, key) DO UPDATE SET
			   again = (state = 'running'),
			   attempts = CASE state WHEN 'failed' THEN 0 ELSE attempts END,
			   state = CASE state WHEN 'failed' THEN 'waiting' ELSE state END
			 WHERE state = 'failed' OR (state = 'running' AND again = 0)`, // else nothing is written
			job.Kind, job.Key, packetID)
		if err != nil {
			return fmt.Errorf("add job %s %s: %w", job.Kind, job.Key, notFound(err))
		}
	}
	return nil
}

// AddJobs asks for work on a packet. It implements jobs.Queue.
func (s *Store) AddJobs(ctx context.Context, packetID string, all ...jobs.Job) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error { return addJobs(ctx, tx, packetID, all...) })
}

// TakeJob gives the first waiting job of a kind, and marks it as running for the next
// time. It returns jobs.ErrNone when none waits.
func (s *Store) TakeJob(ctx context.Context, kind string) (t jobs.Taken, err error) {
	t.Kind = kind
	err = s.db.QueryRowContext(ctx,
		`UPDATE jobs SET state = 'running', attempts = attempts + 1, again = 0
		 WHERE kind = ?1 AND key = (SELECT key FROM jobs WHERE kind = ?1 AND state = 'waiting' ORDER BY ordinal LIMIT 1)
		 RETURNING key, packet, attempts, error, progress`, kind).
		Scan(&t.Key, &t.Packet, &t.Attempt, &t.Problem, &t.Progress)
	if errors.Is(err, sql.ErrNoRows) {
		return t, jobs.ErrNone
	}
	if err != nil {
		return t, fmt.Errorf("take a job: %w", err)
	}
	return t, nil
}

// FinishJob removes a job that is done. One that was asked for once more meanwhile waits
// again, at the end.
func (s *Store) FinishJob(ctx context.Context, job jobs.Job) error {
	err := s.execJob(ctx, job, `DELETE FROM jobs WHERE kind = ?1 AND key = ?2 AND again = 0`)
	if err != nil {
		return err
	}
	return s.execJob(ctx, job, `UPDATE jobs SET state = 'waiting', attempts = 0, again = 0, error = '', progress = '', `+toTheEnd)
}

// toTheEnd has a job wait behind all others.
const toTheEnd = `ordinal = (SELECT max(ordinal) + 1 FROM jobs) WHERE kind = ?1 AND key = ?2`

// ReturnJob has a job wait that was interrupted because the program ends. The attempt does
// not count.
func (s *Store) ReturnJob(ctx context.Context, job jobs.Job) error {
	return s.execJob(ctx, job, `UPDATE jobs SET state = 'waiting', attempts = attempts - 1 WHERE kind = ?1 AND key = ?2`)
}

// RetryJob has a job wait again, behind all others, after an attempt that failed.
func (s *Store) RetryJob(ctx context.Context, job jobs.Job, problem string) error {
	return s.execJob(ctx, job, `UPDATE jobs SET state = 'waiting', error = ?3, `+toTheEnd, problem)
}

// GiveUpJob marks a job that failed too often. One that was asked for once more meanwhile
// begins anew.
func (s *Store) GiveUpJob(ctx context.Context, job jobs.Job, problem string) error {
	return s.execJob(ctx, job, `UPDATE jobs SET state = iif(again, 'waiting', 'failed'), attempts = iif(again, 0, attempts),
		again = 0, error = ?3, progress = '' WHERE kind = ?1 AND key = ?2`, problem)
}

// NoteJob keeps what a job is working on.
func (s *Store) NoteJob(ctx context.Context, job jobs.Job, progress string) error {
	return s.execJob(ctx, job, `UPDATE jobs SET progress = ?3 WHERE kind = ?1 AND key = ?2`, progress)
}

// JobWaits tells whether there is a job that waits.
func (s *Store) JobWaits(ctx context.Context, job jobs.Job) (waits bool, err error) {
	err = s.db.QueryRowContext(ctx,
		`SELECT EXISTS (SELECT 1 FROM jobs WHERE kind = ? AND key = ? AND state = 'waiting')`, job.Kind, job.Key).Scan(&waits)
	if err != nil {
		return false, fmt.Errorf("look for job %s %s: %w", job.Kind, job.Key, err)
	}
	return waits, nil
}

// RecoverJobs has the jobs wait again that were running when the program ended without
// putting them back. Their attempts count.
func (s *Store) RecoverJobs(ctx context.Context) error {
	if _, err := s.db.ExecContext(ctx, `UPDATE jobs SET state = 'waiting' WHERE state = 'running'`); err != nil {
		return fmt.Errorf("recover jobs: %w", err)
	}
	return nil
}

// execJob changes a job's row, which may be gone with its packet.
func (s *Store) execJob(ctx context.Context, job jobs.Job, query string, more ...any) error {
	if _, err := s.db.ExecContext(ctx, query, append([]any{job.Kind, job.Key}, more...)...); err != nil {
		return fmt.Errorf("change job %s %s: %w", job.Kind, job.Key, err)
	}
	return nil
}
