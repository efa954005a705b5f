package pdf

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/pdf/pdftest"
)

const flateWidth, flateHeight = 160, 120

// slopes are samples of a picture that change slowly from row to row and from pixel to pixel.
func slopes(rowBytes, channels int) []byte {
	samples := make([]byte, rowBytes*flateHeight)
	for i := range samples {
		x, y := i%rowBytes/channels, i/rowBytes
		samples[i] = byte((x*x/20 + y*y/9 + x*y/7 + i%channels*40) / 4) //nolint:gosec // a level
	}
	return samples
}

// unfilteredRows puts before each row that it has no filter.
func unfilteredRows(samples []byte, rowBytes int) (rows []byte) {
	for len(samples) > 0 {
		rows = append(append(rows, 0), samples[:rowBytes]...)
		samples = samples[rowBytes:]
	}
	return rows
}

// flatePicture is a PDF of a page with a picture.
func flatePicture(entries, data string) []byte {
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
		"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 300] /Resources << /XObject << /I 4 0 R >> >> /Contents 5 0 R >>",
		pdftest.Stream(fmt.Sprintf("/Type /XObject /Subtype /Image /Width %d /Height %d /Filter [/FlateDecode] %s", flateWidth, flateHeight, entries), data),
		pdftest.Stream("", "400 0 0 300 0 0 cm /I Do"),
		pdftest.Stream("/N 3", "no profile"),
	)
}

// picturesByPoppler are the pictures of a PDF as pdfimages writes them.
func picturesByPoppler(t *testing.T, data []byte) (all []string) {
	t.Helper()
	folder := t.TempDir()
	tool(t, data, "pdfimages", "FILE", filepath.Join(folder, "picture"))
	names, err := filepath.Glob(filepath.Join(folder, "picture*"))
	require.NoError(t, err)
	require.NotEmpty(t, names)
	for _, name := range names {
		picture, err := os.ReadFile(name) //nolint:gosec // in the test's folder
		require.NoError(t, err)
		all = append(all, string(picture))
	}
	return all
}

func TestFlatePicturesAreRepackedWithEverySampleTheSame(t *testing.T) {
	gray, rgb, cmyk := slopes(flateWidth, 1), slopes(3*flateWidth, 3), slopes(4*flateWidth, 4)
	bits := slopes(flateWidth/8, 1)
	for name, c := range map[string]struct {
		entries, data string
		isLeft        bool
	}{
		"RGB":                 {"/BitsPerComponent 8 /ColorSpace /DeviceRGB", pdftest.Deflated(rgb), false},
		"grey, inverted":      {"/BitsPerComponent 8 /ColorSpace /DeviceGray /Decode [1 0]", pdftest.Deflated(gray), false},
		"a profile":           {"/BitsPerComponent 8 /ColorSpace [/ICCBased 6 0 R]", pdftest.Deflated(rgb), false},
		"CMYK":                {"/BitsPerComponent 8 /ColorSpace /DeviceCMYK", pdftest.Deflated(cmyk), false},
		"a palette":           {"/BitsPerComponent 8 /ColorSpace [/Indexed /DeviceRGB 3 <000000FF000000FF000000FF>]", pdftest.Deflated(gray), false},
		"rows without filter": {"/BitsPerComponent 8 /ColorSpace /DeviceRGB /DecodeParms [<< /Predictor 12 /Colors 3 /Columns 160 >>]", pdftest.Deflated(unfilteredRows(rgb, 3*flateWidth)), false},
		"another predictor":   {"/BitsPerComponent 8 /ColorSpace /DeviceGray /DecodeParms [<< /Predictor 2 /Columns 160 >>]", pdftest.Deflated(gray), true},
		"an unknown colour":   {"/BitsPerComponent 8 /ColorSpace [/Separation /Spot /DeviceGray << /FunctionType 2 /Domain [0 1] /N 1 >>]", pdftest.Deflated(gray), true},
		"a small mask":        {"/ImageMask true /BitsPerComponent 1", pdftest.Deflated(append(bits, 0)), true},
	} {
		t.Run(name, func(t *testing.T) {
			file := flatePicture(c.entries, c.data)
			asItIs := assembled(t, nil, use{file, []int{0}})
			var out bytes.Buffer
			a := NewAssembler(&out, 1)
			a.Repack = true
			require.NoError(t, a.AddDocument(parse(t, file), []Placement{{}}, nil))
			saved := a.Saved()[0]
			require.NoError(t, a.Finish(Properties{Title: "Test"}))
			tool(t, out.Bytes(), "qpdf", "--check", "FILE")
			assert.Equal(t, picturesByPoppler(t, asItIs), picturesByPoppler(t, out.Bytes()))
			if c.isLeft {
				assert.Zero(t, saved)
				return
			}
			assert.Positive(t, saved)
			assert.Less(t, out.Len(), len(asItIs))
		})
	}
}
