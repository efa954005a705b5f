package export

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/shrink"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

// Proof returns the path of a JPEG of a page, at least width pixels wide up to what
// render.Widths allows, drawn from the bytes that an export of it by an encoding has.
func (s *Service) Proof(ctx context.Context, packetID string, id packet.PageID, encoding shrink.EncodingParams, width int) (string, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return "", err
	}
	page, ok := p.State.Find(id)
	if !ok {
		return "", fmt.Errorf("%w: page %s", store.ErrNotFound, id)
	}
	if err := encoding.Check(); err != nil {
		return "", problem.Because(problem.Invalid, err)
	}
	pages, err := s.measuredPages(ctx, packetID, []packet.Part{{Title: page.Note, Pages: []packet.Page{page}}})
	if err != nil {
		return "", err
	}
	if !pages[0].isPicture {
		return s.packets.PagePicture(ctx, packetID, id, width)
	}
	defer s.runner.Foreground()()
	proof, err := s.proofOf(ctx, pages[0], encoding)
	if err != nil {
		return "", err
	}
	return s.pictures.Picture(ctx, proof, width)
}

// ProofPrefix begins the names of proofs and of their pictures.
const ProofPrefix = "proof-"

// proofOf gives a document of one page, as it would be exported, which is kept with what is
// derived from the file that the page is of.
func (s *Service) proofOf(ctx context.Context, page *measuredPage, encoding shrink.EncodingParams) (render.Page, error) {
	name := derivedName(ProofPrefix, page.Fingerprint(), encoding) + "-"
	file := page.source.Working
	proof := render.Page{
		File: file, Made: name, Path: filepath.Join(s.store.DerivedFolder(file), name+".pdf"), IsPDF: true, Number: 1, Size: page.Size(),
	}
	for {
		_, err, shared := s.proofs.Do(proof.Path, func() (any, error) {
			if _, err := os.Stat(proof.Path); err == nil {
				return nil, nil //nolint:nilnil // it is there
			}
			return nil, s.writeProof(ctx, page, encoding, proof.Path)
		})
		// Who joined somebody else's work, which was then cancelled, tries again.
		if shared && errors.Is(err, context.Canceled) && ctx.Err() == nil {
			continue
		}
		return proof, err
	}
}

func (s *Service) writeProof(ctx context.Context, page *measuredPage, encoding shrink.EncodingParams, path string) error {
	only := page.Page
	m := &making{
		request:  exportRequest{Title: "Proof", Parts: []packet.Part{{Pages: []packet.Page{only}}}},
		pages:    []*measuredPage{page},
		chosen:   []shrink.Candidate{{EncodingParams: encoding}},
		progress: ctx.Err,
	}
	m.startAnew()
	err := s.store.WriteDerived(page.source.Working, filepath.Base(path), func(file *os.File) error {
		return s.write(ctx, m, m.wholePacket(), file.Name())
	})
	if err != nil {
		return fmt.Errorf("write a proof of page %d of source %s: %w", page.SourcePage, page.source.ID, err)
	}
	return nil
}
