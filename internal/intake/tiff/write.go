package tiff

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"image"
	"io"
	"math"

	"github.com/pdfcpu/pdfcpu/pkg/filter"

	"dorbin/core/bilevel"
	"dorbin/core/raster"
)

// Encoded is a page to be written, in one strip.
type Encoded struct {
	Data          []byte
	Width, Height int // pixels
	Components    int // 1 is grey, 3 is colour
	BitsPerSample int
	Compression   Compression
	Photometric   Photometric
	DPI           int
	differences   bool // samples are written as what they differ from the one before
}

// EncodeJPEG makes a page of a whole JPEG, which is kept byte for byte.
func EncodeJPEG(data []byte, width, height, components, dpi int) Encoded {
	e := Encoded{
		Data: data, Width: width, Height: height, Components: components, BitsPerSample: 8,
		Compression: JPEG, Photometric: BlackIsZero, DPI: dpi,
	}
	if components == 3 {
		e.Photometric = YCbCr
	}
	return e
}

// EncodeG4 makes a page of ink by ITU-T T.6.
func EncodeG4(ink *bilevel.Bitmap, dpi int) Encoded {
	return Encoded{
		Data: bilevel.EncodeG4(ink), Width: ink.Width, Height: ink.Height, Components: 1, BitsPerSample: 1,
		Compression: Group4, Photometric: WhiteIsZero, DPI: dpi,
	}
}

// EncodeLZW makes a page of a picture that keeps every pixel (sections 13 and 14).
func EncodeLZW(img image.Image, dpi int) (Encoded, error) {
	e := Encoded{
		Width: img.Bounds().Dx(), Height: img.Bounds().Dy(), Components: 3, BitsPerSample: 8,
		Compression: LZW, Photometric: RGB, DPI: dpi, differences: true,
	}
	var samples []byte
	if gray, ok := img.(*image.Gray); ok {
		e.Components, e.Photometric = 1, BlackIsZero
		for y := gray.Rect.Min.Y; y < gray.Rect.Max.Y; y++ {
			samples = append(samples, gray.Pix[gray.PixOffset(gray.Rect.Min.X, y):][:e.Width]...)
		}
	} else {
		rgba := raster.ToRGBA(img)
		samples = make([]byte, 0, 3*e.Width*e.Height)
		for i := 0; i+3 < len(rgba.Pix); i += 4 {
			samples = append(samples, rgba.Pix[i:i+3]...)
		}
	}
	toDifferences(samples, e.Width*e.Components, e.Components)
	// PDF's LZW, as it is by default, is TIFF's: codes grow one early, high bits first.
	lzw, err := filter.NewFilter(filter.LZW, map[string]int{"EarlyChange": 1})
	if err != nil {
		return e, fmt.Errorf("encode a TIFF: %w", err)
	}
	encoded, err := lzw.Encode(bytes.NewReader(samples))
	if err != nil {
		return e, fmt.Errorf("encode a TIFF: %w", err)
	}
	e.Data, err = io.ReadAll(encoded)
	return e, err
}

// toDifferences writes samples as what they differ from the one to the left (section 14).
func toDifferences(samples []byte, row, components int) {
	for start := 0; start+row <= len(samples); start += row {
		line := samples[start : start+row]
		for i := row - 1; i >= components; i-- {
			line[i] -= line[i-components]
		}
	}
}

// ErrTooLarge is returned for pages that no TIFF has offsets for.
var ErrTooLarge = errors.New("the pages are too large for a TIFF")

// Write writes pages as one little-endian TIFF with a strip for each (TIFF 6.0, with
// Adobe Technical Note 2 on JPEG). Next gives the pages one by one; it is asked count
// times.
func Write(w io.Writer, count int, next func(i int) (Encoded, error)) error {
	at := int64(8)
	if _, err := w.Write([]byte("II*\x00\x08\x00\x00\x00")); err != nil {
		return fmt.Errorf("write TIFF: %w", err)
	}
	for i := range count {
		page, err := next(i)
		if err != nil {
			return err
		}
		block := page.directory(at, i == count-1)
		at += int64(len(block) + len(page.Data) + len(page.Data)%2)
		if at > math.MaxUint32 {
			return ErrTooLarge
		}
		if len(page.Data)%2 == 1 { // directories begin on a word
			page.Data = append(bytes.Clone(page.Data), 0)
		}
		for _, part := range [][]byte{block, page.Data} {
			if _, err := w.Write(part); err != nil {
				return fmt.Errorf("write TIFF: %w", err)
			}
		}
	}
	return nil
}

// directory is the page's directory and its values, which lie before its data
// at the offset at.
func (e Encoded) directory(at int64, last bool) []byte {
	rows := [][3]uint32{ // tag, type with count, value
		{256, 4, uint32(e.Width)}, {257, 4, uint32(e.Height)}, {258, 3, uint32(e.BitsPerSample)}, {259, 3, uint32(e.Compression)},
		{262, 3, uint32(e.Photometric)}, {273, 4, 0}, {277, 3, uint32(e.Components)}, {278, 4, uint32(e.Height)},
		{279, 4, uint32(len(e.Data))}, {282, 5, 0}, {283, 5, 0}, {296, 3, 2},
	}
	if e.differences {
		rows = append(rows, [3]uint32{317, 3, 2})
	}
	if e.Photometric == YCbCr {
		rows = append(rows, [3]uint32{530, 3, jpegSubsampling(e.Data)})
	}
	length := 2 + 12*len(rows) + 4
	resolution := at + int64(length)
	bits := resolution + 8
	data := bits + 6 + 2
	block := binary.LittleEndian.AppendUint16(nil, uint16(len(rows)))
	for _, row := range rows {
		count, value := uint32(1), row[2]
		switch {
		case row[0] == 258 && e.Components == 3:
			count, value = 3, uint32(bits)
		case row[0] == 273:
			value = uint32(data)
		case row[0] == 282 || row[0] == 283:
			value = uint32(resolution)
		case row[0] == 530:
			count = 2
		}
		block = binary.LittleEndian.AppendUint16(block, uint16(row[0]))
		block = binary.LittleEndian.AppendUint16(block, uint16(row[1]))
		block = binary.LittleEndian.AppendUint32(block, count)
		block = binary.LittleEndian.AppendUint32(block, value)
	}
	next := uint32(0)
	if !last {
		next = uint32(data + int64(len(e.Data)+len(e.Data)%2))
	}
	block = binary.LittleEndian.AppendUint32(block, next)
	block = binary.LittleEndian.AppendUint32(block, uint32(e.DPI))
	block = binary.LittleEndian.AppendUint32(block, 1)
	return append(block, 8, 0, 8, 0, 8, 0, 0, 0)
}

// jpegSubsampling is the value of the tag YCbCrSubSampling for a JPEG: how much
// more often its first component is sampled, across and down (ITU-T T.81,
// B.2.2).
func jpegSubsampling(data []byte) uint32 {
	for at := 2; at+18 < len(data) && data[at] == 0xFF; {
		if marker := data[at+1]; marker >= 0xC0 && marker <= 0xC2 {
			sampling := data[at+11]
			return uint32(sampling>>4) | uint32(sampling&15)<<16
		}
		at += 2 + int(binary.BigEndian.Uint16(data[at+2:]))
	}
	return 2 | 2<<16
}
