package filing

import (
	"context"
	"errors"
	"path"
	"strings"

	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/gather"
	"dorbin/internal/store"
)

// OpenedFile is a packet that was made of a file.
type OpenedFile struct {
	Packet  string         `json:"packet" doc:"Its id."`
	Outcome gather.Outcome `json:"outcome"`
}

// Open makes a packet of a PDF in a folder, with the file's name. A file that cannot be taken in is a
// problem.Invalid, and no packet is left. One that is locked waits for its password in the packet.
func (s *Service) Open(ctx context.Context, folder, name string) (OpenedFile, error) {
	opened, file, info, err := s.openFile(folder, name)
	if err != nil {
		return OpenedFile{}, err
	}
	defer opened.Close() //nolint:errcheck // only read from
	defer file.Close()   //nolint:errcheck // only read from
	fileName := gather.CleanName(path.Base(name))
	p, err := s.packets.Create(ctx, strings.TrimSuffix(fileName, path.Ext(fileName)))
	if err != nil {
		return OpenedFile{}, err
	}
	outcome, err := s.gather.AddFile(ctx, p.ID, fileName, gather.Placement{}, file)
	if err == nil && outcome.Source == nil {
		err = &problem.Error{Kind: problem.Invalid, Reason: outcome.Reason, Sentence: outcome.Sentence}
	}
	if err == nil {
		err = s.noteOrigin(ctx, *outcome.Source, store.Origin{Packet: p.ID, Folder: folder, Path: name, Bytes: info.Size(), Modified: info.ModTime()})
	}
	if err != nil {
		return OpenedFile{}, errors.Join(err, s.packets.Delete(context.WithoutCancel(ctx), p.ID))
	}
	s.log.Info("file opened from a folder", "packet", p.ID)
	return OpenedFile{p.ID, outcome}, nil
}

// noteOrigin keeps what a packet was opened from, with the hash of the bytes that were read.
func (s *Service) noteOrigin(ctx context.Context, id packet.SourceID, origin store.Origin) error {
	source, err := s.store.Source(ctx, string(id))
	if err != nil {
		return err
	}
	origin.SHA256 = source.Blob
	return s.store.SetOrigin(ctx, origin)
}
