package worker

import (
	"fmt"
	"os"
	"strconv"
	"strings"
	"syscall"

	"golang.org/x/sys/unix"
)

// hardMemory is what the system lets a worker have of memory that it can write, in bytes: more
// than what the pool watches, which takes a moment.
const hardMemory = totalMemory + 1<<30

// confine takes from the process what a worker does not need.
func confine() error {
	limit := &unix.Rlimit{Cur: hardMemory, Max: hardMemory}
	if err := unix.Setrlimit(unix.RLIMIT_DATA, limit); err != nil {
		return fmt.Errorf("bound the worker's memory: %w", err)
	}
	if err := unix.Setrlimit(unix.RLIMIT_CORE, &unix.Rlimit{}); err != nil {
		return fmt.Errorf("have no dumps of the worker: %w", err)
	}
	if err := unix.Prctl(unix.PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0); err != nil {
		return fmt.Errorf("take the worker's privileges: %w", err)
	}
	return nil
}

// confined has a signal of the terminal go to the program alone, which ends its workers, and
// has them end with the program where that is killed: code of a sandbox that turns in circles
// would not notice.
func confined() *syscall.SysProcAttr {
	return &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGKILL}
}

// residentBytes is how much memory a process takes (proc(5), statm); 0 where it has ended.
func residentBytes(pid int) int64 {
	text, err := os.ReadFile("/proc/" + strconv.Itoa(pid) + "/statm")
	if err != nil {
		return 0
	}
	fields := strings.Fields(string(text))
	if len(fields) < 2 {
		return 0
	}
	pages, _ := strconv.ParseInt(fields[1], 10, 64) // a number, as the system writes it
	return pages * int64(os.Getpagesize())
}
