package reading

import (
	"context"
	"errors"
	"fmt"
	"runtime"

	"golang.org/x/sync/errgroup"

	"dorbin/core/check"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/text"
	"dorbin/internal/guard"
	"dorbin/internal/jobs"
	"dorbin/internal/ocr"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// readPacket reads the pages of a packet that are to be read, as many at once as there are cores. It
// goes on at the next start where it was stopped.
func (s *Service) readPacket(ctx context.Context, task *jobs.Task) error {
	p, all, err := s.store.Load(ctx, task.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	texts, err := s.store.Texts(ctx, task.Key)
	if err != nil {
		return err
	}
	byID := map[packet.SourceID]store.Source{}
	for _, source := range all {
		byID[packet.SourceID(source.ID)] = source
	}
	group, ctx := errgroup.WithContext(ctx)
	group.SetLimit(runtime.GOMAXPROCS(0))
	for _, page := range asked(p.State, texts) {
		if err := task.WaitIdle(ctx); err != nil {
			break
		}
		group.Go(func() error {
			info := texts[keyOf(texts, page)]
			return store.UnlessGone(s.readPage(ctx, byID[page.Source], page, info))
		})
	}
	return group.Wait()
}

// asked are the pages of a packet that are to be read, each source's page once.
func asked(p packet.Packet, texts map[store.TextKey]store.TextInfo) (pages []packet.Page) {
	taken := map[store.TextKey]bool{}
	all := p.Pages()
	for _, aside := range p.SetAside {
		all = append(all, aside.Page)
	}
	for _, page := range all {
		key := keyOf(texts, page)
		if !page.IsBlank() && texts[key].State == store.TextAsked && !taken[key] {
			taken[key] = true
			pages = append(pages, page)
		}
	}
	return pages
}

// mostTries is how often a page is read whose reading fails.
const mostTries = 2

// readPage reads a page and keeps its text. One that cannot be read is told, and no reason to stop.
func (s *Service) readPage(ctx context.Context, source store.Source, page packet.Page, info store.TextInfo) error {
	var err error
	for range mostTries {
		err = guard.Run(func() error { return s.readOnce(ctx, source, page, info) })
		if err == nil || ctx.Err() != nil || errors.Is(err, store.ErrNotFound) {
			break
		}
		s.log.Warn("page not read", "source", source.ID, "page", page.SourcePage, "error", err)
	}
	if err == nil || ctx.Err() != nil || worker.IsUnavailable(err) || errors.Is(err, ocr.ErrNotInstalled) {
		s.changed(source.Packet)
		return err
	}
	info.State, info.Problem = store.TextFailed, failureWords(err)
	if err := s.store.KeepText(ctx, info, noText); err != nil {
		return err
	}
	s.changed(source.Packet)
	return nil
}

// failureWords say why a page was not read.
func failureWords(err error) message.Text {
	var told *problem.Error
	switch {
	case errors.As(err, &told):
		return message.Of("It could not be read: %s", told.Sentence)
	case errors.Is(err, context.DeadlineExceeded):
		return message.Of("It could not be read: reading it took too long.")
	}
	return message.Of("It could not be read: the recognition of text broke off, twice.")
}

func (s *Service) readOnce(ctx context.Context, source store.Source, page packet.Page, info store.TextInfo) error {
	if source.State != store.SourceReady || page.SourcePage > len(source.Pages) {
		return store.ErrNotFound
	}
	// It may have been asked for before it was known that the page has its text.
	if hasOwn, err := s.keepSoundOwnText(ctx, source, info.TextKey); hasOwn || err != nil {
		return err
	}
	picture, err := s.drawForReading(ctx, source, page)
	if err != nil {
		return err
	}
	read, err := s.recognise(ctx, picture, info)
	if err != nil {
		return err
	}
	info.State, info.Problem, info.Upright = store.TextRead, read.problem, read.upright
	info.Printed = printedOn(read.page, page, read.upright)
	info.Words, info.Doubtful = read.page.WordCount(), read.page.Count(text.Word.IsDoubtful)
	return s.store.KeepText(ctx, info, read.page.Rounded())
}

// printedOn finds the number that a page bears, whichever way up it lies.
func printedOn(flat text.Page, page packet.Page, upright int) check.Printed {
	printed, _ := check.PrintedOn(turned(flat, page.Framing().Flat, max(0, upright)))
	return printed
}

// drawForReading draws a page flat, as finely as its source has it.
func (s *Service) drawForReading(ctx context.Context, source store.Source, page packet.Page) (flatPicture, error) {
	adjustments := packet.Adjustments{Paper: page.Paper, Flat: page.Flat}
	img, err := s.pictures.Pixels(ctx, s.sources.Page(source, page.SourcePage, adjustments, 0), readingDPI)
	if err != nil {
		return flatPicture{}, fmt.Errorf("draw page %d to read it: %w", page.SourcePage, err)
	}
	return prepare(img, page.Framing().Flat, page.Mirror), nil
}

// giveUpReading leaves the pages that are still to be read without text.
func (s *Service) giveUpReading(ctx context.Context, failed jobs.Taken, _ error) error {
	err := s.store.CancelTexts(ctx, failed.Key)
	s.changed(failed.Key)
	return err
}
