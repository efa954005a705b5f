package assembly

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/jpeg"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/pdf"
	"dorbin/internal/hostile"
	"dorbin/internal/worker/workertest"
)

func TestMain(m *testing.M) { os.Exit(workertest.Main(m, workertest.Serve(HandleTasks))) }

func photo(t *testing.T, shade uint8) []byte {
	t.Helper()
	img := image.NewGray(image.Rect(0, 0, 40, 60))
	for i := range img.Pix {
		img.Pix[i] = shade
	}
	img.SetGray(3, 3, color.Gray{})
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, img, nil))
	return out.Bytes()
}

func save(t *testing.T, name string, data []byte) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, data, 0o600))
	return path
}

func at(position int) pdf.Placement {
	return pdf.Placement{Position: position, Framing: geometry.Framing{Flat: geometry.A4}}
}

// TestADocumentOfEverything is written of a blank page, an image file, an encoded image, layers
// that share data, and a PDF one of whose images is written otherwise.
func TestADocumentOfEverything(t *testing.T) {
	b, err := New(workertest.NewPool(t), 5)
	require.NoError(t, err)
	encoded := func(shade uint8) pdf.Image {
		data := photo(t, shade)
		return pdf.Image{Width: 40, Height: 60, BitsPerComponent: 8, Colour: pdf.Gray, Filter: pdf.DCT, Data: bytes.NewReader(data)}
	}
	b.AddBlank(0, geometry.A4)
	b.AddFile(save(t, "photo.jpg", photo(t, 200)), 0, []pdf.Placement{at(1), at(2)})
	require.NoError(t, b.AddPicture(pdf.Replacement{Image: encoded(100)}, at(3)))
	require.NoError(t, b.AddDocument(save(t, "form.pdf", hostile.Unseen()), []pdf.Placement{{Position: 4}}, nil, true))
	path := save(t, "out.pdf", nil)
	pages := 0
	written, err := b.Write(t.Context(), pdf.Properties{Title: "All", Bookmarks: []pdf.Bookmark{{Title: "All", Count: 5}}}, path, func(n int) { pages = n })
	require.NoError(t, err)
	require.NoError(t, b.Close())
	assert.LessOrEqual(t, pages, 5)
	assert.Positive(t, written.LeftOut[pdf.Scripts])
	info, err := exec.Command("pdfinfo", path).Output()
	require.NoError(t, err)
	assert.Contains(t, string(info), "Pages:           5\n")
	list, err := exec.Command("pdfimages", "-list", path).Output()
	require.NoError(t, err)
	assert.Equal(t, 3, strings.Count(string(list), "jpeg"), string(list))
	_, err = os.Stat(b.encoded.Name())
	assert.ErrorIs(t, err, os.ErrNotExist, "nothing is left in the scratch folder")
}

// TestImagesOfADocumentAreReplaced has an image of a PDF written otherwise, by the number of its
// object.
func TestImagesOfADocumentAreReplaced(t *testing.T) {
	b, err := New(workertest.NewPool(t), 1)
	require.NoError(t, err)
	defer b.Close() //nolint:errcheck // a scratch file
	data := photo(t, 50)
	instead := map[int]pdf.Replacement{5: {Image: pdf.Image{
		Width: 40, Height: 60, BitsPerComponent: 8, Colour: pdf.Gray, Filter: pdf.DCT, Data: bytes.NewReader(data), Length: int64(len(data)),
	}}}
	source := save(t, "scan.pdf", hostile.Named("picture that cannot be decoded.pdf"))
	require.NoError(t, b.AddDocument(source, []pdf.Placement{{}}, instead, true))
	path := save(t, "out.pdf", nil)
	_, err = b.Write(t.Context(), pdf.Properties{}, path, func(int) {})
	require.NoError(t, err)
	written, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.True(t, bytes.Contains(written, data))
}

// TestAFailureNamesItsStep has steps of which one cannot be done.
func TestAFailureNamesItsStep(t *testing.T) {
	for name, path := range map[string]string{
		"damaged": save(t, "x.pdf", []byte("%PDF-1.4 nothing")), "missing": filepath.Join(t.TempDir(), "none.pdf"),
	} {
		t.Run(name, func(t *testing.T) {
			b, err := New(workertest.NewPool(t), 3)
			require.NoError(t, err)
			defer b.Close() //nolint:errcheck // a scratch file
			b.AddBlank(0, geometry.A4)
			b.AddFile(save(t, "photo.jpg", photo(t, 200)), 0, []pdf.Placement{at(1)})
			require.NoError(t, b.AddDocument(path, []pdf.Placement{{Position: 2}}, nil, true))
			_, err = b.Write(t.Context(), pdf.Properties{}, save(t, "out.pdf", nil), func(int) {})
			var failed *StepError
			require.ErrorAs(t, err, &failed)
			assert.Equal(t, 2, failed.Step)
		})
	}
}

func TestWritingIsCancelled(t *testing.T) {
	b, err := New(workertest.NewPool(t), 1)
	require.NoError(t, err)
	defer b.Close() //nolint:errcheck // a scratch file
	b.AddBlank(0, geometry.A4)
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = b.Write(ctx, pdf.Properties{}, save(t, "out.pdf", nil), func(int) {})
	assert.ErrorIs(t, err, context.Canceled)
}
