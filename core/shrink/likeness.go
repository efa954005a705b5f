package shrink

import (
	"image"
	"iter"
	"math"
	"slices"

	"dorbin/core/raster"
)

// Likeness tells how much of what is on a page is there in a picture of it that was
// written otherwise.
type Likeness struct {
	Fidelity float64 `json:"kept"` // share of what is on the page, square by square, that is as it was, 0 to 1
	Loss     float64 `json:"loss"` // mean of what the squares lack, 0 to 1
}

const (
	readDPI   = 200 // at which the strokes of small print can be told apart
	seenDPI   = 100 // at which photographs are compared
	squareMM  = 1.5
	faint     = 9.0  // grey levels of deviation, from which there is something in a square
	noise     = 5.0  // grey levels of deviation that are not told from none, at least
	quiet     = 0.35 // of the page's contrast, across a square of mere paper
	grainiest = 0.75 // of such squares, in the order of their deviation: it stands for the paper's grain
	alike     = 0.8  // correlation from which a square is as it was
	edgesInMM = 4.0  // of a scan: its dark edges are not read
)

// original is a page that others are compared with.
type original struct {
	gray   *image.Gray
	square int     // pixels
	grain  float64 // of the paper, in grey levels of deviation
	inner  image.Rectangle
}

// newOriginal takes a picture of so many dots an inch, to be compared with so many.
func newOriginal(img image.Image, dpi, wanted float64) *original {
	size := img.Bounds().Size()
	if share := wanted / dpi; share < 1 {
		dpi = wanted
		size = image.Pt(max(1, int(float64(size.X)*share+0.5)), max(1, int(float64(size.Y)*share+0.5)))
	}
	perMM := dpi / 25.4
	o := &original{gray: grayOf(img, size), square: max(4, int(squareMM*perMM+0.5)), grain: noise}
	o.inner = o.gray.Rect.Inset(int(edgesInMM * perMM))
	if o.inner.Empty() {
		o.inner = o.gray.Rect
	}
	return o
}

// onGrainyPaper takes the grain of the paper for noise: it is none of what is to be kept.
func (o *original) onGrainyPaper() *original {
	var histogram [256]int
	for _, v := range o.gray.Pix {
		histogram[v]++
	}
	darkest, brightest := levelAt(&histogram, len(o.gray.Pix)/50), levelAt(&histogram, len(o.gray.Pix)*4/5)
	var deviations []float64
	for y := o.inner.Min.Y; y+o.square <= o.inner.Max.Y; y += o.square {
		for x := o.inner.Min.X; x+o.square <= o.inner.Max.X; x += o.square {
			span, deviation := spanOf(o.gray, image.Rect(x, y, x+o.square, y+o.square))
			if float64(span) < quiet*float64(brightest-darkest) {
				deviations = append(deviations, deviation)
			}
		}
	}
	if len(deviations) > 0 {
		slices.Sort(deviations)
		o.grain = max(noise, deviations[int(grainiest*float64(len(deviations)-1))])
	}
	return o
}

// levelAt is the level of the pixel with so many darker ones.
func levelAt(histogram *[256]int, darker int) (level int) {
	for darker -= histogram[0]; darker > 0 && level < 255; darker -= histogram[level] {
		level++
	}
	return level
}

// spanOf gives by how many levels the pixels of a square differ at most, and their deviation.
func spanOf(gray *image.Gray, square image.Rectangle) (span int, deviation float64) {
	least, most, sum, squares := 255, 0, 0, 0
	for y := square.Min.Y; y < square.Max.Y; y++ {
		for _, v := range gray.Pix[gray.PixOffset(square.Min.X, y):][:square.Dx()] {
			level := int(v)
			least, most, sum, squares = min(least, level), max(most, level), sum+level, squares+level*level
		}
	}
	n := float64(square.Dx() * square.Dy())
	mean := float64(sum) / n
	return most - least, math.Sqrt(max(0, float64(squares)/n-mean*mean))
}

func grayOf(img image.Image, size image.Point) *image.Gray {
	gray := *raster.ToGray(raster.Resize(raster.ToGray(img), size.X, size.Y))
	gray.Rect = image.Rectangle{Max: size} // wherever the picture was
	return &gray
}

// likeness compares squares by the correlation of their pixels, the structure term of
// the structural similarity index (Wang, Bovik, Sheikh and Simoncelli 2004, section
// III.B): it is the same for paper that became whiter or ink that became darker.
func (o *original) likeness(img image.Image) Likeness {
	all, kept, loss := 0.0, 0.0, 0.0
	for _, square := range o.squares(grayOf(img, o.gray.Rect.Size())) {
		all += square.weight
		loss += square.weight * (1 - square.correlation)
		if square.correlation >= alike {
			kept += square.weight
		}
	}
	if all == 0 {
		return Likeness{Fidelity: 1}
	}
	return Likeness{kept / all, loss / all}
}

// compared is what is in a square of two pictures: how alike it is, 0 to 1, and how much there is, as
// the larger of the two deviations, in grey levels.
type compared struct{ correlation, weight float64 }

// squares compares each square with something on it with that of a picture of the same size.
func (o *original) squares(other *image.Gray) iter.Seq2[image.Rectangle, compared] {
	return func(yield func(image.Rectangle, compared) bool) {
		for y := o.inner.Min.Y; y < o.inner.Max.Y; y += o.square {
			for x := o.inner.Min.X; x < o.inner.Max.X; x += o.square {
				square := image.Rect(x, y, x+o.square, y+o.square).Intersect(o.inner)
				found, something := correlate(o.gray, other, square, o.grain)
				if something && !yield(square, found) {
					return
				}
			}
		}
	}
}

// correlate compares a square of two pictures, and tells whether either has something there.
func correlate(a, b *image.Gray, square image.Rectangle, noise float64) (found compared, something bool) {
	var n, sumA, sumB, sumAA, sumBB, sumAB int
	for y := square.Min.Y; y < square.Max.Y; y++ {
		rowA, rowB := a.Pix[a.PixOffset(square.Min.X, y):], b.Pix[b.PixOffset(square.Min.X, y):]
		for i := range square.Dx() {
			va, vb := int(rowA[i]), int(rowB[i])
			sumA, sumB = sumA+va, sumB+vb
			sumAA, sumBB, sumAB = sumAA+va*va, sumBB+vb*vb, sumAB+va*vb
		}
		n += square.Dx()
	}
	count := float64(max(1, n))
	meanA, meanB := float64(sumA)/count, float64(sumB)/count
	varA := math.Max(0, float64(sumAA)/count-meanA*meanA)
	varB := math.Max(0, float64(sumBB)/count-meanB*meanB)
	if varA < faint*faint && varB < faint*faint {
		return compared{correlation: 1}, false
	}
	both := float64(sumAB)/count - meanA*meanB
	correlation := math.Max(0, (both+noise*noise)/(math.Sqrt(varA*varB)+noise*noise))
	return compared{correlation, math.Sqrt(max(varA, varB))}, true
}
