package server

import (
	"context"
	"errors"
	"net/http"
	"unicode"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/packet"
	"dorbin/internal/app"
	"dorbin/internal/intake"
	"dorbin/internal/scanner"
)

// Conflict is the answer to a command made for an old revision: a problem (RFC
// 9457) with the packet as it now stands.
type Conflict struct {
	huma.ErrorModel
	Packet app.Packet `json:"packet"`
}

// problem turns an error of the application into one for the client.
func problem(err error) error {
	var conflict *app.ConflictError
	var trouble *intake.Problem
	var fault *scanner.Fault
	var command *packet.CommandError
	var pages *packet.RangeError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &conflict):
		return &Conflict{
			ErrorModel: huma.ErrorModel{
				Status: http.StatusConflict, Title: http.StatusText(http.StatusConflict),
				Detail: "The packet has changed in the meantime.",
			},
			Packet: conflict.Current,
		}
	case errors.As(err, &trouble):
		return huma.Error422UnprocessableEntity(trouble.Sentence)
	case errors.As(err, &fault):
		return huma.Error422UnprocessableEntity(fault.Sentence)
	case errors.As(err, &command):
		return huma.Error422UnprocessableEntity(asSentence(command.Cause))
	case errors.As(err, &pages):
		return huma.Error422UnprocessableEntity(pages.Problem)
	case errors.Is(err, packet.ErrInvalid), errors.Is(err, app.ErrEmptyPacket),
		errors.Is(err, app.ErrNothingToUndo), errors.Is(err, app.ErrNothingToRedo),
		errors.Is(err, app.ErrScanning), errors.Is(err, app.ErrNothingScanned):
		return huma.Error422UnprocessableEntity(err.Error())
	case errors.Is(err, app.ErrNotFound):
		return huma.Error404NotFound("There is no such thing here. It may have been deleted.")
	case errors.Is(err, context.Canceled):
		return huma.NewError(499, "The request was given up.")
	}
	return huma.Error500InternalServerError("Something went wrong: " + err.Error())
}

// asSentence writes an error as its user reads it.
func asSentence(err error) string {
	text := err.Error()
	first, size := utf8.DecodeRuneInString(text)
	return string(unicode.ToUpper(first)) + text[size:] + "."
}
