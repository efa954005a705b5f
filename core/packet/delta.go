package packet

import (
	"cmp"
	"errors"
	"fmt"
	"reflect"
	"slices"

	"dorbin/core/finish"
	"dorbin/core/requirements"
)

// Delta is what changed between two states of a packet, enough to go from
// either to the other. It is what the command log keeps.
type Delta struct {
	NameBefore string `json:"nameBefore,omitempty"`
	NameAfter  string `json:"nameAfter,omitempty"`
	Hunks      []Hunk `json:"hunks,omitempty"`
	// Expected pages; both zero when that did not change.
	ExpectedBefore int `json:"expectedBefore,omitempty"`
	ExpectedAfter  int `json:"expectedAfter,omitempty"`
	// What is added to the document; nil when that did not change.
	FinishBefore *finish.Finish `json:"finishBefore,omitempty"`
	FinishAfter  *finish.Finish `json:"finishAfter,omitempty"`
	// Receiver is who it was for and is; nil when that did not change.
	Receiver *ReceiverChange `json:"receiver,omitempty"`
}

// ReceiverChange is whom a packet was for, and is; nil is nobody.
type ReceiverChange struct {
	Before *requirements.Receiver `json:"before,omitempty"`
	After  *requirements.Receiver `json:"after,omitempty"`
}

// Hunk replaces a run of the packet's rows. At counts rows in the state after
// all earlier hunks of the same delta have been applied.
type Hunk struct {
	At     int   `json:"at"`
	Before []Row `json:"before,omitempty"`
	After  []Row `json:"after,omitempty"`
}

// Row is one line of a packet written out as a list: the head of a part, a page
// in it, a page set aside, or a source taken out. Exactly one field is set.
type Row struct {
	Part    *PartHead `json:"part,omitempty"`
	Page    *Page     `json:"page,omitempty"`
	Aside   *Aside    `json:"aside,omitempty"`
	Removed *SourceID `json:"removed,omitempty"`
}

// PartHead is a part without its pages.
type PartHead struct {
	ID    PartID `json:"id"`
	Title string `json:"title"`
	Paper string `json:"paper,omitempty"`
}

// ErrMismatch says that a delta does not belong to the state it was applied to.
var ErrMismatch = errors.New("the change does not fit the packet's state")

// Diff finds the delta that leads from one state to another.
func Diff(from, to Packet) Delta {
	d := Delta{Hunks: diffRows(rows(from), rows(to))}
	if from.Name != to.Name {
		d.NameBefore, d.NameAfter = from.Name, to.Name
	}
	if from.Expected != to.Expected {
		d.ExpectedBefore, d.ExpectedAfter = from.Expected, to.Expected
	}
	if from.Finish != to.Finish {
		d.FinishBefore, d.FinishAfter = &from.Finish, &to.Finish
	}
	if !reflect.DeepEqual(from.Receiver, to.Receiver) {
		d.Receiver = &ReceiverChange{from.Receiver, to.Receiver}
	}
	return d
}

// Empty tells whether the delta changes nothing.
func (d Delta) Empty() bool {
	return d.NameBefore == d.NameAfter && d.ExpectedBefore == d.ExpectedAfter && d.FinishAfter == nil && d.Receiver == nil && len(d.Hunks) == 0
}

// Forward applies the delta. It fails with ErrMismatch on a state that the
// delta did not start from.
func (d Delta) Forward(p Packet) (Packet, error) { return d.apply(p) }

// Back takes the delta back. It fails with ErrMismatch on a state that the
// delta did not lead to.
func (d Delta) Back(p Packet) (Packet, error) { return d.inverse().apply(p) }

func (d Delta) inverse() Delta {
	inverse := Delta{
		NameBefore: d.NameAfter, NameAfter: d.NameBefore,
		ExpectedBefore: d.ExpectedAfter, ExpectedAfter: d.ExpectedBefore,
		FinishBefore: d.FinishAfter, FinishAfter: d.FinishBefore,
	}
	if d.Receiver != nil {
		inverse.Receiver = &ReceiverChange{d.Receiver.After, d.Receiver.Before}
	}
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
	next.Name, next.LastID, next.Expected, next.Finish, next.Receiver = p.Name, p.LastID, p.Expected, p.Finish, p.Receiver
	if d.Receiver != nil {
		if !reflect.DeepEqual(p.Receiver, d.Receiver.Before) {
			return p, ErrMismatch
		}
		next.Receiver = d.Receiver.After
	}
	if d.FinishBefore != nil && d.FinishAfter != nil {
		if p.Finish != *d.FinishBefore {
			return p, ErrMismatch
		}
		next.Finish = *d.FinishAfter
	}
	if d.ExpectedBefore != d.ExpectedAfter {
		if p.Expected != d.ExpectedBefore {
			return p, ErrMismatch
		}
		next.Expected = d.ExpectedAfter
	}
	if d.NameBefore != d.NameAfter {
		if p.Name != d.NameBefore {
			return p, ErrMismatch
		}
		next.Name = d.NameAfter
	}
	return next, nil
}

func rows(p Packet) []Row {
	list := make([]Row, 0, p.PageCount()+len(p.Parts)+len(p.SetAside)+len(p.Removed))
	for _, part := range p.Parts {
		list = append(list, Row{Part: &PartHead{ID: part.ID, Title: part.Title, Paper: part.Paper}})
		for j := range part.Pages {
			list = append(list, Row{Page: &part.Pages[j]})
		}
	}
	for i := range p.SetAside {
		list = append(list, Row{Aside: &p.SetAside[i]})
	}
	for i := range p.Removed {
		list = append(list, Row{Removed: &p.Removed[i]})
	}
	return list
}

func fromRows(list []Row) (Packet, error) {
	var p Packet
	for i, row := range list {
		switch {
		case row.Part != nil:
			p.Parts = append(p.Parts, Part{ID: row.Part.ID, Title: row.Part.Title, Paper: row.Part.Paper})
		case row.Page != nil:
			if len(p.Parts) == 0 {
				return p, fmt.Errorf("%w: row %d is a page outside any part", ErrMismatch, i)
			}
			last := &p.Parts[len(p.Parts)-1]
			last.Pages = append(last.Pages, *row.Page)
		case row.Aside != nil:
			p.SetAside = append(p.SetAside, *row.Aside)
		case row.Removed != nil:
			p.Removed = append(p.Removed, *row.Removed)
		default:
			return p, fmt.Errorf("%w: row %d is empty", ErrMismatch, i)
		}
	}
	return p, nil
}

// diffRows keeps the longest run of rows that are the same in both lists and in
// the same order, and replaces what lies between them. Rows are all different,
// so that run is a longest increasing subsequence of their places.
func diffRows(from, to []Row) []Hunk {
	places := make(map[rowKey]int, len(to))
	for i, row := range to {
		places[row.key()] = i
	}
	inTo := make([]int, len(from)) // where a row of from is in to; -1 is nowhere
	for i, row := range from {
		place, ok := places[row.key()]
		if !ok {
			place = -1
		}
		inTo[i] = place
	}
	var hunks []Hunk
	doneFrom, doneTo := 0, 0
	upTo := func(endFrom, endTo int) {
		if endFrom > doneFrom || endTo > doneTo {
			hunks = append(hunks, Hunk{At: doneTo, Before: from[doneFrom:endFrom], After: to[doneTo:endTo]})
		}
		doneFrom, doneTo = endFrom+1, endTo+1
	}
	for _, i := range longestIncreasing(inTo) {
		upTo(i, inTo[i])
	}
	upTo(len(from), len(to))
	return hunks
}

// longestIncreasing gives the indices of a longest increasing subsequence,
// without negative numbers, by patience sorting.
func longestIncreasing(numbers []int) []int {
	var tails []int // index of the smallest number that ends a subsequence of each length
	previous := make([]int, len(numbers))
	for i, n := range numbers {
		if n < 0 {
			continue
		}
		length, _ := slices.BinarySearchFunc(tails, n, func(tail, n int) int { return cmp.Compare(numbers[tail], n) })
		previous[i] = -1
		if length > 0 {
			previous[i] = tails[length-1]
		}
		if length == len(tails) {
			tails = append(tails, i)
		} else {
			tails[length] = i
		}
	}
	chain := make([]int, len(tails))
	for i, at := len(tails)-1, -1; i >= 0; i-- {
		if at < 0 {
			at = tails[i]
		} else {
			at = previous[at]
		}
		chain[i] = at
	}
	return chain
}

// rowKey is a row as a value that can be compared.
type rowKey struct {
	part    PartHead
	page    Page
	aside   Aside
	removed SourceID
}

func (r Row) key() rowKey {
	return rowKey{value(r.Part), value(r.Page), value(r.Aside), value(r.Removed)}
}

func value[T any](pointer *T) (v T) {
	if pointer != nil {
		v = *pointer
	}
	return v
}

func (r Row) equal(other Row) bool { return r.key() == other.key() }
