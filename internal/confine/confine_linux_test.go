package confine

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// limited is the first argument of this program where it is to become a shell with limits.
const limited = "limited"

func TestMain(m *testing.M) {
	if len(os.Args) == 4 && os.Args[1] == limited {
		err := Exec(os.Args[2], Limits{Memory: 1 << 30, Processor: time.Second, Yields: true}, "/bin/sh", "-c", os.Args[3])
		fmt.Fprintln(os.Stderr, err)
		os.Exit(3)
	}
	os.Exit(m.Run())
}

func shell(t *testing.T, does string) *exec.Cmd {
	t.Helper()
	return exec.CommandContext(t.Context(), os.Args[0], limited, t.TempDir(), does) //nolint:gosec // this test
}

func TestWhatComputesForeverIsKilled(t *testing.T) {
	command := shell(t, "while :; do :; done")
	require.Error(t, command.Run())
	used := command.ProcessState.UserTime() + command.ProcessState.SystemTime()
	assert.Greater(t, used, time.Second/2)
	assert.Equal(t, -1, command.ProcessState.ExitCode(), "a signal ended it")
}

func TestWaitingDoesNotCount(t *testing.T) {
	require.NoError(t, shell(t, "sleep 1.2").Run())
}

func TestWhatYieldsIsOfLowPriority(t *testing.T) {
	said, err := shell(t, "nice").Output()
	require.NoError(t, err)
	assert.Equal(t, fmt.Sprint(yielding), strings.TrimSpace(string(said)))
}

func TestWhatYieldsMoreAlreadyIsLeftAsItIs(t *testing.T) {
	command := shell(t, "nice")
	command.Path, command.Args = "/usr/bin/nice", append([]string{"nice", "-n", "15"}, command.Args...)
	said, err := command.Output()
	require.NoError(t, err)
	assert.Equal(t, "15", strings.TrimSpace(string(said)))
}

// TestACommandThatIsCancelledAsItStartsEnds cancels commands at every moment of their start, one of them before it.
func TestACommandThatIsCancelledAsItStartsEnds(t *testing.T) {
	hadNamespaces := hasNamespaces.Load()
	for i := range 40 {
		ctx, cancel := context.WithCancel(t.Context())
		if i == 0 {
			cancel()
		}
		command := exec.CommandContext(ctx, "sleep", "600")
		command.Cancel = func() error { return KillGroup(command) }
		time.AfterFunc(time.Duration(i)*50*time.Microsecond, cancel)
		err := Start(command)
		if err == nil {
			err = command.Wait()
		}
		require.Error(t, err)
	}
	require.Error(t, Start(exec.CommandContext(t.Context(), "/no/such/program")))
	assert.Equal(t, hadNamespaces, hasNamespaces.Load(), "that they did not start says nothing of namespaces")
}
