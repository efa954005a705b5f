package packet

import (
	"errors"
	"fmt"
	"slices"
)

// Delta is what changed between two states of a packet, enough to go from
// either to the other. It is what the command log keeps.
type Delta struct {
	NameBefore string `json:"nameBefore,omitempty"`
	NameAfter  string `json:"nameAfter,omitempty"`
	Hunks      []Hunk `json:"hunks,omitempty"`
}

// Hunk replaces a run of the packet's rows. At counts rows in the state after
// all earlier hunks of the same delta have been applied.
type Hunk struct {
	At     int   `json:"at"`
	Before []Row `json:"before,omitempty"`
	After  []Row `json:"after,omitempty"`
}

// Row is one line of a packet written out as a list: the head of a part, a page
// in it, or a page set aside. Exactly one field is set.
type Row struct {
	Part  *PartHead `json:"part,omitempty"`
	Page  *Page     `json:"page,omitempty"`
	Aside *Aside    `json:"aside,omitempty"`
}

// PartHead is a part without its pages.
type PartHead struct {
	ID    PartID `json:"id"`
	Title string `json:"title"`
}

// ErrMismatch says that a delta does not belong to the state it was applied to.
var ErrMismatch = errors.New("the change does not fit the packet's state")

// Diff finds the delta that leads from one state to another.
func Diff(from, to Packet) Delta {
	d := Delta{Hunks: diffRows(rows(from), rows(to))}
	if from.Name != to.Name {
		d.NameBefore, d.NameAfter = from.Name, to.Name
	}
	return d
}

// Empty tells whether the delta changes nothing.
func (d Delta) Empty() bool { return d.NameBefore == d.NameAfter && len(d.Hunks) == 0 }

// Forward applies the delta. It fails with ErrMismatch on a state that the
// delta did not start from.
func (d Delta) Forward(p Packet) (Packet, error) { return d.apply(p) }

// Back takes the delta back. It fails with ErrMismatch on a state that the
// delta did not lead to.
func (d Delta) Back(p Packet) (Packet, error) { return d.inverse().apply(p) }

func (d Delta) inverse() Delta {
	inverse := Delta{NameBefore: d.NameAfter, NameAfter: d.NameBefore}
	for _, h := range slices.Backward(d.Hunks) {
		inverse.Hunks = append(inverse.Hunks, Hunk{At: h.At, Before: h.After, After: h.Before})
	}
	return inverse
}

func (d Delta) apply(p Packet) (Packet, error) {
	list := rows(p)
	for _, h := range d.Hunks {
		end := h.At + len(h.Before)
		if h.At < 0 || end > len(list) || !slices.EqualFunc(list[h.At:end], h.Before, Row.equal) {
			return p, ErrMismatch
		}
		list = slices.Replace(list, h.At, end, h.After...)
	}
	next, err := fromRows(list)
	if err != nil {
		return p, err
	}
	next.Name, next.LastID = p.Name, p.LastID
	if d.NameBefore != d.NameAfter {
		if p.Name != d.NameBefore {
			return p, ErrMismatch
		}
		next.Name = d.NameAfter
	}
	return next, nil
}

func rows(p Packet) []Row {
	list := make([]Row, 0, p.PageCount()+len(p.Parts)+len(p.SetAside))
	for _, part := range p.Parts {
		list = append(list, Row{Part: &PartHead{ID: part.ID, Title: part.Title}})
		for j := range part.Pages {
			list = append(list, Row{Page: &part.Pages[j]})
		}
	}
	for i := range p.SetAside {
		list = append(list, Row{Aside: &p.SetAside[i]})
	}
	return list
}

func fromRows(list []Row) (Packet, error) {
	var p Packet
	for i, row := range list {
		switch {
		case row.Part != nil:
			p.Parts = append(p.Parts, Part{ID: row.Part.ID, Title: row.Part.Title})
		case row.Page != nil:
			if len(p.Parts) == 0 {
				return p, fmt.Errorf("%w: row %d is a page outside any part", ErrMismatch, i)
			}
			last := &p.Parts[len(p.Parts)-1]
			last.Pages = append(last.Pages, *row.Page)
		case row.Aside != nil:
			p.SetAside = append(p.SetAside, *row.Aside)
		default:
			return p, fmt.Errorf("%w: row %d is empty", ErrMismatch, i)
		}
	}
	return p, nil
}

// diffRows compares row by row when nothing was added or removed, which keeps
// a turn of two distant pages small; otherwise it replaces what lies between
// the common beginning and the common end.
func diffRows(from, to []Row) []Hunk {
	if len(from) == len(to) {
		return diffEqualLength(from, to)
	}
	start := 0
	for start < min(len(from), len(to)) && from[start].equal(to[start]) {
		start++
	}
	end := 0
	for end < min(len(from), len(to))-start && from[len(from)-1-end].equal(to[len(to)-1-end]) {
		end++
	}
	return []Hunk{{At: start, Before: from[start : len(from)-end], After: to[start : len(to)-end]}}
}

func diffEqualLength(from, to []Row) []Hunk {
	var hunks []Hunk
	for i := 0; i < len(from); i++ {
		start := i
		for i < len(from) && !from[i].equal(to[i]) {
			i++
		}
		if i > start {
			hunks = append(hunks, Hunk{At: start, Before: from[start:i], After: to[start:i]})
		}
	}
	return hunks
}

func (r Row) equal(other Row) bool {
	return same(r.Part, other.Part) && same(r.Page, other.Page) && same(r.Aside, other.Aside)
}

func same[T comparable](a, b *T) bool {
	if a == nil || b == nil {
		return a == b
	}
	return *a == *b
}
