package server

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/packet"
	"dorbin/internal/export"
	"dorbin/internal/intake"
	"dorbin/internal/packets"
	"dorbin/internal/scanner"
	"dorbin/internal/scanning"
)

// Conflict is the answer to a command made for an old revision: a problem (RFC
// 9457) with the packet as it now stands.
type Conflict struct {
	huma.ErrorModel
	Packet packets.Packet `json:"packet"`
}

// problem turns an error of the application into one for the client.
func problem(err error) error {
	var conflict *packets.ConflictError
	if errors.As(err, &conflict) {
		return &Conflict{
			ErrorModel: huma.ErrorModel{
				Status: http.StatusConflict, Title: http.StatusText(http.StatusConflict),
				Detail: "The packet has changed in the meantime.",
			},
			Packet: conflict.Current,
		}
	}
	if err == nil {
		return nil
	}
	status, sentence := answerTo(err)
	if status == http.StatusInternalServerError {
		return internalError(err)
	}
	return huma.NewError(status, sentence)
}

// givenUp is the status of a request whose client has gone.
const givenUp = 499

// answerTo gives the status of an error and what its user reads of it.
func answerTo(err error) (status int, sentence string) {
	var trouble *intake.Problem
	var fault *scanner.Fault
	var invalid *packet.InvalidError
	var pages *packet.RangeError
	switch {
	case errors.As(err, &trouble):
		return http.StatusUnprocessableEntity, trouble.Sentence
	case errors.As(err, &fault):
		return http.StatusUnprocessableEntity, fault.Sentence
	case errors.As(err, &invalid):
		return http.StatusUnprocessableEntity, asSentence(invalid.Cause)
	case errors.As(err, &pages):
		return http.StatusUnprocessableEntity, pages.Problem
	case errors.Is(err, export.ErrEmptyPacket):
		return http.StatusUnprocessableEntity, asSentence(err)
	case errors.Is(err, packets.ErrNothingToUndo), errors.Is(err, packets.ErrNothingToRedo),
		errors.Is(err, scanning.ErrScanning), errors.Is(err, scanning.ErrNothingScanned):
		return http.StatusConflict, asSentence(err)
	case errors.Is(err, packets.ErrNotFound), errors.Is(err, fs.ErrNotExist):
		return http.StatusNotFound, "There is no such thing here. It may have been deleted."
	case errors.Is(err, context.Canceled):
		return givenUp, "The request was given up."
	}
	return http.StatusInternalServerError, ""
}

// internalError logs what went wrong under a number, and tells the client the number alone.
func internalError(err error) error {
	id := strings.ToLower(rand.Text()[:8])
	slog.Error("request failed", "id", id, "error", err)
	return huma.Error500InternalServerError(fmt.Sprintf("Something went wrong here, and nothing was changed. The log tells more under the number %s.", id))
}

// asSentence writes an error as its user reads it.
func asSentence(err error) string {
	text := err.Error()
	first, size := utf8.DecodeRuneInString(text)
	text = string(unicode.ToUpper(first)) + text[size:]
	if strings.ContainsRune(".!?", rune(text[len(text)-1])) {
		return text
	}
	return text + "."
}
