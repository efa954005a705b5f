package worker

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"time"

	"dorbin/internal/confine"
)

// startTime is how long a worker may take to be ready: the first one of an installation
// compiles PDFium.
const startTime = 3 * time.Minute

// process is a worker that runs.
type process struct {
	command *exec.Cmd
	in      io.WriteCloser
	out     *bufio.Reader
	pipes   []*os.File
	ended   chan struct{}
}

// start starts a worker and waits until it is ready.
func start(ctx context.Context, command []string) (*process, error) {
	theirIn, ourIn, err := os.Pipe()
	if err != nil {
		return nil, fmt.Errorf("start a worker: %w", err)
	}
	ourOut, theirOut, err := os.Pipe()
	if err != nil {
		return nil, errors.Join(fmt.Errorf("start a worker: %w", err), theirIn.Close(), ourIn.Close())
	}
	p := &process{
		command: exec.Command(command[0], command[1:]...), //nolint:gosec // the program itself
		in:      ourIn, out: bufio.NewReaderSize(ourOut, 1<<16), pipes: []*os.File{ourIn, ourOut}, ended: make(chan struct{}),
	}
	p.command.Stdin, p.command.Stdout, p.command.Stderr = theirIn, theirOut, os.Stderr
	p.command.Env = append(os.Environ(), "GOMAXPROCS=2", fmt.Sprintf("GOMEMLIMIT=%d", softMemory))
	err = confine.Start(p.command)
	err = errors.Join(err, theirIn.Close(), theirOut.Close())
	if err != nil {
		return nil, errors.Join(fmt.Errorf("start a worker: %w", err), ourIn.Close(), ourOut.Close())
	}
	go func() {
		_ = p.command.Wait() // how it ended is told by the end of its output
		close(p.ended)
	}()
	ready := make(chan error, 1)
	go func() {
		_, err := readFrame(p.out, &reply{})
		ready <- err
	}()
	timer := time.NewTimer(startTime)
	defer timer.Stop()
	select {
	case err = <-ready:
	case <-timer.C:
		err = fmt.Errorf("it is not ready after %v", startTime)
	case <-ctx.Done():
		err = ctx.Err()
	}
	if err != nil {
		p.kill()
		return nil, fmt.Errorf("start a worker: %w", err)
	}
	return p, nil
}

// kill ends the worker at once, and waits until it has ended.
func (p *process) kill() {
	_ = p.command.Process.Kill() // it may have ended already
	<-p.ended
	for _, pipe := range p.pipes {
		_ = pipe.Close() // nothing is lost
	}
}

// do sends a request and reads its answer. It calls told for what the task tells before.
func (p *process) do(r request, told func(Progress)) (answer reply, data []byte, err error) {
	if err := writeFrame(p.in, r, nil); err != nil {
		return answer, nil, err
	}
	for {
		answer = reply{}
		data, err = readFrame(p.out, &answer)
		if err != nil || answer.Progress == nil {
			return answer, data, err
		}
		told(*answer.Progress)
	}
}
