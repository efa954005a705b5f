package render

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io/fs"
	"math"
	"os"
	"path/filepath"
	"slices"
	"time"

	"golang.org/x/sync/semaphore"
	"golang.org/x/sync/singleflight"

	"dorbin/core/geometry"
	"dorbin/core/raster"
)

// Page is what a picture is made of.
type Page struct {
	File   string // SHA-256 of the source's working bytes
	Path   string // where they are
	IsPDF  bool
	Number int // counted from 1
	Size   geometry.Size
	Turn   int // degrees clockwise
}

// DecodeImage gives the upright pixels of a page of an image file, at most
// maxEdge pixels long.
type DecodeImage func(path string, page, maxEdge int) (image.Image, error)

// Pictures makes pictures of pages and keeps them on disk.
type Pictures struct {
	engine  *Engine
	folder  string
	decode  DecodeImage
	pixels  *semaphore.Weighted // megapixels being decoded
	flights singleflight.Group
}

// Widths are the widths, in pixels, that pictures come in. Asking for another
// gives the next larger one, so that the cache holds few of each page.
var Widths = []int{120, 240, 480, 960, 1600, 2400}

const (
	megapixelsInFlight = 260
	proxyEdge          = 1600 // of the copy that smaller pictures of an image are made from
	longestEdge        = 6000 // of any picture
	pictureQuality     = 88
	cacheBytes         = 2 << 30
)

// NewPictures keeps its pictures in folder.
func NewPictures(engine *Engine, folder string, decode DecodeImage) (*Pictures, error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, fmt.Errorf("make the picture cache: %w", err)
	}
	p := &Pictures{engine: engine, folder: folder, decode: decode, pixels: semaphore.NewWeighted(megapixelsInFlight)}
	return p, p.trim(cacheBytes)
}

// Picture returns the path of a JPEG of the page as it stands, at least width
// pixels wide where Widths allows it.
func (p *Pictures) Picture(ctx context.Context, page Page, width int) (string, error) {
	width = nextWidth(width)
	name := fmt.Sprintf("%s-%d-%d-%d.jpg", page.File, page.Number, geometry.NormalTurn(page.Turn), width)
	return p.cached(ctx, name, func(ctx context.Context) (image.Image, error) {
		stands := page.Size.Turned(page.Turn)
		height := float64(width) * stands.Height / stands.Width
		scale := math.Min(1, longestEdge/math.Max(height, float64(width)))
		target := geometry.Size{Width: float64(width) * scale, Height: height * scale}.Turned(-page.Turn)
		w, h := max(1, int(math.Round(target.Width))), max(1, int(math.Round(target.Height)))
		upright, err := p.upright(ctx, page, w, h)
		if err != nil {
			return nil, err
		}
		return raster.Turn(upright, geometry.NormalTurn(page.Turn)), nil
	})
}

func (p *Pictures) upright(ctx context.Context, page Page, width, height int) (image.Image, error) {
	if page.IsPDF {
		return p.engine.drawPDF(ctx, page.Path, page.Number, width, height)
	}
	if max(width, height) > proxyEdge {
		img, err := p.pixelsOf(ctx, page, max(width, height))
		if err != nil {
			return nil, err
		}
		return img, nil
	}
	path, err := p.cached(ctx, fmt.Sprintf("%s-%d-proxy.jpg", page.File, page.Number), func(ctx context.Context) (image.Image, error) {
		return p.pixelsOf(ctx, page, proxyEdge)
	})
	if err != nil {
		return nil, err
	}
	proxy, err := readPicture(path)
	if err != nil {
		return nil, err
	}
	return raster.Resize(proxy, width, height), nil
}

// pixelsOf decodes an image page, holding back while too many pixels are being
// decoded already.
func (p *Pictures) pixelsOf(ctx context.Context, page Page, maxEdge int) (image.Image, error) {
	const share = megapixelsInFlight / 2
	if err := p.pixels.Acquire(ctx, share); err != nil {
		return nil, err
	}
	defer p.pixels.Release(share)
	return p.decode(page.Path, page.Number, maxEdge)
}

// cached returns the path of a cached picture, making it first when it is not
// there. Callers that ask for the same picture at once share the work.
func (p *Pictures) cached(ctx context.Context, name string, draw func(context.Context) (image.Image, error)) (string, error) {
	path := filepath.Join(p.folder, name[:2], name)
	for {
		if _, err := os.Stat(path); err == nil {
			return path, nil
		}
		if err := ctx.Err(); err != nil {
			return "", err
		}
		_, err, shared := p.flights.Do(name, func() (any, error) {
			img, err := draw(ctx)
			if err != nil {
				return nil, err
			}
			return nil, writePicture(path, img)
		})
		// Who joined somebody else's work, which was then cancelled, tries again.
		if shared && errors.Is(err, context.Canceled) && ctx.Err() == nil {
			continue
		}
		return path, err
	}
}

func nextWidth(width int) int {
	i, _ := slices.BinarySearch(Widths, width)
	return Widths[min(i, len(Widths)-1)]
}

func writePicture(path string, img image.Image) error {
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return fmt.Errorf("make the picture cache: %w", err)
	}
	file, err := os.CreateTemp(filepath.Dir(path), "new-*")
	if err != nil {
		return fmt.Errorf("cache picture: %w", err)
	}
	defer os.Remove(file.Name()) //nolint:errcheck // gone already once it is renamed
	out := bufio.NewWriter(file)
	err = errors.Join(jpeg.Encode(out, img, &jpeg.Options{Quality: pictureQuality}), out.Flush(), file.Close())
	if err == nil {
		err = os.Rename(file.Name(), path)
	}
	if err != nil {
		return fmt.Errorf("cache picture: %w", err)
	}
	return nil
}

func readPicture(path string) (image.Image, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("read picture: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	img, err := jpeg.Decode(bufio.NewReader(file))
	if err != nil {
		return nil, fmt.Errorf("read picture: %w", err)
	}
	return img, nil
}

// trim deletes the oldest pictures until at most limit bytes are left.
func (p *Pictures) trim(limit int64) error {
	type cachedFile struct {
		path  string
		bytes int64
		made  time.Time
	}
	var files []cachedFile
	var total int64
	err := filepath.WalkDir(p.folder, func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() {
			return err
		}
		info, err := entry.Info()
		if err != nil {
			return err
		}
		files = append(files, cachedFile{path, info.Size(), info.ModTime()})
		total += info.Size()
		return nil
	})
	if err != nil {
		return fmt.Errorf("look through the picture cache: %w", err)
	}
	slices.SortFunc(files, func(a, b cachedFile) int { return a.made.Compare(b.made) })
	for _, file := range files {
		if total <= limit {
			break
		}
		if err := os.Remove(file.path); err != nil {
			return fmt.Errorf("trim the picture cache: %w", err)
		}
		total -= file.bytes
	}
	return nil
}
