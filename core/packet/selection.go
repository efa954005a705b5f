package packet

import (
	"slices"
	"strings"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/message"
)

// ParseSelection reads which pages of a packet are meant, such as
// "2-9, 12, odd". Items are separated by commas:
//
//	3        2-9        last       last 3     first 3
//	odd      even       all        part 2     source 3
//	landscape           portrait   A4         other sizes   noted
//	cover               contents   sheets
//
// and the names of known facts. "of part 2" after an item counts within that
// part; "not" before one takes its pages away from what the items before it
// gave, or from all pages where it comes first. The result is in packet order.
// An error is a *RangeError.
func ParseSelection(text string, p Packet, known Known) ([]PageID, error) {
	s := selector{all: p.Pages(), parts: p.Parts, known: known, cover: PageID(p.Finish.Cover.Own)}
	chosen := map[PageID]bool{}
	at := 0
	for n, item := range strings.Split(text, ",") {
		trimmed := strings.TrimLeft(item, " \t")
		spot := at + len(item) - len(trimmed)
		at += len(item) + 1
		words := strings.Fields(strings.ToLower(item))
		away := len(words) > 1 && words[0] == "not"
		if away {
			words = words[1:]
			spot += len(trimmed) - len(strings.TrimLeft(trimmed[len("not"):], " \t"))
		}
		pages, problem := s.item(words)
		if !problem.IsEmpty() {
			return nil, &RangeError{problem, spot}
		}
		if away && n == 0 {
			mark(chosen, s.all, true)
		}
		mark(chosen, pages, !away)
	}
	return s.inOrder(chosen), nil
}

// Selected is which pages a command is for.
type Selected struct {
	Pages []PageID `json:"pages,omitempty"`
	Range string   `json:"range,omitempty" doc:"In place of pages: a selection in words, such as 2-9, odd."`
}

// On selects pages by their IDs.
func On(pages ...PageID) Selected { return Selected{Pages: pages} }

// InRange selects pages in words, as ParseSelection reads them.
func InRange(text string) Selected { return Selected{Range: text} }

// onPages is a command that names pages: one with Selected in it.
type onPages interface{ selected() Selected }

func (s Selected) selected() Selected { return s }

func (s Selected) resolve(p Packet, known Known) ([]PageID, error) {
	if s.Range == "" {
		return s.Pages, nil
	}
	return ParseSelection(s.Range, p, known)
}

// NamesRange tells whether a command says in words which pages it is for.
func NamesRange(c Command) bool {
	on, ok := c.(onPages)
	return ok && on.selected().Range != ""
}

func mark(chosen map[PageID]bool, pages []Page, in bool) {
	for _, page := range pages {
		chosen[page.ID] = in
	}
}

type selector struct {
	all   []Page
	parts []Part
	known Known
	cover PageID // a page of the packet that is its cover
}

func (s selector) inOrder(chosen map[PageID]bool) []PageID {
	ids := []PageID{}
	for _, page := range s.all {
		if chosen[page.ID] {
			ids = append(ids, page.ID)
		}
	}
	return ids
}

// item gives the pages of one item, or what is wrong with it.
func (s selector) item(words []string) (pages []Page, problem message.Text) {
	if n := len(words); n > 3 && words[n-3] == "of" && words[n-2] == "part" {
		pages, problem = s.part(words[n-1])
		if !problem.IsEmpty() {
			return nil, problem
		}
		return s.among(pages, words[:n-3])
	}
	return s.among(s.all, words)
}

// among gives the pages of an item counted among these pages.
func (s selector) among(pages []Page, words []string) (chosen []Page, problem message.Text) {
	if len(words) == 2 {
		switch words[0] {
		case "part":
			return s.part(words[1])
		case "source":
			return s.source(pages, words[1])
		}
	}
	phrase := strings.Join(words, " ")
	if holds, ok := s.fact(phrase); ok {
		return filter(pages, holds), message.Text{}
	}
	numbers, problem := parseItem(phrase, len(pages))
	for _, number := range numbers {
		chosen = append(chosen, pages[number-1])
	}
	return chosen, problem
}

func (s selector) part(word string) (pages []Page, problem message.Text) {
	number, problem := parseNumber(word, len(s.parts))
	if !problem.IsEmpty() {
		return nil, message.Of("There is no part %s: there are %d.", word, len(s.parts))
	}
	return s.parts[number-1].Pages, message.Text{}
}

// source gives the pages of a source, which is counted in the order of first
// appearance.
func (s selector) source(pages []Page, word string) (chosen []Page, problem message.Text) {
	var sources []SourceID
	for _, page := range s.all {
		if !page.IsBlank() && !slices.Contains(sources, page.Source) {
			sources = append(sources, page.Source)
		}
	}
	number, problem := parseNumber(word, len(sources))
	if !problem.IsEmpty() {
		return nil, message.Of("There is no source %s: pages of %d are placed.", word, len(sources))
	}
	return filter(pages, func(page Page) bool { return page.Source == sources[number-1] }), message.Text{}
}

// fact gives the test that a word stands for.
func (s selector) fact(phrase string) (holds func(Page) bool, ok bool) {
	switch phrase {
	case "landscape":
		return Page.IsLandscape, true
	case "portrait":
		return func(page Page) bool { return !page.IsLandscape() }, true
	case "cover", "contents", "sheets":
		return func(page Page) bool {
			return madeWords[page.Made] == phrase || (phrase == "cover" && s.cover != "" && page.ID == s.cover)
		}, true
	case "noted":
		return func(page Page) bool { return page.Note != "" }, true
	case "other sizes":
		return otherSizes(s.all), true
	}
	if holds, ok = s.known.Facts[phrase]; ok {
		return holds, true
	}
	for _, paper := range geometry.Papers() {
		if phrase == strings.ToLower(paper.Name) {
			return func(page Page) bool { return geometry.PaperName(page.Size()) == paper.Name }, true
		}
	}
	return nil, false
}

var madeWords = map[finish.Made]string{finish.CoverPage: "cover", finish.ContentsPage: "contents", finish.SheetPage: "sheets"}

// otherSizes tells of pages that are not of the commonest size.
func otherSizes(pages []Page) func(Page) bool {
	most := CommonestSize(pages)
	return func(page Page) bool { return SizeName(page) != most }
}

// CommonestSize names the size that most pages have.
func CommonestSize(pages []Page) (most string) {
	counts := map[string]int{}
	for _, page := range pages {
		name := SizeName(page)
		counts[name]++
		if counts[name] > counts[most] {
			most = name
		}
	}
	return most
}

// SizeName names a page's size whichever way it lies: its paper, or its measures.
func SizeName(page Page) string {
	size := page.Size()
	if paper := geometry.PaperName(size); paper != "" {
		return paper
	}
	if size.Width > size.Height {
		size = geometry.Size{Width: size.Height, Height: size.Width}
	}
	return size.String()
}

func filter(pages []Page, holds func(Page) bool) []Page {
	var chosen []Page
	for _, page := range pages {
		if holds(page) {
			chosen = append(chosen, page)
		}
	}
	return chosen
}
