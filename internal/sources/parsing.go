package sources

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"io/fs"
	"os"
	"path/filepath"
	"time"

	"dorbin/core/geometry"
	"dorbin/core/pdf"
	"dorbin/core/problem"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

type parseInput struct{ Path string }

// parsed is what is learned when a PDF is parsed.
type parsed struct {
	Sizes    []pdf.PageBytes `json:"sizes"`             // of each page
	Headings [][]string      `json:"headings"`          // of each page, the titles of bookmarks that open it
	Problem  *problem.Error  `json:"problem,omitempty"` // with which it was given up
}

// What goes into tasks. Pages are counted from 1.
type (
	pageInput struct {
		Path string
		Page int
	}
	pagesInput struct {
		Path  string
		Pages []int
	}
	pictureInput struct {
		Path         string
		Page, Object int
	}
	reshapedInput struct {
		Path       string
		Placements []pdf.Placement
	}
)

var (
	parseTask    = worker.Func[parseInput, parsed]{Name: "pdf parse", Limit: 2 * time.Minute}
	damagedTask  = worker.Func[pageInput, int]{Name: "pdf damaged pictures", Limit: time.Minute}
	picturesTask = worker.Func[pagesInput, [][]pdf.Picture]{Name: "pdf pictures", Limit: 2 * time.Minute}
	pixelsTask   = worker.Func[pictureInput, worker.Picture]{Name: "pdf picture pixels", Limit: time.Minute, Known: []error{pdf.ErrKept}}
	reshapedTask = worker.Func[reshapedInput, []Reshaped]{Name: "pdf reshaped", Limit: 2 * time.Minute}
)

// HandleTasks has workers parse PDFs.
func HandleTasks(tasks *worker.Tasks) {
	worker.Handle(tasks, parseTask, func(_ context.Context, in parseInput) (parsed, []byte, error) {
		doc, err := parseFile(in.Path)
		if err != nil {
			return parsed{}, nil, err
		}
		return parsed{Sizes: pdf.MeasureSize(doc), Headings: doc.Headings()}, nil, nil
	})
	worker.Handle(tasks, damagedTask, func(_ context.Context, in pageInput) (damaged int, _ []byte, err error) {
		doc, err := parseFile(in.Path)
		if err != nil || in.Page > doc.PageCount() {
			return 0, nil, err
		}
		for _, picture := range doc.Pictures(in.Page - 1) {
			if _, err := picture.Decode(); err != nil && !errors.Is(err, pdf.ErrKept) {
				damaged++
			}
		}
		return damaged, nil, nil
	})
	worker.Handle(tasks, picturesTask, func(_ context.Context, in pagesInput) ([][]pdf.Picture, []byte, error) {
		doc, err := parseFile(in.Path)
		if err != nil {
			return nil, nil, err
		}
		pictures := make([][]pdf.Picture, len(in.Pages))
		for i, page := range in.Pages {
			if page >= 1 && page <= doc.PageCount() {
				pictures[i] = doc.Pictures(page - 1)
			}
		}
		return pictures, nil, nil
	})
	worker.Handle(tasks, pixelsTask, func(_ context.Context, in pictureInput) (worker.Picture, []byte, error) {
		img, err := decodePicture(in)
		if err != nil {
			return worker.Picture{}, nil, err
		}
		picture, pixels := worker.PackPicture(img)
		return picture, pixels, nil
	})
	worker.Handle(tasks, reshapedTask, func(_ context.Context, in reshapedInput) ([]Reshaped, []byte, error) {
		doc, err := parseFile(in.Path)
		if err != nil {
			return nil, nil, err
		}
		reshaped := make([]Reshaped, len(in.Placements))
		for i, placement := range in.Placements {
			if placement.Page < doc.PageCount() {
				reshaped[i].Seen, reshaped[i].Content, reshaped[i].IsCut = doc.Reshaped(placement)
			}
		}
		return reshaped, nil, nil
	})
}

func decodePicture(in pictureInput) (image.Image, error) {
	doc, err := parseFile(in.Path)
	if err != nil {
		return nil, err
	}
	if in.Page >= 1 && in.Page <= doc.PageCount() {
		for _, picture := range doc.Pictures(in.Page - 1) {
			if picture.Object == in.Object {
				return picture.Decode()
			}
		}
	}
	return nil, fmt.Errorf("page %d draws no image %d", in.Page, in.Object)
}

// lastParsed is the document that this worker parsed last: its pictures are asked for one after
// another.
var lastParsed struct {
	path     string
	modified time.Time
	doc      *pdf.Document
}

func parseFile(path string) (*pdf.Document, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("open PDF: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	info, err := file.Stat()
	if err != nil {
		return nil, fmt.Errorf("open PDF: %w", err)
	}
	last := &lastParsed
	if last.doc != nil && last.path == path && last.modified.Equal(info.ModTime()) {
		return last.doc, nil
	}
	last.doc = nil // there may not be room for both
	doc, err := pdf.Open(file)
	if err == nil {
		last.path, last.modified, last.doc = path, info.ModTime(), doc
	}
	return doc, err
}

// Pictures has a worker find the images that pages of a stored PDF, from 1, draw.
func (o *Opener) Pictures(ctx context.Context, sum string, pages []int) ([][]pdf.Picture, error) {
	pictures, _, err := picturesTask.Do(ctx, o.pool, pagesInput{o.store.FilePath(sum), pages})
	return pictures, err
}

// PicturePixels has a worker decode an image, by the number of its object, that a page of a
// stored PDF, from 1, draws. The error wraps pdf.ErrKept for one whose pixels cannot be given.
func (o *Opener) PicturePixels(ctx context.Context, sum string, page, object int) (image.Image, error) {
	picture, pixels, err := pixelsTask.Do(ctx, o.pool, pictureInput{o.store.FilePath(sum), page, object})
	if err != nil {
		return nil, err
	}
	return picture.Unpack(pixels)
}

// Reshaped has a worker tell what placements leave to be seen of the pages of a stored PDF, as
// pdf.Document.Reshaped has it.
func (o *Opener) Reshaped(ctx context.Context, sum string, placements []pdf.Placement) ([]Reshaped, error) {
	reshaped, _, err := reshapedTask.Do(ctx, o.pool, reshapedInput{o.store.FilePath(sum), placements})
	return reshaped, err
}

// Reshaped is what is left to be seen of a page, in its own user space, and where its content
// goes there before it is cut. It is not cut where all of it is seen.
type Reshaped struct {
	IsCut   bool
	Seen    geometry.Box
	Content geometry.Affine
}

// DamagedPictures has a worker count the pictures on a page of a PDF, from 1, that cannot be
// decoded. There are none in a document that only PDFium can parse.
func (o *Opener) DamagedPictures(ctx context.Context, source store.Source, page int) (int, error) {
	if _, err := o.parsedPages(ctx, source.Working, len(source.Pages)); err != nil {
		return 0, ctx.Err()
	}
	damaged, _, err := damagedTask.Do(ctx, o.pool, pageInput{o.store.FilePath(source.Working), page})
	if err != nil && !worker.GaveUp(err) {
		return 0, ctx.Err()
	}
	return damaged, err
}

// parsedName is the file beside a PDF with what is known of its parsing. The number is that of
// its form: what is learned otherwise is learned anew.
const parsedName = "parsed-2.json"

// try has a worker parse a stored PDF. What comes of it is kept with the file: one that was
// parsed within the bounds of a worker may be parsed here, and one that ended its worker is not
// tried again. The error is a *problem.Error then.
func (o *Opener) try(ctx context.Context, sum string) (parsed, error) {
	path := filepath.Join(o.store.DerivedFolder(sum), parsedName)
	text, err := os.ReadFile(path)
	var known parsed
	if err == nil {
		err = json.Unmarshal(text, &known)
	}
	if errors.Is(err, fs.ErrNotExist) {
		known, err = o.tryNow(ctx, sum, path)
	}
	if err == nil && known.Problem != nil {
		err = known.Problem
	}
	return known, err
}

func (o *Opener) tryNow(ctx context.Context, sum, path string) (parsed, error) {
	known, _, err := parseTask.Do(ctx, o.pool, parseInput{o.store.FilePath(sum)})
	if worker.GaveUp(err) {
		errors.As(err, &known.Problem)
	} else if err != nil {
		return known, err
	}
	err = o.store.WriteDerived(sum, filepath.Base(path), func(file *os.File) error {
		return json.NewEncoder(file).Encode(known)
	})
	if err != nil {
		return known, fmt.Errorf("keep how a PDF was parsed: %w", err)
	}
	return known, nil
}
