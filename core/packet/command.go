package packet

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"dorbin/core/geometry"
	"dorbin/core/raster"
)

// ErrInvalid is wrapped by every error about something that was asked for and cannot be
// done, such as a command.
var ErrInvalid = errors.New("it cannot be done")

// InvalidError is why something that was asked for cannot be done. It wraps ErrInvalid.
type InvalidError struct {
	Do    string // the command, if it is one among several
	Cause error  // in words that a user can read
}

func (e *InvalidError) Error() string {
	if e.Do == "" {
		return e.Cause.Error()
	}
	return fmt.Sprintf("%s: %v", e.Do, e.Cause)
}

// Unwrap gives ErrInvalid and the cause.
func (e *InvalidError) Unwrap() []error { return []error{ErrInvalid, e.Cause} }

// Invalid says in words that a user can read why something cannot be done.
func Invalid(format string, values ...any) error {
	return &InvalidError{Cause: fmt.Errorf(format, values...)}
}

// MaxTitle is the longest title of a part or name of a packet, in characters.
const MaxTitle = 200

// Command is one act on a packet. Which fields count depends on Do: Verbs tells. In place of
// Pages, a Range may name them, as ParseSelection reads it.
type Command struct {
	Do              string                  `json:"do"`
	Pages           []PageID                `json:"pages,omitempty"`
	Range           string                  `json:"range,omitempty" doc:"In place of pages: a selection in words, such as 2-9, odd."`
	By              int                     `json:"by,omitempty"`
	Axis            string                  `json:"axis,omitempty" enum:"leftRight,topBottom"`
	Outline         *geometry.PaperQuad     `json:"outline,omitempty" doc:"Corners clockwise from the paper's top left, as fractions of the source page."`
	Fold            *raster.Fold            `json:"fold,omitempty"`
	RightFirst      bool                    `json:"rightFirst,omitempty"`
	Angle           float64                 `json:"angle,omitempty"`
	Box             *geometry.Box           `json:"box,omitempty"`
	Boxes           map[PageID]geometry.Box `json:"boxes,omitempty"`
	Mirrored        bool                    `json:"mirrored,omitempty"`
	Fit             *geometry.SheetLayout   `json:"fit,omitempty"`
	Clean           *raster.Cleaning        `json:"clean,omitempty"`
	Picture         bool                    `json:"picture,omitempty"`
	Tone            *raster.Tone            `json:"tone,omitempty"`
	OmitAnnotations bool                    `json:"bare,omitempty"`
	After           PageID                  `json:"after,omitempty"`
	Before          PageID                  `json:"before,omitempty"`
	Part            PartID                  `json:"part,omitempty"`
	At              *int                    `json:"at,omitempty"` // index among the part's other pages; nil is its end
	Source          SourceID                `json:"source,omitempty"`
	Take            []int                   `json:"take,omitempty" doc:"Numbers of the source's pages, from 1, in the order wanted."`
	Replace         []PageID                `json:"replace,omitempty"`
	Title           string                  `json:"title,omitempty"`
	Titles          []string                `json:"titles,omitempty"`
	Parts           []PartID                `json:"parts,omitempty"`
	Backwards       bool                    `json:"backwards,omitempty"`
	Size            *geometry.Size          `json:"size,omitempty" doc:"Points."`
	Count           int                     `json:"count,omitempty"`
}

// Apply carries out the commands in order on a copy of the packet and says in
// words what was done. When one cannot be carried out none is, and the error
// wraps ErrInvalid.
func Apply(p Packet, commands []Command, known Known) (Packet, string, error) {
	if len(commands) == 0 {
		return p, "", Invalid("there is no command")
	}
	next := p.clone()
	var said []string
	for _, c := range commands {
		verb, ok := verbByName[c.Do]
		if !ok {
			return p, "", Invalid("there is no command %q", c.Do)
		}
		if err := c.resolveRange(next, known); err != nil {
			return p, "", &InvalidError{c.Do, err}
		}
		words, err := verb.act(&next, c, known)
		if err != nil {
			return p, "", &InvalidError{c.Do, err}
		}
		said = append(said, words)
	}
	return next, strings.Join(slices.Compact(said), ", then "), nil
}

func move(p *Packet, c Command, _ Known) (string, error) {
	pages, err := p.takePlaced(c.Pages)
	if err != nil {
		return "", err
	}
	if err := p.insert(pages, c); err != nil {
		return "", err
	}
	p.dropEmptyParts()
	return "Moved " + countPages(len(pages)), nil
}

func turn(p *Packet, c Command, _ Known) (string, error) {
	words, ok := turnWords[c.By]
	if !ok {
		return "", fmt.Errorf("a page is turned by 90, 180 or 270 degrees, not %d", c.By)
	}
	n, err := p.adjust(c.Pages, func(page *Page) error {
		page.Turn = geometry.NormalTurn(page.Turn + c.By)
		return nil
	})
	return fmt.Sprintf("Turned %s %s", countPages(n), words), err
}

var turnWords = map[int]string{90: "right", 180: "by 180°", 270: "left"}

func setAside(p *Packet, c Command, _ Known) (string, error) {
	wanted, err := p.placedSet(c.Pages)
	if err != nil {
		return "", err
	}
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
	return fmt.Sprintf("Set %s aside", countPages(len(wanted))), nil
}

func restore(p *Packet, c Command, _ Known) (string, error) {
	wanted, err := uniqueIDs(c.Pages)
	if err != nil {
		return "", err
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
		return "", fmt.Errorf("page %s is not set aside", id)
	}
	p.SetAside = stay
	if c.hasDestination() {
		pages := make([]Page, len(back))
		for i, aside := range back {
			pages[i] = aside.Page
		}
		err = p.insert(pages, c)
	} else {
		for _, aside := range back {
			p.putBack(aside)
		}
	}
	return "Brought back " + countPages(len(back)), err
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

func rename(p *Packet, c Command, _ Known) (string, error) {
	title, err := cleanTitle(c.Title)
	p.Name = title
	return fmt.Sprintf("Renamed the packet to “%s”", title), err
}

func (c Command) hasDestination() bool { return c.After != "" || c.Before != "" || c.Part != "" }

// insert puts pages, which are in no part at this time, at the destination.
func (p *Packet) insert(pages []Page, c Command) error {
	part, at, err := p.destination(c)
	if err != nil {
		return err
	}
	p.Parts[part].Pages = slices.Insert(p.Parts[part].Pages, at, pages...)
	return nil
}

func (p *Packet) destination(c Command) (part, at int, err error) {
	if anchor := c.After + c.Before; anchor != "" {
		if c.After != "" && c.Before != "" {
			return 0, 0, errors.New("give either after or before, not both")
		}
		part, at, found := p.position(anchor)
		if !found {
			return 0, 0, fmt.Errorf("page %s is not there to put them next to", anchor)
		}
		if c.After != "" {
			at++
		}
		return part, at, nil
	}
	part = p.partIndex(c.Part)
	if part < 0 {
		return 0, 0, fmt.Errorf("there is no part %q", c.Part)
	}
	end := len(p.Parts[part].Pages)
	if c.At == nil {
		return part, end, nil
	}
	if *c.At < 0 || *c.At > end {
		return 0, 0, fmt.Errorf("a part of %s has no place %d", countPages(end), *c.At)
	}
	return part, *c.At, nil
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
			return nil, fmt.Errorf("page %s is not in any part", id)
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
		return nil, errors.New("no pages are named")
	}
	set := make(map[PageID]bool, len(ids))
	for _, id := range ids {
		if set[id] {
			return nil, fmt.Errorf("page %s is named twice", id)
		}
		set[id] = true
	}
	return set, nil
}

func cleanTitle(title string) (string, error) {
	title = strings.Join(strings.Fields(title), " ")
	if title == "" {
		return "", errors.New("a name must not be empty")
	}
	if n := utf8.RuneCountInString(title); n > MaxTitle {
		return "", fmt.Errorf("a name has at most %d characters, this one has %d", MaxTitle, n)
	}
	return title, nil
}

func countPages(n int) string {
	if n == 1 {
		return "1 page"
	}
	return fmt.Sprintf("%d pages", n)
}

func its(n int) string {
	if n == 1 {
		return "its"
	}
	return "their"
}
