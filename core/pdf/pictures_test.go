package pdf

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/bilevel"
	"dorbin/core/geometry"
	"dorbin/core/pdf/pdftest"
)

func TestScanContent(t *testing.T) {
	var got []string
	scanContent([]byte("q 1 0 0 -1.5 .5 +7 cm /A#20b Do (a \\) (Tj) b) Tj [(x) -3 (y)] TJ % S\n<48 49> Tj "+
		"/P <</MCID 0>> BDC BI /W 2 /H 1 ID \x00EI\xff EI Q 3 w"), func(op operator) {
		got = append(got, strings.TrimSpace(fmt.Sprint(op.numbers, op.named, " ", op.name)))
	})
	assert.Equal(t, []string{
		"[] q", "[1 0 0 -1.5 0.5 7] cm", "[]A b Do", "[] Tj", "[-3] TJ", "[] Tj",
		"[0]MCID BDC", "[] BI", "[2 1]H ID", "[] Q", "[3] w",
	}, got)
}

func FuzzContent(f *testing.F) {
	f.Add([]byte("q 1 0 0 1 0 0 cm /Im0 Do Q BI ID EI (a(b)"))
	f.Add([]byte("<< /A [1 2 (x)] >> BDC <41"))
	f.Fuzz(func(t *testing.T, content []byte) {
		scanContent(content, func(op operator) {
			if op.name == "" {
				t.Fatal("an operator has a name")
			}
		})
	})
}

// pictured is a document of one page of 200 by 100 points with a picture of 4 by 2
// pixels, drawn by content; form is a form that content may draw.
func pictured(t *testing.T, image, content, form string) *Document {
	t.Helper()
	return parse(t, pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 100] >>",
		"<< /Type /Page /Parent 2 0 R /Contents 4 0 R /Resources << /XObject << /Im 5 0 R /Fm 6 0 R >> >> >>",
		pdftest.Stream("", content),
		image,
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 1 1] /Matrix [100 0 0 50 0 0] /Resources << /XObject << /Own 5 0 R >> >>", form),
	))
}

const plainImage = "/Type /XObject /Subtype /Image /Width 4 /Height 2 /BitsPerComponent 8 /ColorSpace /DeviceGray"

func TestPicturesOfAPage(t *testing.T) {
	gray := pdftest.Stream(plainImage, "\x00\x10\x20\x30\x40\x50\x60\x70")
	for name, c := range map[string]struct {
		content, form string
		count         int
		dpi           float64
		isWhole       bool
	}{
		"fills the page":             {"q 200 0 0 100 0 0 cm /Im Do Q", "", 1, 1.44, true},
		"under unseen text":          {"q 200 0 0 100 0 0 cm /Im Do Q BT 3 Tr (found) Tj ET", "", 1, 1.44, true},
		"with something over it":     {"q 200 0 0 100 0 0 cm /Im Do Q 0 0 9 9 re f", "", 1, 1.44, false},
		"with text over it":          {"q 200 0 0 100 0 0 cm /Im Do Q BT (read) Tj ET", "", 1, 1.44, false},
		"covers half":                {"q 100 0 0 100 0 0 cm /Im Do Q", "", 1, 1.44, false},
		"turned":                     {"q 0 100 -200 0 200 0 cm /Im Do Q", "", 1, 0.72, true},
		"drawn twice":                {"q 200 0 0 100 0 0 cm /Im Do Q q 20 0 0 10 0 0 cm /Im Do Q", "", 1, 1.44, false},
		"drawn by a form":            {"q 2 0 0 2 0 0 cm /Fm Do Q", "/Own Do", 1, 1.44, true},
		"not drawn":                  {"0 0 9 9 re f", "", 0, 0, false},
		"a form that draws itself":   {"/Fm Do", "/Fm Do", 0, 0, false},
		"in content that is damaged": {"q 200 0 0 100 0 0 cm /Im Do Q Q Q 7 cm (", "", 1, 1.44, true},
	} {
		pictures := pictured(t, gray, c.content, c.form).Pictures(0)
		require.Len(t, pictures, c.count, name)
		if c.count > 0 {
			assert.InDelta(t, c.dpi, pictures[0].DPI, 0.01, name)
			assert.Equal(t, c.isWhole, pictures[0].IsWhole, name)
		}
	}
}

func TestDecodedPictures(t *testing.T) {
	img := image.NewGray(image.Rect(0, 0, 4, 2))
	copy(img.Pix, []byte{0, 0x10, 0x20, 0x30, 0x40, 0x50, 0x60, 0x70})
	var data bytes.Buffer
	require.NoError(t, jpeg.Encode(&data, img, &jpeg.Options{Quality: 100}))
	ink := bilevel.New(4, 2)
	ink.Set(0, 0)
	ink.Set(2, 1)
	fax := string(bilevel.EncodeG4(ink))
	const oneBit = "/Type /XObject /Subtype /Image /Width 4 /Height 2 /BitsPerComponent 1 /ColorSpace /DeviceGray"
	for name, c := range map[string]struct {
		image string
		want  map[image.Point]color.Color
	}{
		"grey": {pdftest.Stream(plainImage, string(img.Pix)), map[image.Point]color.Color{{1, 1}: color.Gray{Y: 0x50}}},
		"colour": {pdftest.Stream(strings.ReplaceAll(plainImage, "Gray", "RGB"), strings.Repeat("\x10\x20\x30", 8)),
			map[image.Point]color.Color{{3, 1}: color.RGBA{0x10, 0x20, 0x30, 255}}},
		"indexed": {pdftest.Stream(strings.ReplaceAll(plainImage, "/DeviceGray", "[/Indexed /DeviceRGB 1 <000000 ff8000>]"), "\x00\x01\x00\x01\x01\x01\x00\x00"),
			map[image.Point]color.Color{{1, 0}: color.RGBA{255, 128, 0, 255}, {2, 1}: color.RGBA{0, 0, 0, 255}}},
		"a JPEG": {pdftest.Stream(plainImage+" /Filter /DCTDecode", data.String()), map[image.Point]color.Color{{0, 0}: color.Gray{Y: 0}}},
		"a bit":  {pdftest.Stream(oneBit, "\x70\xd0"), map[image.Point]color.Color{{0, 0}: color.Gray{Y: 0}, {1, 0}: color.Gray{Y: 255}, {2, 1}: color.Gray{Y: 0}}},
		"a bit, inverted": {pdftest.Stream(oneBit+" /Decode [1 0]", "\x80\x20"),
			map[image.Point]color.Color{{0, 0}: color.Gray{Y: 0}, {1, 0}: color.Gray{Y: 255}, {2, 1}: color.Gray{Y: 0}}},
		"fax": {pdftest.Stream(oneBit+" /Filter /CCITTFaxDecode /DecodeParms << /K -1 /Columns 4 /Rows 2 >>", fax),
			map[image.Point]color.Color{{0, 0}: color.Gray{Y: 0}, {1, 0}: color.Gray{Y: 255}, {2, 1}: color.Gray{Y: 0}}},
		"fax, inverted twice": {pdftest.Stream(oneBit+" /Decode [1 0] /Filter /CCITTFaxDecode /DecodeParms << /K -1 /Columns 4 /BlackIs1 true >>", fax),
			map[image.Point]color.Color{{0, 0}: color.Gray{Y: 0}, {1, 0}: color.Gray{Y: 255}}},
	} {
		pictures := pictured(t, c.image, "q 200 0 0 100 0 0 cm /Im Do Q", "").Pictures(0)
		require.Len(t, pictures, 1, name)
		decoded, err := pictures[0].Decode()
		require.NoError(t, err, name)
		for at, want := range c.want {
			assert.Equal(t, color.RGBAModel.Convert(want), color.RGBAModel.Convert(decoded.At(at.X, at.Y)), "%s at %v", name, at)
		}
	}
	for name, dict := range map[string]string{
		"a stencil":           "/Type /XObject /Subtype /Image /Width 4 /Height 2 /BitsPerComponent 1 /ImageMask true",
		"a mask":              plainImage + " /Mask [0 1]",
		"inks":                strings.ReplaceAll(plainImage, "Gray", "CMYK"),
		"sixteen bits":        strings.ReplaceAll(plainImage, "Component 8", "Component 16"),
		"other samples":       plainImage + " /Decode [0.2 0.8]",
		"a colour of its own": strings.ReplaceAll(plainImage, "/DeviceGray", "[/Separation /Gold /DeviceRGB 5 0 R]"),
	} {
		pictures := pictured(t, pdftest.Stream(dict, string(img.Pix)), "q 200 0 0 100 0 0 cm /Im Do Q", "").Pictures(0)
		require.Len(t, pictures, 1, name)
		_, err := pictures[0].Decode()
		assert.ErrorIs(t, err, ErrKept, name)
	}
	short := pictured(t, pdftest.Stream(plainImage, "\x00"), "q 200 0 0 100 0 0 cm /Im Do Q", "").Pictures(0)
	_, err := short[0].Decode()
	require.Error(t, err)
	assert.False(t, errors.Is(err, ErrKept), "it is damaged")
}

// TestAPictureIsReplaced has poppler draw what an image is written as instead: another
// image, and layers.
func TestAPictureIsReplaced(t *testing.T) {
	gray := pdftest.Stream(plainImage, "\x00\x10\x20\x30\x40\x50\x60\x70")
	white := func() Image {
		return Image{Width: 1, Height: 1, BitsPerComponent: 8, Colour: Gray, Filter: Flate, Data: bytes.NewReader(deflate([]byte{250})), Length: int64(len(deflate([]byte{250})))}
	}
	ink := bilevel.New(2, 1)
	ink.Set(0, 0)
	encoded := bilevel.EncodeG4(ink)
	mask := Ink{Image: Image{
		Width: 2, Height: 1, BitsPerComponent: 1, Colour: Gray, Filter: CCITT, Group: -1,
		Data: bytes.NewReader(encoded), Length: int64(len(encoded)),
	}, Red: 200}
	many := mask
	many.Data, many.Colours = bytes.NewReader(encoded), &Image{
		Width: 2, Height: 1, BitsPerComponent: 8, Colour: Gray, Filter: Flate,
		Data: bytes.NewReader(deflate([]byte{120, 30})), Length: int64(len(deflate([]byte{120, 30}))),
	}
	for name, c := range map[string]struct {
		replacement *Replacement
		left, right uint8
	}{
		"kept":                              {nil, 0x10, 0x60},
		"an image":                          {&Replacement{Image: white()}, 250, 250},
		"layers":                            {&Replacement{Image: white(), Inks: []Ink{mask}}, 60, 250},
		"layers with colours in each place": {&Replacement{Image: white(), Inks: []Ink{many}}, 120, 250},
	} {
		doc := pictured(t, gray, "q 200 0 0 100 0 0 cm /Im Do Q", "")
		doc.Instead = func(object int) (*Replacement, error) {
			assert.Equal(t, doc.Pictures(0)[0].Object, object)
			return c.replacement, nil
		}
		var out bytes.Buffer
		a := NewAssembler(&out, 1)
		require.NoError(t, a.AddDocument(doc, []Placement{{Framing: geometry.Framing{}}}, nil), name)
		require.NoError(t, a.Finish(Properties{}), name)
		drawn := drawnBy(t, out.Bytes(), 1)
		left, right := drawn.GrayAt(60, 40), drawn.GrayAt(140, 60)
		assert.InDelta(t, c.left, left.Y, 18, name)
		assert.InDelta(t, c.right, right.Y, 40, name)
	}
	doc := pictured(t, gray, "q 200 0 0 100 0 0 cm /Im Do Q", "")
	doc.Instead = func(int) (*Replacement, error) { return nil, errors.New("no") }
	var out bytes.Buffer
	assert.EqualError(t, NewAssembler(&out, 1).AddDocument(doc, []Placement{{}}, nil), "no")
}
