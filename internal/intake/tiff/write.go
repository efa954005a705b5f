package tiff

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"
)

// JPEGPage is a page to be written: a whole JPEG, which is kept byte for byte.
type JPEGPage struct {
	Data          []byte
	Width, Height int // pixels
	Components    int // 1 is grey, 3 is colour as JPEG has it
	DPI           int
}

// ErrTooLarge is returned for pages that no TIFF has offsets for.
var ErrTooLarge = errors.New("the pages are too large for a TIFF")

// WriteJPEGs writes pages as one little-endian TIFF with a strip for each (TIFF
// 6.0 with Adobe Technical Note 2 on JPEG). Next gives the pages one by one; it
// is asked count times.
func WriteJPEGs(w io.Writer, count int, next func(i int) (JPEGPage, error)) error {
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
func (p JPEGPage) directory(at int64, last bool) []byte {
	photometric, subsampling := BlackIsZero, uint32(0)
	if p.Components == 3 {
		photometric = YCbCr
		subsampling = jpegSubsampling(p.Data)
	}
	rows := [][3]uint32{ // tag, type with count, value
		{256, 4, uint32(p.Width)}, {257, 4, uint32(p.Height)}, {258, 3, 8}, {259, 3, uint32(JPEG)},
		{262, 3, uint32(photometric)}, {273, 4, 0}, {277, 3, uint32(p.Components)}, {278, 4, uint32(p.Height)},
		{279, 4, uint32(len(p.Data))}, {282, 5, 0}, {283, 5, 0}, {296, 3, 2},
	}
	if p.Components == 3 {
		rows = append(rows, [3]uint32{530, 3, subsampling})
	}
	length := 2 + 12*len(rows) + 4
	resolution := at + int64(length)
	bits := resolution + 8
	data := bits + 6 + 2
	block := binary.LittleEndian.AppendUint16(nil, uint16(len(rows)))
	for _, row := range rows {
		count, value := uint32(1), row[2]
		switch {
		case row[0] == 258 && p.Components == 3:
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
		next = uint32(data + int64(len(p.Data)+len(p.Data)%2))
	}
	block = binary.LittleEndian.AppendUint32(block, next)
	block = binary.LittleEndian.AppendUint32(block, uint32(p.DPI))
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
