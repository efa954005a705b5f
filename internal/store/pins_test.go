package store

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
)

func (s *Store) has(sum string) bool {
	_, err := os.Stat(s.FilePath(sum))
	return err == nil
}

func save(t *testing.T, s *Store, text string) *Pin {
	t.Helper()
	pin, err := s.Save(strings.NewReader(text), 1<<20)
	require.NoError(t, err)
	return pin
}

func addSource(t *testing.T, s *Store, packetID, id, sum string) {
	t.Helper()
	_, err := s.AddSource(t.Context(), Source{ID: id, Packet: packetID, Blob: sum, Working: sum, State: SourceReady})
	require.NoError(t, err)
}

func TestFilesAreNamedByTheirHash(t *testing.T) {
	s := open(t, t.TempDir())
	pin := save(t, s, "abc")
	assert.Equal(t, "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad", pin.SHA256)
	assert.EqualValues(t, 3, pin.Bytes)
	again := save(t, s, "abc")
	assert.Equal(t, pin.File, again.File)
	file, err := s.OpenFile(pin.SHA256)
	require.NoError(t, err)
	data, err := io.ReadAll(file)
	require.NoError(t, err)
	require.NoError(t, file.Close())
	assert.Equal(t, "abc", string(data))
	pin.Release()
	pin.Release()
	assert.True(t, s.has(pin.SHA256), "somebody else has pinned it")
	again.Release()
	assert.False(t, s.has(pin.SHA256))
	left, err := filepath.Glob(filepath.Join(s.folder, "files", "*"))
	require.NoError(t, err)
	assert.Empty(t, left, "not even a folder")
}

func TestNothingIsKeptOfWhatIsRefused(t *testing.T) {
	s := open(t, t.TempDir())
	_, err := s.Save(strings.NewReader("abcd"), 3)
	require.ErrorIs(t, err, ErrTooLarge)

	s.files.free = func(string) (int64, error) { return reserveBytes, nil }
	_, err = s.Save(strings.NewReader("abc"), 3)
	require.ErrorIs(t, err, ErrDiskFull)

	s.files.free = freeBytes
	broken := errors.New("the connection broke off")
	_, err = s.Save(io.MultiReader(bytes.NewReader(make([]byte, 1000)), failing{broken}), 1<<20)
	require.ErrorIs(t, err, broken)
	for _, pattern := range []string{"files/*/*", "incoming/*"} {
		left, err := filepath.Glob(filepath.Join(s.folder, pattern))
		require.NoError(t, err)
		assert.Empty(t, left)
	}
}

type failing struct{ err error }

func (f failing) Read([]byte) (int, error) { return 0, f.err }

func TestAFileStaysForAsLongAsARowOwnsIt(t *testing.T) {
	s := open(t, t.TempDir())
	for _, id := range []string{"k", "l"} {
		require.NoError(t, s.CreatePacket(t.Context(), id, packet.New(id)))
	}
	pin := save(t, s, "shared by two packets")
	addSource(t, s, "k", "a", pin.SHA256)
	addSource(t, s, "l", "b", pin.SHA256)
	pin.Release()
	require.NoError(t, s.DeletePacket(t.Context(), "k"))
	assert.True(t, s.has(pin.SHA256))
	require.NoError(t, os.MkdirAll(s.DerivedFolder(pin.SHA256), 0o700))
	require.NoError(t, s.DeletePacket(t.Context(), "l"))
	assert.False(t, s.has(pin.SHA256))
	assert.NoDirExists(t, s.DerivedFolder(pin.SHA256), "what was made of it is gone as well")
}

func TestACopyThatPagesAreNoLongerReadFromIsRemoved(t *testing.T) {
	s := open(t, t.TempDir())
	require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("k")))
	blob, first, second := save(t, s, "as it came"), save(t, s, "a copy"), save(t, s, "a better copy")
	source := Source{ID: "a", Packet: "k", Blob: blob.SHA256, Working: first.SHA256, State: SourceReady}
	source, err := s.AddSource(t.Context(), source)
	require.NoError(t, err)
	for _, pin := range []*Pin{blob, first} {
		pin.Release()
	}
	source.Working = second.SHA256
	require.NoError(t, s.UpdateSource(t.Context(), source))
	second.Release()
	assert.Equal(t, []bool{true, false, true}, []bool{s.has(blob.SHA256), s.has(first.SHA256), s.has(second.SHA256)})
}

// TestTheSameBytesAddedWhileTheirOwnerIsDeleted has packets with the same file deleted and
// made at once: whoever has the row has the file.
func TestTheSameBytesAddedWhileTheirOwnerIsDeleted(t *testing.T) {
	s := open(t, t.TempDir())
	const rounds = 60
	var everybody sync.WaitGroup
	for i := range 4 {
		everybody.Go(func() {
			for n := range rounds {
				id := fmt.Sprintf("k%d-%d", i, n)
				assert.NoError(t, s.CreatePacket(t.Context(), id, packet.New(id)))
				pin, err := s.Save(strings.NewReader("the same bytes"), 1<<20)
				if !assert.NoError(t, err) {
					return
				}
				_, err = s.AddSource(t.Context(), Source{ID: "f" + id, Packet: id, Blob: pin.SHA256, Working: pin.SHA256})
				assert.NoError(t, err)
				pin.Release()
				assert.True(t, s.has(pin.SHA256), "the row is there, and so is its file")
				assert.NoError(t, s.DeletePacket(t.Context(), id))
			}
		})
	}
	everybody.Wait()
	left, err := filepath.Glob(filepath.Join(s.folder, "files", "*", "*"))
	require.NoError(t, err)
	assert.Empty(t, left)
}

func TestASourceIsNotAddedToAPacketThatIsGone(t *testing.T) {
	s := open(t, t.TempDir())
	pin := save(t, s, "abc")
	_, err := s.AddSource(t.Context(), Source{ID: "a", Packet: "gone", Blob: pin.SHA256, Working: pin.SHA256})
	require.ErrorIs(t, err, ErrNotFound)
	pin.Release()
	assert.False(t, s.has(pin.SHA256))
}

func TestSweepRemovesWhatNobodyOwns(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("k")))
	owned, pinned, left := save(t, s, "owned"), save(t, s, "pinned"), save(t, s, "left by a power cut")
	addSource(t, s, "k", "a", owned.SHA256)
	owned.Release()
	s.pins.remove(left.SHA256) // as if the program had ended
	derived := s.DerivedFolder(strings.Repeat("ab", 32))
	require.NoError(t, os.MkdirAll(derived, 0o700))
	require.NoError(t, s.Sweep(t.Context()))
	assert.Equal(t, []bool{true, true, false}, []bool{s.has(owned.SHA256), s.has(pinned.SHA256), s.has(left.SHA256)})
	assert.NoDirExists(t, derived)
}

func TestReleasedFilesAreCollectedAfterAStop(t *testing.T) {
	s := open(t, t.TempDir())
	pin := save(t, s, "abc")
	s.pins.remove(pin.SHA256)
	require.NoError(t, release(t.Context(), s.db, pin.SHA256)) // and the program ended here
	require.NoError(t, s.Sweep(t.Context()))
	assert.False(t, s.has(pin.SHA256))
	left, err := queryAll(t.Context(), s.db, scanString, `SELECT sha256 FROM released`)
	require.NoError(t, err)
	assert.Empty(t, left)
}

func TestReleaseDoesNotDependOnTheRequest(t *testing.T) {
	s := open(t, t.TempDir())
	ctx, cancel := context.WithCancel(t.Context())
	pin, err := s.Save(strings.NewReader("abc"), 100)
	require.NoError(t, err)
	cancel()
	_, err = s.AddSource(ctx, Source{ID: "a", Packet: "k", Blob: pin.SHA256})
	require.Error(t, err)
	pin.Release()
	assert.False(t, s.has(pin.SHA256))
}

func TestTheSecondStartOnAFolderSaysSo(t *testing.T) {
	folder := t.TempDir()
	first, err := Open(folder)
	require.NoError(t, err)
	_, err = Open(folder)
	require.ErrorIs(t, err, ErrInUse)
	require.NoError(t, first.Close())
	second, err := Open(folder)
	require.NoError(t, err)
	require.NoError(t, second.Close())
}
