package export

import (
	"context"
	"path/filepath"
	"strings"
	"time"

	"dorbin/core/planning"
)

// PlannedFile is one of several files that would be made.
type PlannedFile struct {
	Name        string `json:"name"`
	First       int    `json:"first" doc:"Its first page in the packet, from 1."`
	Pages       int    `json:"pages"`
	Bytes       int64  `json:"bytes" doc:"About."`
	Uncertainty int64  `json:"uncertainty" doc:"Bytes by which it may turn out smaller or larger."`
}

// Preview tells into which files an order would divide a packet, by what is known of its pages;
// none where it does not make several PDFs.
func (s *Service) Preview(ctx context.Context, packetID string, order ExportOrder) ([]PlannedFile, error) {
	files := []PlannedFile{}
	if order.Make != PDFPerPart && order.Make != PDFsBySize {
		return files, nil
	}
	if err := order.check(); err != nil {
		return nil, err
	}
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return nil, err
	}
	state, numbers, err := s.ordered(ctx, p, order)
	if err != nil {
		return nil, err
	}
	m := &making{request: exportRequest{Title: state.Name, Parts: state.Parts, Numbers: numbers, Receiver: p.State.Receiver}}
	if m.request.Sizing, err = s.sizing(ctx, packetID); err != nil {
		return nil, err
	}
	naming, err := s.naming(ctx, p, time.Now())
	if err != nil {
		return nil, err
	}
	m.request.Names = naming.fill(order.Names)
	m.request.Size, m.request.Limit = order.Size, order.Limit
	if m.pages, err = s.measuredPages(ctx, packetID, state.Parts); err != nil {
		return nil, err
	}
	m.choose(m.request.Limit)
	segments, names := m.segmentPerPart(), []string(nil)
	if order.Make == PDFsBySize {
		segments = m.segmentsBySize(order.Limit - planning.Overhead)
		names = numberedNames(naming.fileName(order), len(segments), joinedFor(p.State.Receiver))
	} else {
		names = m.names(segments)
	}
	for i, run := range segments {
		file := PlannedFile{Name: names[i], First: m.request.number(run.from), Pages: run.to - run.from}
		file.Bytes, file.Uncertainty = estimateOf(m.pages[run.from:run.to], m.chosen[run.from:run.to], order.Size)
		file.Bytes += planning.Overhead
		files = append(files, file)
	}
	return files, nil
}

// stemOf is a file's name without its extension.
func stemOf(name string) string { return strings.TrimSuffix(name, filepath.Ext(name)) }
