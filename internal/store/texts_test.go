package store

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/text"
)

func lineWith(words string) text.Page {
	return text.Page{Lines: []text.Line{{At: geometry.Point{X: 10, Y: 20}, Size: 11, Words: []text.Word{{Text: words, Width: 30, Sure: 91}}}}}
}

func TestTextsAreAskedForKeptAndCancelled(t *testing.T) {
	s := open(t, t.TempDir())
	require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("Roof")))
	pin := save(t, s, "scan")
	defer pin.Release()
	addSource(t, s, "k", "f", pin.SHA256)
	key := func(page int) TextKey { return TextKey{Source: "f", Page: page} }
	state := func(page int) TextState {
		texts, err := s.Texts(t.Context(), "k")
		require.NoError(t, err)
		return texts[key(page)].State
	}

	own := TextInfo{TextKey: key(1), State: TextOwn, Words: 1, Upright: UprightUnknown}
	require.NoError(t, s.KeepText(t.Context(), own, lineWith("Öwn")))
	require.NoError(t, s.AskTexts(t.Context(), []TextInfo{{TextKey: key(2), Languages: "eng+deu", Turn: 90}, {TextKey: key(3)}}))
	texts, err := s.Texts(t.Context(), "k")
	require.NoError(t, err)
	assert.Equal(t, own, texts[key(1)])
	assert.Equal(t, TextInfo{TextKey: key(2), State: TextAsked, Languages: "eng+deu", Turn: 90, Upright: UprightUnknown}, texts[key(2)])

	read := TextInfo{TextKey: key(2), State: TextRead, Words: 1, Doubtful: 1, Upright: 270}
	require.NoError(t, s.KeepText(t.Context(), read, lineWith("Rëad")))
	folded, err := s.FoldedTexts(t.Context(), "k")
	require.NoError(t, err)
	assert.Equal(t, "own", folded[key(1)])
	assert.Equal(t, "read", folded[key(2)])
	page, err := s.Text(t.Context(), key(2))
	require.NoError(t, err)
	assert.Equal(t, lineWith("Rëad"), page)

	// What is read again keeps its text when that is cancelled; what was never read is forgotten, and
	// what comes afterwards is not kept.
	require.NoError(t, s.AskTexts(t.Context(), []TextInfo{{TextKey: key(2)}}))
	assert.Equal(t, TextAsked, state(2))
	require.NoError(t, s.CancelTexts(t.Context(), "k"))
	assert.Equal(t, TextRead, state(2))
	assert.Empty(t, state(3))
	require.NoError(t, s.KeepText(t.Context(), TextInfo{TextKey: key(3), State: TextRead}, lineWith("late")))
	assert.Empty(t, state(3))

	// That a page has its own text shows after it was asked for: it is not read. One that has none is.
	require.NoError(t, s.AskTexts(t.Context(), []TextInfo{{TextKey: key(4)}, {TextKey: key(5)}}))
	require.NoError(t, s.KeepText(t.Context(), TextInfo{TextKey: key(4), State: TextOwn, Words: 1}, lineWith("own")))
	require.NoError(t, s.KeepText(t.Context(), TextInfo{TextKey: key(5), State: TextNone}, text.Page{}))
	assert.Equal(t, TextOwn, state(4))
	assert.Equal(t, TextAsked, state(5))
	require.NoError(t, s.CancelTexts(t.Context(), "k"))

	require.NoError(t, s.SetReading(t.Context(), "k", Reading{Languages: "deu", Every: true}))
	said, err := s.Reading(t.Context(), "k")
	require.NoError(t, err)
	assert.Equal(t, Reading{"deu", true}, said)
	require.NoError(t, s.DeletePacket(t.Context(), "k"))
	texts, err = s.Texts(t.Context(), "k")
	require.NoError(t, err)
	assert.Empty(t, texts)
	said, err = s.Reading(t.Context(), "k")
	require.NoError(t, err)
	assert.Equal(t, Reading{}, said)
	assert.ErrorIs(t, s.KeepText(t.Context(), own, lineWith("gone")), ErrNotFound)
}
