package raster

import (
	"encoding/binary"
	"image"
	"math"
	"slices"

	"dorbin/core/geometry"
)

// Fold is where two facing pages meet, as fractions of the width at the top and
// at the bottom. The zero Fold is none.
type Fold struct {
	Top    float64 `json:"top"`
	Bottom float64 `json:"bottom"`
}

// IsZero tells whether there is no fold.
func (f Fold) IsZero() bool { return f == Fold{} }

const (
	foldWidth   = 500   // pixels of the copy that is searched
	foldStrips  = 12    // from top to bottom
	foldFrom    = 0.34  // the fold is looked for between these shares of the width
	foldTo      = 0.66  //
	foldReach   = 0.044 // how far to both sides the paper is compared with the fold
	leastValley = 0.045 // how much darker the fold is
	widestRule  = 3     // columns to each side: a rule is no shade
	leastStrips = 0.7   // share of the strips that must agree
	foldSpread  = 0.02  // how far off they may be
	leastSpread = 1.1   // width over height of two facing pages
	mostSlope   = 0.15  // a fold is nearly upright
	mostSpread  = 2.4
)

// FindFold looks for the fold between two facing pages within an outline, or in
// the whole picture when the outline is zero: a valley of shade that runs from
// top to bottom in the middle, whatever is printed beside it.
func FindFold(img image.Image, o geometry.PaperQuad) (Fold, bool) {
	if o.IsZero() {
		o = geometry.WholePicture
	}
	bounds := img.Bounds()
	aspect := o.Aspect(float64(bounds.Dx()) / float64(bounds.Dy()))
	if aspect < leastSpread || aspect > mostSpread {
		return Fold{}, false
	}
	height := int(foldWidth / aspect)
	paper := ToGray(Flatten(img, o, foldWidth, height))
	var at []geometry.Point // x of the valley by y, as fractions
	for strip := range foldStrips {
		from, to := strip*height/foldStrips, (strip+1)*height/foldStrips
		if x, depth := valley(paper, from, to); depth >= leastValley {
			at = append(at, geometry.Point{X: x, Y: (float64(strip) + 0.5) / foldStrips})
		}
	}
	return straightFold(at)
}

// valley finds the place between foldFrom and foldTo at which the paper of a
// strip of rows is darkest, and by which share it is darker than beside it.
func valley(paper *image.Gray, from, to int) (x, depth float64) {
	ground := make([]float32, foldWidth)
	column := make([]byte, 0, to-from)
	for x := range ground {
		column = column[:0]
		for y := from; y < to; y++ {
			column = append(column, paper.Pix[y*paper.Stride+x])
		}
		slices.Sort(column)
		ground[x] = float32(column[len(column)*15/16]) // the paper, not the ink
	}
	smoothed := withoutRules(ground)
	reach := int(foldReach * foldWidth)
	best := 0
	for x := int(foldFrom * foldWidth); x < int(foldTo*foldWidth); x++ {
		left := slices.Max(smoothed[x-reach : x])
		right := slices.Max(smoothed[x+1 : x+reach+1])
		if d := float64(1 - smoothed[x]/min(left, right)); d > depth {
			best, depth = x, d
		}
	}
	return (float64(best) + 0.5) / foldWidth, depth
}

// withoutRules closes what is dark for few columns only: rules and frames.
func withoutRules(ground []float32) []float32 {
	n := len(ground)
	brightest := extremes(ground, n, 1, 1, 0, widestRule, func(a, b float32) float32 { return max(a, b) })
	return extremes(brightest, n, 1, 1, 0, widestRule, func(a, b float32) float32 { return min(a, b) })
}

// straightFold is the line on which most of the valleys lie.
func straightFold(at []geometry.Point) (Fold, bool) {
	var best []geometry.Point
	for i, a := range at {
		for _, b := range at[i+1:] {
			slope := (b.X - a.X) / (b.Y - a.Y)
			if math.Abs(slope) > mostSlope {
				continue
			}
			var agree []geometry.Point
			for _, p := range at {
				if math.Abs(a.X+slope*(p.Y-a.Y)-p.X) < foldSpread {
					agree = append(agree, p)
				}
			}
			if len(agree) > len(best) {
				best = agree
			}
		}
	}
	if float64(len(best)) < leastStrips*foldStrips {
		return Fold{}, false
	}
	return regression(best), true
}

// regression is the fold from which the points lie the least far, by squares.
func regression(points []geometry.Point) Fold {
	var mx, my, xy, yy float64
	n := float64(len(points))
	for _, p := range points {
		mx, my = mx+p.X/n, my+p.Y/n
	}
	for _, p := range points {
		xy += (p.X - mx) * (p.Y - my)
		yy += (p.Y - my) * (p.Y - my)
	}
	slope := xy / yy
	return Fold{Top: mx - slope*my, Bottom: mx + slope*(1-my)}
}

// ToGray gives a picture in grey, and a grey one as it is.
func ToGray(img image.Image) *image.Gray {
	switch img := img.(type) {
	case *image.Gray:
		return img
	case *image.YCbCr: // its first plane is the grey
		return &image.Gray{Pix: img.Y, Stride: img.YStride, Rect: img.Rect}
	}
	rgba := ToRGBA(img)
	out := image.NewGray(image.Rect(0, 0, rgba.Rect.Dx(), rgba.Rect.Dy()))
	for y := range out.Rect.Dy() {
		grayRow(out.Pix[y*out.Stride:][:out.Rect.Dx()], rgba.Pix[y*rgba.Stride:])
	}
	return out
}

// grayRow weighs colours as JPEG does (ITU-R BT.601): two pixels at once, each in a lane of 32 bits.
func grayRow(row, pixels []uint8) {
	const (
		lanes = 0x000000FF_000000FF
		half  = 1<<15 | 1<<47
	)
	pixels = pixels[:4*len(row)]
	for ; len(row) >= 2; row, pixels = row[2:], pixels[8:] {
		two := binary.LittleEndian.Uint64(pixels)
		sum := 19595*(two&lanes) + 38470*(two>>8&lanes) + 7471*(two>>16&lanes) + half
		row[0], row[1] = uint8(sum>>16), uint8(sum>>48) //nolint:gosec // means of bytes
	}
	if len(row) == 1 {
		row[0] = uint8((19595*uint32(pixels[0]) + 38470*uint32(pixels[1]) + 7471*uint32(pixels[2]) + 1<<15) >> 16) //nolint:gosec // a mean of bytes
	}
}
