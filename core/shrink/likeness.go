package shrink

import (
	"image"
	"math"

	"dorbin/core/raster"
)

// Likeness tells how much of what is on a page is there in a picture of it that was
// written otherwise.
type Likeness struct {
	Fidelity float64 `json:"kept"` // share of the squares with something on them that are as they were, 0 to 1
	Loss     float64 `json:"loss"` // mean of what they lack, 0 to 1
}

const (
	readDPI   = 200 // at which the strokes of small print can be told apart
	seenDPI   = 100 // at which photographs are compared
	squareMM  = 1.5
	faint     = 9.0 // grey levels of deviation, from which there is something in a square
	noise     = 5.0 // grey levels of deviation that are not told from none
	alike     = 0.8 // correlation from which a square is as it was
	edgesInMM = 4.0 // of a scan: its dark edges are not read
)

// original is a page that others are compared with.
type original struct {
	gray   *image.Gray
	square int // pixels
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
	o := &original{gray: grayOf(img, size), square: max(4, int(squareMM*perMM+0.5))}
	o.inner = o.gray.Rect.Inset(int(edgesInMM * perMM))
	if o.inner.Empty() {
		o.inner = o.gray.Rect
	}
	return o
}

func grayOf(img image.Image, size image.Point) *image.Gray {
	return raster.ToGray(raster.Resize(raster.ToGray(img), size.X, size.Y))
}

// likeness compares squares by the correlation of their pixels, the structure term of
// the structural similarity index (Wang, Bovik, Sheikh and Simoncelli 2004, section
// III.B): it is the same for paper that became whiter or ink that became darker.
func (o *original) likeness(img image.Image) Likeness {
	other := grayOf(img, o.gray.Rect.Size())
	squares, kept, loss := 0, 0, 0.0
	for y := o.inner.Min.Y; y < o.inner.Max.Y; y += o.square {
		for x := o.inner.Min.X; x < o.inner.Max.X; x += o.square {
			square := image.Rect(x, y, x+o.square, y+o.square).Intersect(o.inner)
			correlation, something := correlate(o.gray, other, square)
			if !something {
				continue
			}
			squares++
			loss += 1 - correlation
			if correlation >= alike {
				kept++
			}
		}
	}
	if squares == 0 {
		return Likeness{Fidelity: 1}
	}
	return Likeness{float64(kept) / float64(squares), loss / float64(squares)}
}

// correlate gives the correlation of a square in two pictures, from 0 to 1, and whether
// either has something there.
func correlate(a, b *image.Gray, square image.Rectangle) (correlation float64, something bool) {
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
		return 1, false
	}
	both := float64(sumAB)/count - meanA*meanB
	return math.Max(0, (both+noise*noise)/(math.Sqrt(varA*varB)+noise*noise)), true
}
