package app_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"io"
	"math"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"golang.org/x/sync/errgroup"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/raster"
	"dorbin/internal/app"
	"dorbin/internal/export"
	"dorbin/internal/intake"
	"dorbin/internal/intake/tiff"
	"dorbin/internal/packets"
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
// and the same smaller. Run it by itself.
func BenchmarkColourScansFit(b *testing.B) {
	const pages = 100
	page := scansIn(b, paper(b, "quotes-scan.tif"))[0]
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
		e := finished(b, a, id, export.ExportOrder{Size: planning.Fit, Limit: limit})
		perPage := time.Since(begun).Seconds() / pages
		b.ReportMetric(perPage, "s/page")
		b.ReportMetric(perPage*float64(runtime.GOMAXPROCS(0)), "core-s/page")
		b.ReportMetric(float64(e.Receipt.Bytes)/float64(limit), "of-limit")
		b.ReportMetric(peakMB(b), "peak-MB")
		e = finished(b, a, id, export.ExportOrder{Size: planning.Smaller})
		b.ReportMetric(float64(e.Receipt.Bytes)/float64(weight), "lighter/jpeg85")
		b.StopTimer()
		require.NoError(b, a.Close())
		b.StartTimer()
	}
}

func finished(b *testing.B, a *app.App, id string, order export.ExportOrder) export.Export {
	b.Helper()
	started, err := a.Export.Start(b.Context(), id, order)
	require.NoError(b, err)
	for {
		e, err := a.Export.Get(b.Context(), started.ID)
		require.NoError(b, err)
		if e.State != "waiting" && e.State != "running" {
			require.Equal(b, "done", e.State, e.Problem)
			return e
		}
		time.Sleep(20 * time.Millisecond)
	}
}

// scansIn are the pages of a TIFF that are JPEGs.
func scansIn(t testing.TB, data []byte) (pages []image.Image) {
	t.Helper()
	for piece := range bytes.SplitSeq(data, []byte{0xFF, 0xD8, 0xFF}) {
		page, err := jpeg.Decode(io.MultiReader(bytes.NewReader([]byte{0xFF, 0xD8, 0xFF}), bytes.NewReader(piece)))
		if err == nil {
			pages = append(pages, page)
		}
	}
	require.NotEmpty(t, pages)
	return pages
}

// photographed is a photograph of 12 megapixels of a page that lies on a table, in the
// light of a window; every number has its own angle, light and grain.
func photographed(t testing.TB, page image.Image, n uint64) (photo []byte, outline geometry.PaperQuad) {
	t.Helper()
	const width, height = 3024, 4032
	random := rand.New(rand.NewPCG(n, 12))
	near := func(at float64) float64 { return at + 0.03*(random.Float64()-0.5) }
	outline = geometry.PaperQuad{{X: near(0.06), Y: near(0.05)}, {X: near(0.94), Y: near(0.05)}, {X: near(0.95), Y: near(0.95)}, {X: near(0.05), Y: near(0.95)}}
	size := page.Bounds().Size()
	page = raster.Cut(page, image.Rectangle{Max: size}.Inset(60)) // a scan has dark edges
	size = page.Bounds().Size()
	toPage := outline.Projection(float64(size.X), float64(size.Y), width, height).Inverse()
	img := raster.ToRGBA(raster.Warp(page, toPage, width, height, color.RGBA{84, 66, 52, 255}))
	darkest := 0.5 + 0.2*random.Float64()
	for y := range height {
		for x := range width {
			lit := darkest + (1-darkest)*float64(x+y)/(width+height)
			grain := 3 * random.NormFloat64()
			pixel := img.Pix[img.PixOffset(x, y):]
			for channel, warmth := range [3]float64{1, 0.98, 0.9} {
				pixel[channel] = uint8(max(0, min(255, float64(pixel[channel])*lit*warmth+grain)))
			}
		}
	}
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, img, &jpeg.Options{Quality: 86}))
	return out.Bytes(), outline
}

// BenchmarkPhotographsOfPaper whitens photographs of letters and makes them smaller, and
// reads their words before and after.
func BenchmarkPhotographsOfPaper(b *testing.B) {
	letters := scansIn(b, paper(b, "quotes-scan.tif"))
	for b.Loop() {
		a := openApp(b, b.TempDir(), intake.DefaultLimits)
		id := newPacket(b, a)
		photographs := 0
		for n, letter := range letters {
			photo, outline := photographed(b, letter, uint64(n))
			photographs += len(photo)
			add(b, a, id, fmt.Sprintf("letter-%d.jpg", n), photo)
			apply(b, a, id,
				packet.Outline{Selected: packet.InRange(strconv.Itoa(n + 1)), Outline: &outline},
				packet.Tone{Selected: packet.InRange(strconv.Itoa(n + 1)), Tone: raster.Tone{Mode: raster.PaperWhite}})
		}
		apply(b, a, id, packet.Turn{Selected: packet.InRange("5"), By: 180}) // it lies upside down
		e := finished(b, a, id, export.ExportOrder{Size: planning.Smaller})
		require.Empty(b, e.Receipt.Differences)
		b.ReportMetric(float64(photographs)/float64(e.Receipt.Bytes), "photographs/document")
		b.ReportMetric(leastOfWords(b, a, e.ID, len(letters)), "least-of-words")
		require.NoError(b, a.Close())
	}
}

// leastOfWords waits until the words of so many pages were compared.
func leastOfWords(b *testing.B, a *app.App, id string, pages int) float64 {
	b.Helper()
	for range 600 {
		e, err := a.Export.Get(b.Context(), id)
		require.NoError(b, err)
		least, known := 1.0, 0
		for _, page := range e.Receipt.Became {
			if page.Words != nil {
				least, known = min(least, *page.Words), known+1
			}
		}
		if known == pages {
			return least
		}
		time.Sleep(200 * time.Millisecond)
	}
	return 0
}

// BenchmarkScansOnTheWall adds colour scans of A4 at 300 dpi, one and 18, and tells how long it takes
// from the end of the upload until they are on the wall, for each of them, and against an eighth that
// libjpeg makes of one.
func BenchmarkScansOnTheWall(b *testing.B) {
	page := scansIn(b, paper(b, "quotes-scan.tif"))[0]
	letters := make([][]byte, 18)
	for i := range letters {
		letters[i] = stampedLetter(b, page, i)
	}
	path := filepath.Join(b.TempDir(), "letter.jpg")
	require.NoError(b, os.WriteFile(path, letters[0], 0o600))
	const times = 10
	begun := time.Now()
	for range times {
		require.NoError(b, exec.CommandContext(b.Context(), "djpeg", "-scale", "1/8", "-outfile", os.DevNull, path).Run())
	}
	djpeg := time.Since(begun).Seconds() / times
	for _, n := range []int{1, len(letters)} {
		b.Run(strconv.Itoa(n), func(b *testing.B) {
			var onWall time.Duration
			for range b.N { // b.Loop would count the uploads
				onWall += untilOnTheWall(b, letters[:n])
			}
			perPicture := onWall.Seconds() / float64(b.N*n)
			b.ReportMetric(perPicture*1000, "ms/picture")
			b.ReportMetric(perPicture/djpeg, "djpeg/8")
		})
	}
}

// untilOnTheWall adds JPEGs to a new packet, and tells how long it takes from the end of that until all of them are on the
// wall.
func untilOnTheWall(b *testing.B, jpegs [][]byte) time.Duration {
	b.Helper()
	a := openApp(b, b.TempDir(), intake.DefaultLimits)
	id := newPacket(b, a)
	var sources []string
	for i, data := range jpegs {
		sources = append(sources, string(*add(b, a, id, fmt.Sprintf("page-%d.jpg", i), data).Source))
	}
	begun := time.Now()
	var wait errgroup.Group
	wait.SetLimit(6) // connections of a browser to one server
	for _, source := range sources {
		wait.Go(func() error {
			_, err := a.Packets.SourcePicture(b.Context(), source, 1, packets.Adjustments{}, 172)
			return err
		})
	}
	require.NoError(b, wait.Wait())
	onWall := time.Since(begun)
	require.NoError(b, a.Close())
	return onWall
}

// BenchmarkPhotographsOnTheWall does so with seven photographs of paper, of 12 megapixels.
func BenchmarkPhotographsOnTheWall(b *testing.B) {
	page := scansIn(b, paper(b, "quotes-scan.tif"))[0]
	photos := make([][]byte, 7)
	for i := range photos {
		photos[i], _ = photographed(b, page, uint64(i)) //nolint:gosec // small
	}
	var onWall time.Duration
	for range b.N {
		onWall += untilOnTheWall(b, photos)
	}
	b.ReportMetric(onWall.Seconds()/float64(b.N), "s")
}
