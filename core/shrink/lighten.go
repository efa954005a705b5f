package shrink

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"

	"dorbin/core/bilevel"
	"dorbin/core/bilevel/jbig2"
	"dorbin/core/raster"
)

// Way is how a picture of a page is written.
type Way string

// The ways.
const (
	OneBit  Way = "oneBit"  // black and white, every pixel kept
	Layers  Way = "layers"  // ink kept sharp in its own colours, paper softened
	Resized Way = "resized" // a JPEG at fewer dots an inch
)

// Light is a page in fewer bytes. What is set depends on the way.
type Light struct {
	Kind    Kind
	Way     Way
	Layered Layered // of one bit: a single ink, and no background
	Shared  []byte  // by JBIG2: what the inks share with those of other pages; may be empty
	JPEG    []byte
	Width   int // of the JPEG, in pixels
	Height  int
	Gray    bool // the JPEG has one channel

	sharing int // pages that have Shared in common
}

// Bytes is what the page weighs once it is written, with its share of what it shares.
func (l Light) Bytes() int {
	n := len(l.JPEG) + len(l.Layered.JPEG) + len(l.Shared)/max(1, l.sharing)
	for _, ink := range l.Layered.Inks {
		n += len(ink.Data)
	}
	return n
}

// Encode writes the inks of pages: together, when what they share makes them smaller,
// or each on its own. Until then they are only known. What is nil is left out.
func Encode(lights []*Light) {
	var inks []*Ink
	var masks []*bilevel.Bitmap
	var pages []*Light
	for _, light := range lights {
		if light == nil || len(light.Layered.Inks) == 0 {
			continue
		}
		pages = append(pages, light)
		for i := range light.Layered.Inks {
			ink := &light.Layered.Inks[i]
			inks, masks = append(inks, ink), append(masks, ink.mask)
		}
	}
	written := jbig2.Encode(masks)
	if alone := jbig2.EncodeEach(masks); alone.Bytes() <= written.Bytes() {
		written = alone
	}
	for i, ink := range inks {
		ink.Data, ink.mask = written.Pages[i], nil
	}
	for _, page := range pages {
		page.Shared, page.sharing = written.Shared, len(pages)
	}
}

// What is not to be seen at twice the size of the paper.
var lightly = struct {
	paper   Softness // of what lies behind ink
	dpi     float64  // of photographs
	quality int
	loss    float64 // of layers, by Difference
}{Softness{DPI: 100, Quality: 55}, 200, 78, 24}

// Lighten writes a picture of a page, of so many dots an inch, in fewer bytes, so that
// nothing is lost that is seen at twice the size of the paper. It takes layers only
// where what they show was compared with the page. Its ink is written by Encode.
func Lighten(img image.Image, dpi float64) (Light, error) {
	if gray, ok := img.(*image.Gray); ok && bilevel.IsOneBit(gray) {
		ink := bilevel.FromGray(gray)
		return Light{Kind: BlackText, Way: OneBit, Layered: Layered{
			Width: ink.Width, Height: ink.Height, Inks: []Ink{{Colour: color.RGBA{A: 255}, mask: ink}},
		}}, nil
	}
	kind := KindOf(img)
	if kind == Photograph {
		return resized(img, kind, dpi)
	}
	layered, err := Layer(img, dpi, lightly.paper)
	if err != nil {
		return Light{}, err
	}
	drawn, err := layered.Draw()
	if err != nil {
		return Light{}, err
	}
	if Difference(img, drawn) > lightly.loss {
		return resized(img, kind, dpi)
	}
	return Light{Kind: kind, Way: Layers, Layered: layered}, nil
}

func resized(img image.Image, kind Kind, dpi float64) (Light, error) {
	size := img.Bounds().Size()
	if share := lightly.dpi / dpi; share < 1 {
		img = raster.Resize(img, max(1, int(float64(size.X)*share+0.5)), max(1, int(float64(size.Y)*share+0.5)))
	}
	l := Light{Kind: kind, Way: Resized, Width: img.Bounds().Dx(), Height: img.Bounds().Dy()}
	if l.Gray = isGrey(img); l.Gray {
		img = raster.ToGray(img)
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: lightly.quality}); err != nil {
		return l, fmt.Errorf("encode a page: %w", err)
	}
	l.JPEG = out.Bytes()
	return l, nil
}
