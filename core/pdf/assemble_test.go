package pdf

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/draw"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/annotation"
	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/pdf/pdftest"
	"dorbin/core/typeface"
)

func parse(t testing.TB, data []byte) *Document {
	t.Helper()
	doc, err := Open(bytes.NewReader(data))
	require.NoError(t, err)
	return doc
}

// use is a document with the pages wanted of it, in order, counted from 0.
type use struct {
	data  []byte
	pages []int
}

// assembled puts documents one after another and returns the file.
func assembled(t testing.TB, bookmarks []Bookmark, uses ...use) []byte {
	t.Helper()
	total := 0
	for _, u := range uses {
		total += len(u.pages)
	}
	var out bytes.Buffer
	a := NewAssembler(&out, total)
	position := 0
	for _, u := range uses {
		var placements []Placement
		for _, page := range u.pages {
			placements = append(placements, Placement{Position: position, Page: page})
			position++
		}
		require.NoError(t, a.AddDocument(parse(t, u.data), placements, nil))
	}
	require.NoError(t, a.Finish(Properties{Title: "Test", Bookmarks: bookmarks, Created: time.Unix(0, 0)}))
	return out.Bytes()
}

func tool(t testing.TB, data []byte, command string, args ...string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "out.pdf")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	for i, arg := range args {
		args[i] = strings.ReplaceAll(arg, "FILE", path)
	}
	out, err := exec.Command(command, args...).CombinedOutput()
	require.NoError(t, err, "%s: %s", command, out)
	return string(out)
}

// plain is the file written out by qpdf with nothing compressed.
func plain(t testing.TB, data []byte) string {
	t.Helper()
	tool(t, data, "qpdf", "--check", "FILE")
	return tool(t, data, "qpdf", "--qdf", "--object-streams=disable", "--no-original-object-ids", "FILE", "-")
}

// linked has three pages that share resources by inheritance. Page 1 links to
// pages 2 and 3, by name and directly; each page shows a picture of its own.
func linked() []byte {
	page := func(contents string, more string) string {
		return fmt.Sprintf("<< /Type /Page /Parent 2 0 R /Contents %s %s >>", contents, more)
	}
	link := func(target string) string {
		return "<< /Type /Annot /Subtype /Link /Rect [0 0 10 10] " + target + " >>"
	}
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /Outlines 15 0 R /Names << /Dests << /Names [(two) [4 0 R /Fit] (three) << /D [5 0 R /Fit] >>] >> >> >>",
		"<< /Type /Pages /Kids [3 0 R 4 0 R 5 0 R] /Count 3 /MediaBox [0 0 300 400] /Rotate 90 /Resources << /Font << /F 9 0 R >> /XObject << /A 10 0 R /B 11 0 R /C 12 0 R >> >> >>",
		page("6 0 R", "/Annots ["+link("/Dest (two)")+" 13 0 R 14 0 R]"),
		page("7 0 R", ""),
		page("8 0 R", "/Annots ["+link("/A << /S /URI /URI (https://www.example.org/) >>")+"] /Rotate 0"),
		pdftest.Stream("", "BT /F 20 Tf 20 200 Td (Page one) Tj ET /A Do"),
		pdftest.Stream("", "BT /F 20 Tf 20 200 Td (Page two) Tj ET /B Do"),
		pdftest.Stream("", "BT /F 20 Tf 20 200 Td (Page three) Tj ET /C Do"),
		"<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
		pdftest.Stream("/Type /XObject /Subtype /Image /Width 1 /Height 1 /BitsPerComponent 8 /ColorSpace /DeviceGray", "a"),
		pdftest.Stream("/Type /XObject /Subtype /Image /Width 1 /Height 1 /BitsPerComponent 8 /ColorSpace /DeviceGray", "b"),
		pdftest.Stream("/Type /XObject /Subtype /Image /Width 1 /Height 1 /BitsPerComponent 8 /ColorSpace /DeviceGray", "SECRET-PICTURE"),
		link("/A << /S /GoTo /D (three) >>"),
		link("/Dest [4 0 R /XYZ 0 100 null]"),
		"<< /Type /Outlines /First 16 0 R /Last 17 0 R /Count 2 >>",
		"<< /Title (Chapter) /Parent 15 0 R /Next 17 0 R /First 18 0 R /Last 19 0 R /Count 2 /Dest (two) >>",
		"<< /Title (End) /Parent 15 0 R /Prev 16 0 R /A << /S /GoTo /D (three) >> >>",
		"<< /Title (First) /Parent 16 0 R /Next 19 0 R /Dest [3 0 R /Fit] >>",
		"<< /Title (Second) /Parent 16 0 R /Prev 18 0 R /Dest [4 0 R /Fit] >>",
	)
}

func TestPageSizeFollowsInheritedRotation(t *testing.T) {
	doc := parse(t, linked())
	require.Equal(t, 3, doc.PageCount())
	assert.Equal(t, geometry.Size{Width: 400, Height: 300}, doc.PageSize(0))
	assert.Equal(t, geometry.Size{Width: 300, Height: 400}, doc.PageSize(2))
}

func TestWhatIsLeftOutIsGone(t *testing.T) {
	out := assembled(t, nil, use{linked(), []int{1, 0}})
	text := plain(t, out)
	assert.NotContains(t, text, "SECRET-PICTURE", "a picture that only page 3 shows")
	assert.NotContains(t, text, "Page three")
	assert.Equal(t, 2, strings.Count(text, "/Type /Page\n"))
	assert.Regexp(t, `(?s)Page two.*Page one`, tool(t, out, "pdftotext", "FILE", "-"))
}

func TestLinksToPagesLeftOutAreRemoved(t *testing.T) {
	text := plain(t, assembled(t, nil, use{linked(), []int{0, 1}}))
	assert.Equal(t, 2, strings.Count(text, "/Subtype /Link"), "two lead to page 2, one led to page 3")
	assert.Contains(t, text, "/XYZ")
	all := plain(t, assembled(t, nil, use{linked(), []int{0, 1, 2}}))
	assert.Equal(t, 4, strings.Count(all, "/Subtype /Link"))
	assert.Contains(t, all, "https://www.example.org/")
	assert.NotContains(t, all, "(two)", "named destinations are made explicit, as names may clash")
}

func TestBookmarks(t *testing.T) {
	marks := []Bookmark{{Title: "Part Ä", First: 0, Count: 1}, {Title: "Rest", First: 1, Count: 2}}
	out := assembled(t, marks, use{linked(), []int{1, 2, 0}})
	var titles []string
	for _, item := range regexp.MustCompile(`"(title|level)": "?([^",\n]+)`).FindAllStringSubmatch(
		tool(t, out, "qpdf", "--json", "--json-key=outlines", "FILE"), -1) {
		if item[1] == "title" {
			titles = append(titles, item[2])
		}
	}
	// Below each part stand the bookmarks that open its pages, under their headings.
	assert.ElementsMatch(t, []string{"Part Ä", "Chapter", "Second", "Rest", "Chapter", "First", "End"}, titles)
	assert.NotContains(t, plain(t, assembled(t, marks[:1], use{linked(), []int{1}})), "(End)")
}

// outlineOf is the outline of a document: a line for each bookmark, indented by its level, with the page that
// it opens.
func outlineOf(t *testing.T, out []byte) (lines []string) {
	t.Helper()
	type item struct {
		Title string
		Page  int `json:"destpageposfrom1"`
		Kids  []item
	}
	var all struct{ Outlines []item }
	require.NoError(t, json.Unmarshal([]byte(tool(t, out, "qpdf", "--json", "--json-key=outlines", "FILE")), &all))
	var list func(items []item, level int)
	list = func(items []item, level int) {
		for _, i := range items {
			lines = append(lines, fmt.Sprintf("%s%s: %d", strings.Repeat(" ", level), i.Title, i.Page))
			list(i.Kids, level+1)
		}
	}
	list(all.Outlines, 0)
	return lines
}

// TestHeadingsAreBelowBookmarks nests them by their levels, where documents bring no bookmarks along.
func TestHeadingsAreBelowBookmarks(t *testing.T) {
	headings := []Heading{
		{"Small first", 0, 3}, {"Large", 0, 1}, {"Below", 1, 2}, {"Far below", 1, 3}, {"Below again", 2, 2}, {"Large again", 2, 1},
	}
	bookmark := Bookmark{Title: "All", Count: 3, Bare: true, Headings: headings}
	want := []string{"All: 1", " Small first: 1", " Large: 1", "  Below: 2", "   Far below: 2", "  Below again: 3", " Large again: 3"}
	assert.Equal(t, want, outlineOf(t, assembled(t, []Bookmark{bookmark}, use{linked(), []int{1, 2, 0}})))
	bookmark.Bare = false
	own := outlineOf(t, assembled(t, []Bookmark{bookmark}, use{linked(), []int{1, 2, 0}}))
	assert.NotContains(t, own, " Large: 1")
	assert.Contains(t, own, " Chapter: 1")
}

func TestIdenticalResourcesAreStoredOnce(t *testing.T) {
	one := assembled(t, nil, use{linked(), []int{0}})
	// The same document again, as if it came in a second file.
	two := plain(t, assembled(t, nil, use{linked(), []int{0}}, use{linked(), []int{0}}))
	assert.Equal(t, 1, strings.Count(two, "/BaseFont /Helvetica"))
	assert.Equal(t, 1, strings.Count(two, "/Subtype /Image"))
	assert.Equal(t, strings.Count(plain(t, one), "Page one"), strings.Count(two, "Page one"))
}

func TestTheSamePageTwice(t *testing.T) {
	out := assembled(t, nil, use{linked(), []int{0, 0, 1}})
	assert.Equal(t, 2, strings.Count(tool(t, out, "pdftotext", "FILE", "-"), "Page one"))
	assert.Equal(t, 4, strings.Count(plain(t, out), "/Subtype /Link"), "each copy has links of its own")
}

// drawnBy has poppler draw a page in grey, 300 pixels wide.
func drawnBy(t *testing.T, data []byte, page int) *image.Gray {
	t.Helper()
	folder := t.TempDir()
	path := filepath.Join(folder, "in.pdf")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	number := fmt.Sprint(page)
	tool(t, data, "pdftoppm", "-cropbox", "-gray", "-r", "72", "-f", number, "-l", number, "-singlefile", "-png", "FILE", filepath.Join(folder, "out"))
	return grayPicture(t, filepath.Join(folder, "out.png"))
}

func grayPicture(t *testing.T, path string) *image.Gray {
	t.Helper()
	in, err := os.Open(path)
	require.NoError(t, err)
	defer in.Close() //nolint:errcheck // only read from
	img, err := png.Decode(in)
	require.NoError(t, err)
	gray := image.NewGray(img.Bounds())
	draw.Draw(gray, gray.Rect, img, image.Point{}, draw.Src)
	return gray
}

// TestMirror has poppler draw pages before and after: one that its document
// turns by 90 degrees, one that it does not.
func TestMirror(t *testing.T) {
	var out bytes.Buffer
	a := NewAssembler(&out, 4)
	require.NoError(t, a.AddDocument(parse(t, linked()), []Placement{
		{Position: 0, Page: 0}, {Position: 1, Page: 0, Framing: geometry.Framing{Mirror: true}}, {Position: 2, Page: 2}, {Position: 3, Page: 2, Framing: geometry.Framing{Mirror: true}},
	}, nil))
	require.NoError(t, a.Finish(Properties{Title: "x"}))
	plain(t, out.Bytes())
	for _, page := range []int{1, 3} {
		straight, mirrored := drawnBy(t, out.Bytes(), page), drawnBy(t, out.Bytes(), page+1)
		require.Equal(t, straight.Rect, mirrored.Rect)
		differ, ink := 0, 0
		for y := range straight.Rect.Dy() {
			for x := range straight.Rect.Dx() {
				dark := straight.GrayAt(x, y).Y < 128
				if dark {
					ink++
				}
				if dark != (mirrored.GrayAt(straight.Rect.Dx()-1-x, y).Y < 128) {
					differ++
				}
			}
		}
		assert.Greater(t, ink, 100)
		assert.Less(t, differ, ink/2, "page %d, but for the edges of letters", page)
	}
}

func TestMirrorOfAnImagePage(t *testing.T) {
	pixels := bytes.Repeat([]byte{0, 255, 255, 255}, 4) // a dark left quarter
	var out bytes.Buffer
	a := NewAssembler(&out, 1)
	data := deflate(pixels)
	require.NoError(t, a.AddImage(Image{Width: 4, Height: 4, BitsPerComponent: 8, Filter: Flate, Data: bytes.NewReader(data), Length: int64(len(data))},
		[]Placement{{Framing: geometry.Framing{Flat: geometry.Size{Width: 100, Height: 100}, Mirror: true}}}))
	require.NoError(t, a.Finish(Properties{Title: "x"}))
	img := drawnBy(t, out.Bytes(), 1)
	assert.Greater(t, img.GrayAt(5, 50).Y, uint8(200))
	assert.Less(t, img.GrayAt(95, 50).Y, uint8(50))
}

func TestBarePagesKeepOnlyTheirLinks(t *testing.T) {
	note := "<< /Type /Annot /Subtype /Text /Rect [0 0 10 10] /Contents (a comment) >>"
	link := "<< /Type /Annot /Subtype /Link /Rect [0 0 10 10] /A << /S /URI /URI (https://www.example.org/) >> >>"
	field := "<< /Type /Annot /Subtype /Widget /FT /Tx /T (name) /V (typed) /Rect [0 0 50 10] >>"
	data := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [6 0 R] >> >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
		"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 200] /Annots [4 0 R 5 0 R 6 0 R] >>",
		note, link, field)
	var out bytes.Buffer
	a := NewAssembler(&out, 2)
	require.NoError(t, a.AddDocument(parse(t, data), []Placement{{Position: 0, Annotations: annotation.NoneSeen}, {Position: 1}}, nil))
	require.NoError(t, a.Finish(Properties{Title: "x"}))
	text := plain(t, out.Bytes())
	assert.Equal(t, 1, strings.Count(text, "a comment"))
	assert.Equal(t, 1, strings.Count(text, "(typed)"))
	assert.Equal(t, 2, strings.Count(text, "www.example.org"))
}

func TestTurn(t *testing.T) {
	var out bytes.Buffer
	a := NewAssembler(&out, 3)
	require.NoError(t, a.AddDocument(parse(t, linked()), []Placement{
		{Position: 2, Page: 0, Framing: geometry.Framing{Turn: 270}}, {Position: 0, Page: 2, Framing: geometry.Framing{Turn: 180}}, {Position: 1, Page: 1},
	}, nil))
	require.NoError(t, a.Finish(Properties{Title: "x"}))
	info := tool(t, out.Bytes(), "pdfinfo", "-l", "-1", "FILE")
	assert.Regexp(t, `Page +1 rot: +180`, info)
	assert.Regexp(t, `Page +2 rot: +90`, info)
	assert.Regexp(t, `Page +3 rot: +0`, info, "90 of its own and 270 more")
}

func TestAssemblerRefusesNonsense(t *testing.T) {
	var out bytes.Buffer
	a := NewAssembler(&out, 1)
	doc := parse(t, linked())
	require.Error(t, a.AddDocument(doc, []Placement{{Page: 3}}, nil), "no such page")
	require.Error(t, a.AddDocument(doc, []Placement{{Position: 1}}, nil), "no such position")
	require.Error(t, a.Finish(Properties{}), "a position is empty")
	require.NoError(t, a.AddDocument(doc, []Placement{{}}, nil))
	require.Error(t, a.AddDocument(doc, []Placement{{}}, nil), "the position is taken")
}

// withForm has one page with a field of two widgets, one of which is on page 2,
// and a text field in a font of its own.
func withForm(base string) []byte {
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [5 0 R 8 0 R] /DA (/F1 9 Tf 0 g) /DR << /Font << /F1 9 0 R >> >> /NeedAppearances true >> >>",
		"<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Annots [6 0 R 8 0 R] >>",
		"<< /Type /Page /Parent 2 0 R /Annots [7 0 R] >>",
		"<< /FT /Btn /Ff 32768 /T (choice) /V /Yes /Kids [6 0 R 7 0 R] >>",
		"<< /Type /Annot /Subtype /Widget /Rect [0 0 9 9] /Parent 5 0 R /AS /Yes /P 3 0 R >>",
		"<< /Type /Annot /Subtype /Widget /Rect [0 0 9 9] /Parent 5 0 R /AS /Off /P 4 0 R >>",
		"<< /Type /Annot /Subtype /Widget /Rect [20 20 90 40] /FT /Tx /T (name) /V (Typed in) /P 3 0 R >>",
		"<< /Type /Font /Subtype /Type1 /BaseFont /"+base+" >>",
	)
}

func TestFormFields(t *testing.T) {
	out := assembled(t, nil, use{withForm("Helvetica"), []int{0, 1}}, use{withForm("Courier"), []int{0}})
	text := plain(t, out)
	for _, name := range []string{"(choice)", "(name)", "(choice_2)", "(name_2)"} {
		assert.Contains(t, text, "/T "+name)
	}
	assert.Equal(t, 2, strings.Count(text, "(Typed in)"))
	assert.Contains(t, text, "/F1 9 Tf")
	assert.Contains(t, text, "/F1_2 9 Tf", "the second document's F1 is another font")
	assert.Regexp(t, `(?s)/F1 \d+ 0 R\s+/F1_2 \d+ 0 R`, text)
	assert.Contains(t, text, "/NeedAppearances true")
	assert.Equal(t, 5, strings.Count(text, "/Subtype /Widget"))
	kids := regexp.MustCompile(`(?s)/Kids \[\s+(\d+ 0 R\s+)\]\s+/T \(choice_2\)`)
	assert.Regexp(t, kids, text, "the field's other widget is on a page left out")
}

func TestFormOfAPagePlacedTwice(t *testing.T) {
	text := plain(t, assembled(t, nil, use{withForm("Helvetica"), []int{0, 0}}))
	assert.Contains(t, text, "/T (name)")
	assert.Contains(t, text, "/T (name_2)")
	assert.NotContains(t, text, "(name_3)")
}

func TestSignatureBecomesAPicture(t *testing.T) {
	signed := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [4 0 R] /SigFlags 3 >> >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Annots [4 0 R] >>",
		"<< /Type /Annot /Subtype /Widget /FT /Sig /T (sig) /V 5 0 R /Rect [0 0 50 50] /AP << /N 6 0 R >> >>",
		"<< /Type /Sig /Filter /Adobe.PPKLite /Contents <00> >>",
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 50 50]", "0 0 50 50 re f"),
	)
	text := plain(t, assembled(t, nil, use{signed, []int{0}}))
	assert.Contains(t, text, "/Subtype /Stamp")
	assert.NotContains(t, text, "/AcroForm")
	assert.NotContains(t, text, "PPKLite")
}

func TestHiddenLayersStayHidden(t *testing.T) {
	layered := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [5 0 R 6 0 R] /D << /OFF [6 0 R] /Order [5 0 R 6 0 R] >> >> >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Contents 4 0 R /Resources << /Properties << /A 5 0 R /B 6 0 R >> >> >>",
		pdftest.Stream("", "/OC /A BDC 0 0 100 100 re f EMC /OC /B BDC 100 100 100 100 re f EMC"),
		"<< /Type /OCG /Name (Shown) >>",
		"<< /Type /OCG /Name (Hidden) >>",
	)
	out := assembled(t, nil, use{layered, []int{0}})
	before := tool(t, layered, "pdftoppm", "-r", "20", "-gray", "FILE")
	assert.Equal(t, before, tool(t, out, "pdftoppm", "-r", "20", "-gray", "FILE"))
	assert.Contains(t, plain(t, out), "/OFF")
}

func TestWeighDividesWhatIsShared(t *testing.T) {
	shared := strings.Repeat("x", 9000)
	own := strings.Repeat("y", 5000)
	doc := parse(t, pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R 4 0 R 5 0 R] /Count 3 /MediaBox [0 0 9 9] >>",
		"<< /Type /Page /Parent 2 0 R /Contents 6 0 R /Resources << /XObject << /A 7 0 R >> >> >>",
		"<< /Type /Page /Parent 2 0 R /Contents 6 0 R /Resources << /XObject << /A 7 0 R /B 8 0 R >> >> >>",
		"<< /Type /Page /Parent 2 0 R >>",
		pdftest.Stream("", "/A Do"),
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 1 1]", shared),
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 1 1]", own),
	))
	sizes := MeasureSize(doc)
	require.Len(t, sizes, 3)
	assert.InDelta(t, 4500, sizes[0].Bytes, 250)
	assert.InDelta(t, 9500, sizes[1].Bytes, 300)
	assert.Less(t, sizes[2].Bytes, int64(100))
	assert.InDelta(t, 9000, sizes[0].Shared, 200, "undivided")
	assert.Equal(t, sizes[0].Shared, sizes[1].Shared)
	assert.Zero(t, sizes[2].Shared)
}

func TestSizesAreThoseOfWhatIsWritten(t *testing.T) {
	stream := func(n int) string { return pdftest.Stream("", strings.Repeat("x", n)) }
	for name, c := range map[string]struct {
		objects []string // from number 4; those of the only page are 3
		page    string
		form    string
	}{
		"words of a comment":             {page: "/Annots [<< /Type /Annot /Subtype /Text /Rect [0 0 9 9] /Contents (" + strings.Repeat("So it was said. ", 4000) + ") >>]"},
		"data of a program":              {page: "/PieceInfo << /Program << /Private 4 0 R >> >>", objects: []string{stream(90_000)}},
		"what tells of the page":         {page: "/Metadata 4 0 R", objects: []string{pdftest.Stream("/Type /Metadata /Subtype /XML", strings.Repeat("x", 90_000))}},
		"a picture that is not the page": {page: "/Thumb 4 0 R", objects: []string{stream(90_000)}},
		"the font of a field": {
			page:    "/Annots [5 0 R]",
			form:    "/Fields [5 0 R] /DA (/Hand 9 Tf) /DR << /Font << /Hand 4 0 R /Other 6 0 R >> >>",
			objects: []string{stream(40_000), "<< /Type /Annot /Subtype /Widget /FT /Tx /T (name) /Rect [0 0 9 9] >>", stream(70_000)},
		},
	} {
		t.Run(name, func(t *testing.T) {
			data := pdftest.File(append([]string{
				"<< /Type /Catalog /Pages 2 0 R /AcroForm << " + c.form + " >> >>",
				"<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 9 9] >>",
				"<< /Type /Page /Parent 2 0 R " + c.page + " >>",
			}, c.objects...)...)
			written := float64(len(assembled(t, nil, use{data, []int{0}})))
			const mostOff = 20_000 // as words are compressed better the longer they are
			assert.InDelta(t, written, MeasureSize(parse(t, data))[0].Bytes, mostOff)
		})
	}
}

func TestOpenRefuses(t *testing.T) {
	_, err := Open(strings.NewReader("%PDF-1.4\nnothing else"))
	require.Error(t, err)
	_, err = Open(bytes.NewReader(pdftest.File("<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [] /Count 0 >>")))
	require.ErrorIs(t, err, ErrNoPages)
}

func TestPageTreeInACircleEnds(t *testing.T) {
	doc := parse(t, pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R 2 0 R 3 0 R] /Count 3 /MediaBox [0 0 9 9] >>",
		"<< /Type /Page /Parent 2 0 R >>",
	))
	assert.Equal(t, 1, doc.PageCount())
}

func TestImagePages(t *testing.T) {
	var out bytes.Buffer
	a := NewAssembler(&out, 8)
	size := geometry.Size{Width: 200, Height: 300}
	for orientation := 1; orientation <= 8; orientation++ {
		// Two by three pixels, each of another grey.
		pixels := []byte{0, 40, 80, 120, 160, 200}
		width, height := 2, 3
		if orientation >= 5 {
			width, height = 3, 2
		}
		data := deflate(pixels)
		require.NoError(t, a.AddImage(Image{
			Width: width, Height: height, BitsPerComponent: 8, Colour: Gray, Filter: Flate,
			Orientation: orientation, Data: bytes.NewReader(data), Length: int64(len(data)),
		}, []Placement{{Position: orientation - 1, Framing: geometry.Framing{Flat: size}}}))
	}
	require.NoError(t, a.Finish(Properties{Title: "Images"}))
	plain(t, out.Bytes())
	// The corner pixels as poppler draws them: top left, top right, bottom left, bottom right.
	want := map[int][4]int{
		1: {0, 40, 160, 200}, 2: {40, 0, 200, 160}, 3: {200, 160, 40, 0}, 4: {160, 200, 0, 40},
		5: {0, 120, 80, 200}, 6: {120, 0, 200, 80}, 7: {200, 80, 120, 0}, 8: {80, 200, 0, 120},
	}
	for orientation, corners := range want {
		n := fmt.Sprint(orientation)
		pgm := tool(t, out.Bytes(), "pdftoppm", "-r", "72", "-gray", "-f", n, "-l", n, "FILE")
		pix := []byte(pgm)[len(pgm)-200*300:]
		at := func(x, y int) int { return int(pix[y*200+x]) }
		got := [4]int{at(20, 20), at(180, 20), at(20, 280), at(180, 280)}
		assert.Equal(t, corners, got, "orientation %d", orientation)
	}
}

func FuzzOpenAndAssemble(f *testing.F) {
	f.Add(linked())
	f.Add(withForm("Helvetica"))
	f.Fuzz(func(t *testing.T, data []byte) {
		doc, err := Open(bytes.NewReader(data))
		if err != nil {
			return
		}
		MeasureSize(doc)
		require.Len(t, doc.Headings(), doc.PageCount())
		var out bytes.Buffer
		a := NewAssembler(&out, 1)
		picture := finish.Picture{Source: "f1", Page: 1}
		a.SetMarks([][]finish.Mark{{
			{Kind: finish.LetterheadMark, Picture: picture, Width: 100, Size: 100, Under: true},
			{Kind: finish.NumberMark, Text: "1", Size: 10, Face: typeface.Sans, Colour: "#000000"},
		}})
		require.NoError(t, a.AddDocument(doc, []Placement{{Page: doc.PageCount() - 1}}, nil))
		require.NoError(t, a.AddOverlay(picture, doc, 0))
		require.NoError(t, a.Finish(Properties{Title: "x", Bookmarks: []Bookmark{{Title: "x", Count: 1}}}))
		again, err := Open(bytes.NewReader(out.Bytes()))
		require.NoError(t, err)
		require.Equal(t, 1, again.PageCount())
	})
}
