package worker

import (
	"fmt"
	"image"
	"image/draw"
)

// Picture says how the pixels of an image lie in the data beside a reply.
type Picture struct {
	Width  int                       `json:"width"`
	Height int                       `json:"height"`
	Model  string                    `json:"model"`            // "gray", "ycbcr" or "rgba"
	Ratio  image.YCbCrSubsampleRatio `json:"ratio,omitempty"`  // of ycbcr
	Stride [2]int                    `json:"stride,omitempty"` // of ycbcr: bytes of a row of its first plane and of the others
}

// PackPicture gives the pixels of an image as data. What is neither grey nor YCbCr becomes RGBA,
// drawn over white, or grey where it has no colours, as a palette of black and white.
func PackPicture(img image.Image) (Picture, []byte) {
	p := Picture{Width: img.Bounds().Dx(), Height: img.Bounds().Dy()}
	switch img := img.(type) {
	case *image.Gray:
		p.Model = "gray"
		return p, rows(img.Pix, img.Stride, p.Width, p.Height)
	case *image.YCbCr:
		if img.Rect.Min == (image.Point{}) {
			p.Model, p.Ratio, p.Stride = "ycbcr", img.SubsampleRatio, [2]int{img.YStride, img.CStride}
			luma := img.Y[:img.YStride*(p.Height-1)+p.Width]
			data := append(make([]byte, 0, img.YStride*p.Height+len(img.Cb)+len(img.Cr)), luma...)
			data = append(data, make([]byte, img.YStride*p.Height-len(luma))...)
			return p, append(append(data, img.Cb...), img.Cr...)
		}
	case *image.RGBA:
		p.Model = "rgba"
		return p, rows(img.Pix, img.Stride, 4*p.Width, p.Height)
	}
	p.Model = "rgba"
	rgba := image.NewRGBA(image.Rect(0, 0, p.Width, p.Height))
	draw.Draw(rgba, rgba.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(rgba, rgba.Rect, img, img.Bounds().Min, draw.Over)
	if levels := levelsOf(rgba.Pix); levels != nil {
		p.Model = "gray"
		return p, levels
	}
	return p, rgba.Pix
}

// levelsOf gives the levels of grey of pixels of four bytes; nil where there are colours.
func levelsOf(pixels []byte) []byte {
	for i := 0; i+3 < len(pixels); i += 4 {
		if r, g, b := pixels[i], pixels[i+1], pixels[i+2]; r != g || g != b {
			return nil
		}
	}
	levels := make([]byte, len(pixels)/4)
	for i := range levels {
		levels[i] = pixels[4*i]
	}
	return levels
}

// rows gives rows of so many bytes without what lies between them.
func rows(pix []byte, stride, width, height int) []byte {
	if stride == width {
		return pix[:width*height]
	}
	tight := make([]byte, 0, width*height)
	for y := range height {
		tight = append(tight, pix[y*stride:y*stride+width]...)
	}
	return tight
}

// Unpack gives the image of which the data are the pixels. A worker that was broken into may
// have sent anything.
func (p Picture) Unpack(data []byte) (image.Image, error) {
	const mostPixels = 1 << 30
	if p.Width <= 0 || p.Height <= 0 || p.Width > mostPixels/p.Height {
		return nil, fmt.Errorf("a picture of %d by %d pixels", p.Width, p.Height)
	}
	rect := image.Rect(0, 0, p.Width, p.Height)
	switch p.Model {
	case "gray":
		if len(data) == p.Width*p.Height {
			return &image.Gray{Pix: data, Stride: p.Width, Rect: rect}, nil
		}
	case "rgba":
		if len(data) == 4*p.Width*p.Height {
			return &image.RGBA{Pix: data, Stride: 4 * p.Width, Rect: rect}, nil
		}
	case "ycbcr":
		return p.unpackYCbCr(data)
	}
	return nil, fmt.Errorf("%d bytes are no %s picture of %d by %d pixels", len(data), p.Model, p.Width, p.Height)
}

func (p Picture) unpackYCbCr(data []byte) (image.Image, error) {
	if p.Ratio < image.YCbCrSubsampleRatio444 || p.Ratio > image.YCbCrSubsampleRatio410 {
		return nil, fmt.Errorf("there is no subsampling %d", p.Ratio)
	}
	across, down := chromaSize(p.Ratio, p.Width, p.Height)
	luma := p.Stride[0] * p.Height
	if p.Stride[0] < p.Width || p.Stride[1] < across || p.Stride[0] > len(data) || p.Stride[1] > len(data) || luma > len(data) || (len(data)-luma)%2 != 0 {
		return nil, fmt.Errorf("%d bytes are no YCbCr picture of %d by %d pixels", len(data), p.Width, p.Height)
	}
	chroma := (len(data) - luma) / 2
	if chroma < p.Stride[1]*(down-1)+across {
		return nil, fmt.Errorf("%d bytes are no YCbCr picture of %d by %d pixels", len(data), p.Width, p.Height)
	}
	return &image.YCbCr{
		Y: data[:luma:luma], Cb: data[luma : luma+chroma : luma+chroma], Cr: data[luma+chroma:],
		YStride: p.Stride[0], CStride: p.Stride[1], SubsampleRatio: p.Ratio, Rect: image.Rect(0, 0, p.Width, p.Height),
	}, nil
}

// chromaSize is how many samples of colour a picture has, across and down.
func chromaSize(ratio image.YCbCrSubsampleRatio, width, height int) (across, down int) {
	x, y := 1, 1
	switch ratio {
	case image.YCbCrSubsampleRatio422:
		x = 2
	case image.YCbCrSubsampleRatio420:
		x, y = 2, 2
	case image.YCbCrSubsampleRatio440:
		y = 2
	case image.YCbCrSubsampleRatio411:
		x = 4
	case image.YCbCrSubsampleRatio410:
		x, y = 4, 2
	}
	return (width + x - 1) / x, (height + y - 1) / y
}
