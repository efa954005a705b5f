package finish

import (
	"fmt"
	"slices"

	"dorbin/core/geometry"
)

// Misfit is what is wrong with what is added to a page, though it can be added.
type Misfit struct {
	Page     int    `json:"page" doc:"Counted from 1."`
	Kind     string `json:"kind" enum:"number,header,footer"`
	Sentence string `json:"sentence"`
}

// mostMisfits are told of one kind; others are like them.
const mostMisfits = 20

// Misfits finds texts that lie on each other or on what is on their page, or do not fit on it.
// The function onInk tells whether there is anything in a box on a page, counted from 0, in points
// from its top left.
func Misfits(pages []Page, marks [][]Mark, onInk func(page int, box geometry.Box) bool) []Misfit {
	misfits := []Misfit{}
	told := map[string]int{}
	for i, all := range marks {
		for j, mark := range all {
			words := ""
			switch {
			case mark.Rule:
			case mark.isOutside(pages[i]):
				words = "is too long for the page"
			case slices.ContainsFunc(all[:j], mark.liesOn):
				words = "lies on another text"
			case onInk(i, mark.Box()):
				words = "lies on what is on the page"
			}
			if words == "" || told[mark.Kind] >= mostMisfits {
				continue
			}
			told[mark.Kind]++
			misfits = append(misfits, Misfit{
				Page: i + 1, Kind: mark.Kind, Sentence: fmt.Sprintf("On page %d the %s %s.", i+1, kindWords[mark.Kind], words),
			})
		}
	}
	return misfits
}

var kindWords = map[string]string{NumberMark: "page number", HeaderMark: "header", FooterMark: "footer"}

func (m Mark) isOutside(page Page) bool {
	return m.At.X < 0 || m.At.X+m.Width > page.Size.Width || m.At.Y < m.Size/2 || m.At.Y > page.Size.Height
}

func (m Mark) liesOn(other Mark) bool {
	if other.Rule {
		return false
	}
	return m.At.X < other.At.X+other.Width && other.At.X < m.At.X+m.Width &&
		m.At.Y-m.Size < other.At.Y && other.At.Y-other.Size < m.At.Y
}
