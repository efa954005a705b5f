package export

import (
	"context"
	"slices"
	"strings"

	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/shrink"
	"dorbin/internal/jobs"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// Plan is how each page of a packet is to be written, and what the document will take up.
type Plan struct {
	Sizing
	Pages       []PlannedPage   `json:"pages" nullable:"false" doc:"None where all of them go in as they are."`
	Before      int64           `json:"before" doc:"Bytes, as it is."`
	After       int64           `json:"after" doc:"Bytes; an estimate while pages are not measured."`
	Uncertainty int64           `json:"uncertainty" doc:"Bytes by which it may turn out smaller or larger."`
	Smallest    int64           `json:"lightest" doc:"Bytes of the lightest plan by which nothing is lost that is to be read."`
	Waiting     int             `json:"waiting" doc:"Pages that are not measured yet."`
	Unread      int             `json:"unread" doc:"Pages to be written otherwise whose words have yet to be compared."`
	Fits        bool            `json:"fits" doc:"It is under the limit, or there is none."`
	Only        []packet.PageID `json:"only,omitempty" nullable:"false" doc:"The pages that it is of, when it is not of all."`
	Helps       []Help          `json:"helps" nullable:"false" doc:"What would make it smaller, when the limit cannot be met."`
	Files       int             `json:"files,omitempty" doc:"Into about how many files, each under the limit, it is split; or could be, smaller, where the limit of one cannot be met. None where a page alone is too large."`
}

// PlannedPage is how a page is to be written.
type PlannedPage struct {
	Number int           `json:"number" doc:"In the packet, from 1."`
	Page   packet.PageID `json:"page"`
	Kind   shrink.Kind   `json:"kind,omitempty" enum:"blank,blackText,colourText,photograph" doc:"What it shows, where that is known."`
	shrink.EncodingParams
	Before     int64             `json:"before" doc:"Bytes, as it is."`
	After      int64             `json:"after" doc:"Bytes."`
	Kept       float64           `json:"kept" doc:"Share of what is on the page that is there as before, 0 to 1."`
	Words      *float64          `json:"words,omitempty" doc:"Share of the words that are read as before, where that was tried."`
	Measured   bool              `json:"measured" doc:"Nothing of it is estimated."`
	Unread     bool              `json:"unread,omitempty" doc:"Its words are still to be compared: that may change how it is written."`
	Unreadable bool              `json:"unreadable,omitempty" doc:"It cannot be decoded, and is kept as it is."`
	Override   shrink.Override   `json:"hold,omitempty" enum:"keep,colour,grey,blackWhite,photo" doc:"What was decided for it."`
	Overrides  []shrink.Override `json:"holds,omitempty" enum:"keep,colour,grey,blackWhite,photo" doc:"What can be decided for it."`
}

// Help is what would make a document smaller.
type Help struct {
	Number   int             `json:"number" doc:"Of the page, from 1."`
	Page     packet.PageID   `json:"page"`
	Bytes    int64           `json:"bytes" doc:"Bytes in the smallest plan."`
	Override shrink.Override `json:"hold,omitempty" enum:"grey,blackWhite,photo" doc:"What it could be held as to be smaller."`
	Free     bool            `json:"free,omitempty" doc:"It would be smaller if it were not held."`
	Saves    int64           `json:"saves,omitempty" doc:"Bytes that this saves."`
	Kept     float64         `json:"kept,omitempty" doc:"Share of what is on it that would be there as before."`
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
	plan := planOf(pages, sizing, s.reader.IsInstalled())
	plan.Only = only
	isLacking := slices.ContainsFunc(pages, func(page *measuredPage) bool { return page.lacks(sizing) })
	if isLacking || plan.Unread > 0 {
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

// pageOf is what core/planning needs to know of a page.
func (w *measuredPage) pageOf(sizing Sizing) planning.Page {
	page := planning.Page{Bytes: w.bytes, Fixed: !w.isPicture, Override: sizing.Overrides[w.ID], Part: string(w.part)}
	if w.known != nil {
		page.Measured = &w.known.Measured
	}
	return page
}

func pagesToPlan(pages []*measuredPage, sizing Sizing) []planning.Page {
	all := make([]planning.Page, len(pages))
	for i, page := range pages {
		all[i] = page.pageOf(sizing)
	}
	return all
}

// planOf tells how pages are to be written as far as that is known, and which of them wait for their words to be
// compared, where there is a program that reads them.
func planOf(pages []*measuredPage, sizing Sizing, reads bool) Plan {
	all := pagesToPlan(pages, sizing)
	chosen, _ := planning.Choose(all, sizing.Size, sizing.Limit)
	most := int64(0)
	plan := Plan{Sizing: sizing, Pages: []PlannedPage{}, Helps: []Help{}}
	plan.After, plan.Uncertainty = estimateOf(pages, chosen, sizing.Size)
	for i, page := range pages {
		if sizing.Size != planning.AsItIs {
			plan.Pages = append(plan.Pages, page.planned(sizing, chosen[i]))
		}
		plan.Before += page.bytes
		most += chosen[i].Bytes
		plan.Smallest += all[i].Smallest().Bytes
		switch {
		case sizing.Size == planning.AsItIs:
		case page.lacks(sizing):
			plan.Waiting++
		case reads && page.isUnread(chosen[i]):
			plan.Unread++
			plan.Pages[i].Unread = true
		}
	}
	plan.Fits = sizing.Limit == 0 || most <= sizing.Limit
	if sizing.Size == planning.Fit && !sizing.PerFile && plan.Fits && slices.ContainsFunc(chosen, shrink.Candidate.CanBeRefined) {
		plan.After, plan.Uncertainty = upTo(sizing.Limit, plan.After, plan.Uncertainty)
	}
	if sizing.PerFile && sizing.Limit > 0 {
		plan.Files = planning.Files(all, chosen, sizing.Limit)
		plan.Fits = plan.Files > 0 || len(all) == 0
	}
	if sizing.Size == planning.Fit && !plan.Fits && plan.Waiting == 0 {
		for _, remedy := range planning.Remedies(all) {
			plan.Helps = append(plan.Helps, helpOf(pages[remedy.Page], remedy))
		}
		smaller, _ := planning.Choose(all, planning.Smaller, 0)
		plan.Files = planning.Files(all, smaller, sizing.Limit)
	}
	return plan
}

// upTo raises the most that a document is likely to take up to a limit, as pages are made better until it is near that.
func upTo(limit, likely, doubt int64) (int64, int64) {
	least, most := likely-doubt, max(likely+doubt, limit)
	return (least + most) / 2, (most - least + 1) / 2
}

const (
	guessDoubt    = 0.6   // share of its bytes, of a page that is to be smaller and was not measured
	estimateDoubt = 0.25  // of one that is made anew and was not measured
	contentDoubt  = 0.12  // of a page of a PDF, whose objects are packed otherwise
	mostContent   = 4_000 // bytes that this comes to at most: its pictures and fonts are copied
	repackedMost  = 0.15  // share of its bytes that a JPEG loses at most, with every pixel the same
	pngLosesMost  = 0.4   // that a PNG does
)

// estimateOf gives the bytes that the pages of a document are likely to take up, and by how many it may turn out smaller or
// larger.
func estimateOf(pages []*measuredPage, chosen []shrink.Candidate, size planning.Target) (likely, doubt int64) {
	doubt = planning.Overhead
	for i, page := range pages {
		bytes, more := page.estimate(chosen[i], size)
		likely, doubt = likely+bytes, doubt+more
	}
	for _, kept := range bySourceInPlace(pages) {
		half := mostUncounted(kept) / 2
		likely, doubt = likely+half, doubt+half
	}
	return likely, doubt
}

// mostUncounted is how many bytes pages that stay in place, of one PDF, take up at most besides their own: what they have in
// common with its other pages, which is counted with those, goes into the document undivided.
func mostUncounted(pages []*measuredPage) int64 {
	elsewhere, shared := int64(0), int64(0)
	for _, page := range pages[0].source.Pages {
		elsewhere += page.Bytes
	}
	counted := map[int]bool{}
	for _, page := range pages {
		if counted[page.SourcePage] {
			continue
		}
		counted[page.SourcePage] = true
		of := page.source.Pages[page.SourcePage-1]
		elsewhere, shared = elsewhere-of.Bytes, max(shared, of.Shared)
	}
	return min(shared, elsewhere)
}

// estimate gives the bytes that a page is likely to take up in a document of such a size, and by how many it may turn
// out smaller or larger. A picture that is kept where others become smaller takes up some less, and never more.
func (w *measuredPage) estimate(chosen shrink.Candidate, size planning.Target) (likely, doubt int64) {
	if size != planning.AsItIs && chosen.Encoding == shrink.Original {
		half := int64(w.repackedShare() / 2 * float64(chosen.Bytes))
		if half > 0 {
			return chosen.Bytes - half, half
		}
	}
	return chosen.Bytes, w.uncertainty(chosen)
}

// uncertainty is by how many bytes a page that is written as was chosen may turn out smaller or larger than is
// thought.
func (w *measuredPage) uncertainty(chosen shrink.Candidate) int64 {
	switch {
	case w.IsBlank():
		return 0
	case w.isPicture && w.known == nil && chosen.Bytes != w.bytes:
		return int64(guessDoubt * float64(chosen.Bytes))
	case w.isSized && w.known == nil:
		return 0
	case w.isDrawn() && w.known == nil:
		return int64(drawnDoubt * float64(chosen.Bytes))
	case w.isPicture && w.known == nil && w.IsMadeAnew(sources.IsPDF(w.source)):
		return int64(estimateDoubt * float64(chosen.Bytes))
	case w.isInPlace():
		return min(mostContent, int64(contentDoubt*float64(chosen.Bytes)))
	}
	return 0
}

// repackedShare is the share of its bytes that a page loses at most that keeps what it is made of.
func (w *measuredPage) repackedShare() float64 {
	switch {
	case w.isInPlace() && w.known != nil && w.known.Kind != "":
		return repackedMost // its pictures are JPEGs more often than not
	case w.isInPlace() || w.IsMadeAnew(false):
		return 0
	case sources.IsJPEG(w.source):
		return repackedMost
	case sources.CanBeRepacked(w.source):
		return pngLosesMost
	}
	return 0
}

func (w *measuredPage) planned(sizing Sizing, v shrink.Candidate) PlannedPage {
	page := PlannedPage{
		Number: w.position + 1, Page: w.ID, EncodingParams: v.EncodingParams, Before: w.bytes, After: v.Bytes, Kept: v.Fidelity, Words: v.Words,
		Measured: !w.isPicture || w.known != nil, Override: sizing.Overrides[w.ID],
	}
	if w.known == nil {
		return page
	}
	page.Kind, page.Unreadable = w.known.Kind, w.known.Unreadable
	if !page.Unreadable {
		page.Overrides = w.known.Overrides()
	}
	return page
}

func helpOf(page *measuredPage, r planning.Remedy) Help {
	return Help{
		Number: page.position + 1, Page: page.ID, Bytes: r.Bytes,
		Override: r.Override, Free: r.Free, Saves: r.Saves, Kept: r.Fidelity,
	}
}
