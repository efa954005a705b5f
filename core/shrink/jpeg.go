package shrink

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"image"

	"dorbin/core/jpeg"
	"dorbin/core/raster"
)

// JPEG is a picture as a JPEG.
type JPEG struct {
	Width, Height int  // pixels
	Gray          bool // it has one channel
	Data          []byte
	Deflated      []byte // the data, compressed once more (RFC 1950); none where that is not worth it
}

// worthDeflating is the share of its bytes, at most, that a JPEG keeps which is compressed
// once more: white paper is the same few bits again and again.
const worthDeflating = 0.95

// encodeJPEG writes a picture, with one channel where it has no colour.
func encodeJPEG(img image.Image, quality int) (JPEG, error) {
	return encodeJPEGBy(jpeg.Encode, img, quality)
}

func encodeJPEGBy(encode func(image.Image, int) ([]byte, error), img image.Image, quality int) (JPEG, error) {
	size := img.Bounds().Size()
	j := JPEG{Width: size.X, Height: size.Y, Gray: raster.IsGrey(img)}
	if j.Gray {
		img = raster.ToGray(img)
	}
	var err error
	if j.Data, err = encode(img, quality); err != nil {
		return j, err
	}
	var deflated bytes.Buffer
	pack := zlib.NewWriter(&deflated)
	_, _ = pack.Write(j.Data) // writing to memory does not fail
	if err := pack.Close(); err != nil {
		return j, fmt.Errorf("compress a JPEG: %w", err)
	}
	if float64(deflated.Len()) < worthDeflating*float64(len(j.Data)) {
		j.Deflated = deflated.Bytes()
	}
	return j, nil
}

// Bytes is what the picture takes up.
func (j JPEG) Bytes() int {
	if len(j.Deflated) > 0 {
		return len(j.Deflated)
	}
	return len(j.Data)
}

// decode gives the picture from its bytes.
func (j JPEG) decode() (image.Image, error) {
	picture, err := jpeg.Open(j.Data)
	if err != nil {
		return nil, fmt.Errorf("open a JPEG again: %w", err)
	}
	img, err := picture.Decode(jpeg.Full)
	if err != nil {
		return nil, fmt.Errorf("read a JPEG again: %w", err)
	}
	return img, nil
}
