package app_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"maps"
	"math"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/pdf/pdftest"
	"dorbin/core/raster"
	"dorbin/internal/app"
	"dorbin/internal/packets"
	"dorbin/internal/sampling"
)

const wordsAndBars = "BT /F 30 Tf 60 220 Td (Words here) Tj ET 30 80 120 4 re f 60 100 6 160 re f -60 20 40 30 re f 900 600 150 90 re f 0.6 g 100 300 90 30 re f"

// awkwardPDF has pages that a reader shows in other places than their content says:
// turned, with a crop box, with a box away from the origin, with a user unit, and lying
// on A3.
func awkwardPDF(content string) []byte {
	objects := []string{
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [5 0 R 6 0 R 7 0 R 8 0 R 9 0 R] /Count 5 /Resources << /Font << /F 4 0 R >> >> >>",
		pdftest.Stream("", content),
		"<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
	}
	for _, boxes := range []string{
		"/MediaBox [0 0 300 400] /Rotate 90", "/MediaBox [0 0 400 500] /CropBox [40 60 340 460] /Rotate 270",
		"/MediaBox [-100 -50 200 350]", "/MediaBox [0 0 300 400] /UserUnit 1.5 /Rotate 180", "/MediaBox [0 0 1191 842]",
	} {
		objects = append(objects, "<< /Type /Page /Parent 2 0 R /Contents 3 0 R "+boxes+" >>")
	}
	return pdftest.File(objects...)
}

// photographHeld is a JPEG whose camera was held in one of EXIF's eight ways.
func photographHeld(t *testing.T, orientation byte) []byte {
	t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, 640, 480))
	draw.Draw(img, img.Rect, image.NewUniform(color.RGBA{240, 235, 225, 255}), image.Point{}, draw.Src)
	for _, bar := range []image.Rectangle{image.Rect(40, 60, 600, 80), image.Rect(40, 60, 60, 300), image.Rect(300, 200, 420, 330)} {
		draw.Draw(img, bar, image.NewUniform(color.RGBA{70, 40, 60, 255}), image.Point{}, draw.Src)
	}
	var encoded bytes.Buffer
	require.NoError(t, jpeg.Encode(&encoded, img, &jpeg.Options{Quality: 90}))
	exif := append([]byte("Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00"), orientation, 0, 0, 0, 0, 0, 0)
	segment := binary.BigEndian.AppendUint16([]byte{0xFF, 0xE1}, uint16(len(exif)+2)) //nolint:gosec // a few bytes
	return bytes.Join([][]byte{encoded.Bytes()[:2], segment, exif, encoded.Bytes()[2:]}, nil)
}

// framings are ways to frame a page, each of several steps.
var framings = map[string]func(page packets.Page) []packet.Command{
	"cropped, turned, fitted": func(page packets.Page) []packet.Command {
		return []packet.Command{packet.Crop{Selected: packet.On(page.ID), Box: share(page, 0.1, 0.2, 0.85, 0.9)}, packet.Turn{Selected: packet.On(page.ID), By: 90}, fitted(page, geometry.SheetLayout{Paper: geometry.A4, Follow: true, Scale: geometry.Fill, Across: 0.5, Down: 0.5})}
	},
	"straightened, cropped": func(page packets.Page) []packet.Command {
		return []packet.Command{packet.Straighten{Selected: packet.On(page.ID), Angle: 3.3}, packet.Crop{Selected: packet.On(page.ID), Box: share(page, 0.05, 0.1, 0.9, 0.8)}}
	},
	"flipped, with a border": func(page packets.Page) []packet.Command {
		return []packet.Command{packet.Flip{Selected: packet.On(page.ID), Axis: "leftRight"}, fitted(page, geometry.SheetLayout{Margin: geometry.Margin{Left: 60, Bottom: 20}})}
	},
	"turned about, straightened, shrunk": func(page packets.Page) []packet.Command {
		return []packet.Command{packet.Turn{Selected: packet.On(page.ID), By: 180}, packet.Straighten{Selected: packet.On(page.ID), Angle: -5}, fitted(page, geometry.SheetLayout{Paper: geometry.A5, Scale: geometry.Shrink, Down: 1, Margin: geometry.Margin{Right: 80}})}
	},
	"kept its size, cut by the paper, turned": func(page packets.Page) []packet.Command {
		return []packet.Command{fitted(page, geometry.SheetLayout{Paper: geometry.Size{Width: 260, Height: 330}, Scale: geometry.Keep, Across: 1, Down: 0.3}), packet.Turn{Selected: packet.On(page.ID), By: 270}}
	},
	"painted over, straightened, flipped": func(page packets.Page) []packet.Command {
		return []packet.Command{packet.Paint{Selected: packet.On(page.ID), Box: share(page, 0.1, 0.1, 0.5, 0.4)}, packet.Straighten{Selected: packet.On(page.ID), Angle: 8}, packet.Flip{Selected: packet.On(page.ID), Axis: "topBottom"}}
	},
}

func fitted(page packets.Page, fit geometry.SheetLayout) packet.Command {
	return packet.Fit{Selected: packet.On(page.ID), Fit: &fit}
}

// share is a box of shares of a page as it stands.
func share(page packets.Page, x0, y0, x1, y1 float64) *geometry.Box {
	return &geometry.Box{X0: x0 * page.Width, Y0: y0 * page.Height, X1: x1 * page.Width, Y1: y1 * page.Height}
}

const comparedWidth = 480

// TestTheExportShowsWhatTheScreenShowed frames pages that are awkward in every way, and
// compares what the screen shows of them with what poppler and PDFium make of the export.
func TestTheExportShowsWhatTheScreenShowed(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	held := byte(0)
	for _, name := range sampling.Of(t, slices.Sorted(maps.Keys(framings)), 6) {
		framing := framings[name]
		id := newPacket(t, a)
		add(t, a, id, "awkward.pdf", awkwardPDF(wordsAndBars))
		for range 3 { // so that each way to hold a camera has its turn, and more than once
			add(t, a, id, fmt.Sprintf("held %d.jpg", held), photographHeld(t, held%8+1))
			held++
		}
		var pages []packets.Page
		for _, part := range get(t, a, id).Parts {
			pages = append(pages, part.Pages...)
		}
		require.Len(t, pages, 8)
		for _, page := range pages {
			for _, c := range framing(page) {
				apply(t, a, id, c)
			}
		}
		path, e := exportAsItIs(t, a, id)
		require.Equal(t, "done", e.State, e.Problem)
		require.Empty(t, e.Receipt.Differences, name)

		written, err := os.ReadFile(path)
		require.NoError(t, err)
		again := newPacket(t, a)
		add(t, a, again, "export.pdf", written)
		reread := get(t, a, again).Parts[0].Pages
		for i, page := range pages {
			shown, drawn := pagePicture(t, a, id, page.ID, comparedWidth), popplerAt(t, path, i+1, 150)
			told := fmt.Sprintf("%s, page %d", name, i+1)
			assert.Less(t, difference(shown, drawn), 3.0, "poppler: %s", told)
			assert.Less(t, difference(shown, pagePicture(t, a, again, reread[i].ID, comparedWidth)), 3.0, "PDFium: %s", told)
		}
	}
}

func pagePicture(t *testing.T, a *app.App, id string, page packet.PageID, width int) *image.Gray {
	t.Helper()
	path, err := a.Packets.PagePicture(t.Context(), id, page, width)
	require.NoError(t, err)
	file, err := os.Open(path)
	require.NoError(t, err)
	defer file.Close() //nolint:errcheck // only read from
	img, err := jpeg.Decode(file)
	require.NoError(t, err)
	return toGray(img)
}

func toGray(img image.Image) *image.Gray {
	gray := image.NewGray(img.Bounds())
	draw.Draw(gray, gray.Rect, img, img.Bounds().Min, draw.Src)
	return gray
}

// TestTheExportLiesWhereTheScreenShowedIt measures where the middle of a dark disc lies
// on screen and in the export: within half a pixel at 150 dpi.
func TestTheExportLiesWhereTheScreenShowedIt(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	// A disc of four Bézier curves (8.5.2.2): its edges are not laid on whole pixels.
	const disc = "0.2 g 162 220 m 162 242.1 144.1 260 122 260 c 99.9 260 82 242.1 82 220 c 82 197.9 99.9 180 122 180 c 144.1 180 162 197.9 162 220 c f"
	a := newApp(t)
	odd := false
	for _, name := range sampling.Of(t, slices.Sorted(maps.Keys(framings)), 6) {
		framing := framings[name]
		id := newPacket(t, a)
		add(t, a, id, "disc.pdf", awkwardPDF(disc))
		pages := get(t, a, id).Parts[0].Pages
		for _, page := range pages {
			for _, c := range framing(page) {
				if _, paints := c.(packet.Paint); !paints {
					apply(t, a, id, c)
				}
			}
		}
		path, _ := exportAsItIs(t, a, id)
		for i, page := range pages {
			if odd = !odd; odd {
				continue // each page is measured in some framings; large pictures take their time
			}
			drawn := popplerAt(t, path, i+1, 150)
			wantX, wantY, seen := inkMiddle(drawn)
			if !seen {
				continue // cut away, of the A3 page
			}
			shown := pagePicture(t, a, id, page.ID, 2400)
			x, y, _ := inkMiddle(shown)
			// Poppler's pictures are of whole pixels, the last of which the page may not fill.
			perPixel := pageNow(t, a, id, page.ID).Width / geometry.PointsPerInch * 150 / float64(shown.Rect.Dx())
			most := 0.5
			if i == 4 {
				most = 0.75 // of A3 the largest picture has 204 dpi, and whole pixels
			}
			assert.Less(t, math.Hypot(x*perPixel-wantX, y*perPixel-wantY), most, "%s, page %d", name, i+1)
		}
	}
}

// inkMiddle is the middle of what is dark in a picture, if anything is.
func inkMiddle(img *image.Gray) (x, y float64, ok bool) {
	n := 0.0
	for row := range img.Rect.Dy() {
		for column := range img.Rect.Dx() {
			if img.Pix[row*img.Stride+column] < 150 {
				x, y, n = x+float64(column)+0.5, y+float64(row)+0.5, n+1
			}
		}
	}
	return x / n, y / n, n > 0
}

func pageNow(t *testing.T, a *app.App, id string, page packet.PageID) packets.Page {
	t.Helper()
	for _, part := range get(t, a, id).Parts {
		for _, now := range part.Pages {
			if now.ID == page {
				return now
			}
		}
	}
	require.Fail(t, "the page is gone")
	return packets.Page{}
}

// difference is the mean difference of grey, from 0 to 255, a pixel, of two pictures of
// the same shape, the second of which is made as large as the first.
func difference(a, b *image.Gray) float64 {
	height := float64(b.Rect.Dy()) / float64(b.Rect.Dx()) * float64(a.Rect.Dx())
	if math.Abs(height-float64(a.Rect.Dy())) > 2 {
		return math.Inf(1)
	}
	resized := toGray(raster.Resize(b, a.Rect.Dx(), a.Rect.Dy()))
	sum := 0.0
	for i := range a.Pix {
		sum += math.Abs(float64(a.Pix[i]) - float64(resized.Pix[i]))
	}
	return sum / float64(len(a.Pix))
}

func TestWhatIsPaintedOverIsGone(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "quotes.tif", paper(t, "quotes-scan.tif"))
	p := get(t, a, id)
	form, scan := p.Parts[0].Pages[0], p.Parts[1].Pages[0]
	apply(t, a, id,
		packet.KeepOnly{Selected: packet.On(form.ID, scan.ID)},
		packet.Paint{Selected: packet.On(form.ID), Box: millimetres(10, 8, 200, 30)},
		packet.Paint{Selected: packet.On(scan.ID), Box: millimetres(20, 15, 190, 45)},
		packet.Clean{Selected: packet.On(scan.ID), Clean: raster.Cleaning{Edges: true, Specks: true}})
	path, e := exportAsItIs(t, a, id)
	require.Empty(t, e.Receipt.Differences)
	assert.Empty(t, strings.TrimSpace(everythingIn(t, path)), "the page with text is a picture")
	for page, painted := range map[int]image.Rectangle{1: image.Rect(30, 25, 560, 82), 2: image.Rect(60, 46, 535, 124)} {
		img := popplerPage(t, path, page)
		least, most := uint8(255), uint8(0)
		for y := painted.Min.Y; y < painted.Max.Y; y++ {
			for x := painted.Min.X; x < painted.Max.X; x++ {
				least, most = min(least, img.GrayAt(x, y).Y), max(most, img.GrayAt(x, y).Y)
			}
		}
		assert.Less(t, int(most)-int(least), 14, "page %d is paper where it was painted", page)
	}
	scanned := popplerPage(t, path, 2)
	for _, x := range []int{0, scanned.Rect.Dx() - 1} {
		assert.Greater(t, scanned.GrayAt(x, 400).Y, uint8(200), "the dark edges are wiped")
	}

	apply(t, a, id, packet.Paint{Selected: packet.InRange("1")}, packet.Picture{Selected: packet.InRange("1"), Picture: true})
	picture, _ := exportAsItIs(t, a, id)
	assert.Empty(t, strings.TrimSpace(everythingIn(t, picture)))
	apply(t, a, id, packet.Picture{Selected: packet.InRange("1")})
	text, _ := exportAsItIs(t, a, id)
	assert.Contains(t, everythingIn(t, text), "Tarn Valley Fund", "once lifted, it is text again")
}

// TestACropOnASheetHidesNothing lays a cropped page on a larger sheet: what was cropped
// away must not show in the border, nor be in the file.
func TestACropOnASheetHidesNothing(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	fit := geometry.SheetLayout{Paper: geometry.A4, Scale: geometry.Keep, Across: 0.5, Down: 0.5}
	apply(t, a, id, packet.KeepOnly{Selected: packet.InRange("1")}, packet.Crop{Selected: packet.InRange("1"), Box: millimetres(10, 35, 200, 270)},
		packet.Fit{Selected: packet.InRange("1"), Fit: &fit}, packet.Turn{Selected: packet.InRange("1"), By: 90})
	path, e := exportAsItIs(t, a, id)
	assert.Empty(t, e.Receipt.Differences)
	assert.Empty(t, e.Receipt.Hidden)
	assert.NotContains(t, everythingIn(t, path), "Tarn Valley Fund")
	assert.Contains(t, everythingIn(t, path), "Who is applying")
	img := popplerPage(t, path, 1)
	assert.InDelta(t, 842, img.Rect.Dx(), 1)
	assert.InDelta(t, 595, img.Rect.Dy(), 1)

	fit.Scale = geometry.Fill
	apply(t, a, id, packet.Crop{Selected: packet.InRange("1"), Box: millimetres(0, 0, 297, 60)}, packet.Fit{Selected: packet.InRange("1"), Fit: &fit})
	_, e = exportAsItIs(t, a, id)
	assert.Len(t, e.Receipt.Hidden, 1, "lines cut through are told of, also on a sheet")
}

func TestAPagePlacedTwiceIsCutTwice(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	apply(t, a, id, packet.KeepOnly{Selected: packet.InRange("1-2")}, packet.Duplicate{Selected: packet.InRange("1")},
		packet.Crop{Selected: packet.InRange("1"), Box: millimetres(10, 35, 200, 270)}, packet.Crop{Selected: packet.InRange("2"), Box: millimetres(0, 0, 210, 30)})
	path, e := exportAsItIs(t, a, id)
	assert.Empty(t, e.Receipt.Differences)
	assert.Empty(t, e.Receipt.Hidden)
	head := strings.Count(everythingIn(t, path), "Tarn Valley Fund")
	assert.Equal(t, strings.Count(run(t, "pdftotext", path, "-"), "Tarn Valley Fund"), head, "only where it is seen")
	assert.NotZero(t, head)
	assert.Equal(t, 1, strings.Count(run(t, "pdftotext", path, "-"), "Who is applying"))
	assert.Equal(t, 1, strings.Count(everythingIn(t, path), "Who is applying"))
}
