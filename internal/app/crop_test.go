package app_test

import (
	"bytes"
	"image"
	"image/jpeg"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/packets"
	"dorbin/internal/sampling"
)

// everythingIn is all text of a PDF, also what lies outside its pages: the boxes
// are made so large that poppler reads it.
func everythingIn(t *testing.T, path string) string {
	t.Helper()
	plain := filepath.Join(t.TempDir(), "plain.pdf")
	run(t, "qpdf", "--qdf", "--object-streams=disable", path, plain)
	data, err := os.ReadFile(plain)
	require.NoError(t, err)
	large := regexp.MustCompile(`/MediaBox \[[^\]]*\]`).ReplaceAll(data, []byte("/MediaBox [-5000 -5000 5000 5000]"))
	require.NotEqual(t, data, large)
	require.NoError(t, os.WriteFile(plain, large, 0o600))
	return run(t, "pdftotext", plain, "-")
}

func millimetres(x0, y0, x1, y1 float64) *geometry.Box {
	const mm = geometry.PointsPerInch / geometry.MillimetresPerInch
	return &geometry.Box{X0: x0 * mm, Y0: y0 * mm, X1: x1 * mm, Y1: y1 * mm}
}

func TestWhatIsCroppedAwayIsNotInTheFile(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	p := get(t, a, id)
	whole, _ := exportAsItIs(t, a, id)
	require.Contains(t, everythingIn(t, whole), "Tarn Valley Fund")

	box := millimetres(10, 35, 200, 270) // below the head of the form, above its foot
	apply(t, a, id, packet.Turn{Selected: packet.On(p.Parts[0].Pages[1].ID), By: 180},
		packet.Crop{Selected: packet.InRange("1, 3"), Box: box}, packet.SetAside{Selected: packet.InRange("2, 4")})
	path, e := exportAsItIs(t, a, id)
	assert.Empty(t, e.Receipt.Differences)
	assert.Empty(t, e.Receipt.Hidden)
	text := everythingIn(t, path)
	assert.NotContains(t, text, "Tarn Valley Fund", "the head was cropped away")
	before := strings.Fields(run(t, "pdftotext", "-f", "1", "-l", "1", "-x", "28", "-y", "100", "-W", "538", "-H", "665", whole, "-"))
	after := strings.Fields(run(t, "pdftotext", "-f", "1", "-l", "1", path, "-"))
	assert.Greater(t, len(before), 20)
	assert.Equal(t, before, after, "what is kept keeps its text")
	assert.Regexp(t, `Page\s+1 size:\s+538\.\d+ x 666\.\d+ pts`, run(t, "pdfinfo", "-l", "2", path))
}

func TestAPictureIsTrulyCut(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "quotes.tif", paper(t, "quotes-scan.tif"))
	apply(t, a, id, packet.Crop{Selected: packet.InRange("1-6"), Box: millimetres(20, 20, 190, 200)}, packet.Straighten{Selected: packet.InRange("4"), Angle: -2.4})
	path, e := exportAsItIs(t, a, id)
	assert.Empty(t, e.Receipt.Differences)
	assert.Empty(t, e.Receipt.Hidden)
	rows := strings.Split(strings.TrimSpace(run(t, "pdfimages", "-list", path)), "\n")[2:]
	require.Len(t, rows, 6)
	for i, row := range rows {
		fields := strings.Fields(row)
		assert.Equal(t, "200", fields[12], "page %d keeps its resolution", i+1)
		width, err := strconv.Atoi(fields[3])
		require.NoError(t, err)
		// A JPEG begins where a block does: less than one is left of the crop, where it is not seen.
		assert.GreaterOrEqual(t, float64(width), 170/25.4*200-1, "page %d", i+1)
		assert.Less(t, float64(width), 170/25.4*200+9, "page %d", i+1)
	}
}

// TestACroppedJPEGKeepsItsPixels looks for the cropped pixels of a photograph, held in all ways, in the picture that
// is in the export.
func TestACroppedJPEGKeepsItsPixels(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	for orientation := byte(1); orientation <= 8; orientation++ {
		id := newPacket(t, a)
		photograph := photographHeld(t, orientation)
		add(t, a, id, "photograph.jpg", photograph)
		page := get(t, a, id).Parts[0].Pages[0]
		apply(t, a, id, packet.Crop{Selected: packet.On(page.ID), Box: share(page, 0.231, 0.117, 0.877, 0.904)})
		path, e := exportAsItIs(t, a, id)
		require.Empty(t, e.Receipt.Differences, "orientation %d", orientation)
		pictures := picturesOf(t, path)
		require.Len(t, pictures, 1)
		assert.Less(t, len(pictures[0]), len(photograph))
		before, after := luminanceOf(t, photograph), luminanceOf(t, pictures[0])
		// Of the picture as it is stored, the crop begins with these pixels.
		left, top := placeIn(before, after)
		require.Less(t, left, before.Rect.Dx(), "orientation %d: the pixels are not those of the photograph", orientation)
		assert.Equal(t, []int{0, 0}, []int{left % 16, top % 16}, "a unit of blocks begins there")
		cropped := float64(after.Rect.Dx()*after.Rect.Dy()) / float64(before.Rect.Dx()*before.Rect.Dy())
		assert.InDelta(t, (0.877-0.231)*(0.904-0.117), cropped, 0.04)
	}
}

func luminanceOf(t *testing.T, data []byte) *image.Gray {
	t.Helper()
	img, err := jpeg.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	colours, ok := img.(*image.YCbCr)
	require.True(t, ok)
	gray := image.NewGray(img.Bounds())
	for y := range gray.Rect.Dy() {
		copy(gray.Pix[y*gray.Stride:][:gray.Rect.Dx()], colours.Y[y*colours.YStride:])
	}
	return gray
}

// placeIn finds where a part lies in a picture, but for the blocks at its border. Where it does not lie in it,
// left is the width of the picture.
func placeIn(whole, part *image.Gray) (left, top int) {
	const border = 16
	for top = range whole.Rect.Dy() - part.Rect.Dy() + 1 {
		for left = range whole.Rect.Dx() - part.Rect.Dx() + 1 {
			isThere := true
			for y := border; isThere && y < part.Rect.Dy()-border; y++ {
				row, n := whole.Pix[(top+y)*whole.Stride+left+border:], part.Rect.Dx()-2*border
				isThere = bytes.Equal(row[:n], part.Pix[y*part.Stride+border:][:n])
			}
			if isThere {
				return left, top
			}
		}
	}
	return whole.Rect.Dx(), 0
}

func TestTextThatCannotBeRemovedIsTold(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	// Through the middle of the lines: each is one object, which is kept.
	apply(t, a, id, packet.Crop{Selected: packet.InRange("1"), Box: millimetres(0, 0, 60, 297)})
	_, e := exportAsItIs(t, a, id)
	assert.Empty(t, e.Receipt.Differences)
	require.Len(t, e.Receipt.Hidden, 1)
	assert.Equal(t, 1, e.Receipt.Hidden[0].Number)
}

func TestContents(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "quotes.tif", paper(t, "quotes-scan.tif"))
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	p := get(t, a, id)
	p = apply(t, a, id, packet.InsertBlank{Size: geometry.A4, Destination: packet.Destination{Part: p.Parts[1].ID}})
	pages := p.Parts[0].Pages
	apply(t, a, id, packet.Crop{Selected: packet.On(pages[0].ID), Box: millimetres(20, 20, 190, 200)},
		packet.Turn{Selected: packet.On(pages[2].ID), By: 90})
	var ids []packet.PageID
	for _, part := range get(t, a, id).Parts {
		for _, page := range part.Pages {
			ids = append(ids, page.ID)
		}
	}
	contents, err := a.Arrange.Contents(t.Context(), id, ids)
	require.NoError(t, err)
	require.Len(t, contents, 11)
	for i, c := range contents {
		assert.Equal(t, ids[i], c.Page)
		assert.False(t, c.Unread)
		if i == len(contents)-1 {
			assert.Nil(t, c.Content, "the blank page")
			continue
		}
		require.NotNil(t, c.Content, "page %d", i+1)
		if i < 6 {
			assert.Less(t, c.Content.Size().Width, c.Width-30, "page %d: the dark edges of the scan are no content", i+1)
		}
	}
	require.NotNil(t, contents[0].Crop)
	assert.InDelta(t, 170/25.4*72, contents[0].Crop.Size().Width, 0.1)
	assert.InDelta(t, 595, contents[0].Width, 1, "as it would stand uncropped")
	assert.Greater(t, contents[2].Width, contents[2].Height, "as it stands: turned")

	for _, average := range []bool{false, true} {
		picture, err := a.Arrange.Overlay(t.Context(), id, ids, average)
		require.NoError(t, err)
		assert.Equal(t, "\xff\xd8", string(picture[:2]))
	}
	_, err = a.Arrange.Contents(t.Context(), id, []packet.PageID{"p999"})
	require.ErrorIs(t, err, packets.ErrNotFound)
	_, err = a.Arrange.Overlay(t.Context(), id, nil, false)
	require.ErrorIs(t, err, problem.Invalid)
}
