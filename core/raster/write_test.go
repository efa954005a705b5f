package raster

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWrittenPicturesTellTheirResolution(t *testing.T) {
	colour := image.NewRGBA(image.Rect(0, 0, 40, 30))
	draw.Draw(colour, colour.Rect, image.NewUniform(color.RGBA{200, 60, 40, 255}), image.Point{}, draw.Src)
	gray := image.NewGray(colour.Rect)
	draw.Draw(gray, image.Rect(5, 5, 20, 20), image.White, image.Point{}, draw.Src)

	data, err := EncodeJPEG(colour, 85, 300)
	require.NoError(t, err)
	img, err := jpeg.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, colour.Rect, img.Bounds())
	assert.Equal(t, []byte{1, 1, 44, 1, 44}, data[13:18], "300 dots an inch, across and down")

	data, err = EncodePNG(gray, 300)
	require.NoError(t, err)
	config, err := png.DecodeConfig(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Len(t, config.ColorModel, 2, "a bit a pixel")
	img, err = png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, color.GrayModel.Convert(color.White), color.GrayModel.Convert(img.At(10, 10)))
	assert.Equal(t, color.GrayModel.Convert(color.Black), color.GrayModel.Convert(img.At(30, 10)))
	at := bytes.Index(data, []byte("pHYs"))
	require.Positive(t, at)
	assert.Equal(t, []byte{0, 0, 0x2e, 0x23, 0, 0, 0x2e, 0x23, 1}, data[at+4:at+13], "11811 dots a metre")
	gray.Pix[0] = 100
	data, err = EncodePNG(gray, 300)
	require.NoError(t, err)
	img, err = png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, color.Gray{Y: 100}, img.At(0, 0), "levels are kept")
}
