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

// scaled goes down the new rows of a picture. Across makes a row of new pixels of an old
// row; they are kept for as long as new rows need them.
func scaled[Sample any](f filter, width int, across func(y int, row []Sample), down func(y int, rows [][]Sample, weights []uint32)) {
	held := make([][]Sample, f.taps)
	for i := range held {
		held[i] = make([]Sample, width)
	}
	rows := make([][]Sample, f.taps)
	known := 0 // rows that were made
	for y, first := range f.first {
		for ; known < first+f.taps; known++ {
			if known >= first {
				across(known, held[known%f.taps])
			}
		}
		for k := range rows {
			rows[k] = held[(first+k)%f.taps]
		}
		down(y, rows, f.of(y))
	}
}

const halfLevel = 1 << (2*fractionBits - 1)

func scaledGray(img *image.Gray, width, height int) *image.Gray {
	out := image.NewGray(image.Rect(0, 0, width, height))
	in := img.Pix[img.PixOffset(img.Rect.Min.X, img.Rect.Min.Y):]
	f := newFilter(img.Rect.Dx(), width)
	across := func(y int, row []uint32) {
		from := in[y*img.Stride:]
		for x, first := range f.first {
			sum := uint32(0)
			weights := f.of(x)
			for k, level := range from[first : first+len(weights)] {
				sum += uint32(level) * weights[k]
			}
			row[x] = sum
		}
	}
	sums := make([]uint32, width)
	down := func(y int, rows [][]uint32, weights []uint32) {
		for x := range sums {
			sums[x] = halfLevel
		}
		for k, row := range rows {
			weight := weights[k]
			for x, level := range row[:len(sums)] {
				sums[x] += level * weight
			}
		}
		to := out.Pix[y*out.Stride:][:width]
		for x, sum := range sums {
			to[x] = uint8(sum >> (2 * fractionBits)) //nolint:gosec // the weights make one
		}
	}
	scaled(newFilter(img.Rect.Dy(), height), width, across, down)
	return out
}

// The channels of a pixel are summed up at once, each in a lane of 16 bits of a word, and
// then each second in one of 32.
const everySecondLane = 0x0000FFFF_0000FFFF

// lanes puts the four bytes of a pixel each in a lane of 16 bits.
func lanes(pixel []uint8) uint64 {
	v := uint64(binary.LittleEndian.Uint32(pixel))
	v = (v | v<<16) & everySecondLane
	return (v | v<<8) & 0x00FF00FF_00FF00FF
}

func scaledRGBA(img *image.RGBA, width, height int) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	in := img.Pix[img.PixOffset(img.Rect.Min.X, img.Rect.Min.Y):]
	f := newFilter(img.Rect.Dx(), width)
	pixels := make([]uint64, img.Rect.Dx())
	across := func(y int, row []uint64) {
		from := in[y*img.Stride:][:4*len(pixels)]
		for x := range pixels {
			pixels[x] = lanes(from[4*x : 4*x+4])
		}
		for x, first := range f.first {
			sum := uint64(0)
			weights := f.of(x)
			for k, pixel := range pixels[first : first+len(weights)] {
				sum += pixel * uint64(weights[k])
			}
			row[x] = sum
		}
	}
	even, odd := make([]uint64, width), make([]uint64, width)
	down := func(y int, rows [][]uint64, weights []uint32) {
		const half = halfLevel | halfLevel<<32
		for x := range even {
			even[x], odd[x] = half, half
		}
		for k, row := range rows {
			addWeighted(even, odd, row, uint64(weights[k]))
		}
		to := out.Pix[y*out.Stride:][:4*width]
		for x := range even {
			a, b := even[x], odd[x]
			pixel := to[4*x : 4*x+4 : 4*x+4]
			pixel[0], pixel[1], pixel[2], pixel[3] = uint8(a>>16), uint8(b>>16), uint8(a>>48), uint8(b>>48) //nolint:gosec // each a byte
		}
	}
	scaled(newFilter(img.Rect.Dy(), height), width, across, down)
	return out
}

func addWeighted(even, odd, row []uint64, weight uint64) {
	even, odd = even[:len(row)], odd[:len(row)]
	for x, level := range row {
		even[x] += (level & everySecondLane) * weight
		odd[x] += (level >> 16 & everySecondLane) * weight
	}
}
