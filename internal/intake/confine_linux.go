package intake

import (
	"bytes"
	"os"
	"os/exec"
	"syscall"
)

// runConfined runs a command in a network namespace of its own, in which there
// is no network (namespaces(7)). Where the system does not allow that, the
// command runs without: its profile and environment keep it from fetching too.
func runConfined(command *exec.Cmd) (said string, err error) {
	plain := *command
	command.SysProcAttr = &syscall.SysProcAttr{
		Cloneflags:  syscall.CLONE_NEWUSER | syscall.CLONE_NEWNET,
		UidMappings: []syscall.SysProcIDMap{{ContainerID: os.Getuid(), HostID: os.Getuid(), Size: 1}},
		GidMappings: []syscall.SysProcIDMap{{ContainerID: os.Getgid(), HostID: os.Getgid(), Size: 1}},
		Setpgid:     true,
	}
	out, started, err := runGroup(command)
	if started {
		return out, err
	}
	plain.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	out, _, err = runGroup(&plain)
	return out, err
}

// runGroup runs a command and, when it is given up, kills all that it started.
func runGroup(command *exec.Cmd) (said string, started bool, err error) {
	var out bytes.Buffer
	command.Stdout, command.Stderr = &out, &out
	command.Cancel = func() error { return syscall.Kill(-command.Process.Pid, syscall.SIGKILL) }
	if err := command.Start(); err != nil {
		return "", false, err
	}
	err = command.Wait()
	return out.String(), true, err
}
