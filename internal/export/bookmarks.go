package export

import (
	"slices"

	"dorbin/core/finish"
	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/internal/reading"
)

// bookmarks lead to parts, and to headings on their pages.
func bookmarks(wanted finish.Bookmarks, parts []packet.Part, headings []reading.Heading) []pdf.Bookmark {
	if !wanted.On {
		return nil
	}
	var marks []pdf.Bookmark
	places := map[int]int{} // by their first pages
	first := 0
	for _, part := range parts {
		places[first] = wanted.Place(string(part.ID))
		if title, has := wanted.Titled(string(part.ID), part.Title); has {
			marks = append(marks, pdf.Bookmark{
				Title: title, First: first, Count: len(part.Pages), Bare: !wanted.Nested, Open: wanted.Open,
				Headings: headingsIn(part, first, headings, wanted),
			})
		}
		first += len(part.Pages)
	}
	slices.SortStableFunc(marks, func(a, b pdf.Bookmark) int { return places[a.First] - places[b.First] })
	return marks
}

// headingsIn are the bookmarks below that of a part, which begins at a position.
func headingsIn(part packet.Part, first int, headings []reading.Heading, wanted finish.Bookmarks) (in []pdf.Heading) {
	positions := map[packet.PageID]int{}
	for i, page := range part.Pages {
		positions[page.ID] = first + i
	}
	for _, heading := range headings {
		position, isIn := positions[heading.Page]
		if !isIn {
			continue
		}
		if title, has := wanted.Titled(heading.ID, heading.Title); has {
			in = append(in, pdf.Heading{Title: title, Position: position, Level: heading.Level})
		}
	}
	return in
}
