package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/internal/app"
	"dorbin/internal/export"
)

// addFinish adds page numbers from page 2 on, a header, properties and an opening.
func addFinish(t *testing.T, a *app.App, id string) {
	t.Helper()
	f := finish.Default()
	f.Numbers.On, f.Numbers.From, f.Numbers.Style = true, 2, finish.OfTotal
	f.Header = finish.Line{On: true, Left: "{packet}", Right: "Ref. TVF-2026", Rule: true, Writing: f.Header.Writing}
	f.Properties = finish.Properties{On: true, Author: "Larkmere Rowing Club", Subject: "Boathouse roof"}
	f.Opening.On = true
	apply(t, a, id, packet.Finish{Numbers: &f.Numbers, Header: &f.Header, Properties: &f.Properties, Opening: &f.Opening})
}

// TestWhatIsAddedIsInTheDocument exports pages of all kinds, cropped and turned, with what is
// added to them, and has poppler and qpdf find it.
func TestWhatIsAddedIsInTheDocument(t *testing.T) {
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
	require.Eventually(t, func() bool {
		e, err = a.Export.Get(t.Context(), e.ID)
		return err == nil && e.Receipt.Compared != nil && *e.Receipt.Compared == 6
	}, time.Minute, 20*time.Millisecond)
	assert.Empty(t, e.Receipt.Differences, "what is added is no difference from the bench")
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

// TestPartsKeepTheirNumbers makes a document of some pages, and one of each part.
func TestPartsKeepTheirNumbers(t *testing.T) {
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

func TestNonsenseIsNotAdded(t *testing.T) {
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
			assert.Contains(t, misfit.Sentence, "the page number lies on what is on the page")
			told = append(told, misfit.Page)
		}
		assert.Equal(t, want, told, "at the head: %t", head)
	}
}
