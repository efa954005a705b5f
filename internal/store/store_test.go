package store

import (
	"bytes"
	"errors"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
)

func open(t *testing.T, folder string) *Store {
	t.Helper()
	s, err := Open(folder)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	return s
}

func TestFilesAreNamedByTheirHash(t *testing.T) {
	s := open(t, t.TempDir())
	blob, err := s.Files.Save(strings.NewReader("abc"), 3)
	require.NoError(t, err)
	assert.Equal(t, "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad", blob.SHA256)
	assert.EqualValues(t, 3, blob.Bytes)
	again, err := s.Files.Save(strings.NewReader("abc"), 3)
	require.NoError(t, err)
	assert.Equal(t, blob, again)
	file, err := s.Files.Open(blob.SHA256)
	require.NoError(t, err)
	data, err := io.ReadAll(file)
	require.NoError(t, err)
	require.NoError(t, file.Close())
	assert.Equal(t, "abc", string(data))
	require.NoError(t, s.ReleaseFile(t.Context(), blob.SHA256))
	_, err = s.Files.Open(blob.SHA256)
	require.ErrorIs(t, err, ErrNotFound)
}

func TestNothingIsKeptOfWhatIsRefused(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	_, err := s.Files.Save(strings.NewReader("abcd"), 3)
	require.ErrorIs(t, err, ErrTooLarge)

	s.Files.free = func(string) (int64, error) { return reserveBytes, nil }
	_, err = s.Files.Save(strings.NewReader("abc"), 3)
	require.ErrorIs(t, err, ErrDiskFull)

	s.Files.free = freeBytes
	broken := errors.New("the connection broke off")
	_, err = s.Files.Save(io.MultiReader(bytes.NewReader(make([]byte, 1000)), failing{broken}), 1<<20)
	require.ErrorIs(t, err, broken)
	for _, pattern := range []string{"files/*/*", "incoming/*"} {
		left, err := filepath.Glob(filepath.Join(folder, pattern))
		require.NoError(t, err)
		assert.Empty(t, left)
	}
}

type failing struct{ err error }

func (f failing) Read([]byte) (int, error) { return 0, f.err }

func TestInterruptedWritesAreClearedAtTheStart(t *testing.T) {
	folder := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(folder, "incoming"), 0o700))
	left := filepath.Join(folder, "incoming", "new-1")
	require.NoError(t, os.WriteFile(left, []byte("half"), 0o600))
	open(t, folder)
	_, err := os.Stat(left)
	require.ErrorIs(t, err, os.ErrNotExist)
}

func TestTheLogBranchesWhereItWasUndone(t *testing.T) {
	s := open(t, t.TempDir())
	state := packet.New("zero")
	require.NoError(t, s.CreatePacket(t.Context(), "k", state))
	step := func(name string) {
		p, err := s.Packet(t.Context(), "k")
		require.NoError(t, err)
		next := p.State
		next.Name = name
		_, err = s.Append(t.Context(), p, next, Step{Words: name, Delta: packet.Diff(p.State, next)})
		require.NoError(t, err)
	}
	step("one")
	step("two")
	p, err := s.Packet(t.Context(), "k")
	require.NoError(t, err)
	taken, err := s.Step(t.Context(), "k", p.Cursor)
	require.NoError(t, err)
	assert.Equal(t, "two", taken.Words)
	back, err := taken.Delta.Back(p.State)
	require.NoError(t, err)
	require.NoError(t, s.MarkAt(t.Context(), p, back, p.Cursor-1))
	step("three")
	p, err = s.Packet(t.Context(), "k")
	require.NoError(t, err)
	assert.Equal(t, "three", p.State.Name)
	assert.Equal(t, "three", p.Undo)
	assert.Empty(t, p.Redo, "what was undone is forgotten")
	_, err = s.Step(t.Context(), "k", p.Cursor+1)
	require.ErrorIs(t, err, ErrNotFound)
}

func TestStaleStatesAreRefused(t *testing.T) {
	s := open(t, t.TempDir())
	require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("zero")))
	old, err := s.Packet(t.Context(), "k")
	require.NoError(t, err)
	_, err = s.Append(t.Context(), old, packet.New("one"), Step{Words: "one"})
	require.NoError(t, err)
	_, err = s.Append(t.Context(), old, packet.New("two"), Step{Words: "two"})
	require.ErrorIs(t, err, ErrStale)
	p, err := s.Packet(t.Context(), "k")
	require.NoError(t, err)
	assert.Equal(t, "one", p.State.Name)
}
