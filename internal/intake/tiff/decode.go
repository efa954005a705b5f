package tiff

import (
	"bytes"
	"compress/zlib"
	"errors"
	"fmt"
	"image"
	"image/color"
	"io"

	"golang.org/x/image/tiff/lzw"

	"dorbin/core/bilevel"
	"dorbin/core/jpeg"
)

// Bitmap decodes a bilevel page. Damage in the middle leaves the rest of the
// strip white.
func (p *Page) Bitmap() (*bilevel.Bitmap, error) {
	if !p.Bilevel() {
		return nil, errors.New("the page is not bilevel")
	}
	b := bilevel.New(p.Width, p.Height)
	for i := range p.chunksPerPlane() {
		if err := p.bitmapChunk(b, i); err != nil {
			return nil, err
		}
	}
	if p.Photometric == BlackIsZero {
		b.Invert()
	}
	return b, nil
}

func (p *Page) bitmapChunk(b *bilevel.Bitmap, index int) error {
	area := p.area(index)
	data, err := p.chunkData(index, area.Dy())
	if err != nil {
		return err
	}
	stride := (p.chunkWidth + 7) / 8
	for y := range area.Dy() {
		if (y+1)*stride > len(data) {
			break
		}
		from, to := data[y*stride:(y+1)*stride], b.Row(area.Min.Y+y)
		// Tiles are a multiple of 16 pixels wide, so each begins on a byte.
		copy(to[area.Min.X/8:], from[:(area.Dx()+7)/8])
		clearFrom(to, b.Width)
	}
	return nil
}

func clearFrom(row []byte, width int) {
	if width%8 != 0 {
		row[len(row)-1] &= 0xFF << (8 - width%8)
	}
}

// area is the part of the image that a chunk of the first plane covers.
func (p *Page) area(index int) image.Rectangle {
	x, y := index%p.across()*p.chunkWidth, index/p.across()*p.chunkHeight
	return image.Rect(x, y, min(x+p.chunkWidth, p.Width), min(y+p.chunkHeight, p.Height))
}

func (p *Page) isTiled() bool { return p.chunkWidth != p.Width }

// Image decodes the page. Orientation is not applied.
func (p *Page) Image() (image.Image, error) {
	if p.Bilevel() && p.Compression != JPEG {
		b, err := p.Bitmap()
		if err != nil {
			return nil, err
		}
		return b.Gray(), nil
	}
	if p.Compression == JPEG {
		return p.jpegImage()
	}
	canvas := p.canvas()
	for i := range p.chunksPerPlane() {
		if err := p.paintChunk(canvas, i); err != nil {
			return nil, err
		}
	}
	return canvas.image(), nil
}

func (p *Page) paintChunk(canvas canvas, index int) error {
	area := p.area(index)
	rows := p.chunkHeight
	if !p.isTiled() {
		rows = area.Dy()
	}
	planes := make([]samples, p.planes())
	for plane := range planes {
		data, err := p.chunkData(index+plane*p.chunksPerPlane(), rows)
		if err != nil {
			return err
		}
		planes[plane] = p.samples(data)
	}
	pixel := make([]uint16, p.SamplesPerPixel)
	for y := range area.Dy() {
		for x := range area.Dx() {
			for s := range pixel {
				if p.separate {
					pixel[s] = planes[s].at(x, y, 0)
				} else {
					pixel[s] = planes[0].at(x, y, s)
				}
			}
			canvas.set(area.Min.X+x, area.Min.Y+y, pixel)
		}
	}
	return nil
}

// chunkData reads and decompresses a strip or tile of so many rows and takes
// its predictor back.
func (p *Page) chunkData(index, rows int) ([]byte, error) {
	raw := make([]byte, p.chunks[index].length)
	if n, err := p.reader.ReadAt(raw, p.chunks[index].offset); err != nil && n < len(raw) {
		return nil, fmt.Errorf("read strip %d: %w", index+1, err)
	}
	if p.isTiled() {
		rows = p.chunkHeight
	}
	data, err := p.decompress(raw, rows)
	if err != nil {
		return nil, fmt.Errorf("strip %d: %w", index+1, err)
	}
	if p.predictor == 2 && !p.isFax() {
		p.undoPredictor(data)
	}
	return data, nil
}

func (p *Page) decompress(raw []byte, rows int) ([]byte, error) {
	want := rows * p.rowBytes()
	if p.lsbFirst && !p.isFax() {
		raw = bilevel.ReverseBits(raw)
	}
	switch p.Compression {
	case CCITTRLE, Group3, Group4:
		return p.decodeFax(raw, rows), nil
	case LZW:
		return readUpTo(lzw.NewReader(bytes.NewReader(raw), lzw.MSB, 8), want)
	case Deflate, OldDeflate:
		z, err := zlib.NewReader(bytes.NewReader(raw))
		if err != nil {
			return nil, fmt.Errorf("%w: %w", ErrFormat, err)
		}
		return readUpTo(z, want)
	case PackBits:
		return unpackBits(raw, want), nil
	}
	return raw, nil
}

// readUpTo reads at most want bytes. Data that ends early is padded with zeros.
func readUpTo(r io.Reader, want int) ([]byte, error) {
	data := make([]byte, want)
	n, err := io.ReadFull(r, data)
	if n == 0 && err != nil {
		return nil, fmt.Errorf("%w: %w", ErrFormat, err)
	}
	return data, nil
}

// rowBytes is the length of a decompressed row of one plane.
func (p *Page) rowBytes() int {
	samples := p.SamplesPerPixel
	if p.separate {
		samples = 1
	}
	return (p.chunkWidth*samples*p.BitsPerSample + 7) / 8
}

func (p *Page) faxCoding() bilevel.Coding {
	return bilevel.Coding{
		Group4:         p.Compression == Group4,
		TwoDimensional: p.Compression == Group3 && p.t4Options&1 == 1,
		ByteAligned:    p.Compression == CCITTRLE,
		ReversedBits:   p.lsbFirst,
	}
}

// decodeFax gives packed rows in which 1 is what fax calls black. Damaged rows
// stay white: a scan with a broken end is still worth seeing.
func (p *Page) decodeFax(raw []byte, rows int) []byte {
	b, _ := bilevel.Decode(raw, p.chunkWidth, rows, p.faxCoding())
	return b.Bits
}

// unpackBits decodes TIFF 6.0, section 9.
func unpackBits(raw []byte, want int) []byte {
	out := make([]byte, 0, want)
	for len(raw) > 1 && len(out) < want {
		n := int(int8(raw[0]))
		switch {
		case n >= 0:
			n = min(n+1, len(raw)-1)
			out = append(out, raw[1:1+n]...)
			raw = raw[1+n:]
		case n == -128:
			raw = raw[1:]
		default:
			out = append(out, bytes.Repeat(raw[1:2], 1-n)...)
			raw = raw[2:]
		}
	}
	if len(out) < want {
		out = append(out, make([]byte, want-len(out))...)
	}
	return out[:want]
}

// undoPredictor adds up horizontal differences (TIFF 6.0, section 14).
func (p *Page) undoPredictor(data []byte) {
	step := p.SamplesPerPixel
	if p.separate {
		step = 1
	}
	width := p.rowBytes()
	for start := 0; start+width <= len(data); start += width {
		row := data[start : start+width]
		switch p.BitsPerSample {
		case 8:
			for i := step; i < len(row); i++ {
				row[i] += row[i-step]
			}
		case 16:
			for i := 2 * step; i+1 < len(row); i += 2 {
				p.order.PutUint16(row[i:], p.order.Uint16(row[i:])+p.order.Uint16(row[i-2*step:]))
			}
		}
	}
}

// samples reads single samples out of decompressed rows.
type samples struct {
	page     *Page
	data     []byte
	rowBytes int
	perPixel int
}

func (p *Page) samples(data []byte) samples {
	perPixel := p.SamplesPerPixel
	if p.separate {
		perPixel = 1
	}
	return samples{p, data, p.rowBytes(), perPixel}
}

// at gives a sample as it is stored; what the data lacks is 0.
func (s samples) at(x, y, sample int) uint16 {
	bits := s.page.BitsPerSample
	position := (x*s.perPixel + sample) * bits
	i := y*s.rowBytes + position/8
	if i+bits/16 >= len(s.data) {
		return 0
	}
	switch bits {
	case 8:
		return uint16(s.data[i])
	case 16:
		return s.page.order.Uint16(s.data[i:])
	}
	return uint16(s.data[i]>>(8-bits-position%8)) & (1<<bits - 1)
}

// canvas collects pixels given as raw samples.
type canvas interface {
	set(x, y int, pixel []uint16)
	image() image.Image
}

func (p *Page) canvas() canvas {
	bounds := image.Rect(0, 0, p.Width, p.Height)
	switch p.Photometric {
	case Palette:
		return paletteCanvas{image.NewPaletted(bounds, p.palette())}
	case RGB, YCbCr:
		return rgbCanvas{image.NewNRGBA(bounds), p}
	case Separated:
		return cmykCanvas{image.NewRGBA(bounds), p}
	}
	return grayCanvas{image.NewGray(bounds), p}
}

func (p *Page) palette() color.Palette {
	n := 1 << p.BitsPerSample
	palette := make(color.Palette, n)
	for i := range palette {
		palette[i] = color.RGBA{
			R: uint8(p.colourMap[i] >> 8), G: uint8(p.colourMap[n+i] >> 8), B: uint8(p.colourMap[2*n+i] >> 8), A: 0xFF,
		}
	}
	return palette
}

// eight scales a sample to eight bits.
func (p *Page) eight(sample uint16) uint8 {
	if p.BitsPerSample == 16 {
		return uint8(sample >> 8)
	}
	return uint8(int(sample) * 255 / (1<<p.BitsPerSample - 1))
}

type grayCanvas struct {
	*image.Gray
	page *Page
}

func (c grayCanvas) set(x, y int, pixel []uint16) {
	v := c.page.eight(pixel[0])
	if c.page.Photometric == WhiteIsZero {
		v = 255 - v
	}
	c.Pix[y*c.Stride+x] = v
}

func (c grayCanvas) image() image.Image { return c.Gray }

type paletteCanvas struct{ *image.Paletted }

func (c paletteCanvas) set(x, y int, pixel []uint16) { c.Pix[y*c.Stride+x] = uint8(pixel[0]) }
func (c paletteCanvas) image() image.Image           { return c.Paletted }

type rgbCanvas struct {
	*image.NRGBA
	page *Page
}

func (c rgbCanvas) set(x, y int, pixel []uint16) {
	p := c.page
	value := color.NRGBA{R: p.eight(pixel[0]), G: p.eight(pixel[1]), B: p.eight(pixel[2]), A: 0xFF}
	if p.Photometric == YCbCr {
		value.R, value.G, value.B = color.YCbCrToRGB(value.R, value.G, value.B)
	}
	if p.extraIsAlpha && len(pixel) > 3 {
		value.A = p.eight(pixel[3])
		if p.premultiplied {
			rgba := color.RGBA{R: min(value.R, value.A), G: min(value.G, value.A), B: min(value.B, value.A), A: value.A}
			value = color.NRGBAModel.Convert(rgba).(color.NRGBA)
		}
	}
	c.SetNRGBA(x, y, value)
}

func (c rgbCanvas) image() image.Image { return c.NRGBA }

type cmykCanvas struct {
	*image.RGBA
	page *Page
}

func (c cmykCanvas) set(x, y int, pixel []uint16) {
	p := c.page
	c.Set(x, y, color.CMYK{C: p.eight(pixel[0]), M: p.eight(pixel[1]), Y: p.eight(pixel[2]), K: p.eight(pixel[3])})
}

func (c cmykCanvas) image() image.Image { return c.RGBA }

// jpegImage decodes a page whose chunks are JPEG streams.
func (p *Page) jpegImage() (image.Image, error) {
	var canvas *image.RGBA
	for i := range p.chunksPerPlane() {
		stream, err := p.jpegStream(i)
		if err != nil {
			return nil, err
		}
		img, err := p.decodeJPEG(stream)
		if err != nil {
			return nil, fmt.Errorf("strip %d: %w: %w", i+1, ErrFormat, err)
		}
		if p.chunksPerPlane() == 1 {
			return img, nil
		}
		if canvas == nil {
			canvas = image.NewRGBA(image.Rect(0, 0, p.Width, p.Height))
		}
		drawAt(canvas, p.area(i), img)
	}
	return canvas, nil
}

// mostBeyond is how many pixels a JPEG may have beyond twice those of its strip.
const mostBeyond = 1 << 20

// decodeJPEG decodes a strip or tile. It refuses a JPEG that claims many more pixels than there are in
// the strip, before memory is taken for them.
func (p *Page) decodeJPEG(stream []byte) (image.Image, error) {
	picture, err := jpeg.Open(stream)
	if err != nil {
		return nil, err //nolint:wrapcheck // says what it is about
	}
	if picture.Width*picture.Height > 2*p.chunkWidth*p.chunkHeight+mostBeyond {
		return nil, fmt.Errorf("a JPEG of %d × %d pixels in a strip of %d × %d", picture.Width, picture.Height, p.chunkWidth, p.chunkHeight)
	}
	return picture.Decode(jpeg.Full) //nolint:wrapcheck // says what it is about
}

func drawAt(canvas *image.RGBA, area image.Rectangle, img image.Image) {
	origin := img.Bounds().Min
	for y := range min(area.Dy(), img.Bounds().Dy()) {
		for x := range min(area.Dx(), img.Bounds().Dx()) {
			canvas.Set(area.Min.X+x, area.Min.Y+y, img.At(origin.X+x, origin.Y+y))
		}
	}
}

// jpegStream puts a chunk's data and the tables that all chunks share together
// into a complete JPEG. With RGB samples it gets the marker that keeps readers
// from taking them for YCbCr (Adobe Technical Note 5116).
func (p *Page) jpegStream(index int) ([]byte, error) {
	raw := make([]byte, p.chunks[index].length)
	if n, err := p.reader.ReadAt(raw, p.chunks[index].offset); err != nil && n < len(raw) {
		return nil, fmt.Errorf("read strip %d: %w", index+1, err)
	}
	if len(raw) < 4 || raw[0] != 0xFF || raw[1] != 0xD8 {
		return nil, fmt.Errorf("%w: strip %d is no JPEG", ErrFormat, index+1)
	}
	stream := []byte{0xFF, 0xD8}
	if p.Photometric == RGB && p.SamplesPerPixel == 3 {
		stream = append(stream, 0xFF, 0xEE, 0, 14, 'A', 'd', 'o', 'b', 'e', 0, 100, 0, 0, 0, 0, 0)
	}
	if t := p.jpegTables; len(t) > 4 && t[0] == 0xFF && t[1] == 0xD8 {
		stream = append(stream, bytes.TrimSuffix(t[2:], []byte{0xFF, 0xD9})...)
	}
	return append(stream, raw[2:]...), nil
}

// FaxStream gives the page's data when it is a single Group 4 strip, which can
// be used elsewhere as it is; false otherwise.
func (p *Page) FaxStream() ([]byte, bool, error) {
	if p.Compression != Group4 || len(p.chunks) != 1 || p.isTiled() {
		return nil, false, nil
	}
	raw := make([]byte, p.chunks[0].length)
	if n, err := p.reader.ReadAt(raw, p.chunks[0].offset); err != nil && n < len(raw) {
		return nil, false, fmt.Errorf("read strip: %w", err)
	}
	if p.lsbFirst {
		raw = bilevel.ReverseBits(raw)
	}
	if _, err := bilevel.Decode(raw, p.Width, p.Height, bilevel.Coding{Group4: true}); err != nil {
		return nil, false, nil // damaged: better written anew
	}
	return raw, true, nil
}

// JPEGStream gives the page's data when it is a single JPEG strip in colours a
// JPEG can carry by itself; false otherwise.
func (p *Page) JPEGStream() ([]byte, bool, error) {
	if p.Compression != JPEG || len(p.chunks) != 1 || p.isTiled() {
		return nil, false, nil
	}
	stream, err := p.jpegStream(0)
	return stream, err == nil, err
}
