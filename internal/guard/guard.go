package guard

import (
	"context"
	"fmt"
	"runtime"
	"runtime/debug"

	"golang.org/x/sync/errgroup"
)

// PanicError is a panic, as an error.
type PanicError struct {
	Value any
	Stack string
}

func (e *PanicError) Error() string { return fmt.Sprintf("panic: %v\n%s", e.Value, e.Stack) }

// Run gives what work returns, or its panic as a *PanicError.
func Run(work func() error) (err error) {
	defer func() {
		if value := recover(); value != nil {
			err = &PanicError{value, string(debug.Stack())}
		}
	}()
	return work()
}

// Each calls work for every index of items, on all cores at once, and gives the first error. A
// panic in one of the calls is a *PanicError. After the first error, or when ctx ends, no
// further call begins and the context of the others ends.
func Each[T any](ctx context.Context, items []T, work func(ctx context.Context, i int, item T) error) error {
	group, ctx := errgroup.WithContext(ctx)
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i, item := range items {
		group.Go(func() error {
			if err := ctx.Err(); err != nil {
				return err
			}
			return Run(func() error { return work(ctx, i, item) })
		})
	}
	return group.Wait()
}
