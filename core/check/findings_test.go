package check

import (
	"fmt"
	"image"
	"image/color"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/raster"
)

// paper is a packet of one part per row of signs, each of a source of its own.
func paper(t testing.TB, signs ...[]PageAnalysis) (packet.Packet, Known) {
	t.Helper()
	known := Known{
		Analysis: func(source packet.SourceID, page int) (PageAnalysis, bool) {
			var n int
			_, err := fmt.Sscanf(string(source), "f%d", &n)
			if err != nil {
				return PageAnalysis{}, false
			}
			return signs[n][page-1], true
		},
		Sources: []Source{{ID: "f0", Name: "survey.tif", PageCount: len(signs[0])}},
	}
	rules := packet.Known{Source: func(source packet.SourceID) (packet.Source, bool) {
		var n int
		_, err := fmt.Sscanf(string(source), "f%d", &n)
		pages := make([]packet.SourcePage, len(signs[n]))
		for i := range pages {
			pages[i].Size = geometry.A4
		}
		return packet.Source{Pages: pages}, err == nil
	}}
	var commands []packet.Command
	for n := range signs {
		commands = append(commands, packet.Place{Source: packet.SourceID(fmt.Sprint("f", n)), Title: "Part"})
	}
	p, _, err := packet.Apply(packet.New("x"), commands, rules)
	require.NoError(t, err)
	return p, known
}

func change(t *testing.T, p packet.Packet, commands ...packet.Command) packet.Packet {
	t.Helper()
	p, _, err := packet.Apply(p, commands, packet.Known{})
	require.NoError(t, err)
	return p
}

// written are the signs of an ordinary page that bears these numbers.
func written(number, of int) PageAnalysis {
	return PageAnalysis{Ink: 0.05, Text: fmt.Sprint("text ", number, of), Standing: raster.Standing{Sure: 1}, Printed: Printed{number, of}}
}

func sentences(findings []Finding) []string {
	out := []string{}
	for _, f := range findings {
		out = append(out, f.Sentence.English)
	}
	return out
}

func TestStandingIsJudgedAsThePageIsTurned(t *testing.T) {
	lying, scanned, unsure, plain := written(0, 0), PageAnalysis{Ink: 0.05}, PageAnalysis{Ink: 0.05}, written(0, 0)
	lying.Standing.Turn = 90
	scanned.Standing = raster.Standing{Turn: 180, Sure: 0.7}
	p, known := paper(t, []PageAnalysis{lying, scanned, unsure, plain})
	assert.Equal(t, []string{"Page 1 lies on its side", "Page 2 seems to be upside down"}, sentences(Check(p, known)))
	p = change(t, p, packet.Turn{Selected: packet.InRange("all"), By: 90})
	found := Check(p, known)
	assert.Equal(t, []string{"Page 2 seems to lie on its side", "Page 4 lies on its side"}, sentences(found))
	for _, f := range found {
		p = change(t, p, f.Settle...)
	}
	assert.Empty(t, Check(p, known))
}

func TestBlankPages(t *testing.T) {
	p, known := paper(t, []PageAnalysis{{Ink: 0}, {Ink: 0.0009}, written(0, 0)})
	found := Check(p, known)
	assert.Equal(t, []string{"Page 1 is blank", "Page 2 is nearly blank"}, sentences(found))
	p = change(t, p, found[0].Settle...)
	assert.Equal(t, []string{"Page 1 is nearly blank"}, sentences(Check(p, known)))
}

func TestPrintedNumbers(t *testing.T) {
	n := written
	for name, c := range map[string]struct {
		pages []PageAnalysis
		want  []string
	}{
		"in order":      {[]PageAnalysis{n(1, 4), n(2, 4), n(3, 4), n(4, 4)}, []string{}},
		"from anywhere": {[]PageAnalysis{n(7, 0), n(8, 0), n(0, 0), n(10, 0)}, []string{}},
		"gap": {[]PageAnalysis{n(1, 0), n(2, 0), n(5, 0)},
			[]string{"Before page 3, which bears the number 5, 2 pages seem to be missing: the one before bears 2"}},
		"end": {[]PageAnalysis{n(1, 3), n(2, 3)}, []string{"After page 2, which bears the number 2 of 3, a page seems to be missing"}},
		"swapped": {[]PageAnalysis{n(1, 0), n(2, 0), n(4, 0), n(3, 0), n(5, 0)},
			[]string{"Page 4 bears the number 3 but comes after number 4"}},
		"two papers":         {[]PageAnalysis{n(1, 2), n(2, 2), n(1, 2), n(2, 2)}, []string{}},
		"two papers unlike":  {[]PageAnalysis{n(1, 2), n(2, 2), n(3, 4), n(4, 4)}, []string{}},
		"one number is none": {[]PageAnalysis{n(0, 0), n(12, 0), n(0, 0)}, []string{}},
	} {
		t.Run(name, func(t *testing.T) {
			p, known := paper(t, c.pages)
			found := Check(p, known)
			assert.Equal(t, c.want, sentences(found))
			if name == "swapped" {
				assert.Empty(t, Check(change(t, p, found[0].Settle...), known))
			}
		})
	}
}

func TestCopiesAndPagesPlacedTwice(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	picture := func() raster.Miniature {
		img := image.NewGray(image.Rect(0, 0, 320, 320))
		for i := range img.Pix {
			img.Pix[i] = uint8(random.IntN(2) * 255)
		}
		for y := range 320 {
			for x := range 320 {
				img.SetGray(x, y, color.Gray{Y: img.GrayAt(x/40*40, y/40*40).Y})
			}
		}
		return raster.NewMiniature(img)
	}
	one, other := picture(), picture()
	scan := func(m raster.Miniature) PageAnalysis { return PageAnalysis{Ink: 0.1, Miniature: m} }
	read := func(m raster.Miniature, text string) PageAnalysis {
		return PageAnalysis{Ink: 0.1, Miniature: m, Text: text, Standing: raster.Standing{Sure: 1}}
	}
	p, known := paper(t, []PageAnalysis{scan(one), scan(other), scan(one.Turned(180)), read(other, "a"), read(other, "b"), read(other, "a")})
	p = change(t, p, packet.Duplicate{Selected: packet.InRange("1")})
	assert.Equal(t, []string{
		"Page 2 is the same page as page 1",
		"Page 7 may be the same as page 5",
	}, sentences(Check(p, known)), "page 6 reads otherwise than page 5; the ink of scans was not compared yet")
	pairs := SurveyOf(p, known).AlikeScans()
	require.Len(t, pairs, 1)
	assert.Equal(t, []int{1, 3, 180}, append([]int{pairs[0].First.Page, pairs[0].Second.Page}, pairs[0].Turns...))
	known.SameInk = func(Pair) (same, known bool) { return false, true }
	assert.NotContains(t, sentences(Check(p, known)), "Page 4 may be the same as page 1", "their ink differs")
	known.SameInk = func(Pair) (same, known bool) { return true, true }
	assert.Contains(t, sentences(Check(p, known)), "Page 4 may be the same as page 1")
	asked := 0
	known.Remember = func(_ string, make func() []raster.Twin) []raster.Twin { asked++; return make() }
	moved := change(t, p, packet.Reverse{Selected: packet.InRange("all")})
	assert.Contains(t, sentences(Check(moved, known)), "Page 6 may be the same as page 4")
	assert.Equal(t, 1, asked)
}

// BenchmarkCheck checks a packet of 2,000 scans whose twins are known, as after
// every command.
func BenchmarkCheck(b *testing.B) {
	for name, remembered := range map[string]bool{"the first time": false, "again": true} {
		b.Run(name, func(b *testing.B) {
			random := rand.New(rand.NewPCG(5, 5))
			signs := make([]PageAnalysis, 2000)
			for i := range signs {
				signs[i] = PageAnalysis{Ink: 0.1, Miniature: make(raster.Miniature, 1024)}
				for cell := range signs[i].Miniature {
					signs[i].Miniature[cell] = int8(random.IntN(40) - 20 + cell/64) // alike in the large
				}
			}
			p, known := paper(b, signs)
			if remembered {
				var twins []raster.Twin
				known.Remember = func(_ string, find func() []raster.Twin) []raster.Twin {
					if twins == nil {
						twins = append([]raster.Twin{}, find()...)
					}
					return twins
				}
				Check(p, known)
			}
			for b.Loop() {
				Check(p, known)
			}
		})
	}
}

func TestCropsThroughWhatIsOnAPage(t *testing.T) {
	full := written(0, 0)
	full.Content = geometry.Box{X0: 60, Y0: 50, X1: 500, Y1: 700}
	p, known := paper(t, []PageAnalysis{full, full, {Ink: 0.1}})
	narrow, wide := geometry.Box{X0: 100, Y0: 40, X1: 520, Y1: 720}, geometry.Box{X0: 50, Y0: 40, X1: 520, Y1: 720}
	ids := []packet.PageID{p.Pages()[0].ID, p.Pages()[1].ID, p.Pages()[2].ID}
	p = change(t, p,
		packet.Turn{Selected: packet.On(ids[:1]...), By: 90},
		packet.Crop{Boxes: map[packet.PageID]geometry.Box{ids[0]: {X0: 150, Y0: 100, X1: 800, Y1: 500}, ids[1]: wide, ids[2]: narrow}})
	var found []Finding
	for _, f := range Check(p, known) {
		if f.Kind == Cut {
			found = append(found, f)
		}
	}
	require.Equal(t, []string{"Page 1 is cropped through what is on it"}, sentences(found))
	mended := change(t, p, found[0].Settle...)
	assert.Greater(t, mended.Pages()[0].Size().Width, p.Pages()[0].Size().Width)
	for _, f := range Check(mended, known) {
		assert.NotEqual(t, Cut, f.Kind, f.Sentence)
	}
}

func TestCounts(t *testing.T) {
	p, known := paper(t, []PageAnalysis{written(0, 0), written(0, 0)})
	known.Sources[0].Expected = 3
	p = change(t, p, packet.Expect{Count: 1})
	assert.Equal(t, []string{
		"There are 2 pages, and there should be 1: 1 too many",
		"The sheets scanned as survey.tif should have made 3 pages, and there are 2: 1 missing",
	}, sentences(Check(p, known)))
}

func TestSizesUnlikeTheOthers(t *testing.T) {
	p, known := paper(t, []PageAnalysis{written(0, 0), written(0, 0), written(0, 0), written(0, 0)})
	p = change(t, p, packet.InsertBlank{Size: geometry.A3, Destination: packet.Destination{Part: p.Parts[0].ID}})
	found := Check(p, known)
	assert.Equal(t, []string{"Page 5 is A3, most are A4"}, sentences(found))
	assert.Empty(t, Check(change(t, p, found[0].Settle...), known))
	p = change(t, p, packet.InsertBlank{Size: geometry.Size{Width: 300, Height: 200}, Destination: packet.Destination{Part: p.Parts[0].ID}})
	mixture := Check(p, known)
	require.Equal(t, []string{"The pages are of 3 sizes: 4 A4, 1 A3, 1 of 71 × 106 mm"}, sentences(mixture))
	fitted := change(t, p, mixture[0].Settle...)
	assert.Empty(t, Check(fitted, known))
	assert.True(t, fitted.Pages()[5].IsLandscape(), "a page that lies is fitted to a paper that lies")
}

func TestPagesThatLean(t *testing.T) {
	signs := make([]PageAnalysis, 4)
	for i, angle := range []float64{1.234, -0.2, 0.2, 5} {
		signs[i] = written(0, 0)
		signs[i].Text += fmt.Sprint(i)
		signs[i].Tilt = raster.Tilt{Angle: angle, Sure: 2 * raster.SureTilt}
	}
	signs[3].Tilt.Sure = raster.SureTilt - 1
	p, known := paper(t, signs)
	found := Check(p, known)
	require.Equal(t, []string{"Page 1 leans by 1.2°"}, sentences(found))
	mended := change(t, p, found[0].Settle...)
	assert.InDelta(t, -1.23, mended.Pages()[0].Straighten, 1e-9)
	assert.Empty(t, Check(mended, known))
	over := change(t, p, packet.Straighten{Selected: packet.On(p.Pages()[1].ID), Angle: 1})
	assert.Len(t, Check(over, known), 2, "a page that was level leans once it is turned")
}

func TestLookTellsTextFromScans(t *testing.T) {
	page := image.NewGray(image.Rect(0, 0, 400, 600))
	lines := "Report of the surveyor\nThe foundation of the north wall was found to be dry and sound.\nPage 3 of 9"
	signs := Analyze(page, Text{Lines: lines, Turn: 90, Share: 0.9}, geometry.A4)
	assert.Equal(t, Printed{3, 9}, signs.Printed)
	assert.Equal(t, 90, signs.Standing.Turn)
	assert.NotEmpty(t, signs.Text)
	assert.Empty(t, Analyze(page, Text{Lines: "Page 3"}, geometry.A4).Text, "a stamp is not a page's text")
}
