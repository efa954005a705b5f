package scanning

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"slices"

	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/gather"
	"dorbin/internal/intake"
	"dorbin/internal/intake/tiff"
	"dorbin/internal/jobs"
	"dorbin/internal/store"
)

// Batch is sheets that were scanned and are reviewed before they are
// placed.
type Batch struct {
	ID       string       `json:"id"`
	Version  int          `json:"version" doc:"Grows with every change. An arrangement names the version that it was made for."`
	Pages    []BatchPage  `json:"pages" nullable:"false"`
	Scanning bool         `json:"scanning"`
	Problem  message.Text `json:"problem,omitzero" doc:"Why the last scan did not end well, and what to do."`
	Sheets   int          `json:"sheets" doc:"How many sheets the user put in, all scans together; 0 when it is not said."`
	Expected int          `json:"expected" doc:"How many pages these sheets make; 0 when it is not said."`
	Missing  int          `json:"missing" doc:"How many of these did not come, also if some were removed since; less than 0 when more came."`
	Gaps     []check.Gap  `json:"gaps" nullable:"false" doc:"Where the printed page numbers leave pages out."`
}

// BatchPage is a page that has arrived.
type BatchPage struct {
	ID      string        `json:"id"`
	Width   float64       `json:"width" doc:"Points, before the turn."`
	Height  float64       `json:"height" doc:"Points, before the turn."`
	Turn    int           `json:"turn" enum:"0,90,180,270"`
	Printed check.Printed `json:"printed" doc:"The page number it bears."`
	IsBlank bool          `json:"isBlank,omitempty" doc:"There is nothing on it, or next to nothing."`
}

// batchState is a batch as it is kept.
type batchState struct {
	Version    int          `json:"version"`
	Pages      []batchPage  `json:"pages"`
	Removed    []batchPage  `json:"removed,omitempty"` // they can come back until the batch is placed
	Fronts     []string     `json:"fronts,omitempty"`  // pages in the order they were scanned, also if they were removed since
	Backs      []string     `json:"backs,omitempty"`   // the pages of a second pass, likewise
	Problem    message.Text `json:"problem"`
	Sheets     int          `json:"sheets"`
	SheetPages int          `json:"sheetPages"` // pages that the sheets make
	LastID     int          `json:"lastId"`
}

type batchPage struct {
	ID         string        `json:"id"`
	Blob       string        `json:"blob"`
	Width      int           `json:"width"` // pixels
	Height     int           `json:"height"`
	Components int           `json:"components"`
	DPI        int           `json:"dpi"`
	Turn       int           `json:"turn"`
	Printed    check.Printed `json:"printed"`
	Arrived    int           `json:"arrived,omitempty"` // the batch's version then
	IsExtra    bool          `json:"extra,omitempty"`   // it is of none of the sheets that were counted
	IsBlank    bool          `json:"blank,omitempty"`
}

func (p batchPage) size() geometry.Size {
	return geometry.ImageSize(p.Width, p.Height, geometry.Resolution{X: float64(p.DPI), Y: float64(p.DPI)})
}

// Batch shows a packet's batch; it is empty when there is none.
func (s *Service) Batch(ctx context.Context, packetID string) (Batch, error) {
	if _, err := s.store.Packet(ctx, packetID); err != nil {
		return Batch{}, err
	}
	scanning := s.scans.running(packetID) // asked first: a scan that is over has noted how it ended
	b, state, err := s.loadBatch(ctx, packetID)
	if err != nil {
		return Batch{}, err
	}
	return viewBatch(b, state, scanning), nil
}

func viewBatch(b store.Batch, state batchState, scanning bool) Batch {
	view := Batch{
		ID: b.ID, Version: state.Version, Pages: make([]BatchPage, len(state.Pages)), Scanning: scanning,
		Problem: state.Problem, Sheets: state.Sheets, Expected: state.SheetPages, Missing: state.missing(),
	}
	for i, page := range state.Pages {
		size := page.size()
		view.Pages[i] = BatchPage{
			ID: page.ID, Width: size.Width, Height: size.Height, Turn: page.Turn, Printed: page.Printed, IsBlank: page.IsBlank,
		}
	}
	view.Gaps = state.gaps()
	return view
}

// gaps are where the printed numbers leave pages out. Blank backs bear none, and are none.
func (s *batchState) gaps() []check.Gap {
	var printed []check.Printed
	var places []int
	for i, page := range s.Pages {
		if !page.IsBlank {
			printed, places = append(printed, page.Printed), append(places, i)
		}
	}
	gaps := check.Gaps(printed)
	for i, gap := range gaps {
		if gap.After < len(places) {
			gaps[i].After = places[gap.After] // behind the blank back of the page before
		} else {
			gaps[i].After = len(s.Pages)
		}
	}
	return gaps
}

// missing is how many of the pages did not come that the counted sheets make. Those that were
// removed since did come; a page from the glass that was added is of none of these sheets.
func (s *batchState) missing() int {
	if s.SheetPages == 0 {
		return 0
	}
	missing := s.SheetPages
	for _, pages := range [][]batchPage{s.Pages, s.Removed} {
		for _, page := range pages {
			if !page.IsExtra {
				missing--
			}
		}
	}
	return missing
}

// loadBatch reads a packet's batch, or begins one that is not kept yet.
func (s *Service) loadBatch(ctx context.Context, packetID string) (store.Batch, batchState, error) {
	var state batchState
	b, err := s.store.Batch(ctx, packetID)
	if errors.Is(err, store.ErrNotFound) {
		return store.Batch{ID: store.NewID("b"), Packet: packetID}, state, nil
	}
	if err != nil {
		return b, state, err
	}
	if err := json.Unmarshal([]byte(b.State), &state); err != nil {
		return b, state, fmt.Errorf("decode batch: %w", err)
	}
	return b, state, nil
}

// changeBatch changes a packet's batch and tells the listeners.
func (s *Service) changeBatch(ctx context.Context, packetID string, change func(*batchState) error) (Batch, error) {
	defer s.batches.Lock(packetID)()
	b, state, err := s.loadBatch(ctx, packetID)
	if err != nil {
		return Batch{}, err
	}
	state.Version++
	if err := change(&state); err != nil {
		return Batch{}, err
	}
	text, err := json.Marshal(state)
	if err != nil {
		return Batch{}, fmt.Errorf("encode batch: %w", err)
	}
	b.State = string(text)
	files, work := state.arrivals(packetID)
	if err := s.store.SaveBatch(ctx, b, files, work...); err != nil {
		return Batch{}, err
	}
	if len(work) > 0 {
		s.runner.Wake(store.JobPageNumber)
	}
	s.changed(packetID)
	return viewBatch(b, state, s.scans.running(packetID)), nil
}

// arrivals are the files of the pages that arrived with the last change, and the work that
// is to be done on them.
func (s *batchState) arrivals(packetID string) (files []string, work []jobs.Job) {
	for _, page := range s.Pages {
		if page.Arrived == s.Version {
			files = append(files, page.Blob)
			work = append(work, jobs.Job{Kind: store.JobPageNumber, Key: packetID + " " + page.ID})
		}
	}
	return files, work
}

// BatchOrder is how a batch's pages are to stand.
type BatchOrder struct {
	ID   string `json:"id"`
	Turn int    `json:"turn" enum:"0,90,180,270"`
}

// ArrangeBatch puts a batch's pages in an order, turns them, and removes those that are not
// named. Pages that were removed before come back if they are named. Pages that arrived after
// the version that the order was made for stay.
func (s *Service) ArrangeBatch(ctx context.Context, packetID string, version int, order []BatchOrder) (Batch, error) {
	return s.changeBatch(ctx, packetID, func(state *batchState) error { return state.arrange(version, order) })
}

func (s *batchState) arrange(version int, order []BatchOrder) error {
	arranged := make([]batchPage, 0, len(s.Pages))
	for _, wanted := range order {
		page, known := s.known(wanted.ID)
		if !known || slices.ContainsFunc(arranged, func(p batchPage) bool { return p.ID == wanted.ID }) {
			return problem.New(problem.Invalid, "there is no page %s in the batch, or it is named twice", wanted.ID)
		}
		page.Turn = geometry.NormalTurn(wanted.Turn)
		arranged = append(arranged, page)
	}
	isNew := func(p batchPage) bool {
		return p.Arrived > version && !slices.ContainsFunc(order, func(o BatchOrder) bool { return o.ID == p.ID })
	}
	tail := len(s.Pages) // the new pages at the end stay at the end
	for tail > 0 && isNew(s.Pages[tail-1]) {
		tail--
	}
	for i, page := range s.Pages[:tail] {
		if isNew(page) {
			arranged = insertBehind(arranged, s.Pages[:i], page)
		}
	}
	everything := slices.Concat(s.Pages, s.Removed)
	s.Pages = append(arranged, s.Pages[tail:]...)
	s.Removed = slices.DeleteFunc(everything, func(p batchPage) bool { return s.find(p.ID) >= 0 })
	return nil
}

// known is a page of the batch, or one that was removed from it.
func (s *batchState) known(id string) (batchPage, bool) {
	for _, pages := range [][]batchPage{s.Pages, s.Removed} {
		if i := slices.IndexFunc(pages, func(p batchPage) bool { return p.ID == id }); i >= 0 {
			return pages[i], true
		}
	}
	return batchPage{}, false
}

// insertBehind puts a page behind the last of the pages before it that is there.
func insertBehind(pages, before []batchPage, page batchPage) []batchPage {
	for _, anchor := range slices.Backward(before) {
		if i := slices.IndexFunc(pages, func(p batchPage) bool { return p.ID == anchor.ID }); i >= 0 {
			return slices.Insert(pages, i+1, page)
		}
	}
	return slices.Insert(pages, 0, page)
}

func (s *batchState) find(id string) int {
	return slices.IndexFunc(s.Pages, func(p batchPage) bool { return p.ID == id })
}

// DiscardBatch throws a packet's batch away.
func (s *Service) DiscardBatch(ctx context.Context, packetID string) error {
	s.scans.stop(packetID)
	defer s.batches.Lock(packetID)()
	b, err := s.store.Batch(ctx, packetID)
	if err != nil {
		return err
	}
	if err := s.store.DeleteBatch(ctx, b.ID); err != nil {
		return err
	}
	s.changed(packetID)
	return nil
}

// ErrNothingScanned is returned for placing a batch without pages.
var ErrNothingScanned = problem.New(problem.Conflict, "there are no scanned pages to place")

// PlaceBatch makes a source of a batch, a TIFF that holds the pages byte for
// byte, and places it. The batch is over then.
func (s *Service) PlaceBatch(ctx context.Context, packetID, name string, placement gather.Placement) (gather.Outcome, error) {
	if err := placement.Check(); err != nil {
		return gather.Outcome{}, err
	}
	defer s.batches.Lock(packetID)()
	b, state, err := s.loadBatch(ctx, packetID)
	if err != nil {
		return gather.Outcome{}, err
	}
	if len(state.Pages) == 0 || s.scans.running(packetID) {
		return gather.Outcome{}, ErrNothingScanned
	}
	file, err := s.store.Write(func(w io.Writer) error {
		return tiff.Write(w, len(state.Pages), func(i int) (tiff.Encoded, error) { return s.batchData(state.Pages[i]) })
	})
	if err != nil {
		return gather.Outcome{}, fmt.Errorf("put the scan together: %w", err)
	}
	defer file.Release()
	name = gather.CleanName(name)
	outcome, err := s.gather.AddStored(ctx, packetID, name, placement, file.File, state.expected())
	if err != nil || outcome.Result != "added" {
		return outcome, err
	}
	if err := s.turnPlaced(ctx, packetID, outcome.Pages, state.Pages); err != nil {
		return outcome, err
	}
	if err := s.store.DeleteBatch(ctx, b.ID); err != nil {
		return outcome, err
	}
	s.changed(packetID)
	return outcome, nil
}

// expected is how many pages there should be, without those that were removed; 0 is unknown.
func (s *batchState) expected() int {
	if s.SheetPages == 0 {
		return 0
	}
	return max(0, len(s.Pages)+s.missing())
}

func (s *Service) batchData(page batchPage) (tiff.Encoded, error) {
	data, err := os.ReadFile(s.store.FilePath(page.Blob))
	if err != nil {
		return tiff.Encoded{}, fmt.Errorf("read scanned page: %w", err)
	}
	return tiff.EncodeJPEG(data, page.Width, page.Height, page.Components, page.DPI), nil
}

// turnPlaced turns pages that were turned in the batch.
func (s *Service) turnPlaced(ctx context.Context, packetID string, placed []packet.PageID, pages []batchPage) error {
	var commands []packet.Command
	for i, id := range placed {
		if i < len(pages) && pages[i].Turn != 0 {
			commands = append(commands, packet.Turn{Selected: packet.On(id), By: pages[i].Turn})
		}
	}
	_, err := s.packets.Do(ctx, packetID, func(store.Packet) ([]packet.Command, error) { return commands, nil })
	return err
}

// BatchPicture returns the path of a JPEG of a batch's page, not turned, at least
// width pixels wide.
func (s *Service) BatchPicture(ctx context.Context, batchID, pageID string, width int) (string, error) {
	b, err := s.store.BatchByID(ctx, batchID)
	if err != nil {
		return "", err
	}
	_, state, err := s.loadBatch(ctx, b.Packet)
	if err != nil {
		return "", err
	}
	i := slices.IndexFunc(state.Pages, func(p batchPage) bool { return p.ID == pageID })
	if i < 0 {
		return "", fmt.Errorf("%w: page %s of a batch", store.ErrNotFound, pageID)
	}
	source := store.Source{
		Working: state.Pages[i].Blob, Kind: string(intake.JPEG), Pages: []store.SourcePage{{Size: state.Pages[i].size()}},
	}
	return s.pictures.Picture(ctx, s.sources.Page(source, 1, packet.Adjustments{}, 0), width)
}
