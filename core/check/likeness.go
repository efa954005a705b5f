package check

import (
	"image"

	"dorbin/core/raster"
)

// Likeness is how a page in a finished document looks beside the page that it was made of.
type Likeness int

// What can be told of two pictures.
const (
	Alike Likeness = iota
	Empty          // nothing is left of what is on the page
	Different
)

// Parts of a picture, and what is seen in them.
const (
	partsAcross   = 32
	pixelsAcross  = 4  // of a part
	aroundPart    = 2  // parts on each side that a part is compared with
	plainlyMarked = 6  // levels of grey by which a part differs from those around it, and is written on
	stillMarked   = 2  // levels by which it does where paper or ink became lighter
	fewestMarked  = 3  // parts, below which nothing is told
	leastAlike    = .5 // share of the marked parts that must be marked in the other picture
	lightApart    = 64 // levels between pages on which nothing is
)

// Compare tells whether a page still looks as it did, from small pictures of both. Paper that
// became whiter, ink that became darker and colours that became grey are no difference.
func Compare(before, after image.Image) Likeness {
	was, is := partsOf(before), partsOf(after)
	wasMarked, isMarked := was.marked(), is.marked()
	switch {
	case wasMarked < fewestMarked && isMarked < fewestMarked:
		if was.light-is.light > lightApart || is.light-was.light > lightApart {
			return Different
		}
		return Alike
	case isMarked == 0:
		return Empty
	case wasMarked >= fewestMarked && was.shareIn(is) < leastAlike, isMarked >= fewestMarked && is.shareIn(was) < leastAlike:
		return Different
	}
	return Alike
}

// LooksBlank tells of a page on which nothing is seen, from a small picture of it.
func LooksBlank(picture image.Image) bool { return partsOf(picture).marked() == 0 }

// parts is how much lighter each part of a picture is than those around it, in levels of grey.
type parts struct {
	contrast [partsAcross * partsAcross]float64
	light    float64 // mean of the picture, 0 to 255
}

func partsOf(img image.Image) (p parts) {
	const edge = partsAcross * pixelsAcross
	gray := raster.ToGray(raster.Resize(img, edge, edge))
	var mean [partsAcross * partsAcross]float64
	for y := range edge {
		for x := range edge {
			mean[y/pixelsAcross*partsAcross+x/pixelsAcross] += float64(gray.GrayAt(x, y).Y) / (pixelsAcross * pixelsAcross)
		}
	}
	for i, light := range mean {
		p.light += light / float64(len(mean))
		sum, n := 0.0, 0.0
		x, y := i%partsAcross, i/partsAcross
		for ny := max(0, y-aroundPart); ny <= min(partsAcross-1, y+aroundPart); ny++ {
			for nx := max(0, x-aroundPart); nx <= min(partsAcross-1, x+aroundPart); nx++ {
				sum += mean[ny*partsAcross+nx]
				n++
			}
		}
		p.contrast[i] = light - sum/n
	}
	return p
}

// marked is how many parts stand out plainly.
func (p parts) marked() (n int) {
	for _, c := range p.contrast {
		if c > plainlyMarked || c < -plainlyMarked {
			n++
		}
	}
	return n
}

// shareIn is the share of the parts that stand out plainly which stand out in another picture in
// the same way.
func (p parts) shareIn(other parts) float64 {
	found := 0
	for i, c := range p.contrast {
		o := other.contrast[i]
		if (c > plainlyMarked && o > stillMarked) || (c < -plainlyMarked && o < -stillMarked) {
			found++
		}
	}
	return float64(found) / float64(max(1, p.marked()))
}
