package sources

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"time"

	"dorbin/core/pdf"
	"dorbin/core/problem"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

type parseInput struct{ Path string }

// parsed is what is learned when a PDF is parsed.
type parsed struct {
	PageBytes []int64        `json:"pageBytes"`         // of each page
	Problem   *problem.Error `json:"problem,omitempty"` // with which it was given up
}

type picturesInput struct {
	Path string
	Page int // from 1
}

var (
	parseTask   = worker.Func[parseInput, parsed]{Name: "pdf parse", Limit: 2 * time.Minute}
	damagedTask = worker.Func[picturesInput, int]{Name: "pdf damaged pictures", Limit: time.Minute}
)

// HandleTasks has workers parse PDFs.
func HandleTasks(tasks *worker.Tasks) {
	worker.Handle(tasks, parseTask, func(_ context.Context, in parseInput) (parsed, []byte, error) {
		doc, err := parseFile(in.Path)
		if err != nil {
			return parsed{}, nil, err
		}
		return parsed{PageBytes: pdf.MeasureSize(doc)}, nil, nil
	})
	worker.Handle(tasks, damagedTask, func(_ context.Context, in picturesInput) (damaged int, _ []byte, err error) {
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
}

func parseFile(path string) (*pdf.Document, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("open PDF: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	return pdf.Open(file)
}

// DamagedPictures has a worker count the pictures on a page of a PDF, from 1, that cannot be
// decoded. There are none in a document that only PDFium can parse.
func (o *Opener) DamagedPictures(ctx context.Context, source store.Source, page int) (int, error) {
	if _, err := o.parsedBytes(ctx, source.Working, len(source.Pages)); err != nil {
		return 0, ctx.Err()
	}
	damaged, _, err := damagedTask.Do(ctx, o.pool, picturesInput{o.store.FilePath(source.Working), page})
	if err != nil && !worker.GaveUp(err) {
		return 0, ctx.Err()
	}
	return damaged, err
}

// parsedName is the file beside a PDF with what is known of its parsing. The number is that of
// its form: what is learned otherwise is learned anew.
const parsedName = "parsed-1.json"

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
	text, err := json.Marshal(known)
	if err == nil {
		err = errors.Join(os.MkdirAll(filepath.Dir(path), 0o700), os.WriteFile(path, text, 0o600))
	}
	if err != nil {
		return known, fmt.Errorf("keep how a PDF was parsed: %w", err)
	}
	if _, err := os.Stat(o.store.FilePath(sum)); errors.Is(err, fs.ErrNotExist) {
		return known, errors.Join(err, os.RemoveAll(filepath.Dir(path))) // it was deleted meanwhile
	}
	return known, nil
}
