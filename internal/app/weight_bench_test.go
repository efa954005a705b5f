package app_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"math"
	"runtime"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
	"dorbin/internal/app"
	"dorbin/internal/intake"
	"dorbin/internal/intake/tiff"
)

// stampedLetter is a scan in colour, at 300 dpi, of a letter of the demo with a stamp in
// red and a line in blue; no two are the same.
func stampedLetter(b *testing.B, page image.Image, n int) []byte {
	b.Helper()
	img := raster.ToRGBA(raster.Resize(page, 2480, 3508))
	for i := 0; i+3 < len(img.Pix); i += 4 {
		img.Pix[i+2] -= img.Pix[i+2] / 16 // the paper is a little yellow
	}
	cx, cy := 1700+7*(n%20), 2900-11*(n%30)
	for y := -160; y <= 160; y++ {
		for x := -160; x <= 160; x++ {
			if d := math.Hypot(float64(x), float64(y)); d > 140 && d < 152 {
				img.SetRGBA(cx+x, cy+y, color.RGBA{190, 40, 45, 255})
			}
		}
	}
	for x := range 500 {
		y := 2800 + int(60*math.Sin(float64(x+n)/28))
		draw.Draw(img, image.Rect(400+x, y, 408+x, y+9), image.NewUniform(color.RGBA{35, 50, 150, 255}), image.Point{}, draw.Src)
	}
	var out bytes.Buffer
	require.NoError(b, jpeg.Encode(&out, img, &jpeg.Options{Quality: 85}))
	return out.Bytes()
}

// BenchmarkColourScansFit plans and exports 100 scanned A4 pages in colour under a limit,
// and the same lighter. Run it by itself.
func BenchmarkColourScansFit(b *testing.B) {
	const pages = 24
	page, err := jpeg.Decode(bytes.NewReader(jpegIn(b, paper(b, "quotes-scan.tif"))))
	require.NoError(b, err)
	var file bytes.Buffer
	weight := 0
	require.NoError(b, tiff.Write(&file, pages, func(i int) (tiff.Encoded, error) {
		data := stampedLetter(b, page, i)
		weight += len(data)
		return tiff.EncodeJPEG(data, 2480, 3508, 3, 300), nil
	}))
	for b.Loop() {
		b.StopTimer()
		a := openApp(b, b.TempDir(), intake.DefaultLimits)
		id := newPacket(b, a)
		add(b, a, id, "letters.tif", file.Bytes())
		limit := int64(weight / 6)
		b.StartTimer()
		begun := time.Now()
		e := finished(b, a, id, app.ExportOrder{Size: app.Fit, Limit: limit})
		perPage := time.Since(begun).Seconds() / pages
		b.ReportMetric(perPage, "s/page")
		b.ReportMetric(perPage*float64(runtime.GOMAXPROCS(0)), "core-s/page")
		b.ReportMetric(float64(e.Receipt.Bytes)/float64(limit), "of-limit")
		b.ReportMetric(peakMB(b), "peak-MB")
		e = finished(b, a, id, app.ExportOrder{Size: app.Lighter})
		b.ReportMetric(float64(e.Receipt.Bytes)/float64(weight), "lighter/jpeg85")
		b.StopTimer()
		require.NoError(b, a.Close())
		b.StartTimer()
	}
}

func finished(b *testing.B, a *app.App, id string, order app.ExportOrder) app.Export {
	b.Helper()
	started, err := a.StartExport(b.Context(), id, order)
	require.NoError(b, err)
	for {
		e, err := a.Export(b.Context(), started.ID)
		require.NoError(b, err)
		if e.State != "waiting" && e.State != "running" {
			require.Equal(b, "done", e.State, e.Problem)
			return e
		}
		time.Sleep(20 * time.Millisecond)
	}
}

// jpegIn is the first JPEG that a file holds.
func jpegIn(t testing.TB, data []byte) []byte {
	t.Helper()
	from := bytes.Index(data, []byte{0xFF, 0xD8, 0xFF})
	require.Positive(t, from, fmt.Sprintf("of %d bytes", len(data)))
	return data[from:]
}
