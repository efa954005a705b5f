package app_test

import (
	"bytes"
	"crypto/sha256"
	"fmt"
	"image"
	"image/jpeg"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/go-pdf/fpdf"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/pdf/pdftest"
	"dorbin/core/planning"
	"dorbin/core/raster"
	"dorbin/core/shrink"
	"dorbin/internal/export"
	"dorbin/internal/sampling"
)

// pixelsIn are the pixels of the only JPEG in a PDF, as other programs read them, and its bytes.
func pixelsIn(t *testing.T, path string) (pixels [32]byte, size int) {
	t.Helper()
	found := picturesOf(t, path)
	require.Len(t, found, 1)
	return pixelsOfJPEG(t, found[0]), len(found[0])
}

// pixelsOfJPEG is the hash of the pixels that libjpeg decodes.
func pixelsOfJPEG(t *testing.T, data []byte) [32]byte {
	t.Helper()
	command := exec.CommandContext(t.Context(), "djpeg", "-pnm")
	command.Stdin = bytes.NewReader(data)
	pixels, err := command.Output()
	require.NoError(t, err)
	return sha256.Sum256(pixels)
}

func TestJPEGsGoInWithTheSamePixelsInFewerBytes(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	scan := paper(t, "roof-1.jpg")
	add(t, a, id, "roof-1.jpg", scan)
	want := pixelsOfJPEG(t, scan)
	made := func(order export.ExportOrder) (string, export.Receipt) {
		started, err := a.Export.Start(t.Context(), id, order)
		require.NoError(t, err)
		e := waitFor(t, a, started.ID)
		require.Equal(t, "done", string(e.State), e.Problem)
		path, _, err := a.Export.File(t.Context(), started.ID)
		require.NoError(t, err)
		return path, *e.Receipt
	}
	path, receipt := made(export.ExportOrder{})
	pixels, before := pixelsIn(t, path)
	require.Equal(t, want, pixels)
	assert.Empty(t, receipt.Became)

	path, receipt = made(export.ExportOrder{Repack: true})
	pixels, after := pixelsIn(t, path)
	assert.Equal(t, want, pixels)
	assert.Less(t, after, before*95/100)
	require.Len(t, receipt.Became, 1)
	became := receipt.Became[0]
	assert.True(t, became.SamePixels)
	assert.Equal(t, []any{1, shrink.Original}, []any{became.Number, became.Encoding})
	assert.InDelta(t, before-after, became.Before-became.After, 1)

	path, receipt = made(export.ExportOrder{Repack: true, KeepPictures: true})
	pixels, kept := pixelsIn(t, path)
	assert.Equal(t, want, pixels)
	assert.GreaterOrEqual(t, kept, before)
	assert.Empty(t, receipt.Became, "who keeps the files of pictures keeps them as they are")

	page := get(t, a, id).Parts[0].Pages[0].ID
	_, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller, Overrides: map[packet.PageID]shrink.Override{page: shrink.KeepAsItIs}})
	require.NoError(t, err)
	assert.Equal(t, shrink.ContinuousTone, planned(t, a, id).Pages[0].Kind, "slates are no paper")
	path, receipt = made(export.ExportOrder{Size: planning.Smaller})
	pixels, smaller := pixelsIn(t, path)
	assert.Equal(t, want, pixels)
	assert.Equal(t, after, smaller, "a page that is kept while others are made smaller")
	require.Len(t, receipt.Became, 1)
	assert.True(t, receipt.Became[0].SamePixels)
}

// TestJPEGsOfAPDFGoInWithTheSamePixelsInFewerBytes takes a PDF as scanners write them: JPEGs of pages, one of them
// on two.
func TestJPEGsOfAPDFGoInWithTheSamePixelsInFewerBytes(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	doc := fpdf.New("L", "pt", "", "")
	sizes := map[string]int{}
	for i, name := range []string{"roof-1.jpg", "roof-2.jpg", "roof-1.jpg"} {
		data := paper(t, name)
		sizes[name] = len(data)
		doc.AddPageFormat("L", fpdf.SizeType{Wd: 792, Ht: 594})
		if i < 2 {
			doc.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "JPEG"}, bytes.NewReader(data))
		}
		doc.Image(name, 0, 0, 792, 594, false, "", 0, "")
		doc.Text(40, 40, name)
	}
	var scan bytes.Buffer
	require.NoError(t, doc.Output(&scan))
	add(t, a, id, "scan.pdf", scan.Bytes())
	asItIs, e := exportAsItIs(t, a, id)
	require.Empty(t, e.Receipt.Became)
	path, e := exportSized(t, a, id, export.ExportOrder{Repack: true})
	assert.Empty(t, e.Receipt.Differences)
	require.Len(t, e.Receipt.Became, 2, "the third page draws the picture of the first")
	saved := int64(0)
	for i, became := range e.Receipt.Became {
		assert.True(t, became.SamePixels)
		assert.Equal(t, i+1, became.Number)
		saved += became.Before - became.After
	}
	before, after := picturesOf(t, asItIs), picturesOf(t, path)
	require.Len(t, before, len(after))
	bytesBefore, bytesAfter := 0, 0
	for i := range before {
		assert.Equal(t, pixelsOfJPEG(t, before[i]), pixelsOfJPEG(t, after[i]))
		bytesBefore, bytesAfter = bytesBefore+len(before[i]), bytesAfter+len(after[i])
	}
	assert.Less(t, bytesAfter, bytesBefore*95/100)
	assert.InDelta(t, sizeOf(t, asItIs)-sizeOf(t, path), saved, 200)
	run(t, "qpdf", "--check", path)
	for page := 1; page <= 3; page++ {
		assert.InDelta(t, 0, difference(popplerAt(t, asItIs, page, 60), popplerAt(t, path, page, 60)), 0)
	}

	path, e = exportSized(t, a, id, export.ExportOrder{Repack: true, KeepPictures: true})
	assert.Empty(t, e.Receipt.Became)
	assert.InDelta(t, sizeOf(t, asItIs), sizeOf(t, path), 200)
}

// TestFlatePicturesGoInWithTheSamePixelsInFewerBytes takes a PNG, and a PDF with a picture that is compressed without
// filters, as many programs write them.
func TestFlatePicturesGoInWithTheSamePixelsInFewerBytes(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	roof, err := jpeg.Decode(bytes.NewReader(paper(t, "roof-2.jpg")))
	require.NoError(t, err)
	small := raster.Resize(roof, 400, 300)
	add(t, a, id, "roof.png", pngFile(t, small))
	add(t, a, id, "roof.pdf", pdfOf(raster.ToRGBA(small)))
	asItIs, e := exportAsItIs(t, a, id)
	require.Empty(t, e.Receipt.Became)
	path, e := exportSized(t, a, id, export.ExportOrder{Repack: true})
	assert.Empty(t, e.Receipt.Differences)
	require.Len(t, e.Receipt.Became, 2)
	saved := int64(0)
	for i, became := range e.Receipt.Became {
		assert.True(t, became.SamePixels)
		assert.Equal(t, i+1, became.Number)
		assert.Less(t, became.After, became.Before)
		saved += became.Before - became.After
	}
	assert.Less(t, e.Receipt.Became[1].After, e.Receipt.Became[1].Before*9/10, "it had no filters")
	assert.InDelta(t, sizeOf(t, asItIs)-sizeOf(t, path), saved, 200)
	run(t, "qpdf", "--check", path)
	for page := 1; page <= 2; page++ {
		assert.InDelta(t, 0, difference(popplerAt(t, asItIs, page, 60), popplerAt(t, path, page, 60)), 0)
	}
	pictures := picturesOf(t, path)
	assert.Len(t, pictures, 2)
	assert.Equal(t, picturesOf(t, asItIs), pictures)
}

// pdfOf is a PDF of one page with a picture whose samples are compressed as they are.
func pdfOf(img *image.RGBA) []byte {
	var samples []byte
	for i := 0; i < len(img.Pix); i += 4 {
		samples = append(samples, img.Pix[i:i+3]...)
	}
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
		"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 300] /Resources << /XObject << /I 4 0 R >> >> /Contents 5 0 R >>",
		pdftest.Stream(fmt.Sprintf("/Type /XObject /Subtype /Image /Width %d /Height %d /BitsPerComponent 8 /ColorSpace /DeviceRGB /Filter /FlateDecode",
			img.Rect.Dx(), img.Rect.Dy()), pdftest.Deflated(samples)),
		pdftest.Stream("", "400 0 0 300 0 0 cm /I Do"),
	)
}

// picturesOf are the pictures in a PDF, in the order of its pages: JPEGs as they are written, others as poppler
// decodes them.
func picturesOf(t *testing.T, path string) (files [][]byte) {
	t.Helper()
	folder := t.TempDir()
	run(t, "pdfimages", "-j", path, filepath.Join(folder, "picture"))
	names, err := filepath.Glob(filepath.Join(folder, "picture*"))
	require.NoError(t, err)
	for _, name := range names {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		files = append(files, data)
	}
	return files
}

func sizeOf(t *testing.T, path string) int64 {
	t.Helper()
	info, err := os.Stat(path)
	require.NoError(t, err)
	return info.Size()
}
