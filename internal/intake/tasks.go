package intake

import (
	"context"
	"errors"
	"fmt"
	"image"
	"io"
	"time"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/pdf"
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
	cropInput struct {
		Path string
		Page int
		Part geometry.Box
	}
	nothing struct{}
)

// The tasks. Their limits are for what hangs.
var (
	imagePagesTask = worker.Func[imagesInput, []Page]{Name: "image pages", Limit: 20 * time.Second}
	convertTask    = worker.Func[convertInput, nothing]{Name: "image convert", Limit: decodeTime}
	mendTask       = worker.Func[convertInput, float64]{Name: "image mend", Limit: decodeTime}
	repackTask     = worker.Func[repackInput, int64]{Name: "image repack", Limit: decodeTime}
	cropTask       = worker.Func[cropInput, pdf.Image]{Name: "image crop", Limit: decodeTime, Known: []error{ErrNoPage, ErrNotCropped}}
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
	worker.Handle(tasks, cropTask, func(_ context.Context, in cropInput) (pdf.Image, []byte, error) { return crop(in) })
	worker.Handle(tasks, decodeTask, func(_ context.Context, in decodeInput) (worker.Picture, []byte, error) {
		img, err := decodeImage(in)
		if err != nil {
			return worker.Picture{}, nil, err
		}
		picture, pixels := worker.PackPicture(img)
		return picture, pixels, nil
	})
}

func decodeImage(in decodeInput) (img image.Image, err error) {
	err = WithPage(in.Path, in.Page, func(picture *Picture) (err error) {
		img, err = picture.Shrunk(in.Edge)
		return err
	})
	return img, err
}

// WithPage has a page of an image file, counted from 1, used while the file is open. It returns ErrNoPage for one that
// the file does not have.
func WithPage(path string, page int, use func(*Picture) error) error {
	kind, err := KindOf(path)
	if err != nil {
		return err
	}
	images, err := OpenImages(path, kind)
	if err != nil {
		return err
	}
	defer images.Close() //nolint:errcheck // only read from
	if page < 1 || page > len(images.Pages) {
		return fmt.Errorf("%w: %d", ErrNoPage, page)
	}
	return use(images.Pages[page-1])
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
	named.Sentence = message.Of("%s was not added. %s", name, told.Sentence)
	return &named
}
