package app_test

import (
	"archive/zip"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/pdf/pdftest"
	"dorbin/core/requirements"
	"dorbin/internal/app"
	"dorbin/internal/export"
	"dorbin/internal/intake"
	"dorbin/internal/sampling"
)

// addFinish adds page numbers from page 2 on, a header, properties and an opening.
func addFinish(t *testing.T, a *app.App, id string) {
	t.Helper()
	f := finish.Default()
	f.Numbers.On, f.Numbers.From, f.Numbers.Style = true, 2, finish.OfTotal
	f.Header = finish.Line{On: true, Texts: finish.Texts{Left: "{packet}", Right: "Ref. TVF-2026"}, Rule: true, Writing: f.Header.Writing}
	f.Properties = finish.Properties{On: true, Author: "Larkmere Rowing Club", Subject: "Boathouse roof"}
	f.Opening.On = true
	apply(t, a, id, packet.Finish{Numbers: &f.Numbers, Header: &f.Header, Properties: &f.Properties, Opening: &f.Opening})
}

// alikeExport makes a document, no page of which is different from the bench.
func alikeExport(t *testing.T, a *app.App, id string) (path string) {
	t.Helper()
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Empty(t, compared(t, a, e.ID).Receipt.Differences)
	return path
}

// TestWhatIsAddedIsInTheDocument exports pages of all kinds, cropped and turned, with what is
// added to them, and has poppler and qpdf find it.
func TestWhatIsAddedIsInTheDocument(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "roof.jpg", paper(t, "roof-1.jpg"))
	pages := get(t, a, id).Parts[0].Pages
	apply(t, a, id, packet.Crop{Selected: packet.On(pages[1].ID), Box: &geometry.Box{X0: 30, Y0: 40, X1: 570, Y1: 830}})
	apply(t, a, id, packet.Turn{Selected: packet.On(pages[2].ID), By: 90})
	apply(t, a, id, packet.InsertBlank{Size: geometry.A4, Count: 1, Destination: packet.Destination{After: pages[3].ID}})
	addFinish(t, a, id)

	shown, err := a.Export.Finished(t.Context(), id)
	require.NoError(t, err)
	require.Len(t, shown.Pages, 6)
	assert.Empty(t, shown.Pages[0].Label)
	assert.Equal(t, "5", shown.Pages[5].Label)

	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Empty(t, e.Receipt.Differences)
	assert.Empty(t, e.Receipt.Hidden)
	assert.Empty(t, compared(t, a, e.ID).Receipt.Differences, "what is added is no difference from the bench")
	for i, text := range strings.Split(strings.TrimRight(run(t, "pdftotext", "-layout", path, "-"), "\f"), "\f") {
		assert.Equal(t, i > 0, strings.Contains(text, "of 5"), "page %d: %s", i+1, text)
		assert.Equal(t, 1, strings.Count(text, "Ref. TVF-2026"), "page %d", i+1)
	}
	info := run(t, "pdfinfo", path)
	assert.Contains(t, info, "Larkmere Rowing Club")
	assert.Contains(t, run(t, "qpdf", "--json=1", "--json-key=pagelabels", path), `"/St": 1`)

	undo(t, a, id)
	path, _ = exportAsItIs(t, a, id)
	assert.NotContains(t, run(t, "pdftotext", path, "-"), "TVF-2026")
	assert.NotContains(t, run(t, "pdffonts", path), "Liberation")
}

// TestMadePagesAreInTheDocument exports a cover, contents with links, part sheets, a watermark and
// bookmarks, and has poppler and qpdf find them.
func TestMadePagesAreInTheDocument(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "accounts.pdf", paper(t, "accounts.pdf"))
	add(t, a, id, "roof.jpg", paper(t, "roof-1.jpg"))
	f := finish.Default()
	f.Cover.On, f.Contents.On, f.Sheets.On, f.Numbers.On, f.Watermark.On = true, true, true, true, true
	f.Properties = finish.Properties{Author: "Larkmere Rowing Club", Reference: "TVF-2026-118"}
	f.Numbers.Style, f.Numbers.Skip, f.Sheets.Skip = finish.Plain, "cover, contents, sheets", "part 3"
	f.Watermark.Only = "4-6"
	parts := get(t, a, id).Parts
	f.Bookmarks.Order = string(parts[1].ID) + "," + string(parts[0].ID)
	f.Bookmarks.Titles, f.Bookmarks.Skip = string(parts[1].ID)+": The books", string(parts[2].ID)
	apply(t, a, id, packet.Finish{
		Cover: &f.Cover, Contents: &f.Contents, Sheets: &f.Sheets, Numbers: &f.Numbers, Watermark: &f.Watermark, Properties: &f.Properties,
	})
	f.Sheets.Skip = "part 3"
	apply(t, a, id, packet.Finish{Bookmarks: &f.Bookmarks, Sheets: &f.Sheets})
	p := get(t, a, id)
	require.Len(t, p.Parts, 5)

	path := alikeExport(t, a, id)
	pages := strings.Split(strings.TrimRight(run(t, "pdftotext", "-layout", path, "-"), "\f"), "\f")
	assert.Regexp(t, `(?s)Test.*From +Larkmere Rowing Club.*Reference +TVF-2026-118`, pages[0])
	assert.Regexp(t, `(?s)Contents.*Form[ .]+1\n.*Accounts[ .]+5\n.*Roof[ .]+8`, pages[1])
	assert.Contains(t, pages[len(pages)-2], "Annex B")
	for i, text := range strings.Split(run(t, "pdftotext", "-raw", path, "-"), "\f")[:len(pages)] {
		text = strings.ReplaceAll(text, "\n", "") // a reader gives letters of a slanted line one by one
		assert.Equal(t, i >= 3 && i <= 5, strings.Contains(text, "Draft"), "page %d", i+1)
	}
	links := strings.Split(run(t, "qpdf", "--json=2", "--json-key=qpdf", path), "\n")
	links = slices.DeleteFunc(links, func(line string) bool {
		return !regexp.MustCompile(`"/Contents": "u:(Form|Accounts|Roof)"`).MatchString(line)
	})
	assert.Len(t, links, 3, "each title is a link")
	outlines := run(t, "qpdf", "--json=1", "--json-key=outlines", path)
	assert.Less(t, strings.Index(outlines, `"title": "The books"`), strings.Index(outlines, `"title": "Form"`), "in an order of their own")
	assert.Contains(t, outlines, `"title": "The books"`)
	assert.NotContains(t, outlines, `"title": "Roof"`)

	measuredOne(t, a, id)
	f.Contents.Nested = true
	apply(t, a, id, packet.Finish{Contents: &f.Contents})
	path, _ = exportAsItIs(t, a, id)
	assert.Regexp(t, `(?s)Accounts[ .]+5\n +2024[ .]+6\n +2025[ .]+7\n`, run(t, "pdftotext", "-layout", "-f", "2", "-l", "2", path, "-"))

	f.Bookmarks.NoLinks = true
	apply(t, a, id, packet.Finish{Bookmarks: &f.Bookmarks})
	path, _ = exportAsItIs(t, a, id)
	shown, err := a.Export.Finished(t.Context(), id)
	require.NoError(t, err)
	ours := 0
	for _, place := range shown.Pages[1].Marks {
		if shown.Marks[place].To > 0 {
			ours++
		}
	}
	assert.Equal(t, ours, strings.Count(run(t, "qpdf", "--json=2", "--json-key=qpdf", path), `"/Subtype": "/Link"`), "those of the contents alone")

	_, e := exportSized(t, a, id, export.ExportOrder{Range: "2, 4-6"})
	assert.Empty(t, e.Receipt.Differences, "links to pages that are not in it lead nowhere")
}

// TestLetterheadsAreInTheDocument has a page of a file that is not placed behind a form and a sheet,
// and over a scan, from both of which the receipt knows it.
func TestLetterheadsAreInTheDocument(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "roof.jpg", paper(t, "roof-1.jpg"))
	add(t, a, id, "plan.pdf", paper(t, "site-plan.pdf"))
	p := get(t, a, id)
	plan := p.Sources[2]
	apply(t, a, id, packet.SetAside{Selected: packet.On(p.Parts[2].Pages[0].ID)})
	head := finish.Letterhead{On: true, Picture: finish.Picture{Source: string(plan.ID), Page: 1}}
	apply(t, a, id, packet.Finish{Letterhead: &head})
	shown, err := a.Export.Finished(t.Context(), id)
	require.NoError(t, err)
	require.Len(t, shown.Pages, 5)
	assert.Contains(t, shown.Misfits, finish.Misfit{Page: 5, Kind: finish.LetterheadMark, Sentence: message.Sentence(
		"on page %d %s %s", 5, message.Of("the letterhead"), message.Of("is hidden by the picture that the page is"),
	)})
	alone := filepath.Join(t.TempDir(), "plan.pdf")
	require.NoError(t, os.WriteFile(alone, paper(t, "site-plan.pdf"), 0o600))
	words := strings.Fields(run(t, "pdftotext", alone, "-"))
	require.NotEmpty(t, words)
	assert.Equal(t, 5, strings.Count(run(t, "pdftotext", alikeExport(t, a, id), "-"), words[len(words)-1]))
	head.Over, head.Actual = true, true
	apply(t, a, id, packet.Finish{Letterhead: &head})
	alikeExport(t, a, id)
	apply(t, a, id, packet.RemoveSource{Source: plan.ID})
	assert.NotContains(t, run(t, "pdftotext", alikeExport(t, a, id), "-"), words[len(words)-1], "what is taken out is drawn nowhere")
}

// TestProtectedDocuments are opened by other programs with their password alone; the receipt is
// made with it, and it is nowhere in the data folder.
// TestNewPacketsBeginWithWhatTheInstallationAdds has an author in the properties of a new packet, and of the
// document that is made of it; it can be taken back.
func TestNewPacketsBeginWithWhatTheInstallationAdds(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	added := finish.Default()
	added.Properties = finish.Properties{On: true, Author: "Larkmere Rowing Club"}
	a := openWith(t, app.Options{Folder: t.TempDir(), Limits: intake.DefaultLimits, Finish: added})
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	id := newPacket(t, a)
	add(t, a, id, "roof 1.jpg", paper(t, "roof-1.jpg"))
	path, _ := exportAsItIs(t, a, id)
	assert.Regexp(t, `Author: +Larkmere Rowing Club`, run(t, "pdfinfo", path))
	apply(t, a, id, packet.Finish{Properties: &finish.Properties{}})
	path, _ = exportAsItIs(t, a, id)
	assert.NotContains(t, run(t, "pdfinfo", path), "Author")
}

// TestHeadingsInTheTextAreBookmarks has bookmarks of the headings of a form: one is left out, and one says
// something else.
func TestHeadingsInTheTextAreBookmarks(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "roof 1.jpg", paper(t, "roof-1.jpg"))
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	ownTextsKnown(t, a, id, 4)
	headings, err := a.Reading.Headings(t.Context(), id)
	require.NoError(t, err)
	titles := make([]string, len(headings))
	for i, heading := range headings {
		titles[i] = heading.Title
	}
	skip, other := slices.Index(titles, "4 What will be different"), slices.Index(titles, "1 Who is applying")
	require.True(t, skip >= 0 && other >= 0, "%q", titles)
	bookmarks := finish.Default().Bookmarks
	bookmarks.Text, bookmarks.Skip, bookmarks.Titles = true, headings[skip].ID, headings[other].ID+": Who: we"
	apply(t, a, id, packet.Finish{Bookmarks: &bookmarks})

	path, _ := exportAsItIs(t, a, id)
	type bookmark struct {
		Title string
		Page  int `json:"destpageposfrom1"`
		Kids  []bookmark
	}
	var said struct{ Outlines []bookmark }
	require.NoError(t, json.Unmarshal([]byte(run(t, "qpdf", "--json", "--json-key=outlines", path)), &said))
	require.Len(t, said.Outlines, 2)
	assert.Equal(t, bookmark{Title: "Roof 1", Page: 1, Kids: []bookmark{}}, said.Outlines[0])
	var below []string
	for _, kid := range said.Outlines[1].Kids {
		below = append(below, fmt.Sprintf("%s: %d", kid.Title, kid.Page))
	}
	want := make([]string, 0, len(headings))
	numbers := map[packet.PageID]int{}
	for _, page := range get(t, a, id).Parts[1].Pages {
		numbers[page.ID] = page.Number
	}
	for i, heading := range headings {
		if i != skip {
			want = append(want, fmt.Sprintf("%s: %d", strings.Replace(heading.Title, "1 Who is applying", "Who: we", 1), numbers[heading.Page]))
		}
	}
	assert.Equal(t, want, below)
}

func TestProtectedDocuments(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "roof.jpg", paper(t, "roof-1.jpg"))
	apply(t, a, id, packet.Finish{Protection: &finish.Protection{On: true, Locked: true, Print: true}})
	start := func(p *export.Passwords) (export.Export, error) {
		return a.Export.Start(t.Context(), id, export.ExportOrder{Passwords: p})
	}
	for want, p := range map[string]*export.Passwords{
		"Enter the password":     nil,
		"not spaces alone":       {ToOpen: "      "},
		"at least 4 letters":     {ToOpen: "abc"},
		"passwords are the same": {ToOpen: "Bootshaus", ToChange: "Bootshaus"},
		"letters that cannot":    {ToOpen: "Boots\x01haus"},
	} {
		_, err := start(p)
		assert.ErrorContains(t, err, want)
	}
	started, err := start(&export.Passwords{ToOpen: "Bootshaus", ToChange: "Steuermann"})
	require.NoError(t, err)
	e := waitFor(t, a, started.ID)
	require.Equal(t, "done", e.State, e.Problem)
	e = compared(t, a, e.ID)
	assert.Empty(t, e.Receipt.Differences)
	assert.Equal(t, &export.Protected{Locked: true, Print: true}, e.Receipt.Protection)
	assert.Nil(t, e.Order.Passwords)
	path, _, err := a.Export.File(t.Context(), e.ID)
	require.NoError(t, err)
	assert.Contains(t, run(t, "pdfinfo", "-upw", "Bootshaus", path), "print:yes copy:no change:no addNotes:no algorithm:AES-256")
	assert.Contains(t, run(t, "pdftotext", "-opw", "Steuermann", path, "-"), "Larkmere")
	assert.Error(t, exec.Command("pdfinfo", path).Run())

	_, err = a.Export.Again(t.Context(), e.ID, nil)
	assert.ErrorContains(t, err, "Enter the password")
	again, err := a.Export.Again(t.Context(), e.ID, &export.Passwords{ToOpen: "Bootshaus 2"})
	require.NoError(t, err)
	assert.Equal(t, "done", waitFor(t, a, again.ID).State)
	pictures, err := a.Export.Start(t.Context(), id, export.ExportOrder{Make: export.JPEGs, DPI: 40})
	require.NoError(t, err, "pictures are not protected")
	assert.Equal(t, "done", waitFor(t, a, pictures.ID).State)
	parts, err := a.Export.Start(t.Context(), id, export.ExportOrder{Make: export.PDFPerPart, Passwords: &export.Passwords{ToOpen: "Bootshaus"}})
	require.NoError(t, err)
	assert.Empty(t, waitFor(t, a, parts.ID).Receipt.Differences)
	for _, password := range []string{"Bootshaus", "Steuermann"} {
		assert.Empty(t, filesWith(t, folder, password))
	}
}

// TestPartsKeepTheirNumbers makes a document of some pages, and one of each part.
func TestPartsKeepTheirNumbers(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "accounts.pdf", paper(t, "accounts.pdf"))
	addFinish(t, a, id)
	path, e := exportSized(t, a, id, export.ExportOrder{Range: "3, 6"})
	assert.Empty(t, e.Receipt.Differences)
	text := run(t, "pdftotext", path, "-")
	assert.Contains(t, text, "Page 2 of 6")
	assert.Contains(t, text, "Page 5 of 6")
	_, e = exportSized(t, a, id, export.ExportOrder{Make: export.PDFPerPart})
	assert.Empty(t, e.Receipt.Differences)
	assert.Len(t, e.Receipt.Files, 2)
}

// TestPagesWithAPrintedNumberGetNone numbers the pages of a form that says its page numbers, and of
// another paper.
func TestPagesWithAPrintedNumberGetNone(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "plan.pdf", paper(t, "site-plan.pdf"))
	seen(t, a, id)
	numbers := finish.Default().Numbers
	numbers.On, numbers.Printed, numbers.Style = true, true, finish.OfTotal
	apply(t, a, id, packet.Finish{Numbers: &numbers})
	shown, err := a.Export.Finished(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, 4, shown.Printed)
	require.Len(t, shown.Pages, 1)
	assert.Equal(t, get(t, a, id).Parts[1].Pages[0].ID, shown.Pages[0].Page)
	path, e := exportAsItIs(t, a, id)
	assert.Empty(t, e.Receipt.Differences)
	assert.Equal(t, 1, strings.Count(run(t, "pdftotext", path, "-"), "Page 1 of 1"))
}

// TestNamesOfFilesHaveFields fills them in, and makes the names good for all systems.
func TestNamesOfFilesHaveFields(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	apply(t, a, id, packet.Finish{Properties: &finish.Properties{Reference: "TVF/2026:118", Own: "Room: 4"}})
	apply(t, a, id, packet.SetReceiver{Receiver: &requirements.Receiver{Name: "Tarn Valley Fund"}})
	today := time.Now().Format(time.DateOnly)
	order := export.ExportOrder{Name: "{receiver} {reference} {date} {counter} {Room} {unknown}.pdf"}
	want := "Tarn Valley Fund TVF-2026-118 " + today + " %s 4 {unknown}.pdf"
	name, err := a.Export.FileName(t.Context(), id, order)
	require.NoError(t, err)
	assert.Equal(t, fmt.Sprintf(want, "001"), name)
	for _, number := range []string{"001", "002"} {
		started, err := a.Export.Start(t.Context(), id, order)
		require.NoError(t, err)
		assert.Equal(t, fmt.Sprintf(want, number), waitFor(t, a, started.ID).Name)
	}
	name, err = a.Export.FileName(t.Context(), id, export.ExportOrder{Name: "{time}", Make: export.JPEGs})
	require.NoError(t, err)
	assert.Regexp(t, `^\d{4}\.jpg$`, name)
	parts, err := a.Export.Start(t.Context(), id, export.ExportOrder{Make: export.PDFPerPart, Names: "{number} {part} {reference}"})
	require.NoError(t, err)
	assert.Equal(t, "done", waitFor(t, a, parts.ID).State)
}

func TestNonsenseIsNotAdded(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	numbers := finish.Default().Numbers
	numbers.From = 9
	_, err := a.Packets.Apply(t.Context(), id, get(t, a, id).Revision, packet.Commands{packet.Finish{Numbers: &numbers}})
	assert.ErrorContains(t, err, "from 1 to 4, not on 9")
	numbers.From, numbers.Skip = 1, "7-"
	_, err = a.Packets.Apply(t.Context(), id, get(t, a, id).Revision, packet.Commands{packet.Finish{Numbers: &numbers}})
	assert.Error(t, err)
	assert.False(t, get(t, a, id).Finish.Numbers.On)
}

// TestTextOnInkIsTold puts a number on the coloured head of a form, also where that is turned to
// the foot, and on empty paper.
func TestTextOnInkIsTold(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	seen(t, a, id)
	pages := get(t, a, id).Parts[0].Pages
	apply(t, a, id, packet.Turn{Selected: packet.On(pages[3].ID), By: 180}) // its foot is where its head was
	numbers := finish.Default().Numbers
	numbers.On = true
	for head, want := range map[bool][]int{true: {1, 2, 3}, false: {4}} {
		numbers.Head = head
		apply(t, a, id, packet.Finish{Numbers: &numbers})
		shown, err := a.Export.Finished(t.Context(), id)
		require.NoError(t, err)
		var told []int
		for _, misfit := range shown.Misfits {
			assert.Contains(t, misfit.Sentence.English, "the page number lies on what is on the page")
			told = append(told, misfit.Page)
		}
		assert.Equal(t, want, told, "at the head: %t", head)
	}
}

// TestMarksStandWhereTheViewShowsThem has PDFium draw 40 awkward pages with a ruled header and
// numbers, all red: the ink is where the view was told that it is, to half a millimetre.
func TestMarksStandWhereTheViewShowsThem(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	for n := range 8 {
		add(t, a, id, fmt.Sprintf("awkward %d.pdf", n), append(pdftest.Awkward(), byte('0'+n)))
	}
	for _, act := range []packet.Command{
		packet.Turn{Selected: packet.InRange("part 2"), By: 90}, packet.Turn{Selected: packet.InRange("part 3"), By: 180},
		packet.Flip{Selected: packet.InRange("part 4"), Axis: "leftRight"},
		packet.Straighten{Selected: packet.InRange("part 5"), Angle: 3},
		packet.Crop{Selected: packet.InRange("part 6"), Box: &geometry.Box{X0: 30, Y0: 20, X1: 250, Y1: 190}},
		packet.Fit{Selected: packet.InRange("part 7"), Fit: &geometry.SheetLayout{Paper: geometry.A4, Scale: geometry.Shrink, Across: 0.5, Down: 0.5}},
		packet.Turn{Selected: packet.InRange("part 8"), By: 270},
	} {
		apply(t, a, id, act)
	}
	f := finish.Default()
	f.Numbers.On, f.Numbers.Colour = true, "#ff0000"
	f.Header.On, f.Header.Rule, f.Header.Colour, f.Header.Texts = true, true, "#ff0000", finish.Texts{Left: "Head"}
	apply(t, a, id, packet.Finish{Numbers: &f.Numbers, Header: &f.Header})
	shown, err := a.Export.Finished(t.Context(), id)
	require.NoError(t, err)
	require.Len(t, shown.Pages, 40)
	const dpi = 200
	path, e := exportSized(t, a, id, export.ExportOrder{Make: export.PNGs, DPI: dpi})
	require.Empty(t, e.Receipt.Differences)
	packed, err := zip.OpenReader(path)
	require.NoError(t, err)
	defer packed.Close() //nolint:errcheck // only read from
	for i, entry := range packed.File {
		in, err := entry.Open()
		require.NoError(t, err)
		img, err := png.Decode(in)
		require.NoError(t, err)
		assertRedInk(t, img, marksOf(shown, i), dpi/72.0, fmt.Sprintf("page %d", i+1))
	}
}

// marksOf are the marks of a page that is shown with some.
func marksOf(shown export.Finished, page int) (marks []finish.Mark) {
	for _, place := range shown.Pages[page].Marks {
		marks = append(marks, shown.Marks[place])
	}
	return marks
}

// assertRedInk checks that all red of a picture is within half a millimetre of the boxes of marks,
// that all of them have some, and that rules end where they should.
func assertRedInk(t *testing.T, img image.Image, marks []finish.Mark, scale float64, where string) {
	t.Helper()
	const tolerance = 0.5 / 25.4 * 72
	ink := make([]geometry.Box, len(marks))
	for y := img.Bounds().Min.Y; y < img.Bounds().Max.Y; y++ {
		for x := img.Bounds().Min.X; x < img.Bounds().Max.X; x++ {
			r, g, b, _ := img.At(x, y).RGBA()
			if r < 0xC000 || g > 0x8000 || b > 0x8000 {
				continue
			}
			at := geometry.Box{X0: float64(x) / scale, Y0: float64(y) / scale, X1: float64(x+1) / scale, Y1: float64(y+1) / scale}
			of := slices.IndexFunc(marks, func(mark finish.Mark) bool {
				box := mark.Box().Grown(tolerance)
				return at.X0 >= box.X0 && at.X1 <= box.X1 && at.Y0 >= box.Y0 && at.Y1 <= box.Y1
			})
			if of < 0 {
				t.Errorf("%s: ink at %v, far from every mark", where, at)
				return
			}
			if ink[of].X1 == 0 {
				ink[of] = at
			}
			ink[of] = ink[of].Union(at)
		}
	}
	for i, mark := range marks {
		assert.Positive(t, ink[i].X1, "%s: %s", where, mark.Kind)
		if mark.Rule {
			assert.InDelta(t, mark.Box().X0, ink[i].X0, tolerance, "%s: left of the rule", where)
			assert.InDelta(t, mark.Box().X1, ink[i].X1, tolerance, "%s: right of the rule", where)
		}
	}
}
