package render

import (
	"bufio"
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/draw"
	stdjpeg "image/jpeg"
	"io/fs"
	"math"
	"os"
	"path/filepath"
	"slices"
	"time"

	"golang.org/x/sync/semaphore"
	"golang.org/x/sync/singleflight"

	"dorbin/core/geometry"
	"dorbin/core/jpeg"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/worker"
)

// Page is what a picture is made of.
type Page struct {
	File        string // SHA-256 of the stored file that it is of, or was made of
	Made        string // tells what was made of the file from the file itself; empty is the file
	Path        string // where its bytes are
	IsPDF       bool
	IsJPEG      bool
	Number      int // counted from 1
	Size        geometry.Size
	Adjustments packet.Adjustments
	Turn        int // degrees clockwise
}

// framing is how the page comes to stand as it does.
func (p Page) framing() geometry.Framing { return p.Adjustments.Framing(p.Size, p.Turn) }

// name tells the page's pictures of one width from all others.
func (p Page) name(width int) string {
	name := fmt.Sprintf("%s%d-%d-%d", p.Made, p.Number, geometry.NormalTurn(p.Turn), width)
	if p.Adjustments != (packet.Adjustments{}) {
		sum := sha256.Sum256(fmt.Appendf(nil, "%+v", p.Adjustments))
		name += fmt.Sprintf("-%x", sum[:10])
	}
	return name + ".jpg"
}

// DecodeImage gives the upright pixels of a page of an image file, at most
// maxEdge pixels long.
type DecodeImage func(ctx context.Context, path string, page, maxEdge int) (image.Image, error)

// Files tells where stored files are, and where to keep what can be made again of them.
type Files interface {
	FilePath(sum string) string
	// DerivedFolder is deleted with the file.
	DerivedFolder(sum string) string
	// CacheFolder is for what is of no file.
	CacheFolder() string
}

// Pictures makes pictures of pages and keeps them on disk.
type Pictures struct {
	engine     *Engine
	files      Files
	decode     DecodeImage
	foreground func() (end func())
	pixels     *semaphore.Weighted // megapixels being decoded
	flights    singleflight.Group
	recent     recent
}

// Widths are the widths, in pixels, that pictures come in. Asking for another
// gives the next larger one, so that the cache holds few of each page.
var Widths = []int{120, 240, 480, 960, 1600, 2400, 3200}

const (
	megapixelsInFlight = 260
	// ProxyEdge is the longer edge, in pixels, of the copy that smaller pictures of
	// an image are made from; it is large enough to find things in it.
	ProxyEdge      = 1600
	longestEdge    = 6000 // of any picture
	pictureQuality = 88
	cacheBytes     = 2 << 30
)

// NewPictures keeps its pictures beside the files they are of. It calls foreground while
// somebody waits for a picture.
func NewPictures(engine *Engine, files Files, decode DecodeImage, foreground func() (end func())) (*Pictures, error) {
	p := &Pictures{
		engine: engine, files: files, decode: decode, foreground: foreground, pixels: semaphore.NewWeighted(megapixelsInFlight),
	}
	return p, trim(files.CacheFolder(), cacheBytes)
}

// Picture returns the path of a JPEG of the page as it stands, at least width
// pixels wide where Widths allows it.
func (p *Pictures) Picture(ctx context.Context, page Page, width int) (string, error) {
	defer p.foreground()()
	return p.picture(ctx, page, nextWidth(width))
}

func (p *Pictures) picture(ctx context.Context, page Page, width int) (string, error) {
	return p.cached(ctx, page.File, page.name(width), func(ctx context.Context) (image.Image, error) {
		stands := page.framing().Size()
		height := float64(width) * stands.Height / stands.Width
		scale := math.Min(1, longestEdge/math.Max(height, float64(width)))
		target := geometry.Size{Width: float64(width) * scale, Height: height * scale}.Turned(-page.Turn)
		w, h := max(1, int(math.Round(target.Width))), max(1, int(math.Round(target.Height)))
		sheet, err := p.sheet(ctx, page, w, h)
		if err != nil {
			return nil, err
		}
		if page.Adjustments.Mirror {
			sheet = raster.Orient(sheet, raster.Mirrored)
		}
		return raster.Turn(sheet, geometry.NormalTurn(page.Turn)), nil
	})
}

// Image gives the pixels of Picture, for the program's own use.
func (p *Pictures) Image(ctx context.Context, page Page, width int) (image.Image, error) {
	path, err := p.picture(ctx, page, nextWidth(width))
	if err != nil {
		return nil, err
	}
	return readPicture(path, math.MaxInt)
}

// Pixels gives all the pixels of what is seen of a page, before its mirror and turn:
// of an image page those that are in the file, of a PDF page those at this
// resolution.
func (p *Pictures) Pixels(ctx context.Context, page Page, dpi float64) (image.Image, error) {
	edge := math.MaxInt
	if page.IsPDF {
		edge = int(page.edge()*DrawnDPI(page.Size, dpi)/geometry.PointsPerInch + 0.5)
	}
	img, err := p.Upright(ctx, page, edge)
	if err != nil {
		return nil, err
	}
	img, outline := page.cleaned(img)
	f := page.framing().Cut()
	return page.Adjustments.Tone.Apply(page.painted(seenPixels(img, f, outline), f)), nil
}

// cleaned wipes off a picture of the source's page what the adjustments wipe off, and gives
// the outline that the paper has in it afterwards: a paper is laid flat first.
func (p Page) cleaned(img image.Image) (image.Image, geometry.PaperQuad) {
	outline, flat := p.Adjustments.Paper, p.framing().Flat
	if p.Adjustments.Clean.IsZero() {
		return img, outline
	}
	if !outline.IsZero() {
		size := img.Bounds().Size()
		width, height := raster.FlatPixels(outline, size.X, size.Y, flat.Width/flat.Height)
		img = raster.Flatten(img, outline, width, height)
	}
	return p.Adjustments.Clean.Apply(img, flat), geometry.PaperQuad{}
}

// painted paints what the adjustments paint over in a picture of what the framing leaves to be
// seen of the page, before mirror and turn.
func (p Page) painted(img image.Image, f geometry.Framing) image.Image {
	f.Mirror, f.Turn = false, 0
	size, pixels := f.Size(), img.Bounds().Size()
	m := f.Transform().Then(geometry.Scaling(float64(pixels.X)/size.Width, float64(pixels.Y)/size.Height))
	for _, patch := range p.Adjustments.Patches.List() {
		corners := patch.Corners(f.Flat)
		for i, c := range corners {
			corners[i].X, corners[i].Y = m.Apply(c.X, c.Y)
		}
		img = raster.PaintOver(img, corners)
	}
	return img
}

// seenPixels gives what a framing keeps of a page, before its mirror and turn, with
// as many pixels as the page has there.
func seenPixels(img image.Image, f geometry.Framing, o geometry.PaperQuad) image.Image {
	size := img.Bounds().Size()
	width, height := size.X, size.Y
	if !o.IsZero() {
		width, height = raster.FlatPixels(o, size.X, size.Y, f.Flat.Width/f.Flat.Height)
	}
	across, down := float64(width)/f.Flat.Width, float64(height)/f.Flat.Height
	kept := f.Kept()
	x0, y0 := int(math.Round(kept.X0*across)), int(math.Round(kept.Y0*down))
	x1, y1 := int(math.Round(kept.X1*across)), int(math.Round(kept.Y1*down))
	if o.IsZero() && f.Straighten == 0 {
		return raster.Cut(img, image.Rect(x0, y0, x1, y1))
	}
	return raster.Warp(img, toPicture(img, f, o, across, down), max(1, x1-x0), max(1, y1-y0), raster.PaperColour(img))
}

// toPicture leads from the pixels of what a framing keeps, before mirror and turn
// and with so many pixels a point, to those of a picture of the whole source page.
func toPicture(img image.Image, f geometry.Framing, o geometry.PaperQuad, across, down float64) geometry.Projection {
	f.Mirror, f.Turn = false, 0
	if o.IsZero() {
		o = geometry.WholePicture
	}
	size := img.Bounds().Size()
	return geometry.Scaling(1/across, 1/down).Then(f.Transform().Inverse()).Projection().
		Then(o.Projection(f.Flat.Width, f.Flat.Height, float64(size.X), float64(size.Y)))
}

// Blank returns the path of a picture of an empty page of this size in points.
func (p *Pictures) Blank(ctx context.Context, size geometry.Size, width int) (string, error) {
	width = nextWidth(width)
	height := max(1, min(longestEdge, int(math.Round(float64(width)*size.Height/size.Width))))
	return p.cached(ctx, "", fmt.Sprintf("blank-%d-%d.jpg", width, height), func(context.Context) (image.Image, error) {
		sheet := image.NewGray(image.Rect(0, 0, width, height))
		draw.Draw(sheet, sheet.Rect, image.White, image.Point{}, draw.Src)
		return sheet, nil
	})
}

// sheet gives the page before its mirror and turn, in width by height pixels: what is
// seen of it, on its sheet where it has one.
func (p *Pictures) sheet(ctx context.Context, page Page, width, height int) (image.Image, error) {
	if page.Adjustments.Sheet.IsZero() {
		return p.seen(ctx, page, width, height)
	}
	size, on := page.framing().Laid()
	across, down := float64(width)/size.Width, float64(height)/size.Height
	at := image.Rect(int(math.Round(on.X0*across)), int(math.Round(on.Y0*down)), int(math.Round(on.X1*across)), int(math.Round(on.Y1*down)))
	seen, err := p.seen(ctx, page, max(1, at.Dx()), max(1, at.Dy()))
	if err != nil {
		return nil, err
	}
	return raster.OnSheet(seen, at.Min, width, height), nil
}

// seen gives what is seen of the page in its tone, before its mirror and turn, in width
// by height pixels.
func (p *Pictures) seen(ctx context.Context, page Page, width, height int) (image.Image, error) {
	f := page.framing().Cut()
	seen, err := p.framed(ctx, page, f, width, height)
	if err != nil {
		return nil, err
	}
	return page.Adjustments.Tone.Apply(page.painted(seen, f)), nil
}

// framed gives what a framing without a sheet leaves of the page, before its mirror and
// turn, in width by height pixels.
func (p *Pictures) framed(ctx context.Context, page Page, f geometry.Framing, width, height int) (image.Image, error) {
	o := page.Adjustments.Paper
	if o.IsZero() && f.Crop.IsZero() && f.Straighten == 0 {
		img, err := p.Upright(ctx, page, max(width, height))
		if err != nil {
			return nil, err
		}
		img, _ = page.cleaned(img)
		return raster.Resize(img, width, height), nil
	}
	size := f.Kept().Size()
	across, down := float64(width)/size.Width, float64(height)/size.Height
	// As many pixels of the whole source page as give what is kept its own.
	edge := math.Max(f.Flat.Width*across, f.Flat.Height*down)
	if !o.IsZero() {
		edge *= page.edge() / o.LongestSide(page.Size.Width, page.Size.Height)
	}
	img, err := p.toCut(ctx, page, edge)
	if err != nil {
		return nil, err
	}
	img, o = page.cleaned(img)
	if o.IsZero() && f.Straighten == 0 && edge <= float64(mostEdge(page.Size)) && page.Adjustments.Paper.IsZero() {
		// On whole pixels, so that print stays as sharp as it was drawn.
		img = raster.Resize(img, max(width, int(math.Round(f.Flat.Width*across))), max(height, int(math.Round(f.Flat.Height*down))))
		at := image.Pt(int(f.Crop.X0*across+0.5), int(f.Crop.Y0*down+0.5))
		room := img.Bounds().Size().Sub(image.Pt(width, height))
		at = image.Pt(max(0, min(at.X, room.X)), max(0, min(at.Y, room.Y)))
		return raster.Cut(img, image.Rectangle{Min: at, Max: at.Add(image.Pt(width, height))}), nil
	}
	return raster.Warp(img, toPicture(img, f, o, across, down), width, height, raster.PaperColour(img)), nil
}

// edge is the longer edge in points.
func (p Page) edge() float64 { return math.Max(p.Size.Width, p.Size.Height) }

// Upright gives the source's page with its longer edge of about maxEdge pixels.
func (p *Pictures) Upright(ctx context.Context, page Page, maxEdge int) (image.Image, error) {
	if page.IsPDF {
		share := float64(maxEdge) / page.edge()
		w, h := max(1, int(page.Size.Width*share+0.5)), max(1, int(page.Size.Height*share+0.5))
		img, err := p.engine.drawPDF(ctx, page.Path, page.Number, w, h, page.Adjustments.Annotations)
		return img, asDamage(ctx, err)
	}
	if maxEdge > ProxyEdge || maxEdge <= glanceEdge && p.isGlancedAt(page) {
		return p.pixelsOf(ctx, page, maxEdge)
	}
	path, err := p.cached(ctx, page.File, page.proxyName(), func(ctx context.Context) (image.Image, error) {
		return p.pixelsOf(ctx, page, ProxyEdge)
	})
	if err != nil {
		return nil, err
	}
	return readPicture(path, maxEdge)
}

// glanceEdge is the longer edge, in pixels, of pictures that a JPEG gives at an eighth or a quarter of its
// size, in less time than its proxy is made.
const glanceEdge = 500

// isGlancedAt tells whether a small picture of a page, as it came in, is decoded from the page itself.
func (p *Pictures) isGlancedAt(page Page) bool {
	if !page.IsJPEG || page.Adjustments != (packet.Adjustments{}) {
		return false
	}
	_, err := os.Stat(filepath.Join(p.folderOf(page.File), page.proxyName()))
	return err != nil
}

// proxyName is the name of the copy that smaller pictures of a page are made from.
func (p Page) proxyName() string { return fmt.Sprintf("%s%d-proxy.jpg", p.Made, p.Number) }

// pixelsOf decodes an image page, holding back while too many pixels are being
// decoded already.
func (p *Pictures) pixelsOf(ctx context.Context, page Page, maxEdge int) (image.Image, error) {
	const share = megapixelsInFlight / 2
	if err := p.pixels.Acquire(ctx, share); err != nil {
		return nil, err
	}
	defer p.pixels.Release(share)
	img, err := p.decode(ctx, page.Path, page.Number, maxEdge)
	return img, asDamage(ctx, err)
}

// asDamage has a page that cannot be drawn be told to its user, whatever the reason is.
func asDamage(ctx context.Context, err error) error {
	var told *problem.Error
	if err == nil || ctx.Err() != nil || errors.As(err, &told) || errors.Is(err, context.Canceled) {
		return err
	}
	return &problem.Error{Kind: problem.Invalid, Reason: "damaged", Sentence: problem.ThisPage(message.Of("is damaged and cannot be shown")), Cause: err}
}

// cached returns the path of a cached picture of a file, or of none, making it first when
// it is not there. Callers that ask for the same picture at once share the work.
func (p *Pictures) cached(ctx context.Context, file, name string, draw func(context.Context) (image.Image, error)) (string, error) {
	path := filepath.Join(p.folderOf(file), name)
	isThere := func() bool {
		_, err := os.Stat(path)
		return err == nil
	}
	if isThere() {
		return path, nil
	}
	_, err := p.once(ctx, path, func() (image.Image, error) {
		if isThere() {
			return nil, nil //nolint:nilnil // it is asked for its path
		}
		if err := givenUpBefore(path); err != nil {
			return nil, err
		}
		img, err := draw(ctx)
		if worker.GaveUp(err) {
			return nil, errors.Join(err, noteGivenUp(path, err), p.keepNone(file))
		}
		if err != nil {
			return nil, err
		}
		return nil, errors.Join(writePicture(path, img), p.keepNone(file))
	})
	return path, err
}

// once does work that others who ask for the same at once share. Who joined somebody else's work, which was then
// cancelled, does it again.
func (p *Pictures) once(ctx context.Context, key string, do func() (image.Image, error)) (image.Image, error) {
	for {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		result, err, isShared := p.flights.Do(key, func() (any, error) { return do() })
		if isShared && errors.Is(err, context.Canceled) && ctx.Err() == nil {
			continue
		}
		img, _ := result.(image.Image)
		return img, err
	}
}

// givenUpMark ends the names of notes about pictures that cannot be made: what ended a worker
// is not tried again each time that somebody scrolls by, nor after a restart.
const givenUpMark = ".given-up"

func noteGivenUp(path string, cause error) error {
	var told *problem.Error
	if !errors.As(cause, &told) {
		return nil
	}
	text, err := json.Marshal(told)
	if err == nil {
		err = errors.Join(os.MkdirAll(filepath.Dir(path), 0o700), os.WriteFile(path+givenUpMark, text, 0o600))
	}
	if err != nil {
		return fmt.Errorf("note that a picture cannot be made: %w", err)
	}
	return nil
}

// givenUpBefore gives the problem with which a picture was given up, if it was.
func givenUpBefore(path string) error {
	text, err := os.ReadFile(path + givenUpMark)
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	var told problem.Error
	if err == nil {
		err = json.Unmarshal(text, &told)
	}
	if err != nil {
		return fmt.Errorf("read why a picture cannot be made: %w", err)
	}
	return &told
}

func (p *Pictures) folderOf(file string) string {
	if file == "" {
		return filepath.Join(p.files.CacheFolder(), "blank")
	}
	return p.files.DerivedFolder(file)
}

// keepNone deletes the pictures of a file that was deleted while they were made. It returns
// an error that wraps fs.ErrNotExist then.
func (p *Pictures) keepNone(file string) error {
	if file == "" {
		return nil
	}
	_, err := os.Stat(p.files.FilePath(file))
	if errors.Is(err, fs.ErrNotExist) {
		err = errors.Join(err, os.RemoveAll(p.files.DerivedFolder(file)))
	}
	return err
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
	err = errors.Join(stdjpeg.Encode(out, img, &stdjpeg.Options{Quality: pictureQuality}), out.Flush(), file.Close())
	if err == nil {
		err = os.Rename(file.Name(), path)
	}
	if err != nil {
		return fmt.Errorf("cache picture: %w", err)
	}
	return nil
}

// readPicture reads a picture, at a smaller scale where that is enough for so many pixels of its longer
// edge.
func readPicture(path string, maxEdge int) (image.Image, error) {
	data, err := os.ReadFile(path) //nolint:gosec // of the cache
	if err != nil {
		return nil, fmt.Errorf("read picture: %w", err)
	}
	picture, err := jpeg.Open(data)
	if err != nil {
		return nil, fmt.Errorf("read picture: %w", err)
	}
	img, err := picture.Decode(jpeg.ScaleFor(max(picture.Width, picture.Height), maxEdge))
	if err != nil {
		return nil, fmt.Errorf("read picture: %w", err)
	}
	return img, nil
}

// trim deletes the oldest pictures in a folder until at most limit bytes are left.
func trim(folder string, limit int64) error {
	type cachedFile struct {
		path  string
		bytes int64
		made  time.Time
	}
	var files []cachedFile
	var total int64
	err := filepath.WalkDir(folder, func(path string, entry fs.DirEntry, err error) error {
		if err != nil || filepath.Ext(path) != ".jpg" || entry.IsDir() {
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
