package store

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAFolderOfSomethingElseIsRefusedAndLeftAlone(t *testing.T) {
	for _, names := range [][]string{{"cache/thesis.odt"}, {"incoming/letter.txt"}, {"lock", "notes.txt"}, {"photo.jpg"}} {
		folder := t.TempDir()
		for _, name := range names {
			require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(folder, name)), 0o700))
			require.NoError(t, os.WriteFile(filepath.Join(folder, name), []byte("mine"), 0o600))
		}
		_, err := Open(folder)
		require.ErrorIs(t, err, ErrForeign, names)
		for _, name := range names {
			assert.FileExists(t, filepath.Join(folder, name))
		}
		entries, err := os.ReadDir(folder)
		require.NoError(t, err)
		assert.Len(t, entries, len(names), "nothing was added")
	}
	folder := t.TempDir()
	for range 2 {
		s, err := Open(folder)
		require.NoError(t, err)
		require.NoError(t, s.Close())
	}
}
