package raster

import (
	"bytes"
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

// fourHalfLevels have the same rounded in four lanes of 16 bits.
const fourHalfLevels = 0x0001_0001_0001_0001 << (fractionBits - 1)

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

// colours puts the means of red, blue, green and what is seen through, each into a lane of 16 bits of a word, for each
// pixel of four bytes.
func (c *column) colours(to []uint64) {
	for i, even := range c.even {
		redBlue, greenAlpha := meansOf(even), meansOf(c.odd[i])
		two := to[2*i : 2*i+2 : 2*i+2]
		two[0], two[1] = redBlue&0xFFFFFFFF|greenAlpha<<32, redBlue>>32|greenAlpha>>32<<32
	}
}

// meansOf gives the means of four lanes with sums that are made of levels with weights.
func meansOf(sums uint64) uint64 { return (sums + fourHalfLevels) >> fractionBits & everySecondByte }

// isPlain tells whether all levels are the same, as between lines of text on a mask: by comparing each with the next.
func isPlain(levels []uint8) bool { return bytes.Equal(levels[1:], levels[:len(levels)-1]) }

func fill(levels []uint8, level uint8) {
	for i := range levels {
		levels[i] = level
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
		toUpper, toLower := out.Pix[y*out.Stride:][:width], out.Pix[next*out.Stride:][:width]
		firstRow, lastRow := down.first[y], down.first[next]+down.taps-1
		if levels := in[firstRow*img.Stride : lastRow*img.Stride+img.Rect.Dx()]; isPlain(levels) {
			fill(toUpper, levels[0])
			fill(toLower, levels[0])
			continue
		}
		upper.sum(in[firstRow*img.Stride:], img.Stride, down.of(y))
		lower.sum(in[down.first[next]*img.Stride:], img.Stride, down.of(next))
		upper.shades(lower, sums)
		rest := across.weights
		for x, first := range across.first {
			weights := rest[:across.taps]
			rest = rest[across.taps:]
			sum := uint64(bothHalfLevels)
			if len(weights) == 3 { // as from 300 to 200 dots an inch
				near := sums[first : first+3 : first+3]
				sum += near[0]*uint64(weights[0]) + near[1]*uint64(weights[1]) + near[2]*uint64(weights[2])
			} else {
				for k, level := range sums[first:][:len(weights)] {
					sum += level * uint64(weights[k])
				}
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
	means := make([]uint64, 2*len(column.even))
	for y, first := range down.first {
		column.sum(in[first*img.Stride:], img.Stride, down.of(y))
		column.colours(means)
		to := out.Pix[y*out.Stride:][:4*width]
		rest := across.weights
		for x, first := range across.first {
			weights := rest[:across.taps]
			rest = rest[across.taps:]
			sum := uint64(0)
			switch len(weights) {
			case 2: // as where a picture is enlarged
				near := means[first : first+2 : first+2]
				sum = near[0]*uint64(weights[0]) + near[1]*uint64(weights[1])
			case 3: // as from 300 to 200 dots an inch
				near := means[first : first+3 : first+3]
				sum = near[0]*uint64(weights[0]) + near[1]*uint64(weights[1]) + near[2]*uint64(weights[2])
			default:
				for k, mean := range means[first:][:len(weights)] {
					sum += mean * uint64(weights[k])
				}
			}
			pixel := meansOf(sum)
			binary.LittleEndian.PutUint32(to[4*x:], uint32(pixel)|uint32(pixel>>32)<<8) //nolint:gosec // four bytes
		}
	}
	return out
}
