package jpeg

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestMendedPicturesAreWhatIsLeft tears pictures of each kind, and has libjpeg read what is made of them.
func TestMendedPicturesAreWhatIsLeft(t *testing.T) {
	t.Parallel()
	const width, height = 320, 240
	for kind := range kinds {
		data := made(t, kind, width, height)
		for _, share := range []float64{0.4, 0.7, 1} {
			t.Run(fmt.Sprint(kind, " ", share), func(t *testing.T) {
				t.Parallel()
				torn := data[:int(share*float64(len(data)))]
				was, _ := decoded(torn, Full)
				require.NotNil(t, was)
				whole, there, err := Mend(torn)
				require.NoError(t, err)

				libjpegs, colours := libjpegs(t, whole)
				img, err := decoded(whole, Full)
				require.NoError(t, err)
				pixels := pixelsOf(img, colours)
				assert.LessOrEqual(t, apart(pixels, libjpegs), 1, "libjpeg reads other pixels")
				rows := int(there*height + 0.5)
				assert.True(t, bytes.Equal(pixelsOf(was, colours)[:rows*width*colours], pixels[:rows*width*colours]), "the upper %d rows are others", rows)
				for _, level := range pixels[rows*width*colours:] {
					require.Greater(t, level, uint8(250), "below %d rows it is white", rows)
				}
				if !strings.Contains(kind, "progressive") {
					assert.Positive(t, there)
					assert.Less(t, there, share+0.25) // headers and tables take bytes too
				}
			})
		}
	}
}

// TestMendedInksAreWhite is about pictures of four inks, of which there are three kinds.
func TestMendedInksAreWhite(t *testing.T) {
	t.Parallel()
	root := strings.TrimSpace(string(run(t, nil, "go", "env", "GOROOT")))
	inverted, err := os.ReadFile(filepath.Join(root, "src/image/testdata/video-001.cmyk.jpeg")) //nolint:gosec // of Go
	require.NoError(t, err)
	for name, data := range map[string][]byte{
		"inverted inks":                     inverted,
		"luminance and chrominance of inks": bytes.Replace(inverted, []byte("Adobe\x00\x64\x00\x00\x00\x00\x00"), []byte("Adobe\x00\x64\x00\x00\x00\x00\x02"), 1),
		"inks":                              bytes.Replace(inverted, []byte("Adobe"), []byte("Other"), 1),
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			whole, there, err := Mend(data[:len(data)*2/3])
			require.NoError(t, err)
			require.InDelta(t, 0.6, there, 0.3)
			img, err := decoded(whole, Full)
			require.NoError(t, err)
			size := img.Bounds().Size()
			white := color.GrayModel.Convert(img.At(size.X-1, size.Y-1)).(color.Gray) //nolint:forcetypeassert // by the model
			assert.Greater(t, white.Y, uint8(250))
		})
	}
}

func TestWhatCannotBeMended(t *testing.T) {
	t.Parallel()
	data := made(t, "4:2:0", 100, 100)
	_, _, err := Mend(data[:200])
	require.ErrorIs(t, err, errNoPicture)
	_, _, err = Mend([]byte("no picture"))
	assert.ErrorIs(t, err, ErrNotJPEG)
}

func FuzzMend(f *testing.F) {
	for kind := range kinds {
		if _, err := exec.LookPath("cjpeg"); err == nil {
			data := made(f, kind, 20, 17)
			f.Add(data[:len(data)*9/10])
		}
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		picture, err := Open(data)
		if err != nil || picture.Width*picture.Height > 1<<16 {
			return
		}
		whole, share, err := Mend(data)
		if err != nil {
			return
		}
		img, err := decoded(whole, Full)
		require.NoError(t, err)
		assert.Equal(t, image.Pt(picture.Width, picture.Height), img.Bounds().Size())
		assert.True(t, share >= 0 && share <= 1)
		assert.False(t, bytes.Equal(whole, nil))
	})
}
