package message

import (
	"encoding/json"
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTextsSayHowTheyArePutTogether(t *testing.T) {
	inner := Count(3, "%d page", "%d pages")
	text := Of("Moved %s of “%s” by %.1f° on %s: %q", inner, "Roof.pdf", 2.04, Day("2026-03-01"), "odd")
	assert.Equal(t, `Moved 3 pages of “Roof.pdf” by 2.0° on 1 March 2026: "odd"`, text.English)
	assert.Equal(t, "Moved-0-of-1-by-2-on-3-4", text.Code)
	require.Len(t, text.Values, 5)
	assert.Equal(t, &inner, text.Values[0].Text)
	assert.Equal(t, "Roof.pdf", text.Values[1].Words)
	assert.InDelta(t, 2.04, *text.Values[2].Number, 1e-9)
	assert.Equal(t, 1, text.Values[2].Decimals)
	assert.Equal(t, "2026-03-01", text.Values[3].Day)
	assert.Equal(t, `"odd"`, text.Values[4].Words)
	assert.Equal(t, `""`, Of("%q", "").Values[0].Words)
}

func TestCounts(t *testing.T) {
	for n, want := range map[int]string{0: "0 pages", 1: "1 page", 2: "2 pages"} {
		text := Count(n, "%d page", "%d pages")
		assert.Equal(t, want, text.English)
		assert.Equal(t, "0-pages", text.Code)
		assert.Equal(t, n, *text.Count)
	}
	assert.Equal(t, "A page seems to be missing", Count(1, "A page seems to be missing", "%d pages seem to be missing").English)
	assert.Equal(t, "100 % of them", Count(100, "%d %% of it", "%d %% of them").English)
	assert.Equal(t, "Pages 3 and 4 are blank", Count(2, "%s is blank", "%s are blank", Of("Pages %s", And(3, 4))).English)
}

func TestLists(t *testing.T) {
	assert.Equal(t, "a, b and c", And("a", "b", "c").English)
	assert.Equal(t, "A4 or A5", Or("A4", "A5").English)
	assert.Equal(t, "1, 2", Commas(1, 2).English)
	assert.Equal(t, "a", And("a").English)
	assert.True(t, And[string]().IsEmpty())
	assert.Equal(t, "It is so. It is not.", Sentences(Of("It is so."), Of("It is not.")).English)
	then := Then(Of("Turned %s right", "x"), Of("Turned %s right", "y"), Of("Éclair"))
	assert.Equal(t, "Turned x right, then turned y right, then éclair", then.English)
	assert.Equal(t, "Turned-0-right", then.Values[1].Text.Code)
}

func TestSentencesBeginAndEndAsSuch(t *testing.T) {
	for format, want := range map[string]string{"a page": "A page.", "é!": "É!", "“x” is it?": "“x” is it?", "": ""} {
		text := Plain(format).AsSentence()
		assert.Equal(t, want, text.English)
		assert.Equal(t, want != "", text.Sentence)
	}
	assert.Equal(t, "scan.pdf is empty.", Sentence("%s is empty", "scan.pdf").English, "names of files stay")
	assert.Equal(t, "2 pages of scan.pdf.", Sentence("%s of %s", Count(2, "%d page", "%d pages"), "scan.pdf").English)
	assert.Equal(t, "Nothing is there.", Sentence("%s is there", Of("nothing")).English)
}

func TestErrorsKeepTheirTexts(t *testing.T) {
	lacking := Errorf("page %d is not there", 3)
	assert.EqualError(t, lacking, "page 3 is not there")
	assert.Equal(t, Of("page %d is not there", 3), OfError(lacking))
	assert.Equal(t, Of("page %d is not there", 3), OfError(errors.Join(nil, lacking)))
	assert.Equal(t, "page 3 is not there, page 4 is not there", OfError(errors.Join(lacking, Errorf("page %d is not there", 4))).English)
	assert.Equal(t, Plain("read: page 3 is not there"), OfError(fmt.Errorf("read: %w", lacking)), "what wraps it says more")
	nested := Of("Not done: %s", lacking)
	assert.Equal(t, "Not done: page 3 is not there", nested.English)
	assert.Equal(t, "page-0-is-not-there", nested.Values[0].Text.Code)
	assert.Equal(t, "EOF", Of("Not done: %s", errors.New("EOF")).Values[0].Words)
}

func TestCodes(t *testing.T) {
	assert.Equal(t, "Page {{0}} of {{1}}, 100 %", Pattern("Page %d of %02d, 100 %%"))
	assert.NotEqual(t, Code("Bookmarks"), Code("bookmarks"))
	assert.NotEqual(t, Code("%s %s"), Code("%s, %s"), "those without words are told apart")
	long := "The document could not be made: one of its pages stops the program"
	assert.Less(t, len(Code(long)), longestCode+10)
	assert.NotEqual(t, Code(long+" now"), Code(long+" once"))
	assert.NotEmpty(t, Code("ppppppppppppppppppppppppppppppppppppppppppppppppppppppppppppppppppp"))
}

// FuzzUnmarshal reads what may stand in a data folder, also of a version that kept English alone.
func FuzzUnmarshal(f *testing.F) {
	for _, text := range []Text{{}, Plain("Turned page 3"), Of("Turned %s %d", Count(2, "%d page", "%d pages"), 90).AsSentence(), And("a", "b")} {
		encoded, err := json.Marshal(text)
		require.NoError(f, err)
		f.Add(encoded)
	}
	f.Add([]byte(`"Turned page 3"`))
	f.Fuzz(func(t *testing.T, encoded []byte) {
		var text Text
		if json.Unmarshal(encoded, &text) != nil {
			return
		}
		again, err := json.Marshal(text)
		require.NoError(t, err)
		var same Text
		require.NoError(t, json.Unmarshal(again, &same))
		assert.Equal(t, text.English, same.English)
		assert.Len(t, same.Values, len(text.Values))
		_ = text.AsSentence()
	})
}
