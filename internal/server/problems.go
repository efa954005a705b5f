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

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/problem"
	"dorbin/internal/packets"
)

// Conflict is the answer to a command made for an old revision: a problem (RFC
// 9457) with the packet as it now stands.
type Conflict struct {
	huma.ErrorModel
	Packet packets.Packet `json:"packet"`
}

// refusal turns an error of the application into one for the client.
func refusal(err error) error {
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

// statuses are those of the kinds of problems.
var statuses = map[problem.Kind]int{
	problem.Invalid:  http.StatusUnprocessableEntity,
	problem.Conflict: http.StatusConflict,
	problem.Missing:  http.StatusNotFound,
}

// answerTo gives the status of an error and what its user reads of it.
func answerTo(err error) (status int, sentence string) {
	var told *problem.Error
	switch {
	case errors.As(err, &told):
		return statuses[told.Kind], told.Sentence
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
