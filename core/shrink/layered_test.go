package shrink

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"

	"dorbin/core/bilevel"
	"dorbin/core/bilevel/jbig2"
	"dorbin/core/raster"
	"dorbin/internal/sampling"
)

const prose = `The council will consider the application at its next meeting in the town hall. Objections
should be sent in writing to the planning office before the end of the month, together with any
photographs that help to describe what is proposed. The applicant has been asked to provide a drawing
of the northern elevation, because the one that was submitted does not show the height of the porch.`

const testDPI = 200

// letter is an A4 page of text on tinted paper, scanned in colour; with a stamp in red
// and a signature in blue if it is official.
func letter(t testing.TB, seed uint64, official bool) *image.RGBA {
	t.Helper()
	parsed, err := opentype.Parse(goregular.TTF)
	require.NoError(t, err)
	face, err := opentype.NewFace(parsed, &opentype.FaceOptions{Size: 10.5, DPI: testDPI})
	require.NoError(t, err)
	random := rand.New(rand.NewPCG(seed, 17))
	page := image.NewRGBA(image.Rect(0, 0, 1654, 2339))
	draw.Draw(page, page.Rect, image.NewUniform(color.RGBA{244, 241, 232, 255}), image.Point{}, draw.Src)
	words := strings.Fields(prose)
	for y := 250; y < 1700; y += 42 {
		line := &font.Drawer{Dst: page, Src: image.NewUniform(color.RGBA{40, 38, 36, 255}), Face: face, Dot: fixed.P(200, y)}
		for line.Dot.X.Ceil() < 1350 {
			line.DrawString(words[random.IntN(len(words))] + " ")
		}
	}
	if official {
		ring(page, 1200, 1950, 110, 8, color.RGBA{190, 40, 45, 255})
		for x := range 400 {
			y := 2000 + int(50*math.Sin(float64(x)/23))
			draw.Draw(page, image.Rect(250+x, y, 256+x, y+7), image.NewUniform(color.RGBA{35, 50, 150, 255}), image.Point{}, draw.Src)
		}
	}
	for i := range page.Pix {
		if i%4 != 3 {
			page.Pix[i] = uint8(max(0, min(255, int(page.Pix[i])+random.IntN(9)-4)))
		}
	}
	return page
}

func ring(page *image.RGBA, cx, cy, radius, width float64, c color.RGBA) {
	for y := int(cy - radius - width); y < int(cy+radius+width); y++ {
		for x := int(cx - radius - width); x < int(cx+radius+width); x++ {
			if d := math.Hypot(float64(x)-cx, float64(y)-cy); math.Abs(d-radius) < width {
				page.SetRGBA(x, y, c)
			}
		}
	}
}

func scene(seed uint64) *image.RGBA {
	random := rand.New(rand.NewPCG(seed, 19))
	small := image.NewRGBA(image.Rect(0, 0, 60, 80))
	for i := range small.Pix {
		small.Pix[i] = uint8(random.IntN(256)) //nolint:gosec // below 256
		if i%4 == 3 {
			small.Pix[i] = 255
		}
	}
	return raster.ToRGBA(raster.Resize(small, 1200, 1600))
}

func TestKindOf(t *testing.T) {
	sampling.Heavy(t)
	paper := image.NewRGBA(image.Rect(0, 0, 800, 1100))
	draw.Draw(paper, paper.Rect, image.NewUniform(color.RGBA{240, 238, 230, 255}), image.Point{}, draw.Src)
	assert.Equal(t, Blank, KindOf(paper))
	for seed := range uint64(3) {
		assert.Equal(t, BlackText, KindOf(letter(t, seed, false)))
		assert.Equal(t, ColourText, KindOf(letter(t, seed, true)))
		assert.Equal(t, ContinuousTone, KindOf(scene(seed)))
	}
}

func TestLayersKeepWhatIsSeen(t *testing.T) {
	sampling.Heavy(t)
	page := letter(t, 1, true)
	l, err := newSubject(page, testDPI).inLayers().compressBackground(BackgroundParams{DPI: 75, Quality: 50})
	require.NoError(t, err)
	var before bytes.Buffer
	require.NoError(t, jpeg.Encode(&before, page, &jpeg.Options{Quality: 85}))
	drawn, err := l.draw(l.size())
	require.NoError(t, err)
	compressed := CompressedPage{Layered: l}
	require.NoError(t, Encode([]*CompressedPage{&compressed}))
	assert.Less(t, compressed.Bytes(), before.Len()/8, "an eighth of the JPEG")
	assert.Less(t, Difference(page, drawn), float64(mostDifference))
	assert.Equal(t, page.Rect.Dx()*maskDPI/testDPI, drawn.Rect.Dx(), "a mask is finer than a picture of 200 dots an inch")
	at := func(x, y int) color.RGBA { return drawn.RGBAAt(x*maskDPI/testDPI, y*maskDPI/testDPI) }
	stamp, signature, paper := at(1200, 1840), at(253, 2003), at(100, 100)
	assert.Greater(t, int(stamp.R)-int(stamp.B), 100, "the stamp is red: %v", stamp)
	assert.Greater(t, int(signature.B)-int(signature.R), 80, "the signature is blue: %v", signature)
	assert.InDelta(t, 232, paper.B, 6, "the paper keeps its tint")
	assert.GreaterOrEqual(t, len(l.Inks), 3)
	assert.LessOrEqual(t, len(l.Inks), mostInks)
}

func TestAGreyPageHasAGreyBackground(t *testing.T) {
	gray := image.NewGray(image.Rect(0, 0, 600, 800))
	draw.Draw(gray, gray.Rect, image.NewUniform(color.Gray{Y: 230}), image.Point{}, draw.Src)
	draw.Draw(gray, image.Rect(100, 100, 400, 110), image.Black, image.Point{}, draw.Src)
	l, err := newSubject(gray, 300).inLayers().compressBackground(BackgroundParams{DPI: 150, Quality: 60})
	require.NoError(t, err)
	assert.True(t, l.Background.Gray)
	assert.Equal(t, []int{300, 400}, []int{l.Background.Width, l.Background.Height})
}

func TestLayersOfAwkwardPictures(t *testing.T) {
	black := image.NewGray(image.Rect(0, 0, 90, 70))
	for name, img := range map[string]image.Image{
		"one pixel": image.NewGray(image.Rect(0, 0, 1, 1)), "all black": black,
		"a pixel wide": image.NewGray(image.Rect(0, 0, 1, 300)), "away from the origin": black.SubImage(image.Rect(20, 20, 60, 60)),
		"very wide": image.NewRGBA(image.Rect(0, 0, 5000, 2)),
	} {
		l, err := newSubject(img, 300).inLayers().compressBackground(BackgroundParams{DPI: 75, Quality: 50})
		require.NoError(t, err, name)
		drawn, err := l.draw(l.size())
		require.NoError(t, err, name)
		assert.Equal(t, img.Bounds().Size(), drawn.Rect.Size(), name)
		fine, err := newSubject(img, 150).inLayers().compressBackground(BackgroundParams{DPI: 75, Quality: 50})
		require.NoError(t, err, name)
		assert.Equal(t, 2*img.Bounds().Dx(), fine.Width, name)
	}
}

func TestDifferenceFindsWhatIsLost(t *testing.T) {
	page := letter(t, 2, false)
	assert.Zero(t, Difference(page, page))
	lost := image.NewRGBA(page.Rect)
	copy(lost.Pix, page.Pix)
	draw.Draw(lost, image.Rect(300, 400, 420, 440), image.NewUniform(color.RGBA{244, 241, 232, 255}), image.Point{}, draw.Src)
	assert.Greater(t, Difference(page, lost), float64(mostDifference), "two words are gone")
}

func BenchmarkLayer(b *testing.B) {
	page := letter(b, 1, true)
	for b.Loop() {
		_, err := newSubject(page, testDPI).inLayers().compressBackground(BackgroundParams{DPI: 75, Quality: 50})
		require.NoError(b, err)
	}
}

func TestLighterPages(t *testing.T) {
	sampling.Heavy(t)
	oneBit := image.NewGray(image.Rect(0, 0, 300, 200))
	draw.Draw(oneBit, image.Rect(20, 20, 200, 24), image.White, image.Point{}, draw.Src)
	mixed := letter(t, 4, false)
	draw.Draw(mixed, image.Rect(250, 900, 1150, 1700), scene(5), image.Point{}, draw.Src)
	for name, c := range map[string]struct {
		img  image.Image
		kind Kind
		way  Encoding
	}{
		"black and white":      {oneBit, BlackText, OneBit},
		"a letter":             {letter(t, 3, false), BlackText, Layers},
		"a stamped letter":     {letter(t, 3, true), ColourText, Layers},
		"a photograph":         {scene(3), ContinuousTone, Resized},
		"a photograph in text": {mixed, ColourText, Layers},
	} {
		m, _, err := Measure(c.img, testDPI, 1<<30, LosslessOnly)
		require.NoError(t, err, name)
		smaller := m.Smaller(Auto)
		compressed, err := Write(c.img, testDPI, smaller.EncodingParams)
		require.NoError(t, err, name)
		require.NoError(t, Encode([]*CompressedPage{nil, &compressed}))
		assert.Equal(t, c.kind, m.Kind, name)
		assert.Equal(t, c.way, compressed.Encoding, name)
		assert.Equal(t, smaller.Bytes, int64(compressed.Bytes()), "%s: what was measured is what is written", name)
		assert.GreaterOrEqual(t, smaller.Fidelity, leastKept, name)
	}
	large, err := Write(scene(3), 400, losslessEncodings[1])
	require.NoError(t, err)
	assert.Equal(t, image.Pt(600, 800), image.Pt(large.JPEG.Width, large.JPEG.Height), "at 200 dots an inch")
}

func TestPagesAreWrittenTogether(t *testing.T) {
	sampling.Heavy(t)
	var alone, together []*CompressedPage
	sum := func(compressedPages []*CompressedPage) (n int) {
		for _, compressed := range compressedPages {
			n += compressed.Bytes()
		}
		return n
	}
	for seed := range uint64(3) {
		compressed, err := Write(letter(t, seed, false), testDPI, losslessEncodings[0])
		require.NoError(t, err)
		again := compressed
		again.Layered.Inks = slices.Clone(compressed.Layered.Inks)
		require.NoError(t, Encode([]*CompressedPage{&compressed}))
		alone, together = append(alone, &compressed), append(together, &again)
	}
	require.NoError(t, Encode(together))
	assert.NotEmpty(t, together[0].Shared)
	assert.Less(t, sum(together), sum(alone))
}

func TestAPartInBlackAndWhiteIsWrittenTogetherWithOthers(t *testing.T) {
	oneBit := image.NewGray(image.Rect(0, 0, 300, 200))
	draw.Draw(oneBit, oneBit.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(oneBit, image.Rect(20, 20, 200, 24), image.Black, image.Point{}, draw.Src)
	compressed, isWorthIt, err := WritePart(Part{Image: oneBit, DPI: 200, Bytes: 5000}, EncodingParams{Encoding: Resized, DPI: 200, Quality: 78})
	require.NoError(t, err)
	require.True(t, isWorthIt)
	require.NoError(t, Encode([]*CompressedPage{&compressed}))
	again, err := jbig2.Decode(compressed.Shared, compressed.Layered.Inks[0].Data)
	require.NoError(t, err)
	assert.Equal(t, bilevel.FromGray(oneBit).Bits, again.Bits)
}

// TestPrintOfAPaperThatIsTooLargeIsInLayers has a page of so few dots an inch that its letters would be taller than any:
// its file does not tell how large the paper is.
func TestPrintOfAPaperThatIsTooLargeIsInLayers(t *testing.T) {
	sampling.Heavy(t)
	large := letter(t, 6, true)
	page := raster.Resize(large, large.Rect.Dx()*100/testDPI, large.Rect.Dy()*100/testDPI)
	var scan bytes.Buffer
	require.NoError(t, jpeg.Encode(&scan, page, &jpeg.Options{Quality: 75}))
	img, err := jpeg.Decode(&scan)
	require.NoError(t, err)
	smaller := func(dpi float64) Candidate {
		m, _, err := Measure(img, dpi, 200_000, LosslessOnly)
		require.NoError(t, err)
		return m.Smaller(Auto)
	}
	known := smaller(150)
	assert.Equal(t, Layers, known.Encoding)
	assert.Equal(t, known.Bytes, smaller(60).Bytes)
}
