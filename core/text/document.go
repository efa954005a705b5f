package text

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"dorbin/core/geometry"
)

// Sheet is a page of a text document that is made: its text as it stands, and its size in points.
type Sheet struct {
	Text Page
	Size geometry.Size
}

// BlockKind is what a block of a document is.
type BlockKind int

// Kinds of blocks.
const (
	Paragraph BlockKind = iota
	Heading             // of a level
	Item                // of a list; a numbered one has a number
	Table
	Picture   // of a page without text
	PageBreak // before the next page
)

// Block is a piece of a text document.
type Block struct {
	Kind   BlockKind
	Text   Styled
	Level  int // of a heading, from 1
	Number int // of an item; 0 has none
	Rows   [][]Styled
	Page   int // of a picture: which page it shows, from 0
}

// Blocks makes a document that can be edited of pages: lines become paragraphs, with divided words
// joined; large lines headings; what stands in columns tables. Lines that come again at the head or the
// foot of pages, and page numbers, can be left out.
func Blocks(sheets []Sheet, withoutRunning bool) []Block {
	body := bodySize(sheets)
	running := map[string]bool{}
	if withoutRunning {
		running = runningLines(sheets)
	}
	levels := headingLevels(sheets, body)
	var blocks []Block
	for i, sheet := range sheets {
		if i > 0 {
			blocks = append(blocks, Block{Kind: PageBreak})
		}
		if len(sheet.Text.Lines) == 0 {
			blocks = append(blocks, Block{Kind: Picture, Page: i})
			continue
		}
		rows := rowsOf(sheet, running)
		blocks = append(blocks, blocksOf(rows, body, levels)...)
	}
	return blocks
}

// Headings are those of each of the pages of a document. Lines that come again at the head or the foot of
// pages are none.
func Headings(sheets []Sheet) [][]Block {
	headings := make([][]Block, len(sheets))
	page := 0
	for _, block := range Blocks(sheets, true) {
		switch block.Kind {
		case PageBreak:
			page++
		case Heading:
			headings[page] = append(headings[page], block)
		}
	}
	return headings
}

// row is a line of a page, parted where its words are far from each other.
type row struct {
	cells       []cell
	top, bottom float64
	size        float64
}

type cell struct {
	text        Styled
	left, right float64
}

// farApart is the gap in a line, in shares of its size, from which on it has cells.
const farApart = 2.2

// rowsOf are the lines of a page as rows, without running lines.
func rowsOf(sheet Sheet, running map[string]bool) []row {
	var rows []row
	for _, line := range sheet.Text.Lines {
		if running[runningKey(sheet, line)] {
			continue
		}
		r := row{size: line.Size, top: line.At.Y - Ascent*line.Size, bottom: line.At.Y + Descent*line.Size}
		runs := []Line{line}
		if !line.RightToLeft {
			runs = line.Runs(farApart)
		}
		for _, run := range runs {
			r.cells = append(r.cells, cellOf(run))
		}
		rows = append(rows, r)
	}
	return rows
}

func cellOf(run Line) cell {
	c := cell{run.styled(), math.Inf(1), math.Inf(-1)}
	for _, word := range run.Words {
		c.left, c.right = math.Min(c.left, run.At.X+word.X), math.Max(c.right, run.At.X+word.X+word.Width)
	}
	return c
}

// blocksOf makes blocks of the rows of a page.
func blocksOf(rows []row, body float64, levels []float64) []Block {
	var blocks []Block
	for at := 0; at < len(rows); {
		if n := tableLength(rows[at:]); n > 0 {
			table := Block{Kind: Table}
			for _, r := range rows[at : at+n] {
				var cells []Styled
				for _, c := range r.cells {
					cells = append(cells, c.text)
				}
				table.Rows = append(table.Rows, cells)
			}
			blocks = append(blocks, table)
			at += n
			continue
		}
		n := paragraphLength(rows[at:], body)
		blocks = append(blocks, textBlocks(rows[at:at+n], body, levels)...)
		at += n
	}
	return blocks
}

const (
	fewestRows = 3   // that make a table
	inColumn   = 1.2 // by how much, in shares of their size, cells of a column may be out of line
)

// tableLength is how many rows from the first on make a table: they have as many cells, which line up
// at the left or at the right.
func tableLength(rows []row) int {
	columns := len(rows[0].cells)
	if columns < 2 {
		return 0
	}
	n := 1
	for n < len(rows) && len(rows[n].cells) == columns && rows[n].top-rows[n-1].bottom < 2.5*rows[n].size &&
		linesUp(rows[:n+1]) {
		n++
	}
	if n < fewestRows {
		return 0
	}
	return n
}

func linesUp(rows []row) bool {
	for i := range rows[0].cells {
		left, right := spread(rows, func(r row) float64 { return r.cells[i].left }), spread(rows, func(r row) float64 { return r.cells[i].right })
		if math.Min(left, right) > inColumn*rows[0].size {
			return false
		}
	}
	return true
}

func spread(rows []row, of func(row) float64) float64 {
	low, high := math.Inf(1), math.Inf(-1)
	for _, r := range rows {
		low, high = math.Min(low, of(r)), math.Max(high, of(r))
	}
	return high - low
}

// paragraphLength is how many rows from the first on are one paragraph: each follows closely, is of the
// same size, and the one before it is full. A heading and what is no heading are never one.
func paragraphLength(rows []row, body float64) int {
	n := 1
	isLarge := rows[0].size >= body*headingFrom
	for n < len(rows) && rows[n].size >= body*headingFrom == isLarge && continues(rows[:n], rows[n]) {
		n++
	}
	return n
}

func continues(before []row, next row) bool {
	last := before[len(before)-1]
	if len(last.cells) > 1 || len(next.cells) > 1 {
		return false
	}
	lastCell, nextCell := last.cells[0], next.cells[0]
	gap := next.top - last.bottom
	if gap > 0.9*last.size || gap < -last.size || next.size > 1.2*last.size || next.size < last.size/1.2 {
		return false
	}
	if isItem(nextCell.text.String()) || nextCell.left > lastCell.right || nextCell.right < lastCell.left {
		return false
	}
	widest := 0.0
	for _, r := range before {
		widest = math.Max(widest, r.cells[0].right)
	}
	widest = math.Max(widest, nextCell.right)
	first, _ := utf8.DecodeRuneInString(nextCell.text.String())
	isFull := lastCell.right > widest-8*last.size
	return isFull && !endsSentence(lastCell.text.String(), widest-lastCell.right > 3*last.size) || unicode.IsLower(first)
}

// endsSentence tells whether a line is the last of its paragraph: a sentence ends well before the
// margin.
func endsSentence(line string, isShort bool) bool {
	return isShort && strings.ContainsAny(line[len(line)-1:], ".!?:")
}

var (
	numberedItem = regexp.MustCompile(`^(\d{1,3})[.)]\s+\S`)
	bullet       = regexp.MustCompile(`^[•·▪◦*–-]\s+\S`)
)

func isItem(line string) bool { return numberedItem.MatchString(line) || bullet.MatchString(line) }

// textBlocks makes a block of the rows of a paragraph; what stands beside each other in one row become
// several.
func textBlocks(rows []row, body float64, levels []float64) (blocks []Block) {
	if len(rows) == 1 && len(rows[0].cells) > 1 {
		for _, c := range rows[0].cells {
			blocks = append(blocks, textBlock(c.text, rows[0].size, body, levels))
		}
		return blocks
	}
	joined := rows[0].cells[0].text
	for _, r := range rows[1:] {
		joined = joinLines(joined, r.cells[0].text)
	}
	return []Block{textBlock(joined, rows[0].size, body, levels)}
}

// joinLines joins two lines of a paragraph, and a word that is divided between them.
func joinLines(line, next Styled) Styled {
	before := line.String()
	first, _, _ := strings.Cut(next.String(), " ")
	switch last := before[strings.LastIndex(before, " ")+1:]; {
	case isDivided(last, first):
		_, size := utf8.DecodeLastRuneInString(before)
		line = line.cut(0, len(before)-size)
	case AreApart(last, first):
		line = line.withSpace(next[0].Style)
	}
	return line.joined(next)
}

const longestHeading = 120 // characters

func textBlock(styled Styled, size, body float64, levels []float64) Block {
	words := styled.String()
	rest := func(from int) Styled { return styled.cut(from, len(words)).trimmed() }
	if m := numberedItem.FindStringSubmatch(words); m != nil && size < body*headingFrom {
		number, _ := strconv.Atoi(m[1]) // digits alone
		return Block{Kind: Item, Number: number, Text: rest(len(m[1]) + 1)}
	}
	if bullet.MatchString(words) {
		_, skip := utf8.DecodeRuneInString(words)
		return Block{Kind: Item, Text: rest(skip)}
	}
	if size >= body*headingFrom && utf8.RuneCountInString(words) <= longestHeading && countLetters(words) > 1 {
		for i, level := range levels {
			if size >= level*0.93 {
				return Block{Kind: Heading, Level: i + 1, Text: styled}
			}
		}
	}
	return Block{Kind: Paragraph, Text: styled}
}

// headingFrom is how much larger than most text a line is that is a heading.
const headingFrom = 1.25

// bodySize is the size of most letters of a document.
func bodySize(sheets []Sheet) float64 {
	letters := map[float64]int{}
	for _, sheet := range sheets {
		for _, line := range sheet.Text.Lines {
			for _, word := range line.Words {
				letters[math.Round(line.Size*2)/2] += len(word.Text)
			}
		}
	}
	body, most := 0.0, 0
	for size, n := range letters {
		if n > most || n == most && size < body {
			body, most = size, n
		}
	}
	return body
}

// headingLevels are the sizes of headings, the largest first, three at most.
func headingLevels(sheets []Sheet, body float64) (levels []float64) {
	var sizes []float64
	for _, sheet := range sheets {
		for _, line := range sheet.Text.Lines {
			if line.Size >= body*headingFrom {
				sizes = append(sizes, line.Size)
			}
		}
	}
	slices.Sort(sizes)
	slices.Reverse(sizes)
	for _, size := range sizes {
		if len(levels) == 0 || size < levels[len(levels)-1]*0.85 && len(levels) < 3 {
			levels = append(levels, size)
		}
	}
	if len(levels) > 0 {
		levels[len(levels)-1] = math.Min(levels[len(levels)-1], body*headingFrom)
	}
	return levels
}

// What is at the head and at the foot of a page, in shares of its height.
const (
	headRuns = 0.09
	footRuns = 0.91
)

var pageNumber = regexp.MustCompile(`(?i)^\W*(?:page|seite|sheet|p\.)?\s*\d{1,4}(?:\s*(?:/|of|von)\s*\d{1,4})?\W*$`)

// runningLines are lines at the head or foot that come on several pages, but for figures, and page
// numbers.
func runningLines(sheets []Sheet) map[string]bool {
	pages := map[string]int{}
	running := map[string]bool{"": false}
	for _, sheet := range sheets {
		on := map[string]bool{}
		for _, line := range sheet.Text.Lines {
			key := runningKey(sheet, line)
			if key == "" || on[key] {
				continue
			}
			on[key] = true
			pages[key]++
			if pageNumber.MatchString(line.String()) || pages[key] > 1 {
				running[key] = true
			}
		}
	}
	return running
}

// runningKey is what a line at the head or foot of a page has in common with those of other pages;
// nothing for others.
func runningKey(sheet Sheet, line Line) string {
	y := line.At.Y / math.Max(1, sheet.Size.Height)
	if y >= headRuns && y <= footRuns {
		return ""
	}
	words := Fold(line.String())
	return strings.Map(func(r rune) rune {
		if unicode.IsDigit(r) {
			return '0'
		}
		return r
	}, words)
}
