package shrink

import (
	"image"
	"slices"

	"dorbin/core/bilevel"
	"dorbin/core/jpeg"
	"dorbin/core/raster"
)

// BackgroundParams is how a background is softened.
type BackgroundParams struct {
	DPI     float64 // of the background
	Quality int     // of its JPEG
}

const (
	maskDPI        = 300     // below which a mask is finer than the picture it is of
	mostLarger     = 2       // times, than the picture
	haloInch       = 1e-2    // around ink, where its colour has run into the paper
	paperDPI       = 50      // at which paper is known
	strokeInch     = 8e-3    // across which the darkest of a thin stroke is found
	finerPictures  = 8.0 / 3 // times the dots of the paper behind ink
	betterPictures = 25      // by so much the quality of their JPEG is better
	plainlySeen    = 20      // grey levels of deviation of what is worth being a picture: what shows through paper is not
	speckInch      = 0.012   // across a mark that may be the grain of paper
	faintMark      = 0.45    // of the usual contrast of ink, below which such a mark is
)

// segmented is a picture of a page in ink and what is behind it.
type segmented struct {
	picture  *image.RGBA
	dpi      float64
	given    float64         // dots an inch of the picture before it was enlarged
	pictures *pictures       // on the paper
	area     *bilevel.Bitmap // of the pictures; nil where there are none
	allInk   *bilevel.Bitmap // with what is in pictures
	ink      *bilevel.Bitmap // without that
	halo     *bilevel.Bitmap // the ink and what it has run into
	allHalo  *bilevel.Bitmap // the same of all ink
	paper    *paper
	inks     []ForegroundMask    // by colours, once they are asked for; the same
	behind   map[int]*image.RGBA // the background, by how many pixels across are one
}

// segment finds ink in a picture of a page of so many dots an inch. It is for paper with ink
// on it: of a photograph it makes nothing sensible. What was found to be pictures on the paper is no ink,
// nor is what does not look like the page when it is drawn as ink, which is added to the pictures.
func segment(img image.Image, gray *image.Gray, dpi float64, page *original, shown *pictures) *segmented {
	s := newSegmented(img, dpi)
	s.pictures, dpi = shown, s.dpi
	gray = raster.ToGray(raster.Resize(gray, s.picture.Rect.Dx(), s.picture.Rect.Dy()))
	roughly := inkOf(gray)
	stroke := max(1, int(strokeInch*dpi+0.5))
	followLines(gray, roughly, stroke, page.grain)
	reach := s.haloReach()
	s.paper = paperOf(s.picture, grown(roughly, reach), max(1, int(dpi/paperDPI+0.5)))
	s.allInk = atHalfContrast(gray, roughly, s.paper, stroke)
	marks := eraseSpecks(s.allInk, gray, s.paper, int(speckInch*dpi*speckInch*dpi))
	s.pictures.add(page.gray.Rect, s.misfits(page))
	s.pictures.complete(marks, s.allInk.Width, s.allInk.Height)
	s.allHalo = grown(s.allInk, reach)
	s.partInk()
	return s
}

// partInk leaves the ink that is in pictures to these.
func (s *segmented) partInk() {
	s.area = s.pictures.mask(s.allInk.Width, s.allInk.Height)
	s.ink = withoutPictures(s.allInk, s.area)
	if s.halo = s.allHalo; s.ink != s.allInk {
		s.halo = grown(s.ink, s.haloReach())
	}
	s.inks, s.behind = nil, map[int]*image.RGBA{}
}

// newSegmented gives a picture as large as its masks are, with nothing known of it yet.
func newSegmented(img image.Image, dpi float64) *segmented {
	s := &segmented{behind: map[int]*image.RGBA{}, given: dpi, dpi: dpi}
	if dpi < maskDPI {
		// Letters of few pixels have their shape in the greys of their edges: drawn
		// larger, the mask keeps it.
		larger := min(mostLarger, maskDPI/dpi)
		img, s.dpi = enlarged(img, larger), larger*dpi
	}
	s.picture = raster.ToRGBA(img)
	return s
}

// withInk is a picture of a page whose ink was found before; nil if that cannot be all of it: where there are pictures among
// the ink, there may be ink in them.
func withInk(img image.Image, dpi float64, found Layered) *segmented {
	s := newSegmented(img, dpi)
	if s.picture.Rect.Size() != found.size() {
		return nil
	}
	s.inks, s.ink = found.Inks, bilevel.New(found.Width, found.Height)
	for _, ink := range found.Inks {
		if ink.isPictures {
			return nil
		}
		for i, bits := range ink.mask.Bits {
			s.ink.Bits[i] |= bits
		}
	}
	s.allInk, s.allHalo = s.ink, grown(s.ink, s.haloReach())
	return s
}

// haloReach is how many pixels around ink its colour has run into the paper.
func (s *segmented) haloReach() int { return max(1, int(haloInch*s.dpi+0.5)) }

func enlarged(img image.Image, times float64) image.Image {
	size := img.Bounds().Size()
	return raster.Resize(img, int(times*float64(size.X)+0.5), int(times*float64(size.Y)+0.5))
}

// misfits are the squares of the page that do not look like ink on paper: fine hatching, halftones.
func (s *segmented) misfits(page *original) (squares []image.Rectangle) {
	size := page.gray.Rect.Size()
	drawn := raster.ToGray(raster.Resize(s.paper.levels, size.X, size.Y))
	for i, clear := range whereClear(s.allInk, size).Pix {
		drawn.Pix[i] = uint8(int(drawn.Pix[i]) * int(clear) / opaque) //nolint:gosec // at most a level
	}
	for square, found := range page.squares(drawn) {
		if found.correlation < alike && found.weight >= plainlySeen {
			squares = append(squares, square)
		}
	}
	return squares
}

// compressBackground softens what is behind the ink. Pictures among it are softened less, and lie over
// it as an ink with very many colours.
func (s *segmented) compressBackground(soft BackgroundParams) (Layered, error) {
	var err error
	if s.inks == nil {
		if s.inks, err = s.inColours(); err != nil {
			return Layered{}, err
		}
	}
	l := Layered{Width: s.ink.Width, Height: s.ink.Height, Inks: slices.Clone(s.inks)}
	if l.Background, err = encodeJPEGBy(jpeg.EncodeSmooth, s.softened(soft.DPI), soft.Quality); err != nil {
		return l, err
	}
	if s.area == nil {
		return l, nil
	}
	factor := s.squaresFor(finerPictures * soft.DPI)
	shown := s.pictures.alone(raster.ToRGBA(raster.Resize(s.picture, max(1, s.ink.Width/factor), max(1, s.ink.Height/factor))))
	over := ForegroundMask{mask: s.area, isPictures: true}
	over.Field, err = encodeJPEG(shown, min(mostQuality, soft.Quality+betterPictures))
	l.Inks = slices.Insert(l.Inks, 0, over)
	return l, err
}

// softened is what is behind the ink, with so many dots an inch.
func (s *segmented) softened(dpi float64) *image.RGBA {
	factor := s.squaresFor(dpi)
	back, ok := s.behind[factor]
	if !ok {
		back = background(s.picture, s.allHalo, factor)
		s.behind[factor] = back
	}
	return back
}

// squaresFor gives how many pixels across are one, with so many dots an inch.
func (s *segmented) squaresFor(dpi float64) int { return max(1, int(s.dpi/min(s.given, dpi)+0.5)) }

// inkOf is what is ink on a page, however it is lit.
func inkOf(img image.Image) *bilevel.Bitmap {
	bw, _ := raster.Tone{Mode: raster.BlackWhite}.Apply(img).(*image.Gray) // which it always is
	return bilevel.FromGray(bw)
}

// grown has all pixels of a bitmap and those beside them.
func grown(b *bilevel.Bitmap, by int) *bilevel.Bitmap {
	out := b.Clone()
	for range by {
		out = out.Thickened()
	}
	return out
}

// eraseSpecks takes marks of few pixels away that are much fainter than the ink of the page: the grain
// of paper. They stay in what is behind the ink. The other marks are returned.
func eraseSpecks(ink *bilevel.Bitmap, gray *image.Gray, p *paper, area int) (others []bilevel.Component) {
	marks := ink.Components()
	contrasts := make([]int, len(marks))
	var pixels [256]int // by the contrast of the mark that they are of
	all := 0
	for i, mark := range marks {
		darkest := uint8(255)
		for _, r := range mark.Runs {
			darkest = min(darkest, slices.Min(gray.Pix[r.Y*gray.Stride+r.From:r.Y*gray.Stride+r.To]))
		}
		contrasts[i] = max(0, p.levelAt(mark.Box.Min.X, mark.Box.Min.Y)-int(darkest))
		pixels[contrasts[i]] += mark.Area
		all += mark.Area
	}
	usual := levelAt(&pixels, all/2)
	for i, mark := range marks {
		if mark.Area <= area && float64(contrasts[i]) < faintMark*float64(usual) {
			ink.Erase(mark)
		} else {
			others = append(others, mark)
		}
	}
	return others
}
