package shrink

import (
	"image"
	"image/draw"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
	"dorbin/internal/sampling"
)

// TestAPageIsRefinedFromWhatWasWritten refines a page whose ink was found before: what comes of it is what comes of the
// picture alone, also where that is enlarged for its ink, and where there are pictures among it.
func TestAPageIsRefinedFromWhatWasWritten(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	text := raster.ToRGBA(letter(t, 3, true).SubImage(image.Rect(0, 0, 900, 600)))
	illustrated := raster.ToRGBA(letter(t, 3, true).SubImage(image.Rect(0, 0, 900, 1200)))
	draw.Draw(illustrated, image.Rect(500, 600, 900, 1100), scene(2), image.Pt(300, 300), draw.Src)
	for name, page := range map[string]struct {
		img       image.Image
		dpi       float64
		room      int64
		isRefound bool
	}{
		"as fine as its ink": {text, 300, 8_000, false}, "coarser": {text, 150, 8_000, false}, "with a picture": {illustrated, 300, 40_000, true},
	} {
		written, err := Write(page.img, page.dpi, losslessEncodings[0])
		require.NoError(t, err)
		assert.Equal(t, page.isRefound, withInk(page.img, page.dpi, written.Layered) == nil, name)
		alone := written.Clone()
		require.NoError(t, Encode([]*CompressedPage{&alone}))
		v := Candidate{EncodingParams: written.EncodingParams, Bytes: int64(alone.Bytes())}
		want, err := RefineQuality(page.img, page.dpi, v, nil, page.room)
		require.NoError(t, err)
		require.NotNil(t, want.Page, name)
		got, err := RefineQuality(page.img, page.dpi, v, &written, page.room)
		require.NoError(t, err)
		assert.Equal(t, want, got, name)
		assert.LessOrEqual(t, got.Bytes, v.Bytes+page.room, name)
	}
}
