package worker

import (
	"context"
	"errors"
	"net"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/sys/unix"

	"dorbin/internal/confine"
)

// trespass is what a worker was able to do that it should not be.
type trespass struct{ Read, Write, Own, Network bool }

var intrude = Func[[2]string, trespass]{Name: "intrude", Limit: time.Minute}

const keptWorker = "kept worker"

func init() {
	roles[keptWorker] = func() {
		tasks := Tasks{Folders: &confine.Folders{Read: []string{os.Args[2]}}}
		handleIntrusion(&tasks)
		_ = Serve(&tasks, os.Stdin, os.Stdout) // whose end its pool notices
	}
}

func handleIntrusion(tasks *Tasks) {
	Handle(tasks, intrude, func(_ context.Context, paths [2]string) (t trespass, _ []byte, _ error) {
		_, err := os.ReadFile(paths[0])
		t.Read = err == nil
		t.Write = os.WriteFile(filepath.Join(filepath.Dir(paths[0]), "written"), nil, 0o600) == nil
		_, err = os.ReadFile(paths[1])
		t.Own = err == nil
		connection, err := net.DialTimeout("tcp", "127.0.0.1:1", time.Second)
		if err == nil {
			_ = connection.Close() // it should not have been made
		}
		t.Network = err == nil || errors.Is(err, unix.ECONNREFUSED) // somebody answered
		return t, nil, nil
	})
}

// TestAWorkerIsKeptToItsFolders has one try to open what it was not given.
func TestAWorkerIsKeptToItsFolders(t *testing.T) {
	if abi, _, failed := unix.Syscall(unix.SYS_LANDLOCK_CREATE_RULESET, 0, 0, 1); failed != 0 || abi < 4 {
		t.Skip("this kernel does not have Landlock as far as needed")
	}
	own, others := t.TempDir(), t.TempDir()
	mine, theirs := filepath.Join(own, "a"), filepath.Join(others, "b")
	for _, path := range []string{mine, theirs} {
		require.NoError(t, os.WriteFile(path, []byte("text"), 0o600))
	}
	p := NewPool(discardLog, t.TempDir(), os.Args[0], keptWorker, own)
	t.Cleanup(p.Close)
	did, _, err := intrude.Do(t.Context(), p, [2]string{theirs, mine})
	require.NoError(t, err)
	assert.Equal(t, trespass{Own: true}, did)
}
