package app_test

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"path/filepath"
	"testing"

	"github.com/go-pdf/fpdf"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/planning"
	"dorbin/core/raster"
	"dorbin/core/shrink"
	"dorbin/internal/app"
	"dorbin/internal/export"
	"dorbin/internal/intake"
	"dorbin/internal/sampling"
)

// brochure is a PDF of three pages: a scan with unseen text over it, a page of text with
// a photograph of many dots on it, and that photograph again, small.
func brochure(t *testing.T) []byte {
	t.Helper()
	scan := raster.ToRGBA(raster.Resize(scansIn(t, paper(t, "quotes-scan.tif"))[0], 2480, 3508))
	photo := image.NewRGBA(image.Rect(0, 0, 1600, 1200))
	for y := range 1200 {
		for x := range 1600 {
			photo.SetRGBA(x, y, color.RGBA{uint8(x / 7), uint8(y / 5), uint8((x + y*y/300) / 9), 255})
		}
	}
	draw.Draw(photo, image.Rect(300, 200, 900, 700), image.NewUniform(color.RGBA{180, 60, 40, 255}), image.Point{}, draw.Src)
	doc := fpdf.New("P", "mm", "A4", "")
	for name, img := range map[string]image.Image{"scan": scan, "photo": photo} {
		var data bytes.Buffer
		require.NoError(t, jpeg.Encode(&data, img, &jpeg.Options{Quality: 92}))
		doc.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "JPEG"}, &data)
	}
	doc.SetFont("Helvetica", "", 12)
	doc.AddPage()
	doc.Image("scan", 0, 0, 210, 297, false, "", 0, "")
	doc.SetTextRenderingMode(3)
	doc.Text(20, 40, "Recognised before")
	doc.SetTextRenderingMode(0)
	doc.AddPage()
	doc.Text(20, 20, "The northern side of the roof")
	doc.Image("photo", 20, 30, 100, 75, false, "", 0, "")
	doc.AddPage()
	doc.Text(20, 20, "The same, from afar")
	doc.Image("photo", 20, 30, 40, 30, false, "", 0, "")
	var out bytes.Buffer
	require.NoError(t, doc.Output(&out))
	return out.Bytes()
}

func TestPicturesOfAPDFAreMadeLighterInPlace(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	data := brochure(t)
	add(t, a, id, "brochure.pdf", data)
	asItIs, _ := exportAsItIs(t, a, id)
	_, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller})
	require.NoError(t, err)
	plan := planned(t, a, id)
	assert.Equal(t, shrink.Layers, plan.Pages[0].Encoding, "a scan in a PDF is one as any")
	assert.Equal(t, shrink.Resized, plan.Pages[1].Encoding)
	path, e := exportLighter(t, a, id)
	assert.Empty(t, e.Receipt.Differences)
	assert.Less(t, e.Receipt.Bytes, int64(len(data))/4)
	require.GreaterOrEqual(t, len(e.Receipt.Became), 2)
	assert.Less(t, e.Receipt.Became[0].After, e.Receipt.Became[0].Before/4)
	assert.Equal(t, run(t, "pdftotext", "-layout", asItIs, "-"), run(t, "pdftotext", "-layout", path, "-"), "text stays text, also the unseen")
	assert.Contains(t, run(t, "pdftotext", path, "-"), "Recognised before")
	images := run(t, "pdfimages", "-list", path)
	assert.Contains(t, images, "jbig2")
	for page := 1; page <= 3; page++ {
		assert.Less(t, difference(popplerAt(t, asItIs, page, 100), popplerAt(t, path, page, 100)), 6.0, "page %d", page)
	}
	run(t, "qpdf", "--check", path)

	limit := int64(300_000)
	path, e = exportSized(t, a, id, export.ExportOrder{Size: planning.Fit, Limit: limit})
	assert.LessOrEqual(t, e.Receipt.Bytes, limit)
	assert.GreaterOrEqual(t, e.Receipt.Bytes, limit*8/10)
	run(t, "qpdf", "--check", path)
}

// TestPagesAreNotKeptAsTheyAreForWantOfAWorker measures pages while no worker can be started, and again when one can.
func TestPagesAreNotKeptAsTheyAreForWantOfAWorker(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	id := newPacket(t, a)
	add(t, a, id, "brochure.pdf", brochure(t))
	require.NoError(t, a.Close())

	a = openWith(t, app.Options{Folder: folder, Limits: intake.DefaultLimits, WorkerProgram: filepath.Join(folder, "none")})
	_, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller})
	require.NoError(t, err)
	started, err := a.Export.Start(t.Context(), id, export.ExportOrder{Size: planning.Smaller})
	require.NoError(t, err)
	failed := waitFor(t, a, started.ID)
	assert.Equal(t, "failed", failed.State)
	assert.NotContains(t, failed.Problem.English, "damaged")
	plan, err := a.Export.Plan(t.Context(), id, "")
	require.NoError(t, err)
	assert.Equal(t, 3, plan.Waiting, "nothing is known of its pages")
	require.NoError(t, a.Close())

	a = openApp(t, folder, intake.DefaultLimits)
	defer func() { require.NoError(t, a.Close()) }()
	_, e := exportLighter(t, a, id)
	require.NotEmpty(t, e.Receipt.Became)
	assert.Equal(t, shrink.Layers, planned(t, a, id).Pages[0].Encoding)
}
