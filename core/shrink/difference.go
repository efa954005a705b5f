package shrink

import (
	"image"
	"iter"
	"math"

	"dorbin/core/raster"
)

const (
	differenceEdge  = 1200 // pixels at which pages are compared
	differenceBlock = 16
	// The outermost of a scan, 4 mm of A4, in pixels: its dark edges are not read.
	differenceEdges = 16
)

// Difference tells how much of one picture of a page is lost in another: the largest
// mean difference, in grey levels, of any square of them, when both are as large as a
// page is read at. A word that is gone is in some square.
func Difference(a, b image.Image) float64 {
	worst := 0.0
	for _, levels := range differences(a, b) {
		worst = math.Max(worst, levels)
	}
	return worst
}

// differences gives the squares of two pictures of a page, and by how many levels they differ.
func differences(a, b image.Image) iter.Seq2[image.Rectangle, float64] {
	return func(yield func(image.Rectangle, float64) bool) {
		one := raster.ToRGBA(raster.Fit(a, differenceEdge))
		size := one.Bounds().Size()
		other := raster.ToRGBA(raster.Resize(b, size.X, size.Y))
		inner := image.Rectangle{Max: size}.Inset(differenceEdges)
		for y := inner.Min.Y; y < inner.Max.Y; y += differenceBlock {
			for x := inner.Min.X; x < inner.Max.X; x += differenceBlock {
				square := image.Rect(x, y, x+differenceBlock, y+differenceBlock).Intersect(inner)
				if !yield(square, blockDifference(one, other, square)) {
					return
				}
			}
		}
	}
}

// blockDifference is the difference of the means of small cells, so that noise and the
// softness of an edge count for little.
func blockDifference(a, b *image.RGBA, square image.Rectangle) float64 {
	const cell = 4
	sum, n := 0.0, 0
	for y := square.Min.Y; y < square.Max.Y; y += cell {
		for x := square.Min.X; x < square.Max.X; x += cell {
			r := image.Rect(x, y, min(square.Max.X, x+cell), min(square.Max.Y, y+cell))
			one, other := mean(a, r), mean(b, r)
			for channel := range one {
				sum += math.Abs(one[channel] - other[channel])
			}
			n += len(one)
		}
	}
	return sum / math.Max(1, float64(n))
}

func mean(img *image.RGBA, r image.Rectangle) (m [3]float64) {
	for y := r.Min.Y; y < r.Max.Y; y++ {
		for x := r.Min.X; x < r.Max.X; x++ {
			i := img.PixOffset(img.Rect.Min.X+x, img.Rect.Min.Y+y)
			for channel := range m {
				m[channel] += float64(img.Pix[i+channel])
			}
		}
	}
	n := float64(max(1, r.Dx()*r.Dy()))
	return [3]float64{m[0] / n, m[1] / n, m[2] / n}
}
