package worker

import (
	"bufio"
	"fmt"
	"os"
	"os/exec"
	"strconv"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/require"

	"dorbin/internal/await"
)

// TestWorkersEndWithAProgramThatIsKilled kills a program whose worker turns in circles.
func TestWorkersEndWithAProgramThatIsKilled(t *testing.T) {
	program := exec.Command(os.Args[0], "program", t.TempDir())
	out, err := program.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, program.Start())
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	worker, err := strconv.Atoi(strings.TrimSpace(line))
	require.NoError(t, err)
	require.NoError(t, syscall.Kill(worker, 0), "it is there")
	require.NoError(t, program.Process.Kill())
	_ = program.Wait() // it was killed
	await.Until(t, func() bool { return hasEnded(worker) })
}

// hasEnded tells whether a process is gone, or waits for nothing but to be forgotten.
func hasEnded(pid int) bool {
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	if err != nil {
		return true
	}
	_, state, _ := strings.Cut(string(text), ") ")
	return strings.HasPrefix(state, "Z")
}
