package jpeg

import (
	"image"
	"image/color"
)

// damage tells how much of the picture is there.
func (d *decoder) damage(cause error) *DamagedError {
	s := d.current
	rows := d.frame.height
	if s.whole < s.all {
		rows = min(rows, s.whole/s.across*s.rows)
	}
	return &DamagedError{Rows: rows, Scans: d.scans, Progressive: d.frame.isProgressive, Cause: cause}
}

// missing tells of components of which nothing came.
func (d *decoder) missing() error {
	for i := range d.frame.components {
		if !d.frame.components[i].came {
			return errEnded
		}
	}
	return nil
}

// ratios are those of chrominance that image.YCbCr has, by how many samples of luminance there are to
// one, across and down.
var ratios = map[[2]int]image.YCbCrSubsampleRatio{
	{1, 1}: image.YCbCrSubsampleRatio444, {2, 1}: image.YCbCrSubsampleRatio422, {2, 2}: image.YCbCrSubsampleRatio420,
	{1, 2}: image.YCbCrSubsampleRatio440, {4, 1}: image.YCbCrSubsampleRatio411, {4, 2}: image.YCbCrSubsampleRatio410,
}

// picture gives the samples as a picture.
func (d *decoder) picture() image.Image {
	size := image.Rect(0, 0, d.scale.of(d.frame.width), d.scale.of(d.frame.height))
	all := d.frame.components
	switch {
	case len(all) == 1:
		return &image.Gray{Pix: all[0].samples, Stride: all[0].stride, Rect: size}
	case len(all) == mostComponents:
		return d.inks(size)
	case d.colours.areRGB(all):
		return d.rgb(size)
	}
	ratio, ok := d.ratio()
	if !ok {
		d.stretchAll(size)
		ratio = image.YCbCrSubsampleRatio444
	}
	return &image.YCbCr{
		Y: all[0].samples, Cb: all[1].samples, Cr: all[2].samples,
		YStride: all[0].stride, CStride: all[1].stride, SubsampleRatio: ratio, Rect: size,
	}
}

// ratio is that of chrominance, where image.YCbCr has it.
func (d *decoder) ratio() (image.YCbCrSubsampleRatio, bool) {
	y, cb, cr := d.frame.components[0], d.frame.components[1], d.frame.components[2]
	if cb.h != cr.h || cb.v != cr.v || y.h != d.frame.mostH || y.v != d.frame.mostV || y.h%cb.h != 0 || y.v%cb.v != 0 {
		return 0, false
	}
	ratio, ok := ratios[[2]int{y.h / cb.h, y.v / cb.v}]
	return ratio, ok
}

// stretch repeats the samples of a component so that there is one for each pixel.
func (c *component) stretch(size image.Rectangle, f *frame) {
	width, height := size.Dx(), size.Dy()
	samples := make([]byte, width*height)
	for y := range height {
		from := c.samples[y*c.v/f.mostV*c.stride:]
		to := samples[y*width : (y+1)*width]
		for x := range to {
			to[x] = from[x*c.h/f.mostH]
		}
	}
	c.samples, c.stride = samples, width
}

// stretchAll has all components have one sample for each pixel.
func (d *decoder) stretchAll(size image.Rectangle) []component {
	for i := range d.frame.components {
		d.frame.components[i].stretch(size, d.frame)
	}
	return d.frame.components
}

// rgb is a picture of red, green and blue.
func (d *decoder) rgb(size image.Rectangle) image.Image {
	all := d.stretchAll(size)
	img := image.NewRGBA(size)
	for y := range size.Dy() {
		to := img.Pix[y*img.Stride:][:4*size.Dx()]
		r, g, b := all[0].samples[y*all[0].stride:], all[1].samples[y*all[1].stride:], all[2].samples[y*all[2].stride:]
		for x := range size.Dx() {
			to[4*x], to[4*x+1], to[4*x+2], to[4*x+3] = r[x], g[x], b[x], 255
		}
	}
	return img
}

// inks is a picture of four inks. Adobe's programs write them inverted, and may write the first three as
// luminance and chrominance of what is not inverted (ITU-T T.872, 6.5.3).
func (d *decoder) inks(size image.Rectangle) image.Image {
	all := d.stretchAll(size)
	img := image.NewCMYK(size)
	isYCCK := d.colours.isAdobe && d.colours.adobeTransform != 0
	for y := range size.Dy() {
		to := img.Pix[y*img.Stride:][:4*size.Dx()]
		c, m, ye, k := all[0].samples[y*all[0].stride:], all[1].samples[y*all[1].stride:], all[2].samples[y*all[2].stride:], all[3].samples[y*all[3].stride:]
		for x := range size.Dx() {
			inks := [4]byte{c[x], m[x], ye[x], k[x]}
			if isYCCK {
				// Inverted inks are red, green and blue: the two inversions cancel out.
				inks[0], inks[1], inks[2] = color.YCbCrToRGB(c[x], m[x], ye[x])
				inks[3] = 255 - k[x]
			} else if d.colours.isAdobe {
				inks = [4]byte{255 - c[x], 255 - m[x], 255 - ye[x], 255 - k[x]}
			}
			copy(to[4*x:], inks[:])
		}
	}
	return img
}
