package jobs

import (
	"context"
	"errors"
	"log/slog"
	"slices"
	"sync"
	"time"

	"dorbin/internal/guard"
	"dorbin/internal/worker"
)

// Runner does jobs, one of each kind at a time unless the kind says otherwise.
type Runner struct {
	queue Queue
	log   *slog.Logger
	kinds []Kind
	wake  map[string]chan struct{} // by kind
	idle  *idle

	mutex   sync.Mutex // a job is taken, cancelled and ended under it
	running map[Job]*Task

	stop    context.CancelFunc
	workers sync.WaitGroup
}

// Task is a job that is being done.
type Task struct {
	Taken
	runner *Runner
	cancel context.CancelCauseFunc
	done   chan struct{} // closed when it has ended
}

// New returns a runner, which does nothing until it is started.
func New(queue Queue, log *slog.Logger) *Runner {
	return &Runner{queue: queue, log: log, idle: newIdle(), running: map[Job]*Task{}, wake: map[string]chan struct{}{}}
}

// Handle has the runner do jobs of a kind. It is called before Start.
func (r *Runner) Handle(kind Kind) {
	r.kinds = append(r.kinds, kind)
	r.wake[kind.Name] = make(chan struct{}, 1)
}

// Start takes up the jobs that were interrupted and begins to work. It does not wait for
// any of them.
func (r *Runner) Start(ctx context.Context) error {
	if err := r.queue.RecoverJobs(ctx); err != nil {
		return err
	}
	ctx, r.stop = context.WithCancel(ctx)
	for _, kind := range r.kinds {
		for range max(1, kind.AtOnce) {
			r.workers.Go(func() { r.work(ctx, kind) })
		}
		r.Wake(kind.Name)
	}
	return nil
}

// Close interrupts the jobs under way, which are taken up at the next start, and waits
// until they have stopped.
func (r *Runner) Close() {
	if r.stop != nil {
		r.stop()
	}
	r.workers.Wait()
}

// Add asks for jobs on a packet.
func (r *Runner) Add(ctx context.Context, packet string, all ...Job) error {
	if err := r.queue.AddJobs(ctx, packet, all...); err != nil {
		return err
	}
	for _, job := range all {
		r.Wake(job.Kind)
	}
	return nil
}

// Wake tells that jobs of a kind were added to the queue.
func (r *Runner) Wake(kind string) {
	select {
	case r.wake[kind] <- struct{}{}:
	default: // it is awake
	}
}

// Foreground marks work that somebody waits for, until end is called: work in the
// background rests meanwhile.
func (r *Runner) Foreground() (end func()) { return r.idle.begin() }

// Go runs something that is no job, such as a scan, until the runner is closed. A panic
// ends it, and not the program.
func (r *Runner) Go(ctx context.Context, what string, run func(context.Context)) {
	r.workers.Go(func() {
		err := guard.Run(func() error {
			run(ctx)
			return nil
		})
		if err != nil {
			r.log.Error("work broke off", "what", what, "error", err)
		}
	})
}

// Cancel ends a job. One that was waiting is gone without having begun, and its kind has
// been told; one that is running ends soon after.
func (r *Runner) Cancel(ctx context.Context, job Job) error {
	r.mutex.Lock() // it is not taken meanwhile
	defer r.mutex.Unlock()
	if task := r.running[job]; task != nil {
		task.cancel(ErrCancelled)
		return nil
	}
	waits, err := r.queue.JobWaits(ctx, job)
	if err != nil || !waits {
		return err
	}
	// In this order: a program that ends in between has the job, and its kind knows.
	if err := r.kindOf(job).tellCancelled(ctx, Taken{Job: job}); err != nil {
		return err
	}
	return r.queue.FinishJob(ctx, job)
}

func (r *Runner) kindOf(job Job) Kind {
	at := slices.IndexFunc(r.kinds, func(k Kind) bool { return k.Name == job.Kind })
	if at < 0 {
		return Kind{}
	}
	return r.kinds[at]
}

// CancelPacket ends the running jobs of a packet, and waits until they have ended or ctx
// has.
func (r *Runner) CancelPacket(ctx context.Context, packet string) {
	for _, task := range r.tasksOf(packet) {
		task.cancel(ErrCancelled)
		select {
		case <-task.done:
		case <-ctx.Done():
			return
		}
	}
}

func (r *Runner) tasksOf(packet string) (tasks []*Task) {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	for _, task := range r.running {
		if task.Packet == packet {
			tasks = append(tasks, task)
		}
	}
	return tasks
}

// WaitIdle waits until nobody has waited for anything for a while. Work in the background
// calls it before each piece of its work.
func (t *Task) WaitIdle(ctx context.Context) error { return t.runner.idle.wait(ctx) }

// Note keeps what the task is working on: should that end the program, GiveUp is told.
func (t *Task) Note(ctx context.Context, progress string) error {
	t.Progress = progress
	return t.runner.queue.NoteJob(ctx, t.Job, progress)
}

// work does the jobs of a kind until ctx ends.
func (r *Runner) work(ctx context.Context, kind Kind) {
	for {
		select {
		case <-ctx.Done():
			return
		case <-r.wake[kind.Name]:
		}
		for ctx.Err() == nil {
			err := r.doNext(ctx, kind)
			if errors.Is(err, ErrNone) {
				break
			}
			if err != nil && ctx.Err() == nil {
				r.log.Error("job not recorded", "kind", kind.Name, "error", err)
				_ = Sleep(ctx, time.Second) // the disk may be full: do not spin
			}
		}
	}
}

// doNext does the first job of a kind that waits. It returns ErrNone when none does, and
// otherwise what went wrong with the queue.
func (r *Runner) doNext(ctx context.Context, kind Kind) error {
	work, task, err := r.take(ctx, kind)
	if err != nil {
		return err
	}
	defer close(task.done)
	if kind.AtOnce > 1 {
		r.Wake(kind.Name) // somebody else may take the next one meanwhile
	}
	if kind.Foreground {
		defer r.Foreground()()
	} else {
		work = worker.InBackground(work)
	}
	var problem error
	if task.Attempt > MaxAttempts {
		problem = ErrInterrupted // in each of its attempts: it is not begun again
	} else {
		problem = guard.Run(func() error { return kind.Do(work, task) })
	}
	return r.end(ctx, work, kind, task, problem)
}

// take takes the next job, and registers it so that it can be cancelled.
func (r *Runner) take(ctx context.Context, kind Kind) (context.Context, *Task, error) {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	taken, err := r.queue.TakeJob(ctx, kind.Name)
	if err != nil {
		return nil, nil, err
	}
	work, cancel := context.WithCancelCause(ctx)
	task := &Task{Taken: taken, runner: r, cancel: cancel, done: make(chan struct{})}
	r.running[taken.Job] = task
	return work, task, nil
}

// end records how a job has ended.
func (r *Runner) end(ctx, work context.Context, kind Kind, task *Task, problem error) error {
	cancelled := IsCancelled(work)
	task.cancel(nil)
	stopped := ctx.Err() != nil && !cancelled
	keep := context.WithoutCancel(ctx)
	gaveUp := problem != nil && !cancelled && !stopped && task.Attempt >= MaxAttempts
	switch {
	case gaveUp:
		r.log.Error("job given up", "kind", kind.Name, "key", task.Key, "error", problem)
		problem = errors.Join(problem, kind.tellGivenUp(keep, task.Taken, problem))
	case problem != nil && cancelled:
		if err := kind.tellCancelled(keep, task.Taken); err != nil {
			r.log.Error("cancelled job not told", "kind", kind.Name, "key", task.Key, "error", err)
		}
	}
	r.mutex.Lock()
	defer r.mutex.Unlock()
	delete(r.running, task.Job)
	switch {
	case stopped:
		return r.queue.ReturnJob(keep, task.Job)
	case gaveUp:
		return r.queue.GiveUpJob(keep, task.Job, problem.Error())
	case problem != nil && !cancelled:
		r.log.Warn("job failed", "kind", kind.Name, "key", task.Key, "attempt", task.Attempt, "error", problem)
		return r.queue.RetryJob(keep, task.Job, problem.Error())
	}
	return r.queue.FinishJob(keep, task.Job)
}
