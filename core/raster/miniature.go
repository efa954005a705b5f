package raster

import (
	"cmp"
	"image"
	"math"
	"math/bits"
	"slices"
)

// miniatureEdge is the edge of a miniature in cells.
const miniatureEdge = 32

// Miniature is a page in so few cells that scans of the same sheet, which differ
// in skew, noise and light, look alike in it: 32 by 32 of them, row by row, each
// the mean of its pixels less that of all, in parts of which a standard deviation
// has 32. It is empty for a page that is the same all over.
type Miniature []int8

// marks tell where a miniature is lighter than around: a bit for each of 16 by 16
// squares of cells. Where nothing is on the page no bit is set, so that noise
// makes no marks.
type marks [4]uint64

const partsOfDeviation = 32

// NewMiniature makes the miniature of an image.
func NewMiniature(img image.Image) Miniature {
	gray := ToGray(Resize(img, miniatureEdge*4, miniatureEdge*4))
	cells := make([]float64, miniatureEdge*miniatureEdge)
	mean := 0.0
	for i := range cells {
		x, y := i%miniatureEdge*4, i/miniatureEdge*4
		for dy := range 4 {
			for dx := range 4 {
				cells[i] += float64(gray.GrayAt(x+dx, y+dy).Y)
			}
		}
		mean += cells[i] / float64(len(cells))
	}
	square := 0.0
	for i := range cells {
		cells[i] -= mean
		square += cells[i] * cells[i]
	}
	deviation := math.Sqrt(square / float64(len(cells)))
	if deviation < 16 { // one level of grey
		return nil
	}
	m := make(Miniature, len(cells))
	for i, cell := range cells {
		m[i] = int8(max(-127, min(127, math.Round(cell/deviation*partsOfDeviation))))
	}
	return m
}

// Turned gives the miniature of the page turned by degrees clockwise.
func (m Miniature) Turned(degrees int) Miniature {
	for ; degrees > 0 && len(m) > 0; degrees -= 90 {
		turned := make(Miniature, len(m))
		for i := range m {
			x, y := i%miniatureEdge, i/miniatureEdge
			turned[x*miniatureEdge+miniatureEdge-1-y] = m[i]
		}
		m = turned
	}
	return m
}

// Likeness is the correlation of two miniatures, from -1 to 1.
func (m Miniature) Likeness(other Miniature) float64 {
	if len(m) == 0 || len(m) != len(other) {
		return 0
	}
	var product, mine, its int
	for i, a := range m {
		b := other[i]
		product += int(a) * int(b)
		mine += int(a) * int(a)
		its += int(b) * int(b)
	}
	return float64(product) / math.Sqrt(float64(mine)*float64(its))
}

const (
	squareEdge = miniatureEdge / 16 // cells
	aroundEdge = 4                  // squares that a square is compared with, across and down
	markedBy   = 6                  // parts of a deviation by which it must be lighter than these
)

func (m Miniature) marks() (found marks) {
	if len(m) == 0 {
		return found
	}
	var squares [16][16]int
	for i, cell := range m {
		squares[i/miniatureEdge/squareEdge][i%miniatureEdge/squareEdge] += int(cell)
	}
	const all = aroundEdge * aroundEdge
	for top := 0; top < 16; top += aroundEdge {
		for left := 0; left < 16; left += aroundEdge {
			sum := 0
			for i := range all {
				sum += squares[top+i/aroundEdge][left+i%aroundEdge]
			}
			for i := range all {
				y, x := top+i/aroundEdge, left+i%aroundEdge
				if all*squares[y][x] > sum+all*squareEdge*squareEdge*markedBy {
					found[y/4] |= 1 << (y%4*16 + x)
				}
			}
		}
	}
	return found
}

// apart counts the marks in which two miniatures differ.
func (m marks) apart(other marks) int {
	n := 0
	for i := range m {
		n += bits.OnesCount64(m[i] ^ other[i])
	}
	return n
}

// Twin is a pair of pages that look alike, by their indices, the first one
// earlier than the second; Turn is by how many degrees clockwise the first is to
// be turned to look like the second.
type Twin struct {
	First, Second int
	Turn          int
	Likeness      float64
}

// mostMarksApart is in how many of 256 marks two scans of a sheet differ.
const mostMarksApart = 110

// mostTwins is how many twins are told of a page at most; one that is paired with a page at two
// turns counts twice.
const mostTwins = 8

// FindTwins pairs each page with those before it that it is most like, the likest first, if their
// likeness is at least least. Turned pages are found too.
func FindTwins(pages []Miniature, least float64) []Twin {
	var twins []Twin
	own := make([]marks, len(pages))
	for i, page := range pages {
		own[i] = page.marks()
	}
	for second, page := range pages {
		if len(page) > 0 {
			twins = append(twins, twinsOf(second, pages, own, least)...)
		}
	}
	return twins
}

func twinsOf(second int, pages []Miniature, own []marks, least float64) (found []Twin) {
	for turn := 0; turn < 360; turn += 90 {
		turned := pages[second].Turned((360 - turn) % 360)
		mine := turned.marks()
		for first := range second {
			if len(pages[first]) == 0 || own[first].apart(mine) > mostMarksApart {
				continue
			}
			if likeness := pages[first].Likeness(turned); likeness >= least {
				found = append(found, Twin{first, second, turn, likeness})
			}
		}
	}
	slices.SortStableFunc(found, func(a, b Twin) int { return cmp.Compare(b.Likeness, a.Likeness) })
	return found[:min(len(found), mostTwins)]
}
