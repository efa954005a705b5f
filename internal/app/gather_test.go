package app_test

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/gather"
	"dorbin/internal/intake"
	"dorbin/internal/intake/tiff"
	"dorbin/internal/packets"
	"dorbin/internal/sampling"
)

func addAt(t *testing.T, a *app.App, id, name string, placement gather.Placement, data []byte) gather.Outcome {
	t.Helper()
	outcome, err := a.Gather.AddFile(t.Context(), id, name, placement, bytes.NewReader(data))
	require.NoError(t, err)
	return outcome
}

// laidOut writes a packet as "A 1 2 | B 1": source names without extension and
// the numbers of their pages, by part.
func laidOut(p packets.Packet) string {
	names := map[packet.SourceID]string{}
	for _, source := range p.Sources {
		names[source.ID] = strings.TrimSuffix(source.Name, ".pdf")
	}
	var parts []string
	for _, part := range p.Parts {
		var words []string
		for _, page := range part.Pages {
			words = append(words, names[page.Source]+string(rune('0'+page.SourcePage)))
		}
		parts = append(parts, strings.Join(words, " "))
	}
	return strings.Join(parts, " | ")
}

func TestFilesComeInWhereTheyAreWished(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	four, three := paper(t, "application-form.pdf"), paper(t, "accounts.pdf")
	for place, want := range map[string]string{
		"":              "F1 F2 F3 F4 | N1 N2 N3",
		"end":           "F1 F2 F3 F4 | N1 N2 N3",
		"start":         "N1 N2 N3 | F1 F2 F3 F4",
		"intake":        "F1 F2 F3 F4",
		"after:p2":      "F1 N1 N2 N3 F2 F3 F4",
		"before:p2":     "N1 N2 N3 F1 F2 F3 F4",
		"part:s1":       "F1 F2 F3 F4 N1 N2 N3",
		"replace:p3":    "F1 N1 N2 N3 F3 F4",
		"replace:p2,p5": "N1 N2 N3 F2 F3",
		"after:p99":     "F1 F2 F3 F4 | N1 N2 N3",
	} {
		a := newApp(t)
		id := newPacket(t, a)
		addAt(t, a, id, "F.pdf", gather.Placement{}, four)
		outcome := addAt(t, a, id, "N.pdf", gather.Placement{Place: place}, three)
		assert.Equal(t, "added", outcome.Result, place)
		assert.Equal(t, want, laidOut(get(t, a, id)), place)
		if place == "after:p99" {
			assert.Contains(t, outcome.Sentence.English, "at the end")
		}
		if place == "replace:p2,p5" {
			assert.Len(t, get(t, a, id).SetAside, 2)
		}
	}
}

func TestSomePagesOfAFile(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	form := paper(t, "application-form.pdf")
	outcome := addAt(t, a, id, "F.pdf", gather.Placement{Pages: "last, 1-2"}, form)
	assert.Len(t, outcome.Pages, 3)
	assert.Equal(t, "F4 F1 F2", laidOut(get(t, a, id)))

	again := addAt(t, a, id, "F.pdf", gather.Placement{Place: "after:" + string(outcome.Pages[0]), Pages: "3"}, form)
	assert.Equal(t, "added", again.Result, "the same file, at a place that was named")
	assert.Equal(t, "F4 F3 F1 F2", laidOut(get(t, a, id)))
	assert.Len(t, get(t, a, id).Sources, 1, "it is stored once")
	assert.Equal(t, "duplicate", addAt(t, a, id, "F.pdf", gather.Placement{}, form).Result)

	other := newPacket(t, a)
	addAt(t, a, other, "F.pdf", gather.Placement{Title: "Forms"}, form)
	assert.Equal(t, "Forms", get(t, a, other).Parts[0].Title)
	_, err := a.Gather.AddFile(t.Context(), id, "F.pdf", gather.Placement{Title: strings.Repeat("x", 201)}, bytes.NewReader(form))
	require.ErrorIs(t, err, problem.Invalid)

	refused := addAt(t, a, id, "A.pdf", gather.Placement{Pages: "1, 9"}, paper(t, "accounts.pdf"))
	assert.Equal(t, "refused", refused.Result)
	assert.Equal(t, intake.BadRange, refused.Reason)
	assert.Contains(t, refused.Sentence.English, "A.pdf was not added. There is no page 9: there are 3.")
	assert.Len(t, get(t, a, id).Sources, 1)

	for _, place := range []string{"nowhere", "after:", "after", "end:p1"} {
		_, err := a.Gather.AddFile(t.Context(), id, "x.pdf", gather.Placement{Place: place}, bytes.NewReader(form))
		assert.ErrorIs(t, err, problem.Invalid, place)
	}
}

func TestASourceIsTakenOutAndComesBack(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	form := paper(t, "application-form.pdf")
	outcome := addAt(t, a, id, "F.pdf", gather.Placement{}, form)
	p := apply(t, a, id, packet.RemoveSource{Source: *outcome.Source})
	assert.Empty(t, p.Sources)
	assert.Empty(t, p.Parts)
	p = undo(t, a, id)
	assert.Equal(t, "F1 F2 F3 F4", laidOut(p))
	apply(t, a, id, packet.RemoveSource{Source: *outcome.Source})
	again := addAt(t, a, id, "F.pdf", gather.Placement{}, form)
	assert.Equal(t, "added", again.Result, "what was taken out can be added again")
	assert.Len(t, get(t, a, id).Sources, 1)
}

// TestALockedFileIsPlacedWhereItWasWished also when it is opened later.
func TestALockedFileIsPlacedWhereItWasWished(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	addAt(t, a, id, "F.pdf", gather.Placement{}, paper(t, "application-form.pdf"))
	locked := protected(t, paper(t, "accounts.pdf"), "secret")
	outcome := addAt(t, a, id, "N.pdf", gather.Placement{Place: "after:p2", Pages: "2-3"}, locked)
	require.Equal(t, "locked", outcome.Result)
	_, err := a.Gather.Unlock(t.Context(), id, string(*outcome.Source), "secret")
	require.NoError(t, err)
	assert.Equal(t, "F1 N2 N3 F2 F3 F4", laidOut(get(t, a, id)))

	other := newPacket(t, a)
	assert.Equal(t, "added", addAt(t, a, other, "N.pdf", gather.Placement{Password: "secret"}, locked).Result, "the password may come along")
	assert.Equal(t, "locked", addAt(t, a, newPacket(t, a), "N.pdf", gather.Placement{Password: "wrong"}, locked).Result)
}

func TestAPaperInAPhotographIsLaidFlatInAStepOfItsOwn(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "insurance.jpg", paper(t, "insurance.jpg"))
	page := get(t, a, id).Parts[0].Pages[0]
	require.NotNil(t, page.Paper)
	assert.InDelta(t, geometry.A4.Width, page.Width, 0.01)
	assert.InDelta(t, geometry.A4.Height, page.Height, 0.01)
	p := undo(t, a, id)
	assert.Nil(t, p.Parts[0].Pages[0].Paper, "the picture is placed still")

	other := newPacket(t, a)
	add(t, a, other, "roof-1.jpg", paper(t, "roof-1.jpg"))
	assert.Nil(t, get(t, a, other).Parts[0].Pages[0].Paper, "a photograph of a roof holds no paper")
}

func TestFacingPagesAreNoticedAndCut(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "minute-book.jpg", paper(t, "minute-book.jpg"))
	p := get(t, a, id)
	page := p.Parts[0].Pages[0]
	found, err := a.Checking.Findings(t.Context(), id)
	require.NoError(t, err)
	assert.Contains(t, found.Findings, check.Finding{
		Kind: check.Facing, Page: page.ID, Key: found.Findings[0].Key, Sentence: message.Of("Page %d shows two facing pages", 1),
	}, "at once, before the page is analysed")
	papers, err := a.Gather.FindPapers(t.Context(), string(page.Source), 1, *page.Paper)
	require.NoError(t, err)
	require.NotNil(t, papers.Fold)
	assert.InDelta(t, 0.5, papers.Fold.Top, 0.01)
	p = apply(t, a, id, packet.Cut{Selected: packet.On(page.ID), Fold: *papers.Fold})
	require.Len(t, p.Parts[0].Pages, 2)
	left, right := p.Parts[0].Pages[0], p.Parts[0].Pages[1]
	assert.InDelta(t, 170.0/240, left.Width/left.Height, 0.03)
	assert.Equal(t, left.Paper[1], right.Paper[0])
	picture := decoded(t, func() (string, error) { return a.Packets.PagePicture(t.Context(), id, left.ID, 480) })
	assert.InDelta(t, left.Width/left.Height, float64(picture.Bounds().Dx())/float64(picture.Bounds().Dy()), 0.01)
}

// TestAdjustedPagesAreWrittenAsTheyLook has poppler look at the export: sizes,
// kinds of images, and where what is dark ended up.
func TestAdjustedPagesAreWrittenAsTheyLook(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "insurance.jpg", paper(t, "insurance.jpg"))
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	dark := image.NewRGBA(image.Rect(0, 0, 200, 100)) // dark at the left, reddish at the right
	for y := range 100 {
		for x := range 200 {
			dark.SetRGBA(x, y, color.RGBA{uint8(min(255, 20+x)), uint8(min(200, 20+x)), uint8(min(180, 20+x)), 255})
		}
	}
	var scan bytes.Buffer
	require.NoError(t, jpeg.Encode(&scan, dark, nil))
	add(t, a, id, "mirror.jpg", scan.Bytes())
	p := get(t, a, id)
	certificate, words, flipped := p.Parts[0].Pages[0].ID, p.Parts[1].Pages[0].ID, p.Parts[2].Pages[0].ID
	apply(t, a, id,
		packet.Tone{Selected: packet.On(certificate), Tone: raster.Tone{Mode: raster.BlackWhite}},
		packet.Tone{Selected: packet.On(words), Tone: raster.Tone{Mode: raster.GrayTone}},
		packet.Flip{Selected: packet.On(flipped), Axis: "leftRight"},
		packet.Turn{Selected: packet.On(flipped), By: 180})
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Empty(t, e.Receipt.Differences)
	images := strings.Split(run(t, "pdfimages", "-list", path), "\n")
	assert.Regexp(t, `^ +1 .* gray +1 +1 +jbig2`, images[2], "black-and-white is one bit")
	assert.Regexp(t, `^ +2 .* gray +1 +8 +jpeg`, images[3], "grey is grey")
	assert.Regexp(t, `^ +6 .* (rgb|icc) +3 +8 +jpeg`, images[4], "a flip does not touch the file's own data")
	assert.Regexp(t, `Page +1 size: +595\.2\d* x 841`, run(t, "pdfinfo", "-l", "-1", path))
	assert.NotContains(t, run(t, "pdftotext", "-l", "2", path, "-"), "Tarn Valley", "a page with a tone is a picture")
	assert.Contains(t, run(t, "pdftotext", "-f", "3", path, "-"), "Tarn Valley")
	drawn := popplerPage(t, path, 6)
	assert.Less(t, drawn.GrayAt(10, 10).Y, uint8(70), "flipped, then turned: dark at the left again")
	assert.Greater(t, drawn.GrayAt(drawn.Rect.Dx()-10, 10).Y, uint8(150))
}

func TestATornPhotographComesInWithItsDamageTold(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	data := paper(t, "roof-2.jpg")
	outcome := add(t, a, id, "roof.jpg", data[:len(data)/2])
	assert.Equal(t, "added", outcome.Result)
	source := get(t, a, id).Sources[0]
	assert.Regexp(t, `^roof\.jpg breaks off: only the upper \d\d % of the picture is there`, source.Damage.English)
	_, e := exportAsItIs(t, a, id)
	assert.Equal(t, "done", e.State, e.Problem)
}

func TestATextDocumentComesInAsPages(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	outcome := add(t, a, id, "letter.rtf", []byte(`{\rtf1\ansi Dear fund,\par Larkmere needs a roof.\page Second page}`))
	require.Equal(t, "added", outcome.Result, outcome.Sentence)
	source := get(t, a, id).Sources[0]
	assert.Equal(t, "office", source.Kind)
	assert.Equal(t, 2, source.PageCount)
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Contains(t, run(t, "pdftotext", path, "-"), "needs a roof")
}

// TestFacingPagesOfAScanAreFoundLater adds a scan of two facing pages: it is not decoded while it
// is uploaded, and the finding comes when it comes.
func TestFacingPagesOfAScanAreFoundLater(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	book, err := jpeg.Decode(bytes.NewReader(paper(t, "minute-book.jpg")))
	require.NoError(t, err)
	var data, scan bytes.Buffer
	require.NoError(t, jpeg.Encode(&data, book, nil))
	require.NoError(t, tiff.Write(&scan, 1, func(int) (tiff.Encoded, error) {
		return tiff.EncodeJPEG(data.Bytes(), book.Bounds().Dx(), book.Bounds().Dy(), 3, 300), nil
	}))
	add(t, a, id, "minute-book.tif", scan.Bytes())
	await.Until(t, func() bool {
		findings, err := a.Checking.Findings(t.Context(), id)
		require.NoError(t, err)
		return slices.ContainsFunc(findings.Findings, func(f check.Finding) bool { return f.Kind == check.Facing })
	})
}
