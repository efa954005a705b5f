package app_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/planning"
	"dorbin/core/shrink"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/intake"
	"dorbin/internal/ocr"
	"dorbin/internal/sampling"
)

// TestWordsOfWhatWasMade makes two documents, stops the application before their words
// are compared, and finds them compared a while after it is started again.
func TestWordsOfWhatWasMade(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	folder := t.TempDir()
	first := openReading(t, folder, intake.DefaultLimits, ocr.Reader{})
	id := newPacket(t, first)
	scan := paper(t, "quotes-scan.tif")
	add(t, first, id, "one.tif", scan)
	add(t, first, id, "other.tif", append(slices.Clone(scan), 0))
	_, e := exportSized(t, first, id, export.ExportOrder{Make: export.PDFPerPart, Size: planning.Smaller, Range: "1, 8"})
	require.NoError(t, first.Close())
	require.Len(t, e.Receipt.Files, 2)
	require.Len(t, e.Receipt.Became, 2)
	require.Nil(t, e.Receipt.Became[1].Words)

	a := openReading(t, folder, intake.DefaultLimits, ocr.Reader{})
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	await.Until(t, func() bool {
		again, err := a.Export.Get(t.Context(), e.ID)
		require.NoError(t, err)
		e = again
		return e.Receipt.Became[0].Words != nil && e.Receipt.Became[1].Words != nil
	})
	for _, page := range e.Receipt.Became {
		assert.Equal(t, shrink.Layers, page.Encoding)
		assert.Greater(t, *page.Words, 0.97, "of page %d", page.Number)
		assert.LessOrEqual(t, *page.Words, 1.0)
	}
	assert.Empty(t, e.Receipt.Differences, "nothing else of the receipt is lost")
	assert.Len(t, e.Receipt.Files, 2)
}
