package confine

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/landlock-lsm/go-landlock/landlock"
	landlocksys "github.com/landlock-lsm/go-landlock/landlock/syscall"
	"golang.org/x/sys/unix"
)

// Self takes from this process, and from those that it starts, what is not among the rights. Files
// and connections are taken by Landlock as far as the kernel has it (landlock(7)).
func Self(r Rights) error {
	if err := r.Limits.apply(); err != nil {
		return err
	}
	if err := unix.Setrlimit(unix.RLIMIT_CORE, &unix.Rlimit{}); err != nil {
		return fmt.Errorf("have no dumps of memory: %w", err)
	}
	if err := unix.Prctl(unix.PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0); err != nil {
		return fmt.Errorf("take privileges: %w", err)
	}
	rules := landlock.V5.BestEffort()
	if r.Folders != nil {
		read, write := landlock.RODirs(r.Folders.Read...), landlock.RWDirs(r.Folders.Write...)
		if err := rules.RestrictPaths(read.IgnoreIfMissing(), write.IgnoreIfMissing(), devices.IgnoreIfMissing(), sockets.IgnoreIfMissing()); err != nil {
			return fmt.Errorf("take files: %w", err)
		}
	}
	if err := rules.RestrictNet(); err != nil {
		return fmt.Errorf("take the network: %w", err)
	}
	return nil
}

// apply gives this process its limits (setrlimit(2), setpriority(2)).
func (l Limits) apply() error {
	if l.Memory > 0 {
		limit := &unix.Rlimit{Cur: l.Memory, Max: l.Memory}
		if err := unix.Setrlimit(unix.RLIMIT_DATA, limit); err != nil {
			return fmt.Errorf("bound the memory: %w", err)
		}
	}
	if seconds := uint64(l.Processor / time.Second); seconds > 0 {
		if err := unix.Setrlimit(unix.RLIMIT_CPU, &unix.Rlimit{Cur: seconds, Max: seconds}); err != nil {
			return fmt.Errorf("bound the processor's time: %w", err)
		}
	}
	if l.Yields {
		if err := yield(); err != nil {
			return fmt.Errorf("leave the processor to others: %w", err)
		}
	}
	return nil
}

// yield leaves the processor to others, as far as that is not done already: to yield less takes privileges.
func yield() error {
	const usual = 20 // what the kernel gives for the usual priority, and less for what yields (getpriority(2))
	now, err := unix.Getpriority(unix.PRIO_PROCESS, 0)
	if err != nil || usual-now >= yielding {
		return err
	}
	return unix.Setpriority(unix.PRIO_PROCESS, 0, yielding)
}

// yielding is the priority of what yields: it gets about a tenth of a processor that somebody else
// wants. At the lowest it would stand still on a busy machine.
const yielding = 10

// devices are of nobody.
var devices = landlock.RWFiles("/dev/null", "/dev/zero", "/dev/full", "/dev/random", "/dev/urandom")

// sockets may be made, such as by LibreOffice, where no file can be read.
var sockets = landlock.PathAccess(landlocksys.AccessFSMakeSock|landlocksys.AccessFSRemoveFile, "/tmp", "/var/tmp")

// hasNamespaces tells whether the system lets a program start others in namespaces of their own;
// some do not.
var hasNamespaces atomic.Bool

func init() { hasNamespaces.Store(true) }

// Start starts a command in a namespace in which there is no network (namespaces(7)), where the
// system allows that. It has a process group of its own, so that a signal of the terminal does not
// reach it, and ends with the program where that is killed.
func Start(command *exec.Cmd) error {
	attributes := syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGKILL}
	fresh := *command // a command is started once
	isApart := hasNamespaces.Load()
	if isApart {
		apart := attributes
		apart.Cloneflags = syscall.CLONE_NEWUSER | syscall.CLONE_NEWNET
		apart.UidMappings = []syscall.SysProcIDMap{{ContainerID: os.Getuid(), HostID: os.Getuid(), Size: 1}}
		apart.GidMappings = []syscall.SysProcIDMap{{ContainerID: os.Getgid(), HostID: os.Getgid(), Size: 1}}
		command.SysProcAttr = &apart
		if err := command.Start(); err == nil {
			return nil
		}
		*command = fresh
	}
	command.SysProcAttr = &attributes
	err := command.Start()
	if isApart && err == nil {
		hasNamespaces.Store(false) // it was for them that it did not start
	}
	return err
}

// KillGroup kills a command that Start started, with all that it started itself.
func KillGroup(command *exec.Cmd) error { return syscall.Kill(-command.Process.Pid, syscall.SIGKILL) }

// systemFolders are what programs of the system are made of, and nobody's own.
var systemFolders = []string{"/usr", "/lib", "/lib32", "/lib64", "/bin", "/sbin", "/opt", "/etc", "/var/lib", "/var/cache", "/var/spool/libreoffice", "/proc", "/sys"}

// Exec becomes another program, by its path, that can read the system's own files and those that
// were installed with it, and use a folder and so much of the machine.
func Exec(folder string, limits Limits, program string, args ...string) error {
	installed, err := filepath.EvalSymlinks(program)
	if err != nil {
		return fmt.Errorf("find %s: %w", program, err)
	}
	read := append([]string{filepath.Dir(filepath.Dir(installed))}, systemFolders...) // beside its own folder of programs
	rights := Rights{Limits: limits, Folders: &Folders{Read: read, Write: []string{folder}}}
	runtime.LockOSThread() // priorities are of threads: it is this one that becomes the program
	if err := Self(rights); err != nil {
		return err
	}
	if err := syscall.Exec(program, append([]string{program}, args...), os.Environ()); err != nil { //nolint:gosec // its caller names it
		return fmt.Errorf("start %s: %w", program, err)
	}
	return nil
}
