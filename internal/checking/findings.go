package checking

import (
	"context"
	"fmt"

	"dorbin/core/check"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/jobs"
	"dorbin/internal/store"
)

// Findings are what is worth checking in a packet.
type Findings struct {
	Revision int             `json:"revision"`
	Waiting  int             `json:"waiting" doc:"Pages that have not been analysed yet, then pairs of pages that have not been compared."`
	Findings []check.Finding `json:"findings" nullable:"false"`
	Accepted int             `json:"accepted" doc:"Findings that were said to be as they should be, and are left out."`
}

// Findings tells what is worth checking in a packet, as far as its pages have been
// analysed.
func (s *Service) Findings(ctx context.Context, packetID string) (Findings, error) {
	p, sources, err := s.store.Load(ctx, packetID)
	if err != nil {
		return Findings{}, err
	}
	found, waiting, err := s.check(ctx, p, sources)
	if err != nil {
		return Findings{}, err
	}
	accepted, err := s.store.Accepted(ctx, packetID)
	if err != nil {
		return Findings{}, err
	}
	view := Findings{Revision: p.Revision, Waiting: waiting, Findings: []check.Finding{}}
	for _, f := range found {
		if accepted[f.Key] {
			view.Accepted++
		} else {
			view.Findings = append(view.Findings, f)
		}
	}
	return view, nil
}

// AcceptFindings keeps that findings, by their keys, are as they should be, or
// forgets it.
func (s *Service) AcceptFindings(ctx context.Context, packetID string, keys []string, accepted bool) (Findings, error) {
	if _, err := s.store.Packet(ctx, packetID); err != nil {
		return Findings{}, err
	}
	if err := s.store.Accept(ctx, packetID, keys, accepted); err != nil {
		return Findings{}, err
	}
	s.changed(packetID)
	return s.Findings(ctx, packetID)
}

func (s *Service) check(ctx context.Context, p store.Packet, sources []store.Source) (found []check.Finding, waiting int, err error) {
	known, waiting, err := s.known(ctx, p, sources)
	if err != nil {
		return nil, 0, err
	}
	survey := check.SurveyOf(p.State, known)
	if waiting == 0 {
		waiting = len(uncomparedOf(survey, known))
	}
	if waiting > 0 { // pages may have been placed since their sources were analysed
		err = s.runner.Add(ctx, p.ID, jobs.Job{Kind: store.JobCompareInk, Key: p.ID})
	}
	if err != nil {
		return nil, 0, fmt.Errorf("have scans compared: %w", err)
	}
	return survey.Findings(), waiting, nil
}

// known is what is known of a packet's pages, and how many of them are not analysed yet.
func (s *Service) known(ctx context.Context, p store.Packet, sources []store.Source) (_ check.Known, waiting int, err error) {
	var known check.Known
	analysis, err := s.AnalysesOf(ctx, sources)
	if err != nil {
		return known, 0, err
	}
	known.Analysis = func(source packet.SourceID, page int) (check.PageAnalysis, bool) {
		if found := analysis(source, page); found != nil {
			return *found, true
		}
		return check.PageAnalysis{}, false
	}
	for _, source := range sources {
		known.Sources = append(known.Sources, viewSource(source))
	}
	for _, page := range p.State.Pages() {
		if _, ok := known.Analysis(page.Source, page.SourcePage); !ok && !page.IsBlank() {
			waiting++
		}
	}
	known.Remember = func(key string, find func() []raster.Twin) []raster.Twin {
		if waiting > 0 {
			return nil // copies are searched for once all pages are analysed
		}
		return s.cache.twinsOf(p.ID, key, find)
	}
	compared, err := s.store.SameInk(ctx, p.ID)
	if err != nil {
		return known, 0, err
	}
	known.SameInk = func(pair check.Pair) (same, isKnown bool) {
		same, isKnown = compared[[2]check.Scan{pair.First, pair.Second}]
		return same, isKnown
	}
	return known, waiting, nil
}

func viewSource(s store.Source) check.Source {
	view := check.Source{
		ID: packet.SourceID(s.ID), Name: s.Name, PageCount: len(s.Pages), Expected: s.Expected,
		Damage: s.Damage, Locked: s.State == store.SourceLocked, Folds: map[int]bool{}, Unsized: map[int]bool{},
	}
	for i, page := range s.Pages {
		view.Folds[i+1], view.Unsized[i+1] = !page.Fold.IsZero(), !page.Scanned
	}
	return view
}

// anyKind stands for findings of whatever kind.
const anyKind = "any"

// Facts are what pages of a packet can be selected by besides their numbers, as
// packet.Known has it.
func (s *Service) Facts(ctx context.Context, p store.Packet, sources []store.Source) (map[string]func(packet.Page) bool, error) {
	reviewed, err := s.store.Reviewed(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	found, _, err := s.check(ctx, p, sources)
	if err != nil {
		return nil, err
	}
	kinds := map[string]map[packet.PageID]bool{}
	for _, f := range found {
		for _, kind := range []string{f.Kind, anyKind} {
			if kinds[kind] == nil {
				kinds[kind] = map[packet.PageID]bool{}
			}
			kinds[kind][f.Page] = true
		}
	}
	facts := map[string]func(packet.Page) bool{
		"checked": func(page packet.Page) bool { return ReviewState(reviewed, page) == "yes" },
		"changed": func(page packet.Page) bool { return ReviewState(reviewed, page) == "changed" },
	}
	for word, kind := range map[string]string{
		"sideways": check.Sideways, "blank": check.Blank, "copies": check.Copy, "twice": check.Twice, "found": anyKind,
	} {
		facts[word] = func(page packet.Page) bool { return kinds[kind][page.ID] }
	}
	return facts, nil
}

// ReviewState tells whether a page was reviewed as it now stands: "yes", "no", or "changed"
// when it was changed since. Reviewed are the fingerprints that pages had then.
func ReviewState(reviewed map[packet.PageID]string, page packet.Page) string {
	switch reviewed[page.ID] {
	case "":
		return "no"
	case page.Fingerprint():
		return "yes"
	}
	return "changed"
}

// MarkReviewed keeps that pages were reviewed as they now stand, or forgets it.
func (s *Service) MarkReviewed(ctx context.Context, packetID string, pages []packet.PageID, reviewed bool) error {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return err
	}
	fingerprints := map[packet.PageID]string{}
	for _, id := range pages {
		page, ok := p.State.Find(id)
		if !ok {
			continue // deleted meanwhile, in another window
		}
		fingerprints[id] = ""
		if reviewed {
			fingerprints[id] = page.Fingerprint()
		}
	}
	if err := s.store.SetReviewed(ctx, packetID, fingerprints); err != nil {
		return err
	}
	s.marked(Marking{packetID, p.Revision, pages, reviewed})
	return nil
}
