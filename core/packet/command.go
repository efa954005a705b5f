package packet

import (
	"slices"
	"strings"
	"unicode/utf8"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/problem"
)

// MaxTitle is the longest title of a part or name of a packet, in characters.
const MaxTitle = 200

// Command is one act on a packet, of one of the types that Verbs lists.
type Command interface {
	// apply carries it out on the pages that it names, and says in words what was done.
	apply(p *Packet, pages []PageID, known Known) (words message.Text, err error)
}

// Apply carries out the commands in order on a copy of the packet and says in
// words what was done. When one cannot be carried out none is, and the error
// is a problem.Invalid.
func Apply(p Packet, commands []Command, known Known) (Packet, message.Text, error) {
	if len(commands) == 0 {
		return p, message.Text{}, problem.New(problem.Invalid, "there is no command")
	}
	next := p.clone()
	var said []message.Text
	for _, c := range commands {
		if c == nil {
			return p, message.Text{}, problem.New(problem.Invalid, "there is no such command")
		}
		words, err := carryOut(&next, c, known)
		if err != nil {
			return p, message.Text{}, problem.Because(problem.Invalid, err)
		}
		said = append(said, words)
	}
	said = append(said, next.settle(p, known)...)
	said = slices.CompactFunc(said, func(a, b message.Text) bool { return a.English == b.English })
	return next, message.Then(said...), nil
}

func carryOut(p *Packet, c Command, known Known) (words message.Text, err error) {
	var pages []PageID
	if on, ok := c.(onPages); ok {
		if pages, err = on.selected().resolve(*p, known); err != nil {
			return message.Text{}, err
		}
	}
	return c.apply(p, pages, known)
}

// Move puts pages at a destination.
type Move struct {
	Selected
	Destination
}

func (c Move) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	before := p.numbers()
	pages, err := p.takePlaced(ids)
	if err != nil {
		return message.Text{}, err
	}
	if err := p.insert(pages, c.Destination); err != nil {
		return message.Text{}, err
	}
	p.dropEmptyParts()
	from, to := before[pages[0].ID], p.numbers()[pages[0].ID]
	switch {
	case len(pages) == 1 && from == to: // the last of a part became the first of the next, or the other way round
		part, _, _ := p.position(pages[0].ID)
		return message.Of("Moved page %d into “%s”", from, p.Parts[part].Title), nil
	case len(pages) == 1:
		return message.Of("Moved page %d to %d", from, to), nil
	}
	return message.Of("Moved %d pages to %d–%d", len(pages), to, to+len(pages)-1), nil
}

// Turn turns pages by 90, 180 or 270 degrees clockwise.
type Turn struct {
	Selected
	By int `json:"by"`
}

func (c Turn) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	if geometry.NormalTurn(c.By) != c.By || c.By == 0 {
		return message.Text{}, message.Errorf("a page is turned by 90, 180 or 270 degrees, not %d", c.By)
	}
	on, err := p.adjust(ids, func(page *Page) error {
		page.Turn = geometry.NormalTurn(page.Turn + c.By)
		return nil
	})
	return turnWords(c.By, on), err
}

func turnWords(by int, on affected) message.Text {
	switch by {
	case 90:
		return message.Of("Turned %s right", on)
	case 270:
		return message.Of("Turned %s left", on)
	}
	return message.Of("Turned %s by 180°", on)
}

// SetAside sets pages aside.
type SetAside struct {
	Selected
}

func (SetAside) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	wanted, err := p.placedSet(ids)
	if err != nil {
		return message.Text{}, err
	}
	on := p.affected(wanted)
	for i := range p.Parts {
		part := &p.Parts[i]
		var kept []Page
		origin := Origin{Part: part.ID, Title: part.Title}
		for _, page := range part.Pages {
			if wanted[page.ID] {
				p.SetAside = append(p.SetAside, Aside{Page: page, Origin: origin})
			} else {
				kept = append(kept, page)
			}
			origin.After = page.ID
		}
		part.Pages = kept
	}
	p.dropEmptyParts()
	return message.Of("Set aside %s", on), nil
}

// Restore brings pages that were set aside back to a destination, or to where they were.
type Restore struct {
	Selected
	Destination
}

func (c Restore) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	wanted, err := uniqueIDs(ids)
	if err != nil {
		return message.Text{}, err
	}
	var back, stay []Aside
	for _, aside := range p.SetAside {
		if wanted[aside.ID] {
			back = append(back, aside)
			delete(wanted, aside.ID)
		} else {
			stay = append(stay, aside)
		}
	}
	for id := range wanted {
		return message.Text{}, message.Errorf("page %s is not set aside", id)
	}
	p.SetAside = stay
	if c.names() {
		pages := make([]Page, len(back))
		for i, aside := range back {
			pages[i] = aside.Page
		}
		err = p.insert(pages, c.Destination)
	} else {
		for _, aside := range back {
			p.putBack(aside)
		}
	}
	if err != nil || len(back) != 1 {
		return message.Of("Brought back %s", CountPages(len(back))), err
	}
	return message.Of("Brought back page %d", p.numbers()[back[0].ID]), nil
}

// putBack returns a page to its part, after the page it followed if that is
// still there. A part that has gone since is made again at the end.
func (p *Packet) putBack(aside Aside) {
	i := p.partIndex(aside.Origin.Part)
	if i < 0 {
		p.Parts = append(p.Parts, Part{ID: aside.Origin.Part, Title: aside.Origin.Title, Pages: []Page{aside.Page}})
		return
	}
	at := 0
	if aside.Origin.After != "" {
		at = len(p.Parts[i].Pages)
		for j, page := range p.Parts[i].Pages {
			if page.ID == aside.Origin.After {
				at = j + 1
			}
		}
	}
	p.Parts[i].Pages = slices.Insert(p.Parts[i].Pages, at, aside.Page)
}

// Rename renames the packet.
type Rename struct {
	Title string `json:"title"`
}

func (c Rename) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	title, err := cleanTitle(c.Title)
	p.Name = title
	return message.Of("Renamed the packet to “%s”", title), err
}

// takePlaced removes pages from the parts and returns them in packet order.
// Parts left empty stay, so that they can still be a destination.
func (p *Packet) takePlaced(ids []PageID) ([]Page, error) {
	wanted, err := p.placedSet(ids)
	if err != nil {
		return nil, err
	}
	taken := make([]Page, 0, len(wanted))
	for i := range p.Parts {
		var kept []Page
		for _, page := range p.Parts[i].Pages {
			if wanted[page.ID] {
				taken = append(taken, page)
			} else {
				kept = append(kept, page)
			}
		}
		p.Parts[i].Pages = kept
	}
	return taken, nil
}

// placedSet makes a set of ids and checks that each is a page in a part.
func (p Packet) placedSet(ids []PageID) (map[PageID]bool, error) {
	wanted, err := uniqueIDs(ids)
	if err != nil {
		return nil, err
	}
	missing := len(wanted)
	for _, part := range p.Parts {
		for _, page := range part.Pages {
			if wanted[page.ID] {
				missing--
			}
		}
	}
	if missing == 0 {
		return wanted, nil
	}
	for _, id := range ids {
		if _, _, found := p.position(id); !found {
			return nil, message.Errorf("page %s is not in any part", id)
		}
	}
	return wanted, nil
}

func (p Packet) firstPosition(ids []PageID) (part, at int, found bool) {
	wanted := make(map[PageID]bool, len(ids))
	for _, id := range ids {
		wanted[id] = true
	}
	for i := range p.Parts {
		for j, page := range p.Parts[i].Pages {
			if wanted[page.ID] {
				return i, j, true
			}
		}
	}
	return 0, 0, false
}

func uniqueIDs(ids []PageID) (map[PageID]bool, error) {
	if len(ids) == 0 {
		return nil, message.Errorf("no pages are named")
	}
	set := make(map[PageID]bool, len(ids))
	for _, id := range ids {
		if set[id] {
			return nil, message.Errorf("page %s is named twice", id)
		}
		set[id] = true
	}
	return set, nil
}

func cleanTitle(title string) (string, error) {
	title = strings.Join(strings.Fields(title), " ")
	if title == "" {
		return "", message.Errorf("a name must not be empty")
	}
	if n := utf8.RuneCountInString(title); n > MaxTitle {
		return "", message.Errorf("a name has at most %d characters, this one has %d", MaxTitle, n)
	}
	return title, nil
}
