package pdf

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/pdf/pdftest"
	"dorbin/core/typeface"
)

// letterhead is a document of two pages with a box off the origin, whose second page is seen turned
// with a dark corner at its upper left and words.
func letterhead() []byte {
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 /MediaBox [100 200 300 500] >>",
		"<< /Type /Page /Parent 2 0 R /Contents 5 0 R >>",
		"<< /Type /Page /Parent 2 0 R /Rotate 90 /Contents 6 0 R /Resources << /Font << /F 7 0 R >> >> >>",
		pdftest.Stream("", "1 0 0 rg 0 0 900 900 re f"),
		pdftest.Stream("", "0 g 100 200 50 60 re f BT /F 12 Tf 180 380 Td (Rowing Club) Tj ET"),
		"<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
	)
}

// TestOverlays has poppler draw a page of a document and a picture on pages that are turned: upright,
// in their places, once in the file however many pages show them.
func TestOverlays(t *testing.T) {
	head, sign := finish.Picture{Source: "f1", Page: 2}, finish.Picture{Source: "f2", Page: 1}
	size := geometry.Size{Width: 300, Height: 400}
	on := func(p finish.Picture, x, y, w, h float64, under bool) finish.Mark {
		return finish.Mark{Kind: finish.LetterheadMark, Picture: p, At: geometry.Point{X: x, Y: y}, Width: w, Size: h, Under: under, Multiplied: !under, Face: typeface.Sans, Colour: "#ffffff"}
	}
	empty := pdftest.File("<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 300 400] >>", "<< /Type /Page /Parent 2 0 R >>")
	var marks [][]finish.Mark
	var placements []Placement
	turns := []int{0, 90, 180, 270}
	for i, turn := range turns {
		marks = append(marks, []finish.Mark{on(head, 10, 20, 150, 100, turn == 0), on(sign, 200, 300, 40, 40, false)})
		placements = append(placements, Placement{Position: i, Framing: geometry.Framing{Flat: size, Turn: turn}})
	}
	var out bytes.Buffer
	a := NewAssembler(&out, len(turns))
	a.SetMarks(marks)
	require.NoError(t, a.AddDocument(parse(t, empty), placements, nil))
	require.NoError(t, a.AddOverlay(head, parse(t, letterhead()), 1))
	black := deflate([]byte{0})
	require.NoError(t, a.AddOverlayImage(sign, Image{Width: 1, Height: 1, BitsPerComponent: 8, Colour: Gray, Filter: Flate, Length: int64(len(black)), Data: bytes.NewReader(black)}))
	require.NoError(t, a.Finish(Properties{Title: "x"}))
	for i := range turns {
		img := drawnBy(t, out.Bytes(), i+1)
		scale := float64(img.Rect.Dx()) / placements[i].Framing.Size().Width
		at := func(x, y float64) uint8 { return img.GrayAt(int(x*scale), int(y*scale)).Y }
		// The page of 300 × 200 points has its corner of 60 × 50 points at its upper left.
		assert.Less(t, at(12, 22), uint8(40), "its corner, page %d", i+1)
		assert.Less(t, at(10+150*55/300, 20+100*45/200), uint8(40), "the corner goes on, page %d", i+1)
		assert.Greater(t, at(10+150*65/300, 22), uint8(215), "beside its corner, page %d", i+1)
		assert.Greater(t, at(6, 16), uint8(215), "beside it, page %d", i+1)
		if placements[i].Framing.Size().Height > 350 {
			assert.Less(t, at(220, 320), uint8(40), "the sign, page %d", i+1)
			assert.Greater(t, at(195, 320), uint8(215), "beside the sign, page %d", i+1)
		}
	}
	assert.Equal(t, 1, bytes.Count(out.Bytes(), []byte("/BBox [100 200 300 500]")), "once in the file")
	assert.Equal(t, len(turns), strings.Count(tool(t, out.Bytes(), "pdftotext", "FILE", "-"), "Rowing Club"))
	assert.NotContains(t, out.String(), "1 0 0 rg")
	assert.Contains(t, tool(t, out.Bytes(), "qpdf", "--check", "FILE"), "No syntax or stream encoding errors found")
}

func TestOverlaysThatAreMissing(t *testing.T) {
	p := finish.Picture{Source: "f1", Page: 1}
	var out bytes.Buffer
	a := NewAssembler(&out, 1)
	a.SetMarks([][]finish.Mark{{{Kind: finish.LetterheadMark, Picture: p, Width: 10, Size: 10, Under: true}}})
	require.NoError(t, a.AddBlank(0, geometry.A4))
	assert.ErrorContains(t, a.Finish(Properties{}), "page 1 of f1 is drawn on pages and was not added")
	doc := parse(t, letterhead())
	assert.ErrorContains(t, a.AddOverlay(p, doc, 2), "there is no page 3")
	require.NoError(t, a.AddOverlay(p, doc, 0))
	assert.ErrorIs(t, a.AddOverlay(p, doc, 0), errOverlayTwice)
}
