package app

import (
	"context"
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
}

// AddFile takes a file in: it is kept byte for byte and its pages become a part
// at the end of the packet. What is wrong with the file is told in the outcome;
// an error is a fault of the application.
func (a *App) AddFile(ctx context.Context, packetID, name string, r io.Reader) (Outcome, error) {
	name = cleanName(name)
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
	if twin, found, err := a.twin(ctx, packetID, blob.SHA256); err != nil || found {
		return twin, err
	}
	outcome, err := a.addBlob(ctx, packetID, name, blob)
	if err != nil || outcome.Result == "refused" {
		err = errors.Join(err, a.store.ReleaseFile(ctx, blob.SHA256))
	}
	return outcome, err
}

func (a *App) twin(ctx context.Context, packetID, sum string) (Outcome, bool, error) {
	sources, err := a.store.Sources(ctx, packetID)
	if err != nil {
		return Outcome{}, false, err
	}
	for _, source := range sources {
		if source.Blob == sum {
			id := packet.SourceID(source.ID)
			return Outcome{
				Name: source.Name, Result: "duplicate", Source: &id,
				Sentence: fmt.Sprintf("%s is in this packet already. It was not stored twice.", source.Name),
			}, true, nil
		}
	}
	return Outcome{}, false, nil
}

func (a *App) addBlob(ctx context.Context, packetID, name string, blob store.Blob) (Outcome, error) {
	source := store.Source{
		ID: newID("f"), Packet: packetID, Name: name, State: store.SourceReady,
		Blob: blob.SHA256, Working: blob.SHA256, Bytes: blob.Bytes,
	}
	kind, pages, err := a.inspect.Inspect(ctx, a.store.Files.Path(blob.SHA256), name, "")
	source.Kind = string(kind)
	var trouble *intake.Problem
	switch {
	case errors.As(err, &trouble) && trouble.Reason == intake.NeedsPassword:
		source.State, source.Weighed = store.SourceLocked, true
		if source, err = a.store.AddSource(ctx, source); err != nil {
			return Outcome{}, err
		}
		a.announceSources(packetID)
		return outcomeOf(source, "locked", trouble.Reason, trouble.Sentence), nil
	case errors.As(err, &trouble):
		return a.refused(packetID, name, trouble), nil
	case err != nil:
		return Outcome{}, err
	}
	setPages(&source, pages)
	if source, err = a.store.AddSource(ctx, source); err != nil {
		return Outcome{}, err
	}
	return a.placeNew(ctx, source)
}

func setPages(source *store.Source, pages []intake.Page) {
	source.Pages = make([]store.SourcePage, len(pages))
	for i, page := range pages {
		source.Pages[i] = store.SourcePage(page)
	}
	source.Weighed = source.Kind != string(intake.PDF)
}

// placeNew makes a part of a source that has just become ready.
func (a *App) placeNew(ctx context.Context, source store.Source) (Outcome, error) {
	command := packet.Command{Do: "place", Source: packet.SourceID(source.ID), Title: partTitle(source.Name)}
	if _, err := a.applyNow(ctx, source.Packet, []packet.Command{command}); err != nil {
		return Outcome{}, err
	}
	if !source.Weighed {
		a.weigh <- source.ID
	}
	a.log.Info("source added", "packet", source.Packet, "source", source.ID, "kind", source.Kind,
		"bytes", source.Bytes, "pages", len(source.Pages))
	return outcomeOf(source, "added", "", fmt.Sprintf("Added %s.", source.Name)), nil
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
	if _, _, err := a.inspect.Inspect(ctx, a.store.Files.Path(source.Blob), source.Name, password); err != nil {
		return Outcome{}, err
	}
	copied, err := a.rewrite(ctx, source.Blob, password)
	if err != nil {
		return Outcome{}, fmt.Errorf("unlock source %s: %w", sourceID, err)
	}
	_, pages, err := a.inspect.Inspect(ctx, a.store.Files.Path(copied.SHA256), source.Name, "")
	if err != nil {
		return Outcome{}, err
	}
	source.Working, source.State = copied.SHA256, store.SourceReady
	setPages(&source, pages)
	if err := a.store.UpdateSource(ctx, source); err != nil {
		return Outcome{}, err
	}
	return a.placeNew(ctx, source)
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
