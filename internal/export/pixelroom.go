package export

import (
	"context"
	"fmt"
	"image"

	"golang.org/x/sync/semaphore"
)

// mostPixelBytes is how many bytes of pixels are computed on at the same time: two colour scans of
// A4 at 300 dpi fit, a larger page is alone. The computing itself takes about three times as much.
const mostPixelBytes = 80 << 20

// pixelRoom bounds the memory that computing on the pixels of pages takes. It is safe for
// concurrent use.
type pixelRoom struct{ free *semaphore.Weighted }

func newPixelRoom() pixelRoom { return pixelRoom{semaphore.NewWeighted(mostPixelBytes)} }

// take waits until the pixels of pictures fit, and takes their room until release is called.
// Whoever has taken room must not take more.
func (r pixelRoom) take(ctx context.Context, pictures ...image.Image) (release func(), err error) {
	bytes := int64(0)
	for _, picture := range pictures {
		bytes += pixelBytes(picture)
	}
	bytes = min(bytes, mostPixelBytes)
	if err := r.free.Acquire(ctx, bytes); err != nil {
		return nil, fmt.Errorf("wait for room for the pixels of a page: %w", err)
	}
	return func() { r.free.Release(bytes) }, nil
}

// pixelBytes is how many bytes the pixels of a picture take up; 0 for none.
func pixelBytes(picture image.Image) int64 {
	if picture == nil {
		return 0
	}
	bytes := int64(picture.Bounds().Dx()) * int64(picture.Bounds().Dy())
	if _, isGray := picture.(*image.Gray); !isGray {
		bytes *= 4
	}
	return bytes
}
