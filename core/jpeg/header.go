package jpeg

import (
	"bytes"
	"encoding/binary"
)

// Markers that are read (table B.1), besides those of essential.go.
const (
	baseline       = 0xC0
	extended       = 0xC1
	progressive    = 0xC2
	defineHuffman  = 0xC4
	reservedFrame  = 0xC8
	arithmetic     = 0xCC
	lastFrame      = 0xCF
	defineQuants   = 0xDB
	defineInterval = 0xDD
)

const (
	mostComponents = 4
	mostSampling   = 4
	// mostScans is more than any encoder writes; each may take as long as the picture is large.
	mostScans = 400
)

// component is one of a picture's colours.
type component struct {
	id     byte
	h, v   int // samples in a unit, across and down, in blocks
	quants byte
	// wide and high are how many blocks it has, those included that fill the last units.
	wide, high int
	// ownWide and ownHigh are how many blocks it has where it is in a scan alone (A.2.2).
	ownWide, ownHigh int

	dcTable, acTable byte
	dc               int32 // of the block before
	came             bool  // it was in a scan

	samples []byte
	stride  int
	// coefficients are those of all blocks, in zigzag order, where a picture comes in several scans.
	coefficients []int16
}

// frame is what a JPEG's headers say of its picture.
type frame struct {
	width, height int
	isProgressive bool
	components    []component
	mostH, mostV  int
	wide, high    int // in units
}

// colours are how components are meant.
type colours struct {
	isJFIF         bool
	isAdobe        bool
	adobeTransform byte
}

// readFrame reads a frame header (B.2.2).
func readFrame(marker byte, segment []byte) (*frame, error) {
	if marker > progressive {
		return nil, UnsupportedError("only baseline and progressive ones can be read")
	}
	if len(segment) < 6 {
		return nil, FormatError("its frame header is too short")
	}
	if segment[0] != 8 {
		return nil, UnsupportedError("only those with 8 bits can be read")
	}
	f := &frame{
		height: int(binary.BigEndian.Uint16(segment[1:])), width: int(binary.BigEndian.Uint16(segment[3:])), isProgressive: marker == progressive,
	}
	n := int(segment[5])
	if len(segment) < 6+3*n {
		return nil, FormatError("its frame header is too short")
	}
	if f.width == 0 || f.height == 0 {
		return nil, UnsupportedError("its size is not said before the picture")
	}
	if n != 1 && n != 3 && n != mostComponents {
		return nil, UnsupportedError("it has a number of colours that means nothing")
	}
	for i := range n {
		c := component{id: segment[6+3*i], h: int(segment[7+3*i] >> 4), v: int(segment[7+3*i] & 15), quants: segment[8+3*i]}
		if c.h < 1 || c.h > mostSampling || c.v < 1 || c.v > mostSampling || c.quants > 3 {
			return nil, FormatError("its frame header makes no sense")
		}
		if n == 1 {
			c.h, c.v = 1, 1 // a single component has units of one block (A.2.2)
		}
		f.components = append(f.components, c)
		f.mostH, f.mostV = max(f.mostH, c.h), max(f.mostV, c.v)
	}
	f.layOut()
	return f, nil
}

// layOut counts blocks (A.2.4).
func (f *frame) layOut() {
	f.wide, f.high = ceil(f.width, 8*f.mostH), ceil(f.height, 8*f.mostV)
	for i := range f.components {
		c := &f.components[i]
		c.wide, c.high = f.wide*c.h, f.high*c.v
		c.ownWide, c.ownHigh = ceil(ceil(f.width*c.h, f.mostH), 8), ceil(ceil(f.height*c.v, f.mostV), 8)
	}
}

func ceil(n, by int) int { return (n + by - 1) / by }

// readApplication reads how colours are meant (ITU-T T.871, 6.1; the Adobe marker as in ITU-T T.872, 6.5.3).
func (c *colours) readApplication(marker byte, segment []byte) {
	switch {
	case marker == app0 && bytes.HasPrefix(segment, []byte("JFIF\x00")):
		c.isJFIF = true
	case marker == app14 && len(segment) >= 12 && bytes.HasPrefix(segment, []byte("Adobe")):
		c.isAdobe, c.adobeTransform = true, segment[11]
	}
}

// areRGB tells whether three components are red, green and blue, and not luminance and chrominance.
func (c colours) areRGB(components []component) bool {
	switch {
	case c.isJFIF:
		return false
	case c.isAdobe:
		return c.adobeTransform == 0
	}
	return components[0].id == 'R' && components[1].id == 'G' && components[2].id == 'B'
}

// readQuants reads quantisation tables (B.2.4.1) into their places, in zigzag order.
func readQuants(segment []byte, tables *[4]*[64]uint16) error {
	for len(segment) > 0 {
		size, place := int(segment[0]>>4)+1, segment[0]&15
		segment = segment[1:]
		if size > 2 || place > 3 || len(segment) < 64*size {
			return FormatError("its quantisers make no sense")
		}
		table := &[64]uint16{}
		for i := range table {
			if size == 2 {
				table[i] = binary.BigEndian.Uint16(segment[2*i:])
			} else {
				table[i] = uint16(segment[i])
			}
		}
		tables[place] = table
		segment = segment[64*size:]
	}
	return nil
}

// readHuffman reads Huffman tables (B.2.4.2) into their places: those of DC coefficients, and of others.
func readHuffman(segment []byte, tables *[2][4]*huffman) error {
	for len(segment) > 0 {
		if len(segment) < 1+longestCode {
			return FormatError("its codes make no sense")
		}
		class, place := segment[0]>>4, segment[0]&15
		counts := [longestCode]byte(segment[1:])
		segment = segment[1+longestCode:]
		n := 0
		for _, count := range counts {
			n += int(count)
		}
		if class > 1 || place > 3 || n > 256 || n > len(segment) {
			return FormatError("its codes make no sense")
		}
		table, err := newHuffman(counts, segment[:n])
		if err != nil {
			return err
		}
		tables[class][place] = table
		segment = segment[n:]
	}
	return nil
}
