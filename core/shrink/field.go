package shrink

import (
	"image"
	"image/color"
	"math"
	"slices"

	"dorbin/core/bilevel"
)

const (
	fieldDPI     = 15
	fieldQuality = 75
	fieldBlur    = 1 // cells to each side, twice
	fieldStep    = 2 // rows of pixels, of which one is enough
	flatInk      = 6 // grey levels of deviation, up to which an ink is of one colour
)

// inColours parts the ink by its colours, and gives each the colour that it has in each place.
func (s *segmented) inColours() ([]ForegroundMask, error) {
	masks := inksByColour(s.picture, s.ink, s.paper, s.dpi)
	inks := make([]ForegroundMask, len(masks))
	for i, mask := range masks {
		inks[i].mask = mask
		f := s.fieldOf(mask, len(masks) > 1)
		var isFlat bool
		if inks[i].Colour, isFlat = f.flat(); isFlat {
			continue
		}
		var err error
		if inks[i].Field, err = encodeJPEG(f.image(), fieldQuality); err != nil {
			return nil, err
		}
	}
	return inks, nil
}

// field is what is known of an ink in cells of the page.
type field struct {
	columns, rows int
	// The cell across, and down, in which each pixel is.
	columnOf, rowOf []int
	taken           [3][]float32 // by how much ink, and what has run from it, is darker than the paper; summed up
	count           []float32    // pixels of ink
	paper           [3][]float32 // its levels
	colour          [3][]float32
}

// fieldOf gives an ink the colour with which its mask takes as much light from the paper, around each
// place, as the ink does with its blurred edges: so it looks as dark as it was, however its edges fell.
func (s *segmented) fieldOf(mask *bilevel.Bitmap, isOneOfSeveral bool) *field {
	f := newField(s.ink.Width, s.ink.Height, max(1, int(s.dpi/fieldDPI+0.5)))
	around := s.halo
	if isOneOfSeveral {
		around = grown(mask, s.haloReach())
	}
	for y := 0; y < mask.Height; y += fieldStep {
		f.addRow(s, mask, around, y, isOneOfSeveral)
	}
	f.solve()
	return f
}

func newField(width, height, cell int) *field {
	f := &field{columns: ceilDiv(width, cell), rows: ceilDiv(height, cell), columnOf: squaresOf(width, cell), rowOf: squaresOf(height, cell)}
	f.count = make([]float32, f.columns*f.rows)
	for c := range 3 {
		f.taken[c], f.paper[c], f.colour[c] = make([]float32, len(f.count)), make([]float32, len(f.count)), make([]float32, len(f.count))
	}
	return f
}

// addRow adds a row of pixels around a mask. What belongs to another ink is left out.
func (f *field) addRow(s *segmented, mask, around *bilevel.Bitmap, y int, isOneOfSeveral bool) {
	for x := range around.Blacks(y) {
		isInk := mask.Black(x, y)
		if isOneOfSeveral && !isInk && s.ink.Black(x, y) {
			continue
		}
		i := f.rowOf[y]*f.columns + f.columnOf[x]
		paper, pixel := s.paper.at(x, y), s.picture.Pix[y*s.picture.Stride+4*x:]
		for c := range 3 {
			f.taken[c][i] += float32(paper[c]) - float32(pixel[c])
			if isInk {
				f.paper[c][i] += float32(paper[c])
			}
		}
		if isInk {
			f.count[i]++
		}
	}
}

// solve finds the colours, from each cell and those beside it, so that they change slowly.
func (f *field) solve() {
	count := f.smooth(f.count)
	for c := range 3 {
		taken, paper := f.smooth(f.taken[c]), f.smooth(f.paper[c])
		for i, n := range count {
			if n > 0 {
				f.colour[c][i] = max(0, min(255, (paper[i]-taken[i])/n))
			}
		}
	}
}

// smooth sums up cells and those beside them, nearer ones more.
func (f *field) smooth(cells []float32) []float32 {
	for range 2 * fieldBlur {
		cells = f.addBeside(f.addBeside(cells, f.columns, 1), f.rows, f.columns)
	}
	return cells
}

// addBeside adds to each cell those before and after it, in lines of so many whose cells lie so far
// apart.
func (f *field) addBeside(cells []float32, length, stride int) []float32 {
	out := make([]float32, 0, len(cells))
	for lines := range slices.Chunk(cells, length*stride) {
		for i, v := range lines {
			if i >= stride {
				v += lines[i-stride]
			}
			if i+stride < len(lines) {
				v += lines[i+stride]
			}
			out = append(out, v)
		}
	}
	return out
}

// flat gives the mean colour, and whether the ink is of that colour nearly everywhere.
func (f *field) flat() (mean color.RGBA, isFlat bool) {
	var levels [3]float64
	all, square := 0.0, 0.0
	for i, n := range f.count {
		all += float64(n)
		for c := range 3 {
			levels[c] += float64(n * f.colour[c][i])
		}
	}
	if all == 0 {
		return color.RGBA{A: 255}, true
	}
	for c := range 3 {
		levels[c] /= all
		for i, n := range f.count {
			d := float64(f.colour[c][i]) - levels[c]
			square += float64(n) * d * d
		}
	}
	level := func(c int) uint8 { return uint8(levels[c] + 0.5) } //nolint:gosec // a mean of bytes
	return color.RGBA{level(0), level(1), level(2), 255}, math.Sqrt(square/(3*all)) <= flatInk
}

// image is the field as a picture; where there is no ink it goes on as beside it.
func (f *field) image() *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, f.columns, f.rows))
	known := make([]bool, len(f.count))
	count := f.smooth(f.count)
	for i := range known {
		known[i] = count[i] > 0
		for c := range 3 {
			out.Pix[4*i+c] = uint8(f.colour[c][i] + 0.5) //nolint:gosec // between 0 and 255
		}
		out.Pix[4*i+3] = 255
	}
	fillUnknown(out, known)
	return out
}
