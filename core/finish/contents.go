package finish

import (
	"errors"
	"strings"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/typeface"
)

// Contents are pages that list the parts, with the numbers of their pages and links to them.
type Contents struct {
	On     bool          `json:"on"`
	Title  string        `json:"title"`
	Nested bool          `json:"nested" doc:"What the bookmarks of files open is listed below their parts."`
	Face   typeface.Face `json:"face" enum:"sans,serif"`
}

func (c Contents) check() error {
	if c == (Contents{}) {
		return nil
	}
	if c.On && strings.TrimSpace(c.Title) == "" {
		return message.Errorf("the contents page has no title")
	}
	return errors.Join(checkText(message.Of("the contents page"), c.Face, c.Title), checkLooks(message.Of("the contents page"), c.Face, inkOfDetails))
}

// entry is a line of the contents: a part, or a heading in it.
type entry struct {
	title     string
	isHeading bool
	page      int    // its first, counted from 1
	label     string // the number of that page
}

const (
	entrySize  = 11.0 // points
	entryGap   = 7.0  // between entries
	indent     = 14.0 // of headings
	numberRoom = 0.18 // of a line, for the number
	titleRoom  = 64.0 // that the title takes on the first page
)

// MostContents is how many pages the contents have at most. What finds no room on them is left
// out.
const MostContents = 100

// Listed tells whether the contents list a page as the first of its part.
func (p Page) Listed() bool { return p.Begins && (p.Made == "" || p.Made == SheetPage) }

// PagesFor tells how many pages the contents of a packet take, of which it has one at least.
// Further ones are as large as the first.
func (c Contents) PagesFor(pages []Page) int {
	var sizes []geometry.Size
	for _, page := range pages {
		if page.Made == ContentsPage {
			sizes = append(sizes, page.Size)
		}
	}
	if len(sizes) == 0 {
		return 1
	}
	return max(1, len(c.divided(c.entries(pages, nil), sizes)))
}

// divided parts the entries into those of each page.
func (c Contents) divided(entries []entry, sizes []geometry.Size) [][]entry {
	var pages [][]entry
	for len(entries) > 0 && len(pages) < MostContents {
		size := sizes[0]
		if len(pages) < len(sizes) {
			size = sizes[len(pages)]
		}
		fits := c.fitting(entries, size, len(pages) == 0)
		pages, entries = append(pages, entries[:fits]), entries[fits:]
	}
	return pages
}

// fitting is how many of the entries find room on a page: one at least.
func (c Contents) fitting(entries []entry, page geometry.Size, isFirst bool) int {
	room := page.Height - 2*page.Width*marginShare
	if isFirst {
		room -= titleRoom
	}
	for i, entry := range entries {
		room -= float64(len(wrapped(c.Face, entry.title, entrySize, c.titleWidth(page, entry))))*entrySize*lineHeight + entryGap
		if room < 0 && i > 0 {
			return i
		}
	}
	return len(entries)
}

func (c Contents) titleWidth(page geometry.Size, e entry) float64 {
	width := page.Width * (1 - 2*marginShare) * (1 - numberRoom)
	if e.isHeading {
		width = max(width-indent, width/2)
	}
	return width
}

// entries of the contents: the parts with pages that are not made by the program, and the headings
// in them.
func (c Contents) entries(pages []Page, labels []string) []entry {
	var list []entry
	for i, page := range pages {
		if page.Listed() {
			list = append(list, entry{title: page.Part, page: i + 1, label: labelFrom(pages, labels, i)})
		}
		if !c.Nested {
			continue
		}
		for _, heading := range page.Headings {
			list = append(list, entry{title: heading, isHeading: true, page: i + 1, label: labelAt(labels, i)})
		}
	}
	return list
}

// labelAt is the number of a page; its place where it has none.
func labelAt(labels []string, at int) string {
	if at < len(labels) && labels[at] != "" {
		return labels[at]
	}
	return ordinal(at + 1)
}

// labelFrom is the number of the first page of a part that has one; its place where none has.
func labelFrom(pages []Page, labels []string, first int) string {
	for i := first; i < len(pages) && i < len(labels) && (i == first || !pages[i].Begins); i++ {
		if labels[i] != "" {
			return labels[i]
		}
	}
	return ordinal(first + 1)
}

// contentsMarks gives what is on the pages of the contents, by their places.
func (f Finish) contentsMarks(pages []Page) map[int][]Mark {
	var places []int
	var sizes []geometry.Size
	for i, page := range pages {
		if page.Made == ContentsPage {
			places, sizes = append(places, i), append(sizes, page.Size)
		}
	}
	if len(places) == 0 {
		return nil
	}
	marks := map[int][]Mark{}
	divided := f.Contents.divided(f.Contents.entries(pages, f.Labels(pages)), sizes)
	for n, place := range places {
		var listed []entry
		if n < len(divided) {
			listed = divided[n]
		}
		marks[place] = f.Contents.marks(listed, pages[place].Size, n == 0)
	}
	return marks
}

// marks gives what is on a page of the contents.
func (c Contents) marks(listed []entry, page geometry.Size, isFirst bool) []Mark {
	margin := page.Width * marginShare
	write := column{kind: ContentsMark, face: c.Face, colour: inkOfDetails, left: margin, width: page.Width - 2*margin, y: margin}
	if isFirst {
		write.text(c.Title, 22)
		write.y = margin + titleRoom
	}
	right := write.left + write.width
	for _, entry := range listed {
		from := len(write.marks)
		write.left, write.width = margin, c.titleWidth(page, entry)
		if entry.isHeading {
			write.left += indent
		}
		write.text(entry.title, entrySize)
		if from == len(write.marks) { // a title without letters
			write.y += entrySize * lineHeight
		} else {
			last := write.marks[len(write.marks)-1]
			write.dots(last.At.X+last.Width, right-c.Face.Width(entry.label, entrySize))
		}
		write.add(entry.label, right-c.Face.Width(entry.label, entrySize), entrySize)
		for i := range write.marks[from:] {
			write.marks[from+i].To = entry.page
		}
		write.y += entryGap
	}
	return write.marks
}

// dots lead from a title to its number.
func (c *column) dots(from, to float64) {
	const gap = 6
	one := c.face.Width(". ", entrySize)
	if count := int((to - from - 2*gap) / one); count > 2 {
		dots := strings.TrimSpace(strings.Repeat(". ", count))
		c.add(dots, to-gap-c.face.Width(dots, entrySize), entrySize)
	}
}
