package finish

import (
	"math"
	"slices"

	"dorbin/core/geometry"
	"dorbin/core/message"
)

// Misfit is what is wrong with what is added to a page, though it can be added.
type Misfit struct {
	Page     int          `json:"page" doc:"Counted from 1."`
	Kind     string       `json:"kind" enum:"number,header,footer,watermark,label,letterhead,cover,contents,sheet"`
	Sentence message.Text `json:"sentence"`
	IsFree   bool         `json:"isFree,omitempty" doc:"A page number has room at the other end of this page."`
}

// Seen tells what is on the pages, counted from 0.
type Seen struct {
	OnInk     func(page int, box geometry.Box) bool // whether there is anything in a box, in points from the top left
	IsPicture func(page int) bool                   // whether it is a picture that hides what is behind it
}

// mostMisfits are told of one kind; others are like them.
const mostMisfits = 20

// Misfits finds texts that lie on each other or on what is on their page, are hidden by it, or do
// not fit on it.
func (f Finish) Misfits(pages []Page, marks [][]Mark, seen Seen) []Misfit {
	misfits := []Misfit{}
	told := map[string]int{}
	for i, all := range marks {
		for j, mark := range all {
			words := misfitWords(pages[i], all[:j], mark, i, seen)
			if words.IsEmpty() || told[mark.Kind] >= mostMisfits {
				continue
			}
			told[mark.Kind]++
			misfit := Misfit{Page: i + 1, Kind: mark.Kind, Sentence: message.Sentence("on page %d %s %s", i+1, kindWords[mark.Kind], words)}
			if mark.Kind == NumberMark {
				other := f.Numbers.markOn(Place{At: i, Number: mark.Text}, pages[i].Size, !f.Numbers.isAtHead(pages[i]))
				misfit.IsFree = misfitWords(pages[i], all[:j], other, i, seen).IsEmpty()
			}
			misfits = append(misfits, misfit)
		}
	}
	return misfits
}

func misfitWords(page Page, before []Mark, mark Mark, at int, seen Seen) message.Text {
	if letter, missing := mark.Face.Missing(mark.Text); missing {
		return message.Of("has the letter “%c”, which the typeface does not have", letter)
	}
	switch {
	case mark.Rule || mark.Kind == CoverMark || mark.Kind == ContentsMark || mark.Kind == SheetMark:
	case mark.Kind == WatermarkMark || mark.Kind == LetterheadMark:
		if mark.Under && seen.IsPicture(at) {
			return message.Of("is hidden by the picture that the page is")
		}
	case mark.isOutside(page):
		return message.Of("is too long for the page")
	case slices.ContainsFunc(before, mark.liesOn):
		return message.Of("lies on another text")
	case seen.OnInk(at, mark.Box()):
		return message.Of("lies on what is on the page")
	}
	return message.Text{}
}

// kindWords name the kinds of marks.
var kindWords = map[string]message.Text{
	NumberMark:     message.Of("the page number"),
	HeaderMark:     message.Of("the header"),
	FooterMark:     message.Of("the footer"),
	LabelMark:      message.Of("the label"),
	WatermarkMark:  message.Of("the watermark"),
	LetterheadMark: message.Of("the letterhead"),
	CoverMark:      message.Of("the cover"),
	ContentsMark:   message.Of("the table of contents"),
	SheetMark:      message.Of("the part sheet"),
}

func (m Mark) isOutside(page Page) bool {
	return m.At.X < 0 || m.At.X+m.Width > page.Size.Width || m.At.Y < m.Size/2 || m.At.Y > page.Size.Height
}

func (m Mark) liesOn(other Mark) bool {
	if other.Rule || other.Kind == WatermarkMark || !other.Picture.IsZero() {
		return false
	}
	return m.At.X < other.At.X+other.Width && other.At.X < m.At.X+m.Width &&
		m.At.Y-m.Size < other.At.Y && other.At.Y-other.Size < m.At.Y
}

// edges are the distances from the paper's edge, in millimetres, that are tried for page numbers.
var edges = []float64{12, 10, 8, 15, 6, 20}

// FreePlace finds a place for the page numbers in which none of them is a misfit, as near as can be
// to where they are: another distance from the edge, another side, the other end. It is nil where
// there is none.
func (f Finish) FreePlace(pages []Page, marks [][]Mark, seen Seen) *Numbers {
	tried := f.Numbers
	tried.Elsewhere = ""
	for _, head := range []bool{tried.Head, !tried.Head} {
		for _, side := range nearest(f.Numbers.Side) {
			for _, edge := range append([]float64{math.Round(geometry.MM(f.Numbers.Edge))}, edges...) {
				tried.Head, tried.Side, tried.Edge = head, side, geometry.FromMM(edge)
				if tried.fits(pages, marks, seen) {
					return &tried
				}
			}
		}
	}
	return nil
}

func nearest(side Side) []Side {
	sides := []Side{side}
	for _, other := range []Side{Right, Middle, Left, Outer} {
		if other != side {
			sides = append(sides, other)
		}
	}
	return sides
}

// fits tells whether none of the numbers is a misfit where they would be now.
func (n Numbers) fits(pages []Page, marks [][]Mark, seen Seen) bool {
	for i, all := range marks {
		last := len(all) - 1
		if last < 0 || all[last].Kind != NumberMark {
			continue
		}
		mark := n.markOn(Place{At: i, Number: all[last].Text}, pages[i].Size, n.Head)
		if !misfitWords(pages[i], all[:last], mark, i, seen).IsEmpty() {
			return false
		}
	}
	return true
}
