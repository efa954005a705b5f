package app_test

import (
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/planning"
	"dorbin/internal/export"
	"dorbin/internal/intake"
	"dorbin/internal/sampling"
)

// TestPagesAreTakenAsTheyWereMeasured exports a scan and a PDF of one. What was written when they were measured is in
// the document, unless it was damaged since. Without it, after a restart, the document is the same.
func TestPagesAreTakenAsTheyWereMeasured(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	other := newPacket(t, a)
	add(t, a, other, "quote.tif", scans(t, 4))
	scan, _ := exportAsItIs(t, a, other)
	document, err := os.ReadFile(scan)
	require.NoError(t, err)
	id := newPacket(t, a)
	add(t, a, id, "quote.tif", scans(t, 0))
	add(t, a, id, "scan.pdf", document)
	_, err = a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller})
	require.NoError(t, err)
	planned(t, a, id)
	kept := keptPages(t, folder)
	require.Len(t, kept, 2, "one of each page, in layers")
	path, _ := exportLighter(t, a, id)
	want := picturesOf(t, path)

	exchange(t, kept[0], kept[1])
	path, _ = exportLighter(t, a, id)
	taken := picturesOf(t, path)
	assert.ElementsMatch(t, want, taken)
	assert.NotEqual(t, want, taken, "each is what was kept of the other")
	require.NoError(t, os.WriteFile(kept[0], []byte("damaged"), 0o600))
	require.NoError(t, os.Truncate(kept[1], 5000))
	path, _ = exportLighter(t, a, id)
	assert.Equal(t, want, picturesOf(t, path))

	require.NoError(t, a.Close())
	a = openApp(t, folder, intake.DefaultLimits)
	defer func() { require.NoError(t, a.Close()) }()
	assert.Empty(t, keptPages(t, folder), "what another version may write otherwise")
	path, _ = exportLighter(t, a, id)
	assert.Equal(t, want, picturesOf(t, path))
}

func keptPages(t *testing.T, folder string) []string {
	t.Helper()
	paths, err := filepath.Glob(filepath.Join(folder, "cache", "derived", "*", "*", export.WrittenPrefix+"*"))
	require.NoError(t, err)
	slices.Sort(paths)
	return paths
}

func exchange(t *testing.T, one, other string) {
	t.Helper()
	aside := one + ".aside"
	require.NoError(t, os.Rename(one, aside))
	require.NoError(t, os.Rename(other, one))
	require.NoError(t, os.Rename(aside, other))
}
