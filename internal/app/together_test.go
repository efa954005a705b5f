package app_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
	"dorbin/internal/sampling"
)

// TestScansInAFileEachShareTheirShapes makes pages in black and white smaller, each of which was scanned into a file of its
// own: together they take less than one by one, as their letters are the same.
func TestScansInAFileEachShareTheirShapes(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	together, alone := newPacket(t, a), int64(0)
	pages := scansIn(t, paper(t, "quotes-scan.tif"))
	for i, page := range pages {
		name, scan := fmt.Sprintf("quote %d.png", i+1), inBlackAndWhite(t, page)
		add(t, a, together, name, scan)
		packet := newPacket(t, a)
		add(t, a, packet, name, scan)
		_, made := exportLighter(t, a, packet)
		alone += made.Receipt.Bytes
	}
	document, made := exportLighter(t, a, together)
	assert.Less(t, float64(made.Receipt.Bytes), 0.9*float64(alone))
	assert.Len(t, strings.Split(strings.TrimSpace(run(t, "pdfimages", "-list", document)), "\n"), 2+len(pages))
}

// inBlackAndWhite is a picture as a scanner in black and white gives it, as a PNG.
func inBlackAndWhite(t *testing.T, page image.Image) []byte {
	t.Helper()
	levels := raster.ToGray(page)
	for i, level := range levels.Pix {
		levels.Pix[i] = 255 * (level >> 7)
	}
	bits := image.NewPaletted(levels.Rect, color.Palette{color.Black, color.White})
	draw.Draw(bits, bits.Rect, levels, levels.Rect.Min, draw.Src)
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, bits))
	return out.Bytes()
}
