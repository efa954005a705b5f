package pdf

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"math"
	"math/rand/v2"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/bilevel"
	"dorbin/core/bilevel/jbig2"
	"dorbin/core/geometry"
	"dorbin/core/pdf/pdftest"
	"dorbin/core/raster"
	"dorbin/internal/sampling"
)

func awkward() []byte { return pdftest.Awkward() }

func reshaped(t *testing.T, doc []byte, page int, f geometry.Framing) []byte {
	t.Helper()
	var out bytes.Buffer
	a := NewAssembler(&out, 1)
	require.NoError(t, a.AddDocument(parse(t, doc), []Placement{{Page: page, Framing: f}}, nil))
	require.NoError(t, a.Finish(Properties{Title: "x"}))
	return out.Bytes()
}

// TestReshapedPagesLookLikeWhatIsKept compares a page that was straightened,
// cropped, mirrored and turned, as poppler draws it, with poppler's picture of the
// whole page taken through the same transform.
func TestReshapedPagesLookLikeWhatIsKept(t *testing.T) {
	sampling.Heavy(t)
	doc := parse(t, awkward())
	for page := range doc.PageCount() {
		size := doc.PageSize(page)
		whole := drawnBy(t, awkward(), page+1)
		if unit, ok := doc.number(doc.pages[page].dict["UserUnit"]); ok { // poppler draws without it
			require.InDelta(t, size.Width, float64(whole.Rect.Dx())*unit, 2)
			size = geometry.Size{Width: size.Width / unit, Height: size.Height / unit}
		}
		crop := geometry.Box{X0: math.Round(size.Width * 0.1), Y0: math.Round(size.Height * 0.2), X1: math.Round(size.Width * 0.85), Y1: math.Round(size.Height * 0.9)}
		for _, f := range []geometry.Framing{
			{Flat: size, Crop: crop},
			{Flat: size, Crop: crop, Turn: 90},
			{Flat: size, Crop: crop, Mirror: true},
			{Flat: size, Crop: crop, Straighten: 4},
			{Flat: size, Straighten: -7, Mirror: true, Turn: 270},
			{Flat: size, Crop: crop, Fit: geometry.SheetLayout{Margin: geometry.Margin{Left: 40, Top: 10}}},
			{Flat: size, Crop: crop, Turn: 90, Fit: geometry.SheetLayout{Paper: geometry.A5, Scale: geometry.Fill, Across: 0.5, Down: 0.2}},
			{Flat: size, Straighten: 3, Mirror: true, Fit: geometry.SheetLayout{Paper: geometry.A5, Follow: true, Scale: geometry.Shrink, Margin: geometry.Margin{Right: 50}}},
			{Flat: size, Turn: 180, Fit: geometry.SheetLayout{Paper: geometry.Size{Width: 200, Height: 250}, Scale: geometry.Keep, Across: 0.5, Down: 1}},
		} {
			name := fmt.Sprintf("page %d, %+v", page+1, f)
			got := drawnBy(t, reshaped(t, awkward(), page, f), 1)
			stands := f.Size()
			require.InDelta(t, stands.Width, got.Rect.Dx(), 1.01, name)
			require.InDelta(t, stands.Height, got.Rect.Dy(), 1.01, name)
			want, isGray := raster.Warp(whole, f.Transform().Inverse().Projection(), got.Rect.Dx(), got.Rect.Dy(), color.White).(*image.Gray)
			require.True(t, isGray)
			whitenOutside(want, f)
			assert.Less(t, meanDifference(got, want), 2.0, name)
		}
	}
}

// whitenOutside leaves of a page, a pixel for each point, what is seen of it.
func whitenOutside(page *image.Gray, f geometry.Framing) {
	f.Straighten = 0
	seen := f.Seen().Mapped(f.Transform())
	for y := range page.Rect.Dy() {
		for x := range page.Rect.Dx() {
			if !seen.Holds(geometry.Box{X0: float64(x), Y0: float64(y), X1: float64(x + 1), Y1: float64(y + 1)}, 0.5) {
				page.SetGray(x, y, color.Gray{Y: 255})
			}
		}
	}
}

// meanDifference is of grey values from 0 to 255, a pixel.
func meanDifference(a, b *image.Gray) float64 {
	sum := 0.0
	for y := range a.Rect.Dy() {
		for x := range a.Rect.Dx() {
			sum += math.Abs(float64(a.GrayAt(x, y).Y) - float64(b.GrayAt(x, y).Y))
		}
	}
	return sum / float64(a.Rect.Dx()*a.Rect.Dy())
}

func TestACroppedPageLosesItsOtherBoxes(t *testing.T) {
	out := plain(t, reshaped(t, awkward(), 0, geometry.Framing{Crop: geometry.Box{X0: 20, Y0: 30, X1: 200, Y1: 150}}))
	assert.NotContains(t, out, "/TrimBox")
	assert.NotContains(t, out, "/CropBox")
}

func annotated() []byte {
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [6 0 R 7 0 R] >> >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
		"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 300 400] /Annots [4 0 R 5 0 R 6 0 R 7 0 R] >>",
		"<< /Type /Annot /Subtype /Highlight /Rect [100 200 200 220] /QuadPoints [100 220 200 220 100 200 200 200] /Contents (inside) >>",
		"<< /Type /Annot /Subtype /Text /Rect [10 10 30 30] /Contents (cut away) >>",
		"<< /Type /Annot /Subtype /Widget /FT /Tx /T (kept) /V (staying) /Rect [100 100 200 120] >>",
		"<< /Type /Annot /Subtype /Widget /FT /Tx /T (lost) /V (private) /Rect [10 380 90 395] >>",
	)
}

func TestAnnotationsGoWithWhatTheyAreOn(t *testing.T) {
	crop := geometry.Box{X0: 50, Y0: 50, X1: 250, Y1: 350}
	cropped := plain(t, reshaped(t, annotated(), 0, geometry.Framing{Crop: crop}))
	assert.Contains(t, cropped, "(inside)")
	assert.Contains(t, cropped, "staying")
	for _, gone := range []string{"cut away", "(lost)", "private"} {
		assert.NotContains(t, cropped, gone, "what lies wholly outside is not in the file")
	}
	assert.Contains(t, strings.Join(strings.Fields(cropped), " "), "100 200 200 220", "what is only cut stays where it is")

	fitted := geometry.Framing{Flat: geometry.Size{Width: 300, Height: 400}, Fit: geometry.SheetLayout{Paper: geometry.Size{Width: 150, Height: 200}, Scale: geometry.Fill}}
	assert.Contains(t, strings.Join(strings.Fields(plain(t, reshaped(t, annotated(), 0, fitted))), " "), "/MediaBox [ 0 200 150 400 ]",
		"the sheet is laid around what is kept")
	assert.Contains(t, strings.Join(strings.Fields(plain(t, reshaped(t, annotated(), 0, fitted))), " "), "/Rect [ 50 250 100 260 ]",
		"a field goes where the page's content does")

	mirrored := strings.Join(strings.Fields(plain(t, reshaped(t, annotated(), 0, geometry.Framing{Mirror: true}))), " ")
	assert.Contains(t, mirrored, "/QuadPoints [ 200 220 100 220 200 200 100 200 ]")
}

func TestImagesOnSheets(t *testing.T) {
	white := bytes.Repeat([]byte{200}, 100*50)
	draw := func(f geometry.Framing) *image.Gray {
		var out bytes.Buffer
		a := NewAssembler(&out, 1)
		data := deflate(white)
		require.NoError(t, a.AddImage(Image{
			Width: 100, Height: 50, BitsPerComponent: 8, Colour: Gray, Filter: Flate, Data: bytes.NewReader(data), Length: int64(len(data)),
		}, []Placement{{Framing: f}}))
		require.NoError(t, a.Finish(Properties{Title: "x"}))
		return drawnBy(t, out.Bytes(), 1)
	}
	flat := geometry.Size{Width: 100, Height: 50}
	for _, f := range []geometry.Framing{
		{Flat: flat, Fit: geometry.SheetLayout{Margin: geometry.Margin{Left: 20, Top: 5}}},
		{Flat: flat, Mirror: true, Turn: 90, Fit: geometry.SheetLayout{Margin: geometry.Margin{Left: 20, Top: 5}}},
		{Flat: flat, Turn: 270, Fit: geometry.SheetLayout{Paper: geometry.Size{Width: 300, Height: 200}, Scale: geometry.Fill, Down: 1}},
	} {
		got := draw(f)
		seen := f.Seen().Mapped(f.Transform())
		require.InDelta(t, f.Size().Width, got.Rect.Dx(), 0.01)
		require.InDelta(t, f.Size().Height, got.Rect.Dy(), 0.01)
		for y := range got.Rect.Dy() {
			for x := range got.Rect.Dx() {
				pixel := geometry.Box{X0: float64(x), Y0: float64(y), X1: float64(x + 1), Y1: float64(y + 1)}
				switch { // poppler may give an image a pixel more at its edge
				case seen.Grown(-1).Holds(pixel, 0):
					require.InDelta(t, 200, got.GrayAt(x, y).Y, 1, "%d %d in %+v", x, y, f)
				case !seen.Grown(1).Holds(pixel, 0):
					require.EqualValues(t, 255, got.GrayAt(x, y).Y, "%d %d in %+v", x, y, f)
				}
			}
		}
	}
}

// TestBilevelImages has poppler take out what T.6 and T.88 keep.
func TestBilevelImages(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 1))
	ink := bilevel.New(203, 111)
	for y := range ink.Height {
		for x := range ink.Width {
			if random.IntN(3) == 0 {
				ink.Set(x, y)
			}
		}
	}
	for _, img := range []Image{
		{Filter: CCITT, Group: -1, Data: bytes.NewReader(bilevel.EncodeG4(ink)), Length: int64(len(bilevel.EncodeG4(ink)))},
		{Filter: JBIG2, Data: bytes.NewReader(jbig2.EncodePage(ink)), Length: int64(len(jbig2.EncodePage(ink)))},
	} {
		img.Width, img.Height, img.BitsPerComponent = ink.Width, ink.Height, 1
		var out bytes.Buffer
		a := NewAssembler(&out, 1)
		require.NoError(t, a.AddImage(img, []Placement{{Framing: geometry.Framing{Flat: geometry.Size{Width: 203, Height: 111}}}}))
		require.NoError(t, a.Finish(Properties{Title: "x"}))
		assert.True(t, bytes.Equal(ink.Bits, bilevel.FromGray(pictureIn(t, out.Bytes())).Bits), "%s", img.Filter)
	}
}

// pictureIn has poppler take the first picture out of a document.
func pictureIn(t *testing.T, data []byte) *image.Gray {
	t.Helper()
	prefix := filepath.Join(t.TempDir(), "picture")
	tool(t, data, "pdfimages", "-png", "FILE", prefix)
	return grayPicture(t, prefix+"-000.png")
}

// TestLayers has poppler draw ink in a colour over a background, mirrored and on a sheet.
func TestLayers(t *testing.T) {
	mask, letters := bilevel.New(100, 50), bilevel.New(500, 50) // the mask's shape, five times
	random := rand.New(rand.NewPCG(1, 1))
	for y := 10; y < 40; y++ {
		for x := 10; x < 30; x++ {
			if isInner := x > 15 && x < 25; !isInner && random.IntN(3) == 0 {
				continue
			}
			mask.Set(x, y)
			for again := range 5 {
				letters.Set(x+100*again, y)
			}
		}
	}
	twice := jbig2.Encode([]*bilevel.Bitmap{letters, mask})
	require.NotEmpty(t, twice.Shared)
	for _, ink := range []Image{
		{Filter: JBIG2, Shared: twice.Shared, Data: bytes.NewReader(twice.Pages[1]), Length: int64(len(twice.Pages[1]))},
		{Filter: JBIG2, Data: bytes.NewReader(jbig2.EncodePage(mask)), Length: int64(len(jbig2.EncodePage(mask)))},
		{Filter: CCITT, Group: -1, Data: bytes.NewReader(bilevel.EncodeG4(mask)), Length: int64(len(bilevel.EncodeG4(mask)))},
	} {
		ink.Width, ink.Height = 100, 50
		paper := deflate([]byte{200})
		var out bytes.Buffer
		a := NewAssembler(&out, 1)
		require.NoError(t, a.AddLayers(
			Image{Width: 1, Height: 1, BitsPerComponent: 8, Filter: Flate, Data: bytes.NewReader(paper), Length: int64(len(paper))},
			[]Ink{{Image: ink, Red: 90, Green: 90, Blue: 90}},
			Placement{Framing: geometry.Framing{Flat: geometry.Size{Width: 100, Height: 50}, Mirror: true, Fit: geometry.SheetLayout{Margin: geometry.Margin{Top: 20}}}}))
		require.NoError(t, a.Finish(Properties{Title: "x"}))
		got := drawnBy(t, out.Bytes(), 1)
		assert.EqualValues(t, 255, got.GrayAt(50, 10).Y, "the border of the sheet")
		assert.InDelta(t, 200, got.GrayAt(20, 45).Y, 1, "the background")
		assert.InDelta(t, 90, got.GrayAt(80, 45).Y, 1, "the ink, at the right, as it is mirrored")
	}
}
