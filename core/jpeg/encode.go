package jpeg

import (
	"errors"
	"image"
	"image/color"
	"image/draw"
)

// mostEdge is the most pixels across or down that libjpeg reads.
const mostEdge = 65500

// Encode writes a picture as a progressive JPEG with codes of its own: an *image.Gray in grey, others in
// YCbCr (ITU-T T.871) with chrominance at half the size, without what shines through. Quality is from 1 to
// 100. It fails for pictures that are empty, or more than 65,500 pixels wide or high.
func Encode(img image.Image, quality int) ([]byte, error) { return encode(img, quantsFor(quality)) }

// EncodeSmooth is Encode for what changes slowly, such as paper without what is on it: slow changes are told more
// finely, so that there are no steps from block to block, and quick ones, such as its grain, more coarsely.
func EncodeSmooth(img image.Image, quality int) ([]byte, error) {
	return encode(img, smoothed(quantsFor(quality)))
}

func encode(img image.Image, tables [2][64]uint16) ([]byte, error) {
	size := img.Bounds().Size()
	if size.X < 1 || size.Y < 1 || size.X > mostEdge || size.Y > mostEdge {
		return nil, errors.New("encode a JPEG: a picture of that size cannot be one")
	}
	f := &frame{width: size.X, height: size.Y, isProgressive: true}
	if gray, ok := img.(*image.Gray); ok {
		f.components = []component{{id: 1, h: 1, v: 1}}
		f.allocateFor(1, 1)
		f.components[0].take(&tables[0], gray.Pix, gray.Stride, size)
	} else {
		f.components = []component{{id: 1, h: 2, v: 2}, {id: 2, h: 1, v: 1, quants: 1}, {id: 3, h: 1, v: 1, quants: 1}}
		f.allocateFor(2, 2)
		half := image.Pt(ceil(size.X, 2), ceil(size.Y, 2))
		y, cb, cr := planesOf(img)
		f.components[0].take(&tables[0], y, size.X, size)
		f.components[1].take(&tables[1], cb, half.X, half)
		f.components[2].take(&tables[1], cr, half.X, half)
	}
	w := writer{out: []byte{0xFF, startOfImage}, frame: f}
	w.jfif()
	w.quants(tables[:min(2, len(f.components))])
	w.frameHeader()
	for _, p := range oneAfterAnother(len(f.components)) {
		w.scan(p)
	}
	return append(w.out, 0xFF, endOfImage), nil
}

// allocateFor makes room for the coefficients of units of so many blocks.
func (f *frame) allocateFor(h, v int) {
	f.mostH, f.mostV = h, v
	f.layOut()
	for i := range f.components {
		c := &f.components[i]
		c.coefficients = make([]int16, 64*c.wide*c.high)
	}
}

// jfif tells how colours are meant (T.871, 10.1); pixels are square.
func (w *writer) jfif() {
	w.segment(app0, 14)
	w.out = append(w.out, "JFIF\x00\x01\x02\x00\x00\x01\x00\x01\x00\x00"...)
}

func (w *writer) quants(tables [][64]uint16) {
	for i, table := range tables {
		w.segment(defineQuants, 65)
		w.out = append(w.out, byte(i)) //nolint:gosec // two at most
		for k := range 64 {
			w.out = append(w.out, byte(table[zigzag[k]])) //nolint:gosec // at most 255
		}
	}
}

// transformScale is by what the transformed samples of a block are more than their coefficients.
const transformScale = 8

// take transforms samples, which go on as at their border, and quantises what comes of them.
func (c *component) take(quants *[64]uint16, samples []byte, stride int, size image.Point) {
	var b block
	for y := range c.high {
		for x := range c.wide {
			for row := range 8 {
				from := samples[min(8*y+row, size.Y-1)*stride:]
				if 8*x+8 <= size.X {
					for i, v := range from[8*x : 8*x+8] {
						b[8*row+i] = int32(v) - middle
					}
					continue
				}
				for i := range 8 {
					b[8*row+i] = int32(from[min(8*x+i, size.X-1)]) - middle
				}
			}
			forward(&b)
			for k, out := 0, c.block(x, y); k < len(out); k++ {
				out[k] = int16(b[zigzag[k]]) //nolint:gosec // 14 bits
			}
		}
	}
	c.quantise(quants)
}

// quantise quantises coefficients that are transformScale times what they are: the first of each block to the nearest level,
// the others as the scans that tell them are shortest.
func (c *component) quantise(quants *[64]uint16) {
	for at := 0; at < len(c.coefficients); at += 64 {
		c.coefficients[at] = nearestLevel(int32(c.coefficients[at]), transformScale*int32(quants[0]))
	}
	for _, p := range oneAfterAnother(1)[1:] {
		t := newTrellis(p, quants)
		t.learn(c)
		for y := range c.ownHigh {
			for x := range c.ownWide {
				t.quantise(c.block(x, y))
			}
		}
	}
}

// planesOf gives the samples of a picture in YCbCr, the colours as the mean of four pixels.
func planesOf(img image.Image) (y, cb, cr []byte) {
	rgba, ok := img.(*image.RGBA)
	size := img.Bounds().Size()
	if !ok {
		rgba = image.NewRGBA(image.Rectangle{Max: size})
		draw.Draw(rgba, rgba.Rect, img, img.Bounds().Min, draw.Src)
	}
	y = make([]byte, size.X*size.Y)
	for row := range size.Y {
		from, to := rgba.Pix[row*rgba.Stride:], y[row*size.X:][:size.X]
		for x := range to {
			to[x] = luminance(from[4*x], from[4*x+1], from[4*x+2])
		}
	}
	across, down := ceil(size.X, 2), ceil(size.Y, 2)
	cb, cr = make([]byte, across*down), make([]byte, across*down)
	for row := range down {
		above, below := rgba.Pix[2*row*rgba.Stride:], rgba.Pix[min(2*row+1, size.Y-1)*rgba.Stride:]
		for x := range across {
			left, right := 8*x, 4*min(2*x+1, size.X-1)
			mean := func(channel int) uint8 {
				return uint8((int(above[left+channel]) + int(above[right+channel]) + int(below[left+channel]) + int(below[right+channel]) + 2) / 4) //nolint:gosec // a mean of bytes
			}
			_, cb[row*across+x], cr[row*across+x] = color.RGBToYCbCr(mean(0), mean(1), mean(2))
		}
	}
	return y, cb, cr
}

// luminance is what color.RGBToYCbCr gives first, without the others.
func luminance(r, g, b uint8) uint8 {
	return uint8((19595*uint32(r) + 38470*uint32(g) + 7471*uint32(b) + 1<<15) >> 16) //nolint:gosec // a byte
}

// usualQuants are the quantisers of quality 50, of luminance and of chrominance (T.81, tables K.1 and K.2).
var usualQuants = [2][64]uint16{{
	16, 11, 10, 16, 24, 40, 51, 61,
	12, 12, 14, 19, 26, 58, 60, 55,
	14, 13, 16, 24, 40, 57, 69, 56,
	14, 17, 22, 29, 51, 87, 80, 62,
	18, 22, 37, 56, 68, 109, 103, 77,
	24, 35, 55, 64, 81, 104, 113, 92,
	49, 64, 78, 87, 103, 121, 120, 101,
	72, 92, 95, 98, 112, 100, 103, 99,
}, {
	17, 18, 24, 47, 99, 99, 99, 99,
	18, 21, 26, 66, 99, 99, 99, 99,
	24, 26, 56, 99, 99, 99, 99, 99,
	47, 66, 99, 99, 99, 99, 99, 99,
	99, 99, 99, 99, 99, 99, 99, 99,
	99, 99, 99, 99, 99, 99, 99, 99,
	99, 99, 99, 99, 99, 99, 99, 99,
	99, 99, 99, 99, 99, 99, 99, 99,
}}

// tintQuant is the quantiser with which the mean colour of a block is told to a level. Coarser ones tint
// paper, and save next to nothing: its colour differs little from block to block.
const tintQuant = 8

// quantsFor scales the usual quantisers as encoders commonly do: at 50 they are as they are, at 100 all
// are 1. The mean of chrominance is never coarser than a level.
func quantsFor(quality int) (tables [2][64]uint16) {
	quality = max(1, min(100, quality))
	percent := 200 - 2*quality
	if quality < 50 {
		percent = 5000 / quality
	}
	for i, table := range usualQuants {
		for k, q := range table {
			tables[i][k] = uint16(max(1, min(255, (int(q)*percent+50)/100))) //nolint:gosec // at most 255
		}
	}
	tables[1][0] = min(tables[1][0], tintQuant)
	return tables
}

// smoothed makes quantisers finer or coarser by how quickly what they tell changes: by the sum of its half waves across
// and down a block. From the last on all are as coarse.
func smoothed(tables [2][64]uint16) [2][64]uint16 {
	percent := [...]int{50, 60, 85, 130, 190, 280}
	for i := range tables {
		for k, q := range tables[i] {
			waves := min(k%8+k/8, len(percent)-1)
			tables[i][k] = uint16(max(1, min(255, int(q)*percent[waves]/100))) //nolint:gosec // at most 255
		}
	}
	return tables
}
