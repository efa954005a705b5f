package jpeg

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rowsOf are the samples of a rectangle of a picture with so many samples in a row.
func rowsOf(pixels []byte, width, colours int, r image.Rectangle) (rows []byte) {
	for y := r.Min.Y; y < r.Max.Y; y++ {
		rows = append(rows, pixels[colours*(y*width+r.Min.X):colours*(y*width+r.Max.X)]...)
	}
	return rows
}

func TestCroppedPicturesHaveTheSamePixels(t *testing.T) {
	t.Parallel()
	const largestBlock = 8 * mostSampling
	whole := image.Rect(0, 0, 203, 251)
	for kind := range kinds {
		for _, wanted := range []image.Rectangle{
			image.Rect(0, 0, 100, 80), image.Rect(64, 32, 203, 251), image.Rect(13, 27, 190, 240), image.Rect(47, 63, 48, 64), image.Rect(-9, 90, 900, 171),
		} {
			t.Run(fmt.Sprint(kind, wanted), func(t *testing.T) {
				t.Parallel()
				data := made(t, kind, whole.Dx(), whole.Dy())
				cropped, err := Crop(data, wanted)
				require.NoError(t, err)
				wanted := wanted.Intersect(whole)
				require.Equal(t, wanted.Size(), cropped.Seen.Size())
				before, colours := libjpegs(t, data)
				after, _ := libjpegs(t, cropped.Data)
				require.Len(t, after, colours*cropped.Size.X*cropped.Size.Y)
				inBoth := func(inset int) (a, b []byte) {
					return rowsOf(before, whole.Dx(), colours, wanted.Inset(inset)), rowsOf(after, cropped.Size.X, colours, cropped.Seen.Inset(inset))
				}
				a, b := inBoth(largestBlock)
				assert.True(t, bytes.Equal(a, b), "libjpeg decodes other pixels")
				if !strings.HasPrefix(kind, "coarse") {
					a, b = inBoth(0)
					assert.Less(t, apartOnAverage(a, b), 3.0, "at the border")
				}
			})
		}
	}
}

// apartOnAverage is by how much two rows of samples differ in the mean.
func apartOnAverage(a, b []byte) float64 {
	sum := 0
	for i := range a {
		sum += max(int(a[i])-int(b[i]), int(b[i])-int(a[i]))
	}
	return float64(sum) / float64(len(a))
}

// TestWhatIsCroppedAwayIsGone compares crops of pictures that differ only in what is cropped away.
func TestWhatIsCroppedAwayIsGone(t *testing.T) {
	t.Parallel()
	wanted := image.Rect(24, 25, 161, 129)
	one := colourful(203, 151)
	other := image.NewRGBA(one.Rect)
	draw.Draw(other, other.Rect, image.NewUniform(color.RGBA{200, 30, 90, 255}), image.Point{}, draw.Src)
	// Samples of colour are means of pixels: those of the pixels beside the border are the same.
	draw.Draw(other, wanted.Inset(-1), one, wanted.Min.Sub(image.Pt(1, 1)), draw.Src)
	comment := []byte{0xFF, 0xFE, 0, 5, 'o', 'u', 'r'}
	crop := func(picture *image.RGBA) Cropped {
		data := run(t, pnm(picture), "cjpeg", "-sample", "2x2", "-quality", "100")
		cropped, err := Crop(slice(data[:2], comment, data[2:]), wanted)
		require.NoError(t, err)
		return cropped
	}
	a, b := crop(one), crop(other)
	require.Equal(t, wanted.Sub(image.Pt(16, 16)), a.Seen)
	assert.NotContains(t, string(a.Data), "our", "it may tell what was on the picture")
	pixels, colours := libjpegs(t, a.Data)
	others, _ := libjpegs(t, b.Data)
	for y := range a.Size.Y {
		for x := range a.Size.X {
			at := colours * (y*a.Size.X + x)
			require.LessOrEqual(t, apart(pixels[at:at+colours], others[at:at+colours]), 12, "at %d, %d they tell what was beside", x, y)
		}
	}
}

func TestWhatCannotBeCropped(t *testing.T) {
	t.Parallel()
	data := made(t, "4:2:0", 64, 48)
	_, err := Crop(data, image.Rect(64, 0, 80, 48))
	require.ErrorIs(t, err, ErrNothingLeft)
	_, err = Crop(data[:len(data)/2], image.Rect(0, 0, 32, 32))
	var damaged *DamagedError
	require.ErrorAs(t, err, &damaged)
	_, err = Crop([]byte("no picture"), image.Rect(0, 0, 8, 8))
	require.ErrorIs(t, err, ErrNotJPEG)
}

func TestABrokenTableStopsNothing(t *testing.T) {
	t.Parallel()
	data := made(t, "4:2:0", 60, 60)
	table := bytes.Index(data, []byte{0xFF, defineQuants}) + 5
	copy(data[table:], make([]byte, 64))
	_, err := Crop(data, image.Rect(5, 5, 50, 50))
	require.NoError(t, err)
	_, _, err = Mend(data[:len(data)*3/4])
	require.NoError(t, err)
}

func FuzzCrop(f *testing.F) {
	for kind := range kinds {
		if _, err := exec.LookPath("cjpeg"); err == nil {
			f.Add(made(f, kind, 20, 17), 3, 9, 14, 17)
		}
	}
	f.Fuzz(func(t *testing.T, data []byte, x0, y0, x1, y1 int) {
		if picture, err := Open(data); err != nil || picture.Width*picture.Height > 1<<16 {
			return
		}
		cropped, err := Crop(data, image.Rect(x0, y0, x1, y1))
		if err != nil {
			return
		}
		img, err := decoded(cropped.Data, Full)
		require.NoError(t, err)
		assert.Equal(t, cropped.Size, img.Bounds().Size())
		assert.True(t, cropped.Seen.In(img.Bounds()))
	})
}

// BenchmarkCrop cuts the border off a scan, and does the same by decoding and encoding, at the quality of the scan.
func BenchmarkCrop(b *testing.B) {
	const quality = 85
	data := paper(b, "-quality", strconv.Itoa(quality))
	wanted := image.Rect(105, 93, 2400, 3400)
	b.Run("blocks", func(b *testing.B) {
		var cropped Cropped
		for b.Loop() {
			var err error
			cropped, err = Crop(data, wanted)
			require.NoError(b, err)
		}
		b.ReportMetric(float64(len(cropped.Data))/float64(len(data)), "of-bytes")
	})
	b.Run("anew", func(b *testing.B) {
		var again []byte
		for b.Loop() {
			img, err := decoded(data, Full)
			require.NoError(b, err)
			cropped := image.NewRGBA(image.Rectangle{Max: wanted.Size()})
			draw.Draw(cropped, cropped.Rect, img, wanted.Min, draw.Src)
			again, err = Encode(cropped, quality)
			require.NoError(b, err)
		}
		b.ReportMetric(float64(len(again))/float64(len(data)), "of-bytes")
	})
}
