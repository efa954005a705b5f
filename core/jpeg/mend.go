package jpeg

import (
	"errors"
	"image/color"
	"slices"
)

// Mend writes what is left of a damaged JPEG as a whole one, without decoding it to samples: every coefficient that is there,
// and so every pixel, is the same, and what is missing is white. It tells which share of the picture is there, from the top. A
// progressive picture is there whole once its first scan is, though it may be coarse. What is told about
// the picture stays. Errors are those of Decode, and an UnsupportedError where it cannot be written anew.
func Mend(data []byte) (whole []byte, share float64, err error) {
	d, head, err := readCoefficients(data)
	var damaged *DamagedError
	if err != nil && !errors.As(err, &damaged) {
		return nil, 0, err
	}
	rows := d.frame.height
	if damaged != nil && !(damaged.Progressive && damaged.Scans > 1) {
		rows = damaged.Rows
	}
	for i, level := range d.white() {
		if err := d.fillBelow(&d.frame.components[i], rows, level); err != nil {
			return nil, 0, err
		}
	}
	whole = smallest(d.frame, head)
	return whole, float64(rows) / float64(d.frame.height), d.checkSame(whole)
}

// white gives the sample of each component where the picture is white.
func (d *decoder) white() []byte {
	const none, neutral, most = 0, middle, 255
	switch all := d.frame.components; {
	case len(all) == mostComponents && !d.colours.isAdobe:
		return []byte{none, none, none, none}
	case len(all) == mostComponents && d.colours.adobeTransform != 0:
		y, cb, cr := color.RGBToYCbCr(none, none, none) // of inks: see inks
		return []byte{y, cb, cr, most}
	case len(all) == 3 && !d.colours.areRGB(all):
		return []byte{most, neutral, neutral}
	default:
		return slices.Repeat([]byte{most}, len(all))
	}
}

// fillBelow has blocks of a component be of one level, from a row of pixels on down.
func (d *decoder) fillBelow(c *component, row int, level byte) error {
	quants := d.quants[c.quants]
	if quants == nil {
		return FormatError("tables are missing")
	}
	// The first is eight times the mean (A.3.3). A broken table may have a 0.
	flat := [64]int16{atLeast((int32(level)-middle)*8, int32(max(1, quants[0])))}
	for y := ceil(row*c.v, 8*d.frame.mostV); y < c.high; y++ {
		for x := range c.wide {
			*c.block(x, y) = flat
		}
	}
	return nil
}

// atLeast quantises a value to one that is as far from 0 or farther: what is beyond the brightest sample is as bright.
func atLeast(value, quant int32) int16 {
	if value < 0 {
		return -atLeast(-value, quant)
	}
	return int16(ceil(int(value), int(quant))) //nolint:gosec // 11 bits
}
