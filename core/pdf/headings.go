package pdf

import (
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// Limits of what is read of a document's bookmarks as headings.
const (
	mostHeadings   = 2000
	longestHeading = 200 // letters
)

// Headings are the titles of the document's bookmarks of the highest level that has several
// (12.3.3), by the pages that they open: a single one above all others is the document's title.
func (d *Document) Headings() [][]string {
	headings := make([][]string, len(d.pages))
	seen := map[int]bool{}
	o := d.firstOfSeveral()
	for range mostHeadings {
		node := d.dict(o)
		if node == nil || seen[objectNumber(o)] {
			break
		}
		seen[objectNumber(o)] = true
		text, _ := d.text(node["Title"])
		if page, ok := d.opened(node); ok {
			if title := shortened(decodeText(text)); title != "" {
				headings[page] = append(headings[page], title)
			}
		}
		o = node["Next"]
	}
	return headings
}

// firstOfSeveral is the first bookmark that is not alone on its level, or has none below it.
func (d *Document) firstOfSeveral() types.Object {
	o := d.dict(d.root["Outlines"])["First"]
	for range maxTreeDepth {
		node := d.dict(o)
		if node == nil || d.dict(node["Next"]) != nil || d.dict(node["First"]) == nil {
			break
		}
		o = node["First"]
	}
	return o
}

// opened is the page that a bookmark opens, counted from 0.
func (d *Document) opened(node types.Dict) (page int, ok bool) {
	target := node["Dest"]
	if action := d.dict(node["A"]); target == nil && d.name(action["S"]) == "GoTo" {
		target = action["D"]
	}
	destination := d.explicitDestination(target)
	if len(destination) == 0 {
		return 0, false
	}
	if page, ok = d.pageIndex[objectNumber(destination[0])]; ok {
		return page, true
	}
	number, isNumber := d.number(destination[0])
	return int(number), isNumber && number >= 0 && int(number) < len(d.pages)
}

// shortened is a title in one line, and not too long.
func shortened(title string) string {
	runes := []rune(strings.Join(strings.Fields(title), " "))
	return string(runes[:min(len(runes), longestHeading)])
}
