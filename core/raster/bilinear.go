package raster

import (
	"encoding/binary"
	"image"
	"math"
)

// fractionBits is how finely a place between two pixels is told.
const fractionBits = 8

// tap is where a new pixel lies between two old ones: the share of the second is in
// 256ths.
type tap struct{ first, second, share int }

// taps gives a tap for each of so many new pixels, whose middles lie evenly over the old
// ones.
func taps(from, to int) []tap {
	all := make([]tap, to)
	for i := range all {
		at := (float64(i)+0.5)*float64(from)/float64(to) - 0.5
		first := math.Floor(at)
		all[i] = tap{
			max(0, min(from-1, int(first))), max(0, min(from-1, int(first)+1)),
			int((at - first) * (1 << fractionBits)),
		}
	}
	return all
}

func mix(a, b uint8, share int) int { return int(a)<<fractionBits + (int(b)-int(a))*share }

// bilinear scales samples as lines between neighbours in both directions: across, a row
// at a time, and then down between two such rows, of which the next pixels often need
// the same.
func bilinear[Row any](down []tap, across func(y int, row Row), between func(y int, one, other Row, share int), rows [2]Row) {
	held := [2]int{-1, -1}
	hold := func(y, other int) int {
		for i, is := range held {
			if is == y {
				return i
			}
		}
		i := 0
		if held[0] == other {
			i = 1
		}
		across(y, rows[i])
		held[i] = y
		return i
	}
	for y, v := range down {
		one := hold(v.first, v.second)
		other := hold(v.second, v.first)
		between(y, rows[one], rows[other], v.share)
	}
}

const halfLevel = 1 << (2*fractionBits - 1)

func bilinearGray(img *image.Gray, width, height int) *image.Gray {
	out := image.NewGray(image.Rect(0, 0, width, height))
	in := img.Pix[img.PixOffset(img.Rect.Min.X, img.Rect.Min.Y):]
	steps := taps(img.Rect.Dx(), width)
	across := func(y int, row []int32) {
		from := in[y*img.Stride:]
		for x, h := range steps {
			row[x] = int32(mix(from[h.first], from[h.second], h.share)) //nolint:gosec // below 2^16
		}
	}
	between := func(y int, one, other []int32, share int) {
		to := out.Pix[y*out.Stride:][:width]
		for x := range to {
			level := one[x]<<fractionBits + (other[x]-one[x])*int32(share) //nolint:gosec // at most 2^8
			to[x] = uint8((level + halfLevel) >> (2 * fractionBits))       //nolint:gosec // a level
		}
	}
	bilinear(taps(img.Rect.Dy(), height), across, between, [2][]int32{make([]int32, width), make([]int32, width)})
	return out
}

// The channels of a pixel are mixed at once, each in a lane of 16 bits of a word, and
// then each second in one of 32.
const everySecondLane = 0x0000FFFF_0000FFFF

// lanes puts the four bytes of a pixel each in a lane of 16 bits.
func lanes(pixel []uint8) uint64 {
	v := uint64(binary.LittleEndian.Uint32(pixel))
	v = (v | v<<16) & everySecondLane
	return (v | v<<8) & 0x00FF00FF_00FF00FF
}

func bilinearRGBA(img *image.RGBA, width, height int) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	in := img.Pix[img.PixOffset(img.Rect.Min.X, img.Rect.Min.Y):]
	steps := taps(img.Rect.Dx(), width)
	const whole = 1 << fractionBits
	across := func(y int, row []uint64) {
		from := in[y*img.Stride:]
		for x, h := range steps {
			row[x] = lanes(from[4*h.first:])*uint64(whole-h.share) + lanes(from[4*h.second:])*uint64(h.share) //nolint:gosec // shares of 256
		}
	}
	const half = halfLevel | halfLevel<<32
	between := func(y int, one, other []uint64, share int) {
		to := out.Pix[y*out.Stride:][:4*width]
		first, second := uint64(whole-share), uint64(share) //nolint:gosec // shares of 256
		for x := range width {
			a, b := one[x], other[x]
			even := (a&everySecondLane)*first + (b&everySecondLane)*second + half
			odd := (a>>16&everySecondLane)*first + (b>>16&everySecondLane)*second + half
			pixel := to[4*x : 4*x+4 : 4*x+4]
			pixel[0], pixel[1], pixel[2], pixel[3] = uint8(even>>16), uint8(odd>>16), uint8(even>>48), uint8(odd>>48)
		}
	}
	bilinear(taps(img.Rect.Dy(), height), across, between, [2][]uint64{make([]uint64, width), make([]uint64, width)})
	return out
}
