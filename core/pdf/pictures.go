package pdf

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"math"

	"github.com/pdfcpu/pdfcpu/pkg/filter"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/bilevel"
	"dorbin/core/geometry"
	"dorbin/core/jpeg"
)

// ErrKept is wrapped by the errors of pictures that are left as they are: what they are
// written in is not read, or means more than pixels.
var ErrKept = errors.New("the picture stays as it is")

// Picture is an image that a page of a document draws.
type Picture struct {
	Object        int // its object's number in the document
	Width, Height int // pixels
	DPI           float64
	Bytes         int64 // as it is encoded
	IsWhole       bool  // it fills its page, on which nothing else is seen
	HasAlpha      bool  // it is see-through somewhere
	IsKept        bool  // it stays as it is: its pixels cannot be given
	stream        types.StreamDict
	samples       samples
	filter        string // the last
	parms         types.Dict
	kept          error // why it is left as it is
}

// samples is what an image's samples mean (8.9.5).
type samples struct {
	components int
	bits       int
	inverted   bool   // 1 bit: 1 is black
	palette    []byte // of Indexed, three for each entry
}

// covering is the share of a page from which a picture fills it.
const covering = 0.9

// Pictures are the images that a page, counted from 0, draws itself or by forms. DPI is
// of where it is drawn the largest.
func (d *Document) Pictures(page int) []Picture {
	node := d.pages[page]
	var pictures []Picture
	index := map[int]int{}
	draws, inks := 0, 0
	covers := false
	shown := d.shown(node)
	follow := drawer{doc: d, onInk: func() { inks++ }, onDraw: func(object int, image types.StreamDict, at geometry.Affine) {
		draws++
		p := d.picture(object, image)
		if p.Width < 1 || p.Height < 1 {
			return
		}
		across, down := math.Hypot(at.A, at.B), math.Hypot(at.C, at.D)
		p.DPI = math.Min(float64(p.Width)/across, float64(p.Height)/down) * geometry.PointsPerInch
		covers = drawnArea(at, shown) >= covering
		if i, ok := index[object]; ok {
			pictures[i].DPI = math.Min(pictures[i].DPI, p.DPI)
			return
		}
		index[object] = len(pictures)
		p.IsKept = p.kept != nil || p.filter == filter.JBIG2 || p.filter == filter.JPX
		pictures = append(pictures, p)
	}}
	for _, content := range d.contentOf(node) {
		follow.follow(content, d.dict(node.resources), geometry.Identity)
	}
	if draws == 1 && inks == 0 && len(pictures) == 1 {
		pictures[0].IsWhole = covers && !pictures[0].HasAlpha
	}
	return pictures
}

// contentOf is a page's content as one stream (7.8.2).
func (d *Document) contentOf(node pageNode) [][]byte {
	streams, ok := (&pruning{doc: d}).contents(node.dict["Contents"], 0)
	if !ok {
		return nil
	}
	return [][]byte{bytes.Join(streams, []byte("\n"))}
}

// drawnArea is the share of a page that lies within the bounds of an image that is drawn
// by a transformation of the unit square.
func drawnArea(at geometry.Affine, page rectangle) float64 {
	bounds := rectangle{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for _, corner := range [][2]float64{{0, 0}, {1, 0}, {0, 1}, {1, 1}} {
		x, y := at.Apply(corner[0], corner[1])
		bounds = rectangle{min(bounds.x0, x), min(bounds.y0, y), max(bounds.x1, x), max(bounds.y1, y)}
	}
	across := min(bounds.x1, page.x1) - max(bounds.x0, page.x0)
	down := min(bounds.y1, page.y1) - max(bounds.y0, page.y0)
	return max(0, across) * max(0, down) / ((page.x1 - page.x0) * (page.y1 - page.y0))
}

func (d *Document) picture(object int, stream types.StreamDict) Picture {
	dict := stream.Dict
	width, _ := d.number(dict["Width"])
	height, _ := d.number(dict["Height"])
	p := Picture{
		Object: object, Width: int(width), Height: int(height), Bytes: int64(len(stream.Raw)), stream: stream,
		HasAlpha: d.dict(dict["SMask"]) != nil,
	}
	if n := len(stream.FilterPipeline); n > 0 {
		p.filter, p.parms = stream.FilterPipeline[n-1].Name, stream.FilterPipeline[n-1].DecodeParms
	}
	for _, key := range []string{"Mask", "ImageMask", "SMaskInData", "Alternates"} {
		if v := d.resolve(dict[key]); v != nil && v != types.Boolean(false) && v != types.Integer(0) {
			p.kept = fmt.Errorf("%w: it has the entry %s", ErrKept, key)
			return p
		}
	}
	p.samples, p.kept = d.samplesOf(dict, p.filter)
	return p
}

func (d *Document) samplesOf(dict types.Dict, lastFilter string) (samples, error) {
	depth, ok := d.number(dict["BitsPerComponent"])
	if !ok && lastFilter == filter.CCITTFax {
		depth = 1
	}
	s := samples{bits: int(depth)}
	if lastFilter == filter.DCT {
		s.bits = 8
	}
	s.components, s.palette = d.colourSpaceOf(dict["ColorSpace"])
	if s.components == 0 || (s.bits != 8 && (s.bits != 1 || s.components != 1 || s.palette != nil)) {
		return s, fmt.Errorf("%w: it has other colours", ErrKept)
	}
	for i, v := range d.array(dict["Decode"]) {
		n, _ := d.number(v)
		switch {
		case s.bits == 1 && s.palette == nil && i == 0:
			s.inverted = n == 1
		case s.bits == 1 && s.palette == nil:
		case s.palette != nil || n != float64(i%2):
			return s, fmt.Errorf("%w: its samples are decoded otherwise", ErrKept)
		}
	}
	return s, nil
}

// colourSpaceOf gives the components of a colour space whose colours are those of a
// screen, or nearly; 0 of others. An indexed one has a palette.
func (d *Document) colourSpaceOf(o types.Object) (components int, palette []byte) {
	switch d.name(o) {
	case "DeviceGray", "G", "CalGray":
		return 1, nil
	case "DeviceRGB", "RGB", "CalRGB":
		return 3, nil
	}
	array := d.array(o)
	if len(array) < 2 {
		return 0, nil
	}
	switch d.name(array[0]) {
	case "CalGray":
		return 1, nil
	case "CalRGB":
		return 3, nil
	case "ICCBased":
		if n, _ := d.number(d.dict(array[1])["N"]); n == 1 || n == 3 {
			return int(n), nil
		}
	case "Indexed", "I":
		if len(array) == 4 && !d.isIndexed(array[1]) {
			return d.indexed(array)
		}
	}
	return 0, nil
}

// isIndexed tells whether a colour space is an indexed one, on which no other can be based.
func (d *Document) isIndexed(o types.Object) bool {
	array := d.array(o)
	if len(array) == 0 {
		return false
	}
	name := d.name(array[0])
	return name == "Indexed" || name == "I"
}

// indexed gives the palette of an indexed colour space in RGB (8.6.6.3).
func (d *Document) indexed(array types.Array) (components int, palette []byte) {
	base, _ := d.colourSpaceOf(array[1])
	if base == 0 {
		return 0, nil
	}
	var table []byte
	if text, ok := d.text(array[3]); ok {
		table = []byte(text)
	} else if stream, ok := d.resolve(array[3]).(types.StreamDict); ok && stream.DecodeWithLimit(maxPalette) == nil {
		table = stream.Content
	}
	for i := 0; i+base <= len(table); i += base {
		if base == 1 {
			palette = append(palette, table[i], table[i], table[i])
		} else {
			palette = append(palette, table[i:i+3]...)
		}
	}
	if len(palette) == 0 {
		return 0, nil
	}
	return 1, palette
}

// Decode gives the picture's pixels; an error wraps ErrKept or tells of damage.
func (p Picture) Decode() (image.Image, error) {
	if p.kept != nil {
		return nil, p.kept
	}
	if p.Width > maxPixels/max(1, p.Height) {
		return nil, fmt.Errorf("%w: it has more than %d pixels", ErrKept, maxPixels)
	}
	stream := p.stream
	if p.filter == filter.DCT {
		return p.decodeJPEG(stream)
	}
	if p.filter == filter.CCITTFax {
		return p.decodeFax(stream)
	}
	if p.filter == filter.JBIG2 || p.filter == filter.JPX {
		return nil, fmt.Errorf("%w: it is written by %s", ErrKept, p.filter)
	}
	if err := stream.DecodeWithLimit(maxSamples); err != nil {
		return nil, fmt.Errorf("decode a picture: %w", err)
	}
	return p.fromSamples(stream.Content)
}

// encoded is what the last filter is given: the others are undone.
func encoded(stream types.StreamDict) ([]byte, error) {
	if len(stream.FilterPipeline) == 1 {
		return stream.Raw, nil
	}
	stream.FilterPipeline = stream.FilterPipeline[:len(stream.FilterPipeline)-1]
	stream.Content = nil
	if err := stream.DecodeWithLimit(maxSamples); err != nil {
		return nil, fmt.Errorf("unpack a picture: %w", err)
	}
	return stream.Content, nil
}

func (p Picture) decodeJPEG(stream types.StreamDict) (image.Image, error) {
	data, err := encoded(stream)
	if err != nil {
		return nil, err
	}
	picture, err := jpeg.Open(data)
	if err != nil {
		return nil, fmt.Errorf("open a picture: %w", err)
	}
	if picture.Width > maxPixels/picture.Height {
		return nil, fmt.Errorf("%w: it has more than %d pixels", ErrKept, maxPixels)
	}
	img, err := picture.Decode(jpeg.Full)
	if err != nil {
		return nil, fmt.Errorf("decode a picture: %w", err)
	}
	_, isGray := img.(*image.Gray)
	if _, isColour := img.(*image.YCbCr); (isGray && p.samples.components != 1) || (!isGray && (!isColour || p.samples.components != 3)) {
		return nil, fmt.Errorf("%w: its colours are not those of its JPEG", ErrKept)
	}
	return img, nil
}

func (p Picture) decodeFax(stream types.StreamDict) (image.Image, error) {
	data, err := encoded(stream)
	if err != nil {
		return nil, err
	}
	number := func(key string, missing float64) float64 {
		switch v := p.parms[key].(type) {
		case types.Integer:
			return float64(v)
		case types.Float:
			return float64(v)
		}
		return missing
	}
	flag := func(key string) bool { v, _ := p.parms[key].(types.Boolean); return bool(v) }
	k := number("K", 0)
	if int(number("Columns", 1728)) != p.Width {
		return nil, fmt.Errorf("%w: its rows have another length", ErrKept)
	}
	ink, err := bilevel.Decode(data, p.Width, p.Height, bilevel.Coding{
		Group4: k < 0, TwoDimensional: k > 0, ByteAligned: flag("EncodedByteAlign"),
	})
	if err != nil {
		return nil, fmt.Errorf("decode a picture: %w", err)
	}
	// By default 0 is black in what the filter gives, as in grey (7.4.6, table 11).
	if flag("BlackIs1") != p.samples.inverted {
		ink.Invert()
	}
	return ink.Gray(), nil
}

func (p Picture) fromSamples(data []byte) (image.Image, error) {
	s := p.samples
	row := (p.Width*s.components*s.bits + 7) / 8
	if len(data) < row*p.Height {
		return nil, fmt.Errorf("decode a picture: it has %d bytes where %d are needed", len(data), row*p.Height)
	}
	bounds := image.Rect(0, 0, p.Width, p.Height)
	switch {
	case s.bits == 1:
		ink := &bilevel.Bitmap{Width: p.Width, Height: p.Height, Stride: row, Bits: bytes.Clone(data[:row*p.Height])}
		if !s.inverted {
			ink.Invert() // 0 is black in grey, 1 in a bitmap
		}
		return ink.Gray(), nil
	case s.palette != nil:
		return s.indexedImage(bounds, data), nil
	case s.components == 1:
		return &image.Gray{Pix: data[:row*p.Height], Stride: row, Rect: bounds}, nil
	}
	out := image.NewRGBA(bounds)
	for i := range p.Width * p.Height {
		copy(out.Pix[4*i:], data[3*i:3*i+3])
		out.Pix[4*i+3] = 255
	}
	return out, nil
}

func (s samples) indexedImage(bounds image.Rectangle, data []byte) image.Image {
	colours := make(color.Palette, len(s.palette)/3)
	for i := range colours {
		colours[i] = color.RGBA{s.palette[3*i], s.palette[3*i+1], s.palette[3*i+2], 255}
	}
	out := image.NewRGBA(bounds)
	for i := range bounds.Dx() * bounds.Dy() {
		index := min(int(data[i]), len(colours)-1)
		copy(out.Pix[4*i:], []uint8{s.palette[3*index], s.palette[3*index+1], s.palette[3*index+2], 255})
	}
	return out
}

// Replacement is what an image of a document is written as instead: an image, or layers
// where it has inks.
type Replacement struct {
	Image Image
	Inks  []Ink
}

// writeReplacement writes an image's replacement. What is not a matter of its pixels
// stays.
func (c *copier) writeReplacement(old types.Dict, r *Replacement) int {
	if len(r.Inks) > 0 {
		return c.writeLayeredForm(old, r)
	}
	dict := c.imageDict(r.Image)
	if count, palette := c.doc.colourSpaceOf(old["ColorSpace"]); palette == nil && count == components[r.Image.Colour] && r.Image.Filter == DCT {
		dict["ColorSpace"] = c.value(old["ColorSpace"])
	}
	for _, key := range []string{"SMask", "OC", "Interpolate", "Intent"} {
		if kept := c.value(old[key]); kept != nil {
			dict[key] = kept
		}
	}
	number := c.out.allocate()
	c.out.stream(number, dict, r.Image.Data, r.Image.Length)
	return number
}

// writeLayeredForm writes layers as a form that fills the unit square, as an image does:
// content that draws the image draws the form (8.8, 8.10).
func (c *copier) writeLayeredForm(old types.Dict, r *Replacement) int {
	objects := types.Dict{"Im0": reference(c.writeImage(r.Image))}
	content := []byte("/Im0 Do\n")
	for i, ink := range r.Inks {
		name := fmt.Sprintf("Im%d", i+1)
		objects[name] = reference(c.writeInk(ink))
		content = fmt.Appendf(content, "%s/%s Do\n", ink.setColour(), name)
	}
	dict := types.Dict{
		"Type": types.Name("XObject"), "Subtype": types.Name("Form"), "BBox": numbers(0, 0, 1, 1),
		"Resources": types.Dict{"XObject": objects},
	}
	if kept := c.value(old["OC"]); kept != nil {
		dict["OC"] = kept
	}
	number := c.out.allocate()
	c.out.stream(number, dict, bytes.NewReader(content), int64(len(content)))
	return number
}
