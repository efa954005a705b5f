package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"slices"
	"strings"

	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/internal/intake"
	"dorbin/internal/store"
)

// Outcome is what became of a file that was added.
type Outcome struct {
	Name     string           `json:"name"`
	Result   string           `json:"result" enum:"added,duplicate,locked,refused"`
	Reason   intake.Reason    `json:"reason,omitempty"`
	Sentence string           `json:"sentence" doc:"What happened, for the user."`
	Source   *packet.SourceID `json:"source,omitempty"`
	Pages    []packet.PageID  `json:"pages,omitempty" doc:"The pages that were placed, in order."`
}

// AddFile takes a file in: it is kept byte for byte and its pages are placed
// where the wish says. What is wrong with the file is told in the outcome; an
// error is a fault of the application, or wraps packet.ErrInvalid for a wish
// that cannot be meant.
func (a *App) AddFile(ctx context.Context, packetID, name string, wish Wish, r io.Reader) (Outcome, error) {
	defer a.urgent.begin()()
	name = cleanName(name)
	if err := wish.check(); err != nil {
		return Outcome{}, err
	}
	if _, err := a.store.Packet(ctx, packetID); err != nil {
		return Outcome{}, err
	}
	blob, err := a.store.Files.Save(r, a.Limits().FileBytes)
	switch {
	case errors.Is(err, store.ErrTooLarge):
		return a.refused(packetID, name, &intake.Problem{Reason: intake.TooLarge, Sentence: fmt.Sprintf(
			"%s is larger than %d MB, the most that one file may have.", name, a.Limits().FileBytes>>20)}), nil
	case errors.Is(err, store.ErrDiskFull):
		return a.refused(packetID, name, &intake.Problem{Reason: intake.DiskFull, Sentence: fmt.Sprintf(
			"%s was not added: the disk is nearly full. Make room and add it again.", name)}), nil
	case err != nil:
		return Outcome{}, fmt.Errorf("keep %s: %w", name, err)
	}
	return a.addBlob(ctx, packetID, name, wish, blob, 0)
}

// addBlob makes a source of a file that is kept already, and that should have a
// number of pages; 0 is unknown. The file is released again when it is refused.
func (a *App) addBlob(ctx context.Context, packetID, name string, wish Wish, blob store.Blob, expected int) (Outcome, error) {
	if twin, found, err := a.twin(ctx, packetID, wish, blob.SHA256); err != nil || found {
		return twin, err
	}
	source := store.Source{
		ID: newID("f"), Packet: packetID, Name: name, State: store.SourceReady,
		Blob: blob.SHA256, Working: blob.SHA256, Bytes: blob.Bytes,
		Expected: expected,
	}
	outcome, err := a.takeIn(ctx, source, wish)
	if err != nil || outcome.Result == "refused" {
		err = errors.Join(err, a.store.ReleaseFile(ctx, blob.SHA256))
	}
	return outcome, err
}

// twin deals with a file that is in the packet already: it is not stored again.
// Its pages are placed again when a place was asked for, or when it had been
// taken out.
func (a *App) twin(ctx context.Context, packetID string, wish Wish, sum string) (Outcome, bool, error) {
	p, sources, err := a.load(ctx, packetID)
	if err != nil {
		return Outcome{}, false, err
	}
	for _, source := range sources {
		if source.Blob != sum {
			continue
		}
		removed := slices.Contains(p.State.Removed, packet.SourceID(source.ID))
		if source.State == store.SourceReady && (removed || wish.names()) {
			outcome, err := a.place(ctx, source, wish)
			return outcome, true, err
		}
		return outcomeOf(source, "duplicate", "", fmt.Sprintf("%s is in this packet already. It was not stored twice.", source.Name)), true, nil
	}
	return Outcome{}, false, nil
}

// takeIn looks into a new source, keeps what is learned of it, and places its
// pages.
func (a *App) takeIn(ctx context.Context, source store.Source, wish Wish) (Outcome, error) {
	var trouble *intake.Problem
	err := a.readSource(ctx, &source, wish.Password)
	switch {
	case errors.As(err, &trouble) && (trouble.Reason == intake.NeedsPassword || trouble.Reason == intake.WrongPassword):
		return a.addLocked(ctx, source, wish, trouble)
	case errors.As(err, &trouble):
		return a.refused(source.Packet, source.Name, trouble), nil
	case err != nil:
		return Outcome{}, err
	}
	if _, err := wish.take(len(source.Pages)); err != nil {
		return a.refused(source.Packet, source.Name, badRange(source.Name, err)), nil
	}
	if source, err = a.store.AddSource(ctx, source); err != nil {
		return Outcome{}, err
	}
	return a.placeNew(ctx, source, wish)
}

func badRange(name string, err error) *intake.Problem {
	return &intake.Problem{Reason: intake.BadRange, Sentence: fmt.Sprintf("%s was not added. %s", name, err), Cause: err}
}

// addLocked keeps a protected source, with the wish for when it is opened.
func (a *App) addLocked(ctx context.Context, source store.Source, wish Wish, trouble *intake.Problem) (Outcome, error) {
	wish.Password = ""
	text, err := json.Marshal(wish)
	if err != nil {
		return Outcome{}, fmt.Errorf("encode wish: %w", err)
	}
	source.State, source.Weighed, source.Wish = store.SourceLocked, true, string(text)
	if source, err = a.store.AddSource(ctx, source); err != nil {
		return Outcome{}, err
	}
	a.announceSources(source.Packet)
	return outcomeOf(source, "locked", trouble.Reason, trouble.Sentence), nil
}

// readSource finds out what a source is and what pages it has. Pages of kinds
// that are converted, and of files that are torn, are read from a copy.
func (a *App) readSource(ctx context.Context, source *store.Source, password string) error {
	path := a.store.Files.Path(source.Blob)
	kind, err := a.inspect.Kind(path, source.Name)
	if err != nil {
		return err
	}
	source.Kind = string(kind)
	if err := a.makeWorkingCopy(ctx, source, kind, path, password); err != nil {
		return err
	}
	pages, err := a.inspect.Pages(ctx, a.store.Files.Path(source.Working), source.Name, "")
	if err != nil {
		return errors.Join(err, a.releaseWorking(ctx, *source))
	}
	setPages(source, pages)
	return a.lookForPapers(ctx, source)
}

func (a *App) releaseWorking(ctx context.Context, source store.Source) error {
	if source.Working == source.Blob {
		return nil
	}
	return a.store.ReleaseFile(ctx, source.Working)
}

// makeWorkingCopy makes the file that pages are read from, where it is not the
// source itself.
func (a *App) makeWorkingCopy(ctx context.Context, source *store.Source, kind intake.Kind, path, password string) error {
	var write func(w io.Writer) error
	torn := false
	switch {
	case kind.IsConverted():
		write = func(w io.Writer) error { return a.inspect.Convert(ctx, kind, path, source.Name, w) }
	case kind == intake.PDF && password != "":
		if _, err := a.inspect.Pages(ctx, path, source.Name, password); err != nil {
			return err
		}
		write = func(w io.Writer) error { return a.engine.Rewrite(ctx, path, password, w) }
	case kind == intake.JPEG:
		var err error
		if torn, err = intake.IsTorn(path); err != nil {
			return err
		}
		write = func(w io.Writer) error {
			share, err := intake.MendJPEG(path, source.Name, w)
			source.Damage = fmt.Sprintf("%s breaks off: %s of the picture is there. Ask for it again.", source.Name, shareWords(share))
			return err
		}
	}
	if write == nil || (kind == intake.JPEG && !torn) {
		return nil
	}
	blob, err := a.store.Files.Write(write)
	source.Working = blob.SHA256
	return err
}

func shareWords(share float64) string {
	if share >= 1 {
		return "a coarse version"
	}
	return fmt.Sprintf("only the upper %d %%", int(100*share))
}

func setPages(source *store.Source, pages []intake.Page) {
	source.Pages = make([]store.SourcePage, len(pages))
	for i, page := range pages {
		source.Pages[i] = store.SourcePage{Size: page.Size, Pixels: page.Pixels, Weight: page.Weight, Scanned: page.Scanned}
	}
	source.Weighed = !readsAsPDF(*source)
}

// readsAsPDF tells whether a source's pages are read from a PDF.
func readsAsPDF(source store.Source) bool {
	return source.Kind == string(intake.PDF) || source.Kind == string(intake.Office)
}

// placeNew places a source that has just become ready.
func (a *App) placeNew(ctx context.Context, source store.Source, wish Wish) (Outcome, error) {
	outcome, err := a.place(ctx, source, wish)
	if err != nil {
		return Outcome{}, err
	}
	if !source.Weighed {
		a.weigh <- source.ID
	}
	a.look <- source.ID
	a.log.Info("source added", "packet", source.Packet, "source", source.ID, "kind", source.Kind,
		"bytes", source.Bytes, "pages", len(source.Pages))
	return outcome, nil
}

func outcomeOf(source store.Source, result string, reason intake.Reason, sentence string) Outcome {
	id := packet.SourceID(source.ID)
	return Outcome{Name: source.Name, Result: result, Reason: reason, Sentence: sentence, Source: &id}
}

func (a *App) refused(packetID, name string, p *intake.Problem) Outcome {
	a.log.Info("file refused", "packet", packetID, "reason", string(p.Reason))
	return Outcome{Name: name, Result: "refused", Reason: p.Reason, Sentence: p.Sentence}
}

// Unlock opens a protected source with its password and places its pages. The
// password is not kept: pages are read from an unlocked copy. A wrong password
// is an *intake.Problem.
func (a *App) Unlock(ctx context.Context, packetID, sourceID, password string) (Outcome, error) {
	source, err := a.lockedSource(ctx, packetID, sourceID)
	if err != nil {
		return Outcome{}, err
	}
	if err := a.readSource(ctx, &source, password); err != nil {
		return Outcome{}, fmt.Errorf("unlock source %s: %w", sourceID, err)
	}
	var wish Wish
	if source.Wish != "" {
		if err := json.Unmarshal([]byte(source.Wish), &wish); err != nil {
			return Outcome{}, fmt.Errorf("decode wish: %w", err)
		}
	}
	if _, err := wish.take(len(source.Pages)); err != nil {
		wish.Pages = "" // all of them are better than none
	}
	source.State = store.SourceReady
	if err := a.store.UpdateSource(ctx, source); err != nil {
		return Outcome{}, err
	}
	return a.placeNew(ctx, source, wish)
}

// RemoveLocked takes a protected source out of the packet again.
func (a *App) RemoveLocked(ctx context.Context, packetID, sourceID string) (Packet, error) {
	source, err := a.lockedSource(ctx, packetID, sourceID)
	if err != nil {
		return Packet{}, err
	}
	if err := a.store.DeleteSource(ctx, source.ID); err != nil {
		return Packet{}, err
	}
	if err := a.store.ReleaseFile(ctx, source.Blob); err != nil {
		return Packet{}, err
	}
	a.announceSources(packetID)
	return a.Packet(ctx, packetID)
}

func (a *App) lockedSource(ctx context.Context, packetID, sourceID string) (store.Source, error) {
	source, err := a.store.Source(ctx, sourceID)
	if err != nil {
		return source, err
	}
	if source.Packet != packetID || source.State != store.SourceLocked {
		return source, fmt.Errorf("%w: a protected source %s", ErrNotFound, sourceID)
	}
	return source, nil
}

func (a *App) rewrite(ctx context.Context, sum, password string) (store.Blob, error) {
	return a.store.Files.Write(func(w io.Writer) error {
		return a.engine.Rewrite(ctx, a.store.Files.Path(sum), password, w)
	})
}

// announceSources tells the listeners that a packet's sources changed.
func (a *App) announceSources(packetID string) {
	a.events.send(Event{Kind: "sources", Packet: packetID})
}

// weighSource measures a PDF's pages. A PDF that does not parse cleanly is
// replaced, as what pages are read from, by a copy that PDFium has repaired.
func (a *App) weighSource(ctx context.Context, id string) {
	source, err := a.store.Source(ctx, id)
	if err != nil {
		return // deleted meanwhile
	}
	a.parsing.Lock()
	defer a.parsing.Unlock()
	doc, repaired, err := a.readablePDF(ctx, source)
	if err != nil {
		a.log.Warn("source cannot be weighed", "packet", source.Packet, "source", id, "error", err)
	} else {
		source.Working = repaired
		source.Pages = slices.Clone(source.Pages) // the store's own are not to be changed
		for i, weight := range pdf.Weigh(doc) {
			source.Pages[i].Weight = weight
		}
	}
	if ctx.Err() != nil {
		return // goes on at the next start
	}
	source.Weighed = true
	if err := a.store.UpdateSource(ctx, source); err != nil {
		a.log.Error("weights not kept", "packet", source.Packet, "source", id, "error", err)
		return
	}
	a.announceSources(source.Packet)
}

// readablePDF parses a source's PDF and returns the hash of the bytes that
// parsed: the source's own, or a repaired copy's. It is called with a.parsing
// held.
func (a *App) readablePDF(ctx context.Context, source store.Source) (*pdf.Document, string, error) {
	doc, err := a.parsePDF(source.Working, len(source.Pages))
	if err == nil {
		return doc, source.Working, nil
	}
	copied, rewriteErr := a.rewrite(ctx, source.Working, "")
	if rewriteErr != nil {
		return nil, "", errors.Join(err, rewriteErr)
	}
	doc, again := a.parsePDF(copied.SHA256, len(source.Pages))
	if again != nil {
		return nil, "", errors.Join(err, again, a.store.ReleaseFile(ctx, copied.SHA256))
	}
	a.log.Info("source repaired", "packet", source.Packet, "source", source.ID)
	return doc, copied.SHA256, nil
}

func (a *App) parsePDF(sum string, pages int) (*pdf.Document, error) {
	file, err := a.store.Files.Open(sum)
	if err != nil {
		return nil, err
	}
	defer file.Close() //nolint:errcheck // only read from
	doc, err := pdf.Open(file)
	if err != nil {
		return nil, err
	}
	if doc.PageCount() != pages {
		return nil, fmt.Errorf("the parser finds %d pages where there are %d", doc.PageCount(), pages)
	}
	return doc, nil
}

// cleanName keeps the last element of a file's path, of whichever system.
func cleanName(name string) string {
	if i := strings.LastIndexAny(name, `/\`); i >= 0 {
		name = name[i+1:]
	}
	name = strings.Join(strings.Fields(strings.ToValidUTF8(name, "")), " ")
	if name == "" {
		return "Unnamed file"
	}
	return name
}

// partTitle makes a title of a file's name: "site-plan.pdf" is "Site plan".
func partTitle(name string) string {
	title := strings.TrimSuffix(name, filepath.Ext(name))
	title = strings.Join(strings.FieldsFunc(title, func(r rune) bool { return r == '_' || r == '-' || r == ' ' }), " ")
	if title == "" {
		title = name
	}
	runes := []rune(title)
	runes = runes[:min(len(runes), packet.MaxTitle)]
	return strings.ToUpper(string(runes[:1])) + string(runes[1:])
}
