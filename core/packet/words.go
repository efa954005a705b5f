package packet

import (
	"dorbin/core/message"
)

// affected are the pages that a step is about, for its words.
type affected struct {
	count int
	first int // the number of the first of them in the packet, from 1
}

// Message names one page by its number, such as "page 4", and several by how many they are.
func (a affected) Message() message.Text {
	if a.count == 1 {
		return message.Of("page %d", a.first)
	}
	return CountPages(a.count)
}

// String is the message in English.
func (a affected) String() string { return a.Message().English }

// affected describes pages as they now stand in the packet.
func (p Packet) affected(pages map[PageID]bool) affected {
	a := affected{count: len(pages)}
	for i, page := range p.Pages() {
		if pages[page.ID] {
			a.first = i + 1
			break
		}
	}
	return a
}

// placeOf tells where pages, of which this is the first, stand: "after page 3", or "at the start".
func (p Packet) placeOf(first PageID) message.Text {
	if number := p.numbers()[first]; number > 1 {
		return message.Of("after page %d", number-1)
	}
	return message.Of("at the start")
}

// CountPages tells how many pages: 1 page, 3 pages.
func CountPages(n int) message.Text { return message.Count(n, "%d page", "%d pages") }
