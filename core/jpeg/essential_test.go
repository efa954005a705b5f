package jpeg

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"io"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func drawn(t testing.TB) []byte {
	t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, 90, 60))
	for i := range img.Pix {
		img.Pix[i] = byte(i * i >> 3)
	}
	img.Set(3, 3, color.White)
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, img, nil))
	return out.Bytes()
}

func segment(marker byte, body string) []byte {
	n := len(body) + 2
	return append([]byte{0xFF, marker, byte(n >> 8), byte(n)}, body...)
}

// with puts segments behind the start of an image.
func with(data []byte, segments ...[]byte) []byte {
	return append(append(bytes.Clone(data[:2]), bytes.Join(segments, nil)...), data[2:]...)
}

var (
	jfif    = segment(app0, "JFIF\x00\x01\x02\x01\x00\x48\x00\x48\x00\x00")
	profile = segment(app2, "ICC_PROFILE\x00\x01\x01and the profile")
	adobe   = segment(app14, "Adobe\x00\x64\x00\x00\x00\x00\x01")
)

func TestWhatShowsThePictureStays(t *testing.T) {
	picture := drawn(t)
	for name, tc := range map[string]struct{ in, want []byte }{
		"nothing else":       {picture, picture},
		"colours":            {with(picture, jfif, profile, adobe), with(picture, jfif, profile, adobe)},
		"EXIF":               {with(picture, jfif, segment(0xE1, "Exif\x00\x00SECRET")), with(picture, jfif)},
		"XMP":                {with(picture, segment(0xE1, "http://ns.adobe.com/xap/1.0/\x00SECRET"), profile), with(picture, profile)},
		"caption":            {with(picture, segment(0xED, "Photoshop 3.0\x00SECRET")), picture},
		"several pictures":   {with(picture, segment(app2, "MPF\x00SECRET")), picture},
		"comment":            {with(picture, segment(0xFE, "SECRET")), picture},
		"extension":          {with(picture, segment(0xF7, "SECRET")), picture},
		"preview in JFIF":    {with(picture, segment(app0, "JFIF\x00\x01\x02\x01\x00\x48\x00\x48\x01\x01SEC")), picture},
		"preview beside":     {with(picture, segment(app0, "JFXX\x00\x10SECRET")), picture},
		"other as Adobe's":   {with(picture, segment(app14, "SECRET")), picture},
		"after the end":      {append(bytes.Clone(picture), "SECRET"...), picture},
		"between, filled":    {with(picture, []byte("SECRET\xFF\xFF\xFF")), picture},
		"a second picture":   {append(bytes.Clone(picture), picture...), picture},
		"reserved":           {with(picture, segment(0x4F, "SECRET")), picture},
		"broken off in scan": {picture[:len(picture)-40], picture[:len(picture)-40]},
		"broken off before":  {picture[:30], picture[:30]},
	} {
		t.Run(name, func(t *testing.T) {
			got, found, err := Strip(tc.in)
			require.NoError(t, err)
			assert.Equal(t, tc.want, got)
			assert.Equal(t, len(tc.in) != len(tc.want), found)
		})
	}
}

func TestExtentsAreRead(t *testing.T) {
	data := with(drawn(t), segment(0xFE, "SECRET"), profile)
	extents, err := Essential(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	read, err := io.ReadAll(Reader(bytes.NewReader(data), extents))
	require.NoError(t, err)
	assert.Equal(t, with(drawn(t), profile), read)
	assert.Equal(t, int64(len(read)), Bytes(extents))
}

func TestWhatIsNoJPEG(t *testing.T) {
	for _, data := range [][]byte{nil, {0xFF}, []byte("\x89PNG\r\n")} {
		_, _, err := Strip(data)
		assert.ErrorIs(t, err, ErrNotJPEG)
	}
}

// FuzzStrip has what a decoder reads stay the same, whatever is left out.
func FuzzStrip(f *testing.F) {
	picture := drawn(f)
	f.Add(picture)
	f.Add(with(picture, jfif, profile, adobe, segment(0xE1, "Exif\x00\x00"), segment(0xFE, "x")))
	f.Add(append(bytes.Clone(picture), 1, 2, 3))
	f.Fuzz(func(t *testing.T, data []byte) {
		stripped, _, err := Strip(data)
		if err != nil {
			return
		}
		again, found, err := Strip(stripped)
		require.NoError(t, err)
		assert.False(t, found, "stripped twice")
		assert.Equal(t, stripped, again)
		if config, err := jpeg.DecodeConfig(bytes.NewReader(data)); err != nil || config.Width*config.Height > 1<<20 {
			return
		}
		want, err := jpeg.Decode(bytes.NewReader(data))
		if err != nil {
			return
		}
		got, err := jpeg.Decode(bytes.NewReader(stripped))
		require.NoError(t, err)
		assert.Equal(t, want, got)
	})
}
