package server

import (
	"context"
	"crypto/rand"
	"errors"
	"io/fs"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/internal/packets"
)

// Problem is the answer to what cannot be done (RFC 9457).
type Problem struct {
	huma.ErrorModel
	Message message.Text `json:"message,omitzero" doc:"The detail, as it is put together; missing where it is for programs."`
}

func init() {
	huma.NewError = func(status int, detail string, errs ...error) huma.StatusError {
		answer := problemAnswer(status, message.Text{})
		answer.Detail = detail
		for _, err := range errs {
			answer.Add(err)
		}
		return answer
	}
}

func problemAnswer(status int, text message.Text) *Problem {
	return &Problem{
		ErrorModel: huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: text.English},
		Message:    text,
	}
}

// Conflict is the answer to a command made for an old revision: a problem with the packet as it now stands.
type Conflict struct {
	Problem
	Packet packets.Packet `json:"packet"`
}

// refusal turns an error of the application into one for the client.
func refusal(err error) error {
	var conflict *packets.ConflictError
	if errors.As(err, &conflict) {
		return &Conflict{
			Problem: *problemAnswer(http.StatusConflict, message.Of("The packet has changed in the meantime.")),
			Packet:  conflict.Current,
		}
	}
	if err == nil {
		return nil
	}
	status, sentence := answerTo(err)
	if status == http.StatusInternalServerError {
		return internalError(err)
	}
	return problemAnswer(status, sentence)
}

// givenUp is the status of a request whose client has gone.
const givenUp = 499

// statuses are those of the kinds of problems.
var statuses = map[problem.Kind]int{
	problem.Invalid:  http.StatusUnprocessableEntity,
	problem.Conflict: http.StatusConflict,
	problem.Missing:  http.StatusNotFound,
}

// answerTo gives the status of an error and what its user reads of it.
func answerTo(err error) (status int, sentence message.Text) {
	var told *problem.Error
	switch {
	case errors.As(err, &told):
		return statuses[told.Kind], told.Sentence
	case errors.Is(err, packets.ErrNotFound), errors.Is(err, fs.ErrNotExist):
		return http.StatusNotFound, message.Of("There is no such thing here. It may have been deleted.")
	case errors.Is(err, context.Canceled):
		return givenUp, message.Of("The request was given up.")
	}
	return http.StatusInternalServerError, message.Text{}
}

// internalError logs what went wrong under a number, and tells the client the number alone.
func internalError(err error) error {
	id := strings.ToLower(rand.Text()[:8])
	slog.Error("request failed", "id", id, "error", err)
	return problemAnswer(http.StatusInternalServerError, message.Of("Something went wrong here, and nothing was changed. The log tells more under the number %s.", id))
}
