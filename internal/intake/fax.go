package intake

import (
	"bufio"
	"bytes"

	"dorbin/core/bilevel"
	"dorbin/core/pdf"
	"dorbin/internal/intake/tiff"
)

// embedBilevel uses Group 4 data as it is, and encodes any other in that way.
func embedBilevel(page *tiff.Page) (pdf.Image, error) {
	embedded := pdf.Image{
		Width: page.Width, Height: page.Height, BitsPerComponent: 1, Colour: pdf.Gray,
		Filter: pdf.CCITT, Group: -1,
	}
	data, asItIs, err := page.FaxStream()
	if err != nil {
		return embedded, err
	}
	if asItIs {
		// What fax calls white stands for black in such a TIFF.
		embedded.Inverted = page.Photometric == tiff.BlackIsZero
	} else {
		bitmap, err := page.Bitmap()
		if err != nil {
			return embedded, err
		}
		data = bilevel.EncodeG4(bitmap)
	}
	embedded.Data, embedded.Length = bytes.NewReader(data), int64(len(data))
	return embedded, nil
}

func embedJPEGBytes(stream []byte, keepFile bool) (pdf.Image, bool) {
	header, err := readJPEGHeader(bufio.NewReader(bytes.NewReader(stream)))
	if err != nil {
		return pdf.Image{}, false
	}
	img, err := header.embed(bytes.NewReader(stream), int64(len(stream)), keepFile)
	return img, err == nil
}
