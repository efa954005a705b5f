package pdf

import (
	"errors"
	"maps"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/jpeg"
	"dorbin/core/png"
)

// jpx is the filter of JPEG 2000 (7.4.9).
const jpx Filter = "JPXDecode"

// pictureOnly gives a stream without what the file of a picture tells besides it, and a picture in fewer bytes where
// that is wanted.
func (c *copier) pictureOnly(object int, stream types.StreamDict) (types.Dict, []byte) {
	if len(stream.FilterPipeline) != 1 || c.KeepPictures {
		return stream.Dict, stream.Raw
	}
	bare, found := stream.Raw, false
	switch Filter(stream.FilterPipeline[0].Name) {
	case DCT:
		if stripped, notes, err := jpeg.Strip(stream.Raw); err == nil {
			bare, found = stripped, notes
		}
		bare, _ = c.repacked(object, bare, jpeg.Repack)
	case jpx:
		bare, found = stripJPX(stream.Raw)
	case Flate:
		return c.flateRepacked(object, stream)
	}
	if found {
		c.leftOut[Metadata]++
	}
	return stream.Dict, bare
}

// worthRepacking is how many bytes a picture has at least that is written in fewer.
const worthRepacking = 4096

// repacked gives a picture in fewer bytes where that is wanted and can be; else as it is.
func (c *copier) repacked(object int, data []byte, repack func([]byte) ([]byte, error)) (smaller []byte, ok bool) {
	if !c.Repack || len(data) < worthRepacking || c.out.err != nil {
		return data, false
	}
	smaller, err := repack(data)
	if c.OnRepacked != nil {
		if err := c.OnRepacked(); err != nil {
			c.fail(err)
		}
	}
	if err != nil {
		return data, false
	}
	c.saved[object] = int64(len(data) - len(smaller))
	return smaller, true
}

// flateRepacked gives an image that is compressed by FlateDecode in fewer bytes, with the filters of PNG before its
// rows (7.4.4.4), where that is wanted and can be; other streams as they are.
func (c *copier) flateRepacked(object int, stream types.StreamDict) (types.Dict, []byte) {
	if c.doc.name(stream.Dict["Subtype"]) != "Image" {
		return stream.Dict, stream.Raw
	}
	var kept png.Layout
	data, ok := c.repacked(object, stream.Raw, func(data []byte) (smaller []byte, err error) {
		isFiltered := false
		if kept, isFiltered, err = c.samplesKept(stream); err != nil {
			return nil, err
		}
		return png.RepackSamples(data, kept, isFiltered)
	})
	if !ok {
		return stream.Dict, data
	}
	dict := maps.Clone(stream.Dict)
	dict["Filter"] = types.Name(string(Flate))
	dict["DecodeParms"] = rowFilters(kept.Channels, kept.Bits, kept.Width)
	return dict, data
}

// Predictors of FlateDecode (table 10): none, from which on they are the filters of PNG, and any of these.
const (
	noPredictor  = 1
	pngPredictor = 10
	anyRowFilter = 15
)

// errOtherImage is returned for an image whose samples are kept in another way.
var errOtherImage = errors.New("its samples are kept in another way")

// samplesKept tells how the samples of an image lie, and whether the filters of PNG are before their rows. Where they
// are not, how many samples a pixel has is told by its colour space, for which it is enough to count them.
func (c *copier) samplesKept(stream types.StreamDict) (l png.Layout, isFiltered bool, err error) {
	read := func(dict types.Dict, key string, otherwise int) int {
		if value, ok := c.doc.number(dict[key]); ok {
			return int(value)
		}
		return otherwise
	}
	parms := stream.FilterPipeline[0].DecodeParms
	l = png.Layout{Width: read(stream.Dict, "Width", 0), Height: read(stream.Dict, "Height", 0), Bits: read(stream.Dict, "BitsPerComponent", 1)}
	switch predictor := read(parms, "Predictor", noPredictor); {
	case predictor >= pngPredictor:
		l.Channels, l.Bits, l.Width = read(parms, "Colors", 1), read(parms, "BitsPerComponent", 8), read(parms, "Columns", 1)
		return l, true, nil
	case predictor != noPredictor:
		return l, false, errOtherImage
	}
	if l.Channels = c.doc.samplesOfPixel(stream.Dict); l.Channels == 0 {
		return l, false, errOtherImage
	}
	return l, false, nil
}

// samplesOfPixel is how many samples a pixel of an image has by its colour space (8.6); 0 where that is not known.
func (d *Document) samplesOfPixel(image types.Dict) int {
	if isMask, _ := d.resolve(image["ImageMask"]).(types.Boolean); bool(isMask) {
		return 1
	}
	if d.name(image["ColorSpace"]) == "DeviceCMYK" {
		return 4
	}
	components, _ := d.colourSpaceOf(image["ColorSpace"])
	return components
}

// assignSaved tells which pages draw the pictures that were repacked: each counts for the first.
func (c *copier) assignSaved(placements []Placement) {
	for _, p := range placements {
		if len(c.saved) == 0 {
			return
		}
		for _, picture := range c.doc.Pictures(p.Page) {
			if saved, ok := c.saved[picture.Object]; ok {
				c.savedOn[p.Position] += saved
				delete(c.saved, picture.Object)
			}
		}
	}
}
