package raster

import (
	"image"
	"testing"

	"dorbin/core/geometry"
)

// twelveMegapixels is a photograph as a telephone takes it, as JPEG decodes it.
func twelveMegapixels() (*image.YCbCr, geometry.PaperQuad) {
	photo := takePhotograph(3)
	large := image.NewYCbCr(image.Rect(0, 0, 4000, 3000), image.YCbCrSubsampleRatio420)
	small := ToGray(photo.img)
	for y := range 3000 {
		for x := range 4000 {
			large.Y[y*large.YStride+x] = small.Pix[y*photoHeight/3000*small.Stride+x*photoWidth/4000]
		}
	}
	for i := range large.Cb {
		large.Cb[i], large.Cr[i] = 124, 131
	}
	return large, photo.truth
}

func BenchmarkFindOutline12MP(b *testing.B) {
	img, _ := twelveMegapixels()
	for b.Loop() {
		FindOutline(img)
	}
}

func BenchmarkFlatten12MP(b *testing.B) {
	img, outline := twelveMegapixels()
	width, height := FlatPixels(outline, 4000, 3000, 0.707)
	for b.Loop() {
		Flatten(img, outline, width, height)
	}
}

func BenchmarkTone12MP(b *testing.B) {
	img, _ := twelveMegapixels()
	rgba := ToRGBA(img)
	for _, mode := range []ToneMode{PaperWhite, GrayTone, BlackWhite} {
		b.Run(string(mode), func(b *testing.B) {
			for b.Loop() {
				Tone{Mode: mode}.Apply(rgba)
			}
		})
	}
}

// BenchmarkResize scales a page at 300 dpi, in shades of grey and in colours.
func BenchmarkResize(b *testing.B) {
	gray := NewWhite(image.Rect(0, 0, 2480, 3508))
	for i := range gray.Pix {
		gray.Pix[i] = uint8(i * 7)
	}
	rgba := ToRGBA(gray)
	for name, to := range map[string]image.Point{"half": {X: 1240, Y: 1754}, "two thirds": {X: 1654, Y: 2339}, "2.8th": {X: 886, Y: 1253}, "twice": {X: 4960, Y: 7016}} {
		for kind, img := range map[string]image.Image{"gray": gray, "rgba": rgba} {
			b.Run(name+"/"+kind, func(b *testing.B) {
				for b.Loop() {
					Resize(img, to.X, to.Y)
				}
			})
		}
	}
}
