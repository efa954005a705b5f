package reading

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"dorbin/core/packet"
	"dorbin/core/text"
	"dorbin/internal/sources"
)

// Heading is a title in the text of a page.
type Heading struct {
	Page  packet.PageID `json:"page"`
	ID    string        `json:"id" doc:"Names it among the bookmarks: the page's id, and its place among the headings of the page."`
	Title string        `json:"title"`
	Level int           `json:"level" doc:"From 1, the largest, to 3."`
}

// mostHeadings is how many headings of a packet are taken at most.
const mostHeadings = 5000

// Headings are those in the text of a packet's pages, as far as it was read, in order. One that only
// says the title of its part is none, and parts have none whose documents bring bookmarks along that
// are wanted.
func (s *Service) Headings(ctx context.Context, packetID string) ([]Heading, error) {
	headings := []Heading{}
	p, all, err := s.store.Load(ctx, packetID)
	if err != nil {
		return headings, err
	}
	texts, err := s.store.Texts(ctx, packetID)
	if err != nil {
		return headings, err
	}
	bytes, nested := sources.BytesOf(all), p.State.Finish.OrDefaults().Bookmarks.Nested
	hasOwn := func(page packet.Page) bool { return nested && len(bytes.Page(page).Headings) > 0 }
	for _, part := range p.State.Parts {
		if slices.ContainsFunc(part.Pages, hasOwn) {
			continue
		}
		sheets, _, err := s.sheets(ctx, texts, part.Pages)
		if err != nil {
			return headings, err
		}
		headings = append(headings, headingsIn(part, text.Headings(sheets))...)
		if len(headings) >= mostHeadings {
			return headings[:mostHeadings], nil
		}
	}
	return headings, nil
}

// headingsIn names the headings of the pages of a part.
func headingsIn(part packet.Part, found [][]text.Block) (headings []Heading) {
	for i, page := range part.Pages {
		for n, block := range found[i] {
			if strings.EqualFold(block.Text.String(), part.Title) {
				continue
			}
			id := fmt.Sprintf("%s/%d", page.ID, n+1)
			headings = append(headings, Heading{Page: page.ID, ID: id, Title: block.Text.String(), Level: block.Level})
		}
	}
	return headings
}
