package raster

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	stdpng "image/png"
	"math"

	"dorbin/core/png"
)

// EncodeJPEG writes a picture of so many dots an inch, which its JFIF header tells
// (ITU-T T.871, 10.1). A grey picture gets one channel.
func EncodeJPEG(img image.Image, quality, dpi int) ([]byte, error) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: quality}); err != nil {
		return nil, fmt.Errorf("encode a JPEG: %w", err)
	}
	const start = 2 // the marker that begins the file
	header := []byte{0xFF, 0xE0, 0, 16, 'J', 'F', 'I', 'F', 0, 1, 1, 1, 0, 0, 0, 0, 0, 0}
	binary.BigEndian.PutUint16(header[12:], uint16(dpi))
	binary.BigEndian.PutUint16(header[14:], uint16(dpi))
	return insert(out.Bytes(), start, header), nil
}

const inchesPerMetre = 39.37007874

// EncodePNG writes a picture of so many dots an inch, which its chunk pHYs tells
// (W3C PNG, 11.3.4.3). One without levels between black and white gets one bit a pixel.
func EncodePNG(img image.Image, dpi int) ([]byte, error) {
	if gray, ok := img.(*image.Gray); ok {
		img = asTwoColours(gray)
	}
	var out bytes.Buffer
	if err := stdpng.Encode(&out, img); err != nil {
		return nil, fmt.Errorf("encode a PNG: %w", err)
	}
	const afterHeader = 8 + 4 + 4 + 13 + 4 // signature and the chunk IHDR
	perMetre := uint32(math.Round(float64(dpi) * inchesPerMetre))
	dots := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, perMetre), perMetre)
	dots = append(dots, 1) // the unit is the metre
	return insert(out.Bytes(), afterHeader, png.AppendChunk(nil, "pHYs", dots)), nil
}

func insert(data []byte, at int, what []byte) []byte {
	out := make([]byte, 0, len(data)+len(what))
	return append(append(append(out, data[:at]...), what...), data[at:]...)
}

// asTwoColours gives a grey picture with a palette of black and white where it has
// nothing else.
func asTwoColours(gray *image.Gray) image.Image {
	for _, v := range gray.Pix {
		if v != 0 && v != 255 {
			return gray
		}
	}
	out := image.NewPaletted(gray.Rect, color.Palette{color.Black, color.White})
	for y := gray.Rect.Min.Y; y < gray.Rect.Max.Y; y++ {
		for x := gray.Rect.Min.X; x < gray.Rect.Max.X; x++ {
			out.Pix[out.PixOffset(x, y)] = gray.Pix[gray.PixOffset(x, y)] & 1
		}
	}
	return out
}

// greyest is by how much the channels of a picture without colour differ at most.
const greyest = 12

// IsGrey tells whether a picture has no colour to speak of.
func IsGrey(img image.Image) bool {
	if _, ok := img.(*image.Gray); ok {
		return true
	}
	rgba := ToRGBA(img)
	for i := 0; i+3 < len(rgba.Pix); i += 4 {
		r, g, b := rgba.Pix[i], rgba.Pix[i+1], rgba.Pix[i+2]
		if max(r, g, b)-min(r, g, b) > greyest {
			return false
		}
	}
	return true
}
