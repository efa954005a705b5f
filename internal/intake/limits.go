package intake

// Limits bound what is taken in. They are checked by what the headers of a file say, before
// memory is taken for what is in it.
type Limits struct {
	FileBytes  int64
	Pages      int   // per file
	Pixels     int64 // per image
	PixelBytes int64 // of an image once it is decoded
}

// DefaultLimits are generous for office papers and keep a mistake from filling
// the machine.
var DefaultLimits = Limits{FileBytes: 500 << 20, Pages: 10_000, Pixels: 200_000_000, PixelBytes: 800_000_000}

// checkPixels refuses a page that has more pixels than it may, or deeper ones than there is
// memory for. Name is what its user calls the file.
func (l Limits) checkPixels(name string, page, width, height, pixelBytes int) error {
	if height > 0 && int64(width) > l.Pixels/int64(height) { // a product may be more than fits
		return refuse(TooManyPixels, nil, "%s is too large: page %d has %d × %d pixels, and %d million is the most. Scan it with fewer dpi.",
			name, page, width, height, l.Pixels/1_000_000)
	}
	if int64(width)*int64(height)*int64(pixelBytes) > l.PixelBytes {
		return refuse(TooManyPixels, nil, "%s is too large: page %d has %d × %d pixels of %d bytes, and %d MB is the most. Save it with 8 bits for each colour, or scan it with fewer dpi.",
			name, page, width, height, pixelBytes, l.PixelBytes/1_000_000)
	}
	return nil
}
