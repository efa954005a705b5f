package packets

import (
	"context"
	"errors"
	"slices"
	"strings"

	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/store"
)

// Copy makes a new packet that is as another one stands: with its sources, pages set aside,
// and what was checked, without its history and finished files.
func (s *Service) Copy(ctx context.Context, id, name string) (Packet, error) {
	p, all, err := s.store.Load(ctx, id)
	if err != nil {
		return Packet{}, err
	}
	renamed, _, err := packet.Apply(p.State, []packet.Command{packet.Rename{Title: name}}, packet.Known{})
	if err != nil {
		return Packet{}, err
	}
	newSources := map[packet.SourceID]packet.SourceID{}
	c := store.PacketCopy{From: id, ID: store.NewID("k"), Reviewed: map[packet.PageID]string{}}
	for _, source := range all {
		old, copied := packet.SourceID(source.ID), packet.SourceID(store.NewID("f"))
		newSources[old] = copied
		c.Sources = append(c.Sources, [2]packet.SourceID{old, copied})
	}
	c.State = renamed.WithSources(newSources)
	if err := s.copyMarks(ctx, p.State, newSources, &c); err != nil {
		return Packet{}, err
	}
	if err := s.store.CopyPacket(ctx, c); err != nil {
		return Packet{}, err
	}
	s.wakeSourceJobs()
	s.log.Info("packet copied", "packet", id, "copy", c.ID)
	if err := s.keepAsUsual(ctx, c.ID); err != nil {
		return Packet{}, err
	}
	return s.Get(ctx, c.ID)
}

// copyMarks copies what was checked and accepted, which names pages by fingerprints that their
// sources are part of.
func (s *Service) copyMarks(ctx context.Context, before packet.Packet, newSources map[packet.SourceID]packet.SourceID, c *store.PacketCopy) error {
	reviewed, err := s.store.Reviewed(ctx, c.From)
	if err != nil {
		return err
	}
	accepted, err := s.store.Accepted(ctx, c.From)
	if err != nil {
		return err
	}
	newWords := map[string]string{} // of keys of findings
	for old, copied := range newSources {
		newWords[string(old)] = string(copied)
	}
	for _, page := range before.Pages() {
		copied, _ := c.State.Find(page.ID)
		newWords[page.Fingerprint()] = copied.Fingerprint()
		if reviewed[page.ID] == page.Fingerprint() {
			c.Reviewed[page.ID] = copied.Fingerprint()
		}
	}
	for key := range accepted {
		words := strings.Split(key, " ")
		for i, word := range words {
			if other, ok := newWords[word]; ok {
				words[i] = other
			}
		}
		c.Accepted = append(c.Accepted, strings.Join(words, " "))
	}
	return nil
}

// wakeSourceJobs has the work done that was left to do on sources that were copied.
func (s *Service) wakeSourceJobs() {
	for _, kind := range []string{store.JobAnalyze, store.JobPageBytes, store.JobFacing, store.JobOwnText} {
		s.runner.Wake(kind)
	}
}

// importing gives a packet the sources of pages that are brought from other packets.
type importing struct {
	service *Service
	to      string
	v       *viewer // of the packet; sources that are added can be seen in it
	added   []store.Source
	fault   error // of the program, not of the command
}

// foreign finds the pages of another packet that a command names, and gives this packet their
// sources. The error is a problem.Invalid where they are not there.
func (i *importing) foreign(ctx context.Context, c packet.Bring) (packet.Foreign, error) {
	found, err := i.find(ctx, c)
	var told *problem.Error
	if err != nil && !errors.As(err, &told) {
		i.fault = err
	}
	return found, err
}

func (i *importing) find(ctx context.Context, c packet.Bring) (packet.Foreign, error) {
	if len(c.FromPages) > packet.MaxTake {
		return packet.Foreign{}, problem.New(problem.Invalid, "at most %d pages are copied at once", packet.MaxTake)
	}
	p, theirs, err := i.service.store.Load(ctx, c.From)
	if errors.Is(err, store.ErrNotFound) {
		return packet.Foreign{}, problem.New(problem.Invalid, "the packet that the pages were copied from is gone")
	}
	if err != nil {
		return packet.Foreign{}, err
	}
	found := packet.Foreign{Packet: p.State.Name, Title: p.State.TitleAt(c.FromPages)}
	for _, id := range c.FromPages {
		page, ok := p.State.Find(id)
		if !ok {
			return found, problem.New(problem.Invalid, "a page that was copied is no longer in “%s”", p.State.Name)
		}
		found.Pages = append(found.Pages, page)
	}
	for at := range found.Pages {
		page := &found.Pages[at]
		if page.IsBlank() {
			continue
		}
		if page.Source, err = i.sourceLike(ctx, theirs, page.Source); err != nil {
			return found, err
		}
	}
	return found, nil
}

// sourceLike is the packet's source that shows the same as another packet's, which is copied if
// there is none.
func (i *importing) sourceLike(ctx context.Context, theirs []store.Source, id packet.SourceID) (packet.SourceID, error) {
	at := slices.IndexFunc(theirs, func(s store.Source) bool { return s.ID == string(id) })
	if at < 0 {
		return "", store.ErrNotFound
	}
	wanted := theirs[at]
	for _, own := range i.v.sources {
		if own.ID == wanted.ID || own.Blob == wanted.Blob && own.Working == wanted.Working && own.State == wanted.State {
			return packet.SourceID(own.ID), nil
		}
	}
	copied, err := i.service.store.CopySource(ctx, wanted.ID, store.NewID("f"), i.to)
	if err != nil {
		return "", err
	}
	*i.v = newViewer(append(i.v.sources, copied), i.v.reviewed)
	i.added = append(i.added, copied)
	return packet.SourceID(copied.ID), nil
}

// end has the work done that is left on the sources that were added; after a failure they go
// again.
func (i *importing) end(ctx context.Context, failure error) error {
	if i.fault != nil {
		failure = i.fault
	}
	if failure == nil {
		if len(i.added) > 0 {
			i.service.wakeSourceJobs()
		}
		return nil
	}
	for _, source := range i.added {
		if err := i.service.store.DeleteSource(context.WithoutCancel(ctx), source.ID); err != nil {
			return errors.Join(failure, err)
		}
	}
	return failure
}
