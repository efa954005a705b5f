package export

import (
	"bytes"
	"image"

	"dorbin/core/bilevel"
	"dorbin/core/bilevel/jbig2"
	"dorbin/core/jpeg"
	"dorbin/core/pdf"
	"dorbin/core/raster"
)

// madeQuality keeps print sharp without the size of the original.
const madeQuality = 85

// encodeMade encodes pixels that were made for the export: black-and-white, also a
// piece of what came in so, as what keeps every pixel in the fewest bytes, the rest as
// JPEG.
func encodeMade(img image.Image, mode raster.ToneMode) (pdf.Image, error) {
	width, height := img.Bounds().Dx(), img.Bounds().Dy()
	out := pdf.Image{Width: width, Height: height, BitsPerComponent: 8, Colour: pdf.RGB, Filter: pdf.DCT}
	var data []byte
	gray, isGray := img.(*image.Gray)
	if isGray && (mode == raster.BlackWhite || bilevel.IsOneBit(gray)) {
		ink := bilevel.FromGray(gray)
		data = bilevel.EncodeG4(ink)
		out.BitsPerComponent, out.Colour, out.Filter, out.Group = 1, pdf.Gray, pdf.CCITT, -1
		if smaller := jbig2.EncodePage(ink); len(smaller) < len(data) && isSame(smaller, ink) {
			data, out.Filter, out.Group = smaller, pdf.JBIG2, 0
		}
	} else {
		if isGray {
			out.Colour = pdf.Gray
		}
		var err error
		if data, err = jpeg.Encode(img, madeQuality); err != nil {
			return out, err
		}
	}
	out.Data, out.Length = bytes.NewReader(data), int64(len(data))
	return out, nil
}

// isSame tells whether ink that was written is the same, bit for bit, when it is read
// again.
func isSame(written []byte, ink *bilevel.Bitmap) bool {
	again, err := jbig2.Decode(nil, written)
	return err == nil && bytes.Equal(again.Bits, ink.Bits)
}
