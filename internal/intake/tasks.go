package intake

import (
	"context"
	"errors"
	"fmt"
	"image"
	"io"
	"time"

	"dorbin/core/problem"
	"dorbin/internal/worker"
)

// ErrNoPage is returned for a page that an image file does not have.
var ErrNoPage = errors.New("the image file has no such page")

// What goes into tasks. Paths are of files that the worker may read, and out of one that is
// there already and that it writes.
type (
	imagesInput struct {
		Path, Name string
		Kind       Kind
		Limits     Limits
	}
	convertInput struct {
		imagesInput
		Out string
	}
	repackInput struct {
		Path, Out string
	}
	decodeInput struct {
		Path       string
		Page, Edge int
	}
	nothing struct{}
)

// The tasks. Their limits are for what hangs.
var (
	imagePagesTask = worker.Func[imagesInput, []Page]{Name: "image pages", Limit: 20 * time.Second}
	convertTask    = worker.Func[convertInput, nothing]{Name: "image convert", Limit: decodeTime}
	mendTask       = worker.Func[convertInput, float64]{Name: "image mend", Limit: decodeTime}
	repackTask     = worker.Func[repackInput, int64]{Name: "image repack", Limit: decodeTime}
	decodeTask     = worker.Func[decodeInput, worker.Picture]{Name: "image decode", Limit: decodeTime, Known: []error{ErrNoPage}}
)

// HandleTasks has workers read images.
func HandleTasks(tasks *worker.Tasks) {
	worker.Handle(tasks, imagePagesTask, func(_ context.Context, in imagesInput) ([]Page, []byte, error) {
		pages, err := imagePages(in)
		return pages, nil, err
	})
	worker.Handle(tasks, unpackedTask, func(_ context.Context, path string) (int64, []byte, error) {
		total, err := unpackedBytes(path)
		return total, nil, err
	})
	worker.Handle(tasks, convertTask, func(_ context.Context, in convertInput) (nothing, []byte, error) {
		return nothing{}, nil, worker.Into(in.Out, func(w io.Writer) error { return convertImage(in.imagesInput, w) })
	})
	worker.Handle(tasks, mendTask, func(_ context.Context, in convertInput) (share float64, _ []byte, err error) {
		err = worker.Into(in.Out, func(w io.Writer) (err error) {
			mend := mendJPEG
			if in.Kind == PNG {
				mend = mendPNG
			}
			share, err = mend(in.imagesInput, w)
			return err
		})
		return share, nil, err
	})
	worker.Handle(tasks, repackTask, func(_ context.Context, in repackInput) (bytes int64, _ []byte, err error) {
		err = worker.Into(in.Out, func(w io.Writer) (err error) {
			bytes, err = repack(in.Path, w)
			return err
		})
		return bytes, nil, err
	})
	worker.Handle(tasks, decodeTask, func(_ context.Context, in decodeInput) (worker.Picture, []byte, error) {
		img, err := decodeImage(in)
		if err != nil {
			return worker.Picture{}, nil, err
		}
		picture, pixels := worker.PackPicture(img)
		return picture, pixels, nil
	})
}

func decodeImage(in decodeInput) (image.Image, error) {
	kind, err := KindOf(in.Path)
	if err != nil {
		return nil, err
	}
	images, err := OpenImages(in.Path, kind)
	if err != nil {
		return nil, err
	}
	defer images.Close() //nolint:errcheck // only read from
	if in.Page < 1 || in.Page > len(images.Pages) {
		return nil, fmt.Errorf("%w: %d", ErrNoPage, in.Page)
	}
	return images.Pages[in.Page-1].Shrunk(in.Edge)
}

// DecodeImage has a worker decode a page of an image file, counted from 1: upright, at most
// maxEdge pixels long.
func DecodeImage(ctx context.Context, pool *worker.Pool, path string, page, maxEdge int) (image.Image, error) {
	picture, pixels, err := decodeTask.Do(ctx, pool, decodeInput{path, page, maxEdge})
	if err != nil {
		return nil, err
	}
	return picture.Unpack(pixels)
}

// ofFile names the file in a problem of a task that had to be ended, or for which there was no
// worker.
func ofFile(name string, err error) error {
	var told *problem.Error
	if !errors.As(err, &told) || (!worker.GaveUp(err) && !worker.IsUnavailable(err)) {
		return err
	}
	named := *told
	named.Sentence = fmt.Sprintf("%s was not added. %s", name, told.Sentence)
	return &named
}
