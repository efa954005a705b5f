package demo

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/jpeg"
)

const scanQuality = 82

// grayTIFF writes a little-endian TIFF with a JPEG strip for each page (TIFF
// 6.0 with Adobe Technical Note 2).
func grayTIFF(pages []*image.Gray, dpi uint32) ([]byte, error) {
	out := bytes.NewBuffer([]byte("II*\x00\x00\x00\x00\x00"))
	link := 4 // where the offset of the next directory goes
	for _, page := range pages {
		strip := out.Len()
		if err := jpeg.Encode(out, page, &jpeg.Options{Quality: scanQuality}); err != nil {
			return nil, fmt.Errorf("write TIFF: %w", err)
		}
		length := out.Len() - strip
		resolution := pad(out)
		put(out, dpi, uint32(1))
		directory := pad(out)
		rows := [][4]uint32{
			{256, 4, 1, uint32(page.Rect.Dx())}, {257, 4, 1, uint32(page.Rect.Dy())},
			{258, 3, 1, 8}, {259, 3, 1, 7}, {262, 3, 1, 1},
			{273, 4, 1, uint32(strip)}, {277, 3, 1, 1}, {278, 4, 1, uint32(page.Rect.Dy())},
			{279, 4, 1, uint32(length)}, {282, 5, 1, uint32(resolution)}, {283, 5, 1, uint32(resolution)}, {296, 3, 1, 2},
		}
		put(out, uint16(len(rows)))
		for _, row := range rows {
			put(out, uint16(row[0]), uint16(row[1]), row[2], row[3])
		}
		put(out, uint32(0))
		binary.LittleEndian.PutUint32(out.Bytes()[link:], uint32(directory))
		link = out.Len() - 4
	}
	return out.Bytes(), nil
}

// pad aligns to a word, as directories and values must be, and returns the
// position.
func pad(out *bytes.Buffer) int {
	if out.Len()%2 == 1 {
		out.WriteByte(0)
	}
	return out.Len()
}

func put(out *bytes.Buffer, values ...any) {
	for _, v := range values {
		_ = binary.Write(out, binary.LittleEndian, v) // writing to memory does not fail
	}
}
