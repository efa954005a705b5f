package shrink

import (
	"bytes"
	"image"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/bilevel"
	"dorbin/core/raster"
)

// packable are pages by each encoding: with inks of one colour and of fields, and without any.
func packable(t testing.TB) []CompressedPage {
	small := letter(t, 3, true).SubImage(image.Rect(0, 0, 600, 400))
	var pages []CompressedPage
	for _, encoding := range []EncodingParams{{Encoding: Layers, DPI: 100, Quality: 55}, {Encoding: OneBit}, {Encoding: Resized, DPI: 120, Quality: 70}} {
		page, err := Write(raster.ToRGBA(small), testDPI, encoding)
		require.NoError(t, err)
		pages = append(pages, page)
	}
	return pages
}

func TestAPackedPageIsTheSame(t *testing.T) {
	for _, page := range packable(t) {
		packed, err := page.Pack()
		require.NoError(t, err)
		again, err := Unpack(packed)
		require.NoError(t, err)
		assert.True(t, reflect.DeepEqual(page, again), page.Encoding)
		require.NoError(t, Encode([]*CompressedPage{&page}))
		require.NoError(t, Encode([]*CompressedPage{&again}))
		assert.True(t, reflect.DeepEqual(page, again), page.Encoding)
		if page.Encoding != Resized {
			_, err = page.Pack()
			require.Error(t, err, "its ink is written")
		}
	}
}

func TestAPackedPageThatIsDamagedIsRefused(t *testing.T) {
	packed, err := packable(t)[0].Pack()
	require.NoError(t, err)
	for _, at := range []int{0, len(packed) / 3, len(packed) / 2, len(packed) - 6} {
		damaged := bytes.Clone(packed)
		damaged[at] ^= 0x20
		_, err := Unpack(damaged)
		require.Error(t, err, at)
		_, err = Unpack(packed[:at])
		require.Error(t, err, at)
	}
}

// TestLikelyPagesAreGivenAsTheyWouldBeWritten holds that what is measured can be taken for an export.
func TestLikelyPagesAreGivenAsTheyWouldBeWritten(t *testing.T) {
	page := raster.ToRGBA(letter(t, 5, true).SubImage(image.Rect(0, 0, 900, 600)))
	m, likely, err := Measure(page, testDPI, 1<<30, Fully)
	require.NoError(t, err)
	found := map[EncodingParams]bool{}
	for _, written := range likely {
		found[written.EncodingParams] = true
		want, err := Write(page, testDPI, written.EncodingParams)
		require.NoError(t, err)
		assert.True(t, reflect.DeepEqual(want, written), written.EncodingParams)
	}
	assert.True(t, found[m.Smaller(Auto).EncodingParams])
	assert.Len(t, found, 3, "and in layers with coarser paper, and as a JPEG")

	m, likely, err = Measure(scene(4), testDPI, 1<<30, Fully)
	require.NoError(t, err)
	require.Len(t, likely, 1)
	assert.Equal(t, m.Smaller(Auto).EncodingParams, likely[0].EncodingParams)
	_, likely, err = Measure(bilevel.FromGray(raster.ToGray(page)).Gray(), testDPI, 1<<30, Fully)
	require.NoError(t, err)
	assert.Empty(t, likely, "one bit a pixel is quickly written")
}

// TestWhatIsMeasuredIsWhatIsWritten goes through all encodings of pages with one ink, and with several.
func TestWhatIsMeasuredIsWhatIsWritten(t *testing.T) {
	for _, isStamped := range []bool{false, true} {
		page := raster.ToRGBA(letter(t, 8, isStamped).SubImage(image.Rect(0, 0, 900, 600)))
		m, _, err := Measure(page, testDPI, 1<<30, Fully)
		require.NoError(t, err)
		assert.Len(t, m.Candidates, 5, "as it is, in layers twice, in one bit, and as a JPEG")
		for _, v := range m.Candidates[1:] {
			written, err := Write(page, testDPI, v.EncodingParams)
			require.NoError(t, err)
			require.NoError(t, Encode([]*CompressedPage{&written}))
			assert.Equal(t, v.Bytes, int64(written.Bytes()), v.EncodingParams)
		}
	}
}

func FuzzUnpack(f *testing.F) {
	for _, page := range packable(f) {
		packed, err := page.Pack()
		require.NoError(f, err)
		f.Add(packed)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		page, err := Unpack(data)
		if err != nil {
			return
		}
		for _, ink := range page.Layered.Inks {
			assert.Len(t, ink.mask.Bits, ink.mask.Stride*ink.mask.Height)
		}
	})
}
