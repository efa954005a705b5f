package intake

import (
	"errors"
	"fmt"
	"image"
	"math"
	"os"

	"dorbin/core/geometry"
	"dorbin/core/pdf"
	"dorbin/core/raster"
	"dorbin/internal/intake/tiff"
)

// Images is an opened image file.
type Images struct {
	Pages []*Picture
	file  *os.File
}

// Picture is one page of an image file. Nothing is decoded until it is asked
// for.
type Picture struct {
	Width, Height int // pixels, as stored
	Orientation   int // EXIF's 1 to 8
	Resolution    geometry.Resolution
	Bytes         int64 // encoded
	PixelBytes    int   // bytes that a pixel takes once it is decoded
	// decode decodes the picture, at a smaller size where that is simpler, but not smaller than this for
	// its longer edge.
	decode func(maxEdge int) (image.Image, error)
	embed  func(keepFile bool) (pdf.Image, error)
}

// OpenImages opens an image file of a kind that Sniff found.
func OpenImages(path string, kind Kind) (*Images, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("open image: %w", err)
	}
	open, ok := map[Kind]func(*os.File, int64) ([]*Picture, error){
		JPEG: openJPEG, PNG: openPNG, TIFF: openTIFF,
	}[kind]
	if !ok {
		return nil, errors.Join(fmt.Errorf("%s is not an image", kind), file.Close())
	}
	info, err := file.Stat()
	if err != nil {
		return nil, errors.Join(fmt.Errorf("open image: %w", err), file.Close())
	}
	pages, err := open(file, info.Size())
	if err != nil {
		return nil, errors.Join(err, file.Close())
	}
	return &Images{Pages: pages, file: file}, nil
}

// Close closes the file; what Embed gave can no longer be read.
func (i *Images) Close() error { return i.file.Close() }

// Upright is the size in pixels after the orientation.
func (p *Picture) Upright() (width, height int) {
	if p.Orientation >= 5 {
		return p.Height, p.Width
	}
	return p.Width, p.Height
}

func (p *Picture) uprightResolution() geometry.Resolution {
	if p.Orientation >= 5 {
		return geometry.Resolution{X: p.Resolution.Y, Y: p.Resolution.X}
	}
	return p.Resolution
}

// Decode gives the pixels as they are stored, without the orientation.
func (p *Picture) Decode() (img image.Image, err error) { return p.decodeFor(math.MaxInt) }

func (p *Picture) decodeFor(maxEdge int) (img image.Image, err error) {
	defer func() {
		if r := recover(); r != nil {
			err = fmt.Errorf("decode image: the decoder gave up: %v", r)
		}
	}()
	img, err = p.decode(maxEdge)
	if err != nil {
		return nil, fmt.Errorf("decode image: %w", err)
	}
	return img, nil
}

// Shrunk gives the upright picture, at most maxEdge pixels long.
func (p *Picture) Shrunk(maxEdge int) (image.Image, error) {
	img, err := p.decodeFor(maxEdge)
	if err != nil {
		return nil, err
	}
	return raster.Orient(raster.Fit(img, maxEdge), p.Orientation), nil
}

// Embed gives the encoded image for a PDF: as it is where PDF can express it,
// otherwise encoded anew without loss. What a JPEG tells besides its picture goes along only
// with keepFile.
func (p *Picture) Embed(keepFile bool) (pdf.Image, error) {
	img, err := p.embed(keepFile)
	if err != nil {
		return img, fmt.Errorf("prepare image: %w", err)
	}
	img.Orientation = p.Orientation
	return img, nil
}

func openTIFF(file *os.File, size int64) ([]*Picture, error) {
	pages, err := tiff.Open(file, size)
	if err != nil {
		return nil, err
	}
	pictures := make([]*Picture, len(pages))
	for i, page := range pages {
		pictures[i] = &Picture{
			Width: page.Width, Height: page.Height, Orientation: page.Orientation, Resolution: page.Resolution,
			Bytes: page.EncodedBytes(), PixelBytes: page.PixelBytes(),
			decode: func(int) (image.Image, error) { return page.Image() },
			embed:  func(keepFile bool) (pdf.Image, error) { return embedTIFF(page, keepFile) },
		}
	}
	return pictures, nil
}
