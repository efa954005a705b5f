package raster

import (
	"image"
	"math"

	"dorbin/core/geometry"
)

// FlatPixels is how many pixels the outlined paper of a picture of width by
// height pixels deserves when it is laid flat with the given aspect: as many as
// its longer sides have in the picture.
func FlatPixels(o geometry.Outline, width, height int, aspect float64) (w, h int) {
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
func Flatten(img image.Image, o geometry.Outline, width, height int) image.Image {
	w, h := FlatPixels(o, img.Bounds().Dx(), img.Bounds().Dy(), float64(width)/float64(height))
	if factor := min(w/width, h/height); factor >= 2 {
		img = boxShrink(img, factor)
	}
	m := o.Projection(float64(width), float64(height), float64(img.Bounds().Dx()), float64(img.Bounds().Dy()))
	if gray, ok := img.(*image.Gray); ok {
		out := image.NewGray(image.Rect(0, 0, width, height))
		resample(out.Pix, gray.Pix, 1, gray.Stride, gray.Rect, width, height, m)
		return out
	}
	rgba := ToRGBA(img)
	out := image.NewRGBA(image.Rect(0, 0, width, height))
	resample(out.Pix, rgba.Pix, 4, rgba.Stride, rgba.Rect, width, height, m)
	return out
}

// resample fetches each pixel of a width by height picture from where the
// projection leads, by interpolation between four (fixed point, 8 bits).
func resample(out, in []byte, channels, stride int, bounds image.Rectangle, width, height int, m geometry.Projection) {
	w, h := bounds.Dx(), bounds.Dy()
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
				nearestPixel(to, in, stride, px, py, w, h)
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

// nearestPixel is for the border; beyond it all is white.
func nearestPixel(to, in []byte, stride, px, py, w, h int) {
	channels := len(to)
	if px < -1 || py < -1 || px > w || py > h {
		for c := range to {
			to[c] = 255
		}
		return
	}
	px, py = max(0, min(w-1, px)), max(0, min(h-1, py))
	copy(to, in[py*stride+px*channels:])
}
