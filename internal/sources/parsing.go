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
	"dorbin/internal/worker"
)

type parseInput struct{ Path string }

// parsed is what is learned when a PDF is parsed.
type parsed struct {
	PageBytes []int64        `json:"pageBytes"`         // of each page
	Problem   *problem.Error `json:"problem,omitempty"` // with which it was given up
}

var parseTask = worker.Func[parseInput, parsed]{Name: "pdf parse", Limit: 2 * time.Minute}

// HandleTasks has workers parse PDFs.
func HandleTasks(tasks *worker.Tasks) {
	worker.Handle(tasks, parseTask, func(_ context.Context, in parseInput) (parsed, []byte, error) {
		file, err := os.Open(in.Path)
		if err != nil {
			return parsed{}, nil, fmt.Errorf("open PDF: %w", err)
		}
		defer file.Close() //nolint:errcheck // only read from
		doc, err := pdf.Open(file)
		if err != nil {
			return parsed{}, nil, err
		}
		return parsed{PageBytes: pdf.MeasureSize(doc)}, nil, nil
	})
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
