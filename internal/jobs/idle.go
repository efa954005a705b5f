package jobs

import (
	"context"
	"sync"
	"time"
)

// idleFor is how long nobody must have waited for anything before background work goes
// on: whoever works with the program asks for one thing after another.
const idleFor = 150 * time.Millisecond

// idle tells when nobody waits for anything.
type idle struct {
	mutex   sync.Mutex
	waiting int           // pieces of work that somebody waits for
	ended   time.Time     // when the last of them ended
	free    chan struct{} // closed while there are none
}

func newIdle() *idle {
	free := make(chan struct{})
	close(free)
	return &idle{free: free}
}

// begin marks work that somebody waits for, until end is called.
func (i *idle) begin() (end func()) {
	i.mutex.Lock()
	defer i.mutex.Unlock()
	if i.waiting == 0 {
		i.free = make(chan struct{})
	}
	i.waiting++
	return sync.OnceFunc(func() {
		i.mutex.Lock()
		defer i.mutex.Unlock()
		i.waiting--
		i.ended = time.Now()
		if i.waiting == 0 {
			close(i.free)
		}
	})
}

// wait returns when nobody has waited for anything for a while, or with ctx's error.
func (i *idle) wait(ctx context.Context) error {
	for {
		free, rest := i.state()
		if rest == 0 {
			return ctx.Err()
		}
		select {
		case <-free:
		case <-ctx.Done():
			return ctx.Err()
		}
		if _, rest = i.state(); rest > 0 {
			if err := Sleep(ctx, rest); err != nil {
				return err
			}
		}
	}
}

// state gives a channel that is closed while nobody waits, and how much of the quiet time
// is left; none when it is over.
func (i *idle) state() (free <-chan struct{}, rest time.Duration) {
	i.mutex.Lock()
	defer i.mutex.Unlock()
	if i.waiting > 0 {
		return i.free, idleFor
	}
	return i.free, max(0, time.Until(i.ended.Add(idleFor)))
}

// Sleep waits for a while, or until ctx ends, whose error it returns then.
func Sleep(ctx context.Context, d time.Duration) error {
	timer := time.NewTimer(d)
	defer timer.Stop()
	select {
	case <-timer.C:
		return nil
	case <-ctx.Done():
		return ctx.Err()
	}
}
