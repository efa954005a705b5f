package typeface

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/font"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
)

func TestWidths(t *testing.T) {
	for _, face := range Faces {
		assert.InDelta(t, 2*face.Width("Page 1 of 20", 10), face.Width("Page 1 of 20", 20), 1e-9)
		assert.InDelta(t, face.Width("Page", 10)+face.Width(" 1", 10), face.Width("Page 1", 10), 1e-9)
		assert.Greater(t, face.Width("m", 10), face.Width("i", 10))
		assert.InDelta(t, 0.7, face.Metrics().CapHeight, 0.1)
	}
}

func TestMissingLetters(t *testing.T) {
	for text, want := range map[string]rune{"Größe, Łódź, Ωμέγα, Жук": 0, "a 漢 b": '漢', "": 0} {
		letter, found := Sans.Missing(text)
		assert.Equal(t, want, letter, text)
		assert.Equal(t, want != 0, found)
	}
}

// TestSubsetsDrawTheSame draws a text with the whole face and with its subset.
func TestSubsetsDrawTheSame(t *testing.T) {
	const text = "Page 12 of 340: Ångström, naïve, ½ (Ǻ)"
	for _, face := range Faces {
		subset := NewSubset(face)
		numbers := make([]uint16, 0, len(text))
		for _, r := range text {
			numbers = append(numbers, subset.Use(r))
		}
		file := subset.File()
		assert.Less(t, len(file), len(face.File())/5)
		small, err := sfnt.Parse(withNames(file, face))
		require.NoError(t, err)
		whole, err := sfnt.Parse(face.File())
		require.NoError(t, err)
		assert.Len(t, subset.Advances(), len(subset.Runes()))
		var buffer sfnt.Buffer
		for i, r := range []rune(text) {
			index, err := whole.GlyphIndex(&buffer, r)
			require.NoError(t, err)
			want, err := whole.LoadGlyph(&buffer, index, fixed.I(1000), nil)
			require.NoError(t, err)
			want = append(sfnt.Segments{}, want...)
			got, err := small.LoadGlyph(&buffer, sfnt.GlyphIndex(numbers[i]), fixed.I(1000), nil)
			require.NoError(t, err)
			assert.Equal(t, want, got, string(r))
			assert.Equal(t, r, subset.Runes()[numbers[i]])
			advance, err := small.GlyphAdvance(&buffer, sfnt.GlyphIndex(numbers[i]), fixed.I(1000), font.HintingNone)
			require.NoError(t, err)
			assert.InDelta(t, face.Width(string(r), 1000), float64(advance)/64, 0.5)
		}
		_, err = opentype.NewFace(small, &opentype.FaceOptions{Size: 12, DPI: 72})
		require.NoError(t, err)
	}
}

// withNames gives a subset's file the tables that PDFs do without, and this reader does not.
func withNames(file []byte, face Face) []byte {
	tables, whole := tablesOf(file), tablesOf(face.File())
	for _, name := range []string{"cmap", "name", "post", "OS/2"} {
		tables[name] = whole[name]
	}
	return writeTables(tables)
}

func TestLettersThatAreLackingAreNoGlyph(t *testing.T) {
	subset := NewSubset(Serif)
	assert.Zero(t, subset.Use('漢'))
	assert.NotZero(t, subset.Use('a'))
	assert.Equal(t, subset.Use('a'), subset.Use('a'))
	assert.Len(t, subset.Runes(), 2)
}
