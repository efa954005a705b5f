package text

import (
	"math"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

// pageOf has a line for each of the given, whose words follow each other 4 points apart.
func pageOf(lines ...string) Page {
	var p Page
	for i, words := range lines {
		line := Line{At: geometry.Point{X: 50, Y: 80 + 14*float64(i)}, Size: 11, Paragraph: 1}
		at := 0.0
		for word := range strings.FieldsSeq(words) {
			width := 5 * float64(utf8.RuneCountInString(word))
			line.Words = append(line.Words, Word{Text: word, X: at, Width: width, Sure: 90})
			at += width + 4
		}
		p.Lines = append(p.Lines, line)
	}
	return p
}

func TestFold(t *testing.T) {
	for in, want := range map[string]string{
		"Öffentliche  ORDNUNG": "offentliche ordnung",
		"naïve café":           "naive cafe",
		"ﬁnal":                 "final",
		"Straße":               "strasse",
		"well-known":           "wellknown",
		"soft\u00adly":         "softly",
		"“Quoted” ‘it’s’":      "\"quoted\" 'it's'",
		"  ":                   "",
		"Στέγη":                "στεγη",
		"１２３":                  "123",
	} {
		assert.Equal(t, want, Fold(in), in)
	}
}

func TestFindingDoesNotMindAccentsCapitalsAndDividedWords(t *testing.T) {
	p := pageOf("The boat-", "house roof of the Öffent-", "liche Hand is to be re-", "Slated in 2026.")
	x := IndexOf(p)
	for query, want := range map[string][]Match{
		"boathouse":         {{1, 2}},
		"BOATHOUSE ROOF":    {{1, 3}},
		"the":               {{0, 0}, {5, 5}},
		"offentliche":       {{6, 7}},
		"Öffentliche hand":  {{6, 8}},
		"slated":            {{13, 13}},
		"house":             {{2, 2}},
		"2026.":             {{15, 15}},
		"no such":           nil,
		"":                  nil,
		"roof  of":          {{3, 4}},
		"of the of the the": nil,
	} {
		assert.Equal(t, want, x.Find(Fold(query)), query)
		assert.Equal(t, len(want), Count(x.Folded, Fold(query)), query)
	}
}

func TestScriptsWithoutSpacesAreFoundAcrossWords(t *testing.T) {
	x := IndexOf(pageOf("修理 船 屋 的 屋顶"))
	assert.Equal(t, []Match{{1, 2}}, x.Find(Fold("船屋")))
	assert.Equal(t, "修理船屋的屋顶", pageOf("修理 船 屋 的 屋顶").String())
}

func TestTextAsItIsWritten(t *testing.T) {
	p := pageOf("Dear committee,", "thank you.")
	p.Lines = append(p.Lines, pageOf("With good wishes").Lines...)
	p.Lines[2].Paragraph = 2
	assert.Equal(t, "Dear committee,\nthank you.\n\nWith good wishes", p.String())
	assert.Equal(t, 7, p.WordCount())
}

// TestMappingMovesCornersAsPoints turns, moves and scales a page, and maps it back.
func TestMappingMovesCornersAsPoints(t *testing.T) {
	p := pageOf("Repair of the roof", "in summer")
	p.Lines[1].Angle, p.Lines[1].Words[0].Size = 3, 20
	for _, m := range []geometry.Affine{
		geometry.Identity,
		geometry.Framing{Flat: geometry.A4, Turn: 90}.Transform(),
		geometry.Framing{Flat: geometry.A4, Turn: 270, Straighten: 2.5}.Transform(),
		geometry.Scaling(0.4, 0.4).Then(geometry.Translation(30, -7)),
	} {
		mapped := p.Mapped(m)
		for i, line := range p.Lines {
			for j, word := range line.Words {
				got := mapped.Lines[i].Corners(mapped.Lines[i].Words[j])
				for c, corner := range line.Corners(word) {
					x, y := m.Apply(corner.X, corner.Y)
					assert.InDelta(t, x, got[c].X, 1e-9)
					assert.InDelta(t, y, got[c].Y, 1e-9)
				}
			}
		}
		back := mapped.Mapped(m.Inverse())
		for i := range p.Lines {
			assert.InDelta(t, p.Lines[i].At.X, back.Lines[i].At.X, 1e-9)
			assert.InDelta(t, p.Lines[i].Angle, back.Lines[i].Angle, 1e-9)
		}
	}
	assert.InDelta(t, 90, p.Mapped(geometry.Rotation(90)).Lines[0].Angle, 0)
}

func TestOnlyTheWordsThatAreKept(t *testing.T) {
	p := pageOf("left right", "left")
	kept := p.Only(func(middle geometry.Point) bool { return middle.X > 70 })
	assert.Equal(t, "right", kept.String())
	assert.Equal(t, "left right\nleft", p.String(), "the page itself stays")
}

func TestNoiseIsNoText(t *testing.T) {
	p := pageOf("Repair of the roof", "~ — .", "xq ij", "page 3")
	for i, sure := range []int{90, 10, 20, 60} {
		for j := range p.Lines[i].Words {
			p.Lines[i].Words[j].Sure = sure
		}
	}
	assert.Equal(t, "Repair of the roof\npage 3", WithoutNoise(p).String())
}

func FuzzFind(f *testing.F) {
	f.Add("The boat-\nhouse roof", "boathouse")
	f.Add("ﬁn ß\u00ad é", "e")
	f.Add("修 理\nab-\nc", "理ab")
	f.Fuzz(func(t *testing.T, written, query string) {
		p := pageOf(strings.Split(written, "\n")...)
		x, folded := IndexOf(p), Fold(query)
		assert.Equal(t, folded, Fold(folded), "folding once is enough")
		matches := x.Find(folded)
		require.Len(t, matches, Count(x.Folded, folded))
		last := 0
		for _, m := range matches {
			assert.LessOrEqual(t, m.First, m.Last)
			assert.GreaterOrEqual(t, m.First, last)
			assert.Less(t, m.Last, max(1, p.WordCount()))
			last = m.First
		}
		assert.False(t, math.IsNaN(p.Mapped(geometry.Rotation(30)).Lines[0].At.X))
	})
}

func TestTurnByWhichMostWordsStandUpright(t *testing.T) {
	p := pageOf("one two three", "four")
	for angle, turn := range map[float64]int{0: 0, 1.5: 0, 90: 270, -90: 90, 180: 180, 88: 270} {
		p.Lines[0].Angle = angle
		assert.Equal(t, turn, p.Turn(), angle)
	}
	assert.Zero(t, Page{}.Turn())
}
