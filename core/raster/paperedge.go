package raster

import (
	"image"
	"slices"

	"dorbin/core/geometry"
)

const (
	edgeShare   = 0.9 // share of the rows, or columns, whose edge the paper's side leaves out
	leastEdgeMM = 0.8 // less is no lid but a shadow
)

// FindPaperEdge tells where on a scan of this size, in points, its paper lies, when
// the lid of the scanner shows darker beside it. Without that the box is zero.
func FindPaperEdge(img image.Image, size geometry.Size) geometry.Box {
	gray := ToGray(Fit(img, contentEdge))
	page := newContentPage(gray, size)
	dark := page.scanEdges()
	w, h := page.width, page.height
	deep := min(page.pixels(edgeDeepMM), w, h) // a stamp is not as long as an edge is deep
	at := func(x, y int) bool { return dark.set[y*w+x] }
	left := sideDepth(h, deep, func(i, depth int) bool { return at(depth, i) })
	right := sideDepth(h, deep, func(i, depth int) bool { return at(w-1-depth, i) })
	top := sideDepth(w, deep, func(i, depth int) bool { return at(i, depth) })
	bottom := sideDepth(w, deep, func(i, depth int) bool { return at(i, h-1-depth) })
	if max(left, right, top, bottom) < page.pixels(leastEdgeMM) || w-left-right < w/2 || h-top-bottom < h/2 {
		return geometry.Box{}
	}
	across, down := size.Width/float64(w), size.Height/float64(h)
	return geometry.Box{
		X0: float64(left) * across, Y0: float64(top) * down,
		X1: float64(w-right) * across, Y1: float64(h-bottom) * down,
	}
}

// sideDepth is how deep an edge reaches along a side of so many rows or columns. Its
// ends, where another side's edge goes on, do not count.
func sideDepth(length, most int, isEdge func(i, depth int) bool) int {
	ends := min(most, length/4)
	depths := make([]int, 0, length)
	for i := ends; i < length-ends; i++ {
		depth := 0
		for depth < most && isEdge(i, depth) {
			depth++
		}
		depths = append(depths, depth)
	}
	if len(depths) == 0 {
		return 0
	}
	slices.Sort(depths)
	return depths[int(edgeShare*float64(len(depths)-1))]
}
