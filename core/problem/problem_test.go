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
		assert.Equal(t, want, New(Conflict, "%s", text).Sentence.English)
		assert.Equal(t, want, Because(Invalid, errors.New(text)).Error())
	}
}
