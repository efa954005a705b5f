package raster

import (
	"image"
	"math"
)

// planes is a picture in three planes of red, green and blue, from 0 to 255.
type planes struct {
	width, height int
	c             [3][]float32
}

func newPlanes(width, height int) *planes {
	p := &planes{width: width, height: height}
	for c := range p.c {
		p.c[c] = make([]float32, width*height)
	}
	return p
}

func planesOf(img image.Image) *planes {
	rgba := ToRGBA(img)
	p := newPlanes(rgba.Rect.Dx(), rgba.Rect.Dy())
	for y := range p.height {
		row := rgba.Pix[y*rgba.Stride:]
		for x := range p.width {
			i := y*p.width + x
			p.c[0][i], p.c[1][i], p.c[2][i] = float32(row[4*x]), float32(row[4*x+1]), float32(row[4*x+2])
		}
	}
	return p
}

func (p *planes) image() *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, p.width, p.height))
	for i := range p.width * p.height {
		for c := range p.c {
			out.Pix[4*i+c] = byte(p.c[c][i])
		}
		out.Pix[4*i+3] = 255
	}
	return out
}

// blurred averages over squares that reach radius pixels to each side.
func (p *planes) blurred(radius int) *planes {
	out := newPlanes(p.width, p.height)
	for c := range p.c {
		boxBlur(out.c[c], p.c[c], p.width, p.height, radius)
	}
	return out
}

// boxBlur averages over squares, first along rows, then along columns. At the
// borders it averages over what there is.
func boxBlur(out, in []float32, width, height, radius int) {
	rows := make([]float32, len(in))
	runningMeans(rows, in, width, 1, height, width, radius)
	runningMeans(out, rows, height, width, width, 1, radius)
}

// runningMeans averages along lines of n values that lie stride apart; there are
// count lines, whose beginnings lie lineStride apart.
func runningMeans(out, in []float32, n, stride, count, lineStride, radius int) {
	for l := range count {
		base := l * lineStride
		var sum float32
		have := 0
		for i := range min(radius, n) {
			sum += in[base+i*stride]
			have++
		}
		for i := range n {
			if i+radius < n {
				sum += in[base+(i+radius)*stride]
				have++
			}
			if i-radius-1 >= 0 {
				sum -= in[base+(i-radius-1)*stride]
				have--
			}
			out[base+i*stride] = sum / float32(have)
		}
	}
}

func (p *planes) inside(x, y float64) bool {
	return x >= 0 && y >= 0 && x <= float64(p.width-1) && y <= float64(p.height-1)
}

// step is how the colour changes from x, y less the offset to x, y and the
// offset.
func (p *planes) step(x, y, dx, dy float64) [3]float64 {
	i := int(y+dy+0.5)*p.width + int(x+dx+0.5)
	j := int(y-dy+0.5)*p.width + int(x-dx+0.5)
	var d [3]float64
	for c := range d {
		d[c] = float64(p.c[c][i] - p.c[c][j])
	}
	return d
}

// gradient is how steeply, and in which direction, a picture changes: in the
// plane where it changes most.
type gradient struct {
	width, height int
	x, y          []float32
	floor         float32 // what is below it is noise
}

// gradientOf uses Sobel's operator.
func gradientOf(p *planes) *gradient {
	g := &gradient{width: p.width, height: p.height, x: make([]float32, p.width*p.height), y: make([]float32, p.width*p.height)}
	var sum float64
	for y := 1; y < p.height-1; y++ {
		for x := 1; x < p.width-1; x++ {
			i := y*p.width + x
			var steepest float32
			for _, plane := range p.c {
				a, b := plane[i-p.width-1:i-p.width+2], plane[i+p.width-1:i+p.width+2]
				dx := (a[2] - a[0] + 2*(plane[i+1]-plane[i-1]) + b[2] - b[0]) / 8
				dy := (b[0] - a[0] + 2*(b[1]-a[1]) + b[2] - a[2]) / 8
				if m := dx*dx + dy*dy; m > steepest {
					steepest, g.x[i], g.y[i] = m, dx, dy
				}
			}
			sum += math.Sqrt(float64(steepest))
		}
	}
	g.floor = float32(math.Max(0.9, 0.35*sum/float64(p.width*p.height)))
	return g
}

// along is 1 where the picture has an edge whose slope points along n, within a
// pixel, and 0 where it has none.
func (g *gradient) along(x, y, nx, ny float64) float64 {
	best := 0.0
	for k := -1.0; k <= 1; k++ {
		px, py := int(x+k*nx+0.5), int(y+k*ny+0.5)
		if px < 0 || py < 0 || px >= g.width || py >= g.height {
			continue
		}
		i := py*g.width + px
		gx, gy := float64(g.x[i]), float64(g.y[i])
		size := math.Hypot(gx, gy)
		if size < float64(g.floor) {
			continue
		}
		if aligned := math.Abs(gx*nx+gy*ny) / size; aligned > 0.9 {
			best = math.Max(best, size/(size+2))
		}
	}
	return best
}
