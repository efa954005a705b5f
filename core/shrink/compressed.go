package shrink

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"slices"

	"dorbin/core/bilevel"
	"dorbin/core/bilevel/jbig2"
)

// CompressedPage is a page in fewer bytes. What is set depends on the way.
type CompressedPage struct {
	EncodingParams
	Layered Layered // of one bit: a single ink, and no background
	Shared  []byte  // by JBIG2: what the inks share with those of other pages; may be empty
	JPEG    JPEG

	sharing int // pages that have Shared in common
}

// Bytes is what the page takes up once it is written, with its share of what it shares.
func (l CompressedPage) Bytes() int {
	n := l.JPEG.Bytes() + l.Layered.pictureBytes() + len(l.Shared)/max(1, l.sharing)
	for _, ink := range l.Layered.Inks {
		n += len(ink.Data)
	}
	return n
}

// Clone gives a page whose ink can be written without that of this one.
func (l CompressedPage) Clone() CompressedPage {
	l.Layered.Inks = slices.Clone(l.Layered.Inks)
	return l
}

// TakeInk takes the ink, written, of the same page that was written in the same way,
// with another background.
func (l *CompressedPage) TakeInk(from CompressedPage) {
	l.Shared, l.sharing = from.Shared, from.sharing
	for i, ink := range from.Layered.Inks {
		l.Layered.Inks[i].Data, l.Layered.Inks[i].mask = ink.Data, nil
	}
}

// Encode writes the inks of pages: together, when what they share makes them smaller,
// or each on its own. Until then they are only known. What is nil is left out. An error
// says that what was written is not the same when it is read again.
func Encode(compressedPages []*CompressedPage) error {
	masks, written := encode(compressedPages)
	return sameAgain(written, masks)
}

// encode writes the inks of pages and gives them, as they were and as they are written.
func encode(compressedPages []*CompressedPage) ([]*bilevel.Bitmap, jbig2.Pages) {
	var inks []*ForegroundMask
	var masks []*bilevel.Bitmap
	var pages []*CompressedPage
	for _, compressed := range compressedPages {
		if compressed == nil || len(compressed.Layered.Inks) == 0 {
			continue
		}
		pages = append(pages, compressed)
		for i := range compressed.Layered.Inks {
			ink := &compressed.Layered.Inks[i]
			inks, masks = append(inks, ink), append(masks, ink.mask)
		}
	}
	written := jbig2.Encode(masks)
	for i, ink := range inks {
		ink.Data, ink.mask = written.Pages[i], nil
	}
	for _, page := range pages {
		page.Shared, page.sharing = written.Shared, len(pages)
	}
	return masks, written
}

// sameAgain decodes what was written and compares it, bit for bit.
func sameAgain(written jbig2.Pages, masks []*bilevel.Bitmap) error {
	for i, mask := range masks {
		again, err := jbig2.Decode(written.Shared, written.Pages[i])
		if err != nil {
			return fmt.Errorf("read ink again: %w", err)
		}
		if !bytes.Equal(again.Bits, mask.Bits) {
			return errors.New("ink that was written is not what was to be written")
		}
	}
	return nil
}

// drawGray gives the page as a reader shows it, in grey, from the bytes that are written and the ink that is not
// written yet, with so many pixels.
func (l CompressedPage) drawGray(size image.Point) (*image.Gray, error) {
	switch l.Encoding {
	case Resized:
		img, err := l.JPEG.decode()
		if err != nil {
			return nil, err
		}
		return grayOf(img, size), nil
	case OneBit:
		return whereClear(l.Layered.Inks[0].mask, size), nil
	}
	return l.Layered.drawGray(size)
}
