//go:build !linux

package confine

import (
	"errors"
	"os"
	"os/exec"
)

// Self does nothing here.
func Self(Rights) error { return nil }

// Start starts a command.
func Start(command *exec.Cmd) error { return command.Start() }

// KillGroup kills a command.
func KillGroup(command *exec.Cmd) error { return command.Process.Kill() }

// Exec runs another program, by its path, and ends with it.
func Exec(_ string, _ Limits, program string, args ...string) error {
	command := exec.Command(program, args...) //nolint:gosec // its caller names it
	command.Stdin, command.Stdout, command.Stderr = os.Stdin, os.Stdout, os.Stderr
	err := command.Run()
	var ended *exec.ExitError
	if errors.As(err, &ended) {
		os.Exit(ended.ExitCode())
	}
	return err
}
