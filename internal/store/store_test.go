package store

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/message"
	"dorbin/core/packet"
)

func open(t *testing.T, folder string) *Store {
	t.Helper()
	s, err := Open(folder)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	return s
}

func TestInterruptedWritesAreClearedAtTheStart(t *testing.T) {
	folder := t.TempDir()
	s, err := Open(folder)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	left := filepath.Join(folder, "incoming", "new-1")
	require.NoError(t, os.WriteFile(left, []byte("half"), 0o600))
	open(t, folder)
	_, err = os.Stat(left)
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
		_, err = s.Append(t.Context(), p, next, Step{Words: message.Plain(name), Delta: packet.Diff(p.State, next)})
		require.NoError(t, err)
	}
	step("one")
	step("two")
	p, err := s.Packet(t.Context(), "k")
	require.NoError(t, err)
	taken, err := s.Step(t.Context(), "k", p.Cursor)
	require.NoError(t, err)
	assert.Equal(t, "two", taken.Words.English)
	back, err := taken.Delta.Back(p.State)
	require.NoError(t, err)
	require.NoError(t, s.MarkAt(t.Context(), p, back, p.Cursor-1))
	step("three")
	p, err = s.Packet(t.Context(), "k")
	require.NoError(t, err)
	assert.Equal(t, "three", p.State.Name)
	assert.Equal(t, "three", p.Undo.English)
	assert.Empty(t, p.Redo, "what was undone is forgotten")
	_, err = s.Step(t.Context(), "k", p.Cursor+1)
	require.ErrorIs(t, err, ErrNotFound)
}

func TestStaleStatesAreRefused(t *testing.T) {
	s := open(t, t.TempDir())
	require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("zero")))
	old, err := s.Packet(t.Context(), "k")
	require.NoError(t, err)
	_, err = s.Append(t.Context(), old, packet.New("one"), Step{Words: message.Plain("one")})
	require.NoError(t, err)
	_, err = s.Append(t.Context(), old, packet.New("two"), Step{Words: message.Plain("two")})
	require.ErrorIs(t, err, ErrStale)
	p, err := s.Packet(t.Context(), "k")
	require.NoError(t, err)
	assert.Equal(t, "one", p.State.Name)
}
