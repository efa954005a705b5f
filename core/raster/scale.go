package raster

import (
	"encoding/binary"
	"image"
	"math"
)

// fractionBits is how finely the weight of a pixel is told: all of them together make
// 256.
const fractionBits = 8

// filter makes so many new pixels of old ones, each of as many neighbours: a triangle
// that is as wide as two old pixels or two new ones, whichever are larger.
type filter struct {
	taps    int
	first   []int    // for each new pixel, its first neighbour
	weights []uint32 // for each new pixel, as many as there are taps
}

func newFilter(from, to int) filter {
	scale := float64(from) / float64(to)
	support := math.Max(1, scale)
	f := filter{taps: min(from, int(math.Ceil(2*support))), first: make([]int, to)}
	f.weights = make([]uint32, to*f.taps)
	for i := range to {
		middle := (float64(i)+0.5)*scale - 0.5
		f.first[i] = max(0, min(from-f.taps, int(math.Floor(middle-support))+1))
		fillTriangle(f.of(i), middle-float64(f.first[i]), support)
	}
	return f
}

// of are the weights of a new pixel.
func (f filter) of(i int) []uint32 { return f.weights[i*f.taps : (i+1)*f.taps] }

// fillTriangle gives weights that fall evenly to both sides of a middle.
func fillTriangle(weights []uint32, middle, support float64) {
	height := func(k int) float64 { return math.Max(0, 1-math.Abs(float64(k)-middle)/support) }
	sum, highest := 0.0, 0
	for k := range weights {
		sum += height(k)
		if height(k) > height(highest) {
			highest = k
		}
	}
	left := uint32(1 << fractionBits) // below 0 it comes round, as does what it is added to
	for k := range weights {
		weights[k] = uint32(height(k)/math.Max(sum, 1e-9)*(1<<fractionBits) + 0.5)
		left -= weights[k]
	}
	weights[highest] += left
}

// bothHalfLevels have what is cut off rounded, in both lanes of 32 bits: both weights of a pixel were told by
// fractionBits.
const bothHalfLevels = 1<<(2*fractionBits-1) | 1<<(2*fractionBits-1+32)

// column sums up the rows of a picture that become one new row, each with its weight. Eight bytes are summed
// up at once, each in a lane of 16 bits of one of two words: none overflows, as the weights make 256.
type column struct {
	width     int      // bytes of a row
	even, odd []uint64 // for each eight bytes, the sums of every second one
}

const everySecondByte = 0x00FF00FF_00FF00FF

func newColumn(width int) *column {
	words := (width + 7) / 8
	return &column{width, make([]uint64, words), make([]uint64, words)}
}

// sum sums up rows, the first of which begins with the bytes.
func (c *column) sum(pix []uint8, stride int, weights []uint32) {
	clear(c.even)
	clear(c.odd)
	for ; len(weights) >= 2; weights = weights[2:] {
		c.addTwo(pix, pix[stride:], uint64(weights[0]), uint64(weights[1]))
		pix = pix[min(2*stride, len(pix)):]
	}
	if len(weights) > 0 {
		c.addTwo(pix, pix, uint64(weights[0]), 0)
	}
}

// addTwo adds two rows: that saves half of the loading and storing of sums.
func (c *column) addTwo(a, b []uint8, weightA, weightB uint64) {
	full := c.width / 8
	even, odd := c.even[:full], c.odd[:full]
	a, b = a[:c.width], b[:c.width]
	for i := range even {
		levelsA, levelsB := binary.LittleEndian.Uint64(a[8*i:]), binary.LittleEndian.Uint64(b[8*i:])
		even[i] += levelsA&everySecondByte*weightA + levelsB&everySecondByte*weightB
		odd[i] += levelsA>>8&everySecondByte*weightA + levelsB>>8&everySecondByte*weightB
	}
	if full < len(c.even) {
		var restA, restB [8]uint8
		copy(restA[:], a[8*full:])
		copy(restB[:], b[8*full:])
		levelsA, levelsB := binary.LittleEndian.Uint64(restA[:]), binary.LittleEndian.Uint64(restB[:])
		c.even[full] += levelsA&everySecondByte*weightA + levelsB&everySecondByte*weightB
		c.odd[full] += levelsA>>8&everySecondByte*weightA + levelsB>>8&everySecondByte*weightB
	}
}

// shades puts the sum of each byte into a lane of 32 bits of a word, beside that of another column.
func (c *column) shades(other *column, to []uint64) {
	const first, second, third = 0xFFFF, 0xFFFF0000, 0xFFFF_00000000
	pairs := func(a, b uint64, to []uint64) {
		to = to[:7]
		to[0], to[2], to[4], to[6] = a&first|b&first<<32, a&second>>16|b&second<<16, a&third>>32|b&third, a>>48|b>>48<<32
	}
	for i, even := range c.even {
		eight := to[8*i : 8*i+8 : 8*i+8]
		pairs(even, other.even[i], eight)
		pairs(c.odd[i], other.odd[i], eight[1:])
	}
}

// colours puts the sums of red and blue, and of green and what is seen through, each into a lane of 32 bits
// of a word, for each pixel of four bytes.
func (c *column) colours(redBlue, greenAlpha []uint64) {
	const first, second = 0xFFFF, 0xFFFF0000
	for i, even := range c.even {
		odd := c.odd[i]
		two := redBlue[2*i : 2*i+2 : 2*i+2]
		two[0], two[1] = even&first|even&second<<16, even>>32&first|even>>48<<32
		two = greenAlpha[2*i : 2*i+2 : 2*i+2]
		two[0], two[1] = odd&first|odd&second<<16, odd>>32&first|odd>>48<<32
	}
}

// scaledGray makes two rows at once.
func scaledGray(img *image.Gray, width, height int) *image.Gray {
	out := image.NewGray(image.Rect(0, 0, width, height))
	in := img.Pix[img.PixOffset(img.Rect.Min.X, img.Rect.Min.Y):]
	across, down := newFilter(img.Rect.Dx(), width), newFilter(img.Rect.Dy(), height)
	upper, lower := newColumn(img.Rect.Dx()), newColumn(img.Rect.Dx())
	sums := make([]uint64, 8*len(upper.even))
	for y := 0; y < height; y += 2 {
		next := min(y+1, height-1)
		upper.sum(in[down.first[y]*img.Stride:], img.Stride, down.of(y))
		lower.sum(in[down.first[next]*img.Stride:], img.Stride, down.of(next))
		upper.shades(lower, sums)
		toUpper, toLower := out.Pix[y*out.Stride:][:width], out.Pix[next*out.Stride:][:width]
		rest := across.weights
		for x, first := range across.first {
			weights := rest[:across.taps]
			rest = rest[across.taps:]
			sum := uint64(bothHalfLevels)
			for k, level := range sums[first:][:len(weights)] {
				sum += level * uint64(weights[k])
			}
			toUpper[x], toLower[x] = uint8(sum>>16), uint8(sum>>48) //nolint:gosec // the weights make one
		}
	}
	return out
}

func scaledRGBA(img *image.RGBA, width, height int) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	in := img.Pix[img.PixOffset(img.Rect.Min.X, img.Rect.Min.Y):]
	across, down := newFilter(img.Rect.Dx(), width), newFilter(img.Rect.Dy(), height)
	column := newColumn(4 * img.Rect.Dx())
	redBlue, greenAlpha := make([]uint64, 2*len(column.even)), make([]uint64, 2*len(column.even))
	for y, first := range down.first {
		column.sum(in[first*img.Stride:], img.Stride, down.of(y))
		column.colours(redBlue, greenAlpha)
		to := out.Pix[y*out.Stride:][:4*width]
		rest := across.weights
		for x, first := range across.first {
			weights := rest[:across.taps]
			rest = rest[across.taps:]
			a, b := uint64(bothHalfLevels), uint64(bothHalfLevels)
			if len(weights) == 2 { // as where a picture is enlarged
				w, v := uint64(weights[0]), uint64(weights[1])
				rb, ga := redBlue[first:first+2:first+2], greenAlpha[first:first+2:first+2]
				a += rb[0]*w + rb[1]*v
				b += ga[0]*w + ga[1]*v
			} else {
				rb, ga := redBlue[first:][:len(weights)], greenAlpha[first:][:len(weights)]
				for k := range weights {
					weight := uint64(weights[k])
					a += rb[k] * weight
					b += ga[k] * weight
				}
			}
			pixel := to[4*x : 4*x+4 : 4*x+4]
			pixel[0], pixel[1], pixel[2], pixel[3] = uint8(a>>16), uint8(b>>16), uint8(a>>48), uint8(b>>48) //nolint:gosec // each a byte
		}
	}
	return out
}
