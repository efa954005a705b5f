package handin

import (
	"context"
	"errors"
	"io/fs"

	"dorbin/core/message"
	"dorbin/internal/folders"
)

// outboxes are the folders that the installation allows, as a channel. A document is written beside
// its place, synced, and then given its name, which nothing else has.
type outboxes folders.List

func (o outboxes) send(ctx context.Context, s *sending) (answer message.Text, err error) {
	allowed, err := folders.List(o).Named(s.delivery.Address)
	if err != nil {
		return message.Text{}, err
	}
	folder, err := allowed.Open()
	if err != nil {
		return message.Text{}, err
	}
	defer folder.Close() //nolint:errcheck // nothing is written to it itself
	if before := s.placedBefore(); before != "" {
		if same, err := folder.HasHash(before, s.sha256); err == nil && same {
			return placedAnswer(s.name, before), nil
		}
	}
	name, err := placeIn(ctx, folder, s)
	if errors.Is(err, fs.ErrNotExist) {
		return message.Text{}, broke(err, "The folder %s went away.", folder.Name)
	}
	if err != nil {
		return message.Text{}, folder.Problem(err)
	}
	return placedAnswer(s.name, name), nil
}

// placeIn writes the document to a folder, and gives the name that was free for it.
func placeIn(ctx context.Context, folder *folders.Opened, s *sending) (name string, err error) {
	in, err := s.open()
	if err != nil {
		return "", err
	}
	defer in.Close()                  //nolint:errcheck // only read from
	defer folder.Remove(s.partName()) //nolint:errcheck // it has its name, or is of no use
	if err := folder.Write(ctx, s.partName(), in); err != nil {
		return "", err
	}
	return folders.FreeName(s.name, func(name string) (bool, error) {
		if err := s.note(placing + name); err != nil {
			return false, err
		}
		return folder.Place(s.partName(), name)
	})
}
