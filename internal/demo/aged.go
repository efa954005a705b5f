package demo

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"math"
	"math/rand/v2"

	"dorbin/core/raster"
	"dorbin/internal/scanner/sim"
)

// aged is how an old paper differs from the sheet as it was drawn, in black on white.
type aged struct {
	paper, ink color.RGBA
	blurDPI    float64    // the resolution that is left of the ink, which has run or was struck through carbon
	fading     float64    // share of the ink that is gone where it is faintest, 0 to 1
	mottled    float64    // share of its brightness that the paper has lost where it is darkest, 0 to 1
	creases    []crease   // where it was folded
	ring       [3]float64 // middle and radius of what a cup has left, in millimetres; none if it has no radius
	tilt       float64    // degrees, on the scanner
	seed       uint64
}

// crease is a fold from one point to another, in millimetres.
type crease struct{ x0, y0, x1, y1 float64 }

const (
	creaseWorn   = 0.3  // millimetres beside a fold in which the ink has come off
	creaseShade  = 5    // millimetres at one side of a fold that lie in its shade
	creaseDark   = 0.16 // share of the light that is missing there
	ringWidth    = 1.4  // millimetres
	ringStrength = 0.2  // share of the light that it takes
	patchMM      = 14   // across what has faded or darkened as one
)

// scan makes a picture of an old paper as a flatbed scanner gives it.
func (a aged) scan(s sheet) *image.RGBA {
	drawn := raster.ToGray(s.Image())
	size := drawn.Rect.Size()
	share := a.blurDPI / (s.perMM * 25.4)
	blurred := raster.Resize(drawn, int(share*float64(size.X)), int(share*float64(size.Y)))
	ink := raster.ToGray(raster.Resize(blurred, size.X, size.Y))
	random := rand.New(rand.NewPCG(a.seed, 17))
	gone, stains := patches(random, size, s.perMM), patches(random, size, s.perMM)
	out := image.NewRGBA(drawn.Rect)
	for y := range size.Y {
		for x := range size.X {
			i := y*ink.Stride + x
			light, worn := a.wear(float64(x)/s.perMM, float64(y)/s.perMM)
			light *= 1 - a.mottled*float64(stains.Pix[i])/255
			density := (1 - float64(ink.Pix[i])/255) * (1 - a.fading*float64(gone.Pix[i])/255) * (1 - worn)
			out.SetRGBA(x, y, inked(a.paper, a.ink, light, density))
		}
	}
	return sim.Scan(out, s.perMM*25.4, sim.Grain{Tilt: a.tilt, Seed: a.seed})
}

// patches are smooth places from 0 to 255, that hold where something happened to a paper.
func patches(random *rand.Rand, size image.Point, perMM float64) *image.Gray {
	few := image.NewGray(image.Rect(0, 0, 2+int(float64(size.X)/perMM/patchMM), 2+int(float64(size.Y)/perMM/patchMM)))
	for i := range few.Pix {
		few.Pix[i] = uint8(random.Uint32()) //nolint:gosec // any level
	}
	return raster.ToGray(raster.Resize(few, size.X, size.Y))
}

// wear tells how much light a place of the paper throws back, and which share of its ink has come off.
func (a aged) wear(x, y float64) (light, worn float64) {
	light = 1
	for _, c := range a.creases {
		d := c.distance(x, y)
		if math.Abs(d) < creaseWorn {
			worn = max(worn, 0.6*(1-math.Abs(d)/creaseWorn))
		}
		if d > 0 {
			light *= 1 - creaseDark*math.Exp(-d/creaseShade)
		}
	}
	if radius := a.ring[2]; radius > 0 {
		off := (math.Hypot(x-a.ring[0], y-a.ring[1]) - radius) / ringWidth
		light *= 1 - ringStrength*math.Exp(-off*off)
	}
	return light, worn
}

// distance is that of a point from a fold, in millimetres, below 0 at one of its sides; it is
// endless beyond the fold's ends.
func (c crease) distance(x, y float64) float64 {
	dx, dy := c.x1-c.x0, c.y1-c.y0
	length := math.Hypot(dx, dy)
	if along := ((x-c.x0)*dx + (y-c.y0)*dy) / length; along < 0 || along > length {
		return math.Inf(-1)
	}
	return ((x-c.x0)*dy - (y-c.y0)*dx) / length
}

// inked lays ink of a density, 0 to 1, on paper that throws back so much light.
func inked(paper, ink color.RGBA, light, density float64) color.RGBA {
	mix := func(p, i uint8) uint8 { return clamp(float64(p)*light*(1-density) + float64(i)*density) }
	return color.RGBA{mix(paper.R, ink.R), mix(paper.G, ink.G), mix(paper.B, ink.B), 255}
}

// encodeScan encodes what a flatbed scanner gives, with its resolution.
func encodeScan(img image.Image, dpi int) ([]byte, error) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: scanQuality}); err != nil {
		return nil, fmt.Errorf("write scan: %w", err)
	}
	return sim.WithDensity(out.Bytes(), dpi), nil
}

// oldReceipt is for slates that the club bought long ago: brown ink on yellowed paper that was
// folded twice and had a cup on it.
func oldReceipt() ([]byte, error) {
	const dpi = 190
	s := newSheet(148, 210, dpi)
	s.SetColor(color.Black)
	s.setFont("SB", 22)
	s.text(16, 26, "Upper Tarn Slate Company")
	s.setFont("S", 10)
	s.text(16, 33, "(fictional)  Quarries at Upper Tarn.  Slates, ridges, nails")
	s.line(16, 37, 132, 37, 0.4)
	s.setFont("SB", 13)
	s.text(16, 50, "Receipt")
	s.textRight(132, 50, "No. 2217")
	s.setFont("S", 11)
	s.text(16, 62, "Received of")
	s.text(16, 71, "on")
	s.line(42, 63, 132, 63, 0.2)
	s.line(42, 72, 132, 72, 0.2)
	s.setFont("SI", 14)
	s.text(44, 61.5, "Larkmere Rowing Club")
	s.text(44, 70.5, "14 May 1987")
	y := 88.0
	for _, row := range [][2]string{
		{"420 slates, seconds, for the boathouse", "126.00"}, {"6 lb of copper nails", "14.40"},
		{"12 ridge tiles", "31.20"}, {"Carting from the quarry", "9.50"},
	} {
		s.setFont("SI", 13)
		s.text(18, y, row[0])
		s.textRight(130, y, row[1])
		s.line(16, y+2.5, 132, y+2.5, 0.15)
		y += 11
	}
	s.setFont("SB", 13)
	s.text(18, y+1, "Total")
	s.textRight(130, y+1, "£ 181.10")
	s.line(16, y+4, 132, y+4, 0.5)
	s.signature(78, 172, 40, 41)
	s.line(74, 178, 128, 178, 0.2)
	s.setFont("S", 9)
	s.text(74, 183, "for the company, with thanks")
	old := aged{
		paper: color.RGBA{238, 220, 176, 255}, ink: color.RGBA{78, 50, 30, 255}, blurDPI: 150, fading: 0.45, mottled: 0.2,
		creases: []crease{{0, 104, 148, 105.5}, {73, 0, 74.5, 210}, {96, 210, 148, 166}}, ring: [3]float64{40, 158, 21}, tilt: 0.7, seed: 1987,
	}
	return encodeScan(old.scan(s), dpi)
}

// carbonCopy is the copy of a typewritten letter that the club kept: violet, soft, and struck
// unevenly, on thin paper.
func carbonCopy() ([]byte, error) {
	const dpi = 200
	s := newSheet(210, 297, dpi)
	s.typed(24, 30, 1974, []string{
		"LARKMERE ROWING CLUB", "The Boathouse, Larkmere", "", "                                        3rd October 1974", "",
		"Messrs. Fell & Beck (fictional)", "Roofers, Upper Tarn", "", "Dear Sirs,", "", "              THE BOATHOUSE ROOF", "",
		"The committee has read your letter of 24th September and", "thanks you for the care that you have taken.", "",
		"We accept your price of £ 1,140 for stripping the north", "slope and laying it anew in Upper Tarn slate, with the",
		"scaffold, and of £ 85 for the lead of the east valley.", "", "It is understood that", "",
		"   1.  the boats are to be covered while you work;", "   2.  sound slates are kept and used again;",
		"   3.  work begins after the last regatta and is done", "       before the frost.", "",
		"The treasurer will pay one third when the scaffold", "stands and the rest within a month of the end.", "",
		"             Yours faithfully,", "", "", "             Hon. Secretary",
	})
	old := aged{
		paper: color.RGBA{236, 232, 214, 255}, ink: color.RGBA{70, 58, 122, 255}, blurDPI: 85, fading: 0.4, mottled: 0.08,
		creases: []crease{{0, 99, 210, 98}, {0, 198, 210, 199}}, tilt: -0.5, seed: 1974,
	}
	return encodeScan(old.scan(s), dpi)
}

// typed writes lines as a typewriter does: letters stand in columns, struck with more or less force
// and not quite on the line.
func (s sheet) typed(left, top float64, seed uint64, lines []string) {
	const columnMM, lineMM, points = 2.54, 6.4, 12
	random := rand.New(rand.NewPCG(seed, 23))
	s.setFont("M", points)
	for row, line := range lines {
		for column, letter := range []rune(line) {
			grey := random.Float64() * 0.3
			s.SetRGB(grey, grey, grey)
			x, y := left+float64(column)*columnMM, top+float64(row)*lineMM
			s.text(x+0.12*random.NormFloat64(), y+0.15*random.NormFloat64(), string(letter))
		}
	}
}
