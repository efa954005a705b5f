package shrink

import (
	"encoding/binary"
	"image"
	"image/color"

	"dorbin/core/bilevel"
)

// fillPasses is the most squares of background that are bridged.
const fillPasses = 64

// background averages what is not ink over squares of so many pixels. Squares that are
// all ink get what is around them.
func background(img *image.RGBA, ink *bilevel.Bitmap, factor int) *image.RGBA {
	w, h := ceilDiv(ink.Width, factor), ceilDiv(ink.Height, factor)
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	known := make([]bool, w*h)
	squares := make([]sum, w)
	for y := range h {
		clear(squares)
		for v := y * factor; v < min(ink.Height, (y+1)*factor); v++ {
			addPaper(squares, img.Pix[v*img.Stride:][:4*ink.Width], ink, v, factor)
		}
		for x, square := range squares {
			if square.count > 0 {
				out.SetRGBA(x, y, square.mean())
				known[y*w+x] = true
			}
		}
	}
	fillUnknown(out, known)
	return out
}

// sum is that of the colours of so many pixels.
type sum struct{ red, green, blue, count int }

func (s *sum) add(pixel []uint8) {
	s.red, s.green, s.blue = s.red+int(pixel[0]), s.green+int(pixel[1]), s.blue+int(pixel[2])
	s.count++
}

func (s *sum) mean() color.RGBA {
	return color.RGBA{uint8(s.red / s.count), uint8(s.green / s.count), uint8(s.blue / s.count), 255} //nolint:gosec // means of bytes
}

// addPaper adds what is not ink in a row of pixels to the squares that they are in.
func addPaper(squares []sum, pixels []uint8, ink *bilevel.Bitmap, y, factor int) {
	for i := range squares {
		from, to := i*factor, min(ink.Width, (i+1)*factor)
		square := squares[i]
		if to-from <= mostAtOnce && !ink.HasBlack(y, from, to) {
			square.addAll(pixels[4*from : 4*to])
		} else {
			for x := from; x < to; x++ {
				if !ink.Black(x, y) {
					square.add(pixels[4*x : 4*x+4])
				}
			}
		}
		squares[i] = square
	}
}

// mostAtOnce is how many pixels addAll adds.
const mostAtOnce = 256

// addAll adds pixels two at once, each colour in a lane of 16 bits.
func (s *sum) addAll(pixels []uint8) {
	const everySecondByte = 0x00FF00FF_00FF00FF
	var redBlue, green uint64
	s.count += len(pixels) / 8 * 2
	for ; len(pixels) >= 8; pixels = pixels[8:] {
		two := binary.LittleEndian.Uint64(pixels)
		redBlue += two & everySecondByte
		green += two >> 8 & everySecondByte
	}
	s.red += int(redBlue&0xFFFF + redBlue>>32&0xFFFF)
	s.green += int(green&0xFFFF + green>>32&0xFFFF)
	s.blue += int(redBlue>>16&0xFFFF + redBlue>>48)
	if len(pixels) == 4 {
		s.add(pixels)
	}
}

// fillUnknown spreads what is known to its neighbours, a pixel each time, and then fills
// what is left with white.
func fillUnknown(img *image.RGBA, known []bool) {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	for range fillPasses {
		var found []int
		for y := range h {
			for x := range w {
				if !known[y*w+x] && spread(img, known, x, y) {
					found = append(found, y*w+x)
				}
			}
		}
		if len(found) == 0 {
			break
		}
		for _, i := range found {
			known[i] = true
		}
	}
	for i, is := range known {
		if !is {
			copy(img.Pix[4*i:], []uint8{255, 255, 255, 255})
		}
	}
}

func spread(img *image.RGBA, known []bool, x, y int) bool {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	var around sum
	for v := max(0, y-1); v <= min(h-1, y+1); v++ {
		for u := max(0, x-1); u <= min(w-1, x+1); u++ {
			if known[v*w+u] {
				around.add(img.Pix[img.PixOffset(u, v):])
			}
		}
	}
	if around.count > 0 {
		img.SetRGBA(x, y, around.mean())
	}
	return around.count > 0
}
