package raster

import (
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"math/rand/v2"
	"strings"
	"testing"

	"dorbin/internal/sampling"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"
)

const prose = `The council will consider the application at its next meeting in the town hall. Objections
should be sent in writing to the planning office before the end of the month, together with any
photographs that help to describe what is proposed. The applicant has been asked to provide a drawing
of the northern elevation, because the one that was submitted does not show the height of the porch.`

// writtenPage is an A4 page of words in the given size, scanned at 120 dpi a
// little askew, with noise.
func writtenPage(t testing.TB, seed uint64, points float64, upperCase bool) *image.Gray {
	t.Helper()
	const dpi = 120
	random := rand.New(rand.NewPCG(seed, 9))
	parsed, err := opentype.Parse(goregular.TTF)
	require.NoError(t, err)
	face, err := opentype.NewFace(parsed, &opentype.FaceOptions{Size: points, DPI: dpi})
	require.NoError(t, err)
	page := image.NewGray(image.Rect(0, 0, 992, 1403))
	draw.Draw(page, page.Rect, image.NewUniform(color.Gray{Y: 236}), image.Point{}, draw.Src)
	words := strings.Fields(prose)
	lean := (random.Float64() - 0.5) * 0.02 // about half a degree
	leading := int(points * 1.3 * dpi / 72)
	for y := 130; y < 1300; y += leading {
		line := &font.Drawer{Dst: page, Src: image.NewUniform(color.Gray{Y: 40}), Face: face}
		for x := 110; x < 800; x = line.Dot.X.Ceil() + 8 {
			word := words[random.IntN(len(words))]
			if upperCase {
				word = strings.ToUpper(word)
			}
			line.Dot = fixed.P(x, y+int(lean*float64(x)))
			line.DrawString(word)
		}
		if random.IntN(9) == 0 {
			y += leading
		}
	}
	for i := range page.Pix {
		page.Pix[i] = uint8(max(0, min(255, int(page.Pix[i])+random.IntN(21)-10)))
	}
	return page
}

func TestFindStanding(t *testing.T) {
	sampling.Heavy(t)
	right, silent := 0, 0
	for seed := range uint64(3) {
		for _, points := range []float64{9, 11, 14} {
			page := writtenPage(t, seed, points, false)
			for _, turn := range []int{0, 90, 180, 270} {
				found := FindWriting(Turn(page, turn)).Standing()
				want := (360 - turn) % 360
				switch {
				case found.Sure < SureStanding:
					silent++
				default:
					assert.Equal(t, want, found.Turn, "seed %d, %v points, turned by %d, sure %.2f", seed, points, turn, found.Sure)
					right++
				}
			}
		}
	}
	assert.LessOrEqual(t, silent, 2, "of 36 pages")
	t.Logf("%d right, %d silent", right, silent)
}

func TestFindStandingIsSilent(t *testing.T) {
	blank := image.NewGray(image.Rect(0, 0, 700, 1000))
	draw.Draw(blank, blank.Rect, image.White, image.Point{}, draw.Src)
	noise := image.NewGray(image.Rect(0, 0, 700, 1000))
	random := rand.New(rand.NewPCG(1, 1))
	for i := range noise.Pix {
		noise.Pix[i] = uint8(random.IntN(256))
	}
	rules := image.NewGray(image.Rect(0, 0, 700, 1000))
	draw.Draw(rules, rules.Rect, image.White, image.Point{}, draw.Src)
	for y := 50; y < 950; y += 20 {
		draw.Draw(rules, image.Rect(50, y, 650, y+2), image.Black, image.Point{}, draw.Src)
	}
	for name, page := range map[string]image.Image{
		"blank": blank, "noise": noise, "rules": rules, "one pixel": image.NewGray(image.Rect(0, 0, 1, 1)),
		"capitals": writtenPage(t, 3, 11, true),
	} {
		assert.Less(t, FindWriting(page).Standing().Sure, SureStanding, name)
	}
}

func TestInkTellsBlankPages(t *testing.T) {
	blank := writtenPage(t, 1, 400, false) // letters larger than the page's lines
	draw.Draw(blank, blank.Rect, image.NewUniform(color.Gray{Y: 230}), image.Point{}, draw.Src)
	random := rand.New(rand.NewPCG(2, 2))
	for i := range blank.Pix {
		blank.Pix[i] = uint8(int(blank.Pix[i]) + random.IntN(25) - 12)
	}
	assert.Less(t, FindWriting(blank).Ink(), 0.0002)
	draw.Draw(blank, image.Rect(300, 500, 420, 512), image.Black, image.Point{}, draw.Src) // a line of a few words
	assert.Greater(t, FindWriting(blank).Ink(), 0.0008)
	assert.Greater(t, FindWriting(writtenPage(t, 1, 11, false)).Ink(), 0.03)
}

func TestFindTwins(t *testing.T) {
	var pages []Miniature
	for seed := range uint64(12) {
		pages = append(pages, NewMiniature(writtenPage(t, seed, 11, false)))
	}
	again := func(seed uint64, turn int) Miniature { // scanned again: darker, noisier, a little shifted
		page := writtenPage(t, seed, 11, false)
		shifted := image.NewGray(page.Rect)
		random := rand.New(rand.NewPCG(seed, 77))
		for y := range 1403 {
			for x := range 992 {
				v := int(page.GrayAt(max(0, x-3), max(0, y-4)).Y)
				shifted.SetGray(x, y, color.Gray{Y: uint8(max(0, min(255, v*9/10+random.IntN(31)-15)))})
			}
		}
		return NewMiniature(Turn(shifted, turn))
	}
	pages = append(pages, again(2, 0), again(5, 180), again(7, 90), nil)
	twins := FindTwins(pages, 0.95)
	require.Len(t, twins, 3, fmt.Sprint(twins))
	assert.Equal(t, []int{2, 12, 0}, []int{twins[0].First, twins[0].Second, twins[0].Turn})
	assert.Equal(t, []int{5, 13, 180}, []int{twins[1].First, twins[1].Second, twins[1].Turn})
	assert.Equal(t, []int{7, 14, 90}, []int{twins[2].First, twins[2].Second, twins[2].Turn})
}

func TestMiniatureTurnsLikeThePage(t *testing.T) {
	page := writtenPage(t, 4, 14, false)
	m := NewMiniature(page)
	for _, turn := range []int{90, 180, 270} {
		assert.Greater(t, m.Turned(turn).Likeness(NewMiniature(Turn(page, turn))), 0.97, turn)
	}
}

func BenchmarkFindStanding(b *testing.B) {
	page := writtenPage(b, 1, 11, false)
	for b.Loop() {
		FindWriting(page).Standing()
	}
}
