package packet

import (
	"slices"
	"strings"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/message"
)

// IsMade tells whether the program makes the page of what is added to the document: a cover, a
// page of the contents, a sheet before a part. Such a page is of no source.
func (p Page) IsMade() bool { return p.Made != "" }

// errMadeTwice is for copies of such pages.
var errMadeTwice = message.Errorf("a cover, a contents page or a part sheet is made by the program and cannot be copied")

func refuseMade(pages []Page) error {
	if slices.ContainsFunc(pages, Page.IsMade) {
		return errMadeTwice
	}
	return nil
}

// firstGiven is the first page of a part that the program did not make.
func (p Part) firstGiven() (Page, bool) {
	i := slices.IndexFunc(p.Pages, func(page Page) bool { return !page.IsMade() })
	if i < 0 {
		return Page{}, false
	}
	return p.Pages[i], true
}

// settle has the packet have the pages that what is added to it asks for, after a change: a cover,
// as many pages of contents as these take, a sheet before each part. Who removes such a page
// switches off what it is of; it is not set aside. It tells so in words.
func (p *Packet) settle(before Packet, known Known) (words []message.Text) {
	if !before.Finish.MayMakePages() && !p.Finish.MayMakePages() {
		return nil
	}
	switchOff := func(on *bool, made finish.Made, what message.Text) {
		if *on && before.countMade(made) > p.countMade(made) {
			*on = false
			words = append(words, changeWords(what, true, false))
		}
	}
	if before.Finish.Cover.IsMade() && p.Finish.Cover.IsMade() {
		switchOff(&p.Finish.Cover.On, finish.CoverPage, message.Of("the cover"))
	}
	if own := PageID(p.Finish.Cover.Own); own != "" {
		if _, _, placed := p.position(own); !placed {
			words = append(words, changeWords(message.Of("the cover"), true, false))
			p.Finish.Cover.On, p.Finish.Cover.Own = false, ""
		}
	}
	if before.Finish.Contents.On {
		switchOff(&p.Finish.Contents.On, finish.ContentsPage, message.Of("the contents"))
	}
	p.SetAside = slices.DeleteFunc(p.SetAside, func(aside Aside) bool { return aside.IsMade() })
	p.settleSheets(before)
	p.settleCover()
	p.settleContents(known)
	p.dropEmptyParts()
	return words
}

func (p Packet) countMade(made finish.Made) int {
	count := 0
	for _, part := range p.Parts {
		for _, page := range part.Pages {
			if page.Made == made {
				count++
			}
		}
	}
	return count
}

// removeMade removes pages of a kind that are in parts.
func (p *Packet) removeMade(made finish.Made) {
	for i := range p.Parts {
		p.Parts[i].Pages = slices.DeleteFunc(p.Parts[i].Pages, func(page Page) bool { return page.Made == made })
	}
}

// madeParts are the parts of which the program made all pages, as the cover and the contents, and
// the other pages but for part sheets.
func (p Packet) madeParts() (parts []Part, others []Page) {
	for _, part := range p.Parts {
		if _, isGiven := part.firstGiven(); !isGiven {
			parts = append(parts, part)
			continue
		}
		for _, page := range part.Pages {
			if page.Made != finish.SheetPage {
				others = append(others, page)
			}
		}
	}
	return parts, others
}

func (p *Packet) settleCover() {
	if !p.Finish.Cover.IsMade() {
		p.removeMade(finish.CoverPage)
		return
	}
	if p.countMade(finish.CoverPage) == 0 {
		p.Parts = slices.Insert(p.Parts, 0, Part{ID: p.newPartID(), Title: "Cover", Pages: []Page{p.madePage(finish.CoverPage)}})
	}
}

// settleContents has as many pages of contents as these take. They stay where they were put; new
// ones come behind the cover, or behind the last of them.
func (p *Packet) settleContents(known Known) {
	if !p.Finish.Contents.On {
		p.removeMade(finish.ContentsPage)
		return
	}
	have := p.countMade(finish.ContentsPage)
	if have == 0 {
		at := 0
		if p.countMade(finish.CoverPage) > 0 && p.Parts[0].Pages[0].Made == finish.CoverPage {
			at = 1
		}
		title, err := cleanTitle(p.Finish.Contents.Title)
		if err != nil {
			title = "Contents"
		}
		p.Parts = slices.Insert(p.Parts, at, Part{ID: p.newPartID(), Title: title, Pages: []Page{p.madePage(finish.ContentsPage)}})
		have = 1
	}
	for want := p.contentsPages(known); have != want; {
		part, at := p.lastMade(finish.ContentsPage)
		pages := &p.Parts[part].Pages
		if have < want {
			further := (*pages)[at]
			further.ID, further.Note = p.newPageID(), ""
			*pages = slices.Insert(*pages, at+1, further)
			have++
		} else {
			*pages = slices.Delete(*pages, at, at+1)
			have--
		}
	}
}

// contentsPages is how many pages the contents take.
func (p Packet) contentsPages(known Known) int {
	return p.Finish.Contents.PagesFor(p.FinishPages(PageFacts{Headings: known.headings}))
}

// lastMade is where the last page of a kind is: its part's index and its own within it.
func (p Packet) lastMade(made finish.Made) (part, at int) {
	for i := range p.Parts {
		for j := range p.Parts[i].Pages {
			if p.Parts[i].Pages[j].Made == made {
				part, at = i, j
			}
		}
	}
	return part, at
}

// settleSheets has a sheet before each part that is to have one, and none elsewhere.
func (p *Packet) settleSheets(before Packet) {
	if !p.Finish.Sheets.WantsSheets() {
		p.removeMade(finish.SheetPage)
		return
	}
	had := map[PartID]bool{}
	if before.Finish.Sheets.WantsSheets() {
		for _, part := range before.Parts {
			had[part.ID] = slices.ContainsFunc(part.Pages, func(page Page) bool { return page.Made == finish.SheetPage })
		}
	} else {
		p.Finish.Sheets.Without = ""
	}
	without, skipped := p.withoutSheet(), p.orNone(p.Finish.Sheets.Skip)
	for i := range p.Parts {
		part := &p.Parts[i]
		sheet, has := part.takeSheets()
		first, isGiven := part.firstGiven()
		switch {
		case !isGiven || skipped[first.ID]:
			continue
		case !has && had[part.ID]:
			without[part.ID] = true
		case !has && !without[part.ID]:
			sheet, has = p.madePage(finish.SheetPage), true
		}
		if has && !without[part.ID] {
			part.Pages = slices.Insert(part.Pages, 0, sheet)
		}
	}
	p.Finish.Sheets.Without = p.listed(without)
}

// takeSheets removes the sheets of a part and gives the first.
func (p *Part) takeSheets() (sheet Page, has bool) {
	p.Pages = slices.DeleteFunc(p.Pages, func(page Page) bool {
		if page.Made != finish.SheetPage {
			return false
		}
		if !has {
			sheet, has = page, true
		}
		return true
	})
	return sheet, has
}

// withoutSheet are the parts whose sheet was removed.
func (p Packet) withoutSheet() map[PartID]bool {
	return setOfIDs[PartID](p.Finish.Sheets.Without)
}

// setOfIDs are those that are named with commas between them.
func setOfIDs[ID ~string](list string) map[ID]bool {
	set := map[ID]bool{}
	for id := range strings.SplitSeq(list, ",") {
		if id != "" {
			set[ID(id)] = true
		}
	}
	return set
}

// listed names the parts of a set, in their order. Those that are gone are left out.
func (p Packet) listed(set map[PartID]bool) string {
	var ids []string
	for _, part := range p.Parts {
		if set[part.ID] {
			ids = append(ids, string(part.ID))
		}
	}
	return strings.Join(ids, ",")
}

// leastMade is the shorter edge, in points, of a page that can have a cover's text on it.
const leastMade = 280

// madePage is a new page that the program makes: upright, of the size that most pages have, or of
// A4 where that is too small.
func (p *Packet) madePage(made finish.Made) Page {
	size := geometry.A4
	most, counts := 0, map[geometry.Size]int{}
	for _, page := range p.Pages() {
		if page.IsMade() {
			continue
		}
		s := page.Size()
		s = geometry.Size{Width: min(s.Width, s.Height), Height: max(s.Width, s.Height)}
		if counts[s]++; counts[s] > most && s.Width >= leastMade {
			most, size = counts[s], s
		}
	}
	return Page{ID: p.newPageID(), Upright: size, Made: made}
}
