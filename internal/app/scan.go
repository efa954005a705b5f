package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"slices"
	"strings"
	"sync"

	"dorbin/core/check"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/ocr"
	"dorbin/internal/scanner"
	"dorbin/internal/store"
)

// ScanRequest is what is asked of a scan.
type ScanRequest struct {
	Device string `json:"device"`
	// From is the way in; "auto" takes the feeder if it is loaded.
	From       string         `json:"from" enum:"auto,feeder,glass"`
	Duplex     bool           `json:"duplex,omitempty"`
	Paper      string         `json:"paper" enum:"A4,A5,Letter"`
	Colour     scanner.Colour `json:"colour" enum:"BlackAndWhite1,Grayscale8,RGB24"`
	Resolution int            `json:"resolution" minimum:"50" maximum:"1200"`
	Content    string         `json:"content,omitempty" enum:"Text,TextAndPhoto,Photo"`
	Sheets     int            `json:"sheets,omitempty" minimum:"0" maximum:"10000" doc:"How many sheets were put in; 0 when it is not said."`
	// Into is where the pages go: "end" or nothing, "after:<page>",
	// "replace:<page>", or "backs": they are the backs of the pages before, in
	// reverse, as a stack that was turned over gives them.
	Into string `json:"into,omitempty"`
}

// paperSizes are in 1/300 inch, as the protocol counts.
var paperSizes = map[string][2]int{"A4": {2480, 3508}, "A5": {1748, 2480}, "Letter": {2550, 3300}}

// scans are the scans under way, one for a packet at most.
type scans struct {
	mutex  sync.Mutex
	cancel map[string]context.CancelFunc
}

func (s *scans) start(packet string, cancel context.CancelFunc) bool {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if _, busy := s.cancel[packet]; busy {
		return false
	}
	s.cancel[packet] = cancel
	return true
}

func (s *scans) end(packet string) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	delete(s.cancel, packet)
}

func (s *scans) running(packet string) bool {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	_, ok := s.cancel[packet]
	return ok
}

func (s *scans) stop(packet string) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if cancel, ok := s.cancel[packet]; ok {
		cancel()
	}
}

// ErrScanning is returned for a second scan while one is under way.
var ErrScanning = errors.New("a scan is under way already; wait for it or stop it")

// StartScan begins to scan into a packet's batch. Pages appear in the batch as
// they arrive; faults of the device are told there.
func (a *App) StartScan(ctx context.Context, packetID string, request ScanRequest) (Batch, error) {
	client, err := a.scannerClient(ctx, request.Device)
	if err != nil {
		return Batch{}, err
	}
	into, err := a.landingOf(ctx, packetID, request.Into)
	if err != nil {
		return Batch{}, err
	}
	work, cancel := context.WithCancel(a.life)
	if !a.scans.start(packetID, cancel) {
		cancel()
		return Batch{}, ErrScanning
	}
	batch, err := a.changeBatch(ctx, packetID, func(state *batchState) error {
		state.Problem = ""
		state.count(request)
		return nil
	})
	if err != nil {
		a.scans.end(packetID)
		cancel()
		return Batch{}, err
	}
	a.jobs.Add(1)
	go func() {
		defer a.jobs.Done()
		defer cancel()
		a.scan(work, client, packetID, request, into)
	}()
	return batch, nil
}

// count adds the sheets that were put in for a scan that goes on at the end.
func (s *batchState) count(request ScanRequest) {
	if len(s.Pages) == 0 {
		s.Sheets, s.SheetPages = 0, 0
	}
	if request.Sheets == 0 {
		return
	}
	pages := request.Sheets
	if request.Duplex {
		pages *= 2
	}
	if request.Into != intoBacks {
		s.Sheets += request.Sheets
	}
	s.SheetPages += pages
}

const intoBacks = "backs"

// landing is where the next page of a scan goes.
type landing struct {
	replace string // the first page takes this one's place
	after   string // pages follow this one; empty is the end
	backs   int    // pages that were there before the backs
}

func (a *App) landingOf(ctx context.Context, packetID, into string) (landing, error) {
	_, state, err := a.loadBatch(ctx, packetID)
	if err != nil {
		return landing{}, err
	}
	kind, id, _ := strings.Cut(into, ":")
	known := slices.ContainsFunc(state.Pages, func(p batchPage) bool { return p.ID == id })
	switch {
	case into == "" || into == "end":
		return landing{}, nil
	case into == intoBacks && len(state.Pages) > 0:
		return landing{backs: len(state.Pages)}, nil
	case kind == "after" && known:
		return landing{after: id}, nil
	case kind == "replace" && known:
		return landing{replace: id}, nil
	}
	return landing{}, fmt.Errorf("%w: there is no place %q in the batch", packet.ErrInvalid, into)
}

// scan runs in the background.
func (a *App) scan(ctx context.Context, client *scanner.Client, packetID string, request ScanRequest, into landing) {
	err := a.fetchPages(ctx, client, packetID, request, &into)
	a.scans.end(packetID)
	keep := context.WithoutCancel(ctx)
	_, saveErr := a.changeBatch(keep, packetID, func(state *batchState) error {
		state.Problem = problemOf(err)
		if into.backs > 0 && err == nil {
			state.interleave(into.backs)
		}
		return nil
	})
	if err != nil || saveErr != nil {
		a.log.Info("scan ended early", "packet", packetID, "error", errors.Join(err, saveErr))
	}
}

// problemOf is what a scan's end is told as; being stopped by the user is none.
func problemOf(err error) string {
	var fault *scanner.Fault
	switch {
	case err == nil || errors.Is(err, context.Canceled):
		return ""
	case errors.As(err, &fault):
		return fault.Sentence
	case errors.Is(err, store.ErrDiskFull):
		return "The disk is nearly full. Make room and go on."
	}
	return "The scan broke off: " + err.Error()
}

func (a *App) fetchPages(ctx context.Context, client *scanner.Client, packetID string, request ScanRequest, into *landing) error {
	settings := scanner.Settings{
		Duplex: request.Duplex, Width: paperSizes[request.Paper][0], Height: paperSizes[request.Paper][1],
		Colour: request.Colour, Resolution: request.Resolution, Content: request.Content,
		FromFeeder: request.From == "feeder",
	}
	if request.From == "auto" {
		status, err := client.Status(ctx)
		if err != nil {
			return err
		}
		settings.FromFeeder = status.Loaded()
	}
	if !settings.FromFeeder {
		settings.Duplex = false
	}
	return client.Scan(ctx, settings, func(page scanner.Page) error {
		return a.keepScanned(ctx, packetID, page, request.Resolution, into)
	})
}

func (a *App) keepScanned(ctx context.Context, packetID string, page scanner.Page, dpi int, into *landing) error {
	blob, err := a.store.Files.Save(bytes.NewReader(page.Data), a.Limits().FileBytes)
	if err != nil {
		return fmt.Errorf("keep scanned page: %w", err)
	}
	kept := batchPage{Blob: blob.SHA256, Width: page.Width, Height: page.Height, Components: page.Components, DPI: dpi}
	_, err = a.changeBatch(ctx, packetID, func(state *batchState) error {
		state.LastID++
		kept.ID = fmt.Sprintf("g%d", state.LastID)
		state.land(kept, into)
		return nil
	}, blob.SHA256)
	if err != nil {
		return err
	}
	select {
	case a.numbers <- packetID + " " + kept.ID:
	default: // too many wait already: the page stays without a number
	}
	return nil
}

func (s *batchState) land(page batchPage, into *landing) {
	find := func(id string) int {
		return slices.IndexFunc(s.Pages, func(p batchPage) bool { return p.ID == id })
	}
	if i := find(into.replace); into.replace != "" && i >= 0 {
		s.Pages[i] = page
		into.replace, into.after = "", page.ID
		return
	}
	if i := find(into.after); into.after != "" && i >= 0 {
		s.Pages = slices.Insert(s.Pages, i+1, page)
		into.after = page.ID
		return
	}
	s.Pages = append(s.Pages, page)
}

// interleave puts backs, which came in reverse, behind their fronts. Stacks of
// unequal height stay as they came, and the user is told.
func (s *batchState) interleave(before int) {
	backs := s.Pages[before:]
	first := before - len(backs)
	if first < 0 || len(backs) == 0 {
		s.Problem = fmt.Sprintf("%d backs came in for %d fronts. They stand at the end, as they were scanned: put them in order, or remove them and scan the backs again.", len(backs), before)
		return
	}
	pages := slices.Clone(s.Pages[:first])
	for i := range backs {
		pages = append(pages, s.Pages[first+i], backs[len(backs)-1-i])
	}
	s.Pages = pages
}

// StopScan stops a scan. What has arrived stays.
func (a *App) StopScan(ctx context.Context, packetID string) (Batch, error) {
	a.scans.stop(packetID)
	return a.Batch(ctx, packetID)
}

// numberStrip is the share of a page, at its top and bottom, in which its number
// is looked for.
const numberStrip = 0.14

// readNumber reads the number that a scanned page bears, if text can be read.
func (a *App) readNumber(ctx context.Context, which string) {
	packetID, pageID, _ := strings.Cut(which, " ")
	_, state, err := a.loadBatch(ctx, packetID)
	if err != nil {
		return
	}
	i := slices.IndexFunc(state.Pages, func(p batchPage) bool { return p.ID == pageID })
	if i < 0 {
		return
	}
	img, err := decodeImage(a.store.Files.Path(state.Pages[i].Blob), 1, 2400)
	if err != nil {
		return
	}
	var lines []string
	for _, strip := range strips(img) {
		text, err := ocr.Read(ctx, strip)
		if err != nil {
			if !errors.Is(err, ocr.ErrNotInstalled) {
				a.log.Warn("page number not read", "packet", packetID, "error", err)
			}
			return
		}
		lines = append(lines, text)
	}
	printed, ok := check.PrintedNumber(strings.Join(lines, "\n"))
	if !ok {
		return
	}
	_, err = a.changeBatch(ctx, packetID, func(state *batchState) error {
		for i := range state.Pages {
			if state.Pages[i].ID == pageID {
				state.Pages[i].Printed = printed
			}
		}
		return nil
	})
	if err != nil {
		a.log.Warn("page number not kept", "packet", packetID, "error", err)
	}
}

// strips are the bottom and the top of a page.
func strips(img image.Image) []image.Image {
	rgba := raster.ToRGBA(img)
	w, h := rgba.Rect.Dx(), rgba.Rect.Dy()
	reach := int(numberStrip * float64(h))
	return []image.Image{
		rgba.SubImage(image.Rect(0, h-reach, w, h)),
		rgba.SubImage(image.Rect(0, 0, w, reach)),
	}
}
