package check

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"

	"dorbin/core/raster"
)

// Made papers: letters of one letterhead and forms, drawn at 200 dpi and scanned at InkDPI.

const drawnDPI = 200

var words = strings.Fields(`the roof slate gutter invoice member boat water survey payment season lake rowing club
	fund letter please enclosed quarter annual meeting repair timber north south account balance receipt order
	signed agreed thank you regarding deliver between committee insurance policy number premium cover estimate`)

type sheetOfPaper struct {
	*image.Gray
	face   font.Face
	random *rand.Rand
}

func newPaper(t testing.TB, random *rand.Rand, points float64) *sheetOfPaper {
	t.Helper()
	parsed, err := opentype.Parse(goregular.TTF)
	require.NoError(t, err)
	face, err := opentype.NewFace(parsed, &opentype.FaceOptions{Size: points, DPI: drawnDPI, Hinting: font.HintingNone})
	require.NoError(t, err)
	page := image.NewGray(image.Rect(0, 0, 1654, 2339))
	draw.Draw(page, page.Rect, image.White, image.Point{}, draw.Src)
	return &sheetOfPaper{page, face, random}
}

func (p *sheetOfPaper) write(x, y int, text string) {
	drawer := font.Drawer{Dst: p, Src: image.NewUniform(color.Gray{Y: 30}), Face: p.face, Dot: fixed.P(x, y)}
	drawer.DrawString(text)
}

func (p *sheetOfPaper) rule(x0, y, x1 int) {
	draw.Draw(p, image.Rect(x0, y, x1, y+3), image.NewUniform(color.Gray{Y: 60}), image.Point{}, draw.Src)
}

func (p *sheetOfPaper) say(n int) string {
	said := make([]string, n)
	for i := range said {
		said[i] = words[p.random.IntN(len(words))]
	}
	return strings.Join(said, " ")
}

// letter is one of a letterhead; what is said goes by the seed.
func letter(t testing.TB, seed uint64, lines int) image.Image {
	p := newPaper(t, rand.New(rand.NewPCG(seed, 1)), 11)
	draw.Draw(p, image.Rect(150, 140, 330, 240), image.NewUniform(color.Gray{Y: 90}), image.Point{}, draw.Src)
	p.write(360, 190, "Larkmere Rowing Club · Boathouse Lane 4 · Larkmere")
	p.write(360, 230, "Treasurer and secretary: office at the boathouse")
	p.rule(150, 260, 1504)
	p.write(150, 420, p.say(3))
	p.write(150, 460, p.say(2))
	p.write(1150, 520, fmt.Sprintf("%d March 20%02d", 1+p.random.IntN(28), 10+p.random.IntN(16)))
	p.write(150, 640, "Dear members,")
	for i := range lines {
		p.write(150, 720+i*44, p.say(9))
	}
	p.write(150, 800+lines*44, "Yours sincerely")
	p.write(150, 960+lines*44, p.say(2))
	p.rule(150, 2180, 1504)
	p.write(150, 2230, "Account 1234 5678 · Tarn Valley Bank")
	return p.Gray
}

// form is one of a kind; what is filled in goes by the seed.
func form(t testing.TB, seed uint64) image.Image {
	p := newPaper(t, rand.New(rand.NewPCG(seed, 2)), 11)
	p.write(150, 200, "Application for a grant · Form 12")
	p.rule(150, 230, 1504)
	for i, label := range []string{
		"Name", "Street", "Town", "Telephone", "Purpose", "Amount asked for", "Own share", "Date of birth", "Bank", "Account",
	} {
		y := 340 + i*150
		p.write(150, y, label)
		p.rule(520, y+12, 1504)
		value := p.say(3)
		if i == 5 || i == 6 || i == 9 {
			value = fmt.Sprint(1000 + p.random.IntN(900_000))
		}
		p.write(530, y, value)
	}
	p.write(150, 2000, "I declare that what is said above is true and complete.")
	p.rule(150, 2160, 800)
	return p.Gray
}

// scanned is a paper that went through a scanner: tilted, shifted, lit unevenly, with noise, and
// encoded as JPEG.
func scanned(t testing.TB, page image.Image, seed uint64) image.Image {
	random := rand.New(rand.NewPCG(seed, 3))
	gray := turnedBy(raster.ToGray(raster.Resize(page, 827, 1169)), (random.Float64()-0.5)*3)
	small := image.NewGray(gray.Rect)
	draw.Draw(small, small.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(small, small.Rect, gray, image.Pt(random.IntN(25)-12, random.IntN(25)-12), draw.Src)
	out := image.NewGray(small.Rect)
	light, noise := 0.82+random.Float64()*0.16, 3+random.Float64()*6
	for y := range 1169 {
		for x := range 827 {
			v := float64(small.GrayAt(x, y).Y)*(light-0.06*float64(x)/827) + random.NormFloat64()*noise
			out.SetGray(x, y, color.Gray{Y: uint8(max(0, min(255, v)))})
		}
	}
	var encoded bytes.Buffer
	require.NoError(t, jpeg.Encode(&encoded, out, &jpeg.Options{Quality: 65 + random.IntN(30)}))
	decoded, err := jpeg.Decode(&encoded)
	require.NoError(t, err)
	return decoded
}

// madePairs are how many pairs a run compares.
func madePairs() int {
	switch {
	case os.Getenv("DORBIN_CORPUS") == "all":
		return 300
	case testing.Short():
		return 6
	}
	return 12
}

func TestInkOfDifferentPapers(t *testing.T) {
	t.Parallel()
	for i := range madePairs() {
		seed := uint64(i)
		one, other := form(t, seed), form(t, seed+1000)
		if i%2 == 0 {
			lines := 1 + i%3*9
			one, other = letter(t, seed, lines), letter(t, seed+1000, lines)
		}
		got := CompareInk(FindInk(scanned(t, one, seed)), FindInk(scanned(t, other, seed+500)))
		assert.False(t, got.IsSame, "pair %d", i)
		assert.NotEmpty(t, got.Differences, "pair %d", i)
	}
}

func TestInkOfTheSamePaper(t *testing.T) {
	t.Parallel()
	missed := 0
	for i := range madePairs() {
		seed := uint64(i)
		page := form(t, seed)
		if i%2 == 0 {
			page = letter(t, seed, 1+i%3*9)
		}
		if got := CompareInk(FindInk(scanned(t, page, seed)), FindInk(scanned(t, page, seed+500))); !got.IsSame {
			t.Logf("pair %d: %d differences", i, len(got.Differences))
			missed++
		}
	}
	assert.LessOrEqual(t, float64(missed), 0.02*float64(madePairs()))
}

func TestInkDifferencesAreWhereTheyAre(t *testing.T) {
	page := form(t, 1)
	changed := image.NewGray(page.Bounds())
	draw.Draw(changed, changed.Rect, page, image.Point{}, draw.Src)
	p := newPaper(t, rand.New(rand.NewPCG(9, 9)), 11)
	p.Gray = changed
	draw.Draw(changed, image.Rect(530, 1040, 900, 1095), image.White, image.Point{}, draw.Src)
	p.write(530, 1090, "88,450")
	got := CompareInk(FindInk(scanned(t, page, 5)), FindInk(scanned(t, changed, 6)))
	require.NotEmpty(t, got.Differences)
	for _, box := range got.Differences {
		assert.InDelta(t, 1090.0/2339, (box.Y0+box.Y1)/2, 0.03, "the line of the amount")
	}
}

func TestInkOfATurnedPage(t *testing.T) {
	page := scanned(t, form(t, 3), 3)
	upright := FindInk(page)
	for _, turn := range []int{0, 90, 180, 270} {
		turned := FindInk(raster.Turn(page, turn))
		assert.True(t, CompareInk(upright.Turned(turn), turned).IsSame, turn)
		assert.Equal(t, upright, upright.Turned(turn).Turned((360-turn)%360))
	}
}

func TestInkOfBlankPages(t *testing.T) {
	blank := image.NewGray(image.Rect(0, 0, 827, 1169))
	draw.Draw(blank, blank.Rect, image.White, image.Point{}, draw.Src)
	assert.False(t, CompareInk(FindInk(blank), FindInk(blank)).IsSame, "blank pages are blank, not doubles")
	assert.False(t, CompareInk(FindInk(image.NewGray(image.Rect(0, 0, 1, 1))), FindInk(blank)).IsSame)
}
func BenchmarkFindInk(b *testing.B) {
	page := scanned(b, letter(b, 1, 19), 1)
	for b.Loop() {
		FindInk(page)
	}
}

func BenchmarkCompareInk(b *testing.B) {
	one, other := FindInk(scanned(b, letter(b, 1, 19), 1)), FindInk(scanned(b, letter(b, 2, 19), 2))
	for b.Loop() {
		CompareInk(one, other)
	}
}
