package intake

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"image"
	"image/color"
	stdpng "image/png"
	"io"
	"os"

	"dorbin/core/geometry"
	"dorbin/core/pdf"
	"dorbin/core/png"
	"dorbin/internal/intake/tiff"
)

// pngHeader is what the chunks of a PNG say (ISO/IEC 15948:2004, clause 11).
type pngHeader struct {
	width, height   int
	bits, colour    byte
	interlaced      bool
	palette         []byte
	hasTransparency bool
	resolution      geometry.Resolution
	data            []extent // of the IDAT chunks' contents
}

type extent struct{ offset, length int64 }

// Colour types of PNG, table 11.1.
const (
	pngGray    = 0
	pngRGB     = 2
	pngIndexed = 3
)

const metresPerInch = 0.0254

func openPNG(file *os.File, size int64) ([]*Picture, error) {
	header, err := readPNGHeader(file, size)
	if err != nil {
		return nil, err
	}
	decode := func() (image.Image, error) { return stdpng.Decode(io.NewSectionReader(file, 0, size)) }
	return []*Picture{{
		Width: header.width, Height: header.height, Orientation: 1, Resolution: header.resolution,
		Bytes: size, PixelBytes: header.pixelBytes(),
		decode: func(int) (image.Image, error) { return decode() },
		embed: func(bool) (pdf.Image, error) { // its pixels alone
			if header.embeddable() {
				return header.embed(file), nil
			}
			img, err := decode()
			if err != nil {
				return pdf.Image{}, err
			}
			return embedPixels(img)
		},
	}}, nil
}

func readPNGHeader(r io.ReaderAt, size int64) (pngHeader, error) {
	var h pngHeader
	err := eachChunk(r, size, func(kind string, body extent) error {
		if kind == "IDAT" {
			h.data = append(h.data, body)
			return nil
		}
		if body.length > mostOfChunk {
			return nil
		}
		chunk := make([]byte, body.length)
		if _, err := r.ReadAt(chunk, body.offset); err != nil {
			return err
		}
		h.readChunk(kind, chunk)
		return nil
	})
	if err != nil {
		return h, fmt.Errorf("read PNG: %w", err)
	}
	if h.width <= 0 || h.height <= 0 || len(h.data) == 0 {
		return h, errors.New("it has no picture in it")
	}
	return h, nil
}

const mostOfChunk = 1 << 16 // bytes of a chunk that is read, and is not the picture's

// eachChunk calls do for the chunks of a PNG up to its last (ISO/IEC 15948:2004, 5.3), with where
// their content is. Of a torn one, the last that it begins may reach behind the end, if it is of
// the picture.
func eachChunk(r io.ReaderAt, size int64, do func(kind string, body extent) error) error {
	var head [8]byte
	for at := int64(len(png.Signature)); at+int64(len(head)) <= size; {
		if _, err := r.ReadAt(head[:], at); err != nil {
			return err
		}
		length, kind := int64(binary.BigEndian.Uint32(head[:])), string(head[4:])
		body := extent{at + 8, length}
		at += length + 12
		if at > size && kind != "IDAT" {
			return nil
		}
		if err := do(kind, body); err != nil || kind == "IEND" {
			return err
		}
	}
	return nil
}

func (h *pngHeader) readChunk(kind string, chunk []byte) {
	switch {
	case kind == "IHDR" && len(chunk) >= 13:
		h.width, h.height = int(binary.BigEndian.Uint32(chunk)), int(binary.BigEndian.Uint32(chunk[4:]))
		h.bits, h.colour, h.interlaced = chunk[8], chunk[9], chunk[12] != 0
	case kind == "PLTE":
		h.palette = chunk
	case kind == "tRNS":
		h.hasTransparency = true
	case kind == "pHYs" && len(chunk) >= 9 && chunk[8] == 1:
		h.resolution = geometry.Resolution{
			X: float64(binary.BigEndian.Uint32(chunk)) * metresPerInch,
			Y: float64(binary.BigEndian.Uint32(chunk[4:])) * metresPerInch,
		}
	}
}

// pixelBytes is how many bytes a pixel takes once it is decoded.
func (h pngHeader) pixelBytes() int {
	samples := 4
	if h.colour == pngGray || h.colour == pngIndexed {
		samples = 1
	}
	return samples * max(1, int(h.bits)/8)
}

// embeddable tells of a PNG whose compressed data PDF can use as it is.
func (h pngHeader) embeddable() bool {
	return !h.interlaced && !h.hasTransparency && (h.colour == pngGray || h.colour == pngRGB || h.colour == pngIndexed)
}

func (h pngHeader) embed(r io.ReaderAt) pdf.Image {
	img := pdf.Image{
		Width: h.width, Height: h.height, BitsPerComponent: int(h.bits),
		Colour: map[byte]pdf.Colour{pngGray: pdf.Gray, pngRGB: pdf.RGB, pngIndexed: pdf.Indexed}[h.colour],
		Filter: pdf.Flate, PNGPredictor: true, Palette: h.palette,
	}
	readers := make([]io.Reader, len(h.data))
	for i, e := range h.data {
		readers[i] = io.NewSectionReader(r, e.offset, e.length)
		img.Length += e.length
	}
	img.Data = io.MultiReader(readers...)
	return img
}

// embedPixels encodes pixels without loss. What is see-through becomes a soft
// mask, so that it stays see-through.
func embedPixels(img image.Image) (pdf.Image, error) {
	opaque, ok := img.(interface{ Opaque() bool })
	if ok && opaque.Opaque() {
		return encodePixels(img)
	}
	colours, alpha := splitAlpha(img)
	embedded, err := encodePixels(colours)
	if err != nil {
		return embedded, err
	}
	mask, err := encodePixels(alpha)
	embedded.Alpha = &mask
	return embedded, err
}

func splitAlpha(img image.Image) (*image.RGBA, *image.Gray) {
	bounds := img.Bounds()
	colours, alpha := image.NewRGBA(bounds), image.NewGray(bounds)
	for y := bounds.Min.Y; y < bounds.Max.Y; y++ {
		for x := bounds.Min.X; x < bounds.Max.X; x++ {
			c := color.NRGBAModel.Convert(img.At(x, y)).(color.NRGBA)
			alpha.SetGray(x, y, color.Gray{Y: c.A})
			colours.SetRGBA(x, y, color.RGBA{R: c.R, G: c.G, B: c.B, A: 0xFF})
		}
	}
	return colours, alpha
}

// encodePixels goes by way of PNG, whose row filters PDF shares.
func encodePixels(img image.Image) (pdf.Image, error) {
	var file bytes.Buffer
	if err := stdpng.Encode(&file, img); err != nil {
		return pdf.Image{}, fmt.Errorf("encode pixels: %w", err)
	}
	reader := bytes.NewReader(file.Bytes())
	header, err := readPNGHeader(reader, reader.Size())
	if err != nil {
		return pdf.Image{}, err
	}
	return header.embed(reader), nil
}

func embedTIFF(page *tiff.Page, keepFile bool) (pdf.Image, error) {
	if page.Bilevel() && page.Compression != tiff.JPEG {
		return embedBilevel(page)
	}
	stream, ok, err := page.JPEGStream()
	if err != nil {
		return pdf.Image{}, err
	}
	if ok {
		if embedded, ok := embedJPEGBytes(stream, keepFile); ok {
			return embedded, nil
		}
	}
	img, err := page.Image()
	if err != nil {
		return pdf.Image{}, err
	}
	return embedPixels(img)
}
