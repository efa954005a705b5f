package reading

import (
	"context"
	"strconv"

	"dorbin/core/message"
	"dorbin/core/text"
	"dorbin/internal/jobs"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

const (
	pagesPerTurn = 64 // after which other sources have their turn
	// fewestLetters is how many characters tell that a page has its text, and is not a scan with a
	// stamp.
	fewestLetters = 40
	// mostUnknown is the share of characters without meaning from which on a text is broken.
	mostUnknown = 0.2
)

// brokenText is what is wrong with a text of which many characters stand for no letter.
var brokenText = message.Of("Its text cannot be searched: the file does not say which letters it shows. It can be read anew.")

// readOwnTexts reads the text of the pages of a PDF that it was not read of: some at a time. It goes
// on at the next start where it was stopped.
func (s *Service) readOwnTexts(ctx context.Context, task *jobs.Task) error {
	source, err := s.store.Source(ctx, task.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	if !sources.IsPDF(source) {
		return nil
	}
	known, err := s.store.Texts(ctx, source.Packet)
	if err != nil {
		return err
	}
	turn := 0
	for i := range source.Pages {
		key := store.TextKey{Source: source.ID, Page: i + 1}
		if _, isKnown := known[key]; isKnown {
			continue
		}
		if turn++; turn > pagesPerTurn {
			return s.runner.Add(ctx, task.Packet, task.Job)
		}
		if err := task.Note(ctx, strconv.Itoa(i+1)); err != nil {
			return err
		}
		if err := task.WaitIdle(ctx); err != nil {
			return err
		}
		if err := s.keepOwnText(ctx, source, key); err != nil {
			return store.UnlessGone(err)
		}
	}
	s.changed(source.Packet)
	return nil
}

func (s *Service) keepOwnText(ctx context.Context, source store.Source, key store.TextKey) error {
	info, page, err := s.ownText(ctx, source, key)
	if err != nil {
		return err
	}
	return s.store.KeepText(ctx, info, page)
}

// keepSoundOwnText keeps the text that a page has of its own, and tells whether that makes reading it
// needless.
func (s *Service) keepSoundOwnText(ctx context.Context, source store.Source, key store.TextKey) (bool, error) {
	if !sources.IsPDF(source) || key.Look != "" {
		return false, nil
	}
	info, page, err := s.ownText(ctx, source, key)
	if err != nil || info.State != store.TextOwn || !info.Problem.IsEmpty() {
		return false, err // it is read, as a picture
	}
	return true, s.store.KeepText(ctx, info, page)
}

// ownText is the text that a page of a PDF has, and what it is worth. A page that cannot be looked at
// has none.
func (s *Service) ownText(ctx context.Context, source store.Source, key store.TextKey) (store.TextInfo, text.Page, error) {
	own, err := s.engine.Words(ctx, s.store.FilePath(source.Working), key.Page)
	if stopped := worker.NotTried(ctx, err); stopped != nil {
		return store.TextInfo{}, text.Page{}, stopped
	}
	if err != nil {
		s.log.Warn("text of a page not read", "source", source.ID, "page", key.Page, "error", err)
	}
	return ownInfo(key, own), own.Page.Rounded(), nil
}

// ownInfo tells what the text of a page of a PDF is worth.
func ownInfo(key store.TextKey, own render.OwnText) store.TextInfo {
	info := store.TextInfo{TextKey: key, State: store.TextNone, Words: own.Page.WordCount(), Upright: store.UprightUnknown}
	if own.Characters < fewestLetters {
		return info
	}
	info.State = store.TextOwn
	if float64(own.Unknown) > mostUnknown*float64(own.Characters) {
		info.Problem = brokenText
	}
	return info
}

// giveUpOwnText leaves the page without text that could not be read, and goes on with the others.
func (s *Service) giveUpOwnText(ctx context.Context, failed jobs.Taken, _ error) error {
	page, err := strconv.Atoi(failed.Progress)
	if err != nil {
		return nil // it had not begun with any page
	}
	info := store.TextInfo{TextKey: store.TextKey{Source: failed.Key, Page: page}, State: store.TextNone, Upright: store.UprightUnknown}
	if err := s.store.KeepText(ctx, info, render.OwnText{}.Page); err != nil {
		return store.UnlessGone(err)
	}
	return s.runner.Add(ctx, failed.Packet, failed.Job)
}
