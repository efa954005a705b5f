package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"sync"
	"time"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/internal/store"
)

// Export is a document being made, or made.
type Export struct {
	ID      string    `json:"id"`
	Packet  string    `json:"packet"`
	Name    string    `json:"name" doc:"The file's name."`
	State   string    `json:"state" enum:"waiting,running,done,failed,cancelled"`
	Total   int       `json:"total" doc:"Pages."`
	Weighed int       `json:"weighed,omitempty" doc:"Pages of which it was measured how they can be written."`
	Done    int       `json:"done" doc:"Pages written so far."`
	Problem string    `json:"problem,omitempty"`
	Receipt *Receipt  `json:"receipt,omitempty"`
	Created time.Time `json:"created"`
}

// Receipt is what an independent reader found in the finished file.
type Receipt struct {
	Pages  int         `json:"pages"`
	Bytes  int64       `json:"bytes"`
	SHA256 string      `json:"sha256"`
	Sizes  []PageSizes `json:"sizes" nullable:"false"`
	// Differences tell where the file is not what was asked for.
	Differences []string     `json:"differences" nullable:"false"`
	Limit       int64        `json:"limit,omitempty" doc:"Bytes that it was to fit under."`
	Hidden      []HiddenPage `json:"hidden,omitempty" doc:"Pages of which something that was cropped away is still in the file, unseen."`
	Became      []LightPage  `json:"became,omitempty" doc:"Pages that were written in fewer bytes, in their order."`
}

// PageSizes counts the pages of one size.
type PageSizes struct {
	Size  string `json:"size"`
	Pages int    `json:"pages"`
}

// exportRequest is the packet as it stood when the export was asked for.
type exportRequest struct {
	Title string        `json:"title"`
	Parts []packet.Part `json:"parts"`
	At    time.Time     `json:"at"`
	Sizing
}

// ExportOrder is what is to be made of a packet.
type ExportOrder struct {
	Name  string          // of the file; without it one is made of the packet's name
	Pages []packet.PageID // these alone; all when there are none
	Size  ExportSize
	Limit int64 // bytes, to fit under
}

// ErrEmptyPacket is returned for the export of a packet without pages.
var ErrEmptyPacket = errors.New("there are no pages to export")

// StartExport asks for the packet, or for some pages of it, as one PDF.
func (a *App) StartExport(ctx context.Context, packetID string, order ExportOrder) (Export, error) {
	p, err := a.store.Packet(ctx, packetID)
	if err != nil {
		return Export{}, err
	}
	if len(order.Pages) > 0 {
		if p.State, err = p.State.Only(order.Pages); err != nil {
			return Export{}, err
		}
	}
	if p.State.PageCount() == 0 {
		return Export{}, ErrEmptyPacket
	}
	sizing, err := a.sizing(ctx, packetID) // for what was decided for pages
	if err != nil {
		return Export{}, err
	}
	sizing.Size, sizing.Limit = order.Size, order.Limit
	if err := sizing.check(); err != nil {
		return Export{}, err
	}
	name := order.Name
	if name == "" {
		name = packet.ProposeFileName(p.State.Name, ".pdf")
	}
	request, err := json.Marshal(exportRequest{Title: p.State.Name, Parts: p.State.Parts, At: time.Now(), Sizing: sizing})
	if err != nil {
		return Export{}, fmt.Errorf("encode export: %w", err)
	}
	e := store.Export{
		ID: newID("e"), Packet: packetID, Name: packet.SafeFileName(name, ".pdf"),
		Request: string(request), Total: p.State.PageCount(),
	}
	if err := a.store.AddExport(ctx, e); err != nil {
		return Export{}, err
	}
	a.export <- e.ID
	return a.Export(ctx, e.ID)
}

// Export shows an export.
func (a *App) Export(ctx context.Context, id string) (Export, error) {
	e, err := a.store.Export(ctx, id)
	if err != nil {
		return Export{}, err
	}
	return viewExport(e)
}

// Exports lists a packet's exports, the newest first.
func (a *App) Exports(ctx context.Context, packetID string) ([]Export, error) {
	if _, err := a.store.Packet(ctx, packetID); err != nil {
		return nil, err
	}
	exports, err := a.store.Exports(ctx, packetID)
	if err != nil {
		return nil, err
	}
	views := make([]Export, len(exports))
	for i, e := range exports {
		if views[i], err = viewExport(e); err != nil {
			return nil, err
		}
	}
	return views, nil
}

// CancelExport stops an export that is not finished.
func (a *App) CancelExport(ctx context.Context, id string) (Export, error) {
	e, err := a.store.Export(ctx, id)
	if err != nil {
		return Export{}, err
	}
	if !a.running.stop(id) && (e.State == store.ExportWaiting || e.State == store.ExportRunning) {
		e.State = store.ExportCancelled
		a.record(ctx, &e)
	}
	return a.Export(ctx, id)
}

// ExportFile returns the path of a finished export and its file name.
func (a *App) ExportFile(ctx context.Context, id string) (path, name string, err error) {
	e, err := a.store.Export(ctx, id)
	if err != nil {
		return "", "", err
	}
	if e.State != store.ExportDone {
		return "", "", fmt.Errorf("%w: export %s is not finished", ErrNotFound, id)
	}
	return a.store.Files.Path(e.Blob), e.Name, nil
}

// runningExports are the exports that can be stopped.
type runningExports struct {
	mutex  sync.Mutex
	cancel map[string]context.CancelFunc
}

func (r *runningExports) start(ctx context.Context, id string) (context.Context, func()) {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	ctx, cancel := context.WithCancel(ctx)
	r.cancel[id] = cancel
	return ctx, func() {
		r.mutex.Lock()
		defer r.mutex.Unlock()
		delete(r.cancel, id)
		cancel()
	}
}

func (r *runningExports) stop(id string) bool {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	cancel, ok := r.cancel[id]
	if ok {
		cancel()
	}
	return ok
}

// runExport makes a document. When the application stops meanwhile, the export
// stays as running and is made from the start the next time.
func (a *App) runExport(ctx context.Context, id string) {
	e, err := a.store.Export(ctx, id)
	if err != nil || (e.State != store.ExportWaiting && e.State != store.ExportRunning) {
		return // deleted or cancelled meanwhile
	}
	defer a.urgent.begin()()
	work, done := a.running.start(ctx, id)
	defer done()
	e.State, e.Weighed, e.Done = store.ExportRunning, 0, 0
	a.record(ctx, &e)
	err = a.makeDocument(work, &e)
	switch {
	case ctx.Err() != nil:
		return
	case errors.Is(err, context.Canceled):
		e.State = store.ExportCancelled
	case err != nil:
		e.State, e.Problem = store.ExportFailed, sentence(err)
		a.log.Error("export failed", "export", id, "packet", e.Packet, "error", err)
	default:
		e.State = store.ExportDone
		defer func() { a.reread <- id }()
		a.log.Info("export done", "export", id, "packet", e.Packet, "pages", e.Total)
	}
	a.record(ctx, &e)
}

// record keeps an export's state and tells the listeners.
func (a *App) record(ctx context.Context, e *store.Export) {
	if err := a.store.UpdateExport(ctx, *e); err != nil {
		a.log.Error("export not recorded", "export", e.ID, "error", err)
		return
	}
	if view, err := viewExport(*e); err == nil {
		a.events.send(Event{Kind: "export", Packet: e.Packet, Export: &view})
	}
}

func (a *App) makeDocument(ctx context.Context, e *store.Export) error {
	var request exportRequest
	if err := json.Unmarshal([]byte(e.Request), &request); err != nil {
		return fmt.Errorf("decode export: %w", err)
	}
	m, err := a.newMaking(ctx, e, request)
	if err != nil {
		return err
	}
	blob, err := a.makeWithin(ctx, e, m)
	if err != nil {
		return err
	}
	e.Blob = blob.SHA256
	receipt, err := a.receipt(ctx, blob, request)
	if err != nil {
		return fmt.Errorf("open the finished file again: %w", err)
	}
	receipt.Became, receipt.Limit = m.became, request.Limit
	text, err := json.Marshal(receipt)
	if err != nil {
		return fmt.Errorf("encode receipt: %w", err)
	}
	e.Receipt = string(text)
	return nil
}

// HiddenPage is a page that hides something.
type HiddenPage struct {
	Number int           `json:"number" doc:"From 1."`
	Page   packet.PageID `json:"page"`
}

// receipt opens the finished file with PDFium, which had no part in writing it.
func (a *App) receipt(ctx context.Context, blob store.Blob, request exportRequest) (Receipt, error) {
	wanted := packet.Packet{Parts: request.Parts}.Pages()
	sizes, err := a.engine.PageSizes(ctx, a.store.Files.Path(blob.SHA256), "", len(wanted)+1)
	if err != nil {
		return Receipt{}, err
	}
	receipt := Receipt{
		Pages: len(sizes), Bytes: blob.Bytes, SHA256: blob.SHA256,
		Sizes: countSizes(sizes), Differences: []string{},
	}
	if len(sizes) != len(wanted) {
		receipt.Differences = append(receipt.Differences,
			fmt.Sprintf("The file has %d pages where %d were asked for.", len(sizes), len(wanted)))
	}
	for i := range min(len(sizes), len(wanted)) {
		if want := wanted[i].Size(); !nearly(want, sizes[i]) {
			receipt.Differences = append(receipt.Differences,
				fmt.Sprintf("Page %d is %s where %s was expected.", i+1, sizes[i], want))
		}
		framing := wanted[i].Framing()
		if framing.Cut().Crop.IsZero() || wanted[i].IsBlank() {
			continue
		}
		hides, err := a.engine.HidesContent(ctx, a.store.Files.Path(blob.SHA256), i+1, seenShare(framing))
		if err != nil {
			return receipt, err
		}
		if hides {
			receipt.Hidden = append(receipt.Hidden, HiddenPage{Number: i + 1, Page: wanted[i].ID})
		}
	}
	return receipt, nil
}

// seenShare is what is seen of a page as it stands, in fractions of it.
func seenShare(f geometry.Framing) geometry.Box {
	seen, size := f.Seen(), f.Size()
	f.Straighten = 0 // the crop is one of the straightened page
	return seen.Mapped(f.Transform().Then(geometry.Scaling(1/size.Width, 1/size.Height)))
}

func nearly(a, b geometry.Size) bool {
	const tolerance = 1.0 // points
	return math.Abs(a.Width-b.Width) <= tolerance && math.Abs(a.Height-b.Height) <= tolerance
}

func countSizes(sizes []geometry.Size) []PageSizes {
	counts := []PageSizes{}
	for _, size := range sizes {
		name := size.String()
		if paper := geometry.PaperName(size); paper != "" {
			name = paper
			if size.Width > size.Height {
				name += " landscape"
			}
		}
		i := slices.IndexFunc(counts, func(c PageSizes) bool { return c.Size == name })
		if i < 0 {
			counts = append(counts, PageSizes{name, 1})
		} else {
			counts[i].Pages++
		}
	}
	slices.SortStableFunc(counts, func(a, b PageSizes) int { return b.Pages - a.Pages })
	return counts
}

func viewExport(e store.Export) (Export, error) {
	view := Export{
		ID: e.ID, Packet: e.Packet, Name: e.Name, State: e.State, Total: e.Total, Weighed: e.Weighed, Done: e.Done,
		Problem: e.Problem, Created: e.Created,
	}
	if e.Receipt != "" {
		view.Receipt = &Receipt{}
		if err := json.Unmarshal([]byte(e.Receipt), view.Receipt); err != nil {
			return view, fmt.Errorf("decode receipt: %w", err)
		}
	}
	return view, nil
}

// sentence gives an error as its user reads it.
func sentence(err error) string {
	var problem *exportProblem
	switch {
	case errors.As(err, &problem):
		return problem.sentence
	case errors.Is(err, store.ErrDiskFull):
		return "The disk is nearly full. Make room and export again."
	}
	return "The document could not be made. The log says more: " + err.Error()
}
