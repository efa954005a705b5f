package checking

import (
	"context"

	"dorbin/core/check"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/store"
)

// recognised is what is known of the pages of a packet's sources from their text, where that was
// recognised.
func (s *Service) recognised(ctx context.Context, sources []store.Source) (map[check.Scan][]store.TextInfo, error) {
	if len(sources) == 0 {
		return nil, nil
	}
	texts, err := s.store.Texts(ctx, sources[0].Packet)
	if err != nil {
		return nil, err
	}
	read := map[check.Scan][]store.TextInfo{}
	for key, info := range texts {
		if info.State == store.TextRead {
			scan := check.Scan{Source: packet.SourceID(key.Source), Page: key.Page}
			read[scan] = append(read[scan], info)
		}
	}
	return read, nil
}

// withRecognised adds to what is known of a page what its text tells: its number, and which way up it
// stands.
func withRecognised(analysis *check.PageAnalysis, texts []store.TextInfo) *check.PageAnalysis {
	if analysis == nil || len(texts) == 0 {
		return analysis
	}
	told := *analysis
	for _, info := range texts {
		if told.Printed.Number == 0 {
			told.Printed = info.Printed
		}
		standing := &told.Standing
		if info.Look != "" {
			standing = &told.FlatStanding
		}
		if info.Upright != store.UprightUnknown && standing.Sure < check.PlainlyTurned {
			*standing = raster.Standing{Turn: info.Upright, Sure: 1}
		}
	}
	return &told
}
