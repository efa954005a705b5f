package receivers

import (
	"context"
	"time"

	"dorbin/core/packet"
	"dorbin/core/requirements"
	"dorbin/internal/store"
)

// Requirements are how a packet stands against what its receiver asks for.
type Requirements struct {
	Revision int                    `json:"revision"`
	Receiver *requirements.Receiver `json:"receiver,omitempty" doc:"Whom the packet is for; missing where nobody was named."`
	Rules    []RuleState            `json:"rules" nullable:"false"`
	Papers   []PaperState           `json:"papers" nullable:"false"`
	Met      int                    `json:"met" doc:"Rules and papers."`
	NotMet   int                    `json:"notMet"`
	Unknown  int                    `json:"unknown" doc:"Those of which it is not known yet."`
	// Order puts the parts in the order in which papers are asked for.
	Order packet.Commands `json:"order,omitempty" doc:"Puts the parts in the order of the papers; missing where they are."`
	// Proposal says of all parts which paper they seem to be.
	Proposal packet.Commands `json:"proposal,omitempty" doc:"Has all parts be the papers that they seem to be."`
	Titles   packet.Commands `json:"titles,omitempty" doc:"Gives the parts the titles of their papers; missing where they have them."`
}

// RuleState is how a packet stands against a rule.
type RuleState struct {
	requirements.Verdict
	PageIDs []packet.PageID `json:"pageIds,omitempty" doc:"The pages of the verdict."`
	Settle  *Settlement     `json:"settle,omitempty" doc:"What would settle it; missing where nothing simple would."`
}

// PaperState is how it stands with a paper that is asked for.
type PaperState struct {
	requirements.PaperVerdict
	PartIDs     []packet.PartID `json:"partIds" nullable:"false" doc:"The parts that are this paper."`
	ProposedIDs []packet.PartID `json:"proposedIds" nullable:"false" doc:"The parts that seem to be this paper."`
}

// Requirements holds a packet against what its receiver asks for.
func (s *Service) Requirements(ctx context.Context, packetID string) (Requirements, error) {
	p, all, err := s.store.Load(ctx, packetID)
	if err != nil {
		return Requirements{}, err
	}
	view := Requirements{Revision: p.Revision, Receiver: p.State.Receiver, Rules: []RuleState{}, Papers: []PaperState{}}
	if view.Receiver == nil {
		return view, nil
	}
	h, err := s.hold(ctx, p, all)
	if err != nil {
		return Requirements{}, err
	}
	for _, verdict := range h.receiver.Judge(h.facts(time.Now())) {
		rule := RuleState{Verdict: verdict}
		for _, number := range verdict.Pages {
			rule.PageIDs = append(rule.PageIDs, h.pages[number-1].ID)
		}
		rule.Settle = h.settlement(rule)
		view.count(verdict.State)
		view.Rules = append(view.Rules, rule)
	}
	return view, s.addPapers(ctx, &view, p)
}

func (v *Requirements) count(state requirements.State) {
	switch state {
	case requirements.Met:
		v.Met++
	case requirements.NotMet:
		v.NotMet++
	default:
		v.Unknown++
	}
}

func (s *Service) addPapers(ctx context.Context, view *Requirements, p store.Packet) error {
	if len(view.Receiver.Papers) == 0 {
		return nil
	}
	parts, err := s.reading.PartFacts(ctx, p.ID, p.State.Parts)
	if err != nil {
		return err
	}
	idsOf := func(places []int) []packet.PartID {
		ids := []packet.PartID{}
		for _, place := range places {
			ids = append(ids, p.State.Parts[place].ID)
		}
		return ids
	}
	for _, verdict := range view.Receiver.JudgePapers(parts) {
		paper := PaperState{verdict, idsOf(verdict.Parts), idsOf(verdict.Proposed)}
		view.count(verdict.State)
		view.Papers = append(view.Papers, paper)
		if len(paper.ProposedIDs) > 0 {
			view.Proposal = append(view.Proposal, packet.IsPaper{Parts: paper.ProposedIDs, Paper: paper.Title})
		}
	}
	view.Order, view.Titles = orderOf(p.State, view.Papers), titlesOf(p.State, view.Papers)
	return nil
}

// orderOf moves the parts that are papers into their order, before all others.
func orderOf(p packet.Packet, papers []PaperState) (commands packet.Commands) {
	var now []packet.PartID
	for _, part := range p.Parts {
		now = append(now, part.ID)
	}
	at := 0
	for at < len(p.Parts) && p.Parts[at].Pages[0].Made != "" {
		at++ // a cover and a list of contents stay in front
	}
	for _, paper := range papers {
		for _, id := range paper.PartIDs {
			if now[at] != id {
				commands = append(commands, packet.MovePart{Part: id, At: at})
				now = moved(now, id, at)
			}
			at++
		}
	}
	return commands
}

// moved is a list of parts after one of them went to a place among the others.
func moved(parts []packet.PartID, id packet.PartID, at int) []packet.PartID {
	others := make([]packet.PartID, 0, len(parts))
	for _, part := range parts {
		if part != id {
			others = append(others, part)
		}
	}
	return append(append(append([]packet.PartID{}, others[:at]...), id), others[at:]...)
}

// titlesOf gives the parts that are papers the papers' titles, numbered where there are several.
func titlesOf(p packet.Packet, papers []PaperState) (commands packet.Commands) {
	titles := map[packet.PartID]string{}
	for _, part := range p.Parts {
		titles[part.ID] = part.Title
	}
	for _, paper := range papers {
		for i, id := range paper.PartIDs {
			title := paper.Title
			if len(paper.PartIDs) > 1 {
				title += " " + packet.Numbered(i+1, len(paper.PartIDs))
			}
			if titles[id] != title {
				commands = append(commands, packet.RenamePart{Part: id, Title: title})
			}
		}
	}
	return commands
}
