package pdf

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/annotation"
	"dorbin/core/geometry"
	"dorbin/core/pdf/pdftest"
)

// filledIn is a page of 200 by 200 points whose own content leaves a graphics state open, with a
// filled-in field whose appearance is a black square of half its rectangle's scale, a comment
// with an appearance, a link, a ticked box, and fields that have no appearance.
func filledIn() []byte {
	form := func(content string) string {
		return pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 20 20] /Matrix [1 0 0 1 5 7]", content)
	}
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [5 0 R 8 0 R 11 0 R 12 0 R] /DA (/Helv 0 Tf 0 g) >> >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
		"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 200] /Contents 4 0 R /Resources << /XObject << /DorbinX1 6 0 R >> >> "+
			"/Annots [5 0 R 7 0 R 8 0 R 10 0 R 11 0 R 12 0 R] >>",
		pdftest.Stream("", "q 0.5 0 0 0.5 90 90 cm"),
		"<< /Type /Annot /Subtype /Widget /FT /Tx /T (name) /V (square) /Rect [20 20 60 60] /AP << /N 6 0 R >> >>",
		form("0 0 20 20 re f"),
		"<< /Type /Annot /Subtype /Stamp /Rect [100 100 140 140] /Contents (a comment) /AP << /N 6 0 R >> >>",
		"<< /Type /Annot /Subtype /Widget /FT /Btn /T (tick) /AS /Yes /Rect [100 20 140 60] /AP << /N << /Yes 6 0 R /Off 9 0 R >> >> >>",
		form(""),
		"<< /Type /Annot /Subtype /Link /Rect [0 0 10 10] /A << /S /URI /URI (https://www.example.org/) >> >>",
		"<< /Type /Annot /Subtype /Widget /FT /Tx /Ff 4096 /T (written) /V (One line\\nLarkmere House) /Rect [10 140 130 190] >>",
		"<< /Type /Annot /Subtype /Widget /FT /Tx /T (foreign) /V <FEFF0416> /Rect [150 150 190 190] >>",
	)
}

func placedWith(t *testing.T, policy annotation.Policy, f geometry.Framing) []byte {
	t.Helper()
	out, _ := assembledWithTally(t, filledIn(), Placement{Annotations: policy, Framing: f})
	return out
}

func TestFieldsBecomePartOfThePage(t *testing.T) {
	out := placedWith(t, annotation.Policy{Fields: annotation.Fixed, Comments: annotation.LeftOut}, geometry.Framing{})
	text := plain(t, out)
	assert.Equal(t, 1, strings.Count(text, "/Subtype /Widget"), "the field whose letters Helvetica lacks stays one")
	assert.NotContains(t, text, "a comment")
	assert.NotContains(t, text, "(square)")
	assert.Contains(t, text, "www.example.org")
	words := tool(t, out, "pdftotext", "FILE", "-")
	assert.Contains(t, words, "One line\nLarkmere House", "a value without appearance is text of the page")

	img := drawnBy(t, out, 1)
	for name, want := range map[string]struct {
		x, y float64 // points from the lower left
		ink  bool
	}{
		"within the field":  {40, 40, true},
		"at its corner":     {22, 22, true},
		"beside the field":  {64, 40, false},
		"where it would be": {100, 110, false},
		"the tick":          {120, 40, true},
		"the comment":       {120, 120, false},
	} {
		scale := float64(img.Rect.Dx()) / 200
		ink := img.GrayAt(int(want.x*scale), int((200-want.y)*scale)).Y < 128
		assert.Equal(t, want.ink, ink, name)
	}
}

func TestCommentsBecomePartOfThePage(t *testing.T) {
	out := placedWith(t, annotation.Policy{Comments: annotation.Fixed}, geometry.Framing{})
	text := plain(t, out)
	assert.Equal(t, 4, strings.Count(text, "/Subtype /Widget"))
	assert.NotContains(t, text, "a comment")
	img := drawnBy(t, out, 1)
	scale := float64(img.Rect.Dx()) / 200
	assert.Less(t, img.GrayAt(int(120*scale), int(80*scale)).Y, uint8(128))
}

func TestWhatIsFixedMovesWithItsPage(t *testing.T) {
	fixed := annotation.Policy{Fields: annotation.Fixed, Comments: annotation.Fixed}
	cropped := geometry.Framing{
		Flat: geometry.Size{Width: 200, Height: 200}, Crop: geometry.Box{X0: 10, Y0: 130, X1: 80, Y1: 200}, Mirror: true, Turn: 90,
	}
	asAPage := drawnBy(t, placedWith(t, fixed, cropped), 1)
	again, _ := assembledWithTally(t, placedWith(t, fixed, geometry.Framing{}), Placement{Framing: cropped})
	assert.Equal(t, asAPage.Rect, drawnBy(t, again, 1).Rect)
	assert.Less(t, meanDifference(asAPage, drawnBy(t, again, 1)), 1.0)
}

func TestLongValuesAreBrokenBetweenWords(t *testing.T) {
	lines := wrapped([]string{"the roof of the village hall at Larkmere", ""}, 10, 90)
	assert.Equal(t, []string{"the roof of the", "village hall at", "Larkmere", ""}, lines)
	for _, line := range lines {
		assert.LessOrEqual(t, widthOf(line, 10), 90.0)
	}
}

func FuzzFixed(f *testing.F) {
	f.Add(filledIn())
	f.Add(withForm("Helvetica"))
	f.Add(annotated())
	f.Add(commented("/Subtype /Squiggly /C [0 0 0] /CA 0.5 /Rect [20 20 180 60] /QuadPoints [20 60 180 60 20 20 180 20]"))
	f.Add(commented("/Subtype /Circle /C [0] /IC [1 0 0] /BS << /W 4 /S /D /D [3 1] >> /RD [1 1 1 1] /Rect [20 20 180 60]"))
	f.Add(commented("/Subtype /Ink /C [0 0 0 1] /Border [0 0 2] /Rect [20 20 180 60] /InkList [[1 2 3 4]]"))
	f.Fuzz(func(t *testing.T, data []byte) {
		doc, err := Open(bytes.NewReader(data))
		if err != nil || doc.PageCount() == 0 {
			return
		}
		var out bytes.Buffer
		a := NewAssembler(&out, 1)
		policy := annotation.Policy{Fields: annotation.Fixed, Comments: annotation.Fixed}
		if a.AddDocument(doc, []Placement{{Annotations: policy}}, nil) != nil || a.Finish(Properties{Title: "x"}) != nil {
			return
		}
		_, err = Open(bytes.NewReader(out.Bytes()))
		require.NoError(t, err, "what was written can be read")
	})
}
