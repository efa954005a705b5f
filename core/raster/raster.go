package raster

import (
	"encoding/binary"
	"image"
	"image/color"
	"image/draw"
	"math"

	"dorbin/core/geometry"
)

// Fit shrinks a picture so that its longer edge has at most maxEdge pixels. A
// picture that is small enough is returned as it is.
func Fit(img image.Image, maxEdge int) image.Image {
	width, height := img.Bounds().Dx(), img.Bounds().Dy()
	longer := max(width, height)
	if longer <= maxEdge {
		return img
	}
	return Resize(img, max(1, width*maxEdge/longer), max(1, height*maxEdge/longer))
}

// Resize scales to an exact size in pixels. Every pixel that is left out weighs in those
// that stay, so that thin lines do not get lost. What is see-through is laid on white.
func Resize(img image.Image, width, height int) image.Image {
	if img.Bounds().Empty() || width < 1 || height < 1 {
		return onWhite(width, height)
	}
	img = coarsened(img, min(img.Bounds().Dx()/width, img.Bounds().Dy()/height))
	if img.Bounds().Dx() == width && img.Bounds().Dy() == height {
		return img
	}
	if gray, ok := img.(*image.Gray); ok {
		return scaledGray(gray, width, height)
	}
	return scaledRGBA(ToRGBA(img), width, height)
}

// coarsened averages squares of pixels first where very many become one. With colours
// apart, as a JPEG has them, that is done for fewer: it saves their conversion.
func coarsened(img image.Image, shrinking int) image.Image {
	const enough = 2
	factor := shrinking / enough
	if _, isApart := img.(*image.YCbCr); isApart {
		factor = shrinking
	}
	if factor < 2 {
		return img
	}
	return boxShrink(img, factor)
}

// NewWhite is a white picture in shades of grey, made more quickly than one is painted.
func NewWhite(bounds image.Rectangle) *image.Gray {
	out := image.NewGray(bounds)
	for i := range out.Pix {
		out.Pix[i] = 255
	}
	return out
}

func onWhite(width, height int) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	return out
}

// boxShrink averages squares of factor by factor pixels. Pixels at the right
// and bottom that fill no whole square are dropped.
func boxShrink(img image.Image, factor int) image.Image {
	width, height := img.Bounds().Dx()/factor, img.Bounds().Dy()/factor
	if gray, ok := img.(*image.Gray); ok {
		return boxShrinkGray(gray, width, height, factor)
	}
	if ycbcr, ok := img.(*image.YCbCr); ok {
		return boxShrinkYCbCr(ycbcr, width, height, factor)
	}
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	if rgba, ok := img.(*image.RGBA); ok && rgba.Opaque() {
		for y := range height {
			at := rgba.PixOffset(rgba.Rect.Min.X, rgba.Rect.Min.Y+y*factor)
			averageBand(out.Pix[y*out.Stride:], rgba.Pix[at:], rgba.Stride, width, factor)
		}
		return out
	}
	band := onWhite(width*factor, factor)
	for y := range height {
		source := img.Bounds().Min.Add(image.Pt(0, y*factor))
		draw.Draw(band, band.Bounds(), image.White, image.Point{}, draw.Src)
		draw.Draw(band, band.Bounds(), img, source, draw.Over)
		averageBand(out.Pix[y*out.Stride:], band.Pix, band.Stride, width, factor)
	}
	return out
}

const everySecondLane = 0x0000FFFF_0000FFFF

// lanes puts the four bytes of a pixel each in a lane of 16 bits.
func lanes(pixel []uint8) uint64 {
	v := uint64(binary.LittleEndian.Uint32(pixel))
	v = (v | v<<16) & everySecondLane
	return (v | v<<8) & everySecondByte
}

// averageBand makes one row of averages out of as many as the factor.
func averageBand(out, band []byte, stride, width, factor int) {
	area := uint64(factor * factor) //nolint:gosec // not negative
	for x := range width {
		var even, odd uint64 // red and blue, green and what is seen through: each in 32 bits
		for dy := range factor {
			row := band[dy*stride+x*factor*4:][:factor*4]
			for dx := 0; dx+3 < len(row); dx += 4 {
				pixel := lanes(row[dx : dx+4])
				even += pixel & everySecondLane
				odd += pixel >> 16 & everySecondLane
			}
		}
		pixel := out[4*x : 4*x+4 : 4*x+4]
		pixel[0], pixel[1] = byte(even&math.MaxUint32/area), byte(odd&math.MaxUint32/area) //nolint:gosec // means of bytes
		pixel[2], pixel[3] = byte(even>>32/area), 0xFF                                     //nolint:gosec // a mean of bytes
	}
}

// boxShrinkYCbCr averages before it converts, as there are fewer colours than
// levels to average.
func boxShrinkYCbCr(img *image.YCbCr, width, height, factor int) image.Image {
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	area := factor * factor
	for y := range height {
		for x := range width {
			left, top := img.Rect.Min.X+x*factor, img.Rect.Min.Y+y*factor
			sum := 0
			for dy := range factor {
				at := img.YOffset(left, top+dy)
				for _, v := range img.Y[at : at+factor] {
					sum += int(v)
				}
			}
			from := img.COffset(left, top)
			cb, cr := averageChroma(img, from, img.COffset(left+factor-1, top)-from+1,
				(img.COffset(left, top+factor-1)-from)/img.CStride+1)
			r, g, b := color.YCbCrToRGB(byte(sum/area), cb, cr)
			pix := out.Pix[y*out.Stride+4*x:][:4]
			pix[0], pix[1], pix[2], pix[3] = r, g, b, 0xFF
		}
	}
	return out
}

// averageChroma averages columns by rows samples of colour, from an index on.
func averageChroma(img *image.YCbCr, from, columns, rows int) (cb, cr byte) {
	var blue, red int
	for row := range rows {
		at := from + row*img.CStride
		for i := at; i < at+columns; i++ {
			blue += int(img.Cb[i])
			red += int(img.Cr[i])
		}
	}
	n := columns * rows
	return byte(blue / n), byte(red / n)
}

func boxShrinkGray(img *image.Gray, width, height, factor int) *image.Gray {
	out := image.NewGray(image.Rect(0, 0, width, height))
	area := factor * factor
	for y := range height {
		for x := range width {
			sum := 0
			for dy := range factor {
				at := img.PixOffset(img.Rect.Min.X+x*factor, img.Rect.Min.Y+y*factor+dy)
				for _, v := range img.Pix[at : at+factor] {
					sum += int(v)
				}
			}
			out.Pix[y*out.Stride+x] = byte(sum / area)
		}
	}
	return out
}

// Mirrored is the EXIF orientation of a picture whose left is right.
const Mirrored = 2

// MirroredOrientation is the orientation that stands as the given one does, seen
// in a mirror.
func MirroredOrientation(orientation int) int {
	if m, ok := map[int]int{2: 1, 3: 4, 4: 3, 5: 6, 6: 5, 7: 8, 8: 7}[orientation]; ok {
		return m
	}
	return Mirrored
}

// Orient makes a picture stand as its EXIF orientation, 1 to 8, says.
func Orient(img image.Image, orientation int) image.Image {
	if orientation < 2 || orientation > 8 {
		return img
	}
	return transform(img, orientation)
}

// Turn turns a picture clockwise by 90, 180 or 270 degrees.
func Turn(img image.Image, degrees int) image.Image {
	orientation, ok := map[int]int{90: 6, 180: 3, 270: 8}[degrees]
	if !ok {
		return img
	}
	return transform(img, orientation)
}

// transform moves every pixel to where its EXIF orientation puts it.
func transform(img image.Image, orientation int) image.Image {
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	outW, outH := w, h
	if orientation >= 5 {
		outW, outH = h, w
	}
	place := places[orientation]
	if gray, ok := img.(*image.Gray); ok {
		out := image.NewGray(image.Rect(0, 0, outW, outH))
		for y := range h {
			for x := range w {
				ox, oy := place(x, y, w, h)
				out.Pix[oy*out.Stride+ox] = gray.GrayAt(gray.Rect.Min.X+x, gray.Rect.Min.Y+y).Y
			}
		}
		return out
	}
	out := image.NewRGBA(image.Rect(0, 0, outW, outH))
	source := ToRGBA(img)
	for y := range h {
		for x := range w {
			ox, oy := place(x, y, w, h)
			copy(out.Pix[oy*out.Stride+4*ox:][:4], source.Pix[y*source.Stride+4*x:][:4])
		}
	}
	return out
}

// places says where the pixel at x, y of a w by h picture goes, by orientation
// (CIPA DC-008, 4.6.4).
var places = map[int]func(x, y, w, h int) (int, int){
	2: func(x, y, w, _ int) (int, int) { return w - 1 - x, y },
	3: func(x, y, w, h int) (int, int) { return w - 1 - x, h - 1 - y },
	4: func(x, y, _, h int) (int, int) { return x, h - 1 - y },
	5: func(x, y, _, _ int) (int, int) { return y, x },
	6: func(x, y, _, h int) (int, int) { return h - 1 - y, x },
	7: func(x, y, w, h int) (int, int) { return h - 1 - y, w - 1 - x },
	8: func(x, y, w, _ int) (int, int) { return y, w - 1 - x },
}

// AsStored is where a box of an upright picture lies in the picture as it is stored, whose EXIF orientation is 1 to 8.
// Both are in shares of a picture's width and height.
func AsStored(upright geometry.Box, orientation int) geometry.Box {
	b := upright
	if orientation >= 5 {
		b = geometry.Box{X0: b.Y0, Y0: b.X0, X1: b.Y1, Y1: b.X1}
	}
	if orientation == 2 || orientation == 3 || orientation == 7 || orientation == 8 {
		b.X0, b.X1 = 1-b.X1, 1-b.X0
	}
	if orientation == 3 || orientation == 4 || orientation == 6 || orientation == 7 {
		b.Y0, b.Y1 = 1-b.Y1, 1-b.Y0
	}
	return b
}

// ToRGBA gives a picture as one whose pixels begin at 0, 0; what is see-through is
// laid on white.
func ToRGBA(img image.Image) *image.RGBA {
	if rgba, ok := img.(*image.RGBA); ok && rgba.Rect.Min == (image.Point{}) {
		return rgba
	}
	out := onWhite(img.Bounds().Dx(), img.Bounds().Dy())
	draw.Draw(out, out.Bounds(), img, img.Bounds().Min, draw.Over)
	return out
}
