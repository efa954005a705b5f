package jobs_test

import (
	"context"
	"errors"
	"io"
	"log/slog"
	"slices"
	"strings"
	"sync"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/internal/await"
	"dorbin/internal/jobs"
	"dorbin/internal/store"
)

var quiet = slog.New(slog.NewTextHandler(io.Discard, nil))

// open opens a data folder with a packet in it.
func open(t *testing.T, folder string) *store.Store {
	t.Helper()
	s, err := store.Open(folder)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	if _, err := s.Packet(t.Context(), "k"); err != nil {
		require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("k")))
	}
	return s
}

func newRunner(queue jobs.Queue, kinds ...jobs.Kind) *jobs.Runner {
	r := jobs.New(queue, quiet)
	for _, kind := range kinds {
		r.Handle(kind)
	}
	return r
}

func start(t *testing.T, queue jobs.Queue, kinds ...jobs.Kind) *jobs.Runner {
	t.Helper()
	r := newRunner(queue, kinds...)
	require.NoError(t, r.Start(context.WithoutCancel(t.Context())))
	t.Cleanup(r.Close)
	return r
}

func job(key string) jobs.Job { return jobs.Job{Kind: "test", Key: key} }

// journal is what happened, in order.
type journal struct {
	mutex sync.Mutex
	lines []string
}

func (j *journal) add(words ...string) {
	j.mutex.Lock()
	defer j.mutex.Unlock()
	j.lines = append(j.lines, strings.Join(words, " "))
}

func (j *journal) all() []string {
	j.mutex.Lock()
	defer j.mutex.Unlock()
	return slices.Clone(j.lines)
}

// becomes waits until the journal is these lines.
func (j *journal) becomes(t *testing.T, lines ...string) {
	t.Helper()
	await.Until(t, func() bool { return slices.Equal(lines, j.all()) }, "not these lines: ", lines)
}

// isEmpty waits until no job of the kind "test" is left.
func isEmpty(t *testing.T, s *store.Store, key string) {
	t.Helper()
	await.Until(t, func() bool {
		waits, err := s.JobWaits(t.Context(), job(key))
		return err == nil && !waits
	})
}

func TestJobsAreDoneInOrder(t *testing.T) {
	var done journal
	s := open(t, t.TempDir())
	r := start(t, s, jobs.Kind{Name: "test", Do: func(_ context.Context, task *jobs.Task) error {
		done.add(task.Packet, task.Key)
		return nil
	}})
	require.NoError(t, r.Add(t.Context(), "k", job("a"), job("b")))
	require.NoError(t, r.Add(t.Context(), "k", job("c")))
	done.becomes(t, "k a", "k b", "k c")
}

func TestAJobThatPanicsIsGivenUpAndTheOthersGoOn(t *testing.T) {
	var done journal
	folder := t.TempDir()
	kind := jobs.Kind{
		Name: "test",
		Do: func(ctx context.Context, task *jobs.Task) error {
			done.add("do", task.Key)
			if task.Key == "bad" {
				if err := task.Note(ctx, "page 7"); err != nil {
					return err
				}
				panic("out of cheese")
			}
			return nil
		},
		GiveUp: func(_ context.Context, failed jobs.Taken, cause error) error {
			assert.Contains(t, cause.Error(), "out of cheese")
			assert.Contains(t, cause.Error(), "runner_test.go", "the log says where")
			done.add("give up", failed.Key, failed.Progress)
			return nil
		},
	}
	s, err := store.Open(folder)
	require.NoError(t, err)
	require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("k")))
	r := newRunner(s, kind)
	require.NoError(t, r.Start(t.Context()))
	require.NoError(t, r.Add(t.Context(), "k", job("bad"), job("good")))
	done.becomes(t, "do bad", "do good", "do bad", "do bad", "give up bad page 7")
	r.Close()
	require.NoError(t, s.Close())

	s = open(t, folder)
	r = start(t, s, kind)
	require.NoError(t, r.Add(t.Context(), "k", job("good")))
	done.becomes(t, "do bad", "do good", "do bad", "do bad", "give up bad page 7", "do good")
}

// TestAJobThatEndsTheProgramIsNotBegunAFourthTime takes a job without ending it, as a
// program does that is killed meanwhile.
func TestAJobThatEndsTheProgramIsNotBegunAFourthTime(t *testing.T) {
	folder := t.TempDir()
	for i := range jobs.MaxAttempts {
		s, err := store.Open(folder)
		require.NoError(t, err)
		if i == 0 {
			require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("k")))
			require.NoError(t, s.AddJobs(t.Context(), "k", job("a")))
		}
		require.NoError(t, s.RecoverJobs(t.Context()))
		taken, err := s.TakeJob(t.Context(), "test")
		require.NoError(t, err)
		assert.Equal(t, i+1, taken.Attempt)
		require.NoError(t, s.NoteJob(t.Context(), taken.Job, "page 3"))
		require.NoError(t, s.Close())
	}
	var done journal
	start(t, open(t, folder), jobs.Kind{
		Name: "test",
		Do: func(_ context.Context, task *jobs.Task) error {
			done.add("do", task.Key)
			return nil
		},
		GiveUp: func(_ context.Context, failed jobs.Taken, cause error) error {
			assert.ErrorIs(t, cause, jobs.ErrInterrupted)
			done.add("give up", failed.Key, failed.Progress)
			return nil
		},
	})
	done.becomes(t, "give up a page 3")
}

func TestAJobGoesOnAfterTheProgramEnded(t *testing.T) {
	var done journal
	folder := t.TempDir()
	begun := make(chan struct{})
	kind := func(stop bool) jobs.Kind {
		return jobs.Kind{Name: "test", Do: func(ctx context.Context, task *jobs.Task) error {
			if stop {
				close(begun)
				<-ctx.Done()
				return ctx.Err()
			}
			done.add(task.Key)
			assert.Equal(t, 1, task.Attempt, "being interrupted by the end of the program is no failure")
			return nil
		}}
	}
	s, err := store.Open(folder)
	require.NoError(t, err)
	require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("k")))
	r := newRunner(s, kind(true))
	require.NoError(t, r.Start(t.Context()))
	require.NoError(t, r.Add(t.Context(), "k", job("a")))
	<-begun
	r.Close()
	require.NoError(t, s.Close())
	start(t, open(t, folder), kind(false))
	done.becomes(t, "a")
}

// TestCancelling cancels a job that waits, one that runs, one that panics because it is cancelled, one that is done
// nevertheless, and one that nobody asked for: of the first three, and of no other, their kind is told.
func TestCancelling(t *testing.T) {
	var done, told journal
	s := open(t, t.TempDir())
	begun := make(chan struct{})
	r := start(t, s, jobs.Kind{
		Name: "test",
		Do: func(ctx context.Context, task *jobs.Task) error {
			done.add(task.Key)
			if task.Key == "last" {
				return nil
			}
			begun <- struct{}{}
			<-ctx.Done()
			assert.True(t, jobs.IsCancelled(ctx))
			switch task.Key {
			case "panicking":
				panic("it was cancelled")
			case "finishing":
				return nil
			}
			return ctx.Err()
		},
		Cancelled: func(ctx context.Context, cancelled jobs.Taken) error {
			told.add(cancelled.Key)
			waits, err := s.JobWaits(ctx, cancelled.Job)
			assert.NoError(t, err)
			assert.Equal(t, cancelled.Key == "waiting", waits, "%s: a program that ends now does not forget it", cancelled.Key)
			return ctx.Err() // it can still be recorded
		},
	})
	require.NoError(t, r.Add(t.Context(), "k", job("running"), job("panicking"), job("finishing"), job("waiting"), job("last")))
	<-begun
	require.NoError(t, r.Cancel(t.Context(), job("waiting")))
	told.becomes(t, "waiting")
	require.NoError(t, r.Cancel(t.Context(), job("running")))
	<-begun
	require.NoError(t, r.Cancel(t.Context(), job("panicking")))
	<-begun
	require.NoError(t, r.Cancel(t.Context(), job("finishing")))
	done.becomes(t, "running", "panicking", "finishing", "last")
	for _, key := range []string{"running", "panicking", "finishing"} {
		isEmpty(t, s, key)
	}
	require.NoError(t, r.Cancel(t.Context(), job("never asked for")))
	require.NoError(t, r.Cancel(t.Context(), jobs.Job{Kind: "of another program", Key: "a"}))
	told.becomes(t, "waiting", "running", "panicking")
}

// TestCancelAgainstStart cancels jobs while they are taken: each is either cancelled before it begins or has its context
// ended, its kind is told of each, and none is left.
func TestCancelAgainstStart(t *testing.T) {
	s := open(t, t.TempDir())
	var told, want journal
	r := start(t, s, jobs.Kind{
		Name: "test",
		Do: func(ctx context.Context, _ *jobs.Task) error {
			<-ctx.Done()
			return ctx.Err()
		},
		Cancelled: func(_ context.Context, cancelled jobs.Taken) error {
			told.add(cancelled.Key)
			return nil
		},
	})
	for range 100 {
		require.NoError(t, r.Add(t.Context(), "k", job("a")))
		require.NoError(t, r.Cancel(t.Context(), job("a")))
		isEmpty(t, s, "a")
		want.add("a")
		told.becomes(t, want.all()...)
	}
}

func TestAJobAskedForWhileItRunsIsDoneOnceMore(t *testing.T) {
	var done journal
	s := open(t, t.TempDir())
	begun, goOn := make(chan struct{}, 10), make(chan struct{})
	r := start(t, s, jobs.Kind{Name: "test", Do: func(_ context.Context, task *jobs.Task) error {
		begun <- struct{}{}
		<-goOn
		done.add(task.Key)
		return nil
	}})
	require.NoError(t, r.Add(t.Context(), "k", job("a")))
	<-begun
	for range 3 {
		require.NoError(t, r.Add(t.Context(), "k", job("a")))
	}
	close(goOn)
	done.becomes(t, "a", "a")
	isEmpty(t, s, "a")
}

func TestAJobThatFailsIsTriedThreeTimes(t *testing.T) {
	var done journal
	s := open(t, t.TempDir())
	r := start(t, s, jobs.Kind{
		Name: "test",
		Do: func(context.Context, *jobs.Task) error {
			done.add("do")
			return errors.New("the disk is on fire")
		},
		GiveUp: func(_ context.Context, _ jobs.Taken, cause error) error {
			done.add(cause.Error())
			return nil
		},
	})
	require.NoError(t, r.Add(t.Context(), "k", job("a")))
	done.becomes(t, "do", "do", "do", "the disk is on fire")
	require.NoError(t, r.Add(t.Context(), "k", job("a")))
	done.becomes(t, "do", "do", "do", "the disk is on fire", "do", "do", "do", "the disk is on fire")
}

func TestJobsGoWithTheirPacket(t *testing.T) {
	s := open(t, t.TempDir())
	begun := make(chan struct{})
	var done journal
	r := start(t, s, jobs.Kind{Name: "test", Do: func(ctx context.Context, task *jobs.Task) error {
		close(begun)
		<-ctx.Done()
		done.add(task.Key)
		return ctx.Err()
	}})
	require.NoError(t, r.Add(t.Context(), "k", job("a"), job("b")))
	<-begun
	require.NoError(t, s.AddJobs(t.Context(), "k", jobs.Job{Kind: "other", Key: "c"}))
	r.CancelPacket(t.Context(), "k")
	assert.Contains(t, done.all(), "a", "it has ended by now")
	require.NoError(t, s.DeletePacket(t.Context(), "k"))
	_, err := s.TakeJob(t.Context(), "other")
	require.ErrorIs(t, err, jobs.ErrNone)
	require.ErrorIs(t, r.Add(t.Context(), "k", job("a")), store.ErrNotFound)
}

func TestAPanicOutsideAJobEndsNothing(t *testing.T) {
	r := start(t, open(t, t.TempDir()))
	ended := make(chan struct{})
	r.Go(t.Context(), "scan", func(context.Context) {
		defer close(ended)
		panic("paper jam")
	})
	<-ended
}

// noJobs is a queue without jobs.
type noJobs struct{ jobs.Queue }

func (noJobs) RecoverJobs(context.Context) error { return nil }

func (noJobs) TakeJob(context.Context, string) (jobs.Taken, error) { return jobs.Taken{}, jobs.ErrNone }

func (noJobs) NoteJob(context.Context, jobs.Job, string) error { return nil }

// oneJob is a queue with one job, which is never removed.
type oneJob struct {
	noJobs
	once sync.Once
}

func (q *oneJob) TakeJob(context.Context, string) (t jobs.Taken, err error) {
	err = jobs.ErrNone
	q.once.Do(func() { t, err = jobs.Taken{Job: job("a"), Attempt: 1}, nil })
	return t, err
}

func (q *oneJob) FinishJob(context.Context, jobs.Job) error { return nil }

func TestBackgroundWorkWaitsForWhatSomebodyWaitsFor(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		var done journal
		ready := make(chan struct{})
		r := newRunner(&oneJob{}, jobs.Kind{Name: "test", Do: func(ctx context.Context, task *jobs.Task) error {
			<-ready
			if err := task.WaitIdle(ctx); err != nil {
				return err
			}
			done.add("background")
			return nil
		}})
		require.NoError(t, r.Start(t.Context()))
		first, second := r.Foreground(), r.Foreground()
		close(ready)
		time.Sleep(time.Hour)
		first()
		first() // once is enough
		time.Sleep(time.Hour)
		assert.Empty(t, done.all())
		second()
		synctest.Wait()
		assert.Empty(t, done.all(), "whoever works asks for one thing after another")
		time.Sleep(time.Second)
		assert.Equal(t, []string{"background"}, done.all())
		r.Close()
	})
}

func TestSeveralJobsOfAKindAtOnce(t *testing.T) {
	s := open(t, t.TempDir())
	var waiting sync.WaitGroup
	waiting.Add(3)
	var ended journal
	r := start(t, s, jobs.Kind{Name: "test", AtOnce: 3, Do: func(_ context.Context, task *jobs.Task) error {
		waiting.Done()
		waiting.Wait() // which never ends if they are done one after another
		ended.add(task.Key)
		return nil
	}})
	require.NoError(t, r.Add(t.Context(), "k", job("a"), job("b"), job("c")))
	await.Until(t, func() bool { return len(ended.all()) == 3 })
	assert.ElementsMatch(t, []string{"a", "b", "c"}, ended.all())
}
