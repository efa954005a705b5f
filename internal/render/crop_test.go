package render

import (
	"context"
	"image"
	"image/color"
	"image/draw"
	"sync"
	"sync/atomic"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/raster"
)

// quarters is a picture of 1200 by 1600 pixels in four greys.
func quarters(context.Context, string, int, int) (image.Image, error) {
	img := image.NewGray(image.Rect(0, 0, 1200, 1600))
	for i, grey := range []uint8{20, 90, 160, 230} {
		quarter := image.Rect(0, 0, 600, 800).Add(image.Pt(600*(i%2), 800*(i/2)))
		draw.Draw(img, quarter, image.NewUniform(color.Gray{grey}), image.Point{}, draw.Src)
	}
	return img, nil
}

// quartered is the page that quarters gives.
var quartered = Page{File: "0123abcd", Number: 1, Size: geometry.Size{Width: 300, Height: 400}}

// TestCroppedPicturesShowWhatIsKept crops to the middle of four quarters, at every
// width that pictures come in, turned and mirrored.
func TestCroppedPicturesShowWhatIsKept(t *testing.T) {
	pictures := newPictures(t, quarters)
	page := quartered
	crop := geometry.Box{X0: 100, Y0: 150, X1: 250, Y1: 300} // the fold is at a third each way
	for _, c := range []struct {
		name        string
		adjustments packet.Adjustments
		turn        int
		// The greys at top left, top right, bottom left and bottom right, and where
		// they meet, in parts of the picture.
		greys  [4]uint8
		across float64
		down   float64
	}{
		{"cropped", packet.Adjustments{Crop: crop}, 0, [4]uint8{20, 90, 160, 230}, 1. / 3, 1. / 3},
		{"turned right", packet.Adjustments{Crop: crop}, 90, [4]uint8{160, 20, 230, 90}, 2. / 3, 1. / 3},
		{"mirrored", packet.Adjustments{Crop: crop, Mirror: true}, 0, [4]uint8{90, 20, 230, 160}, 2. / 3, 1. / 3},
		{"straightened a little", packet.Adjustments{Crop: crop, Straighten: 0.01}, 0, [4]uint8{20, 90, 160, 230}, 1. / 3, 1. / 3},
	} {
		for _, width := range Widths {
			page.Adjustments, page.Turn = c.adjustments, c.turn
			img, err := pictures.Image(context.Background(), page, width)
			require.NoError(t, err)
			size := img.Bounds().Size()
			require.Equal(t, image.Pt(width, width), size, "%s at %d", c.name, width)
			for i, want := range c.greys {
				u := []float64{c.across / 2, (1 + c.across) / 2}[i%2]
				v := []float64{c.down / 2, (1 + c.down) / 2}[i/2]
				grey := color.GrayModel.Convert(img.At(int(u*float64(size.X)), int(v*float64(size.Y))))
				assert.InDelta(t, want, grey.(color.Gray).Y, 4, "%s at %d pixels: quarter %d", c.name, width, i) //nolint:forcetypeassert // what the model gives
			}
			// The fold is where it belongs, to a pixel.
			x, y := int(c.across*float64(size.X)), int(c.down/2*float64(size.Y))
			left, right := img.At(x-2, y), img.At(x+2, y)
			assert.NotEqual(t, color.GrayModel.Convert(left), color.GrayModel.Convert(right), "%s at %d", c.name, width)
		}
	}
}

// TestPixelsOfACropAreThoseOfThePicture exports a crop: every pixel is kept as it
// is, none outside.
func TestPixelsOfACropAreThoseOfThePicture(t *testing.T) {
	pictures := newPictures(t, quarters)
	page := Page{
		File: "0123abcd", Number: 1, Size: geometry.Size{Width: 300, Height: 400},
		Adjustments: packet.Adjustments{Crop: geometry.Box{X0: 100, Y0: 150, X1: 250, Y1: 300}},
	}
	img, err := pictures.Pixels(context.Background(), page, 300)
	require.NoError(t, err)
	require.Equal(t, image.Pt(600, 600), img.Bounds().Size())
	whole, _ := quarters(t.Context(), "", 1, 0)
	for _, at := range []image.Point{{0, 0}, {199, 199}, {200, 200}, {599, 0}, {599, 599}} {
		assert.Equal(t, whole.At(at.X+400, at.Y+600), img.At(at.X, at.Y), at)
	}
}

// TestPiecesOfALongPageAreSharpAndDecodedOnce looks for fine columns in pieces of a page that is many times as high
// as wide. In its bubble no time passes but where it sleeps, however slow the machine is.
func TestPiecesOfALongPageAreSharpAndDecodedOnce(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		const width, height, column = 200, 15_000, 2
		var decoded atomic.Int32
		pictures := newPictures(t, func(_ context.Context, _ string, _, maxEdge int) (image.Image, error) {
			decoded.Add(1)
			img := image.NewGray(image.Rect(0, 0, width, height))
			for i := range img.Pix {
				if i/column%2 == 0 {
					img.Pix[i] = 255
				}
			}
			return raster.Fit(img, maxEdge), nil
		})
		page := Page{File: "0123abcd", Number: 1, Size: geometry.Size{Width: 8, Height: 600}}
		var pieces sync.WaitGroup
		for n := range 10 {
			piece := page
			piece.Adjustments = packet.Adjustments{
				Crop:  geometry.Box{X1: 8, Y0: float64(10 * n), Y1: float64(10 * (n + 1))},
				Sheet: geometry.SheetLayout{Paper: geometry.A4, Scale: geometry.Fill},
			}
			pieces.Go(func() {
				img, err := pictures.Image(t.Context(), piece, 960)
				if !assert.NoError(t, err) {
					return
				}
				darkest, lightest := uint8(255), uint8(0)
				for x := range 900 {
					level := color.GrayModel.Convert(img.At(x, 300)).(color.Gray).Y
					darkest, lightest = min(darkest, level), max(lightest, level)
				}
				assert.Greater(t, int(lightest)-int(darkest), 150, "piece %d", n)
			})
		}
		pieces.Wait()
		after := func(top float64) int32 {
			page.Adjustments = packet.Adjustments{Crop: geometry.Box{X1: 8, Y0: top, Y1: top + 10}}
			_, err := pictures.Image(t.Context(), page, 960)
			require.NoError(t, err)
			return decoded.Load()
		}
		assert.Equal(t, int32(1), after(100), "also for who asks after the others")
		time.Sleep(recentFor)
		synctest.Wait()
		assert.Equal(t, int32(2), after(200), "the page is not remembered for long")
	})
}
