package pdf

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/pdf/pdftest"
)

// TestNothingHiddenTravelsAlong has a document carry what no page shows:
// an attached file, a script, metadata, page thumbnails, private data of a
// program, and a structure that names the pages left out.
func TestNothingHiddenTravelsAlong(t *testing.T) {
	loaded := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /Metadata 6 0 R /StructTreeRoot 9 0 R /PieceInfo << /Prog 10 0 R >> "+
			"/Names << /EmbeddedFiles << /Names [(a) 5 0 R] >> /JavaScript << /Names [(s) << /S /JavaScript /JS (HIDDEN-SCRIPT) >>] >> >> >>",
		"<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Contents 7 0 R /Thumb 8 0 R /PieceInfo << /Prog << /Private 10 0 R >> >> /StructParents 0 >>",
		"<< /Type /Page /Parent 2 0 R /Contents 11 0 R >>",
		"<< /Type /Filespec /F (HIDDEN-FILE) /EF << /F 10 0 R >> >>",
		pdftest.Stream("/Type /Metadata /Subtype /XML", "HIDDEN-METADATA"),
		pdftest.Stream("", "0 0 100 100 re f"),
		pdftest.Stream("/Width 1 /Height 1 /BitsPerComponent 8 /ColorSpace /DeviceGray", "HIDDEN-THUMB"),
		"<< /Type /StructTreeRoot /K << /Type /StructElem /S /P /ActualText (HIDDEN-STRUCTURE) /Pg 4 0 R >> >>",
		pdftest.Stream("", "HIDDEN-PRIVATE"),
		pdftest.Stream("", "% HIDDEN-PAGE"),
	)
	text := plain(t, assembled(t, nil, use{loaded, []int{0}}))
	assert.NotContains(t, text, "HIDDEN")
	assert.Contains(t, text, "0 0 100 100 re")
}

// TestAnnotationsOfOtherPagesStayBehind has an annotation of a kept page refer
// to one of a page left out.
func TestAnnotationsOfOtherPagesStayBehind(t *testing.T) {
	data := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Annots [5 0 R 6 0 R] >>",
		"<< /Type /Page /Parent 2 0 R /Annots [7 0 R] >>",
		"<< /Type /Annot /Subtype /Text /Rect [0 0 9 9] /Contents (Kept) /Popup 6 0 R /IRT 7 0 R /P 3 0 R >>",
		"<< /Type /Annot /Subtype /Popup /Rect [0 0 9 9] /Parent 5 0 R /P 3 0 R >>",
		"<< /Type /Annot /Subtype /Text /Rect [0 0 9 9] /Contents (LEFT OUT) /P 4 0 R >>",
	)
	text := plain(t, assembled(t, nil, use{data, []int{0}}))
	assert.NotContains(t, text, "LEFT OUT")
	assert.Contains(t, text, "(Kept)")
	assert.NotContains(t, text, "/IRT")
	assert.Regexp(t, `/Popup \d+ 0 R`, text)
	assert.Regexp(t, `/Subtype /Popup`, text)
}

// TestActionsToPagesLeftOutAreTaken keeps a button and what else it does.
func TestActionsToPagesLeftOutAreTaken(t *testing.T) {
	data := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [5 0 R] >> >>",
		"<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Annots [5 0 R 6 0 R] >>",
		"<< /Type /Page /Parent 2 0 R >>",
		"<< /Type /Annot /Subtype /Widget /FT /Btn /T (go) /Rect [0 0 9 9] /A << /S /GoTo /D [4 0 R /Fit] >> >>",
		"<< /Type /Annot /Subtype /Link /Rect [0 0 9 9] /A << /S /URI /URI (https://www.example.org/) /Next << /S /GoTo /D [4 0 R /Fit] >> >> >>",
	)
	text := plain(t, assembled(t, nil, use{data, []int{0}}))
	assert.Contains(t, text, "/T (go)")
	assert.Contains(t, text, "https://www.example.org/")
	assert.NotContains(t, text, "/GoTo")
	assert.NotContains(t, text, "/Next")
	both := plain(t, assembled(t, nil, use{data, []int{0, 1}}))
	assert.Equal(t, 2, strings.Count(both, "/S /GoTo"))
}

func TestColoursOfImages(t *testing.T) {
	var out bytes.Buffer
	a := NewAssembler(&out, 3)
	size := geometry.Size{Width: 100, Height: 100}
	add := func(position int, img Image, samples []byte) {
		data := deflate(samples)
		img.Width, img.Height, img.BitsPerComponent, img.Filter = 1, 1, 8, Flate
		img.Data, img.Length = bytes.NewReader(data), int64(len(data))
		require.NoError(t, a.AddImage(img, []Placement{{Position: position, Framing: geometry.Framing{Flat: size}}}))
	}
	add(0, Image{Colour: CMYK, Inverted: true}, []byte{255, 0, 0, 255}) // no cyan, full magenta and yellow
	add(1, Image{Colour: Indexed, Palette: []byte{9, 9, 9, 20, 200, 30}}, []byte{1})
	add(2, Image{Colour: RGB, Alpha: &Image{
		Width: 1, Height: 1, BitsPerComponent: 8, Colour: Gray, Filter: Flate,
		Data: bytes.NewReader(deflate([]byte{0})), Length: int64(len(deflate([]byte{0}))),
	}}, []byte{200, 0, 0})
	require.NoError(t, a.Finish(Properties{Title: "Colours"}))
	pixel := func(page string) (r, g, b int) {
		ppm := tool(t, out.Bytes(), "pdftoppm", "-r", "72", "-f", page, "-l", page, "FILE")
		pix := []byte(ppm)[len(ppm)-100*100*3:]
		at := 3 * (50*100 + 50)
		return int(pix[at]), int(pix[at+1]), int(pix[at+2])
	}
	r, g, b := pixel("1")
	assert.True(t, r > 200 && g < 80 && b < 80, "red, not %d %d %d", r, g, b)
	r, g, b = pixel("2")
	assert.Equal(t, [3]int{20, 200, 30}, [3]int{r, g, b})
	r, g, b = pixel("3")
	assert.Equal(t, [3]int{255, 255, 255}, [3]int{r, g, b}, "see-through")
}

func TestTitlesInAllScripts(t *testing.T) {
	for _, title := range []string{"Plain", "Größe (2) \\ “x”", "Заявка", "申請書 🚣"} {
		var out bytes.Buffer
		a := NewAssembler(&out, 1)
		require.NoError(t, a.AddDocument(parse(t, linked()), []Placement{{}}, nil))
		require.NoError(t, a.Finish(Properties{Title: title, Bookmarks: []Bookmark{{Title: title, Count: 1}}}))
		assert.Contains(t, tool(t, out.Bytes(), "pdfinfo", "FILE"), title)
	}
	assert.Equal(t, "Größe", decodeText("Gr\xF6\xDFe"))
	assert.Equal(t, "Größe", decodeText("\xFE\xFF\x00G\x00r\x00\xF6\x00\xDF\x00e"))
	assert.Equal(t, "Größe", decodeText("\xEF\xBB\xBFGröße"))
}
