package shrink

import (
	"image"
	"math"
	"slices"

	"dorbin/core/bilevel"
)

const (
	pureInk       = 0.45 // saturation from which ink is of a colour
	paleShare     = 0.6  // of the saturation of an ink, from which what has its hue is of it
	tintedInk     = 0.3  // saturation from which ink has a hue
	pureMost      = 0.5  // of the ink with a hue, at least, that is of a colour: else it is pale ink, some of it less
	hues          = 12   // that are told apart
	mostInks      = 5    // colours, besides what has none
	leastMark     = 20   // pixels of a mark that tell a colour
	leastInkShare = 0.005
	alikeHues     = 1.5  // hues that are one ink
	mixedMark     = 2e-3 // square inches of marks that may be several inks, one over the other
	mixedShare    = 0.12 // of a mark, from which it is
	aroundPixels  = 2    // to each side, over which the colour of a pixel is averaged
)

// inkSorter tells inks apart by their colour against the paper, not by how dark they are: thin and
// faint strokes are of the same ink as thick ones.
type inkSorter struct {
	img   *image.RGBA
	ink   *bilevel.Bitmap
	paper *paper
	inks  []shade // those with a colour
}

// colourless is the ink without a colour; the others follow.
const colourless = 0

// inksByColour parts the ink of a page by its colours.
func inksByColour(img *image.RGBA, ink *bilevel.Bitmap, p *paper, dpi float64) []*bilevel.Bitmap {
	marks := ink.Components()
	s := &inkSorter{img: img, ink: ink, paper: p}
	colours := make([]shade, len(marks))
	for i, mark := range marks {
		colours[i] = s.shadeOfMark(mark)
	}
	s.findHues(marks, colours)
	masks := make([]*bilevel.Bitmap, 1+len(s.inks))
	put := func(i int) *bilevel.Bitmap {
		if masks[i] == nil {
			masks[i] = bilevel.New(ink.Width, ink.Height)
		}
		return masks[i]
	}
	for i, mark := range marks {
		if len(s.inks) > 0 && float64(mark.Area) > mixedMark*dpi*dpi && s.isMixed(mark) {
			s.drawByPixel(mark, put)
		} else {
			put(s.inkOf(colours[i])).Draw(mark)
		}
	}
	return slices.DeleteFunc(masks, func(mask *bilevel.Bitmap) bool { return mask == nil }) // inks that are nowhere
}

// shade is what an ink does to white paper: how pure its colour is, 0 to 1, and which, in hues.
type shade struct{ purity, hue float64 }

// shadeOf compares the sum of so many pixels with the paper.
func shadeOf(of sum, paper []uint8) shade {
	if of.count == 0 {
		return shade{}
	}
	var passes [3]float64 // share of the light
	for i, level := range []uint32{of.red, of.green, of.blue} {
		passes[i] = min(1, float64(level)/float64(of.count)/max(1, float64(paper[i])))
	}
	least, most := min(passes[0], passes[1], passes[2]), max(passes[0], passes[1], passes[2])
	if most-least < 1e-3 {
		return shade{}
	}
	x, y := passes[0]-(passes[1]+passes[2])/2, (passes[1]-passes[2])*math.Sqrt(3)/2
	hue := math.Atan2(y, x) / (2 * math.Pi) * hues
	return shade{(most - least) / max(0.05, 1-least), math.Mod(hue+hues, hues)}
}

// shadeOfMark is that of the darker half of a mark: at its edges it has run into the paper.
func (s *inkSorter) shadeOfMark(mark bilevel.Component) shade {
	var histogram [256]int
	level := func(i int) int { return (int(s.img.Pix[i]) + int(s.img.Pix[i+1]) + int(s.img.Pix[i+2])) / 3 }
	each := func(do func(i int)) {
		for _, r := range mark.Runs {
			i := s.img.PixOffset(s.img.Rect.Min.X+r.From, s.img.Rect.Min.Y+r.Y)
			for range r.To - r.From {
				do(i)
				i += 4
			}
		}
	}
	each(func(i int) { histogram[level(i)]++ })
	middle := levelAt(&histogram, (mark.Area+1)/2)
	var darker sum
	each(func(i int) {
		if level(i) <= middle {
			darker.add(s.img.Pix[i:])
		}
	})
	return shadeOf(darker, s.paper.at((mark.Box.Min.X+mark.Box.Max.X)/2, (mark.Box.Min.Y+mark.Box.Max.Y)/2))
}

// findHues finds of which colours there is enough to be an ink.
func (s *inkSorter) findHues(marks []bilevel.Component, shades []shade) {
	var area, purity, tinted [hues]float64
	all := 0.0
	for i, mark := range marks {
		all += float64(mark.Area)
		if shades[i].purity < tintedInk || mark.Area < leastMark {
			continue
		}
		hue := int(shades[i].hue) % hues
		tinted[hue] += float64(mark.Area)
		if shades[i].purity >= pureInk {
			area[hue] += float64(mark.Area)
			purity[hue] += float64(mark.Area) * shades[i].purity
		}
	}
	for len(s.inks) < mostInks {
		best, most := 0, 0.0
		for i := range area {
			if sum := area[i] + area[(i+1)%hues]/2 + area[(i+hues-1)%hues]/2; area[i] > 0 && sum > most {
				best, most = i, sum
			}
		}
		if most < leastInkShare*all || most == 0 {
			return
		}
		if area[best] >= pureMost*tinted[best] {
			s.inks = append(s.inks, shade{purity[best] / area[best], float64(best) + 0.5})
		}
		for _, i := range []int{best - 1, best, best + 1} {
			area[(i+hues)%hues] = 0
		}
	}
}

// inkOf gives the ink of a shade: colourless, or 1 for the first of the others and so on.
func (s *inkSorter) inkOf(of shade) int {
	best, distance := colourless, float64(alikeHues)
	for i, ink := range s.inks {
		away := math.Abs(of.hue - ink.hue)
		if away = min(away, hues-away); away <= distance && of.purity >= min(pureInk, paleShare*ink.purity) {
			best, distance = i+1, away
		}
	}
	return best
}

// shadeAround is that of the ink around a pixel.
func (s *inkSorter) shadeAround(x, y int) shade {
	var around sum
	for v := max(0, y-aroundPixels); v <= min(s.ink.Height-1, y+aroundPixels); v++ {
		for u := max(0, x-aroundPixels); u <= min(s.ink.Width-1, x+aroundPixels); u++ {
			if s.ink.Black(u, v) {
				around.add(s.img.Pix[s.img.PixOffset(s.img.Rect.Min.X+u, s.img.Rect.Min.Y+v):])
			}
		}
	}
	return shadeOf(around, s.paper.at(x, y))
}

// isMixed tells whether a mark is of several inks, from some of its pixels.
func (s *inkSorter) isMixed(mark bilevel.Component) bool {
	counts := make([]int, 1+len(s.inks))
	all := 0
	for i := 0; i < len(mark.Runs); i += 3 {
		r := mark.Runs[i]
		counts[s.inkOf(s.shadeAround((r.From+r.To)/2, r.Y))]++
		all++
	}
	several := 0
	for _, count := range counts {
		if float64(count) >= mixedShare*float64(all) {
			several++
		}
	}
	return several > 1
}

func (s *inkSorter) drawByPixel(mark bilevel.Component, put func(ink int) *bilevel.Bitmap) {
	for _, r := range mark.Runs {
		for x := r.From; x < r.To; x++ {
			put(s.inkOf(s.shadeAround(x, r.Y))).Set(x, r.Y)
		}
	}
}
