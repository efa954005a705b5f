package intake

import (
	"bufio"
	"context"
	"fmt"
	"image"
	"image/gif"
	"image/png"
	"io"
	"os"
	"time"

	"github.com/gen2brain/heic"
	"golang.org/x/image/bmp"
	"golang.org/x/image/webp"

	"dorbin/core/jpeg"
	"dorbin/core/message"
	"dorbin/core/raster"
)

// convertedQuality is for pictures that lost something to compression already.
const convertedQuality = 94

// convertedPixelBytes is how many bytes a pixel of a picture that is converted takes, at most.
const convertedPixelBytes = 4

// decodeTime is how long a picture may take to be decoded.
const decodeTime = 60 * time.Second

// codec reads a kind of picture that pages are not read from.
type codec struct {
	config func(io.Reader) (image.Config, error)
	decode func(io.Reader) (image.Image, error)
	encode func(io.Writer, image.Image) error
	words  message.Text
}

func asJPEG(w io.Writer, img image.Image) error {
	data, err := jpeg.Encode(img, convertedQuality)
	if err == nil {
		_, err = w.Write(data)
	}
	return err //nolint:wrapcheck // convertImage says what it is about
}

// asItCame writes a WebP without loss where it had none, and its colours on white where it is see-through.
func asItCame(w io.Writer, img image.Image) error {
	if _, isLossless := img.(*image.NRGBA); isLossless {
		return png.Encode(w, img) //nolint:wrapcheck // convertImage says what it is about
	}
	if _, isOpaque := img.(*image.YCbCr); !isOpaque {
		img = raster.ToRGBA(img)
	}
	return asJPEG(w, img)
}

var codecs = map[Kind]codec{
	HEIC: {heic.DecodeConfig, heic.Decode, asJPEG, message.Of("a HEIC photograph")},
	WebP: {webp.DecodeConfig, webp.Decode, asItCame, message.Of("a WebP picture")},
	BMP:  {bmp.DecodeConfig, bmp.Decode, png.Encode, message.Of("a bitmap picture")},
	GIF:  {gif.DecodeConfig, gif.Decode, png.Encode, message.Of("a GIF picture")},
}

// IsConverted tells whether pages are read from a converted copy of this kind.
func (k Kind) IsConverted() bool {
	_, ok := codecs[k]
	return ok || k == Office
}

// Convert writes a copy of the file at path, of a kind that is converted, from
// which its pages can be read: a JPEG, a PNG or a PDF. Errors that are the
// file's own fault are a *problem.Error.
func (in *Inspector) Convert(ctx context.Context, kind Kind, path, name string, w io.Writer) error {
	if kind == Office {
		info, err := os.Stat(path)
		if err != nil {
			return fmt.Errorf("convert %s: %w", name, err)
		}
		if err := in.checkUnpacked(ctx, path, name, info.Size()); err != nil {
			return err
		}
		return convertOffice(ctx, in.Office, path, name, w)
	}
	return in.Pool.Written(w, func(file string) error {
		_, _, err := convertTask.Do(ctx, in.Pool, convertInput{imagesInput{path, name, kind, in.Limits}, file})
		return ofFile(name, err)
	})
}

// convertImage is what a worker does to convert a picture.
func convertImage(in imagesInput, w io.Writer) error {
	c, ok := codecs[in.Kind]
	if !ok {
		return fmt.Errorf("%s is not converted", in.Kind)
	}
	if err := checkPixels(c, in); err != nil {
		return err
	}
	img, err := c.read(in.Path)
	if err != nil {
		return refuse(Damaged, err, "%s is damaged: it begins like %s but cannot be read (%s).", in.Name, c.words, err)
	}
	if err := c.encode(w, img); err != nil {
		return fmt.Errorf("convert %s: %w", in.Name, err)
	}
	return nil
}

// checkPixels checks the size that a picture claims, before any memory is taken for it.
func checkPixels(c codec, in imagesInput) error {
	name := in.Name
	file, err := os.Open(in.Path)
	if err != nil {
		return fmt.Errorf("open picture: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	config, err := guarded(func() (image.Config, error) { return c.config(bufio.NewReaderSize(file, 1<<16)) })
	switch {
	case err != nil || config.Width <= 0 || config.Height <= 0:
		return refuse(Damaged, err, "%s is damaged: it begins like %s but cannot be read.", name, c.words)
	}
	return in.Limits.checkPixels(name, 1, config.Width, config.Height, convertedPixelBytes)
}

func (c codec) read(path string) (image.Image, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("open picture: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	return guarded(func() (image.Image, error) { return c.decode(bufio.NewReader(file)) })
}

// guarded turns a decoder's panic into an error.
func guarded[T any](decode func() (T, error)) (value T, err error) {
	defer func() {
		if r := recover(); r != nil {
			err = fmt.Errorf("the decoder gave up: %v", r)
		}
	}()
	return decode()
}
