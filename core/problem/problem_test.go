package problem

import (
	"errors"
	"fmt"
	"io"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/message"
)

func TestErrorsMatchTheirKindAndTheirCause(t *testing.T) {
	err := fmt.Errorf("add a file: %w", &Error{Kind: Invalid, Sentence: message.Of("It is empty."), Cause: io.EOF})
	assert.ErrorIs(t, err, Invalid)
	assert.ErrorIs(t, err, io.EOF)
	assert.NotErrorIs(t, err, Conflict)
}

func TestSentences(t *testing.T) {
	for text, want := range map[string]string{
		"a page is turned by 90": "A page is turned by 90.",
		"é is no page":           "É is no page.",
		"Is it there?":           "Is it there?",
		"wait.":                  "Wait.",
	} {
		assert.Equal(t, want, Because(Invalid, errors.New(text)).Error())
	}
}

func TestProblemsAreSentences(t *testing.T) {
	assert.Equal(t, "A page is turned by 90.", New(Conflict, "a page is turned by %d", 90).Error())
	assert.Equal(t, "scan.pdf is not one PDF.", New(Invalid, "%s is not one PDF", "scan.pdf").Error())
}

func TestWhatIsWrongIsSaidOfWhatHasAName(t *testing.T) {
	wrong := message.Of("cannot be read: it takes more than %d s", 9)
	for _, sentence := range []message.Text{This(wrong), ThisPage(wrong)} {
		words, ok := WithoutThis(sentence)
		assert.True(t, ok)
		assert.Equal(t, wrong, words)
	}
	assert.Equal(t, "This page cannot be read: it takes more than 9 s.", ThisPage(wrong).English)
	kept, ok := WithoutThis(message.Plain("This page is damaged and cannot be shown."))
	assert.True(t, ok, "a sentence that an earlier version kept")
	assert.Equal(t, "is damaged and cannot be shown", kept.English)
	_, ok = WithoutThis(message.Text{English: "This is cut off.", Code: message.Code(thisFormat)})
	assert.False(t, ok, "a sentence of a file that lost its values")
	_, ok = WithoutThis(message.Of("The disk is full."))
	assert.False(t, ok)
}
