package shrink

import (
	"fmt"
	"image"
	"image/color"
	"math"
	"slices"

	"dorbin/core/bilevel"
	"dorbin/core/raster"
)

// Encoding is how a picture of a page is written.
type Encoding string

// The encodings.
const (
	Original Encoding = "kept"    // as it is
	OneBit   Encoding = "oneBit"  // ink or paper, nothing between
	Layers   Encoding = "layers"  // ink kept sharp in its own colours, paper softened
	Resized  Encoding = "resized" // a JPEG of its own dots an inch
)

// EncodingParams is a way with what it leaves open.
type EncodingParams struct {
	Encoding Encoding `json:"way" enum:"kept,oneBit,layers,resized"`
	DPI      int      `json:"dpi,omitempty" doc:"At most: of a JPEG, or of the paper behind ink."`
	Quality  int      `json:"quality,omitempty" doc:"Of the JPEG, up to 100."`
	Grey     bool     `json:"grey,omitempty" doc:"The JPEG is without colour."`
}

// Check tells what is wrong with an encoding.
func (r EncodingParams) Check() error {
	switch r.Encoding {
	case Original, OneBit:
		return nil
	case Layers, Resized:
		if r.DPI < 1 || r.DPI > 2400 || r.Quality < 1 || r.Quality > 100 {
			return fmt.Errorf("a page is not written with %d dots an inch in quality %d", r.DPI, r.Quality)
		}
		return nil
	}
	return fmt.Errorf("there is no way %q to write a page", r.Encoding)
}

// losslessEncodings are those by which nothing is lost that is seen at twice the size of the
// paper, the better one first. The quality of a photograph is measured.
var losslessEncodings = []EncodingParams{{Encoding: Layers, DPI: 75, Quality: 50}, {Encoding: Resized, DPI: 200, Quality: 78}}

// coarser are encodings by which the paper behind ink loses more.
var coarser = []EncodingParams{{Encoding: Layers, DPI: 45, Quality: 40}}

// The ends of the way from the smallest JPEG to the largest that is worth writing.
const (
	lightestDPI, lightestQuality = 90, 45
	heaviestDPI, heaviestQuality = 300, 92
)

// photographSteps are the places on that way that are measured. What lies between is written by RefineQuality.
var photographSteps = []float64{0, 0.25, 0.5, 0.85}

// resizedAt is the JPEG at a place on the way from the smallest, 0, to the largest, 1:
// dots and quality grow together, so that neither is wasted on the other.
func resizedAt(place float64) EncodingParams {
	dpi := lightestDPI * math.Pow(heaviestDPI/float64(lightestDPI), place)
	quality := lightestQuality + (heaviestQuality-lightestQuality)*place
	return EncodingParams{Encoding: Resized, DPI: int(dpi + 0.5), Quality: int(quality + 0.5)}
}

// inGrey are the same encodings without colour.
func inGrey(encodings []EncodingParams) []EncodingParams {
	grey := slices.Clone(encodings)
	for i := range grey {
		grey[i].Grey = true
	}
	return grey
}

// Write writes a picture of a page, of so many dots an inch, by an encoding. Its ink is only
// known until Encode writes it.
func Write(img image.Image, dpi float64, encoding EncodingParams) (CompressedPage, error) {
	return newSubject(img, dpi).write(encoding)
}

// subject is a picture of a page that several encodings are tried on.
type subject struct {
	image.Image // grey, or RGBA
	dpi         float64
	kind        Kind            // once it is known
	oneBit      *bilevel.Bitmap // the picture, where it has no levels between
	parted      *segmented
	layers      layersTried
	tried       map[EncodingParams]attempt
	layersFail  bool        // they cannot show the page; once that was tried
	isColoured  bool        // a photograph, that has colour to lose; once that is known
	isPart      bool        // of several pictures, which have encodings in common
	inGray      *image.Gray // without colours, once it is asked for
	small       image.Image // the same
	scaled      image.Image // with fewer dots
	scaledDPI   int
	original    *original // as closely as it is looked at, once it is compared with
}

func newSubject(img image.Image, dpi float64) *subject {
	gray, isGray := img.(*image.Gray)
	if isGray && bilevel.IsOneBit(gray) {
		return &subject{Image: img, dpi: dpi, oneBit: bilevel.FromGray(gray), tried: map[EncodingParams]attempt{}}
	}
	if !isGray {
		img = raster.ToRGBA(img) // what a JPEG decodes to is slow to draw from
	}
	return &subject{Image: img, dpi: dpi, tried: map[EncodingParams]attempt{}}
}

func (s *subject) write(encoding EncodingParams) (CompressedPage, error) {
	switch encoding.Encoding {
	case OneBit:
		return s.inOneBit(), nil
	case Layers:
		layered, err := s.inLayers().compressBackground(BackgroundParams{float64(encoding.DPI), encoding.Quality})
		return CompressedPage{EncodingParams: encoding, Layered: layered}, err
	case Resized:
		return s.resized(encoding)
	}
	return CompressedPage{}, fmt.Errorf("a page is not written by the way %q", encoding.Encoding)
}

// leastPrintDPI is what print has at least that can be read. A picture with fewer is of a smaller paper than is thought: its file
// may not tell how large it is.
const leastPrintDPI = 150

// printDPI is how many dots an inch the picture has if it is of print.
func (s *subject) printDPI() float64 { return max(leastPrintDPI, s.dpi) }

// inLayers parts the picture once for all encodings.
func (s *subject) inLayers() *segmented {
	if s.parted == nil {
		s.parted = segment(s.Image, s.gray(), s.printDPI(), s.compared(), picturesOn(s.glance()))
	}
	return s.parted
}

func (s *subject) inOneBit() CompressedPage {
	ink := s.oneBit
	if ink == nil {
		ink = s.inLayers().allInk
	}
	return CompressedPage{EncodingParams: EncodingParams{Encoding: OneBit}, Layered: Layered{
		Width: ink.Width, Height: ink.Height, Inks: []ForegroundMask{{Colour: color.RGBA{A: 255}, mask: ink}},
	}}
}

func (s *subject) resized(encoding EncodingParams) (CompressedPage, error) {
	img := s.scaledTo(encoding.DPI)
	if encoding.Grey {
		img = raster.ToGray(img)
	}
	picture, err := encodeJPEG(img, encoding.Quality)
	return CompressedPage{EncodingParams: encoding, JPEG: picture}, err
}

// glance is the picture as small as it is enough to tell colours and kinds by.
func (s *subject) glance() image.Image {
	if s.small == nil {
		s.small = raster.Fit(s.Image, differenceEdge)
	}
	return s.small
}

// gray is the picture without colours.
func (s *subject) gray() *image.Gray {
	if s.inGray == nil {
		s.inGray = raster.ToGray(s.Image)
	}
	return s.inGray
}

// compared is what a drawn page is held against: print as closely as it is read, a photograph as it is seen.
func (s *subject) compared() *original {
	switch {
	case s.original != nil:
	case s.kind == ContinuousTone:
		s.original = newOriginal(s.gray(), s.dpi, seenDPI)
	default:
		s.original = newOriginal(s.gray(), s.printDPI(), readDPI).onGrainyPaper()
	}
	return s.original
}

// scaledTo is the picture with so many dots an inch at most; the last is kept.
func (s *subject) scaledTo(dpi int) image.Image {
	share := float64(dpi) / s.dpi
	if share >= 1 {
		return s.Image
	}
	if s.scaledDPI != dpi {
		size := s.Bounds().Size()
		s.scaled = raster.Resize(s.Image, max(1, int(float64(size.X)*share+0.5)), max(1, int(float64(size.Y)*share+0.5)))
		s.scaledDPI = dpi
	}
	return s.scaled
}
