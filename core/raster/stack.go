package raster

import "image"

// Stack is pages of one size laid on each other, in grey, to be seen through. Each
// is first brought to white paper.
type Stack struct {
	width, height int
	darkest       []uint8
	sum           []uint32
	pages         uint32
}

// NewStack is an empty stack of width by height pixels.
func NewStack(width, height int) *Stack {
	s := &Stack{width: width, height: height, darkest: make([]uint8, width*height), sum: make([]uint32, width*height)}
	for i := range s.darkest {
		s.darkest[i] = 255
	}
	return s
}

// rounding is by how many pixels pictures of pages of one size may differ.
const rounding = 2

// Add lays a page on top.
func (s *Stack) Add(img image.Image) {
	size := img.Bounds().Size()
	if max(size.X-s.width, s.width-size.X) > rounding || max(size.Y-s.height, s.height-size.Y) > rounding {
		img = Resize(img, s.width, s.height)
	}
	gray := ToGray(img)
	white := whitening(gray)
	for y := range min(s.height, gray.Rect.Dy()) {
		row := gray.Pix[y*gray.Stride:][:min(s.width, gray.Rect.Dx())]
		darkest, sum := s.darkest[y*s.width:], s.sum[y*s.width:]
		for x, v := range row {
			v = white[v]
			darkest[x] = min(darkest[x], v)
			sum[x] += uint32(v)
		}
	}
	s.pages++
}

// whitening is a curve that makes a page's paper white.
func whitening(gray *image.Gray) (curve [256]uint8) {
	var histogram [256]int
	for y := 0; y < gray.Rect.Dy(); y += 2 {
		for _, v := range gray.Pix[y*gray.Stride:][:gray.Rect.Dx()] {
			histogram[v]++
		}
	}
	paper := max(1, percentile(&histogram, (gray.Rect.Dy()+1)/2*gray.Rect.Dx(), paperShare))
	for v := range curve {
		curve[v] = uint8(min(255, v*255/paper)) //nolint:gosec // at most 255
	}
	return curve
}

// Darkest shows at each place the darkest of all pages: the ink of every page.
func (s *Stack) Darkest() *image.Gray {
	return &image.Gray{Pix: s.darkest, Stride: s.width, Rect: image.Rect(0, 0, s.width, s.height)}
}

// Average shows the mean of all pages.
func (s *Stack) Average() *image.Gray {
	out := image.NewGray(image.Rect(0, 0, s.width, s.height))
	for i, sum := range s.sum {
		out.Pix[i] = uint8(sum / max(1, s.pages)) //nolint:gosec // a mean of bytes
	}
	return out
}
