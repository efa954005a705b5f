package shrink

import (
	"image"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
	"dorbin/internal/sampling"
)

// TestMeasuringFurtherFindsWhatMeasuringAtOnceFinds measures pages by few encodings, and then by all.
func TestMeasuringFurtherFindsWhatMeasuringAtOnceFinds(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	const bytes = 300_000
	part := letter(t, 3, true).SubImage(image.Rect(0, 0, 900, 700))
	for name, page := range map[string]struct {
		img image.Image
		dpi float64
	}{
		"text in colour": {raster.ToRGBA(part), 300}, "coarser": {raster.ToRGBA(part), 150}, "in grey": {raster.ToGray(part), 200},
		"a photograph": {scene(2), 200}, "black and white": {inkOf(part).Gray(), 300},
	} {
		few, written, err := Measure(page.img, page.dpi, bytes, LosslessOnly)
		require.NoError(t, err, name)
		var before CompressedPage
		for _, w := range written {
			if w.EncodingParams == few.Smaller(Auto).EncodingParams {
				packed, err := w.Pack()
				require.NoError(t, err, name)
				before, err = Unpack(packed)
				require.NoError(t, err, name)
			}
		}
		want, wantWritten, err := Measure(page.img, page.dpi, bytes, Fully)
		require.NoError(t, err, name)
		got, gotWritten, err := MeasureFurther(page.img, page.dpi, bytes, few, before)
		require.NoError(t, err, name)
		require.Len(t, got.Candidates, len(want.Candidates), name)
		assert.Equal(t, want.Kind, got.Kind, name)
		for i, v := range want.Candidates {
			assert.InDelta(t, v.Loss, got.Candidates[i].Loss, 1e-9, name)
			v.Loss = got.Candidates[i].Loss // but for rounding
			assert.Equal(t, v, got.Candidates[i], name)
		}
		require.Len(t, gotWritten, len(wantWritten), name)
		for i := range wantWritten {
			assert.Equal(t, wantWritten[i].Layered.Background.Data, gotWritten[i].Layered.Background.Data, name)
		}
	}
}
