package jpeg

import (
	"bytes"
	"encoding/binary"
	"errors"
	"slices"
)

// ErrNotSmaller is returned for a JPEG that cannot be written in fewer bytes.
var ErrNotSmaller = errors.New("it is as small as it can be")

// mostRepacked is how many pixels a JPEG has at most that is written in fewer bytes: its coefficients
// are all in memory, twice.
const mostRepacked = 40_000_000

// errOther is returned where a JPEG that was written anew is not the same picture.
var errOther = errors.New("written anew it would be another picture")

// Repack writes a JPEG in fewer bytes, as a progressive one with codes of its own: every coefficient,
// and so every pixel, is the same, which is made sure by reading it again. Segments that tell about the
// picture stay. It returns ErrNotSmaller where that is of no use, and the errors of Decode; a damaged JPEG
// is left alone, and one of more than 40 million pixels.
func Repack(data []byte) ([]byte, error) {
	d, head, err := openCoefficients(data)
	if err != nil {
		return nil, err
	}
	best := smallest(d.frame, head)
	if len(best) >= len(data) {
		return nil, ErrNotSmaller
	}
	return best, d.checkSame(best)
}

// openCoefficients reads the coefficients of a whole JPEG that can be written anew, and its head.
func openCoefficients(data []byte) (*decoder, []byte, error) {
	picture, err := Open(data)
	if err != nil {
		return nil, nil, err
	}
	if picture.Width > mostRepacked/picture.Height {
		return nil, nil, UnsupportedError("it has very many pixels")
	}
	return readCoefficients(data)
}

// readCoefficients reads the coefficients of a JPEG that can be written anew, and its head. With a *DamagedError, they are there
// as far as they could be read.
func readCoefficients(data []byte) (*decoder, []byte, error) {
	d := &decoder{data: data, coefficientsOnly: true}
	damage := d.decode()
	var damaged *DamagedError
	if damage != nil && !errors.As(damage, &damaged) {
		return nil, nil, damage
	}
	if blocks := d.frame.unitBlocks(); len(d.frame.components) > 1 && blocks > mostUnitBlocks {
		return nil, nil, UnsupportedError("its colours cannot be in one scan")
	}
	head, err := headOf(data)
	if err != nil {
		return nil, nil, err
	}
	return d, head, damage
}

// smallest is a picture of coefficients by the script that takes fewer bytes.
func smallest(f *frame, head []byte) []byte {
	best := written(f, head, finerAndFiner(len(f.components)))
	if other := written(f, head, oneAfterAnother(len(f.components))); len(other) < len(best) {
		return other
	}
	return best
}

// written is a picture of coefficients, in scans of a script, behind a head.
func written(f *frame, head []byte, script []pass) []byte {
	w := writer{out: bytes.Clone(head), frame: f}
	w.frameHeader()
	for _, p := range script {
		w.scan(p)
	}
	return append(w.out, 0xFF, endOfImage)
}

// checkSame reads a JPEG that was written anew, and compares its coefficients.
func (d *decoder) checkSame(data []byte) error {
	again := decoder{data: data, coefficientsOnly: true}
	if err := again.decode(); err != nil {
		return errors.Join(errOther, err)
	}
	for i := range d.frame.components {
		a, b := &d.frame.components[i], &again.frame.components[i]
		if *d.quants[a.quants] != *again.quants[b.quants] {
			return errOther
		}
		for y := range a.ownHigh {
			from, to := 64*y*a.wide, 64*(y*a.wide+a.ownWide)
			if !slices.Equal(a.coefficients[from:to], b.coefficients[from:to]) {
				return errOther
			}
		}
	}
	return nil
}

// headOf is what a JPEG has before its first scan and that stays: its quantisers, and what is told about
// the picture.
func headOf(data []byte) ([]byte, error) {
	d := decoder{data: data, at: 2}
	head := []byte{0xFF, startOfImage}
	isInScans := false
	for {
		marker, segment, err := d.segment()
		if marker == endOfImage || errors.Is(err, errEnded) {
			return head, nil
		}
		if err != nil {
			return nil, err
		}
		switch {
		case marker == startOfScan:
			isInScans = true
		case marker == defineQuants && isInScans:
			return nil, UnsupportedError("its quantisers change within the picture")
		case isInScans, marker == defineHuffman, marker == defineInterval, marker >= firstFrame && marker <= lastFrame:
		default:
			head = append(head, 0xFF, marker)
			head = binary.BigEndian.AppendUint16(head, uint16(len(segment)+2)) //nolint:gosec // it had that length
			head = append(head, segment...)
		}
	}
}

// pass is what a scan of a progressive picture tells (G.1.1.1).
type pass struct {
	components  []int
	first, last int // coefficients, in zigzag order
	high, low   int // bits that were told before, and that are left for later
}

// finerAndFiner tells the lowest bits of coefficients last: they are least alike.
func finerAndFiner(components int) (script []pass) {
	all := everyOne(components)
	script = append(script, pass{all, 0, 0, 0, 1})
	for _, c := range all {
		if isChrominance := components == 3 && c > 0; isChrominance {
			script = append(script, pass{[]int{c}, 1, 63, 0, 1})
		} else {
			script = append(script, pass{[]int{c}, 1, 5, 0, 2}, pass{[]int{c}, 6, 63, 0, 2}, pass{[]int{c}, 1, 63, 2, 1})
		}
	}
	script = append(script, pass{all, 0, 0, 1, 0})
	for _, c := range all {
		script = append(script, pass{[]int{c}, 1, 63, 1, 0})
	}
	return script
}

// oneAfterAnother tells coefficients whole: the lowest frequencies, then the others.
func oneAfterAnother(components int) (script []pass) {
	all := everyOne(components)
	script = append(script, pass{all, 0, 0, 0, 0})
	for _, c := range all {
		script = append(script, pass{[]int{c}, 1, 8, 0, 0}, pass{[]int{c}, 9, 63, 0, 0})
	}
	return script
}

func everyOne(n int) []int {
	all := make([]int, n)
	for i := range all {
		all[i] = i
	}
	return all
}
