package jbig2

import (
	"image"
	"math"
	"math/bits"

	"dorbin/core/bilevel"
)

// mostAway is how many pixels the first adaptive pixel is away at most, across and up: more than the dots of a coarse screen
// are from each other.
const mostAway = 16

// canBeFirst tells whether the first adaptive pixel is where it may be: in a row above, not far away.
func (t *template) canBeFirst() bool {
	return t.first.Y < 0 && t.first.Y >= -mostAway && max(t.first.X, -t.first.X) <= mostAway
}

// firstRows gives for each row of a bitmap the one with the first adaptive pixels.
type firstRows struct {
	*template
	b   *bilevel.Bitmap
	far pixels
}

func (t *template) firstRows(b *bilevel.Bitmap) *firstRows {
	f := &firstRows{template: t, b: b}
	if t.first != usualFirst {
		f.far = newPixels(b.Width + 2*mostAway)
	}
	return f
}

// of gives a row in which the pixel at the same place is the first adaptive one.
func (f *firstRows) of(y int, above pixels) pixels {
	if f.first == usualFirst {
		return above[usualFirst.X:]
	}
	clear(f.far)
	if y+f.first.Y >= 0 {
		f.far[mostAway:].unpack(f.b.Row(y+f.first.Y), f.b.Width)
	}
	return f.far[mostAway+f.first.X:]
}

// worthMoving is the share of a bitmap's bits that the first adaptive pixel has to save elsewhere, by an estimate.
const worthMoving = 0.02

// moved is the template with its first adaptive pixel where it tells most about a bitmap, which takes so many bytes without
// that: where a picture is made of dots, it looks at the dot before. It is nil where that is not worth trying.
func (t template) moved(b *bilevel.Bitmap, bytes int) *template {
	place, saved := bestFirst(b)
	if saved < worthMoving*8*float64(bytes) {
		return nil
	}
	t.first = place
	return &t
}

// uncertain is a pixel of which its neighbours do not tell much.
type uncertain struct {
	at       image.Point
	variance float64 // as it was expected
	black    float64 // how black it is, less how black it was expected to be
}

// uncertainIn gives some of those pixels; each stands for so many.
func uncertainIn(b *bilevel.Bitmap) (some []uncertain, each int) {
	const most, leastBits, rowsLearnt = 4000, 0.08, 400
	rows := (b.Height + rowsLearnt - 1) / rowsLearnt
	taken := pixelBitsOf(b, rows)
	each = rows
	found := 0
	for at, seen := range seenIn(b, rows) {
		if min(taken[seen][0], taken[seen][1]) < leastBits {
			continue
		}
		if found += rows; found%each > 0 {
			continue
		}
		black := math.Exp2(-float64(taken[seen][1]))
		u := uncertain{at: at, variance: black * (1 - black), black: -black}
		if b.Black(at.X, at.Y) {
			u.black++
		}
		if some = append(some, u); len(some) == most {
			some, each = everySecond(some), 2*each
		}
	}
	return some, each
}

func everySecond(all []uncertain) []uncertain {
	for i := range len(all) / 2 {
		all[i] = all[2*i+1]
	}
	return all[:len(all)/2]
}

// bestFirst gives the best place for a first adaptive pixel, and about how many bits it saves there, at most. It is the place
// with the highest score by C. R. Rao's test of whether black there goes with black that was not expected.
func bestFirst(b *bilevel.Bitmap) (place image.Point, saved float64) {
	some, each := uncertainIn(b)
	var all sum
	var byPlace [mostAway][acrossPlaces]sum
	for _, u := range some {
		all.add(u)
		for up := range min(mostAway, u.at.Y) {
			blacks := blacksAround(b.Row(u.at.Y-1-up), u.at.X)
			for ; blacks != 0; blacks &= blacks - 1 {
				byPlace[up][acrossPlaces-1-bits.TrailingZeros64(blacks)].add(u)
			}
		}
	}
	for up := range byPlace {
		for i, there := range byPlace[up] {
			share := there.variance / max(all.variance, 1)
			score := there.black - share*all.black
			if bits := float64(each) * score * score / (2 * math.Ln2 * max(there.variance*(1-share), 1)); bits > saved {
				place, saved = image.Pt(i-mostAway, -1-up), bits
			}
		}
	}
	return place, saved
}

// acrossPlaces is how many places a row has for the first adaptive pixel.
const acrossPlaces = 2*mostAway + 1

// sum is of several uncertain pixels.
type sum struct{ variance, black float64 }

func (s *sum) add(u uncertain) {
	s.variance += u.variance
	s.black += u.black
}

// blacksAround are the pixels of a row at all those places around one, the rightmost as the lowest bit.
func blacksAround(row []byte, x int) (blacks uint64) {
	first, last := (x-mostAway)>>3, (x+mostAway)>>3
	for i := first; i <= last; i++ {
		blacks <<= 8
		if i >= 0 && i < len(row) {
			blacks |= uint64(row[i])
		}
	}
	return blacks >> (7 - (x+mostAway)&7) & (1<<acrossPlaces - 1)
}
