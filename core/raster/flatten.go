package raster

import (
	"image"
	"image/color"
	"math"

	"dorbin/core/geometry"
)

// FlatPixels is how many pixels the outlined paper of a picture of width by
// height pixels deserves when it is laid flat with the given aspect: as many as
// its longer sides have in the picture.
func FlatPixels(o geometry.PaperQuad, width, height int, aspect float64) (w, h int) {
	side := func(i, j int) float64 {
		return math.Hypot((o[i].X-o[j].X)*float64(width), (o[i].Y-o[j].Y)*float64(height))
	}
	across, down := math.Max(side(0, 1), side(3, 2)), math.Max(side(0, 3), side(1, 2))
	if down*aspect > across {
		across = down * aspect
	} else {
		down = across / aspect
	}
	return max(1, int(across+0.5)), max(1, int(down+0.5))
}

// Flatten lays the outlined paper of a picture flat, in width by height pixels.
// What lies outside the picture is white.
func Flatten(img image.Image, o geometry.PaperQuad, width, height int) image.Image {
	size := img.Bounds().Size()
	m := o.Projection(float64(width), float64(height), float64(size.X), float64(size.Y))
	return Warp(img, m, width, height, color.White)
}

// Warp draws a picture of width by height pixels, each from where the projection
// leads in img. Where that is outside img, it is filled.
func Warp(img image.Image, m geometry.Projection, width, height int, fill color.Color) image.Image {
	size := img.Bounds().Size()
	if factor := shrinking(m, width, height); factor >= 2 {
		img = boxShrink(img, factor)
		small := img.Bounds().Size()
		m = m.Then(geometry.Scaling(float64(small.X)/float64(size.X), float64(small.Y)/float64(size.Y)).Projection())
	}
	if gray, ok := img.(*image.Gray); ok {
		out := image.NewGray(image.Rect(0, 0, width, height))
		paper := color.GrayModel.Convert(fill).(color.Gray) //nolint:forcetypeassert // what the model gives
		resample(out.Pix, gray.Pix, []byte{paper.Y}, gray.Stride, gray.Rect, width, height, m)
		return out
	}
	rgba := ToRGBA(img)
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	paper := color.RGBAModel.Convert(fill).(color.RGBA) //nolint:forcetypeassert // what the model gives
	resample(out.Pix, rgba.Pix, []byte{paper.R, paper.G, paper.B, paper.A}, rgba.Stride, rgba.Rect, width, height, m)
	return out
}

// shrinking is by how many pixels of the source each pixel of the result stands
// apart, at least, from the next ones in the middle of the picture.
func shrinking(m geometry.Projection, width, height int) int {
	x, y := float64(width)/2, float64(height)/2
	x0, y0 := m.Apply(x, y)
	x1, y1 := m.Apply(x+1, y)
	x2, y2 := m.Apply(x, y+1)
	return int(math.Min(math.Hypot(x1-x0, y1-y0), math.Hypot(x2-x0, y2-y0)) + 1e-6)
}

// resample fetches each pixel of a width by height picture from where the
// projection leads, by interpolation between four (fixed point, 8 bits). A pixel
// has as many bytes as fill.
func resample(out, in, fill []byte, stride int, bounds image.Rectangle, width, height int, m geometry.Projection) {
	w, h, channels := bounds.Dx(), bounds.Dy(), len(fill)
	for y := range height {
		row := out[y*width*channels : (y+1)*width*channels]
		v := float64(y) + 0.5
		x0, y0, w0 := m[1]*v+m[2], m[4]*v+m[5], m[7]*v+m[8]
		for x := range width {
			u := float64(x) + 0.5
			scale := 256 / (m[6]*u + w0)
			sx, sy := int((m[0]*u+x0)*scale)-128, int((m[3]*u+y0)*scale)-128
			px, py := sx>>8, sy>>8
			to := row[x*channels : (x+1)*channels]
			if px < 0 || py < 0 || px >= w-1 || py >= h-1 {
				nearestPixel(to, in, fill, stride, px, py, w, h)
				continue
			}
			fx, fy := sx&255, sy&255
			a := in[py*stride+px*channels:]
			b := a[stride:]
			a, b = a[:2*channels], b[:2*channels]
			for c := range to {
				top := int(a[c])*(256-fx) + int(a[c+channels])*fx
				bottom := int(b[c])*(256-fx) + int(b[c+channels])*fx
				to[c] = byte((top*(256-fy) + bottom*fy) >> 16)
			}
		}
	}
}

// nearestPixel is for the border; beyond it all is filled.
func nearestPixel(to, in, fill []byte, stride, px, py, w, h int) {
	if px < -1 || py < -1 || px > w || py > h {
		copy(to, fill)
		return
	}
	px, py = max(0, min(w-1, px)), max(0, min(h-1, py))
	copy(to, in[py*stride+px*len(to):])
}
