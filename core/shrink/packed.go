package shrink

import (
	"bytes"
	"compress/gzip"
	"encoding/gob"
	"errors"
	"fmt"
	"image/color"
	"io"

	"dorbin/core/bilevel"
)

// packedPage is a page whose ink is not written yet, as it is put aside.
type packedPage struct {
	EncodingParams
	Width, Height int // pixels, of the inks
	Background    JPEG
	Inks          []packedInk
	JPEG          JPEG
}

type packedInk struct {
	Colour color.RGBA
	Field  JPEG
	Bits   []byte // row by row, each of whole bytes

	IsPictures bool
}

// Pack gives a page, as Write makes it, in a form that can be put aside until Unpack makes it again.
func (l CompressedPage) Pack() ([]byte, error) {
	packed := packedPage{
		EncodingParams: l.EncodingParams, Width: l.Layered.Width, Height: l.Layered.Height, Background: l.Layered.Background,
		Inks: make([]packedInk, len(l.Layered.Inks)), JPEG: l.JPEG,
	}
	for i, ink := range l.Layered.Inks {
		if ink.mask == nil {
			return nil, errors.New("pack a page whose ink is written")
		}
		packed.Inks[i] = packedInk{ink.Colour, ink.Field, ink.mask.Bits, ink.isPictures}
	}
	var out bytes.Buffer
	// Masks are white for the most part: the quickest compression is enough.
	compressor, err := gzip.NewWriterLevel(&out, gzip.BestSpeed)
	if err == nil {
		err = errors.Join(gob.NewEncoder(compressor).Encode(packed), compressor.Close())
	}
	if err != nil {
		return nil, fmt.Errorf("pack a page: %w", err)
	}
	return out.Bytes(), nil
}

// mostUnpacked is how many bytes a packed page unpacks to at most: several masks of the largest pictures there are.
const mostUnpacked = 1 << 30

// Unpack makes a page again that Pack put aside. What was damaged since is told by its checksum.
func Unpack(data []byte) (CompressedPage, error) {
	packed, err := unpack(data)
	if err == nil {
		err = packed.Check()
	}
	if err != nil {
		return CompressedPage{}, fmt.Errorf("unpack a page: %w", err)
	}
	page := CompressedPage{EncodingParams: packed.EncodingParams, JPEG: packed.JPEG, Layered: Layered{
		Width: packed.Width, Height: packed.Height, Background: packed.Background,
	}}
	for _, ink := range packed.Inks {
		mask := &bilevel.Bitmap{Width: packed.Width, Height: packed.Height, Stride: ceilDiv(packed.Width, 8), Bits: ink.Bits}
		if mask.Width < 1 || mask.Height < 1 || len(mask.Bits)%mask.Stride != 0 || len(mask.Bits)/mask.Stride != mask.Height {
			return CompressedPage{}, errors.New("unpack a page: a mask is not of its size")
		}
		page.Layered.Inks = append(page.Layered.Inks, ForegroundMask{
			Colour: ink.Colour, Field: ink.Field, mask: mask, isPictures: ink.IsPictures,
		})
	}
	return page, nil
}

func unpack(data []byte) (packed packedPage, err error) {
	compressed, err := gzip.NewReader(bytes.NewReader(data))
	if err != nil {
		return packed, err
	}
	limited := io.LimitReader(compressed, mostUnpacked)
	if err := gob.NewDecoder(limited).Decode(&packed); err != nil {
		return packed, err
	}
	_, err = io.Copy(io.Discard, limited) // the checksum is at the end
	return packed, err
}
