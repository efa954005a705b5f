package raster

import (
	"image"
	"math"
	"slices"
)

const (
	leastFilled   = 0.55  // share of a sheet that is filled before any break is looked for
	wellFilled    = 0.8   // share that is filled before one between paragraphs is
	betweenLines  = 0.01  // of the width: so much above and below a break is as quiet
	betweenBlocks = 0.035 // the same, where there are paragraphs
	leastPiece    = 0.1   // share of a sheet that the last piece has at least
	breakRoom     = 0.03  // of the width: no more is left blank below a piece
	breakEase     = 0.1   // a place may be so much busier than the quietest, as a share of the usual
	busyByNoise   = 1.0   // levels between neighbours that are no more than noise
)

// FindBreaks finds where a picture that is too high for a sheet is best cut across: where the
// least is on it, between paragraphs or lines of writing, with pieces that are no higher than highest, in
// widths of the picture, and nearly as high as that. Breaks are shares of the height, from the top. A
// picture that is not too high has none.
func FindBreaks(img image.Image, highest float64) []float64 {
	gray := ToGray(img)
	width, height := gray.Rect.Dx(), gray.Rect.Dy()
	most := int(math.Ceil(highest * float64(width)))
	if most < 1 || height <= most {
		return nil
	}
	pixels := func(share float64) int { return max(1, int(share*float64(width))) }
	busy := busyness(gray)
	lines, blocks := bandsOf(busy, pixels(betweenLines)), bandsOf(busy, pixels(betweenBlocks))
	var breaks []float64
	for top := 0; height-top > most; {
		filled := func(share float64) int {
			return min(top+max(1, int(share*float64(most))), height-max(1, int(leastPiece*float64(most))))
		}
		free, quiet := quietest(lines, filled(leastFilled), filled(1))
		if wide, found := lowest(blocks, filled(wellFilled), filled(1), quiet); found {
			free = wide
		}
		top = max(free.middle(), free.last-pixels(breakRoom))
		breaks = append(breaks, float64(top)/float64(height))
	}
	return breaks
}

// busyness is by how many levels neighbours differ in each row, in the mean.
func busyness(gray *image.Gray) []float64 {
	busy := make([]float64, gray.Rect.Dy())
	for y := range busy {
		row := gray.Pix[y*gray.Stride:][:gray.Rect.Dx()]
		sum := 0
		for x := 1; x < len(row); x++ {
			sum += int(max(row[x], row[x-1]) - min(row[x], row[x-1]))
		}
		busy[y] = float64(sum) / float64(len(row))
	}
	return busy
}

// bandsOf gives the busiest of the rows that are no farther than so many from each.
func bandsOf(busy []float64, reach int) []float64 {
	bands := make([]float64, len(busy))
	for y := range busy {
		bands[y] = slices.Max(busy[max(0, y-reach):min(len(busy), y+reach+1)])
	}
	return bands
}

// rows is a run of rows, both of them in it.
type rows struct{ first, last int }

func (r rows) middle() int { return (r.first + r.last) / 2 }

// quietest finds the lowest rows, between two, on which hardly more is than where the least is, and how
// much that is.
func quietest(busy []float64, from, to int) (free rows, quiet float64) {
	sorted := slices.Sorted(slices.Values(busy[from : to+1]))
	quiet = max(busyByNoise, sorted[0]+breakEase*(sorted[len(sorted)/2]-sorted[0]))
	free, _ = lowest(busy, from, to, quiet)
	return free, quiet
}

// lowest finds the lowest run of rows, between two, that are as quiet.
func lowest(busy []float64, from, to int, quiet float64) (free rows, found bool) {
	last := to
	for last >= from && busy[last] > quiet {
		last--
	}
	if last < from {
		return free, false
	}
	first := last
	for first > from && busy[first-1] <= quiet {
		first--
	}
	return rows{first, last}, true
}
