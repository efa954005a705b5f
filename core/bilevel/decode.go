package bilevel

import (
	"errors"
	"fmt"
	"math/bits"
)

// ErrCorrupt says that the encoded data is not what its parameters promise.
var ErrCorrupt = errors.New("the fax data is damaged")

// Coding is how CCITT data is laid out.
type Coding struct {
	Group4         bool // T.6; otherwise T.4
	TwoDimensional bool // T.4 with rows marked as one- or two-dimensional
	ByteAligned    bool // every row begins on a byte (TIFF compression 2)
	ReversedBits   bool // the first bit of a byte is its least significant (TIFF FillOrder 2)
}

// Decode decodes a bitmap of a known size. When the data ends or breaks early
// it returns what was decoded, the rest white, together with an error that
// wraps ErrCorrupt.
func Decode(data []byte, width, height int, coding Coding) (*Bitmap, error) {
	b := New(width, height)
	if coding.ReversedBits {
		data = ReverseBits(data)
	}
	d := decoder{data: data, width: width, coding: coding}
	reference := make([]byte, b.Stride)
	for y := range height {
		row := b.Row(y)
		if err := d.row(row, reference); err != nil {
			return b, fmt.Errorf("row %d: %w", y, err)
		}
		reference = row
	}
	return b, nil
}

// ReverseBits returns the data with the bits of each byte in reverse order.
func ReverseBits(data []byte) []byte {
	reversed := make([]byte, len(data))
	for i, v := range data {
		reversed[i] = bits.Reverse8(v)
	}
	return reversed
}

type decoder struct {
	data   []byte
	at     int // in bits
	width  int
	coding Coding
}

func (d *decoder) row(row, reference []byte) error {
	if d.coding.ByteAligned {
		d.at = (d.at + 7) &^ 7
	}
	if d.coding.Group4 {
		return d.rowAgainst(row, reference)
	}
	twoDimensional := d.skipEndOfLine()
	if d.coding.TwoDimensional && twoDimensional {
		return d.rowAgainst(row, reference)
	}
	return d.rowAlone(row)
}

// skipEndOfLine passes the end-of-line code, if there is one, with the fill bits
// before it and the tag bit after it, and tells whether the tag announces a
// two-dimensional row (T.4, 4.1.2 and 4.2.2).
func (d *decoder) skipEndOfLine() (twoDimensional bool) {
	zeros := 0
	for d.at+zeros < 8*len(d.data) && d.bit(d.at+zeros) == 0 {
		zeros++
	}
	if zeros >= endOfLine.length-1 && d.at+zeros < 8*len(d.data) {
		d.at += zeros + 1
	}
	if d.coding.TwoDimensional && d.at < 8*len(d.data) {
		twoDimensional = d.bit(d.at) == 0
		d.at++
	}
	return twoDimensional
}

func (d *decoder) rowAlone(row []byte) error {
	black := false
	for x := 0; x < d.width; black = !black {
		run, err := d.run(black)
		if err != nil {
			return err
		}
		if run > d.width-x {
			return fmt.Errorf("%w: a run leaves the row", ErrCorrupt)
		}
		if black {
			fill(row, x, x+run)
		}
		x += run
	}
	return nil
}

func (d *decoder) rowAgainst(row, reference []byte) error {
	a0, black, start := 0, false, true
	for a0 < d.width {
		mode, err := d.lookUp(modeDecoding)
		if err != nil {
			return err
		}
		b1, b2 := referenceChanges(reference, a0, d.width, black, start)
		end := a0
		switch mode {
		case modePass:
			end = b2
		case modeHorizontal:
			if end, err = d.horizontal(row, a0, black); err != nil {
				return err
			}
		default:
			end = b1 + mode - modeVertical
		}
		if end < a0 || end > d.width || (end == a0 && !start && mode == modePass) {
			return fmt.Errorf("%w: a change outside the row", ErrCorrupt)
		}
		if mode != modeHorizontal && black {
			fill(row, a0, end)
		}
		if mode >= modeVertical-3 {
			black = !black
		}
		a0, start = end, false
	}
	return nil
}

// horizontal decodes two runs and returns where the second ends.
func (d *decoder) horizontal(row []byte, a0 int, black bool) (int, error) {
	for range 2 {
		run, err := d.run(black)
		if err != nil {
			return 0, err
		}
		if run > d.width-a0 {
			return 0, fmt.Errorf("%w: a run leaves the row", ErrCorrupt)
		}
		if black {
			fill(row, a0, a0+run)
		}
		a0 += run
		black = !black
	}
	return a0, nil
}

// run decodes make-up codes and the terminating code that ends them.
func (d *decoder) run(black bool) (int, error) {
	table := whiteDecoding
	if black {
		table = blackDecoding
	}
	total := 0
	for {
		length, err := d.lookUp(table)
		if err != nil {
			return 0, err
		}
		total += length
		if length < 64 {
			return total, nil
		}
		if total > d.width {
			return 0, fmt.Errorf("%w: a run leaves the row", ErrCorrupt)
		}
	}
}

func (d *decoder) lookUp(table decoding) (int, error) {
	var c code
	for c.length < longestCode && d.at < 8*len(d.data) {
		c.bits = c.bits<<1 | uint32(d.bit(d.at))
		c.length++
		d.at++
		if meaning, ok := table[c]; ok {
			return meaning, nil
		}
	}
	return 0, fmt.Errorf("%w: no code at bit %d", ErrCorrupt, d.at)
}

func (d *decoder) bit(at int) byte { return d.data[at>>3] >> (7 - at&7) & 1 }
