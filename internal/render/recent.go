package render

import (
	"context"
	"fmt"
	"image"
	"math"
	"sync"
	"time"

	"dorbin/core/geometry"
)

// recent remembers for a moment the source's page that was decoded last: a long page is shown in many pieces, which
// are all cut out of it. What it gives is not to be changed.
type recent struct {
	mutex  sync.Mutex
	key    string
	image  image.Image
	forget *time.Timer
}

const (
	recentFor  = 5 * time.Second
	mostRecent = 24_000_000 // pixels
	edgeStep   = 256        // pixels, by which edges differ, so that pieces of one page ask for the same
)

func (r *recent) get(key string) (img image.Image, ok bool) {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	return r.image, r.image != nil && r.key == key
}

func (r *recent) put(key string, img image.Image) {
	if size := img.Bounds().Size(); size.X*size.Y > mostRecent {
		return
	}
	r.mutex.Lock()
	defer r.mutex.Unlock()
	if r.forget != nil {
		r.forget.Stop()
	}
	r.key, r.image = key, img
	r.forget = time.AfterFunc(recentFor, func() {
		r.mutex.Lock()
		defer r.mutex.Unlock()
		if r.key == key {
			r.image = nil
		}
	})
}

// toCut gives the source's page to cut a piece out of, with its longer edge of at least so many pixels as far as
// there are as many. Who asks for the same at once shares the work. The image is not to be changed.
func (p *Pictures) toCut(ctx context.Context, page Page, edge float64) (image.Image, error) {
	maxEdge := min(mostEdge(page.Size), edgeStep*int(math.Ceil(edge/edgeStep)))
	key := fmt.Sprintf("%s %d %d %v", page.Path, page.Number, maxEdge, page.Adjustments.Annotations)
	return p.once(ctx, "to cut "+key, func() (image.Image, error) {
		if img, ok := p.recent.get(key); ok {
			return img, nil
		}
		img, err := p.Upright(ctx, page, maxEdge)
		if err == nil {
			p.recent.put(key, img)
		}
		return img, err
	})
}

// mostEdge is the longer edge, in pixels, that a picture of the whole source page has at most: that of a long page is
// longer, with no more pixels than a page of longestEdge that is half as wide as high.
func mostEdge(size geometry.Size) int {
	ratio := max(size.Width, size.Height) / min(size.Width, size.Height)
	return int(longestEdge * math.Sqrt(math.Max(1, ratio/2)))
}

// DrawnDPI is at how many dots an inch a page of a PDF of such a size is drawn that is to have so many: a large page has
// fewer.
func DrawnDPI(size geometry.Size, dpi float64) float64 {
	return min(dpi, float64(mostEdge(size))/max(size.Width, size.Height)*geometry.PointsPerInch)
}
