package intake

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/pdf"
	"dorbin/core/problem"
)

func TestSniff(t *testing.T) {
	for head, want := range map[string]Kind{
		"%PDF-1.7\n":                           PDF,
		strings.Repeat("x", 1000) + "%PDF-1.4": PDF,
		"\xFF\xD8\xFF\xE1....":                 JPEG,
		"\x89PNG\r\n\x1a\n....":                PNG,
		"II*\x00....":                          TIFF,
		"MM\x00*....":                          TIFF,
		"PK\x03\x04 mentions nothing":          "",
		"....ftypheic":                         HEIC,
		"RIFF....WEBPVP8 ":                     WebP,
		"GIF89a..":                             GIF,
		"BM......":                             BMP,
		"{\\rtf1\\ansi":                        Office,
		"PK\x03\x04" + strings.Repeat(".", 26) + "[Content_Types].xml": Office,
		"PK\x03\x04" + strings.Repeat(".", 26) + "photos/":             "",
		"plain text":                            "",
		"":                                      "",
		strings.Repeat("x", 3000) + "%PDF-1.4 ": "",
	} {
		kind, otherwise := Sniff([]byte(head))
		assert.Equal(t, want, kind, "%.20q", head)
		assert.Equal(t, want == "", !otherwise.IsEmpty(), "%.20q", head)
	}
	_, otherwise := Sniff([]byte("....ftypisom"))
	assert.Contains(t, otherwise.English, "film")
}

// withSegments puts segments behind a JPEG's first marker.
func withSegments(t testing.TB, segments ...[]byte) []byte {
	t.Helper()
	var plain bytes.Buffer
	require.NoError(t, jpeg.Encode(&plain, image.NewGray(image.Rect(0, 0, 20, 10)), nil))
	out := []byte{0xFF, 0xD8}
	for _, segment := range segments {
		out = append(out, 0xFF, segment[0])
		out = binary.BigEndian.AppendUint16(out, uint16(len(segment)+1))
		out = append(out, segment[1:]...)
	}
	return append(out, plain.Bytes()[2:]...)
}

// exifSegment has an orientation and a resolution, and a focal length if it
// comes from a camera.
func exifSegment(orientation uint16, dpi uint32, camera bool) []byte {
	var tiff []byte
	put16 := func(v ...uint16) {
		for _, x := range v {
			tiff = binary.LittleEndian.AppendUint16(tiff, x)
		}
	}
	put32 := func(v ...uint32) {
		for _, x := range v {
			tiff = binary.LittleEndian.AppendUint32(tiff, x)
		}
	}
	tiff = append(tiff, "II*\x00"...)
	put32(8)
	put16(4)
	put16(0x0112, 3)
	put32(1)
	put16(orientation, 0)
	put16(0x011A, 5)
	put32(1, 62)
	put16(0x011B, 5)
	put32(1, 62)
	put16(0x8769, 4)
	put32(1, 70)
	put32(0)
	put32(dpi, 1)
	entries := uint16(0)
	if camera {
		entries = 1
	}
	put16(entries)
	if camera {
		put16(0x920A, 5)
		put32(1, 88)
		put32(0, 26, 10)
	} else {
		put32(0)
	}
	return append([]byte("\xE1Exif\x00\x00"), tiff...)
}

func TestJPEGHeader(t *testing.T) {
	jfif := []byte("\xE0JFIF\x00\x01\x02\x02\x00\x76\x00\x76\x00\x00") // 118 per centimetre
	cases := map[string]struct {
		data        []byte
		orientation int
		dpi         float64
	}{
		"plain":                {withSegments(t), 1, 0},
		"JFIF per centimetre":  {withSegments(t, jfif), 1, 299.72},
		"scanner's EXIF":       {withSegments(t, exifSegment(6, 300, false)), 6, 300},
		"camera's EXIF":        {withSegments(t, jfif, exifSegment(8, 72, true)), 8, 0},
		"orientation out of 8": {withSegments(t, exifSegment(9, 300, false)), 1, 300},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			h, err := readJPEGHeader(bufio.NewReader(bytes.NewReader(c.data)))
			require.NoError(t, err)
			assert.Equal(t, [3]int{20, 10, 1}, [3]int{h.width, h.height, h.components})
			assert.Equal(t, c.orientation, h.orientation)
			assert.InDelta(t, c.dpi, h.resolution.X, 0.01)
		})
	}
}

func TestColourProfile(t *testing.T) {
	profile := make([]byte, 200)
	binary.BigEndian.PutUint32(profile, 200)
	copy(profile[16:], "GRAY")
	chunk := func(n, of byte, data []byte) []byte {
		return append([]byte("\xE2ICC_PROFILE\x00"), append([]byte{n, of}, data...)...)
	}
	read := func(segments ...[]byte) []byte {
		h, err := readJPEGHeader(bufio.NewReader(bytes.NewReader(withSegments(t, segments...))))
		require.NoError(t, err)
		return h.profile
	}
	assert.Equal(t, profile, read(chunk(2, 2, profile[150:]), chunk(1, 2, profile[:150])), "chunks in any order")
	assert.Nil(t, read(chunk(2, 2, profile[150:])), "a chunk is missing")
	copy(profile[16:], "RGB ")
	assert.Nil(t, read(chunk(1, 1, profile)), "for other colours than the picture has")
}

func TestRareJPEGsAreRefused(t *testing.T) {
	data := withSegments(t)
	at := bytes.Index(data, []byte{0xFF, 0xC0})
	lossless := bytes.Clone(data)
	lossless[at+1] = 0xC3
	_, err := readJPEGHeader(bufio.NewReader(bytes.NewReader(lossless)))
	require.ErrorContains(t, err, "rare kind")
	_, err = readJPEGHeader(bufio.NewReader(bytes.NewReader(data[:at])))
	require.ErrorIs(t, err, errNoFrame)
}

func save(t testing.TB, name string, data []byte) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, data, 0o600))
	return path
}

func embedded(t *testing.T, data []byte, kind Kind) pdf.Image {
	t.Helper()
	images, err := OpenImages(save(t, "image", data), kind)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, images.Close()) })
	img, err := images.Pages[0].Embed(false)
	require.NoError(t, err)
	return img
}

func encodePNG(t testing.TB, img image.Image) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, img))
	return out.Bytes()
}

func TestPNGDataIsUsedAsItIs(t *testing.T) {
	gray := image.NewGray16(image.Rect(0, 0, 30, 20))
	palette := image.NewPaletted(image.Rect(0, 0, 30, 20), color.Palette{color.White, color.RGBA{1, 2, 3, 255}, color.Black})
	for name, c := range map[string]struct {
		img    image.Image
		colour pdf.Colour
		bits   int
	}{"grey of 16 bits": {gray, pdf.Gray, 16}, "palette": {palette, pdf.Indexed, 2}} {
		t.Run(name, func(t *testing.T) {
			data := encodePNG(t, c.img)
			img := embedded(t, data, PNG)
			assert.Equal(t, c.colour, img.Colour)
			assert.Equal(t, c.bits, img.BitsPerComponent)
			compressed, err := io.ReadAll(img.Data)
			require.NoError(t, err)
			assert.EqualValues(t, img.Length, len(compressed))
			assert.True(t, bytes.Contains(data, compressed))
		})
	}
}

func TestSeeThroughPNGGetsAMask(t *testing.T) {
	img := image.NewNRGBA(image.Rect(0, 0, 9, 9))
	img.Set(4, 4, color.NRGBA{200, 100, 50, 128})
	e := embedded(t, encodePNG(t, img), PNG)
	require.NotNil(t, e.Alpha)
	assert.Equal(t, pdf.RGB, e.Colour)
	assert.Equal(t, pdf.Gray, e.Alpha.Colour)
}

func TestLargePicturesAreRefusedBeforeTheyAreDecoded(t *testing.T) {
	// The header claims 4 gigapixels, for which there is no data.
	huge := encodePNG(t, image.NewGray(image.Rect(0, 0, 1, 1)))
	binary.BigEndian.PutUint32(huge[16:], 65_000)
	binary.BigEndian.PutUint32(huge[20:], 65_000)
	in := inspector()
	_, err := in.Pages(t.Context(), save(t, "huge.png", huge), "huge.png", "")
	var trouble *problem.Error
	require.ErrorAs(t, err, &trouble)
	assert.Equal(t, TooManyPixels, trouble.Reason)
	assert.Contains(t, trouble.Sentence.English, "65000 × 65000")
}

func FuzzImageHeaders(f *testing.F) {
	f.Add(withSegments(f, exifSegment(6, 300, true)))
	f.Add(encodePNG(f, image.NewGray(image.Rect(0, 0, 3, 3))))
	f.Fuzz(func(t *testing.T, data []byte) {
		_, _ = Sniff(data)
		if h, err := readJPEGHeader(bufio.NewReader(bytes.NewReader(data))); err == nil {
			require.Positive(t, h.width)
			require.Positive(t, h.height)
		}
		if h, err := readPNGHeader(bytes.NewReader(data), int64(len(data))); err == nil {
			require.Positive(t, h.width)
			require.NotEmpty(t, h.data)
		}
	})
}
