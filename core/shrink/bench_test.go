package shrink

import (
	"bytes"
	"image/jpeg"
	"testing"

	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
)

// BenchmarkMeasure tries all encodings on a letter in colour and on one in grey, as they
// come from a scanner.
func BenchmarkMeasure(b *testing.B) {
	page := letter(b, 1, true)
	for name, dpi := range map[string]float64{"200dpi": 200, "300dpi": 300} {
		img := raster.Resize(page, int(float64(page.Rect.Dx())*dpi/testDPI), int(float64(page.Rect.Dy())*dpi/testDPI))
		var scan bytes.Buffer
		require.NoError(b, jpeg.Encode(&scan, img, &jpeg.Options{Quality: 85}))
		decoded, err := jpeg.Decode(bytes.NewReader(scan.Bytes()))
		require.NoError(b, err)
		few, written, err := Measure(decoded, dpi, int64(scan.Len()), LosslessOnly)
		require.NoError(b, err)
		require.Len(b, written, 1)
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				_, _, err := Measure(decoded, dpi, int64(scan.Len()), Fully)
				require.NoError(b, err)
			}
		})
		b.Run(name+" after few encodings", func(b *testing.B) {
			for b.Loop() {
				_, _, err := MeasureFurther(decoded, dpi, int64(scan.Len()), few, written[0])
				require.NoError(b, err)
			}
		})
	}
}
