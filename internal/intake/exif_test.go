package intake

import (
	"encoding/binary"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

// exifOf lays out EXIF data: entries of the first directory as tag, type and value, with
// fractions behind them, and a second directory with a focal length if it is a camera's.
func exifOf(order binary.AppendByteOrder, header string, camera bool) []byte {
	const fractions, second = 8 + 2 + 5*12 + 4, 8 + 2 + 5*12 + 4 + 16
	data := append([]byte(header), order.AppendUint32(nil, 8)...)
	data = order.AppendUint16(data, 5)
	entry := func(tag, kind uint16, value func([]byte) []byte) {
		data = order.AppendUint16(order.AppendUint16(data, tag), kind)
		data = value(order.AppendUint32(data, 1))
	}
	short := func(v uint16) func([]byte) []byte {
		return func(b []byte) []byte { return order.AppendUint16(order.AppendUint16(b, v), 0) }
	}
	long := func(v uint32) func([]byte) []byte {
		return func(b []byte) []byte { return order.AppendUint32(b, v) }
	}
	entry(tagOrientation, typeShort, short(6))
	entry(tagXResolution, typeRational, long(fractions))
	entry(tagYResolution, typeRational, long(fractions+8))
	entry(tagResolutionUnit, typeShort, short(perCentimetre))
	entry(tagExifDirectory, typeLong, long(second))
	data = order.AppendUint32(data, 8) // the next directory is this one again
	for _, n := range []uint32{200, 1, 300, 2} {
		data = order.AppendUint32(data, n)
	}
	if camera {
		data = order.AppendUint16(data, 1)
		entry(tagFocalLength, typeRational, long(fractions))
	}
	return data
}

func TestEXIFIsRead(t *testing.T) {
	for header, order := range map[string]binary.AppendByteOrder{"II*\x00": binary.LittleEndian, "MM\x00*": binary.BigEndian} {
		x, err := parseEXIF(exifOf(order, header, true))
		require.NoError(t, err)
		assert.Equal(t, exif{6, geometry.Resolution{X: 508, Y: 381}, true}, x)
		x, err = parseEXIF(exifOf(order, header, false))
		require.NoError(t, err)
		assert.False(t, x.isCamera)
	}
	_, err := parseEXIF([]byte("nothing of the kind"))
	require.ErrorIs(t, err, errNoEXIF)
}

func FuzzEXIF(f *testing.F) {
	f.Add(exifOf(binary.LittleEndian, "II*\x00", true))
	f.Add(exifOf(binary.BigEndian, "MM\x00*", false))
	f.Fuzz(func(t *testing.T, data []byte) {
		x, err := parseEXIF(data)
		if err == nil {
			assert.LessOrEqual(t, x.orientation, 8)
			assert.GreaterOrEqual(t, x.resolution.X, 0.0)
		}
	})
}
