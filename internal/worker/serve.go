package worker

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os"

	"dorbin/internal/confine"
)

// Serve does the tasks that come in until there are no more, or the pool is gone. It is what a
// worker's process does.
func Serve(tasks *Tasks, in io.Reader, out io.Writer) error {
	if err := confine.Self(confine.Rights{Folders: tasks.Folders, Limits: confine.Limits{Memory: hardMemory}}); err != nil {
		return fmt.Errorf("confine the worker: %w", err)
	}
	requests := make(chan request)
	ended := make(chan error, 1)
	go func() { // also while a task is done, to notice that the pool is gone
		reader := bufio.NewReader(in)
		for {
			var r request
			if _, err := readFrame(reader, &r); err != nil {
				ended <- err
				return
			}
			requests <- r
		}
	}()
	prepared := make(chan error, 1)
	go func() {
		if tasks.Prepare == nil {
			prepared <- nil
			return
		}
		prepared <- tasks.Prepare()
	}()
	select {
	case err := <-prepared:
		if err != nil {
			return err
		}
	case err := <-ended:
		return endOf(err)
	}
	if err := writeFrame(out, reply{}, nil); err != nil {
		return err
	}
	for {
		select {
		case r := <-requests:
			answered := make(chan error, 1)
			go func() { answered <- tasks.answer(r, out) }()
			select {
			case err := <-answered:
				if err != nil {
					return err
				}
			case err := <-ended:
				return endOf(err) // the task is not wanted any more
			}
		case err := <-ended:
			return endOf(err)
		}
	}
}

func endOf(err error) error {
	if errors.Is(err, io.EOF) {
		return nil
	}
	return err
}

func (t *Tasks) answer(r request, out io.Writer) error {
	do, ok := t.byName[r.Task]
	if !ok {
		return writeFrame(out, reply{Error: fmt.Sprintf("there is no task %q", r.Task)}, nil)
	}
	tell := func(p Progress) error { return writeFrame(out, reply{Progress: &p}, nil) }
	answer, data := do(context.WithValue(context.Background(), progressKey{}, tell), r.Input)
	return writeFrame(out, answer, data)
}

// Into is how a task writes the file that it was told to write, which is there already.
func Into(path string, write func(io.Writer) error) error {
	file, err := os.OpenFile(path, os.O_WRONLY|os.O_TRUNC, 0)
	if err != nil {
		return fmt.Errorf("open the file to be written: %w", err)
	}
	out := bufio.NewWriterSize(file, 1<<20)
	return errors.Join(write(out), out.Flush(), file.Close())
}
