package gather

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"slices"
	"strings"
	"unicode"

	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/intake"
	"dorbin/internal/jobs"
	"dorbin/internal/packets"
	"dorbin/internal/sources"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// Outcome is what became of a file that was added.
type Outcome struct {
	Name     string           `json:"name"`
	Result   string           `json:"result" enum:"added,duplicate,locked,refused"`
	Reason   problem.Reason   `json:"reason,omitempty"`
	Sentence message.Text     `json:"sentence" doc:"What happened, for the user."`
	Source   *packet.SourceID `json:"source,omitempty"`
	Pages    []packet.PageID  `json:"pages,omitempty" doc:"The pages that were placed, in order."`
	Photos   bool             `json:"arePhotographs,omitempty" doc:"They may have been taken by a camera."`
}

// AddFile takes a file in: it is kept byte for byte and its pages are placed
// where the placement says. What is wrong with the file is told in the outcome; an
// error is a fault of the application, or is a problem.Invalid for a placement
// that cannot be meant.
func (s *Service) AddFile(ctx context.Context, packetID, name string, placement Placement, r io.Reader) (Outcome, error) {
	name = CleanName(name)
	if err := placement.Check(); err != nil {
		return Outcome{}, err
	}
	if _, err := s.store.Packet(ctx, packetID); err != nil {
		return Outcome{}, err
	}
	file, err := s.store.Save(r, s.inspect.Limits.FileBytes)
	switch {
	case errors.Is(err, store.ErrTooLarge):
		return s.refused(packetID, name, &problem.Error{Kind: problem.Invalid, Reason: intake.TooLarge, Sentence: message.Sentence(
			"%s is larger than %d MB, the most that one file may have", name, s.inspect.Limits.FileBytes>>20)}), nil
	case errors.Is(err, store.ErrDiskFull):
		return s.refused(packetID, name, &problem.Error{Kind: problem.Invalid, Reason: intake.DiskFull, Sentence: message.Of(
			"%s was not added: the disk is nearly full. Make room and add it again.", name)}), nil
	case err != nil:
		return Outcome{}, fmt.Errorf("keep %s: %w", name, err)
	}
	defer file.Release()
	defer s.runner.Foreground()() // not before: an upload that stalls holds nobody back
	return s.AddStored(ctx, packetID, name, placement, file.File, 0)
}

// AddStored makes a source of a file that is stored and pinned, and that should have a
// number of pages; 0 is unknown.
func (s *Service) AddStored(ctx context.Context, packetID, name string, placement Placement, file store.File, expected int) (Outcome, error) {
	if twin, found, err := s.twin(ctx, packetID, name, placement, file.SHA256); err != nil || found {
		return twin, err
	}
	return s.takeIn(ctx, store.Source{
		ID: store.NewID("f"), Packet: packetID, Name: name, State: store.SourceReady,
		Blob: file.SHA256, Working: file.SHA256, Bytes: file.Bytes,
		Expected: expected,
	}, placement)
}

// twin deals with a file that is in the packet already: it is not stored again.
// Its pages are placed again when a place was asked for, or when it had been
// taken out.
func (s *Service) twin(ctx context.Context, packetID, name string, placement Placement, sum string) (Outcome, bool, error) {
	p, all, err := s.store.Load(ctx, packetID)
	if err != nil {
		return Outcome{}, false, err
	}
	for _, source := range all {
		if source.Blob != sum {
			continue
		}
		removed := slices.Contains(p.State.Removed, packet.SourceID(source.ID))
		if source.State == store.SourceReady && (removed || placement.names()) {
			outcome, err := s.place(ctx, source, placement)
			return outcome, true, err
		}
		return outcomeOf(source, "duplicate", "", twinWords(name, source.Name)), true, nil
	}
	return Outcome{}, false, nil
}

func twinWords(name, there string) message.Text {
	if name == there {
		return message.Of("%s is in this packet already. It was not stored twice.", name)
	}
	return message.Of("%s is the same file as %s, which is in this packet already. It was not stored twice.", name, there)
}

// takeIn inspects a new source, keeps what is learned of it, and places its
// pages.
func (s *Service) takeIn(ctx context.Context, source store.Source, placement Placement) (Outcome, error) {
	var trouble *problem.Error
	copied, err := s.readSource(ctx, &source, placement.Password)
	defer copied.Release()
	switch {
	case ctx.Err() != nil:
		return Outcome{}, ctx.Err() // it was given up, which says nothing about the file
	case errors.As(err, &trouble) && (trouble.Reason == intake.NeedsPassword || trouble.Reason == intake.WrongPassword):
		return s.addLocked(ctx, source, placement, trouble)
	case errors.As(err, &trouble):
		return s.refused(source.Packet, source.Name, trouble), nil
	case err != nil:
		return Outcome{}, err
	}
	if _, err := placement.take(len(source.Pages)); err != nil {
		return s.refused(source.Packet, source.Name, badRange(source.Name, err)), nil
	}
	if source, err = s.store.AddSource(ctx, source, workOn(source)...); err != nil {
		return Outcome{}, err
	}
	return s.placeNew(ctx, source, placement)
}

func badRange(name string, err error) *problem.Error {
	return &problem.Error{Kind: problem.Invalid, Reason: intake.BadRange, Sentence: message.Of("%s was not added. %s", name, err), Cause: err}
}

// addLocked keeps a protected source, with the placement for when it is opened.
func (s *Service) addLocked(ctx context.Context, source store.Source, placement Placement, trouble *problem.Error) (Outcome, error) {
	placement.Password = ""
	text, err := json.Marshal(placement)
	if err != nil {
		return Outcome{}, fmt.Errorf("encode wish: %w", err)
	}
	source.State, source.Measured, source.Placement = store.SourceLocked, true, string(text)
	if source, err = s.store.AddSource(ctx, source); err != nil {
		return Outcome{}, err
	}
	s.changed(source.Packet)
	return outcomeOf(source, "locked", trouble.Reason, trouble.Sentence), nil
}

// readSource finds out what a source is and what pages it has. Pages of kinds
// that are converted, and of files that are torn, are read from a copy, which stays pinned
// until it is released; it is nil when there is none.
func (s *Service) readSource(ctx context.Context, source *store.Source, password string) (copied *store.Pin, err error) {
	path := s.store.FilePath(source.Blob)
	kind, err := s.inspect.Kind(path, source.Name)
	if err != nil {
		return nil, err
	}
	source.Kind = string(kind)
	if copied, err = s.makeWorkingCopy(ctx, source, kind, path, password); err != nil {
		return nil, err
	}
	if copied != nil {
		source.Working = copied.SHA256
	}
	pages, err := s.inspect.Pages(ctx, s.store.FilePath(source.Working), source.Name, "")
	if err != nil {
		return copied, err
	}
	setPages(source, pages)
	return copied, s.searchPapers(ctx, source)
}

// makeWorkingCopy makes the file that pages are read from, where it is not the source
// itself.
func (s *Service) makeWorkingCopy(ctx context.Context, source *store.Source, kind intake.Kind, path, password string) (*store.Pin, error) {
	var write func(w io.Writer) error
	switch {
	case kind.IsConverted():
		write = func(w io.Writer) error { return s.inspect.Convert(ctx, kind, path, source.Name, w) }
	case kind == intake.PDF && password != "":
		if _, err := s.inspect.Pages(ctx, path, source.Name, password); err != nil {
			return nil, err
		}
		write = func(w io.Writer) error { return s.engine.Rewrite(ctx, path, password, w) }
	default:
		torn, err := intake.IsTorn(path, kind)
		if err != nil || !torn {
			return nil, err
		}
		write = func(w io.Writer) error {
			share, err := s.inspect.Mend(ctx, kind, path, source.Name, w)
			source.Damage = message.Of("%s breaks off: %s of the picture is there. Ask for it again.", source.Name, shareWords(share))
			return err
		}
	}
	return s.store.Write(write)
}

func shareWords(share float64) message.Text {
	if share >= 1 {
		return message.Of("a coarse version")
	}
	return message.Of("only the upper %d %%", int(100*share))
}

func setPages(source *store.Source, pages []intake.Page) {
	source.Pages = make([]store.SourcePage, len(pages))
	for i, page := range pages {
		source.Pages[i] = store.SourcePage{Size: page.Size, Pixels: page.Pixels, Bytes: page.Bytes, Scanned: page.Scanned}
	}
	source.Measured = !sources.IsPDF(*source)
}

// workOn is what is done in the background with a source that is ready.
func workOn(source store.Source) []jobs.Job {
	work := []jobs.Job{{Kind: store.JobAnalyze, Key: source.ID}}
	if !source.Measured {
		work = append(work, jobs.Job{Kind: store.JobPageBytes, Key: source.ID})
	}
	if sources.IsPDF(source) {
		work = append(work, jobs.Job{Kind: store.JobOwnText, Key: source.ID})
	}
	for i := range source.Pages {
		if mayShowFacingPages(source, i+1) {
			return append(work, jobs.Job{Kind: store.JobFacing, Key: source.ID})
		}
	}
	return work
}

// placeNew places a source that has just become ready.
func (s *Service) placeNew(ctx context.Context, source store.Source, placement Placement) (Outcome, error) {
	outcome, err := s.place(ctx, source, placement)
	if err != nil {
		return Outcome{}, err
	}
	for _, job := range workOn(source) {
		s.runner.Wake(job.Kind)
	}
	s.log.Info("source added", "packet", source.Packet, "source", source.ID, "kind", source.Kind,
		"bytes", source.Bytes, "pages", len(source.Pages))
	return outcome, nil
}

func outcomeOf(source store.Source, result string, reason problem.Reason, sentence message.Text) Outcome {
	id := packet.SourceID(source.ID)
	return Outcome{Name: source.Name, Result: result, Reason: reason, Sentence: sentence, Source: &id}
}

func (s *Service) refused(packetID, name string, p *problem.Error) Outcome {
	s.log.Info("file refused", "packet", packetID, "reason", string(p.Reason))
	return Outcome{Name: name, Result: "refused", Reason: p.Reason, Sentence: p.Sentence}
}

// Unlock opens a protected source with its password and places its pages. The
// password is not kept: pages are read from an unlocked copy. A wrong password
// is a *problem.Error.
func (s *Service) Unlock(ctx context.Context, packetID, sourceID, password string) (Outcome, error) {
	source, err := s.lockedSource(ctx, packetID, sourceID)
	if err != nil {
		return Outcome{}, err
	}
	copied, err := s.readSource(ctx, &source, password)
	defer copied.Release()
	if err != nil {
		return Outcome{}, fmt.Errorf("unlock source %s: %w", sourceID, err)
	}
	var placement Placement
	if source.Placement != "" {
		if err := json.Unmarshal([]byte(source.Placement), &placement); err != nil {
			return Outcome{}, fmt.Errorf("decode wish: %w", err)
		}
	}
	if _, err := placement.take(len(source.Pages)); err != nil {
		placement.Pages = "" // all of them are better than none
	}
	source.State = store.SourceReady
	if err := s.store.UpdateSource(ctx, source, workOn(source)...); err != nil {
		return Outcome{}, err
	}
	return s.placeNew(ctx, source, placement)
}

// RemoveLocked takes a protected source out of the packet again.
func (s *Service) RemoveLocked(ctx context.Context, packetID, sourceID string) (packets.Packet, error) {
	source, err := s.lockedSource(ctx, packetID, sourceID)
	if err != nil {
		return packets.Packet{}, err
	}
	if err := s.store.DeleteSource(ctx, source.ID); err != nil {
		return packets.Packet{}, err
	}
	s.changed(packetID)
	return s.packets.Get(ctx, packetID)
}

func (s *Service) lockedSource(ctx context.Context, packetID, sourceID string) (store.Source, error) {
	source, err := s.store.Source(ctx, sourceID)
	if err != nil {
		return source, err
	}
	if source.Packet != packetID || source.State != store.SourceLocked {
		return source, fmt.Errorf("%w: a protected source %s", store.ErrNotFound, sourceID)
	}
	return source, nil
}

// measureSource measures a PDF's pages. A PDF that does not parse cleanly is
// replaced, as what pages are read from, by a copy that PDFium has repaired.
func (s *Service) measureSource(ctx context.Context, task *jobs.Task) error {
	source, err := s.store.Source(ctx, task.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	measured, file, err := s.sources.Measure(ctx, source)
	defer file.Release()
	if stopped := worker.NotTried(ctx, err); stopped != nil {
		return stopped
	}
	switch {
	case worker.GaveUp(err):
		source.Damage = message.Of("%s can be shown but not written: it takes too much time or memory to read, or is damaged. Print it to a new PDF and add that.", source.Name)
	case err != nil:
		s.log.Warn("source not measured", "packet", source.Packet, "source", source.ID, "error", err)
	default:
		source.Working = file.SHA256
		source.Pages = slices.Clone(source.Pages) // the store's own are not to be changed
		for i, page := range measured {
			source.Pages[i].Bytes, source.Pages[i].Shared, source.Pages[i].Headings = page.Bytes, page.Shared, page.Headings
		}
	}
	return s.setMeasured(ctx, source)
}

func (s *Service) setMeasured(ctx context.Context, source store.Source) error {
	source.Measured = true
	if err := s.store.UpdateSource(ctx, source); err != nil {
		return store.UnlessGone(err)
	}
	s.changed(source.Packet)
	return nil
}

// giveUpMeasuring says of a source that it is not known how heavy its pages are. That is no fault of the source where no
// worker could be started.
func (s *Service) giveUpMeasuring(ctx context.Context, failed jobs.Taken, cause error) error {
	if worker.IsUnavailable(cause) {
		return nil
	}
	source, err := s.store.Source(ctx, failed.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	source.Damage = message.Of("%s is damaged: the file size of its pages cannot be measured. Print it to a new PDF and add that instead.", source.Name)
	return s.setMeasured(ctx, source)
}

// CleanName keeps the last element of a file's path, of whichever system.
func CleanName(name string) string {
	if i := strings.LastIndexAny(name, `/\`); i >= 0 {
		name = name[i+1:]
	}
	name = strings.Map(func(r rune) rune {
		if isUnseen(r) {
			return -1
		}
		return r
	}, strings.ToValidUTF8(name, ""))
	name = strings.Join(strings.Fields(name), " ")
	if name == "" {
		return "Unnamed file"
	}
	return shortened(name)
}

// isUnseen tells of characters that are not seen, or change the direction in which others are
// read, so that a name would look like another. Line ends and tabs are space.
func isUnseen(r rune) bool {
	return unicode.Is(unicode.Cf, r) || (unicode.IsControl(r) && !unicode.IsSpace(r))
}

// shortened cuts a name of more than packet.MaxTitle characters, and keeps its extension.
func shortened(name string) string {
	runes := []rune(name)
	if len(runes) <= packet.MaxTitle {
		return name
	}
	extension := []rune(filepath.Ext(name))
	if len(extension) > longestExtension {
		extension = nil
	}
	return string(runes[:packet.MaxTitle-len(extension)-1]) + "…" + string(extension)
}

const longestExtension = 10
