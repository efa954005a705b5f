package export

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"dorbin/core/packet"
	"dorbin/core/shrink"
	"dorbin/internal/jobs"
	"dorbin/internal/store"
)

// Plan is how each page of a packet is to be written, and what the document will weigh.
type Plan struct {
	Sizing
	Pages    []PlannedPage   `json:"pages" nullable:"false" doc:"None where all of them go in as they are."`
	Before   int64           `json:"before" doc:"Bytes, as it is."`
	After    int64           `json:"after" doc:"Bytes; an estimate while pages are not measured."`
	Lightest int64           `json:"lightest" doc:"Bytes of the lightest plan by which nothing is lost that is to be read."`
	Waiting  int             `json:"waiting" doc:"Pages that are not measured yet."`
	Unread   int             `json:"unread" doc:"Pages to be written otherwise whose words have yet to be compared."`
	Fits     bool            `json:"fits" doc:"It is under the limit, or there is none."`
	Only     []packet.PageID `json:"only,omitempty" nullable:"false" doc:"The pages that it is of, when it is not of all."`
	Helps    []Help          `json:"helps" nullable:"false" doc:"What would make it lighter, when the limit cannot be met."`
	Files    int             `json:"files,omitempty" doc:"Into about how many lighter files, each under the limit, it could be split then; none where a page alone is too heavy."`
}

// PlannedPage is how a page is to be written.
type PlannedPage struct {
	Number int           `json:"number" doc:"In the packet, from 1."`
	Page   packet.PageID `json:"page"`
	Kind   shrink.Kind   `json:"kind,omitempty" enum:"blank,blackText,colourText,photograph" doc:"What it shows, where that was looked at."`
	shrink.EncodingParams
	Before     int64             `json:"before" doc:"Bytes, as it is."`
	After      int64             `json:"after" doc:"Bytes."`
	Kept       float64           `json:"kept" doc:"Share of what is on the page that is there as before, 0 to 1."`
	Words      *float64          `json:"words,omitempty" doc:"Share of the words that are read as before, where that was tried."`
	Measured   bool              `json:"measured" doc:"Nothing of it is estimated."`
	Unreadable bool              `json:"unreadable,omitempty" doc:"It cannot be decoded, and is kept as it is."`
	Hold       shrink.Override   `json:"hold,omitempty" enum:"keep,colour,grey,blackWhite,photo" doc:"What was decided for it."`
	Holds      []shrink.Override `json:"holds,omitempty" enum:"keep,colour,grey,blackWhite,photo" doc:"What can be decided for it."`
}

// Help is what would make a document lighter.
type Help struct {
	Number int             `json:"number" doc:"Of the page, from 1."`
	Page   packet.PageID   `json:"page"`
	Bytes  int64           `json:"bytes" doc:"What it weighs in the lightest plan."`
	Hold   shrink.Override `json:"hold,omitempty" enum:"grey,blackWhite,photo" doc:"What it could be held as to be lighter."`
	Free   bool            `json:"free,omitempty" doc:"It would be lighter if it were not held."`
	Saves  int64           `json:"saves,omitempty" doc:"Bytes that this saves."`
	Kept   float64         `json:"kept,omitempty" doc:"Share of what is on it that would be there as before."`
}

// Plan tells how the pages of a packet, or those of a range in words, are to be written
// as its sizing asks, as far as they were measured, and has the others measured in the
// background.
func (s *Service) Plan(ctx context.Context, packetID, selection string) (Plan, error) {
	pages, sizing, err := s.pagesOf(ctx, packetID)
	if err != nil {
		return Plan{}, err
	}
	var only []packet.PageID
	if strings.TrimSpace(selection) != "" {
		if only, err = s.packets.Select(ctx, packetID, selection); err != nil {
			return Plan{}, err
		}
		wanted := setOf(only)
		pages = slices.DeleteFunc(pages, func(page *measuredPage) bool { return !wanted[page.ID] })
	}
	plan := planOf(pages, sizing)
	plan.Only = only
	if !s.reader.IsInstalled() {
		plan.Unread = 0
	}
	if plan.Waiting+plan.Unread > 0 {
		err = s.runner.Add(ctx, packetID, jobs.Job{Kind: store.JobMeasure, Key: packetID})
	}
	return plan, err
}

func setOf(ids []packet.PageID) map[packet.PageID]bool {
	set := make(map[packet.PageID]bool, len(ids))
	for _, id := range ids {
		set[id] = true
	}
	return set
}

func planOf(pages []*measuredPage, sizing Sizing) Plan {
	chosen, _ := choose(pages, sizing, sizing.Limit)
	plan := Plan{Sizing: sizing, Pages: []PlannedPage{}, Helps: []Help{}}
	for i, page := range pages {
		if sizing.Size != AsItIs {
			plan.Pages = append(plan.Pages, page.planned(sizing, chosen[i]))
		}
		plan.Before += page.bytes
		plan.After += chosen[i].Bytes
		plan.Lightest += lightestOf(page.versions(sizing)).Bytes
		switch {
		case sizing.Size == AsItIs:
		case page.lacks(sizing.scope()):
			plan.Waiting++
		case page.isUnread(chosen[i]):
			plan.Unread++
		}
	}
	plan.Fits = sizing.Limit == 0 || plan.After <= sizing.Limit
	if sizing.Size == Fit && !plan.Fits && plan.Waiting == 0 {
		plan.Helps = helps(pages, sizing)
		plan.Files = filesUnder(pages, sizing)
	}
	return plan
}

// choose gives the version in which each page is written, and whether all of them weigh
// no more than the limit together.
func choose(pages []*measuredPage, sizing Sizing, limit int64) (chosen []shrink.Candidate, fits bool) {
	chosen = make([]shrink.Candidate, len(pages))
	if sizing.Size == Fit {
		versions := make([][]shrink.Candidate, len(pages))
		for i, page := range pages {
			versions[i] = page.versions(sizing)
		}
		var places []int
		places, fits = shrink.ChooseWithinBudget(versions, limit)
		for i, place := range places {
			chosen[i] = versions[i][place]
		}
		return chosen, fits
	}
	for i, page := range pages {
		chosen[i] = shrink.AsItIs(page.bytes)
		switch {
		case sizing.Size == AsItIs || !page.isPicture:
		case page.known == nil:
			chosen[i] = page.estimate()
		default:
			chosen[i] = page.known.Lighter(sizing.Holds[page.ID])
		}
	}
	return chosen, true
}

// versions are what a page may be written as; estimated while it is not measured.
func (w *measuredPage) versions(sizing Sizing) []shrink.Candidate {
	switch {
	case !w.isPicture:
		return []shrink.Candidate{shrink.AsItIs(w.bytes)}
	case w.known == nil:
		return []shrink.Candidate{shrink.AsItIs(w.bytes), w.estimate()}
	}
	return w.known.Allowed(sizing.Holds[w.ID])
}

// usualShare is the share of its bytes that most pictures of pages can do with.
const usualShare = 0.2

func (w *measuredPage) estimate() shrink.Candidate {
	v := shrink.AsItIs(int64(usualShare * float64(w.bytes)))
	v.Loss = 0.02
	return v
}

func (w *measuredPage) planned(sizing Sizing, v shrink.Candidate) PlannedPage {
	page := PlannedPage{
		Number: w.position + 1, Page: w.ID, EncodingParams: v.EncodingParams, Before: w.bytes, After: v.Bytes, Kept: v.Fidelity, Words: v.Words,
		Measured: !w.isPicture || w.known != nil, Hold: sizing.Holds[w.ID],
	}
	if w.known == nil {
		return page
	}
	page.Kind, page.Unreadable = w.known.Kind, w.known.Unreadable
	if !page.Unreadable {
		page.Holds = w.known.Holds()
	}
	return page
}

func lightestOf(versions []shrink.Candidate) shrink.Candidate {
	return slices.MinFunc(versions, func(a, b shrink.Candidate) int { return cmp.Compare(a.Bytes, b.Bytes) })
}

// mostHelps are told of pages.
const mostHelps = 4

// helps names the heaviest pages of the lightest plan and what each could be held as.
func helps(pages []*measuredPage, sizing Sizing) []Help {
	all := []Help{}
	for _, page := range pages {
		now := lightestOf(page.versions(sizing))
		help := Help{Number: page.position + 1, Page: page.ID, Bytes: now.Bytes}
		if page.known != nil {
			help.lighter(page.known, sizing.Holds[page.ID], now.Bytes)
		}
		all = append(all, help)
	}
	slices.SortStableFunc(all, func(a, b Help) int {
		return cmp.Or(cmp.Compare(b.Saves, a.Saves), cmp.Compare(b.Bytes, a.Bytes))
	})
	heaviest := slices.MaxFunc(all, func(a, b Help) int { return cmp.Compare(a.Bytes, b.Bytes) })
	all = all[:min(len(all), mostHelps)]
	if !slices.Contains(all, heaviest) {
		all[len(all)-1] = heaviest
	}
	return all
}

// filesUnder tells into how many files pages could be split that are lighter, and each
// under the limit; 0 where a page alone is not.
func filesUnder(pages []*measuredPage, sizing Sizing) int {
	each := sizing.Limit - overheadGuess
	chosen, _ := choose(pages, Sizing{Size: Lighter, Holds: sizing.Holds}, 0)
	var parts [][]int64
	for i, v := range chosen {
		if v.Bytes > each {
			return 0
		}
		if i == 0 || pages[i].part != pages[i-1].part {
			parts = append(parts, nil)
		}
		parts[len(parts)-1] = append(parts[len(parts)-1], v.Bytes)
	}
	return len(packet.SplitBySize(parts, each))
}

const (
	worthTelling = 0.1 // share of a page's bytes that a help saves at least
	leastHelpful = 0.9 // share of what is on the page that it leaves at least
)

// lighter finds what would make a page the lightest.
func (h *Help) lighter(m *encodings, held shrink.Override, bytes int64) {
	for _, hold := range []shrink.Override{shrink.Auto, shrink.InGrey, shrink.InBlack, shrink.AsPhoto} {
		if hold == held || !m.Can(hold) {
			continue
		}
		v := lightestOf(m.Allowed(hold))
		saves := bytes - v.Bytes
		if saves > h.Saves && float64(saves) > worthTelling*float64(bytes) && v.Fidelity >= leastHelpful {
			h.Hold, h.Free, h.Saves, h.Kept = hold, hold == shrink.Auto, saves, v.Fidelity
		}
	}
}
