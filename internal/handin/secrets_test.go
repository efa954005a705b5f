package handin

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/requirements"
	"dorbin/internal/store"
)

func TestPasswordsAreSealed(t *testing.T) {
	folder := t.TempDir()
	db, err := store.Open(folder)
	require.NoError(t, err)
	keyFile := filepath.Join(t.TempDir(), "key")
	s := &secrets{store: db, keyFile: keyFile, once: map[string]string{}}
	place := placeOf(requirements.Delivery{By: requirements.ByWebDAV, Address: "https://files.example/in/", User: "ann"})
	assert.Equal(t, place, placeOf(requirements.Delivery{By: requirements.ByWebDAV, Address: "https://files.example/other", User: "ann"}))

	require.NoError(t, s.take(t.Context(), "d1", place, Order{Password: "once-only"}))
	got, err := s.of(t.Context(), "d1", place)
	require.NoError(t, err)
	assert.Equal(t, "once-only", got)
	s.forget("d1")
	got, err = s.of(t.Context(), "d1", place)
	require.NoError(t, err)
	assert.Empty(t, got)

	require.NoError(t, s.take(t.Context(), "d2", place, Order{Password: "swordfish-and-chips", Keep: true}))
	s.forget("d2")
	got, err = s.of(t.Context(), "d3", place)
	require.NoError(t, err)
	assert.Equal(t, "swordfish-and-chips", got)
	info, err := os.Stat(keyFile)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())

	sealed, err := db.SealedSecret(t.Context(), place)
	require.NoError(t, err)
	require.NoError(t, db.KeepSealedSecret(t.Context(), "https://other.example bob", sealed))
	_, err = s.of(t.Context(), "d3", "https://other.example bob")
	require.ErrorIs(t, err, errNotOpened, "what is sealed for one place is none for another")

	require.NoError(t, os.Remove(keyFile))
	_, err = s.of(t.Context(), "d3", place)
	require.ErrorIs(t, err, errNotOpened)
	require.NoError(t, os.WriteFile(keyFile, []byte("not a key"), 0o600))
	_, err = s.of(t.Context(), "d3", place)
	require.ErrorContains(t, err, "The key file holds no key")

	require.NoError(t, db.Close())
	err = filepath.WalkDir(folder, func(path string, entry os.DirEntry, err error) error {
		if err != nil || entry.IsDir() {
			return err
		}
		data, err := os.ReadFile(path) //nolint:gosec // of the test
		assert.NotContains(t, string(data), "swordfish", path)
		return err
	})
	require.NoError(t, err)
}
