package jobs

import (
	"context"
	"errors"

	"dorbin/internal/guard"
)

// Job names a piece of work: its kind, and what it is about. There is one job of a kind
// and key at a time.
type Job struct {
	Kind string
	Key  string // such as the id of a source
}

// Taken is a job that was taken from the queue.
type Taken struct {
	Job
	Packet   string // the packet that it works on
	Attempt  int    // from 1
	Problem  string // why the last attempt failed; empty if it was interrupted
	Progress string // what the last attempt noted last
}

// Queue keeps jobs. Its methods are safe for concurrent use.
type Queue interface {
	// AddJobs asks for work on a packet. Work that is under way is done once more
	// afterwards.
	AddJobs(ctx context.Context, packet string, jobs ...Job) error
	// TakeJob gives the first waiting job of a kind, or ErrNone.
	TakeJob(ctx context.Context, kind string) (Taken, error)
	// FinishJob removes a job that is done.
	FinishJob(ctx context.Context, job Job) error
	// ReturnJob has a job wait again as if it had not been taken.
	ReturnJob(ctx context.Context, job Job) error
	// RetryJob has a job wait again after an attempt that failed.
	RetryJob(ctx context.Context, job Job, problem string) error
	// GiveUpJob marks a job that failed for good.
	GiveUpJob(ctx context.Context, job Job, problem string) error
	// NoteJob keeps what a job is working on.
	NoteJob(ctx context.Context, job Job, progress string) error
	// JobWaits tells whether there is a job that waits.
	JobWaits(ctx context.Context, job Job) (bool, error)
	// RecoverJobs has the jobs wait again that were running when the program ended.
	RecoverJobs(ctx context.Context) error
}

// Kind is a kind of work.
type Kind struct {
	Name string
	// Do does a job. Its context ends when the job is cancelled or the program ends; then
	// an error that it returns does not count as a failure. Otherwise an error has it done
	// again.
	Do func(ctx context.Context, task *Task) error
	// GiveUp is told of a job that failed MaxAttempts times, to say so where the user
	// sees it. It may be nil.
	GiveUp func(ctx context.Context, failed Taken, cause error) error
	// Cancelled is told of a job that was cancelled before it began, or returned an error
	// because it was: nothing else will say that it has ended. It may be nil. Should the
	// program end right afterwards, Do is called at the next start nevertheless. It must not
	// call Cancel.
	Cancelled func(ctx context.Context, cancelled Taken) error
	// Foreground is work that somebody waits for: work in the background waits for it.
	Foreground bool
	// AtOnce is how many jobs of the kind are done at the same time; 0 is one.
	AtOnce int
}

func (k Kind) tellGivenUp(ctx context.Context, failed Taken, cause error) error {
	if k.GiveUp == nil {
		return nil
	}
	return guard.Run(func() error { return k.GiveUp(ctx, failed, cause) })
}

func (k Kind) tellCancelled(ctx context.Context, cancelled Taken) error {
	if k.Cancelled == nil {
		return nil
	}
	return guard.Run(func() error { return k.Cancelled(ctx, cancelled) })
}

// MaxAttempts is how often a job is tried.
const MaxAttempts = 3

// ErrNone is returned when no job waits.
var ErrNone = errors.New("no job waits")

// ErrCancelled is the cause with which the context of a cancelled job ends.
var ErrCancelled = errors.New("the job was cancelled")

// ErrInterrupted is why a job failed during which the program ended.
var ErrInterrupted = errors.New("the program ended while it was working on this")

// IsCancelled tells whether a job's context ended because the job was cancelled, and not
// because the program ends.
func IsCancelled(ctx context.Context) bool { return errors.Is(context.Cause(ctx), ErrCancelled) }
