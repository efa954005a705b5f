package export

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"

	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/problem"
	"dorbin/core/shrink"
)

// Sizing is how much a packet's document may take up, and what was decided for single
// pages.
type Sizing struct {
	Size      planning.Target                   `json:"size,omitempty" enum:"lighter,fit" doc:"Without it, pages go in as they are."`
	Limit     int64                             `json:"limit,omitempty" minimum:"0" doc:"Bytes; what fits is under it."`
	PerFile   bool                              `json:"perFile,omitempty" doc:"The limit is one of each of several files."`
	Overrides map[packet.PageID]shrink.Override `json:"holds,omitempty" doc:"What was decided for pages: keep, colour, grey, blackWhite or photo."`
}

// The limits that make sense, in bytes.
const (
	leastLimit = 10_000
	mostLimit  = 10_000_000_000
)

func (s Sizing) check() error {
	if s.Size == planning.Fit && s.Limit == 0 {
		return problem.New(problem.Invalid, "say how many bytes the document may have")
	}
	if s.Limit != 0 && (s.Limit < leastLimit || s.Limit > mostLimit) {
		return problem.New(problem.Invalid, "a limit is between 10 KB and 10 GB")
	}
	for _, override := range s.Overrides {
		if !slices.Contains(shrink.Overrides, override) {
			return problem.New(problem.Invalid, "a page is not held as %q", override)
		}
	}
	return nil
}

// scopeOf is how much has to be measured of a page.
func (s Sizing) scopeOf(id packet.PageID) shrink.Scope {
	return s.Size.Scope(s.Overrides[id] != shrink.Auto)
}

// sizing reads what was said about a packet.
func (s *Service) sizing(ctx context.Context, packetID string) (said Sizing, err error) {
	text, err := s.store.Sizing(ctx, packetID)
	if err != nil || text == "" {
		return said, err
	}
	if err := json.Unmarshal([]byte(text), &said); err != nil {
		return said, fmt.Errorf("decode sizing: %w", err)
	}
	return said, nil
}

// SetSizing says how much a packet's document may take up, and gives the plan for it.
func (s *Service) SetSizing(ctx context.Context, packetID string, wanted Sizing) (Plan, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return Plan{}, err
	}
	if err := wanted.check(); err != nil {
		return Plan{}, err
	}
	wanted.Overrides = maps.Clone(wanted.Overrides)
	maps.DeleteFunc(wanted.Overrides, func(id packet.PageID, override shrink.Override) bool {
		_, ok := p.State.Find(id)
		return !ok || override == shrink.Auto
	})
	text, err := json.Marshal(wanted)
	if err != nil {
		return Plan{}, fmt.Errorf("encode sizing: %w", err)
	}
	if err := s.store.SetSizing(ctx, packetID, string(text)); err != nil {
		return Plan{}, err
	}
	s.planned(packetID)
	return s.Plan(ctx, packetID, "")
}
