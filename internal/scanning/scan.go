package scanning

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
	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/guard"
	"dorbin/internal/jobs"
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
	mutex sync.Mutex
	under map[string]*underWay // by packet
}

// underWay is a scan under way.
type underWay struct{ cancel context.CancelFunc }

// start notes that a scan is under way, unless another is.
func (s *scans) start(packet string, cancel context.CancelFunc) (scan *underWay, ok bool) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if s.under[packet] != nil {
		return nil, false
	}
	scan = &underWay{cancel}
	s.under[packet] = scan
	return scan, true
}

// end notes that this scan is over. It may be called more than once: another that has begun
// since goes on.
func (s *scans) end(packet string, scan *underWay) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if s.under[packet] == scan {
		delete(s.under, packet)
	}
}

func (s *scans) running(packet string) bool {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	return s.under[packet] != nil
}

func (s *scans) stop(packet string) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if scan := s.under[packet]; scan != nil {
		scan.cancel()
	}
}

// ErrScanning is returned for a second scan while one is under way.
var ErrScanning = problem.New(problem.Conflict, "a scan is under way already; wait for it or stop it")

// StartScan begins to scan into a packet's batch. Pages appear in the batch as
// they arrive; faults of the device are told there.
func (s *Service) StartScan(ctx context.Context, packetID string, request ScanRequest) (Batch, error) {
	client, err := s.scannerClient(ctx, request.Device)
	if err != nil {
		return Batch{}, err
	}
	into, err := s.landingOf(ctx, packetID, request.Into)
	if err != nil {
		return Batch{}, err
	}
	work, cancel := context.WithCancel(s.life)
	scan, ok := s.scans.start(packetID, cancel)
	if !ok {
		cancel()
		return Batch{}, ErrScanning
	}
	batch, err := s.changeBatch(ctx, packetID, func(state *batchState) error {
		state.Problem = message.Text{}
		state.count(request)
		state.beginPass(into)
		return nil
	})
	if err != nil {
		s.scans.end(packetID, scan)
		cancel()
		return Batch{}, err
	}
	s.runner.Go(work, "scan", func(ctx context.Context) {
		defer cancel()
		defer s.scans.end(packetID, scan)
		err := guard.Run(func() error { return s.fetchPages(ctx, client, packetID, request, &into) })
		s.endScan(context.WithoutCancel(ctx), packetID, scan, into.isBacks, err)
	})
	return batch, nil
}

// count adds the sheets that were put in for a scan that goes on at the end.
func (s *batchState) count(request ScanRequest) {
	if len(s.Pages) == 0 {
		s.Sheets, s.SheetPages, s.Removed = 0, 0, nil
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
	isBacks bool   // the pages are the backs of those before
}

func (s *Service) landingOf(ctx context.Context, packetID, into string) (landing, error) {
	_, state, err := s.loadBatch(ctx, packetID)
	if err != nil {
		return landing{}, err
	}
	kind, id, _ := strings.Cut(into, ":")
	known := state.find(id) >= 0
	switch {
	case into == "" || into == "end":
		return landing{}, nil
	case into == intoBacks && len(state.Pages) > 0:
		return landing{isBacks: true}, nil
	case kind == "after" && known:
		return landing{after: id}, nil
	case kind == "replace" && known:
		return landing{replace: id}, nil
	}
	return landing{}, problem.New(problem.Invalid, "there is no place %q in the batch", into)
}

// endScan notes how a scan has ended, and puts backs behind their fronts. The scan is over
// once that is kept.
func (s *Service) endScan(ctx context.Context, packetID string, scan *underWay, isBacks bool, problem error) {
	_, err := s.changeBatch(ctx, packetID, func(state *batchState) error {
		state.Problem = problemOf(problem)
		if isBacks && problem == nil {
			state.interleave()
		}
		return nil
	})
	s.scans.end(packetID, scan)
	s.changed(packetID)
	if problem != nil || err != nil {
		s.log.Info("scan ended early", "packet", packetID, "error", errors.Join(problem, err))
	}
}

// problemOf is what a scan's end is told as; being stopped by the user is none.
func problemOf(err error) message.Text {
	var fault *problem.Error
	switch {
	case err == nil || errors.Is(err, context.Canceled):
		return message.Text{}
	case errors.As(err, &fault):
		return fault.Sentence
	case errors.Is(err, store.ErrDiskFull):
		return message.Of("The disk is nearly full. Make room and go on.")
	}
	return message.Of("The scan broke off: %s", err)
}

func (s *Service) fetchPages(ctx context.Context, client *scanner.Client, packetID string, request ScanRequest, into *landing) error {
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
		// A page from the glass is of none of the sheets in the feeder, unless it fills a gap among them.
		isExtra := !settings.FromFeeder && request.Sheets == 0 && *into == (landing{})
		return s.keepScanned(ctx, packetID, page, request.Resolution, isExtra, into)
	})
}

func (s *Service) keepScanned(ctx context.Context, packetID string, page scanner.Page, dpi int, isExtra bool, into *landing) error {
	file, err := s.store.Save(bytes.NewReader(page.Data), s.limits.FileBytes)
	if err != nil {
		return fmt.Errorf("keep scanned page: %w", err)
	}
	defer file.Release()
	kept := batchPage{Blob: file.SHA256, Width: page.Width, Height: page.Height, Components: page.Components, DPI: dpi, IsExtra: isExtra}
	_, err = s.changeBatch(ctx, packetID, func(state *batchState) error {
		state.LastID++
		kept.ID = fmt.Sprintf("g%d", state.LastID)
		kept.Arrived = state.Version
		state.land(kept, into)
		return nil
	})
	return err
}

// land gives a page that has arrived its place.
func (s *batchState) land(page batchPage, into *landing) {
	replaced, after := s.find(into.replace), s.find(into.after)
	switch {
	case into.isBacks:
		s.Pages = append(s.Pages, page)
		s.Backs = append(s.Backs, page.ID)
	case into.replace != "" && replaced >= 0:
		old := s.Pages[replaced]
		page.IsExtra, old.IsExtra = old.IsExtra, true
		s.Pages[replaced], s.Removed = page, append(s.Removed, old)
		s.Fronts = putAfter(s.Fronts, into.replace, page.ID)
		into.replace, into.after = "", page.ID
	case into.after != "" && after >= 0:
		s.Pages = slices.Insert(s.Pages, after+1, page)
		s.Fronts = putAfter(s.Fronts, into.after, page.ID)
		into.after = page.ID
	default:
		s.Pages = append(s.Pages, page)
		s.Fronts = append(s.Fronts, page.ID)
	}
}

// putAfter adds an id after another one, or at the end.
func putAfter(ids []string, after, id string) []string {
	if i := slices.Index(ids, after); i >= 0 {
		return slices.Insert(ids, i+1, id)
	}
	return append(ids, id)
}

// beginPass gets ready for pages to arrive. Backs follow the fronts in the order in which
// these were scanned, whatever was done to them since.
func (s *batchState) beginPass(into landing) {
	if len(s.Pages) == 0 {
		s.Fronts, s.Backs = nil, nil
	}
	if !into.isBacks {
		return
	}
	// Backs that were removed after a pass that broke off are scanned once more.
	s.Removed = slices.DeleteFunc(s.Removed, func(p batchPage) bool { return slices.Contains(s.Backs, p.ID) })
	s.Backs = slices.DeleteFunc(s.Backs, func(id string) bool { return s.find(id) < 0 })
	if len(s.Fronts) > 0 {
		return
	}
	for _, page := range s.Pages {
		if !slices.Contains(s.Backs, page.ID) {
			s.Fronts = append(s.Fronts, page.ID)
		}
	}
}

// interleave puts backs, which came in reverse, behind their fronts: the last that was
// scanned behind the first sheet. The back of a front that was removed stands behind the
// sheet before. More backs than fronts stay as they came, and the user is told.
func (s *batchState) interleave() {
	fronts, backs := s.Fronts, s.Backs
	if len(backs) > len(fronts) {
		s.Problem = message.Of("%d backs came in for %d fronts. They stand at the end, as they were scanned: put them in order, or remove them and scan the backs again.", len(backs), len(fronts))
		return
	}
	s.Fronts, s.Backs = nil, nil
	fronts = fronts[len(fronts)-len(backs):]
	before := 0 // where the back of a sheet goes whose front was removed
	if i := slices.IndexFunc(s.Pages, func(p batchPage) bool { return slices.Contains(fronts, p.ID) }); i >= 0 {
		before = i
	}
	for i, front := range fronts {
		if at := s.find(front); at >= 0 {
			before = at + 1
		}
		at := s.find(backs[len(backs)-1-i])
		if at < 0 {
			continue // it was removed while others were scanned
		}
		back := s.Pages[at]
		s.Pages = slices.Delete(s.Pages, at, at+1)
		if at < before {
			before--
		}
		s.Pages = slices.Insert(s.Pages, before, back)
		before++
	}
}

// StopScan stops a scan. What has arrived stays.
func (s *Service) StopScan(ctx context.Context, packetID string) (Batch, error) {
	s.scans.stop(packetID)
	return s.Batch(ctx, packetID)
}

// numberStrip is the share of a page, at its top and bottom, in which its number
// is looked for.
const numberStrip = 0.14

// readNumber tells whether a scanned page is blank, and reads the number that it bears, if text
// can be read.
func (s *Service) readNumber(ctx context.Context, task *jobs.Task) error {
	packetID, pageID, _ := strings.Cut(task.Key, " ")
	_, state, err := s.loadBatch(ctx, packetID)
	if err != nil {
		return store.UnlessGone(err)
	}
	i := state.find(pageID)
	if i < 0 {
		return nil // it was removed meanwhile
	}
	img, err := s.sources.DecodeImage(ctx, s.store.FilePath(state.Pages[i].Blob), 1, 2400)
	if err != nil {
		return fmt.Errorf("decode scanned page: %w", err)
	}
	printed, isBlank := check.Printed{}, check.IsBlankScan(img)
	if !isBlank {
		if printed, err = s.printedNumber(ctx, img); err != nil {
			return err
		}
	}
	if !isBlank && printed.Number == 0 {
		return nil
	}
	_, err = s.changeBatch(ctx, packetID, func(state *batchState) error {
		if i := state.find(pageID); i >= 0 {
			state.Pages[i].Printed, state.Pages[i].IsBlank = printed, isBlank
			return nil
		}
		return fmt.Errorf("%w: page %s of a batch", store.ErrNotFound, pageID)
	})
	return store.UnlessGone(err)
}

// printedNumber reads the number in the strips of a page; none where text cannot be read.
func (s *Service) printedNumber(ctx context.Context, img image.Image) (check.Printed, error) {
	var lines []string
	for _, strip := range strips(img) {
		text, err := s.reader.Lines(ctx, strip)
		if errors.Is(err, ocr.ErrNotInstalled) {
			return check.Printed{}, nil
		}
		if err != nil {
			return check.Printed{}, err
		}
		lines = append(lines, text)
	}
	printed, _ := check.PrintedNumber(strings.Join(lines, "\n"))
	return printed, nil
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
