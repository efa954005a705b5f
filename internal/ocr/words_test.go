package ocr

import (
	"image"
	"image/color"
	"image/draw"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"
)

// written is a page of lines of print of 11 points at 200 dpi.
func written(t *testing.T, width, height int, lines ...string) *image.Gray {
	t.Helper()
	parsed, err := opentype.Parse(goregular.TTF)
	require.NoError(t, err)
	face, err := opentype.NewFace(parsed, &opentype.FaceOptions{Size: 11, DPI: 200})
	require.NoError(t, err)
	page := image.NewGray(image.Rect(0, 0, width, height))
	draw.Draw(page, page.Rect, image.NewUniform(color.Gray{Y: 245}), image.Point{}, draw.Src)
	for i, line := range lines {
		drawer := &font.Drawer{Dst: page, Src: image.Black, Face: face, Dot: fixed.P(40, 120+60*i)}
		drawer.DrawString(line)
	}
	return page
}

func TestWordsOfAPage(t *testing.T) {
	page := written(t, 1000, 300, "Repair of the boathouse roof, 2026.")
	words, err := Reader{}.Words(t.Context(), page)
	require.NoError(t, err)
	var texts []string
	for _, word := range words {
		texts = append(texts, word.Text)
		assert.Greater(t, word.Confidence, 60.0, word.Text)
	}
	assert.Equal(t, []string{"Repair", "of", "the", "boathouse", "roof", "2026"}, texts)
}

func FuzzTable(f *testing.F) {
	f.Add("level\tpage_num\tblock_num\tpar_num\tline_num\tword_num\tleft\ttop\twidth\theight\tconf\ttext\n" +
		"5\t1\t1\t1\t1\t1\t80\t90\t90\t30\t96.1\tRoof,\n5\t1\t1\t1\t1\t2\t80\t90\t90\t30\t-1\t\n")
	f.Add("\t\t\t\t\t\t\t\t\t\t5\tä\t\n")
	f.Fuzz(func(t *testing.T, table string) {
		for _, word := range parseTable(table) {
			assert.NotEmpty(t, word.Text)
			assert.GreaterOrEqual(t, word.Confidence, 0.0)
		}
	})
}
