package packet

import "dorbin/core/geometry"

// Known is what the rules need to know of the world outside a packet.
type Known struct {
	// Source gives what is known of a source; false when the packet has no such
	// source or it cannot be placed yet.
	Source func(SourceID) (Source, bool)
	// Facts are what pages can be selected by besides their numbers, by name, such
	// as "blank".
	Facts map[string]func(Page) bool
	// Foreign gives the pages of another packet that are to be brought.
	Foreign func(Bring) (Foreign, error)
}

// Source is what the rules need to know of a source.
type Source struct {
	Name  string // the file's
	Title string // of a part made of it
	Pages []SourcePage
}

// SourcePage is what the rules need to know of a page of a source.
type SourcePage struct {
	Size geometry.Size // points, upright
	// Headings are the titles of the document's own bookmarks that open the page.
	Headings []string
	Scanned  bool // the size is the paper's own, not that of a photograph
}

func (k Known) source(id SourceID) (Source, bool) {
	if k.Source == nil {
		return Source{}, false
	}
	return k.Source(id)
}

// headings are the titles of its document's bookmarks that open a page.
func (k Known) headings(page Page) []string {
	source, _ := k.source(page.Source)
	if page.SourcePage < 1 || page.SourcePage > len(source.Pages) {
		return nil
	}
	return source.Pages[page.SourcePage-1].Headings
}
