package checking

import (
	"context"
	"errors"
	"fmt"
	"strconv"
	"sync"
	"time"

	"dorbin/core/check"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/guard"
	"dorbin/internal/jobs"
	"dorbin/internal/sources"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// analysisCache remembers the signs of pages, which are many and seldom change.
type analysisCache struct {
	mutex    sync.Mutex
	bySource map[string][]*check.PageAnalysis
	byPacket map[string]knownTwins
}

// knownTwins are the pages of a packet that look alike, for as long as these are
// its pages.
type knownTwins struct {
	key   string
	twins []raster.Twin
}

// What is remembered is bounded; a memory that is full starts anew.
const (
	mostRemembered        = 64 // packets whose twins are remembered
	mostSourcesRemembered = 2000
)

// Forget drops what is remembered of a packet that was deleted.
func (s *Service) Forget(packetID string, sources []store.Source) {
	s.cache.mutex.Lock()
	defer s.cache.mutex.Unlock()
	delete(s.cache.byPacket, packetID)
	for _, source := range sources {
		delete(s.cache.bySource, source.ID)
	}
}

func (s *analysisCache) twinsOf(packetID, key string, find func() []raster.Twin) []raster.Twin {
	s.mutex.Lock()
	known, ok := s.byPacket[packetID]
	s.mutex.Unlock()
	if ok && known.key == key {
		return known.twins
	}
	twins := find()
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if len(s.byPacket) >= mostRemembered {
		clear(s.byPacket)
	}
	s.byPacket[packetID] = knownTwins{key, twins}
	return twins
}

const (
	scanEdge      = 1400 // pixels at which lines of writing can be told apart
	textEdge      = 700  // enough where the text is known
	pagesPerWrite = 16
	pagesPerTurn  = 64 // after which other sources have their turn
)

// Analyses gives what is known of a source's pages; nil for those that have not
// been analysed.
func (s *Service) Analyses(ctx context.Context, source store.Source) ([]*check.PageAnalysis, error) {
	s.cache.mutex.Lock()
	defer s.cache.mutex.Unlock()
	if signs := s.cache.bySource[source.ID]; len(signs) == len(source.Pages) {
		return signs, nil
	}
	signs, err := s.store.Analyses(ctx, source.ID, len(source.Pages))
	if err == nil {
		if len(s.cache.bySource) >= mostSourcesRemembered {
			clear(s.cache.bySource)
		}
		s.cache.bySource[source.ID] = signs
	}
	return signs, err
}

// AnalysesOf gives what is known of a page of a packet's sources, counted from 1; nil for one that has
// not been analysed. What was recognised on a page counts where its picture leaves it open.
func (s *Service) AnalysesOf(ctx context.Context, sources []store.Source) (func(source packet.SourceID, page int) *check.PageAnalysis, error) {
	bySource := make(map[packet.SourceID][]*check.PageAnalysis, len(sources))
	for _, source := range sources {
		analyses, err := s.Analyses(ctx, source)
		if err != nil {
			return nil, err
		}
		bySource[packet.SourceID(source.ID)] = analyses
	}
	read, err := s.recognised(ctx, sources)
	if err != nil {
		return nil, err
	}
	return func(source packet.SourceID, page int) *check.PageAnalysis {
		analyses := bySource[source]
		if page < 1 || page > len(analyses) {
			return nil
		}
		return withRecognised(analyses[page-1], read[check.Scan{Source: source, Page: page}])
	}, nil
}

// keepAnalyses keeps what was learned of pages, by their numbers.
func (s *Service) keepAnalyses(ctx context.Context, source store.Source, learned map[int]*check.PageAnalysis) error {
	if err := s.store.AddAnalyses(ctx, source.ID, learned); err != nil {
		return err
	}
	s.cache.mutex.Lock()
	defer s.cache.mutex.Unlock()
	known := make([]*check.PageAnalysis, len(source.Pages)) // who reads the old ones goes on doing so
	copy(known, s.cache.bySource[source.ID])
	for page, signs := range learned {
		known[page-1] = signs
	}
	s.cache.bySource[source.ID] = known
	s.changed(source.Packet)
	return nil
}

// analyzeSource analyses the pages of a source that are not analysed yet, for findings:
// some at a time, so that a short source need not wait for a long one.
// It goes on at the next start where it was stopped.
func (s *Service) analyzeSource(ctx context.Context, task *jobs.Task) error {
	source, err := s.store.Source(ctx, task.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	known, err := s.Analyses(ctx, source)
	if err != nil {
		return err
	}
	learned := map[int]*check.PageAnalysis{}
	turn := 0
	for i := range source.Pages {
		if known[i] != nil {
			continue
		}
		if turn++; turn > pagesPerTurn { // the next turn is behind those of other sources
			return s.runner.Add(ctx, task.Packet, task.Job)
		}
		if err := task.Note(ctx, strconv.Itoa(i+1)); err != nil {
			return err
		}
		if err := task.WaitIdle(ctx); err != nil {
			return err
		}
		begun := time.Now()
		signs, err := s.analyzePage(ctx, source, i+1)
		if err != nil {
			return err
		}
		// Half of a core is left to whoever scrolls meanwhile.
		if err := jobs.Sleep(ctx, min(time.Since(begun), longestRest)); err != nil {
			return err
		}
		learned[i+1] = &signs
		if len(learned) >= pagesPerWrite || turn == pagesPerTurn {
			if err := s.keepAnalyses(ctx, source, learned); err != nil {
				return store.UnlessGone(err)
			}
			clear(learned)
		}
	}
	if len(learned) > 0 {
		if err := s.keepAnalyses(ctx, source, learned); err != nil {
			return store.UnlessGone(err)
		}
	}
	return store.UnlessGone(s.runner.Add(ctx, task.Packet, jobs.Job{Kind: store.JobCompareInk, Key: task.Packet}))
}

// giveUpAnalyzing marks the page that could not be analysed, and goes on with the others.
func (s *Service) giveUpAnalyzing(ctx context.Context, failed jobs.Taken, _ error) error {
	source, err := s.store.Source(ctx, failed.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	page, err := strconv.Atoi(failed.Progress)
	if err != nil || page < 1 || page > len(source.Pages) {
		return nil // it had not begun with any page
	}
	if err := s.keepAnalyses(ctx, source, map[int]*check.PageAnalysis{page: unread(nil)}); err != nil {
		return err
	}
	return s.runner.Add(ctx, failed.Packet, failed.Job)
}

// analyzePage gives the signs of a page. One that cannot be drawn has none, and is marked;
// an error tells that the application stops.
func (s *Service) analyzePage(ctx context.Context, source store.Source, number int) (signs check.PageAnalysis, err error) {
	err = guard.Run(func() (err error) {
		signs, err = s.drawAndAnalyze(ctx, source, number)
		return err
	})
	if worker.IsUnavailable(err) {
		return signs, err // it is tried again
	}
	if err != nil && ctx.Err() == nil {
		s.log.Warn("page not analysed", "source", source.ID, "page", number, "error", err)
		return *unread(err), nil
	}
	return signs, ctx.Err()
}

// unread is what is known of a page that could not be read.
func unread(err error) *check.PageAnalysis {
	analysis := &check.PageAnalysis{Ink: 1, Failed: true}
	var told *problem.Error
	if errors.As(err, &told) {
		analysis.Problem = told.Sentence
	}
	return analysis
}

func (s *Service) drawAndAnalyze(ctx context.Context, source store.Source, number int) (check.PageAnalysis, error) {
	var text check.Text
	edge := scanEdge
	if sources.IsPDF(source) {
		var err error
		if text, err = s.engine.Text(ctx, s.store.FilePath(source.Working), number); err != nil {
			return check.PageAnalysis{}, fmt.Errorf("read the text of page %d: %w", number, err)
		}
		if text.IsEnough() {
			edge = textEdge
		}
	}
	picture, err := s.pictures.Upright(ctx, s.sources.Page(source, number, packet.Adjustments{}, 0), edge)
	if err != nil {
		return check.PageAnalysis{}, fmt.Errorf("draw page %d: %w", number, err)
	}
	analysis := check.Analyze(picture, text, source.Pages[number-1].Size)
	if sources.IsPDF(source) {
		holdings, err := s.engine.Holdings(ctx, s.store.FilePath(source.Working), number)
		switch {
		case err == nil:
			analysis.Holdings = &holdings
		case worker.IsUnavailable(err):
			return check.PageAnalysis{}, fmt.Errorf("look at page %d: %w", number, err)
		} // of a page that draws but whose objects cannot be listed, nothing more is known
	}
	if !analysis.IsNearlyBlank() {
		if !text.IsEnough() {
			err = s.recogniseStanding(ctx, source, number, picture, &analysis)
		}
		return analysis, err
	}
	if !sources.IsPDF(source) {
		return analysis, nil
	}
	// A reader shows nothing where a picture should be that it cannot decode.
	damaged, err := s.sources.DamagedPictures(ctx, source, number)
	if err == nil && damaged > 0 {
		err = &problem.Error{Kind: problem.Invalid, Sentence: problem.ThisPage(check.LooksBlankWords)}
	}
	return analysis, err
}

// longestRest is the longest that the analysis rests after a page.
const longestRest = 100 * time.Millisecond
