package pdfium

import (
	"context"
	"io"
	"time"

	"dorbin/core/annotation"
	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/internal/worker"
)

// What goes into tasks. Paths are of files that the worker may read, and Out of one that is
// there already and that it writes.
type (
	// SizesInput is a document, its password, and how many of its pages are measured at most.
	SizesInput struct {
		Path, Password string
		Limit          int
	}
	// RewriteInput is a document, its password, and where it is written anew.
	RewriteInput struct{ Path, Password, Out string }
	// DrawInput is a page of a document, counted from 1, the pixels that it is fitted into, and
	// what becomes of its form fields and comments.
	DrawInput struct {
		Path                string
		Page, Width, Height int
		Annotations         annotation.Policy
	}
	// AboutInput is a document, its password, and how many pages it has.
	AboutInput struct {
		Path, Password string
		Pages          int
	}
	// PageInput is a page of a document, counted from 1.
	PageInput struct {
		Path string
		Page int
	}
	// CutInput is a document, what is kept of some of its pages, and where it is written anew.
	CutInput struct {
		Path string
		Cuts []Cut
		Out  string
	}
	// HidesInput is a page of a document, counted from 1, and what is seen of it in fractions.
	HidesInput struct {
		Path string
		Page int
		Seen geometry.Box
	}
)

// Nothing is what goes into tasks that need to know nothing, and what comes out of those that
// only do something.
type Nothing struct{}

var known = []error{ErrPassword, ErrNotPDF}

// The tasks. Their limits are for what hangs: they are many times what real files take on a
// slow machine.
var (
	PageSizes    = worker.Func[SizesInput, []geometry.Size]{Name: "pdf sizes", Limit: time.Minute, Known: known}
	Rewrite      = worker.Func[RewriteInput, Nothing]{Name: "pdf rewrite", Limit: 2 * time.Minute, Known: known}
	Draw         = worker.Func[DrawInput, worker.Picture]{Name: "pdf draw", Limit: 15 * time.Second, Known: known}
	Text         = worker.Func[PageInput, check.Text]{Name: "pdf text", Limit: 15 * time.Second, Known: known}
	Words        = worker.Func[PageInput, OwnText]{Name: "pdf words", Limit: 20 * time.Second, Known: known}
	Holdings     = worker.Func[PageInput, check.Holdings]{Name: "pdf holdings", Limit: 20 * time.Second, Known: known}
	AboutPDF     = worker.Func[AboutInput, About]{Name: "pdf about", Limit: time.Minute, Known: known}
	Bookmarks    = worker.Func[PageInput, []Bookmark]{Name: "pdf bookmarks", Limit: 20 * time.Second, Known: known}
	CutAway      = worker.Func[CutInput, Nothing]{Name: "pdf cut", Limit: 2 * time.Minute, Known: known}
	CloseRemoved = worker.Func[Nothing, Nothing]{Name: "pdf close", Limit: 5 * time.Second}
	HidesContent = worker.Func[HidesInput, bool]{Name: "pdf hides", Limit: 20 * time.Second, Known: known}
)

// Handle has workers do the tasks, by a PDFium that each starts before it is ready. Its
// compiled form is kept in cacheFolder.
func Handle(tasks *worker.Tasks, cacheFolder string) {
	var l *Library
	tasks.Prepare = func() (err error) {
		l, err = New(cacheFolder)
		return err
	}
	worker.Handle(tasks, PageSizes, func(_ context.Context, in SizesInput) ([]geometry.Size, []byte, error) {
		sizes, err := l.PageSizes(in.Path, in.Password, in.Limit)
		return sizes, nil, err
	})
	worker.Handle(tasks, Rewrite, func(_ context.Context, in RewriteInput) (Nothing, []byte, error) {
		return Nothing{}, nil, worker.Into(in.Out, func(w io.Writer) error { return l.Rewrite(in.Path, in.Password, w) })
	})
	worker.Handle(tasks, Draw, func(_ context.Context, in DrawInput) (worker.Picture, []byte, error) {
		img, err := l.Draw(in.Path, in.Page, in.Width, in.Height, in.Annotations)
		if brokeDown(err) {
			return worker.Picture{}, nil, &problem.Error{
				Kind: problem.Invalid, Reason: worker.Broken, Cause: err,
				Sentence: problem.ThisPage(message.Of("cannot be drawn: it is damaged, or takes too much memory")),
			}
		}
		if err != nil {
			return worker.Picture{}, nil, err
		}
		picture, pixels := worker.PackPicture(img)
		return picture, pixels, nil
	})
	worker.Handle(tasks, Text, func(_ context.Context, in PageInput) (check.Text, []byte, error) {
		text, err := l.Text(in.Path, in.Page)
		return text, nil, err
	})
	worker.Handle(tasks, Words, func(_ context.Context, in PageInput) (OwnText, []byte, error) {
		own, err := l.Words(in.Path, in.Page)
		return own, nil, err
	})
	worker.Handle(tasks, Holdings, func(_ context.Context, in PageInput) (check.Holdings, []byte, error) {
		holdings, err := l.Holdings(in.Path, in.Page)
		return holdings, nil, err
	})
	worker.Handle(tasks, AboutPDF, func(_ context.Context, in AboutInput) (About, []byte, error) {
		about, err := l.About(in.Path, in.Password, in.Pages)
		return about, nil, err
	})
	worker.Handle(tasks, Bookmarks, func(_ context.Context, in PageInput) ([]Bookmark, []byte, error) {
		marks, err := l.Bookmarks(in.Path)
		return marks, nil, err
	})
	worker.Handle(tasks, CutAway, func(_ context.Context, in CutInput) (Nothing, []byte, error) {
		return Nothing{}, nil, worker.Into(in.Out, func(w io.Writer) error { return l.CutAway(in.Path, in.Cuts, w) })
	})
	worker.Handle(tasks, CloseRemoved, func(context.Context, Nothing) (Nothing, []byte, error) {
		l.closeRemoved()
		return Nothing{}, nil, nil
	})
	worker.Handle(tasks, HidesContent, func(_ context.Context, in HidesInput) (bool, []byte, error) {
		hides, err := l.HidesContent(in.Path, in.Page, in.Seen)
		return hides, nil, err
	})
}
