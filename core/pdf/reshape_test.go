package pdf

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/raster"
)

// awkward has pages that a reader shows in other places than their content says:
// turned, with a crop box, with a box away from the origin, with a user unit, and
// lying on A3.
func awkward() []byte {
	page := func(boxes string) string {
		return "<< /Type /Page /Parent 2 0 R /Contents 8 0 R " + boxes + " >>"
	}
	return file(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R 4 0 R 5 0 R 6 0 R 7 0 R] /Count 5 /Resources << /Font << /F << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >> >> >>",
		page("/MediaBox [0 0 300 400] /Rotate 90 /TrimBox [10 10 200 200]"),
		page("/MediaBox [0 0 400 500] /CropBox [40 60 340 460] /Rotate 270"),
		page("/MediaBox [-100 -50 200 350]"),
		page("/MediaBox [0 0 300 400] /UserUnit 1.5 /Rotate 180"),
		page("/MediaBox [0 0 1191 842]"),
		stream("", "BT /F 30 Tf 60 220 Td (Words here) Tj ET 30 80 120 4 re f 60 100 6 160 re f -60 20 40 30 re f 900 600 150 90 re f"),
	)
}

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
		} {
			name := fmt.Sprintf("page %d, %+v", page+1, f)
			got := drawnBy(t, reshaped(t, awkward(), page, f), 1)
			stands := f.Size()
			require.InDelta(t, stands.Width, got.Rect.Dx(), 1.01, name)
			require.InDelta(t, stands.Height, got.Rect.Dy(), 1.01, name)
			want, isGray := raster.Warp(whole, f.Transform().Inverse().Projection(), got.Rect.Dx(), got.Rect.Dy(), color.White).(*image.Gray)
			require.True(t, isGray)
			assert.Less(t, meanDifference(got, want), 2.0, name)
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
	return file(
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

	mirrored := strings.Join(strings.Fields(plain(t, reshaped(t, annotated(), 0, geometry.Framing{Mirror: true}))), " ")
	assert.Contains(t, mirrored, "/QuadPoints [ 200 220 100 220 200 200 100 200 ]")
}
