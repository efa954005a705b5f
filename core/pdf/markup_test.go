package pdf

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/annotation"
	"dorbin/core/pdf/pdftest"
)

// commented is a page of 200 by 200 points with a black bar across its middle, 90 to 110 points from its
// foot, and a comment that has no appearance.
func commented(comment string) []byte {
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
		"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 200] /Contents 4 0 R /Annots [5 0 R] >>",
		pdftest.Stream("", "0 g 0 90 200 20 re f"), "<< /Type /Annot /Contents (a comment) /F 4 "+comment+" >>",
	)
}

// TestCommentsWithoutAppearanceBecomePartOfThePage looks at points of pages as poppler draws them, with
// the comment fixed: whether there is anything, and whether that is dark.
func TestCommentsWithoutAppearanceBecomePartOfThePage(t *testing.T) {
	quads := func(y0, y1 int) string {
		return fmt.Sprintf("/Rect [20 %d 180 %d] /QuadPoints [20 %d 180 %d 20 %d 180 %d]", y0, y1, y1, y1, y0, y0)
	}
	type at struct {
		x, y float64 // points from the lower left
		what string  // "white", "coloured" or "dark"
	}
	for name, c := range map[string]struct {
		comment string
		seen    []at
	}{
		"highlight":   {"/Subtype /Highlight /C [1 1 0] " + quads(80, 120), []at{{100, 115, "coloured"}, {100, 100, "dark"}, {10, 115, "white"}, {100, 130, "white"}}},
		"faint":       {"/Subtype /Highlight /C [0 0 0] /CA 0.5 " + quads(20, 60), []at{{100, 40, "coloured"}, {100, 70, "white"}}},
		"underlined":  {"/Subtype /Underline /C [0 0 0] " + quads(20, 60), []at{{100, 23.2, "dark"}, {100, 38, "white"}}},
		"struck out":  {"/Subtype /StrikeOut /C [0] " + quads(20, 60), []at{{100, 38, "dark"}, {100, 23, "white"}}},
		"squiggly":    {"/Subtype /Squiggly /C [0 0 0] " + quads(20, 60), []at{{20, 20.8, "dark"}, {100, 38, "white"}}},
		"square":      {"/Subtype /Square /C [0 0 0] /IC [1 0.8 0.8] /BS << /W 4 >> /Rect [20 20 80 60]", []at{{22, 40, "dark"}, {50, 40, "coloured"}, {18, 40, "white"}}},
		"circle":      {"/Subtype /Circle /C [0 0 0] /Border [0 0 4] /Rect [20 20 80 80]", []at{{22, 50, "dark"}, {50, 50, "white"}, {24, 24, "white"}}},
		"set in":      {"/Subtype /Square /C [0 0 0] /BS << /W 4 >> /RD [10 10 10 10] /Rect [20 20 80 60]", []at{{32, 40, "dark"}, {22, 40, "white"}}},
		"no line":     {"/Subtype /Square /IC [1 0.8 0.8] /BS << /W 0 >> /Rect [20 20 80 60]", []at{{50, 40, "coloured"}, {18, 40, "white"}}},
		"by hand":     {"/Subtype /Ink /C [0 0 0] /BS << /W 6 >> /Rect [20 20 80 80] /InkList [[20 20 50 50] [50 50 80 20]]", []at{{35, 35, "dark"}, {65, 35, "dark"}, {50, 25, "white"}}},
		"line":        {"/Subtype /Line /C [0 0 0] /BS << /W 6 >> /Rect [20 20 80 80] /L [20 50 80 50] /LE [/None /None]", []at{{50, 50, "dark"}, {50, 58, "white"}}},
		"dashed":      {"/Subtype /Line /C [0 0 0] /BS << /W 2 /S /D /D [10 20] >> /Rect [20 20 110 80] /L [20 50 110 50]", []at{{25, 50, "dark"}, {40, 50, "white"}, {55, 50, "dark"}}},
		"polygon":     {"/Subtype /Polygon /C [0 0 0] /IC [1 0.8 0.8] /BS << /W 4 >> /Rect [20 20 80 80] /Vertices [20 20 80 20 50 80]", []at{{50, 20, "dark"}, {50, 40, "coloured"}, {22, 70, "white"}}},
		"through":     {"/Subtype /PolyLine /C [0 0 0] /BS << /W 4 >> /Rect [20 20 80 80] /Vertices [20 20 80 20 80 80]", []at{{50, 20, "dark"}, {80, 50, "dark"}, {50, 50, "white"}}},
		"many quads":  {"/Subtype /Squiggly /C [0 0 0] /Rect [20 20 180 60] /QuadPoints [" + strings.Repeat("20 60 180 60 20 20 180 20 ", 3000) + "]", []at{{100, 23.2, "dark"}}},
		"more points": {"/Subtype /Underline /C [0 0 0] /Rect [20 20 180 60] /QuadPoints [20 60 180 60 20 20 180 20 1 1]", []at{{100, 23.2, "dark"}}},
	} {
		out, _ := assembledWithTally(t, commented(c.comment), Placement{Annotations: annotation.Policy{Comments: annotation.Fixed}})
		assert.NotContains(t, plain(t, out), "a comment", name)
		img := drawnBy(t, out, 1)
		scale := float64(img.Rect.Dx()) / 200
		for _, at := range c.seen {
			level, what := img.GrayAt(int(at.x*scale), int((200-at.y)*scale)).Y, "coloured"
			switch {
			case level < 100:
				what = "dark"
			case level > 250:
				what = "white"
			}
			assert.Equal(t, at.what, what, "%s at %g, %g: %d", name, at.x, at.y, level)
		}
	}
}

// TestCommentsThatNothingTellsTheLookOf stay what they are.
func TestCommentsThatNothingTellsTheLookOf(t *testing.T) {
	for _, comment := range []string{
		"/Subtype /Text /Rect [20 20 40 40]", "/Subtype /Stamp /Rect [20 20 40 40]",
		"/Subtype /Line /C [0 0 0] /Rect [20 20 80 80] /L [20 50 80 50] /LE [/None /OpenArrow]",
		"/Subtype /Line /C [0 0 0] /Rect [20 20 80 80] /L [20 50 80 50] /LL 10", "/Subtype /Line /C [0 0 0] /Rect [20 20 80 80] /L [20 50 80]",
		"/Subtype /Square /C [0 0 0] /Rect [20 20 80 80] /BE << /S /C >>", "/Subtype /Square /Rect [20 20 80 80]",
		"/Subtype /Square /C [0 0 0] /BS << /W 90 >> /Rect [20 20 80 80]", "/Subtype /Ink /C [0 0 0] /Rect [20 20 80 80] /InkList [[20 20] 7 (x)]",
		"/Subtype /Highlight /Rect [20 20 80 80] /QuadPoints [20 60 180 60 20 20 180 20]", "/Subtype /Highlight /C [1 1 0] /Rect [20 20 80 80]",
		"/Subtype /Highlight /C [1 1 0] /Rect [20 20 80 80] /QuadPoints [20 60 180 (x)]",
	} {
		out, _ := assembledWithTally(t, commented(comment), Placement{Annotations: annotation.Policy{Comments: annotation.Fixed}})
		assert.Contains(t, plain(t, out), "a comment", comment)
	}
}
