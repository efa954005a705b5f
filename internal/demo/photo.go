package demo

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"math"
	"math/rand/v2"

	"github.com/fogleman/gg"

	"dorbin/core/geometry"
	"dorbin/internal/scanner/sim"
)

const photoQuality = 86

// point is a position in pixels.
type point struct{ x, y float64 }

// photograph lays a flat picture into a scene: its corners go to the four given
// points, clockwise from the top left. Light falls from one side, and the table
// shows around it.
func photograph(flat *image.RGBA, width, height int, corners [4]point, table color.RGBA, seed uint64) *image.RGBA {
	random := rand.New(rand.NewPCG(seed, 3))
	noise := sim.NewNoise(random)
	var outline geometry.PaperQuad
	for i, c := range corners {
		outline[i] = geometry.Point{X: c.x / float64(width), Y: c.y / float64(height)}
	}
	toFlat := outline.Projection(float64(flat.Rect.Dx()-1), float64(flat.Rect.Dy()-1), float64(width), float64(height)).Inverse()
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	for y := range height {
		for x := range width {
			u, v := toFlat.Apply(float64(x), float64(y))
			r, g, b := float64(table.R), float64(table.G), float64(table.B)
			grain := 6 * math.Sin(float64(y)/9+3*math.Sin(float64(x)/310))
			r, g, b = r+grain, g+grain*0.8, b+grain*0.6
			if u >= 0 && v >= 0 && u < float64(flat.Rect.Dx()-1) && v < float64(flat.Rect.Dy()-1) {
				i := flat.PixOffset(int(u), int(v))
				r, g, b = float64(flat.Pix[i]), float64(flat.Pix[i+1]), float64(flat.Pix[i+2])*0.95
			} else if shade := shadow(u, v, float64(flat.Rect.Dx()), float64(flat.Rect.Dy())); shade < 1 {
				r, g, b = r*shade, g*shade, b*shade
			}
			light := 0.62 + 0.38*(1-float64(x)/float64(width))*(0.7+0.3*float64(y)/float64(height))
			n := noise.Next()
			o := out.PixOffset(x, y)
			out.Pix[o], out.Pix[o+1], out.Pix[o+2], out.Pix[o+3] = clamp(r*light+n), clamp(g*light+n), clamp(b*light+n), 255
		}
	}
	return out
}

// camera is where a photograph is taken from: tilted against the paper about its
// two middles, rolled, in degrees, with the paper filling a share of the
// picture's height.
type camera struct{ tiltX, tiltY, roll, share float64 }

// focalLength is that of a telephone, as a multiple of the picture's longer edge.
const focalLength = 0.8

// corners are where the camera sees those of a paper whose middle it points at.
func (c camera) corners(paperWidth, paperHeight float64, width, height int) [4]point {
	const degree = math.Pi / 180
	w, h := float64(width), float64(height)
	focal := focalLength * math.Max(w, h)
	distance := focal / (c.share * h) // in heights of the paper
	var out [4]point
	for i, corner := range [4]point{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}} {
		x, y := corner.x*paperWidth/paperHeight/2, corner.y/2
		x, y = x*math.Cos(c.roll*degree)-y*math.Sin(c.roll*degree), x*math.Sin(c.roll*degree)+y*math.Cos(c.roll*degree)
		z := distance - y*math.Sin(c.tiltX*degree) - x*math.Sin(c.tiltY*degree)
		out[i] = point{w/2 + focal*x*math.Cos(c.tiltY*degree)/z, h/2 + focal*y*math.Cos(c.tiltX*degree)/z}
	}
	return out
}

// shadow darkens the table just right of and below the paper.
func shadow(u, v, w, h float64) float64 {
	const reach = 60
	d := math.Max(math.Max(-u, u-w), math.Max(-v, v-h))
	if d > reach || u < 0 || v < 0 {
		return 1
	}
	return 0.55 + 0.45*d/reach
}

// encodePhoto encodes a photograph as a camera does: with EXIF that says how it
// was held (CIPA DC-008).
func encodePhoto(img image.Image, orientation uint16) ([]byte, error) {
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, img, &jpeg.Options{Quality: photoQuality}); err != nil {
		return nil, fmt.Errorf("write photograph: %w", err)
	}
	exif := bytes.NewBufferString("Exif\x00\x00MM\x00*\x00\x00\x00\x08")
	write := func(values ...any) {
		for _, v := range values {
			_ = binary.Write(exif, binary.BigEndian, v) // writing to memory does not fail
		}
	}
	write(uint16(2))
	write(uint16(0x0112), uint16(3), uint32(1), orientation, uint16(0))
	write(uint16(0x8769), uint16(4), uint32(1), uint32(38)) // the EXIF directory follows
	write(uint32(0))
	write(uint16(1))
	write(uint16(0x920A), uint16(5), uint32(1), uint32(56)) // focal length
	write(uint32(0), uint32(26), uint32(10))
	out := bytes.NewBuffer([]byte{0xFF, 0xD8, 0xFF, 0xE1})
	_ = binary.Write(out, binary.BigEndian, uint16(exif.Len()+2))
	out.Write(exif.Bytes())
	out.Write(plain.Bytes()[2:])
	return out.Bytes(), nil
}

// The cameras that took the photographs.
var (
	insuranceCamera  = camera{tiltX: 17, tiltY: -9, roll: -3, share: 0.76}
	minuteBookCamera = camera{tiltX: 12, tiltY: 4, roll: 1.2, share: 0.8}
)

// insurance is a certificate photographed at an angle on a dark table, with the
// camera held upright: its sensor saw it lying.
func insurance() ([]byte, error) {
	s := newSheet(210, 297, 160)
	s.SetRGB255(252, 250, 244)
	s.Clear()
	s.SetRGB255(120, 90, 40)
	s.SetLineWidth(1.2 * s.perMM)
	s.box(12, 12, 186, 273)
	s.Stroke()
	s.setFont("B", 24)
	s.text(34, 54, "Certificate of insurance")
	s.SetColor(color.Black)
	s.setFont("", 12)
	y := 80.0
	for _, words := range []string{
		"This is to certify that the Larkmere Rowing Club is insured by Mere Mutual (fictional) against harm to people and things.",
		"Number of the policy: MM 4471 0926", "From 1 January 2026 until 31 December 2026",
		"Sum insured for any one event: £ 5,000,000", "Buildings, boats and the slipway are included. Racing on other waters is included.",
	} {
		y = s.paragraph(34, y, 142, words) + 4
	}
	s.signature(36, y+32, 52, 9)
	s.line(34, y+38, 96, y+38, 0.3)
	s.setFont("", 10)
	s.text(34, y+44, "for Mere Mutual")
	s.SetRGBA255(150, 40, 40, 170)
	s.SetLineWidth(1.1 * s.perMM)
	s.DrawCircle(150*s.perMM, (y+30)*s.perMM, 17*s.perMM)
	s.Stroke()
	upright := photograph(s.Image().(*image.RGBA), 3024, 4032,
		insuranceCamera.corners(210, 297, 3024, 4032), color.RGBA{58, 46, 38, 255}, 21)
	return encodePhoto(turnLeft(upright), 6)
}

// turnLeft gives what the sensor of a camera saw that was held turned right.
func turnLeft(img *image.RGBA) *image.RGBA {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	out := image.NewRGBA(image.Rect(0, 0, h, w))
	for y := range h {
		for x := range w {
			copy(out.Pix[out.PixOffset(y, w-1-x):][:4], img.Pix[img.PixOffset(x, y):][:4])
		}
	}
	return out
}

// minuteBook shows two facing pages of the minute book in one photograph.
func minuteBook() ([]byte, error) {
	s := newSheet(340, 240, 170)
	s.SetRGB255(247, 242, 228)
	s.Clear()
	pages := [][]string{
		{"Minutes of the committee, 11 February 2026", "Present: the chair, the secretary, the treasurer, the captain and four members.",
			"1. The minutes of January were read and agreed.", "2. The treasurer reported a balance of £ 18,905 on the general account.",
			"3. The captain reported that two eights are still in the yard under covers. One cover has torn."},
		{"4. Roof. The surveyor’s report was discussed at length. Two quotes have come in and a third roofer has declined.",
			"It was decided, with none against, to apply to the Tarn Valley Fund for £ 27,000 and to take up to £ 8,210 from the reserve.",
			"The secretary is to put the application together before the end of March.", "5. The regatta is on 18 July.", "The meeting closed at a quarter to ten."},
	}
	for i, paragraphs := range pages {
		x := 16 + float64(i)*170
		y := 26.0
		s.SetRGB255(40, 44, 70)
		for j, words := range paragraphs {
			s.setFont("I", 12.5)
			if i == 0 && j == 0 {
				s.setFont("B", 13)
			}
			y = s.paragraph(x, y, 136, words) + 3
		}
		s.setFont("", 9)
		s.text(x+64, 230, string(rune('6'+i))+"4")
	}
	s.signature(210, 190, 40, 31)
	foldBook(s.Context)
	img := photograph(s.Image().(*image.RGBA), 3600, 2700,
		minuteBookCamera.corners(340, 240, 3600, 2700), color.RGBA{96, 74, 52, 255}, 22)
	return encodePhoto(img, 1)
}

// foldBook darkens the middle, where the pages bend into the binding.
func foldBook(c *gg.Context) {
	img := c.Image().(*image.RGBA)
	w, h := img.Rect.Dx(), img.Rect.Dy()
	const reach = 160.0
	for y := range h {
		for x := range w {
			d := math.Abs(float64(x - w/2))
			if d > reach {
				continue
			}
			dark := 0.42 + 0.58*math.Sqrt(d/reach)
			o := img.PixOffset(x, y)
			for k := range 3 {
				img.Pix[o+k] = clamp(float64(img.Pix[o+k]) * dark)
			}
		}
	}
}

// roof is a photograph of slates, some of them slipped or gone.
func roof(n int) ([]byte, error) {
	random := rand.New(rand.NewPCG(uint64(n), 77))
	const width, height = 1800, 1350
	c := gg.NewContext(width, height)
	horizon := 260 + 90*float64(n%3)
	c.SetRGB255(40, 37, 35) // the felt below the slates
	c.Clear()
	for y := range int(horizon) {
		t := float64(y) / horizon
		c.SetRGB(0.62+0.2*t, 0.72+0.14*t, 0.82+0.08*t)
		c.DrawRectangle(0, float64(y), width, 1)
		c.Fill()
	}
	slate := 74.0
	for row := range 40 {
		y := horizon + float64(row)*slate*0.55
		offset := float64(row%2) * slate / 2
		for x := -slate + offset - 30*float64(n); x < width+slate; x += slate {
			drawSlate(c, random, x, y, slate)
		}
	}
	c.SetRGB255(140, 130, 118)
	c.DrawRectangle(0, horizon-26, width, 34)
	c.Fill()
	img := c.Image().(*image.RGBA)
	noise := sim.NewNoise(random)
	for i := 0; i < len(img.Pix); i += 4 {
		d := noise.Next() * 2
		for k := range 3 {
			img.Pix[i+k] = clamp(float64(img.Pix[i+k]) + d)
		}
	}
	return encodePhoto(img, 1)
}

func drawSlate(c *gg.Context, random *rand.Rand, x, y, size float64) {
	tone := 70 + random.Float64()*38
	state := random.Float64()
	switch {
	case state < 0.05: // gone: the felt shows
		return
	case state < 0.10: // slipped
		c.Push()
		c.RotateAbout(0.25-0.5*random.Float64(), x+size/2, y)
		defer c.Pop()
		y += 16
	}
	c.SetRGB255(int(tone*0.93), int(tone), int(tone*1.09))
	c.DrawRectangle(x+1.5, y, size-3, size*0.62)
	c.Fill()
	if random.Float64() < 0.16 { // moss
		c.SetRGBA255(92, 110, 58, 150)
		c.DrawCircle(x+random.Float64()*size, y+size*0.5, 5+random.Float64()*13)
		c.Fill()
	}
	c.SetRGBA255(20, 22, 26, 130)
	c.DrawRectangle(x, y+size*0.53, size, 3)
	c.Fill()
}
