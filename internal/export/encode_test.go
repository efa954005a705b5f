package export

import (
	"image"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/pdf"
	"dorbin/core/raster"
)

func TestBlackAndWhiteStaysSo(t *testing.T) {
	img := image.NewGray(image.Rect(0, 0, 40, 30))
	for i := range img.Pix {
		img.Pix[i] = uint8(i % 2 * 255) //nolint:gosec // 0 or 255
	}
	encoded, err := encodeMade(img, raster.AsItIs)
	require.NoError(t, err)
	assert.Equal(t, []any{pdf.JBIG2, 1}, []any{encoded.Filter, encoded.BitsPerComponent})
	img.Pix[7] = 128
	encoded, err = encodeMade(img, raster.AsItIs)
	require.NoError(t, err)
	assert.Equal(t, []any{pdf.DCT, 8}, []any{encoded.Filter, encoded.BitsPerComponent})
}
