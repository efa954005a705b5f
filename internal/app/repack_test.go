package app_test

import (
	"bytes"
	"crypto/sha256"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/shrink"
	"dorbin/internal/export"
)

// pixelsIn are the pixels of the only JPEG in a PDF, as other programs read them, and its bytes.
func pixelsIn(t *testing.T, path string) (pixels [32]byte, size int) {
	t.Helper()
	folder := t.TempDir()
	require.NoError(t, exec.CommandContext(t.Context(), "pdfimages", "-j", path, filepath.Join(folder, "picture")).Run())
	found, err := filepath.Glob(filepath.Join(folder, "*.jpg"))
	require.NoError(t, err)
	require.Len(t, found, 1)
	data, err := os.ReadFile(found[0])
	require.NoError(t, err)
	return pixelsOfJPEG(t, data), len(data)
}

// pixelsOfJPEG is the hash of the pixels that libjpeg decodes.
func pixelsOfJPEG(t *testing.T, data []byte) [32]byte {
	t.Helper()
	command := exec.CommandContext(t.Context(), "djpeg", "-pnm")
	command.Stdin = bytes.NewReader(data)
	pixels, err := command.Output()
	require.NoError(t, err)
	return sha256.Sum256(pixels)
}

func TestJPEGsGoInWithTheSamePixelsInFewerBytes(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	scan := paper(t, "roof-1.jpg")
	add(t, a, id, "roof-1.jpg", scan)
	want := pixelsOfJPEG(t, scan)
	made := func(order export.ExportOrder) (string, export.Receipt) {
		started, err := a.Export.Start(t.Context(), id, order)
		require.NoError(t, err)
		e := waitFor(t, a, started.ID)
		require.Equal(t, "done", string(e.State), e.Problem)
		path, _, err := a.Export.File(t.Context(), started.ID)
		require.NoError(t, err)
		return path, *e.Receipt
	}
	path, receipt := made(export.ExportOrder{})
	pixels, before := pixelsIn(t, path)
	require.Equal(t, want, pixels)
	assert.Empty(t, receipt.Became)

	path, receipt = made(export.ExportOrder{Repack: true})
	pixels, after := pixelsIn(t, path)
	assert.Equal(t, want, pixels)
	assert.Less(t, after, before*95/100)
	require.Len(t, receipt.Became, 1)
	became := receipt.Became[0]
	assert.True(t, became.SamePixels)
	assert.Equal(t, []any{1, shrink.Original}, []any{became.Number, became.Encoding})
	assert.InDelta(t, before-after, became.Before-became.After, 1)

	path, receipt = made(export.ExportOrder{Repack: true, KeepPictures: true})
	pixels, kept := pixelsIn(t, path)
	assert.Equal(t, want, pixels)
	assert.GreaterOrEqual(t, kept, before)
	assert.Empty(t, receipt.Became, "who keeps the files of pictures keeps them as they are")

	page := get(t, a, id).Parts[0].Pages[0].ID
	_, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller, Overrides: map[packet.PageID]shrink.Override{page: shrink.KeepAsItIs}})
	require.NoError(t, err)
	path, receipt = made(export.ExportOrder{Size: planning.Smaller})
	pixels, smaller := pixelsIn(t, path)
	assert.Equal(t, want, pixels)
	assert.Equal(t, after, smaller, "a page that is kept while others are made smaller")
	require.Len(t, receipt.Became, 1)
	assert.True(t, receipt.Became[0].SamePixels)
}
