package export

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"dorbin/core/finish"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/problem"
	"dorbin/core/requirements"
	"dorbin/internal/guard"
	"dorbin/internal/jobs"
	"dorbin/internal/reading"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// Export is a document being made, or made.
type Export struct {
	ID       string       `json:"id"`
	Packet   string       `json:"packet"`
	Name     string       `json:"name" doc:"The file's name."`
	State    string       `json:"state" enum:"waiting,running,done,failed,cancelled"`
	Total    int          `json:"total" doc:"Pages."`
	Measured int          `json:"measured,omitempty" doc:"Pages of which it was measured how they can be written."`
	Done     int          `json:"done" doc:"Pages written so far."`
	Problem  message.Text `json:"problem,omitzero"`
	Receipt  *Receipt     `json:"receipt,omitempty"`
	Created  time.Time    `json:"created"`
	// Order is what was asked for.
	Order ExportOrder `json:"order"`
}

// exportRequest is the packet as it stood when the export was asked for.
type exportRequest struct {
	Title string        `json:"title"`
	Parts []packet.Part `json:"parts"`
	At    time.Time     `json:"at"`
	Make  Make          `json:"make,omitempty"`
	DPI   int           `json:"dpi,omitempty"`
	// Quality is that of JPEGs; 0 is the usual one.
	Quality int    `json:"quality,omitempty"`
	Names   string `json:"names,omitempty"`
	// KeepPictures has the files of pictures go in as they are.
	KeepPictures bool `json:"keepPictures,omitempty"`
	// Repack has pictures be written in fewer bytes, with every pixel the same.
	Repack bool `json:"repack,omitempty"`
	// Finish is what is added, and the facts that it tells.
	Finish finish.Finish `json:"finish,omitzero"`
	Facts  finish.Facts  `json:"facts,omitzero"`
	// Receiver is whom it is for, and asks for what it is held against.
	Receiver *requirements.Receiver `json:"asked,omitempty"`
	// Printed are the pages that have a page number in their text, where that matters.
	Printed []packet.PageID `json:"printed,omitempty"`
	// Headings are those that the contents list, by their pages.
	Headings map[packet.PageID][]string `json:"headings,omitempty"`
	// TextHeadings are those in the text that have bookmarks.
	TextHeadings []reading.Heading `json:"textHeadings,omitempty"`
	// Whole has all parts of the packet, when not all pages are exported.
	Whole []packet.Part `json:"whole,omitempty"`
	// Numbers are those that the pages have in the packet, when they are not all of it.
	Numbers []int `json:"numbers,omitempty"`
	Sizing
}

// repacks tells whether pictures are written in fewer bytes.
func (r exportRequest) repacks() bool {
	return !r.KeepPictures && (r.Repack || r.Size != planning.AsItIs)
}

// number is that of a page in the packet, by its place in the document, from 0.
func (r exportRequest) number(place int) int {
	if len(r.Numbers) > 0 {
		return r.Numbers[place]
	}
	return place + 1
}

// ExportOrder is what is to be made of a packet.
type ExportOrder struct {
	Name         string          `json:"name,omitempty" maxLength:"400" doc:"The file's name, which may have fields in braces: those of texts, {date}, {time} and {counter}. Without it one is made of the packet's name."`
	Pages        []packet.PageID `json:"pages,omitempty" doc:"These pages alone; all when it is missing."`
	Range        string          `json:"range,omitempty" maxLength:"1000" doc:"These pages alone, in words: 2-9, odd."`
	Make         Make            `json:"make,omitempty" enum:"parts,bySize,jpeg,png,tiff,blackTiff" doc:"Without it, one PDF."`
	DPI          int             `json:"dpi,omitempty" minimum:"0" maximum:"600" doc:"Of pictures; 200 when it is missing."`
	Quality      int             `json:"quality,omitempty" minimum:"0" maximum:"100" doc:"Of JPEGs, from 30; 88 when it is missing."`
	Names        string          `json:"names,omitempty" maxLength:"200" doc:"How files of parts are named: {number}, {part}, and the fields of names."`
	KeepPictures bool            `json:"keepPictures,omitempty" doc:"The files of pictures go in as they are, with what they tell about place, time and camera. Without it, the picture alone."`
	Repack       bool            `json:"repack,omitempty" doc:"JPEGs, PNGs and the like in PDFs are written in fewer bytes, with every pixel the same. Lighter and fit do so anyway, unless the files of pictures are kept."`
	Size         planning.Target `json:"size,omitempty" enum:"lighter,fit" doc:"Lighter: nothing is lost that is seen at twice the size of the paper. Fit: it is under the limit. Without it, pages go in as they are."`
	Limit        int64           `json:"limit,omitempty" minimum:"0" doc:"Bytes: of all files together for fit, of each for bySize."`
	Passwords    *Passwords      `json:"passwords,omitempty" doc:"Where the packet is protected. They are not kept."`
}

func (o *ExportOrder) check() error {
	if _, known := extensions[o.Make]; !known {
		return problem.New(problem.Invalid, "there is nothing to make by the name %q", o.Make)
	}
	if o.Make.isPictures() {
		if o.DPI = cmp.Or(o.DPI, usualDPI); o.DPI < leastDPI || o.DPI > mostDPI {
			return problem.New(problem.Invalid, "pictures have between %d and %d dpi", leastDPI, mostDPI)
		}
	}
	if o.Quality != 0 && (o.Quality < leastQuality || o.Quality > mostQuality) {
		return problem.New(problem.Invalid, "JPEGs have a quality between %d and %d", leastQuality, mostQuality)
	}
	if o.Make == PDFsBySize && o.Limit == 0 {
		return problem.New(problem.Invalid, "say how many bytes each file may have")
	}
	if o.Make == PDFsBySize && o.Size == planning.Fit {
		o.Size = planning.Smaller // each file is under the limit anyway
	}
	return nil
}

// ErrEmptyPacket is returned for the export of a packet without pages.
var ErrEmptyPacket = problem.New(problem.Invalid, "there are no pages to export")

// Start asks for the packet, or for some pages of it, to be made into files.
func (s *Service) Start(ctx context.Context, packetID string, order ExportOrder) (Export, error) {
	if err := order.check(); err != nil {
		return Export{}, err
	}
	p, all, err := s.store.Load(ctx, packetID)
	if err != nil {
		return Export{}, err
	}
	whole := p.State
	state, numbers, err := s.ordered(ctx, p, order)
	if err != nil {
		return Export{}, err
	}
	sizing, err := s.sizing(ctx, packetID) // for what was decided for pages
	if err != nil {
		return Export{}, err
	}
	sizing.Size, sizing.Limit = order.Size, order.Limit
	if err := sizing.check(); err != nil {
		return Export{}, err
	}
	at := time.Now()
	naming, err := s.naming(ctx, p, at)
	if err != nil {
		return Export{}, err
	}
	request := exportRequest{
		Title: state.Name, Parts: state.Parts, At: at, Make: order.Make, DPI: order.DPI, Quality: order.Quality, Names: naming.fill(order.Names),
		KeepPictures: order.KeepPictures, Repack: order.Repack, Numbers: numbers, Sizing: sizing, Finish: whole.Finish, Receiver: whole.Receiver,
	}
	var passwords Passwords
	if order.Passwords != nil {
		passwords = *order.Passwords
	}
	if order.Passwords = nil; request.isProtected() {
		if err := passwords.check(request.Finish.Protection); err != nil {
			return Export{}, err
		}
	}
	request.Headings = headings(whole, sources.BytesOf(all))
	if b := whole.Finish.OrDefaults().Bookmarks; b.On && b.Text {
		if request.TextHeadings, err = s.reading.Headings(ctx, packetID); err != nil {
			return Export{}, err
		}
	}
	request.Facts = factsOf(whole, request.At, sources.BytesOf(all))
	if request.Printed, err = s.printed(ctx, whole, all); err != nil {
		return Export{}, err
	}
	if numbers != nil {
		request.Whole = whole.Parts
	}
	encoded, err := json.Marshal(request)
	if err != nil {
		return Export{}, fmt.Errorf("encode export: %w", err)
	}
	settings, err := json.Marshal(order)
	if err != nil {
		return Export{}, fmt.Errorf("encode export: %w", err)
	}
	e := store.Export{
		ID: store.NewID("e"), Packet: packetID, Name: naming.fileName(order),
		Request: string(encoded), Settings: string(settings), Total: state.PageCount(),
	}
	if request.isProtected() {
		s.secrets.keep(e.ID, passwords)
	}
	if err := s.store.AddExport(ctx, e, jobs.Job{Kind: store.JobExport, Key: e.ID}); err != nil {
		return Export{}, err
	}
	s.runner.Wake(store.JobExport)
	return s.Get(ctx, e.ID)
}

// ordered is a packet with the pages that an order is for, and their numbers where these are not
// all.
func (s *Service) ordered(ctx context.Context, p store.Packet, order ExportOrder) (only packet.Packet, numbers []int, err error) {
	only = p.State
	if strings.TrimSpace(order.Range) != "" {
		if order.Pages, err = s.packets.Select(ctx, p.ID, order.Range); err != nil {
			return only, nil, err
		}
	}
	if len(order.Pages) > 0 {
		if only, err = p.State.Only(order.Pages); err != nil {
			return only, nil, err
		}
		wanted := setOf(order.Pages)
		for i, page := range p.State.Pages() {
			if wanted[page.ID] {
				numbers = append(numbers, i+1)
			}
		}
	}
	if only.PageCount() == 0 {
		return only, nil, ErrEmptyPacket
	}
	return only, numbers, nil
}

// Again makes what an export made once more, of the packet as it now stands.
func (s *Service) Again(ctx context.Context, id string, passwords *Passwords) (Export, error) {
	e, err := s.store.Export(ctx, id)
	if err != nil {
		return Export{}, err
	}
	var order ExportOrder
	if err := json.Unmarshal([]byte(cmp.Or(e.Settings, "{}")), &order); err != nil {
		return Export{}, fmt.Errorf("decode export: %w", err)
	}
	order.Passwords = passwords
	return s.Start(ctx, e.Packet, order)
}

// Get shows an export.
func (s *Service) Get(ctx context.Context, id string) (Export, error) {
	e, err := s.store.Export(ctx, id)
	if err != nil {
		return Export{}, err
	}
	return viewExport(e)
}

// GetFinished shows an export with its receipt. One that is not finished is a problem.Invalid.
func (s *Service) GetFinished(ctx context.Context, id string) (Export, error) {
	e, err := s.Get(ctx, id)
	if err == nil && (e.State != store.ExportDone || e.Receipt == nil) {
		err = problem.New(problem.Invalid, "the document is not finished")
	}
	return e, err
}

// List lists a packet's exports, the newest first.
func (s *Service) List(ctx context.Context, packetID string) ([]Export, error) {
	if _, err := s.store.Packet(ctx, packetID); err != nil {
		return nil, err
	}
	exports, err := s.store.Exports(ctx, packetID)
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

// Cancel stops an export that is not finished.
func (s *Service) Cancel(ctx context.Context, id string) (Export, error) {
	if _, err := s.store.Export(ctx, id); err != nil {
		return Export{}, err
	}
	if err := s.runner.Cancel(ctx, jobs.Job{Kind: store.JobExport, Key: id}); err != nil {
		return Export{}, err
	}
	return s.Get(ctx, id)
}

// runExport makes a document. When the application stops meanwhile, the export stays as
// running and is made from the start the next time.
func (s *Service) runExport(ctx context.Context, task *jobs.Task) error {
	e, err := s.store.Export(ctx, task.Key)
	if err != nil || e.State == store.ExportCancelled {
		return store.UnlessGone(err)
	}
	e.State, e.Measured, e.Done = store.ExportRunning, 0, 0
	if err := s.record(ctx, &e); err != nil {
		return store.UnlessGone(err)
	}
	keep := context.WithoutCancel(ctx)
	file, err := s.makeDocument(ctx, &e)
	if file != nil {
		defer file.Release()
	}
	var panicked *guard.PanicError
	switch {
	case errors.As(err, &panicked):
		return err // it is tried again
	case ctx.Err() != nil:
		return ctx.Err()
	case err != nil:
		e.State, e.Problem = store.ExportFailed, sentence(e.ID, err)
		s.log.Error("export failed", "export", e.ID, "packet", e.Packet, "error", err)
	default:
		s.log.Info("export done", "export", e.ID, "packet", e.Packet, "pages", e.Total)
		e.State = store.ExportDone
		return store.UnlessGone(s.record(keep, &e, jobs.Job{Kind: store.JobComparePages, Key: e.ID}))
	}
	s.secrets.forget(e.ID)
	return store.UnlessGone(s.record(keep, &e))
}

// exportCancelled says that an export will not be made.
func (s *Service) exportCancelled(ctx context.Context, cancelled jobs.Taken) error {
	s.secrets.forget(cancelled.Key)
	e, err := s.store.Export(ctx, cancelled.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	e.State = store.ExportCancelled
	return store.UnlessGone(s.record(ctx, &e))
}

// giveUpExport says why an export was not made.
func (s *Service) giveUpExport(ctx context.Context, failed jobs.Taken, cause error) error {
	e, err := s.store.Export(ctx, failed.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	s.secrets.forget(e.ID)
	e.State = store.ExportFailed
	e.Problem = message.Of("The document could not be made: one of its pages stops the program. Export parts of it to find out which, and set that page aside.")
	if errors.Is(cause, jobs.ErrInterrupted) {
		e.Problem = message.Of("The document could not be made: the program ended %d times while it was being made. Export again to try once more.", jobs.MaxAttempts)
	}
	return store.UnlessGone(s.record(ctx, &e))
}

// record keeps an export's state, with the work that is to be done on it then, and tells
// the listeners.
func (s *Service) record(ctx context.Context, e *store.Export, work ...jobs.Job) error {
	if err := s.store.UpdateExport(ctx, *e, work...); err != nil {
		return err
	}
	for _, job := range work {
		s.runner.Wake(job.Kind)
	}
	view, err := viewExport(*e)
	if err != nil {
		return err
	}
	s.changed(view)
	return nil
}

// makeDocument makes what an export asks for, notes what it is, and gives the file.
func (s *Service) makeDocument(ctx context.Context, e *store.Export) (*store.Pin, error) {
	var request exportRequest
	if err := json.Unmarshal([]byte(e.Request), &request); err != nil {
		return nil, fmt.Errorf("decode export: %w", err)
	}
	passwords, known := s.secrets.of(e.ID)
	if request.isProtected() && !known {
		return nil, errForgotten
	}
	m, err := s.newMaking(ctx, e, request)
	if err != nil {
		return nil, err
	}
	m.passwords = passwords
	file, err := s.produce(ctx, e, m)
	if err != nil {
		return nil, err
	}
	e.Blob = file.SHA256
	if len(m.files) > 0 {
		e.Name = packet.SafeFileName(strings.TrimSuffix(e.Name, filepath.Ext(e.Name)), ".zip")
	}
	receipt, err := s.receipt(ctx, file.File, m)
	if err != nil {
		return file, fmt.Errorf("open the finished file again: %w", err)
	}
	text, err := json.Marshal(receipt)
	if err != nil {
		return file, fmt.Errorf("encode receipt: %w", err)
	}
	e.Receipt = string(text)
	return file, nil
}

func viewExport(e store.Export) (Export, error) {
	view := Export{
		ID: e.ID, Packet: e.Packet, Name: e.Name, State: e.State, Total: e.Total, Measured: e.Measured, Done: e.Done,
		Problem: e.Problem, Created: e.Created,
	}
	if err := json.Unmarshal([]byte(cmp.Or(e.Settings, "{}")), &view.Order); err != nil {
		return view, fmt.Errorf("decode export: %w", err)
	}
	if e.Receipt != "" {
		view.Receipt = &Receipt{}
		if err := json.Unmarshal([]byte(e.Receipt), view.Receipt); err != nil {
			return view, fmt.Errorf("decode receipt: %w", err)
		}
	}
	return view, nil
}

func isDiskFull(err error) bool {
	return errors.Is(err, store.ErrDiskFull) || errors.Is(err, syscall.ENOSPC)
}

// sentence gives the error of an export as its user reads it.
func sentence(id string, err error) message.Text {
	var told *problem.Error
	switch {
	case errors.As(err, &told):
		return told.Sentence
	case isDiskFull(err):
		return message.Of("The disk is nearly full. Make room and export again.")
	}
	return message.Of("The document could not be made. The log tells more under the number %s.", id)
}
