package app_test

import (
	"fmt"
	"image"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/internal/await"
	"dorbin/internal/checking"
	"dorbin/internal/export"
	"dorbin/internal/sampling"
)

// TestLongPictureBecomesSheetsOnWhichEachLineIsWhole cuts the picture of a long page where that is proposed, and
// counts lines on the pages that poppler draws.
func TestLongPictureBecomesSheetsOnWhichEachLineIsWhole(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	const lines = 120
	texts := make([]string, lines)
	for i := range texts {
		texts[i] = fmt.Sprintf("Line %d of what was said about the roof", i+1)
	}
	a := newApp(t)
	id := newPacket(t, a)
	picture := lineSheet(t, 700, 9000, texts...)
	add(t, a, id, "talk.png", pngFile(t, picture))

	var found checking.Findings
	await.Until(t, func() bool {
		var err error
		found, err = a.Checking.Findings(t.Context(), id)
		require.NoError(t, err)
		return found.Waiting == 0
	})
	require.NotEmpty(t, found.Findings)
	require.Equal(t, check.Long, found.Findings[0].Kind)
	page := found.Findings[0].Page
	breaks, err := a.Arrange.Breaks(t.Context(), id, []packet.PageID{page}, geometry.A4)
	require.NoError(t, err)
	require.Len(t, breaks, 1)
	require.GreaterOrEqual(t, len(breaks[0].Breaks), 9)

	apply(t, a, id, packet.Slice{Breaks: map[packet.PageID][]float64{page: breaks[0].Breaks}, Paper: geometry.A4})
	pieces := get(t, a, id).Parts[0].Pages
	require.Len(t, pieces, len(breaks[0].Breaks)+1)
	assert.InDelta(t, float64(picture.Rect.Dx())/(geometry.A4.Width/72), pieces[0].DPI, 1, "as many pixels an inch as it has on its sheet")
	again, err := a.Arrange.Breaks(t.Context(), id, []packet.PageID{pieces[0].ID}, geometry.A4)
	require.NoError(t, err)
	assert.Empty(t, again[0].Breaks, "a piece has room on its sheet")

	for _, order := range []export.ExportOrder{{}, {Size: planning.Smaller}} {
		path, done := exportSized(t, a, id, order)
		assert.Empty(t, done.Receipt.Differences)
		assert.Equal(t, []export.PageSizes{{Size: message.Plain("A4"), Pages: len(pieces)}}, done.Receipt.Sizes)
		seen := 0
		for n := range pieces {
			seen += linesOn(popplerAt(t, path, n+1, 100))
		}
		assert.Equal(t, lines, seen, "%q: each line is whole on one page", order.Size)
		rows := strings.Split(strings.TrimSpace(run(t, "pdfimages", "-list", "-l", "1", path)), "\n")[2:]
		widest := 0 // of the paper and its ink
		for _, row := range rows {
			width, err := strconv.Atoi(strings.Fields(row)[3])
			require.NoError(t, err)
			widest = max(widest, width)
		}
		assert.GreaterOrEqual(t, widest, picture.Rect.Dx(), "%q: it keeps its pixels", order.Size)
	}
}

// linesOn counts the runs of rows on which there is anything dark.
func linesOn(page *image.Gray) (lines int) {
	inside := false
	for y := range page.Rect.Dy() {
		dark := 0
		for _, level := range page.Pix[y*page.Stride:][:page.Rect.Dx()] {
			if level < 128 {
				dark++
			}
		}
		if dark > 0 && !inside {
			lines++
		}
		inside = dark > 0
	}
	return lines
}
