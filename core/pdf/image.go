package pdf

import (
	"bytes"
	"fmt"
	"io"
	"maps"
	"math"
	"slices"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/geometry"
	"dorbin/core/raster"
)

// Filter is how an image's bytes are encoded (7.4).
type Filter string

// The filters that images come with.
const (
	DCT   Filter = "DCTDecode"      // JPEG, byte for byte
	CCITT Filter = "CCITTFaxDecode" // ITU-T T.4 and T.6
	JBIG2 Filter = "JBIG2Decode"    // ITU-T T.88; 1 is black
	Flate Filter = "FlateDecode"
)

// Colour is the meaning of an image's samples (8.6).
type Colour int

// The colour spaces that images come with.
const (
	Gray Colour = iota
	RGB
	CMYK
	Indexed
)

// Image is an encoded picture that fills a page.
type Image struct {
	Width, Height    int // pixels as encoded
	BitsPerComponent int
	Colour           Colour
	Palette          []byte // RGB triples, for Indexed
	Profile          []byte // ICC profile; may be empty
	Inverted         bool   // samples mean the opposite: 0 is white, or no ink in CMYK
	Filter           Filter
	Deflated         bool   // DCT: the data is compressed once more, by Flate
	PNGPredictor     bool   // Flate data has PNG's row filters (7.4.4.4)
	Group            int    // CCITT's K: below 0 for T.6, 0 for T.4 in one dimension
	BlackIs1         bool   // CCITT: a 1 bit is black in the decoded image
	Shared           []byte // JBIG2: segments that several images need
	Orientation      int    // EXIF orientation 1 to 8; 0 is 1
	// Seen is the part that fills what is seen of the page, in pixels as encoded; zero is all of the image.
	Seen     geometry.Box
	Alpha    *Image
	Smooth   bool  // drawn without steps between its pixels
	Stripped bool  // what its file told about it was left out
	Length   int64 // of Data, in bytes
	Data     io.Reader
}

var components = map[Colour]int{Gray: 1, RGB: 3, CMYK: 4, Indexed: 1}

// AddImage writes the image once, as pages at all the given positions. The image
// fills what is seen of each page: it was straightened and cropped before it was
// encoded. The pages of the placements are not used.
func (a *Assembler) AddImage(img Image, placements []Placement) error {
	layer := drawnImage{number: a.writeImage(img), orientation: img.Orientation, part: img.part()}
	if img.Stripped {
		a.leftOut[Metadata]++
	}
	for _, p := range placements {
		if err := a.claim(p.Position); err != nil {
			return err
		}
		if err := a.imagePage([]drawnImage{layer}, p); err != nil {
			return err
		}
	}
	return a.out.err
}

// Ink is a one-bit image whose black is painted in a colour (8.9.6.2), or shows another image that
// has the colours in each place (8.9.6.3).
type Ink struct {
	Image
	Red, Green, Blue uint8
	Colours          *Image // as large on the page as the ink; none where one colour does
}

// setColour is the operator that sets the ink's colour, where it has one.
func (i Ink) setColour() string {
	if i.Colours != nil {
		return ""
	}
	return fmt.Sprintf("%.3f %.3f %.3f rg ", float64(i.Red)/255, float64(i.Green)/255, float64(i.Blue)/255)
}

// AddLayers writes a page of an image with inks over it, each of which fills what is
// seen of the page as the image does.
func (a *Assembler) AddLayers(background Image, inks []Ink, p Placement) error {
	if err := a.claim(p.Position); err != nil {
		return err
	}
	layers := []drawnImage{{number: a.writeImage(background)}}
	for _, ink := range inks {
		layers = append(layers, drawnImage{number: a.writeInk(ink), colour: ink.setColour()})
	}
	if err := a.imagePage(layers, p); err != nil {
		return err
	}
	return a.out.err
}

// drawnImage is an image object that is drawn on a page.
type drawnImage struct {
	number      int
	orientation int    // of EXIF
	colour      string // the operator that sets it, for a mask
	part        string // the operators that have a part of it fill the unit square
}

// part has the seen part of an image fill the unit square, and nothing be seen of the rest.
func (img Image) part() string {
	if img.Seen.IsZero() {
		return ""
	}
	size := img.Seen.Size()
	across, down := float64(img.Width)/size.Width, float64(img.Height)/size.Height
	below := float64(img.Height) - img.Seen.Y1
	return fmt.Sprintf("0 0 1 1 re W n %.6f 0 0 %.6f %.6f %.6f cm ", across, down, -img.Seen.X0/size.Width, -below/size.Height)
}

// imagePage writes a page of images. It is turned by its content, so that text on it runs to the
// right in the page's own axes: some readers search no other.
func (a *Assembler) imagePage(images []drawnImage, p Placement) error {
	sheet, seen := p.Laid()
	if p.Mirror {
		seen = seen.MirroredIn(sheet.Width)
	}
	place := ""
	if x, y := round(seen.X0), round(sheet.Height-seen.Y1); x != 0 || y != 0 {
		place = fmt.Sprintf("1 0 0 1 %s %s cm ", appendObject(nil, types.Float(x)), appendObject(nil, types.Float(y)))
	}
	turn := turning(p.Turn, sheet)
	var content []byte
	objects := types.Dict{}
	for i, img := range images {
		exif := img.orientation
		if p.Mirror {
			exif = raster.MirroredOrientation(exif)
		}
		name := fmt.Sprintf("Im%d", i)
		objects[name] = reference(img.number)
		content = fmt.Appendf(content, "q %s%s%s%s cm %s/%s Do Q\n", img.colour, turn, place, orientation(exif, seen.Size()), img.part, name)
	}
	return a.writePage(p.Position, sheet.Turned(p.Turn), content, types.Dict{"XObject": objects})
}

// turning is what turns a page of this size by degrees clockwise: nothing for one that is upright.
func turning(turn int, size geometry.Size) string {
	w, h := round(size.Width), round(size.Height)
	switch geometry.NormalTurn(turn) {
	case 90:
		return fmt.Sprintf("0 -1 1 0 0 %s cm ", operands(w))
	case 180:
		return fmt.Sprintf("-1 0 0 -1 %s cm ", operands(w, h))
	case 270:
		return fmt.Sprintf("0 1 -1 0 %s 0 cm ", operands(h))
	}
	return ""
}

// writePage writes a page with content of our own, and what is added to it. It is of a
// size in points.
func (a *Assembler) writePage(position int, size geometry.Size, content []byte, resources types.Dict) error {
	box := rectangle{0, 0, size.Width, size.Height}
	marks, err := a.drawAdded(position, box, 0, 1, "")
	if err != nil {
		return err
	}
	if len(marks.fonts) > 0 {
		resources["Font"] = marks.fonts
	}
	if len(marks.forms) > 0 {
		objects, _ := resources["XObject"].(types.Dict)
		if objects == nil {
			objects = types.Dict{}
			resources["XObject"] = objects
		}
		maps.Copy(objects, marks.forms)
	}
	page := types.Dict{
		"Type":      types.Name("Page"),
		"Parent":    reference(a.tree),
		"MediaBox":  numbers(0, 0, round(size.Width), round(size.Height)),
		"Resources": resources,
	}
	if content = slices.Concat([]byte(marks.text), []byte(marks.under), content, []byte(marks.over())); len(content) > 0 {
		page["Contents"] = a.smallStream(content)
	}
	if links := a.markLinks(position, box, 0, 1); len(links) > 0 {
		page["Annots"] = links
	}
	a.out.object(a.pages[position], appendDict(nil, page))
	return a.out.err
}

// AddBlank writes an empty page of a size in points.
func (a *Assembler) AddBlank(position int, size geometry.Size) error {
	if err := a.claim(position); err != nil {
		return err
	}
	return a.writePage(position, size, nil, types.Dict{})
}

// filters are what decodes the data, in turn (7.4.1).
func (img Image) filters() types.Object {
	if img.Deflated {
		return types.Array{types.Name(Flate), types.Name(img.Filter)}
	}
	return types.Name(img.Filter)
}

// round keeps thousandths of a point.
func round(v float64) float64 { return math.Round(v*1000) / 1000 }

// orientation is the matrix that lays an image on a page of this size so that
// it stands as its EXIF orientation says (CIPA DC-008, 4.6.4 Orientation). It
// maps the unit square, whose top left corner holds the image's first pixel.
func orientation(exif int, size geometry.Size) string {
	w, h := round(size.Width), round(size.Height)
	matrices := map[int][6]float64{
		2: {-w, 0, 0, h, w, 0},
		3: {-w, 0, 0, -h, w, h},
		4: {w, 0, 0, -h, 0, h},
		5: {0, -h, -w, 0, w, h},
		6: {0, -h, w, 0, 0, h},
		7: {0, h, w, 0, 0, 0},
		8: {0, h, -w, 0, w, 0},
	}
	m, ok := matrices[exif]
	if !ok {
		m = [6]float64{w, 0, 0, h, 0, 0}
	}
	var b []byte
	for i, v := range m {
		if i > 0 {
			b = append(b, ' ')
		}
		b = appendObject(b, types.Float(v))
	}
	return string(b)
}

// writeMask writes a one-bit image that is painted where it is black.
func (a *Assembler) writeMask(img Image) int {
	dict := types.Dict{
		"Type": types.Name("XObject"), "Subtype": types.Name("Image"), "ImageMask": types.Boolean(true),
		"Width": types.Integer(img.Width), "Height": types.Integer(img.Height),
		"BitsPerComponent": types.Integer(1), "Filter": types.Name(img.Filter),
	}
	if parms := a.decodeParms(img); parms != nil {
		dict["DecodeParms"] = parms
	}
	number := a.out.allocate()
	a.out.stream(number, dict, img.Data, img.Length)
	return number
}

// writeInk writes what is drawn for an ink: its mask, or the image of its colours through it.
func (a *Assembler) writeInk(ink Ink) int {
	mask := a.writeMask(ink.Image)
	if ink.Colours == nil {
		return mask
	}
	dict := a.imageDict(*ink.Colours)
	dict["Mask"] = reference(mask)
	number := a.out.allocate()
	a.out.stream(number, dict, ink.Colours.Data, ink.Colours.Length)
	return number
}

func (a *Assembler) writeImage(img Image) int {
	dict := a.imageDict(img)
	number := a.out.allocate()
	a.out.stream(number, dict, img.Data, img.Length)
	return number
}

func (a *Assembler) imageDict(img Image) types.Dict {
	dict := types.Dict{
		"Type":             types.Name("XObject"),
		"Subtype":          types.Name("Image"),
		"Width":            types.Integer(img.Width),
		"Height":           types.Integer(img.Height),
		"BitsPerComponent": types.Integer(img.BitsPerComponent),
		"ColorSpace":       a.colourSpace(img),
		"Filter":           img.filters(),
	}
	if parms := a.decodeParms(img); parms != nil {
		dict["DecodeParms"] = parms
	}
	if img.Smooth {
		dict["Interpolate"] = types.Boolean(true)
	}
	if img.Inverted {
		decode := types.Array{}
		for range components[img.Colour] {
			decode = append(decode, types.Integer(1), types.Integer(0))
		}
		dict["Decode"] = decode
	}
	if img.Alpha != nil {
		dict["SMask"] = reference(a.writeImage(*img.Alpha))
	}
	return dict
}

func (a *Assembler) decodeParms(img Image) types.Object {
	switch {
	case img.Filter == JBIG2 && len(img.Shared) > 0:
		return types.Dict{"JBIG2Globals": reference(a.writeShared(img.Shared))}
	case img.Filter == CCITT:
		return types.Dict{
			"K": types.Integer(img.Group), "Columns": types.Integer(img.Width),
			"Rows": types.Integer(img.Height), "BlackIs1": types.Boolean(img.BlackIs1),
		}
	case img.PNGPredictor:
		return rowFilters(components[img.Colour], img.BitsPerComponent, img.Width)
	}
	return nil
}

// rowFilters say that PNG's filters are before rows of so many pixels (7.4.4.4).
func rowFilters(channels, bits, width int) types.Dict {
	return types.Dict{
		"Predictor": types.Integer(anyRowFilter), "Colors": types.Integer(channels),
		"BitsPerComponent": types.Integer(bits), "Columns": types.Integer(width),
	}
}

func (a *Assembler) colourSpace(img Image) types.Object {
	device := map[Colour]types.Name{Gray: "DeviceGray", RGB: "DeviceRGB", CMYK: "DeviceCMYK"}[img.Colour]
	if img.Colour == Indexed {
		return types.Array{
			types.Name("Indexed"), types.Name("DeviceRGB"),
			types.Integer(len(img.Palette)/3 - 1), types.NewHexLiteral(img.Palette),
		}
	}
	if len(img.Profile) == 0 {
		return device
	}
	return types.Array{types.Name("ICCBased"), reference(a.writeProfile(img, device))}
}

// writeShared writes what images share, once.
func (a *Assembler) writeShared(data []byte) int {
	key := contentKey([]byte("shared segments "), data)
	if number, ok := a.written[key]; ok {
		return number
	}
	number := a.out.allocate()
	a.out.stream(number, types.Dict{}, bytes.NewReader(data), int64(len(data)))
	a.written[key] = number
	return number
}

func (a *Assembler) writeProfile(img Image, device types.Name) int {
	key := contentKey(fmt.Append(nil, "profile ", device), img.Profile)
	if number, ok := a.written[key]; ok {
		return number
	}
	number := a.out.allocate()
	data := deflate(img.Profile)
	a.out.stream(number, types.Dict{
		"N": types.Integer(components[img.Colour]), "Alternate": device, "Filter": types.Name(Flate),
	}, bytes.NewReader(data), int64(len(data)))
	a.written[key] = number
	return number
}
