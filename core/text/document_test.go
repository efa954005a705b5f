package text

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

// written lays lines on a sheet: each at a place, of a size. A tab begins a cell at a place of its own.
func writtenSheet(lines ...struct {
	y, size float64
	words   string
}) Sheet {
	sheet := Sheet{Size: geometry.A4}
	for _, l := range lines {
		line := Line{At: geometry.Point{X: 70, Y: l.y}, Size: l.size}
		for i, run := range strings.Split(l.words, "\t") {
			at := float64(i) * 300
			for word := range strings.FieldsSeq(run) {
				width := 0.5 * l.size * float64(len([]rune(word)))
				line.Words = append(line.Words, Word{Text: word, X: at, Width: width, Sure: 90})
				at += width + 0.3*l.size
			}
		}
		sheet.Text.Lines = append(sheet.Text.Lines, line)
	}
	return sheet
}

type written = struct {
	y, size float64
	words   string
}

var quoteSheets = []Sheet{
	writtenSheet(
		written{40, 8, "Slate & Lead, Upper Tarn"},
		written{110, 18, "Quote for the boathouse roof"},
		written{150, 11, "We have measured the north slope of the boathouse with care and found that patch-"},
		written{164, 11, "ing will not last, as the surveyor has told your committee before the winter came, too"},
		written{178, 11, "often."},
		written{210, 11, "1. A third is due when the scaffold stands."},
		written{224, 11, "2. The rest is due at the end."},
		written{260, 14, "What it costs"},
		written{280, 11, "Scaffold\t6,240"},
		written{295, 11, "Slates\t14,800"},
		written{310, 11, "Lead\t5,780"},
		written{810, 8, "Page 1 of 2"},
	),
	writtenSheet(
		written{40, 8, "Slate & Lead, Upper Tarn"},
		written{110, 11, "With good <wishes> & regards"},
		written{810, 8, "Page 2 of 2"},
	),
	{Size: geometry.A4},
}

func TestBlocksOfADocument(t *testing.T) {
	assert.Equal(t, []Block{
		{Kind: Heading, Level: 1, Text: Plainly("Quote for the boathouse roof")},
		{Kind: Paragraph, Text: Plainly("We have measured the north slope of the boathouse with care and found that patching will not last, " +
			"as the surveyor has told your committee before the winter came, too often.")},
		{Kind: Item, Number: 1, Text: Plainly("A third is due when the scaffold stands.")},
		{Kind: Item, Number: 2, Text: Plainly("The rest is due at the end.")},
		{Kind: Heading, Level: 2, Text: Plainly("What it costs")},
		{Kind: Table, Rows: [][]Styled{
			{Plainly("Scaffold"), Plainly("6,240")}, {Plainly("Slates"), Plainly("14,800")}, {Plainly("Lead"), Plainly("5,780")},
		}},
		{Kind: PageBreak},
		{Kind: Paragraph, Text: Plainly("With good <wishes> & regards")},
		{Kind: PageBreak},
		{Kind: Picture, Page: 2},
	}, Blocks(quoteSheets, true))
	all := Blocks(quoteSheets, false)
	assert.Equal(t, "Slate & Lead, Upper Tarn", all[0].Text.String())
}

func TestStylesOfTextAreKept(t *testing.T) {
	bold, italic := Style{Bold: true}, Style{Italic: true}
	sheet := writtenSheet(
		written{100, 11, "1. Total: 14,800 for the north slope and the south slope, as long as no battens are replaced beforehand on either"},
		written{114, 11, "of them, scaf-"}, written{128, 11, "folding excepted."},
	)
	words := sheet.Text.Lines[0].Words
	words[1].Style, words[2].Style, words[5].Style, words[6].Style = bold, bold, italic, Style{Bold: true, Italic: true}
	sheet.Text.Lines[1].Words[2].Style, sheet.Text.Lines[2].Words[0].Style = bold, bold
	blocks := Blocks([]Sheet{sheet}, false)
	require.Len(t, blocks, 1)
	assert.Equal(t, Block{Kind: Item, Number: 1, Text: Styled{
		{"Total: 14,800", bold},
		{" for the ", Style{}}, {"north ", italic}, {"slope", Style{Bold: true, Italic: true}},
		{" and the south slope, as long as no battens are replaced beforehand on either of them, ", Style{}},
		{"scaffolding", bold}, {" excepted.", Style{}},
	}}, blocks[0])
	var out bytes.Buffer
	require.NoError(t, WriteHTML(&out, "", "en", blocks, nil))
	assert.Contains(t, out.String(), "<b>Total: 14,800</b> for the <i>north </i><b><i>slope</i></b> and")
}

func TestHeadingsOfPages(t *testing.T) {
	headings := Headings(quoteSheets)
	require.Len(t, headings, len(quoteSheets))
	assert.Equal(t, []Block{
		{Kind: Heading, Level: 1, Text: Plainly("Quote for the boathouse roof")}, {Kind: Heading, Level: 2, Text: Plainly("What it costs")},
	}, headings[0])
	assert.Empty(t, headings[1])
	assert.Empty(t, headings[2])
	short := Headings([]Sheet{writtenSheet(
		written{100, 10, "Income in the last full year, as far as the books have been closed by now"},
		written{112, 10, "£ 61,480"}, written{124, 13, "2 What it is for"}, written{136, 10, "The roof"},
	)})
	assert.Equal(t, [][]Block{{{Kind: Heading, Level: 1, Text: Plainly("2 What it is for")}}}, short, "a short line before it is of another size")
}

func TestPlainText(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, WritePlain(&out, Blocks(quoteSheets, true)[2:]))
	assert.Equal(t, "1. A third is due when the scaffold stands.\n2. The rest is due at the end.\n\nWhat it costs\n\n"+
		"Scaffold\t6,240\nSlates\t14,800\nLead\t5,780\n\n\fWith good <wishes> & regards\n\n\f", out.String())
}

func TestHTML(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, WriteHTML(&out, "A & B", "en", Blocks(quoteSheets, true), func(page int) string { return "page-2.jpg" }))
	for _, part := range []string{
		`<html lang="en">`, "<title>A &amp; B</title>", "<h1>Quote for the boathouse roof</h1>", "<ol>\n<li value=\"1\">A third",
		"<tr><td>Scaffold</td><td>6,240</td></tr>", `<p style="page-break-before: always">With good &lt;wishes&gt; &amp; regards</p>`,
		`<img src="page-2.jpg"`,
	} {
		assert.Contains(t, out.String(), part)
	}
}

// FuzzBlocks makes documents of whatever lines: no letter is there twice, and none but the figures of
// items is missing.
func FuzzBlocks(f *testing.F) {
	f.Add("Slate & Lead\tFE-1\n1. one\n- two\nthree-\nfour", 11.0)
	f.Add("\ta\tb\n\tc\td\n\te\tf", 30.0)
	f.Fuzz(func(t *testing.T, lines string, size float64) {
		if size < 1 || size > 500 {
			return
		}
		var all []written
		for i, words := range strings.Split(lines, "\n") {
			all = append(all, written{60 + 14*float64(i), size, words})
		}
		sheet := writtenSheet(all...)
		sheet.Text = WithoutNoise(sheet.Text)
		made, figures := 0, 0
		for _, block := range Blocks([]Sheet{sheet}, false) {
			made += countLetters(block.Text.String())
			for _, row := range block.Rows {
				for _, cell := range row {
					made += countLetters(cell.String())
				}
			}
			if block.Number > 0 || block.Kind == Item {
				figures += 3
			}
		}
		given := 0
		for _, line := range sheet.Text.Lines {
			for _, word := range line.Words {
				given += countLetters(word.Text)
			}
		}
		assert.LessOrEqual(t, made, given)
		assert.GreaterOrEqual(t, made+figures, given)
	})
}
