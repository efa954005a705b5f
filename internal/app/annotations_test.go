package app_test

import (
	"image"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/annotation"
	"dorbin/core/packet"
	"dorbin/core/pdf/pdftest"
	"dorbin/internal/app"
	"dorbin/internal/sampling"
)

// filledInForm is a page with a value that was typed in, at the upper left, and a stamp at the
// lower right, each as large as a quarter of the page.
func filledInForm() []byte {
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [4 0 R] /DA (/Helv 0 Tf 0 g) >> >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
		"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 400] /Annots [4 0 R 6 0 R] >>",
		"<< /Type /Annot /Subtype /Widget /FT /Tx /T (roof) /V (Slates) /F 4 /Rect [0 200 200 400] /AP << /N 5 0 R >> >>",
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 200 200] /Resources << /Font << /F 7 0 R >> >>",
			"0 0 200 200 re f 1 g BT /F 20 Tf 20 90 Td (Slates) Tj ET"),
		"<< /Type /Annot /Subtype /Stamp /F 4 /Rect [200 0 400 200] /Contents (Draft) /AP << /N 5 0 R >> >>",
		"<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
	)
}

// darkCorners tells whether the upper left and the lower right of a page's picture are dark.
func darkCorners(img image.Image) (upperLeft, lowerRight bool) {
	isDark := func(x, y int) bool {
		r, _, _, _ := img.At(img.Bounds().Min.X+x, img.Bounds().Min.Y+y).RGBA()
		return r < 0x8000
	}
	size := img.Bounds().Size()
	return isDark(size.X/20, size.Y/20), isDark(size.X-size.X/20, size.Y-size.Y/20)
}

// TestFormFieldsAndComments has the bench show what the document has, for every choice.
func TestFormFieldsAndComments(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	for name, c := range map[string]struct {
		policy          annotation.Policy
		field, stamp    bool // seen
		widgets, stamps bool // there to be used
		text            bool // of either can be read
	}{
		"kept":                 {annotation.Policy{}, true, true, true, true, true},
		"values, no comments":  {annotation.Policy{Fields: annotation.Fixed, Comments: annotation.LeftOut}, true, false, false, false, true},
		"both fixed":           {annotation.Policy{Fields: annotation.Fixed, Comments: annotation.Fixed}, true, true, false, false, true},
		"both left out":        {annotation.NoneSeen, false, false, false, false, false},
		"only fields left out": {annotation.Policy{Fields: annotation.LeftOut}, false, true, false, true, true},
	} {
		t.Run(name, func(t *testing.T) {
			a := newApp(t)
			id := newPacket(t, a)
			add(t, a, id, "form.pdf", filledInForm())
			page := get(t, a, id).Parts[0].Pages[0].ID
			apply(t, a, id, packet.Annotate{Selected: packet.On(page), Annotations: c.policy})
			assertCorners(t, a, id, page, c.field, c.stamp)

			path, e := exportAsItIs(t, a, id)
			require.Equal(t, "done", e.State, e.Problem)
			assert.Empty(t, e.Receipt.Differences)
			unpacked := run(t, "qpdf", "--qdf", "--object-streams=disable", path, "-")
			assert.Equal(t, c.widgets, strings.Contains(unpacked, "/Subtype /Widget"))
			assert.Equal(t, c.stamps, strings.Contains(unpacked, "(Draft)"))
			assert.Equal(t, c.text, strings.Contains(run(t, "pdftotext", path, "-"), "Slates"))

			again := newPacket(t, a)
			data, err := os.ReadFile(path)
			require.NoError(t, err)
			added := add(t, a, again, "again.pdf", data)
			assertCorners(t, a, again, added.Pages[0], c.field, c.stamp)
		})
	}
}

func assertCorners(t *testing.T, a *app.App, id string, page packet.PageID, field, stamp bool) {
	t.Helper()
	upperLeft, lowerRight := darkCorners(decoded(t, func() (string, error) { return a.Packets.PagePicture(t.Context(), id, page, 240) }))
	assert.Equal(t, field, upperLeft, "the field is seen")
	assert.Equal(t, stamp, lowerRight, "the stamp is seen")
}

// TestCommentsWithoutAppearanceLookAsOnTheBench has comments become part of their page that only say what
// they look like.
func TestCommentsWithoutAppearanceLookAsOnTheBench(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "marked.pdf", pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
		"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 200] /Contents 4 0 R /Annots [5 0 R 6 0 R 7 0 R] >>",
		pdftest.Stream("", "0 g 0 90 200 20 re f"),
		"<< /Type /Annot /Subtype /Highlight /F 4 /Contents (a comment) /C [1 1 0] /Rect [20 80 180 120] /QuadPoints [20 120 180 120 20 80 180 80] >>",
		"<< /Type /Annot /Subtype /Circle /F 4 /Contents (a comment) /C [0 0 0] /IC [1 0.8 0.8] /BS << /W 4 >> /Rect [20 20 80 60] >>",
		"<< /Type /Annot /Subtype /Ink /F 4 /Contents (a comment) /C [0 0 0] /BS << /W 6 >> /Rect [120 20 180 60] /InkList [[120 20 150 50 180 20]] >>",
	))
	page := get(t, a, id).Parts[0].Pages[0].ID
	apply(t, a, id, packet.Annotate{Selected: packet.On(page), Annotations: annotation.Policy{Comments: annotation.Fixed}})
	path, e := exportAsItIs(t, a, id)
	assert.Empty(t, inEnglish(compared(t, a, e.ID).Receipt.Differences))
	assert.NotContains(t, run(t, "qpdf", "--qdf", "--object-streams=disable", path, "-"), "a comment")
}
