package shrink

import (
	"image"
	"image/color"
	"math/bits"
	"slices"

	"dorbin/core/bilevel"
	"dorbin/core/raster"
)

// ForegroundMask is what is of one colour on a page, at the page's own resolution.
type ForegroundMask struct {
	Colour color.RGBA
	Data   []byte          // where it is, by JBIG2; written by Encode
	mask   *bilevel.Bitmap // the same; none once it is written
}

// Layered is a page as ink over a background: mixed raster content, as a PDF expresses
// it by image masks over an image (ISO 32000-1, 8.9.6.2).
type Layered struct {
	Width, Height int // pixels, of the inks
	Background    JPEG
	Inks          []ForegroundMask
}

// BackgroundParams is how a background is softened.
type BackgroundParams struct {
	DPI     float64 // of the background
	Quality int     // of its JPEG
}

const (
	finestDPI  = 250 // below which a mask is finer than the picture it is of
	mostInks   = 6
	alikeInks  = 52 // between colours that are one, as the sum of the differences of their channels
	leastOfInk = 6  // pixels of a mark that tell its colour
	haloPixels = 1  // around ink, where its colour has run into the paper
	fillPasses = 64 // most cells of background that are bridged
)

// segmented is a picture of a page in ink and what is behind it.
type segmented struct {
	picture *image.RGBA
	dpi     float64
	ink     *bilevel.Bitmap
	halo    *bilevel.Bitmap     // the ink and what it has run into, once that is asked for
	inks    []ForegroundMask    // by colours; the same
	behind  map[int]image.Image // the background, by how many pixels across are one
}

// segment finds ink in a picture of a page of so many dots an inch. It is for paper with ink
// on it: of a photograph it makes nothing sensible.
func segment(img image.Image, dpi float64) *segmented {
	if dpi < finestDPI {
		// Letters of few pixels have their shape in the greys of their edges: drawn
		// larger, the mask keeps it.
		size := img.Bounds().Size()
		img, dpi = raster.Resize(img, 2*size.X, 2*size.Y), 2*dpi
	}
	return &segmented{picture: raster.ToRGBA(img), dpi: dpi, ink: inkOf(img), behind: map[int]image.Image{}}
}

// compressBackground softens what is behind the ink.
func (p *segmented) compressBackground(soft BackgroundParams) (Layered, error) {
	if p.halo == nil {
		p.halo, p.inks = grown(p.ink, haloPixels), inksOf(p.picture, p.ink)
	}
	l := Layered{Width: p.ink.Width, Height: p.ink.Height, Inks: slices.Clone(p.inks)}
	factor := max(1, int(p.dpi/soft.DPI+0.5))
	back, ok := p.behind[factor]
	if !ok {
		back = background(p.picture, p.halo, factor)
		p.behind[factor] = back
	}
	var err error
	l.Background, err = encodeJPEG(back, soft.Quality)
	return l, err
}

// draw gives the page as a reader shows it, its background from the bytes that are
// written, with so many of its dots as one, across and down.
func (l Layered) draw(detail int) (*image.RGBA, error) {
	back, err := l.Background.decode()
	if err != nil {
		return nil, err
	}
	out := raster.ToRGBA(l.drawnSize(back, detail))
	l.paint(out.Pix, out.Stride, 4, detail, func(c color.RGBA) []uint8 { return []uint8{c.R, c.G, c.B} })
	return out, nil
}

// drawGray gives the same in grey.
func (l Layered) drawGray(detail int) (*image.Gray, error) {
	back, err := l.Background.decode()
	if err != nil {
		return nil, err
	}
	out := raster.ToGray(l.drawnSize(raster.ToGray(back), detail))
	l.paint(out.Pix, out.Stride, 1, detail, func(c color.RGBA) []uint8 {
		return []uint8{color.GrayModel.Convert(c).(color.Gray).Y}
	})
	return out, nil
}

// drawnSize gives a background as many pixels as the page is drawn with.
func (l Layered) drawnSize(back image.Image, detail int) image.Image {
	return raster.Resize(back, max(1, l.Width/detail), max(1, l.Height/detail))
}

// paint lays the inks over samples, so many a pixel, of which an ink has as many levels
// at most.
func (l Layered) paint(samples []uint8, stride, perPixel, detail int, levels func(color.RGBA) []uint8) {
	counts := make([]int, max(1, l.Width/detail))
	for _, ink := range l.Inks {
		of := levels(ink.Colour)
		for y := range max(1, l.Height/detail) {
			if !ink.cover(counts, y, detail) {
				continue
			}
			row := samples[y*stride:]
			for x, covered := range counts {
				if covered > 0 {
					cover(row[perPixel*x:][:len(of)], of, covered, detail*detail)
				}
			}
		}
	}
}

// cover counts the dots of ink in each square of a row of squares of so many dots, and
// tells whether there are any.
func (i ForegroundMask) cover(counts []int, y, size int) (found bool) {
	clear(counts)
	for v := y * size; v < min((y+1)*size, i.mask.Height); v++ {
		for at, b := range i.mask.Row(v) {
			for ; b != 0; b &= b - 1 {
				found = true
				// The first dot of a byte is its highest bit.
				if square := (8*at + 7 - bits.TrailingZeros8(b)) / size; square < len(counts) {
					counts[square]++
				}
			}
		}
	}
	return found
}

// cover lays a colour over a pixel, of which it covers a share.
func cover(pixel, colour []uint8, share, of int) {
	for i, level := range colour {
		pixel[i] = byte((int(level)*share + int(pixel[i])*(of-share)) / of) //nolint:gosec // between two bytes
	}
}

// inkOf is what is ink on a page, however it is lit.
func inkOf(img image.Image) *bilevel.Bitmap {
	bw, _ := raster.Tone{Mode: raster.BlackWhite}.Apply(img).(*image.Gray) // which it always is
	return bilevel.FromGray(bw)
}

// inksOf parts ink by its colours: marks that hang together are of one.
func inksOf(img *image.RGBA, ink *bilevel.Bitmap) []ForegroundMask {
	palette := palette{}
	var masks []*bilevel.Bitmap
	for _, c := range ink.Components() {
		i := palette.find(colourOf(img, c), c.Area)
		if i == len(masks) {
			masks = append(masks, bilevel.New(ink.Width, ink.Height))
		}
		masks[i].Draw(c)
	}
	inks := make([]ForegroundMask, len(masks))
	for i, mask := range masks {
		inks[i] = ForegroundMask{Colour: palette.colour(i), mask: mask}
	}
	return inks
}

// colourOf is the colour of the darker half of a mark: at its edges it has run into the
// paper.
func colourOf(img *image.RGBA, c bilevel.Component) [3]int {
	var histogram [256]int
	level := func(i int) int { return (int(img.Pix[i]) + int(img.Pix[i+1]) + int(img.Pix[i+2])) / 3 }
	each := func(do func(i int)) {
		for _, r := range c.Runs {
			for x := r.From; x < r.To; x++ {
				do(img.PixOffset(img.Rect.Min.X+x, img.Rect.Min.Y+r.Y))
			}
		}
	}
	each(func(i int) { histogram[level(i)]++ })
	middle, left := 0, (c.Area+1)/2
	for left -= histogram[0]; left > 0 && middle < 255; left -= histogram[middle] {
		middle++
	}
	var darker sum
	each(func(i int) {
		if level(i) <= middle {
			darker.add(img.Pix[i:])
		}
	})
	colour := darker.mean()
	return [3]int{int(colour.R), int(colour.G), int(colour.B)}
}

// palette gathers colours that are nearly one.
type palette []struct {
	sum  [3]int
	area int
}

// find gives the place of the colour in the palette that is nearest, or a new one.
func (p *palette) find(colour [3]int, area int) int {
	best, distance := -1, 0
	for i, known := range *p {
		d := 0
		for channel, v := range colour {
			d += max(v-known.sum[channel]/known.area, known.sum[channel]/known.area-v)
		}
		if best < 0 || d < distance {
			best, distance = i, d
		}
	}
	if best < 0 || (distance > alikeInks && len(*p) < mostInks && area >= leastOfInk) {
		best = len(*p)
		*p = append(*p, struct {
			sum  [3]int
			area int
		}{})
	}
	entry := &(*p)[best]
	entry.area += area
	for channel, v := range colour {
		entry.sum[channel] += v * area
	}
	return best
}

func (p palette) colour(i int) color.RGBA {
	level := func(channel int) uint8 { return uint8(p[i].sum[channel] / p[i].area) } //nolint:gosec // a mean of bytes
	return color.RGBA{level(0), level(1), level(2), 255}
}

// grown has all pixels of a bitmap and those beside them.
func grown(b *bilevel.Bitmap, by int) *bilevel.Bitmap {
	out := b.Clone()
	for range by {
		out = out.Thickened()
	}
	return out
}

// background averages what is not ink over squares of so many pixels. Squares that are
// all ink get what is around them.
func background(img *image.RGBA, ink *bilevel.Bitmap, factor int) image.Image {
	w, h := (ink.Width+factor-1)/factor, (ink.Height+factor-1)/factor
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	known := make([]bool, w*h)
	squares := make([]sum, w)
	for y := range h {
		clear(squares)
		for v := y * factor; v < min(ink.Height, (y+1)*factor); v++ {
			addPaper(squares, img.Pix[v*img.Stride:][:4*ink.Width], ink.Row(v), factor)
		}
		for x, square := range squares {
			if square.count > 0 {
				out.SetRGBA(x, y, square.mean())
				known[y*w+x] = true
			}
		}
	}
	fillUnknown(out, known)
	return out
}

// sum is that of the colours of so many pixels.
type sum struct{ red, green, blue, count int }

func (s *sum) add(pixel []uint8) {
	s.red, s.green, s.blue = s.red+int(pixel[0]), s.green+int(pixel[1]), s.blue+int(pixel[2])
	s.count++
}

func (s *sum) mean() color.RGBA {
	return color.RGBA{uint8(s.red / s.count), uint8(s.green / s.count), uint8(s.blue / s.count), 255} //nolint:gosec // means of bytes
}

// addPaper adds what is not ink in a row of pixels to the squares that they are in.
func addPaper(squares []sum, pixels []uint8, ink []byte, factor int) {
	width := len(pixels) / 4
	for i := range squares {
		square := squares[i]
		for x := i * factor; x < min(width, (i+1)*factor); x++ {
			if ink[x>>3]&(0x80>>(x&7)) == 0 {
				square.add(pixels[4*x : 4*x+4])
			}
		}
		squares[i] = square
	}
}

// fillUnknown spreads what is known to its neighbours, a pixel each time, and then fills
// what is left with white.
func fillUnknown(img *image.RGBA, known []bool) {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	for range fillPasses {
		var found []int
		for y := range h {
			for x := range w {
				if !known[y*w+x] && spread(img, known, x, y) {
					found = append(found, y*w+x)
				}
			}
		}
		if len(found) == 0 {
			break
		}
		for _, i := range found {
			known[i] = true
		}
	}
	for i, is := range known {
		if !is {
			copy(img.Pix[4*i:], []uint8{255, 255, 255, 255})
		}
	}
}

func spread(img *image.RGBA, known []bool, x, y int) bool {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	var around sum
	for v := max(0, y-1); v <= min(h-1, y+1); v++ {
		for u := max(0, x-1); u <= min(w-1, x+1); u++ {
			if known[v*w+u] {
				around.add(img.Pix[img.PixOffset(u, v):])
			}
		}
	}
	if around.count > 0 {
		img.SetRGBA(x, y, around.mean())
	}
	return around.count > 0
}
