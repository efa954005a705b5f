package worker

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"sync"
	"time"

	"dorbin/core/problem"
	"dorbin/internal/confine"
	"dorbin/internal/guard"
)

// Func is a kind of task: what goes in and comes out, as JSON.
type Func[In, Out any] struct {
	Name  string
	Limit time.Duration // how long it may take, from its beginning or from when it told how far it is
	// Known are errors that its caller tells from others by errors.Is.
	Known []error
}

type request struct {
	Task  string          `json:"task"`
	Input json.RawMessage `json:"input"`
}

type reply struct {
	Output  json.RawMessage `json:"output,omitempty"`
	Problem *problem.Error  `json:"problem,omitempty"`
	Error   string          `json:"error,omitempty"`
	Known   int             `json:"known,omitempty"` // index in the Func's, from 1
	// Progress is set in frames before the answer.
	Progress *Progress `json:"progress,omitempty"`
}

// Progress is how far a task is.
type Progress struct {
	Step int `json:"step"` // that it is at, from 0
	Done int `json:"done"` // of what it counts
}

// Do has a worker of the pool do a task, and gives what comes out of it with the data beside
// it. Its error is what the task failed with: it matches a known error of the Func or is a
// *problem.Error, also where the worker had to be ended.
func (f Func[In, Out]) Do(ctx context.Context, pool *Pool, in In) (out Out, data []byte, err error) {
	return f.DoTelling(ctx, pool, in, func(Progress) {})
}

// DoTelling is Do for a task that tells how far it is. Where it is tried again it begins anew.
// Told is not called any more once DoTelling has returned.
func (f Func[In, Out]) DoTelling(ctx context.Context, pool *Pool, in In, told func(Progress)) (out Out, data []byte, err error) {
	input, err := json.Marshal(in)
	if err != nil {
		return out, nil, fmt.Errorf("encode task %s: %w", f.Name, err)
	}
	var mutex sync.Mutex
	isOver := false
	defer func() {
		mutex.Lock()
		defer mutex.Unlock()
		isOver = true
	}()
	answer, data, err := pool.do(ctx, request{f.Name, input}, f.Limit, func(p Progress) {
		mutex.Lock()
		defer mutex.Unlock()
		if !isOver {
			told(p)
		}
	})
	switch {
	case err != nil:
		return out, nil, err
	case answer.Problem != nil:
		answer.Problem.Cause = errors.New(answer.Error)
		return out, nil, answer.Problem
	case answer.Known > 0 && answer.Known <= len(f.Known):
		return out, nil, &knownError{f.Known[answer.Known-1], answer.Error}
	case answer.Error != "":
		return out, nil, errors.New(answer.Error)
	}
	if err := json.Unmarshal(answer.Output, &out); err != nil {
		return out, nil, fmt.Errorf("decode what task %s gave: %w", f.Name, err)
	}
	return out, data, nil
}

// DoIdle has all workers of the pool that have nothing to do carry out a task, such as to give
// back what they hold. What comes out of it is not looked at.
func (f Func[In, Out]) DoIdle(pool *Pool, in In) error {
	input, err := json.Marshal(in)
	if err != nil {
		return fmt.Errorf("encode task %s: %w", f.Name, err)
	}
	pool.doIdle(request{f.Name, input}, f.Limit)
	return nil
}

// knownError is an error of a task that its caller tells from others.
type knownError struct {
	known error
	text  string
}

func (e *knownError) Error() string { return e.text }
func (e *knownError) Unwrap() error { return e.known }

// Tasks are the kinds of tasks that a worker does.
type Tasks struct {
	// Folders are all that the worker may open files in, where the system can see to that;
	// nil is any.
	Folders *confine.Folders
	// Prepare is called before the worker is ready, such as to compile code; it may be nil.
	Prepare func() error
	byName  map[string]func(ctx context.Context, input json.RawMessage) (reply, []byte)
}

type progressKey struct{}

// Tell tells how far a task is, by the context that it was given.
func Tell(ctx context.Context, p Progress) error {
	tell, ok := ctx.Value(progressKey{}).(func(Progress) error)
	if !ok {
		return nil // nobody wants to know
	}
	return tell(p)
}

// Handle has workers do tasks of a kind.
func Handle[In, Out any](tasks *Tasks, f Func[In, Out], do func(context.Context, In) (Out, []byte, error)) {
	if tasks.byName == nil {
		tasks.byName = map[string]func(context.Context, json.RawMessage) (reply, []byte){}
	}
	tasks.byName[f.Name] = func(ctx context.Context, input json.RawMessage) (reply, []byte) {
		var out Out
		var data []byte
		err := guard.Run(func() (err error) {
			var in In
			if err := json.Unmarshal(input, &in); err != nil {
				return fmt.Errorf("decode task %s: %w", f.Name, err)
			}
			out, data, err = do(ctx, in)
			return err
		})
		if err != nil {
			return failed(err, f.Known), nil
		}
		output, err := json.Marshal(out)
		if err != nil {
			return failed(fmt.Errorf("encode what task %s gave: %w", f.Name, err), nil), nil
		}
		return reply{Output: output}, data
	}
}

func failed(err error, known []error) reply {
	answer := reply{Error: err.Error()}
	errors.As(err, &answer.Problem)
	for i, k := range known {
		if errors.Is(err, k) {
			answer.Known = i + 1
			break
		}
	}
	return answer
}
