package raster

import (
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

// bilinear scales samples, so many a pixel, as lines between neighbours in both
// directions.
func bilinear(out, in []uint8, samples, outStride, inStride int, across, down []tap) {
	const half = 1 << (2*fractionBits - 1)
	for y, v := range down {
		one, other := in[v.first*inStride:], in[v.second*inStride:]
		row := out[y*outStride:]
		for x, h := range across {
			a, b := h.first*samples, h.second*samples
			for s := range samples {
				upper := mix(one[a+s], one[b+s], h.share)
				lower := mix(other[a+s], other[b+s], h.share)
				row[x*samples+s] = uint8((upper<<fractionBits + (lower-upper)*v.share + half) >> (2 * fractionBits))
			}
		}
	}
}

func bilinearGray(img *image.Gray, width, height int) *image.Gray {
	out := image.NewGray(image.Rect(0, 0, width, height))
	in := img.Pix[img.PixOffset(img.Rect.Min.X, img.Rect.Min.Y):]
	bilinear(out.Pix, in, 1, out.Stride, img.Stride, taps(img.Rect.Dx(), width), taps(img.Rect.Dy(), height))
	return out
}

func bilinearRGBA(img *image.RGBA, width, height int) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	in := img.Pix[img.PixOffset(img.Rect.Min.X, img.Rect.Min.Y):]
	bilinear(out.Pix, in, 4, out.Stride, img.Stride, taps(img.Rect.Dx(), width), taps(img.Rect.Dy(), height))
	return out
}
