package worker

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"runtime"
	"sync"
	"sync/atomic"
	"time"

	"golang.org/x/sync/semaphore"

	"dorbin/core/message"
	"dorbin/core/problem"
)

// Bounds of memory, in bytes that are resident.
const (
	hardMemory   = 2560 << 20 // that the system lets a worker have: what is watched takes a moment
	softMemory   = 600 << 20  // from which a worker's collector tries harder
	mostMemory   = 1 << 30    // of a worker
	totalMemory  = 1536 << 20 // of all together with the program, and of one whose task is a large one
	programShare = 400 << 20  // of that, which is counted for the program at most
	smallMemory  = 100 << 20  // with less a worker is not ended for the sake of a large task
	keptMemory   = 300 << 20  // with more a worker is not kept for the next task
	watchEvery   = 20 * time.Millisecond
	cancelledFor = 300 * time.Millisecond // how long a task goes on that is not wanted any more
)

// Reasons of tasks that ended their workers.
const (
	TooSlow  problem.Reason = "too-slow"
	TooLarge problem.Reason = "too-large-to-read"
	Broken   problem.Reason = "broken"
)

// unavailable is the reason of tasks for which no worker could be started. It says nothing about
// what they are to read.
const unavailable problem.Reason = "no-worker"

// IsUnavailable tells whether a task was not done because no worker could be started.
func IsUnavailable(err error) bool {
	var told *problem.Error
	return errors.As(err, &told) && told.Reason == unavailable
}

// NotTried tells why a task was not done by no fault of what it was to read: it is not wanted any more, or no worker could be
// started. It is nil where that is not so.
func NotTried(ctx context.Context, err error) error {
	if ctx.Err() == nil && !IsUnavailable(err) {
		return nil
	}
	return cmp.Or(ctx.Err(), err)
}

// GaveUp tells whether a task failed because it ended its worker.
func GaveUp(err error) bool {
	var told *problem.Error
	return errors.As(err, &told) && (told.Reason == TooSlow || told.Reason == TooLarge || told.Reason == Broken)
}

// Pool has workers. It is safe for concurrent use.
type Pool struct {
	command    []string
	scratch    string
	log        *slog.Logger
	size       int64
	running    *semaphore.Weighted // as many tasks as there are workers
	background *semaphore.Weighted // one less, so that who waits finds a worker
	large      *semaphore.Weighted // one task that may take more memory than others
	life       context.Context     //nolint:containedctx // ends the workers
	close      context.CancelFunc
	tasks      sync.WaitGroup

	first sync.Mutex  // the first worker may have to compile, for the others as well
	warm  atomic.Bool // it is ready

	mutex sync.Mutex
	idle  []*process
	busy  map[*process]*watch
}

// watch is what is known of a worker that does a task.
type watch struct {
	resident int64
	over     chan struct{} // closed when the workers together take too much, and this one is to end
	isOver   bool
	isLarge  bool
}

// NewPool returns a pool of workers that a command starts: a program and its arguments. None
// is started before the first task. What workers write is in the folder scratch until it is
// read.
func NewPool(log *slog.Logger, scratch string, command ...string) *Pool {
	size := int64(runtime.NumCPU() + 1)
	life, closePool := context.WithCancel(context.Background())
	return &Pool{
		command: command, scratch: scratch, log: log, size: size, large: semaphore.NewWeighted(1), life: life, close: closePool,
		running: semaphore.NewWeighted(size), background: semaphore.NewWeighted(size - 1), busy: map[*process]*watch{},
	}
}

// Close ends the workers and what they do.
func (p *Pool) Close() {
	p.close()
	p.tasks.Wait()
	for _, worker := range p.takeIdle() {
		worker.kill()
	}
}

// takeIdle takes all workers that have nothing to do out of the pool.
func (p *Pool) takeIdle() []*process {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	idle := p.idle
	p.idle = nil
	return idle
}

// doIdle has every worker that has nothing to do carry out a task. One that cannot is ended.
func (p *Pool) doIdle(r request, limit time.Duration) {
	if p.life.Err() != nil {
		return
	}
	p.tasks.Add(1)
	defer p.tasks.Done()
	var all sync.WaitGroup
	for _, worker := range p.takeIdle() {
		all.Go(func() { p.oversee(context.Background(), worker, r, limit, func(Progress) {}, false) })
	}
	all.Wait()
}

type backgroundKey struct{}

// InBackground marks what is done with a context as work that nobody waits for: it leaves a
// worker to others.
func InBackground(ctx context.Context) context.Context {
	return context.WithValue(ctx, backgroundKey{}, true)
}

func isInBackground(ctx context.Context) bool { return ctx.Value(backgroundKey{}) != nil }

// do does a task. One that ended its worker is tried once more as a large one: others may run
// beside it, but none that takes as much. Of those that took too long only the ones that nobody
// waits for are.
func (p *Pool) do(ctx context.Context, r request, limit time.Duration, told func(Progress)) (reply, []byte, error) {
	answer, data, err := p.try(ctx, r, limit, told, false)
	if GaveUp(err) && ctx.Err() == nil {
		var ended *problem.Error
		if errors.As(err, &ended) && ended.Reason == TooSlow && !isInBackground(ctx) {
			return answer, data, err
		}
		p.log.Warn("task ended its worker, and is tried again", "task", r.Task, "error", err)
		return p.try(ctx, r, limit, told, true)
	}
	return answer, data, err
}

func (p *Pool) try(ctx context.Context, r request, limit time.Duration, told func(Progress), isLarge bool) (reply, []byte, error) {
	if isInBackground(ctx) {
		if err := p.background.Acquire(ctx, 1); err != nil {
			return reply{}, nil, err
		}
		defer p.background.Release(1)
	}
	if isLarge {
		if err := p.large.Acquire(ctx, 1); err != nil {
			return reply{}, nil, err
		}
		defer p.large.Release(1)
	}
	if err := p.running.Acquire(ctx, 1); err != nil {
		return reply{}, nil, err
	}
	if p.life.Err() != nil {
		p.running.Release(1)
		return reply{}, nil, context.Canceled
	}
	p.tasks.Add(1)
	end := func() {
		p.running.Release(1)
		p.tasks.Done()
	}
	worker, err := p.take()
	if err != nil {
		end()
		if p.life.Err() != nil {
			return reply{}, nil, context.Canceled
		}
		return reply{}, nil, &problem.Error{
			Kind: problem.Conflict, Reason: unavailable, Cause: err,
			Sentence: message.Of("The computer has no room to read this just now. Close other programs and try again."),
		}
	}
	done := make(chan result, 1)
	go func() {
		defer end()
		done <- p.oversee(ctx, worker, r, limit, told, isLarge)
	}()
	select {
	case out := <-done:
		return out.answer, out.data, out.err
	case <-ctx.Done():
		return reply{}, nil, ctx.Err() // oversee ends the task
	}
}

type result struct {
	answer reply
	data   []byte
	err    error
}

// take gives an idle worker, or starts one.
func (p *Pool) take() (*process, error) {
	p.mutex.Lock()
	if n := len(p.idle); n > 0 {
		worker := p.idle[n-1]
		p.idle = p.idle[:n-1]
		p.mutex.Unlock()
		return worker, nil
	}
	p.mutex.Unlock()
	if !p.warm.Load() {
		p.first.Lock()
		defer p.first.Unlock()
	}
	worker, err := start(p.life, p.command)
	if err != nil && p.life.Err() == nil {
		worker, err = start(p.life, p.command) // it may have been ended by somebody else
	}
	p.warm.Store(p.warm.Load() || err == nil)
	return worker, err
}

// IsReady tells whether a worker was started: the first of an installation takes seconds.
func (p *Pool) IsReady() bool { return p.warm.Load() }

// Start starts the first worker, which compiles what all of them need, in the background.
func (p *Pool) Start() {
	p.tasks.Go(func() {
		worker, err := p.take()
		switch {
		case err == nil:
			p.keep(worker)
		case p.life.Err() == nil:
			p.log.Error("no worker could be started", "error", err)
		}
	})
}

// oversee has a worker do a task, and ends it where it does not keep within its bounds.
func (p *Pool) oversee(ctx context.Context, worker *process, r request, limit time.Duration, told func(Progress), isLarge bool) result {
	seen := &watch{over: make(chan struct{}), isLarge: isLarge}
	p.mutex.Lock()
	p.busy[worker] = seen
	p.mutex.Unlock()
	defer func() {
		p.mutex.Lock()
		delete(p.busy, worker)
		p.mutex.Unlock()
	}()
	deadline := time.NewTimer(limit)
	defer deadline.Stop()
	done := make(chan result, 1)
	go func() {
		answer, data, err := worker.do(r, func(progress Progress) {
			deadline.Reset(limit)
			told(progress)
		})
		done <- result{answer, data, err}
	}()
	look := time.NewTicker(watchEvery)
	defer look.Stop()
	cancelled := ctx.Done()
	var lastly <-chan time.Time
	for {
		select {
		case out := <-done:
			if out.err != nil {
				worker.kill()
				return result{err: broken(Broken, out.err, message.Of("cannot be read: it is damaged in a way that no reader was prepared for"))}
			}
			p.keep(worker)
			return out
		case <-deadline.C:
			worker.kill()
			return result{err: broken(TooSlow, nil, message.Of("takes more than %d s to read", int(limit.Seconds())))}
		case <-seen.over:
			worker.kill()
			return result{err: tooLarge()}
		case <-look.C:
			resident := residentBytes(worker.command.Process.Pid)
			if resident > totalMemory || (resident > mostMemory && !isLarge) {
				worker.kill()
				return result{err: tooLarge()}
			}
			p.note(seen, resident)
		case <-cancelled:
			cancelled, lastly = nil, time.After(cancelledFor)
		case <-lastly:
			worker.kill()
			return result{err: ctx.Err()}
		case <-p.life.Done():
			worker.kill()
			return result{err: context.Canceled}
		}
	}
}

func tooLarge() error {
	return broken(TooLarge, nil, message.Of("takes more memory to read than %d MB", totalMemory>>20))
}

func broken(reason problem.Reason, cause error, words message.Text) error {
	return &problem.Error{Kind: problem.Invalid, Reason: reason, Sentence: problem.This(words), Cause: cause}
}

// note keeps how much memory a worker takes. Where all together with the program take too much, those that
// have nothing to do are ended, and then the one that takes the most: not one whose task is large
// as long as others could make room.
func (p *Pool) note(seen *watch, resident int64) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	seen.resident = resident
	total := min(residentBytes(os.Getpid()), programShare)
	var most *watch
	for _, other := range p.busy {
		total += other.resident
		if most == nil || other.weight() > most.weight() {
			most = other
		}
	}
	if total+p.idleBytes() > totalMemory && len(p.idle) > 0 {
		for _, worker := range p.idle {
			p.tasks.Go(worker.kill)
		}
		p.idle = nil
	}
	if total > totalMemory && !most.isOver {
		most.isOver = true
		close(most.over)
	}
}

// idleBytes is how much memory the workers take that have nothing to do.
func (p *Pool) idleBytes() (total int64) {
	for _, worker := range p.idle {
		total += residentBytes(worker.command.Process.Pid)
	}
	return total
}

// weight orders workers by what is to be ended first.
func (w *watch) weight() int64 {
	switch {
	case w.isLarge:
		return smallMemory
	case w.resident < smallMemory:
		return w.resident / 2
	}
	return w.resident
}

// keep keeps a worker for the next task, unless it has grown or is not needed any more.
func (p *Pool) keep(worker *process) {
	if p.life.Err() != nil || residentBytes(worker.command.Process.Pid) > keptMemory || !p.addIdle(worker) {
		worker.kill()
	}
}

// addIdle adds a worker to those that have nothing to do, and tells whether it did: others were started where they
// were missing while these carried out a task together.
func (p *Pool) addIdle(worker *process) bool {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	delete(p.busy, worker)
	if int64(len(p.idle)+len(p.busy)) >= p.size {
		return false
	}
	p.idle = append(p.idle, worker)
	return true
}

// ScratchFile makes a file for workers to read or write. Its caller deletes it.
func (p *Pool) ScratchFile() (*os.File, error) {
	file, err := os.CreateTemp(p.scratch, "worker-*")
	if err != nil {
		return nil, fmt.Errorf("make a file for a worker: %w", err)
	}
	return file, nil
}

// MakeFile makes a file that workers can read, and tells how many bytes were written, by write. The
// caller removes it.
func (p *Pool) MakeFile(write func(io.Writer) (int64, error)) (path string, bytes int64, err error) {
	file, err := p.ScratchFile()
	if err != nil {
		return "", 0, err
	}
	bytes, err = write(file)
	if err := errors.Join(err, file.Close()); err != nil {
		return "", 0, errors.Join(fmt.Errorf("write a file for a worker: %w", err), os.Remove(file.Name()))
	}
	return file.Name(), bytes, nil
}

// Written copies to out what a task writes into a file.
func (p *Pool) Written(out io.Writer, do func(file string) error) (err error) {
	file, err := p.ScratchFile()
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, file.Close(), os.Remove(file.Name())) }()
	if err := do(file.Name()); err != nil {
		return err
	}
	if _, err := io.Copy(out, file); err != nil {
		return fmt.Errorf("read what a worker wrote: %w", err)
	}
	return nil
}
