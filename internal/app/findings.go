package app

import (
	"context"

	"dorbin/core/check"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/store"
)

// Findings are what is to be looked at in a packet.
type Findings struct {
	Revision int             `json:"revision"`
	Waiting  int             `json:"waiting" doc:"Pages that have not been looked at yet."`
	Findings []check.Finding `json:"findings" nullable:"false"`
	Accepted int             `json:"accepted" doc:"Findings that were said to be as they should be, and are left out."`
}

// Findings tells what is to be looked at in a packet, as far as its pages have
// been looked at.
func (a *App) Findings(ctx context.Context, packetID string) (Findings, error) {
	p, sources, err := a.load(ctx, packetID)
	if err != nil {
		return Findings{}, err
	}
	found, waiting, err := a.check(ctx, p, sources)
	if err != nil {
		return Findings{}, err
	}
	accepted, err := a.store.Accepted(ctx, packetID)
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
func (a *App) AcceptFindings(ctx context.Context, packetID string, keys []string, accepted bool) (Findings, error) {
	if _, err := a.store.Packet(ctx, packetID); err != nil {
		return Findings{}, err
	}
	if err := a.store.Accept(ctx, packetID, keys, accepted); err != nil {
		return Findings{}, err
	}
	a.events.send(Event{Kind: "findings", Packet: packetID})
	return a.Findings(ctx, packetID)
}

func (a *App) check(ctx context.Context, p store.Packet, sources []store.Source) (found []check.Finding, waiting int, err error) {
	signs := map[packet.SourceID][]*check.Signs{}
	known := check.Known{
		Sheets: map[packet.SourceID]int{}, Names: map[packet.SourceID]string{}, PageCounts: map[packet.SourceID]int{},
		Signs: func(source packet.SourceID, page int) (check.Signs, bool) {
			seen := signs[source]
			if page < 1 || page > len(seen) || seen[page-1] == nil {
				return check.Signs{}, false
			}
			return *seen[page-1], true
		},
	}
	for _, source := range sources {
		id := packet.SourceID(source.ID)
		if signs[id], err = a.signs(ctx, source); err != nil {
			return nil, 0, err
		}
		known.Sheets[id], known.Names[id], known.PageCounts[id] = source.Expected, source.Name, len(source.Pages)
	}
	for _, page := range p.State.Pages() {
		if _, ok := known.Signs(page.Source, page.SourcePage); !ok && !page.IsBlank() {
			waiting++
		}
	}
	known.Remember = func(key string, find func() []raster.Twin) []raster.Twin {
		if waiting > 0 {
			return nil // copies are looked for once all pages have been looked at
		}
		return a.seen.twins(p.ID, key, find)
	}
	return check.Check(p.State, known), waiting, nil
}

// Select reads which pages are meant by words, as packet.ParseSelection does. An
// error may be a *packet.RangeError.
func (a *App) Select(ctx context.Context, packetID, text string) ([]packet.PageID, error) {
	p, sources, err := a.load(ctx, packetID)
	if err != nil {
		return nil, err
	}
	facts, err := a.allFacts(ctx, p, sources)
	if err != nil {
		return nil, err
	}
	return packet.ParseSelection(text, p.State, packet.Known{Facts: facts})
}

// facts are what pages can be selected by in these commands, if any asks for it.
func (a *App) facts(ctx context.Context, p store.Packet, sources []store.Source, commands []packet.Command) (map[string]func(packet.Page) bool, error) {
	for _, c := range commands {
		if c.Range != "" {
			return a.allFacts(ctx, p, sources)
		}
	}
	return nil, nil
}

// anyKind stands for findings of whatever kind.
const anyKind = "any"

func (a *App) allFacts(ctx context.Context, p store.Packet, sources []store.Source) (map[string]func(packet.Page) bool, error) {
	v, err := a.viewer(ctx, p.ID, sources)
	if err != nil {
		return nil, err
	}
	found, _, err := a.check(ctx, p, sources)
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
		"looked at": func(page packet.Page) bool { return v.lookedAt(page) == "yes" },
		"changed":   func(page packet.Page) bool { return v.lookedAt(page) == "changed" },
	}
	for word, kind := range map[string]string{
		"sideways": check.Sideways, "blank": check.Blank, "copies": check.Copy, "twice": check.Twice, "found": anyKind,
	} {
		facts[word] = func(page packet.Page) bool { return kinds[kind][page.ID] }
	}
	return facts, nil
}

// MarkLooked keeps that pages were looked at as they now stand, or forgets it.
func (a *App) MarkLooked(ctx context.Context, packetID string, pages []packet.PageID, looked bool) error {
	p, err := a.store.Packet(ctx, packetID)
	if err != nil {
		return err
	}
	looks := map[packet.PageID]string{}
	for _, id := range pages {
		page, ok := p.State.Find(id)
		if !ok {
			continue // deleted meanwhile, in another window
		}
		looks[id] = ""
		if looked {
			looks[id] = page.Fingerprint()
		}
	}
	if err := a.store.SetLooked(ctx, packetID, looks); err != nil {
		return err
	}
	a.events.send(Event{Kind: "looked", Packet: packetID, Pages: pages, Looked: looked})
	return nil
}
