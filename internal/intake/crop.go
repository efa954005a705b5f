package intake

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"io"
	"math"

	"dorbin/core/geometry"
	"dorbin/core/jpeg"
	"dorbin/core/pdf"
	"dorbin/core/raster"
	"dorbin/internal/worker"
)

// ErrNotCropped is returned for a page that cannot be cropped without being written anew.
var ErrNotCropped = errors.New("its pixels have to be written anew")

// Crop has a worker cut a part out of a page of an image file, counted from 1, with every pixel the same. The part
// is of the upright page, in shares of its width and height. It returns ErrNotCropped for what is no JPEG,
// is damaged, or is too large.
func Crop(ctx context.Context, pool *worker.Pool, path string, page int, part geometry.Box) (pdf.Image, error) {
	img, data, err := cropTask.Do(ctx, pool, cropInput{path, page, part})
	img.Data, img.Length = bytes.NewReader(data), int64(len(data))
	return img, err
}

func crop(in cropInput) (img pdf.Image, data []byte, err error) {
	err = WithPage(in.Path, in.Page, func(picture *Picture) (err error) {
		img, data, err = picture.crop(in.Part)
		return err
	})
	return img, data, err
}

// crop gives an image whose Data is read already.
func (p *Picture) crop(part geometry.Box) (pdf.Image, []byte, error) {
	img, err := p.Embed(false)
	if err != nil {
		return img, nil, err
	}
	if img.Filter != pdf.DCT || img.Alpha != nil {
		return img, nil, ErrNotCropped
	}
	whole, err := io.ReadAll(img.Data)
	if err != nil {
		return img, nil, fmt.Errorf("read picture: %w", err)
	}
	part = raster.AsStored(part, p.Orientation).Mapped(geometry.Scaling(float64(img.Width), float64(img.Height)))
	cropped, err := jpeg.Crop(whole, image.Rect(
		int(part.X0), int(part.Y0), int(math.Ceil(part.X1)), int(math.Ceil(part.Y1))))
	if err != nil {
		return img, nil, errors.Join(ErrNotCropped, err)
	}
	img.Seen = part.Mapped(geometry.Translation(
		float64(cropped.Seen.Min.X)-math.Floor(part.X0), float64(cropped.Seen.Min.Y)-math.Floor(part.Y0)))
	img.Width, img.Height, img.Data = cropped.Size.X, cropped.Size.Y, nil
	return img, cropped.Data, nil
}
