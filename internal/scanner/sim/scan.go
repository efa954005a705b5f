package sim

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/jpeg"
	"math"
	"math/rand/v2"

	"dorbin/core/raster"
)

// Sheet is a paper that can be scanned. Front and Back draw its sides at a
// resolution in dpi; a nil Back is blank.
type Sheet struct {
	Name          string
	Width, Height float64 // millimetres
	Front, Back   func(dpi float64) *image.RGBA
}

const millimetresPerInch = 25.4

// Grain is how a scan differs from the sheet: turned by Tilt degrees, on paper
// that is not quite white, with shadows at the edges and noise from a seed.
type Grain struct {
	Tilt float64
	Seed uint64
}

// Scan makes a picture of a sheet as a scanner gives it. Lid is what is seen
// beside the sheet.
func Scan(sheet *image.RGBA, dpi float64, g Grain) *image.RGBA {
	const lid = 62.0
	random := rand.New(rand.NewPCG(g.Seed, 5))
	w, h := sheet.Rect.Dx(), sheet.Rect.Dy()
	out := image.NewRGBA(sheet.Rect)
	sin, cos := math.Sincos(g.Tilt * math.Pi / 180)
	edge := 2.2 * dpi / millimetresPerInch
	noise := NewNoise(random)
	for y := range h {
		for x := range w {
			dx, dy := float64(x-w/2), float64(y-h/2)
			sx, sy := cos*dx+sin*dy+float64(w/2), -sin*dx+cos*dy+float64(h/2)
			rgb := [3]float64{lid, lid, lid}
			if sx >= 0 && sy >= 0 && sx < float64(w-1) && sy < float64(h-1) {
				rgb = paperAt(sheet, sx, sy)
			}
			shade := 1.0
			if near := math.Min(float64(x), float64(w-1-x)); near < edge {
				shade = 0.55 + 0.45*near/edge
			}
			n := noise.Next()
			pix := out.Pix[out.PixOffset(x, y):][:4]
			for c := range rgb {
				pix[c] = uint8(max(0, min(255, rgb[c]*shade+n)))
			}
			pix[3] = 255
		}
	}
	return out
}

// paperAt is a colour of the sheet between pixels, as paper and ink have it under
// a scanner's lamp.
func paperAt(img *image.RGBA, x, y float64) (rgb [3]float64) {
	x0, y0 := int(x), int(y)
	fx, fy := x-float64(x0), y-float64(y0)
	i := img.PixOffset(x0, y0)
	for c := range rgb {
		top := float64(img.Pix[i+c])*(1-fx) + float64(img.Pix[i+4+c])*fx
		j := i + img.Stride + c
		bottom := float64(img.Pix[j])*(1-fx) + float64(img.Pix[j+4])*fx
		rgb[c] = 14 + (top*(1-fy)+bottom*fy)*(232.0-14)/255
	}
	return rgb
}

// Noise is that of a camera or a scanner, in levels, from a table.
type Noise struct {
	random *rand.Rand
	table  [1 << 12]int8
}

// NewNoise fills the table.
func NewNoise(random *rand.Rand) *Noise {
	n := &Noise{random: random}
	for i := range n.table {
		n.table[i] = int8(random.NormFloat64() * 2.6)
	}
	return n
}

// Next gives the noise of the next pixel.
func (n *Noise) Next() float64 { return float64(n.table[n.random.Uint32()%uint32(len(n.table))]) }

// side draws one side of a sheet, scanned over a region of the given size.
func (s Sheet) side(back bool, o order, seed uint64) ([]byte, error) {
	dpi := float64(o.resolution)
	width, height := int(float64(o.width)*dpi/300+0.5), int(float64(o.height)*dpi/300+0.5)
	canvas := image.NewRGBA(image.Rect(0, 0, width, height))
	for i := range canvas.Pix {
		canvas.Pix[i] = 255
	}
	draw := s.Front
	if back {
		draw = s.Back
	}
	if draw != nil {
		sheet := draw(dpi)
		for y := range min(height, sheet.Rect.Dy()) {
			copy(canvas.Pix[y*canvas.Stride:(y+1)*canvas.Stride], sheet.Pix[y*sheet.Stride:(y+1)*sheet.Stride])
		}
	}
	random := rand.New(rand.NewPCG(seed, 9))
	img := Scan(canvas, dpi, Grain{Tilt: (random.Float64() - 0.5) * 1.6, Seed: seed})
	return encode(img, o)
}

const quality = 82

func encode(img *image.RGBA, o order) ([]byte, error) {
	var out bytes.Buffer
	var err error
	switch o.colour {
	case "RGB24":
		err = jpeg.Encode(&out, img, &jpeg.Options{Quality: quality})
	case "Grayscale8":
		err = jpeg.Encode(&out, raster.Tone{Mode: raster.GrayTone}.Apply(img), &jpeg.Options{Quality: quality})
	default:
		err = jpeg.Encode(&out, raster.Tone{Mode: raster.BlackWhite}.Apply(img), &jpeg.Options{Quality: 90})
	}
	if err != nil {
		return nil, fmt.Errorf("encode the scan: %w", err)
	}
	return WithDensity(out.Bytes(), o.resolution), nil
}

// WithDensity puts a JFIF segment with the resolution into a JPEG (ITU-T T.871,
// 10.1).
func WithDensity(data []byte, dpi int) []byte {
	segment := []byte("\xFF\xD8\xFF\xE0\x00\x10JFIF\x00\x01\x02\x01")
	segment = binary.BigEndian.AppendUint16(segment, uint16(dpi))
	segment = binary.BigEndian.AppendUint16(segment, uint16(dpi))
	return append(append(segment, 0, 0), data[2:]...)
}
