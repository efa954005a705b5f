package raster

import (
	"image"
	"image/color"
	"image/draw"
	"math"
	"math/rand/v2"

	"dorbin/core/geometry"
)

// photograph is a made picture of a paper on a table, of which the truth is
// known.
type photograph struct {
	img    *image.RGBA
	truth  geometry.PaperQuad
	aspect float64
	kind   string
}

const photoWidth, photoHeight = 960, 720

// tables are the grounds that papers lie on, from dark to nearly white.
var tables = []struct {
	name    string
	colour  [3]float64
	texture func(x, y float64) float64
}{
	{"dark wood", [3]float64{58, 46, 38}, wood},
	{"light wood", [3]float64{186, 150, 108}, wood},
	{"white table", [3]float64{214, 213, 210}, func(x, y float64) float64 { return 0 }},
	{"grey cloth", [3]float64{120, 124, 130}, func(x, y float64) float64 { return 7 * math.Sin(x/2.1) * math.Sin(y/2.3) }},
	{"checked cloth", [3]float64{150, 70, 66}, func(x, y float64) float64 {
		return 18 * float64((int(x/60)+int(y/60))%2*2-1)
	}},
	{"tiles", [3]float64{150, 152, 148}, func(x, y float64) float64 {
		if math.Mod(x+3*photoWidth, 210) < 5 || math.Mod(y+3*photoWidth, 210) < 5 {
			return -45
		}
		return 0
	}},
}

func wood(x, y float64) float64 { return 7 * math.Sin(y/5+3*math.Sin(x/180)) }

// takePhotograph makes the picture of a number: each has its own paper, table,
// angle, light and clutter.
func takePhotograph(seed uint64) photograph {
	random := rand.New(rand.NewPCG(seed, 2026))
	aspect := []float64{210.0 / 297, 297.0 / 210, 8.5 / 11, 148.0 / 210, 0.5}[random.IntN(5)]
	table := tables[random.IntN(len(tables))]
	paper := drawPaper(random, aspect)
	p := photograph{aspect: aspect, kind: table.name}
	p.truth = standing(random, aspect)
	p.img = image.NewRGBA(image.Rect(0, 0, photoWidth, photoHeight))
	turn := random.Float64() * 0.6
	for y := range photoHeight {
		for x := range photoWidth {
			u := float64(x)*math.Cos(turn) - float64(y)*math.Sin(turn)
			v := float64(x)*math.Sin(turn) + float64(y)*math.Cos(turn)
			t := table.texture(u+1000, v+1000)
			setRGB(p.img, x, y, table.colour[0]+t, table.colour[1]+t, table.colour[2]+t)
		}
	}
	if random.IntN(3) > 0 {
		clutter(p.img, random)
	}
	dropShadow(p.img, p.truth, random)
	layDown(p.img, paper, p.truth)
	lightUp(p.img, random)
	return p
}

// standing is where a paper lies, seen by a camera somewhere above it. One in
// eight runs out of the picture at a corner.
func standing(random *rand.Rand, aspect float64) geometry.PaperQuad {
	for {
		tiltX, tiltY := (random.Float64()-0.5)*1.1, (random.Float64()-0.5)*0.9
		roll := (random.Float64() - 0.5) * 0.7
		size := 0.55 + 0.4*random.Float64()
		if aspect > 1 {
			size *= 0.9
		}
		cx, cy := 0.5+(random.Float64()-0.5)*0.12, 0.5+(random.Float64()-0.5)*0.12
		out := random.IntN(8) == 0
		if out {
			cx += 0.14
		}
		var o geometry.PaperQuad
		beyond := 0
		for i, c := range [4][2]float64{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}} {
			x, y := c[0]*aspect/2, c[1]/2
			x, y = x*math.Cos(roll)-y*math.Sin(roll), x*math.Sin(roll)+y*math.Cos(roll)
			z := y * math.Sin(tiltX)
			y *= math.Cos(tiltX)
			z += x * math.Sin(tiltY)
			x *= math.Cos(tiltY)
			const focal = 1.3
			depth := focal/size + z
			o[i] = geometry.Point{X: cx + focal*x/depth*photoHeight/photoWidth, Y: cy + focal*y/depth}
			if o[i].X < 0.01 || o[i].X > 0.99 || o[i].Y < 0.01 || o[i].Y > 0.99 {
				beyond++
			}
		}
		if (beyond == 0 || (out && beyond == 1)) && o.Check() == nil && o.Area() > 0.15 {
			return o
		}
	}
}

// drawPaper prints lines of words, sometimes a frame, a bar or a picture.
func drawPaper(random *rand.Rand, aspect float64) *image.RGBA {
	const height = 1000
	width := int(height * aspect)
	paper := image.NewRGBA(image.Rect(0, 0, width, height))
	shade := uint8(228 + random.IntN(24))
	warm := uint8(random.IntN(14))
	draw.Draw(paper, paper.Rect, image.NewUniform(color.RGBA{shade, shade - warm/3, shade - warm, 255}), image.Point{}, draw.Src)
	ink := image.NewUniform(color.RGBA{30, 30, 40, 255})
	fill := func(x0, y0, x1, y1 int, c image.Image) {
		draw.Draw(paper, image.Rect(x0, y0, x1, y1), c, image.Point{}, draw.Src)
	}
	margin := width / 9
	if random.IntN(4) == 0 { // a frame
		m := width / 22
		fill(m, m, width-m, m+4, ink)
		fill(m, height-m-4, width-m, height-m, ink)
		fill(m, m, m+4, height-m, ink)
		fill(width-m-4, m, width-m, height-m, ink)
	}
	y := height / 9
	if random.IntN(3) == 0 { // a coloured bar
		bar := color.RGBA{uint8(random.IntN(160)), uint8(random.IntN(160)), uint8(60 + random.IntN(120)), 255}
		fill(margin, y, width-margin, y+60, image.NewUniform(bar))
		y += 90
	}
	for y < height*8/9 {
		if random.IntN(9) == 0 {
			y += 24
		}
		for x := margin; x < width-margin; {
			w := 14 + random.IntN(46)
			if x+w > width-margin || random.IntN(26) == 0 {
				break
			}
			fill(x, y, x+w, y+7, ink)
			x += w + 9
		}
		y += 19
	}
	if random.IntN(4) == 0 { // a picture
		for i := range 200 {
			for j := range 150 {
				paper.SetRGBA(width/3+j, height/3+i, color.RGBA{uint8(60 + i/2), uint8(90 + j/2), 120, 255})
			}
		}
	}
	return paper
}

// layDown lays the flat paper into the picture, four samples a pixel.
func layDown(img *image.RGBA, paper *image.RGBA, o geometry.PaperQuad) {
	w, h := float64(paper.Rect.Dx()), float64(paper.Rect.Dy())
	forward := o.Projection(w, h, photoWidth, photoHeight)
	back := forward.Inverse()
	for y := range photoHeight {
		for x := range photoWidth {
			if u, v := back.Apply(float64(x), float64(y)); u < -3 || v < -3 || u > w+3 || v > h+3 {
				continue
			}
			var sum [3]float64
			covered := 0.0
			for _, s := range [4][2]float64{{-0.25, -0.25}, {0.25, -0.25}, {-0.25, 0.25}, {0.25, 0.25}} {
				u, v := back.Apply(float64(x)+0.5+s[0], float64(y)+0.5+s[1])
				if u < 0 || v < 0 || u >= w || v >= h {
					continue
				}
				covered++
				i := paper.PixOffset(int(u), int(v))
				for c := range sum {
					sum[c] += float64(paper.Pix[i+c])
				}
			}
			if covered > 0 {
				i := img.PixOffset(x, y)
				for c := range sum {
					sum[c] = (sum[c] + (4-covered)*float64(img.Pix[i+c])) / 4
				}
				setRGB(img, x, y, sum[0], sum[1], sum[2])
			}
		}
	}
}

// clutter lays pens, a cup and the corner of another paper about.
func clutter(img *image.RGBA, random *rand.Rand) {
	for range 1 + random.IntN(3) {
		x0, y0 := random.Float64()*photoWidth, random.Float64()*photoHeight
		angle, length, thick := random.Float64()*math.Pi, 140+random.Float64()*160, 5+random.Float64()*6
		r, g, b := random.Float64()*200, random.Float64()*200, random.Float64()*200
		for t := -length / 2; t < length/2; t++ {
			for k := -thick; k <= thick; k++ {
				setRGB(img, int(x0+t*math.Cos(angle)-k*math.Sin(angle)), int(y0+t*math.Sin(angle)+k*math.Cos(angle)), r, g, b)
			}
		}
	}
	if random.IntN(2) == 0 {
		x0, y0, radius := random.Float64()*photoWidth, random.Float64()*photoHeight, 50+random.Float64()*50
		for y := -radius; y < radius; y++ {
			for x := -radius; x < radius; x++ {
				if d := math.Hypot(x, y); d < radius {
					setRGB(img, int(x0+x), int(y0+y), 90+d, 60+d/2, 40+d/2)
				}
			}
		}
	}
}

// dropShadow darkens the table beside the paper.
func dropShadow(img *image.RGBA, o geometry.PaperQuad, random *rand.Rand) {
	dx, dy := (random.Float64()-0.5)*0.03, 0.004+random.Float64()*0.02
	strength := 0.1 + random.Float64()*0.4
	moved := o
	for i := range moved {
		moved[i].X += dx
		moved[i].Y += dy
	}
	back := moved.Projection(1, 1, photoWidth, photoHeight).Inverse()
	for y := range photoHeight {
		for x := range photoWidth {
			u, v := back.Apply(float64(x), float64(y))
			d := math.Min(math.Min(u, 1-u), math.Min(v, 1-v))
			if d > -0.01 {
				scale(img, x, y, 1-strength*math.Min(1, (d+0.01)/0.02))
			}
		}
	}
}

// lightUp lets light fall from one side, sometimes with the shadow of a hand,
// and adds the camera's noise.
func lightUp(img *image.RGBA, random *rand.Rand) {
	angle, fall := random.Float64()*2*math.Pi, random.Float64()*0.45
	hand := random.IntN(3) == 0
	var grain [1024]float64
	for i := range grain {
		grain[i] = random.NormFloat64() * 2.5
	}
	hx, hy, hr := random.Float64()*photoWidth, random.Float64()*photoHeight, 180+random.Float64()*160
	for y := range photoHeight {
		for x := range photoWidth {
			t := ((float64(x)/photoWidth-0.5)*math.Cos(angle) + (float64(y)/photoHeight-0.5)*math.Sin(angle)) + 0.5
			light := 1 - fall*t
			if hand {
				d := math.Hypot(float64(x)-hx, float64(y)-hy)
				light *= 1 - 0.35/(1+math.Exp((d-hr)/22))
			}
			scale(img, x, y, light)
			i := img.PixOffset(x, y)
			n := grain[random.Uint32()%uint32(len(grain))]
			setRGB(img, x, y, float64(img.Pix[i])+n, float64(img.Pix[i+1])+n, float64(img.Pix[i+2])+n)
		}
	}
}

func scale(img *image.RGBA, x, y int, by float64) {
	i := img.PixOffset(x, y)
	setRGB(img, x, y, float64(img.Pix[i])*by, float64(img.Pix[i+1])*by, float64(img.Pix[i+2])*by)
}

func setRGB(img *image.RGBA, x, y int, r, g, b float64) {
	if !(image.Point{X: x, Y: y}).In(img.Rect) {
		return
	}
	i := img.PixOffset(x, y)
	img.Pix[i], img.Pix[i+1], img.Pix[i+2], img.Pix[i+3] = level(r), level(g), level(b), 255
}

func level(v float64) uint8 { return uint8(max(0, min(255, v))) }
