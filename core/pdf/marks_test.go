package pdf

import (
	"bytes"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/pdf/pdftest"
	"dorbin/core/typeface"
)

// numberedPages are pages that a reader shows in other places than their content says, in several framings,
// each with a number at 10 mm from the upper right.
func numberedPages(t *testing.T) (file []byte, marks [][]finish.Mark) {
	t.Helper()
	var framings []geometry.Framing
	var sizes []geometry.Size
	for _, turn := range []int{0, 90, 180, 270} {
		framings = append(framings,
			geometry.Framing{Turn: turn},
			geometry.Framing{Turn: turn, Mirror: true},
			geometry.Framing{Turn: turn, Straighten: 3},
			geometry.Framing{Turn: turn, Crop: geometry.Box{X0: 30, Y0: 20, X1: 250, Y1: 190}, Mirror: true},
			geometry.Framing{Turn: turn, Fit: geometry.SheetLayout{Paper: geometry.A4, Scale: geometry.Shrink, Across: 0.5, Down: 0.5}},
		)
	}
	doc := parse(t, awkward())
	var placements []Placement
	for page := range doc.PageCount() {
		for _, f := range framings {
			f.Flat = doc.PageSize(page)
			placements = append(placements, Placement{Position: len(placements), Page: page, Framing: f, Again: true})
			sizes = append(sizes, f.Size())
		}
	}
	edge := geometry.FromMM(10)
	for i, size := range sizes {
		text := fmt.Sprintf("Nr%03d", i+1)
		width := typeface.Sans.Width(text, 12)
		marks = append(marks, []finish.Mark{{
			Kind: finish.NumberMark, Text: text, Size: 12, Face: typeface.Sans, Colour: "#a3262a", Width: width,
			At: geometry.Point{X: size.Width - edge - width, Y: edge + typeface.Sans.Metrics().CapHeight*12},
		}})
	}
	var out bytes.Buffer
	a := NewAssembler(&out, len(placements))
	a.SetMarks(marks)
	require.NoError(t, a.AddDocument(doc, placements, nil))
	require.NoError(t, a.Finish(Properties{Title: "Numbers"}))
	return out.Bytes(), marks
}

var wordInBoxes = regexp.MustCompile(`<word xMin="([-\d.]+)" yMin="([-\d.]+)" xMax="([-\d.]+)" yMax="([-\d.]+)">(Nr\d+)</word>`)

// TestMarksStandWhereTheyAreSeen has poppler say where the numbers are: within 0.5 mm of what
// was asked for, upright, on pages that are turned, cropped, mirrored, straightened, laid on sheets.
func TestMarksStandWhereTheyAreSeen(t *testing.T) {
	file, marks := numberedPages(t)
	pages := strings.Split(tool(t, file, "pdftotext", "-bbox", "-cropbox", "FILE", "-"), "<page ")[1:]
	require.Len(t, pages, len(marks))
	tolerance := geometry.FromMM(0.5)
	for i, text := range pages {
		unit := 1.0
		if i/(len(pages)/5) == 3 { // poppler measures without the page's unit
			unit = 1.5
		}
		words := wordInBoxes.FindAllStringSubmatch(text, -1)
		require.Len(t, words, 1, "page %d", i+1)
		assert.Equal(t, marks[i][0].Text, words[0][5])
		var box [4]float64
		for k := range box {
			box[k], _ = strconv.ParseFloat(words[0][k+1], 64)
			box[k] *= unit
		}
		mark := marks[i][0]
		assert.InDelta(t, mark.At.X, box[0], tolerance, "left of page %d", i+1)
		assert.InDelta(t, mark.At.X+mark.Width, box[2], tolerance, "right of page %d", i+1)
		assert.Less(t, math.Abs((box[1]+box[3])/2-(mark.At.Y-0.3*mark.Size)), mark.Size/2, "height on page %d", i+1)
	}
	fonts := tool(t, file, "pdffonts", "FILE")
	assert.Equal(t, 1, strings.Count(fonts, "LiberationSans"), "the typeface is embedded once")
	assert.Regexp(t, `[A-Z]{6}\+LiberationSans\s+CID TrueType\s+Identity-H\s+yes yes yes`, fonts)
}

// TestMarksOnImagesAndBlankPages puts a text and a rule on pages that have no content of a PDF.
func TestMarksOnImagesAndBlankPages(t *testing.T) {
	var out bytes.Buffer
	a := NewAssembler(&out, 2)
	mark := finish.Mark{Text: "Żółć, 3/4", Size: 20, Face: typeface.Serif, Colour: "#000000", At: geometry.Point{X: 20, Y: 60}}
	rule := finish.Mark{Rule: true, Size: 4, Width: 100, Colour: "#000000", At: geometry.Point{X: 20, Y: 80}}
	a.SetMarks([][]finish.Mark{{mark, rule}, {mark, rule}})
	require.NoError(t, a.AddBlank(0, geometry.Size{Width: 200, Height: 200}))
	white := Image{Width: 1, Height: 1, BitsPerComponent: 8, Filter: Flate, Length: int64(len(deflate([]byte{0xFF}))), Data: bytes.NewReader(deflate([]byte{0xFF}))}
	require.NoError(t, a.AddImage(white, []Placement{{Position: 1, Framing: geometry.Framing{Flat: geometry.Size{Width: 200, Height: 200}, Turn: 90}}}))
	require.NoError(t, a.Finish(Properties{Title: "x"}))
	assert.Equal(t, 2, strings.Count(tool(t, out.Bytes(), "pdftotext", "FILE", "-"), "Żółć, 3/4"))
	for page := 1; page <= 2; page++ {
		img := drawnBy(t, out.Bytes(), page)
		scale := float64(img.Rect.Dx()) / 200
		assert.Less(t, img.GrayAt(int(70*scale), int(82*scale)).Y, uint8(60), "the rule of page %d", page)
		assert.Greater(t, img.GrayAt(int(150*scale), int(82*scale)).Y, uint8(200), "beside it on page %d", page)
	}
}

// TestMarksOnADocumentOfOurOwn adds marks to pages that have marks already, with other letters.
func TestMarksOnADocumentOfOurOwn(t *testing.T) {
	marked := func(file []byte, header, number string) []byte {
		var out bytes.Buffer
		a := NewAssembler(&out, 1)
		at := func(y float64) geometry.Point { return geometry.Point{X: 20, Y: y} }
		y := 40 + 30*float64(len(number))
		a.SetMarks([][]finish.Mark{{
			{Kind: finish.HeaderMark, Text: header, Size: 12, Face: typeface.Sans, Colour: "#000000", At: at(y)},
			{Kind: finish.NumberMark, Text: number, Size: 12, Face: typeface.Sans, Colour: "#000000", At: at(y + 15)},
		}})
		require.NoError(t, a.AddDocument(parse(t, file), []Placement{{}}, nil))
		require.NoError(t, a.Finish(Properties{Title: "x"}))
		return out.Bytes()
	}
	file := marked(awkward(), "First of all", "1")
	file = marked(file, "Quite another", "22")
	file = marked(file, "Zum dritten", "333")
	text := tool(t, file, "pdftotext", "-raw", "FILE", "-")
	for _, words := range []string{"First of all", "Quite another", "Zum dritten", "1\n", "22\n", "333\n", "Words"} {
		assert.Equal(t, 1, strings.Count(text, words), "%q in %q", words, text)
	}
}

func TestMarksCostLittle(t *testing.T) {
	doc := make([]string, 0, 202)
	kids := ""
	for i := range 100 {
		kids += fmt.Sprintf("%d 0 R ", 3+2*i)
		doc = append(doc, fmt.Sprintf("<< /Type /Page /Parent 2 0 R /Contents %d 0 R >>", 4+2*i), pdftest.Stream("", fmt.Sprintf("%d 0 0 10 re f", i)))
	}
	file := pdftest.File(append([]string{
		"<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [" + kids + "] /Count 100 /MediaBox [0 0 595 842] >>",
	}, doc...)...)
	written := func(mark func(i int) []finish.Mark) int {
		var out bytes.Buffer
		a := NewAssembler(&out, 100)
		var marks [][]finish.Mark
		var placements []Placement
		for i := range 100 {
			marks = append(marks, mark(i))
			placements = append(placements, Placement{Position: i, Page: i})
		}
		a.SetMarks(marks)
		require.NoError(t, a.AddDocument(parse(t, file), placements, nil))
		require.NoError(t, a.Finish(Properties{Title: "x"}))
		return out.Len()
	}
	f := finish.Default()
	f.Numbers.On, f.Header.On = true, true
	pages := make([]finish.Page, 100)
	for i := range pages {
		pages[i].Size = geometry.A4
	}
	all := f.Marks(pages, finish.Facts{Packet: "Boathouse roof application", Date: "3 March 2026"})
	plain := written(func(int) []finish.Mark { return nil })
	one := written(func(i int) []finish.Mark { return all[0][:min(len(all[0]), max(0, 1-i)*3)] })
	marked := written(func(i int) []finish.Mark { return all[i] })
	assert.Less(t, (marked-one)/99, 300, "bytes of a page with a number and a header; %d without", plain)
}

// TestPagesWithMarksShareResources has pages with the same resources and with others, on which the same
// marks are.
func TestPagesWithMarksShareResources(t *testing.T) {
	page := func(fonts string) string {
		return "<< /Type /Page /Parent 2 0 R /Contents 3 0 R /Resources << /Font << " + fonts + " >> >> >>"
	}
	file := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [5 0 R 6 0 R 7 0 R] /Count 3 /MediaBox [0 0 300 400] >>",
		pdftest.Stream("", "BT /F 12 Tf 30 350 Td (Words) Tj ET"), "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
		page("/F 4 0 R"), page("/F 4 0 R"), page("/F 4 0 R /G 4 0 R"),
	)
	line := finish.Mark{Kind: finish.HeaderMark, Text: "At the head", Size: 12, Face: typeface.Sans, Colour: "#000000", At: geometry.Point{X: 20, Y: 20}}
	number := finish.Mark{Kind: finish.NumberMark, Text: "1", Size: 12, Face: typeface.Sans, Colour: "#000000", At: geometry.Point{X: 20, Y: 390}}
	var out bytes.Buffer
	a := NewAssembler(&out, 3)
	a.SetMarks([][]finish.Mark{{line, number}, {line, number}, {line, number}})
	require.NoError(t, a.AddDocument(parse(t, file), []Placement{{}, {Position: 1, Page: 1}, {Position: 2, Page: 2}}, nil))
	require.NoError(t, a.Finish(Properties{Title: "x"}))
	doc := parse(t, out.Bytes())
	var resources []types.Object
	for _, page := range doc.pages {
		resources = append(resources, page.dict["Resources"])
	}
	assert.Equal(t, resources[0], resources[1])
	assert.IsType(t, types.IndirectRef{}, resources[0])
	assert.NotEqual(t, resources[0], resources[2])
	text := tool(t, out.Bytes(), "pdftotext", "FILE", "-")
	assert.Equal(t, []int{3, 3}, []int{strings.Count(text, "Words"), strings.Count(text, "At the head")}, text)
}

// TestStatesLeftOpen counts what content saves and does not restore, and nothing that only looks so.
func TestStatesLeftOpen(t *testing.T) {
	for content, open := range map[string]int{
		"0 g 0 0 10 10 re f": 0, "q 1 0 0 1 90 90 cm": 1, "q q Q 0 g": 1, "q\nQ": 0, "Q Q q": 1, "q": 1, "[(q)]q/q[": 1,
		"(a q b) Tj": 0, "/q gs": 0, "quick (q) Tj req": 0, "BI /W 1 ID q q EI": 0, "% q\nq": 1, "q q q": 3,
	} {
		file := pdftest.File(
			"<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 300 400] >>",
			"<< /Type /Page /Parent 2 0 R /Contents 4 0 R >>", pdftest.Stream("", content),
		)
		assert.Equal(t, open, parse(t, file).leftOpen(0), "%q", content)
	}
}

func TestPageLabels(t *testing.T) {
	for name, c := range map[string]struct {
		labels []string
		runs   int
	}{
		"a run":           {[]string{"1", "2", "3", "4"}, 1},
		"after a cover":   {[]string{"", "", "1", "2"}, 2},
		"anew":            {[]string{"1", "2", "1", "2", ""}, 3},
		"from nought":     {[]string{"0", "1", "2"}, 2},
		"Roman":           {[]string{"i", "ii", "1"}, 3},
		"with a prefix":   {[]string{"A-8", "A-9", "A-10", "B-11"}, 2},
		"padded":          {[]string{"0009", "0010"}, 2},
		"a large number":  {[]string{"123456", "123457"}, 1},
		"none at the end": {[]string{"1", "", "2"}, 3},
	} {
		var out bytes.Buffer
		a := NewAssembler(&out, len(c.labels))
		for i := range c.labels {
			require.NoError(t, a.AddBlank(i, geometry.A4))
		}
		require.NoError(t, a.Finish(Properties{Title: "x", Labels: c.labels}))
		json := tool(t, out.Bytes(), "qpdf", "--json=1", "--json-key=pagelabels", "FILE")
		assert.Equal(t, c.runs, strings.Count(json, `"index"`), "%s: %s", name, json)
		doc := parse(t, out.Bytes())
		assert.Equal(t, c.labels, labelsOf(t, doc), name)
	}
}

// labelsOf reads a document's page labels back, as 12.4.2 has it.
func labelsOf(t *testing.T, d *Document) []string {
	t.Helper()
	labels := make([]string, d.PageCount())
	nums := d.array(d.dict(d.root["PageLabels"])["Nums"])
	for k := 0; k+1 < len(nums); k += 2 {
		start, _ := d.number(nums[k])
		run := d.dict(nums[k+1])
		prefix, _ := d.text(run["P"])
		first, ok := d.number(run["St"])
		if !ok {
			first = 1
		}
		end := len(labels)
		if k+2 < len(nums) {
			next, _ := d.number(nums[k+2])
			end = int(next)
		}
		for i := int(start); i < end; i++ {
			labels[i] = decodeText(prefix)
			if d.name(run["S"]) == "D" {
				labels[i] += strconv.Itoa(int(first) + i - int(start))
			}
		}
	}
	return labels
}

func TestPropertiesAndOpening(t *testing.T) {
	var out bytes.Buffer
	a := NewAssembler(&out, 2)
	require.NoError(t, a.AddBlank(0, geometry.A4))
	require.NoError(t, a.AddBlank(1, geometry.A4))
	require.NoError(t, a.Finish(Properties{
		Title: "Roof & gutters", Author: "Larkmere Rowing Club", Subject: "Grant <2026>", Keywords: "roof, slate", Described: true, Created: time.Unix(0, 0),
		Opening: &Opening{Layout: "facing", Page: 1, Fit: "width"}, Bookmarks: []Bookmark{{Title: "All", Count: 2}},
	}))
	info := tool(t, out.Bytes(), "pdfinfo", "FILE")
	for _, line := range []string{"Roof & gutters", "Larkmere Rowing Club", "Grant <2026>", "roof, slate"} {
		assert.Contains(t, info, line)
	}
	metadata := tool(t, out.Bytes(), "pdfinfo", "-meta", "FILE")
	assert.Contains(t, metadata, "Roof &amp; gutters")
	assert.Contains(t, metadata, "Grant &lt;2026&gt;")
	text := plain(t, out.Bytes())
	assert.Contains(t, text, "/PageLayout /TwoPageRight")
	assert.Contains(t, text, "/PageMode /UseNone")
	assert.Regexp(t, `(?s)/OpenAction \[\s+\d+ 0 R\s+/FitH\s+null\s+\]`, text)
}

// TestWatermarksAreSeenThrough has poppler draw a watermark over and under a page with a black and
// a white half, which is turned: over, it is seen on both as far as it is opaque; under, on neither
// black nor what is painted white, but where the page is left empty.
func TestWatermarksAreSeenThrough(t *testing.T) {
	half := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 300] >>",
		"<< /Type /Page /Parent 2 0 R /Contents 4 0 R >>", pdftest.Stream("", "0 g 0 0 100 300 re f"),
	)
	for _, turn := range []int{0, 90, 180, 270} {
		for _, under := range []bool{false, true} {
			framing := geometry.Framing{Flat: geometry.Size{Width: 200, Height: 300}, Turn: turn}
			size := framing.Size()
			// A line of blocks from one edge of the page to the other, through its middle, aslant.
			w := finish.Watermark{On: true, Text: "████████████████", Face: typeface.Sans, Colour: "#ff0000", Size: 40, Angle: 45, Place: finish.AtMiddle, Strength: 50, Behind: under}
			if _, missing := w.Face.Missing(w.Text); missing {
				t.Fatal("the typeface has no blocks")
			}
			marks := finish.Finish{Watermark: w}.Marks([]finish.Page{{Size: size}}, finish.Facts{})
			var out bytes.Buffer
			a := NewAssembler(&out, 1)
			a.SetMarks(marks)
			require.NoError(t, a.AddDocument(parse(t, half), []Placement{{Framing: framing}}, nil))
			require.NoError(t, a.Finish(Properties{Title: "x"}))
			img := drawnBy(t, out.Bytes(), 1)
			scale := float64(img.Rect.Dx()) / size.Width
			at := func(x, y float64) int { // on the flat page
				p := framing.Transform()
				seenX, seenY := p.Apply(x, y)
				return int(img.GrayAt(int(seenX*scale), int(seenY*scale)).Y)
			}
			mark := marks[0][0]
			onIt := func(x, y float64) bool {
				seenX, seenY := framing.Transform().Apply(x, y)
				return mark.Covers(geometry.Point{X: seenX, Y: seenY}, -8)
			}
			black, white := 0, 0
			for y := 5.0; y < 300; y += 5 {
				for x := 5.0; x < 200; x += 5 {
					if math.Abs(x-100) < 8 || !onIt(x, y) {
						continue
					}
					switch {
					case x < 100 && under:
						black++
						assert.Less(t, at(x, y), 10, "turned by %d, under, at %v,%v", turn, x, y)
					case x < 100:
						black++
						assert.InDelta(t, 38, at(x, y), 12, "turned by %d, over black, at %v,%v", turn, x, y)
					default:
						white++
						assert.InDelta(t, 166, at(x, y), 12, "turned by %d, on white, at %v,%v", turn, x, y)
					}
				}
			}
			assert.Greater(t, min(black, white), 10)
		}
	}
}

// TestContentsLead has links lead to pages of the document, and to none that is not in it.
func TestContentsLead(t *testing.T) {
	var out bytes.Buffer
	a := NewAssembler(&out, 3)
	line := finish.Mark{Kind: finish.ContentsMark, Text: "Form", Size: 12, Width: 40, Face: typeface.Sans, Colour: "#000000", At: geometry.Point{X: 50, Y: 100}, To: 3}
	elsewhere := line
	elsewhere.To = 0
	beyond := line
	beyond.To = 4
	a.SetMarks([][]finish.Mark{{line, elsewhere, beyond}, nil, nil})
	for i := range 3 {
		require.NoError(t, a.AddBlank(i, geometry.A4))
	}
	require.NoError(t, a.Finish(Properties{Title: "x"}))
	doc := parse(t, out.Bytes())
	annots, ok := doc.resolve(doc.pages[0].dict["Annots"]).(types.Array)
	require.True(t, ok)
	require.Len(t, annots, 1)
	link := doc.dict(annots[0])
	target, ok := doc.resolve(link["Dest"]).(types.Array)
	require.True(t, ok)
	assert.Equal(t, 2, doc.pageIndex[objectNumber(target[0])])
	box, ok := doc.rectangle(link["Rect"])
	require.True(t, ok)
	assert.InDelta(t, geometry.A4.Height-88-16, box.y0, 0.1)
}
