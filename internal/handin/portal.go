package handin

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime"
	"mime/multipart"
	"net/http"
	"net/textproto"
	"net/url"
	"strconv"
	"strings"

	"dorbin/core/message"
)

// portal uploads documents as docs/portal.md says: a form with a delivery's number, which a portal
// takes once, whatever happens to the line.
type portal struct{ web }

// mayBeThere is the stage of a document that may have arrived.
const mayBeThere = "sent"

func (p portal) send(ctx context.Context, s *sending) (answer message.Text, err error) {
	host := hostOf(s.delivery.Address)
	if s.stage == mayBeThere {
		answer, isThere, err := p.asked(ctx, s)
		if isThere || err != nil {
			return answer, err
		}
	}
	in, err := s.open()
	if err != nil {
		return message.Text{}, err
	}
	defer in.Close() //nolint:errcheck // only read from
	head, tail, contentType, err := formOf(s.document)
	if err != nil {
		return message.Text{}, err
	}
	if err := s.note(mayBeThere); err != nil {
		return message.Text{}, err
	}
	said, err := p.ask(ctx, request{
		method: http.MethodPost, address: s.delivery.Address, user: s.delivery.User, password: s.password,
		header: map[string]string{"Content-Type": contentType, "Accept": "application/json"},
		body:   io.MultiReader(bytes.NewReader(head), in, bytes.NewReader(tail)), bytes: int64(len(head)) + s.bytes + int64(len(tail)),
	})
	if err != nil {
		return message.Text{}, err
	}
	if err := said.refusal(host, s); err != nil {
		return message.Text{}, err
	}
	return said.number(host)
}

// asked asks a portal whether it has a document that was sent before.
func (p portal) asked(ctx context.Context, s *sending) (answer message.Text, isThere bool, err error) {
	address := strings.TrimSuffix(s.delivery.Address, "/") + "/" + url.PathEscape(s.id)
	said, err := p.ask(ctx, request{
		method: http.MethodGet, address: address, user: s.delivery.User, password: s.password, header: map[string]string{"Accept": "application/json"},
	})
	if err != nil || said.status != http.StatusOK {
		return message.Text{}, false, err
	}
	answer, err = said.number(hostOf(address))
	return answer, err == nil, nil //nolint:nilerr // a portal that cannot be asked takes a delivery once
}

// formOf is what comes before and after a document in its form (RFC 7578).
func formOf(d document) (head, tail []byte, contentType string, err error) {
	var form bytes.Buffer
	writer := multipart.NewWriter(&form)
	for _, field := range [][2]string{
		{"delivery", d.id}, {"reference", d.reference}, {"title", d.title}, {"pages", strconv.Itoa(d.pages)},
		{"bytes", strconv.FormatInt(d.bytes, 10)}, {"sha256", d.sha256},
	} {
		if err := writer.WriteField(field[0], field[1]); err != nil {
			return nil, nil, "", fmt.Errorf("write a form: %w", err)
		}
	}
	header := textproto.MIMEHeader{
		"Content-Disposition": {multipart.FileContentDisposition("file", d.name)},
		"Content-Type":        {d.contentType},
	}
	if _, err := writer.CreatePart(header); err != nil {
		return nil, nil, "", fmt.Errorf("write a form: %w", err)
	}
	begin := form.Len()
	if err := writer.Close(); err != nil {
		return nil, nil, "", fmt.Errorf("write a form: %w", err)
	}
	return form.Bytes()[:begin], form.Bytes()[begin:], writer.FormDataContentType(), nil
}

// number reads the number that a portal gave a document.
func (r reply) number(host string) (message.Text, error) {
	unclear := func(cause error) error {
		return &brokenError{mayHaveArrived: true, cause: cause, sentence: message.Of(
			"%s answered, but not as a portal does: whether it took the document is not known. Ask there, or try again.", host)}
	}
	var said struct {
		Number  string `json:"number"`
		Message string `json:"message"`
	}
	kind, _, err := mime.ParseMediaType(r.header.Get("Content-Type"))
	if err != nil || kind != "application/json" || len(r.body) == answerBytes {
		return message.Text{}, unclear(fmt.Errorf("content type %q", kind))
	}
	if err := json.Unmarshal(r.body, &said); err != nil {
		return message.Text{}, unclear(err)
	}
	if shown(said.Number) == "" {
		return message.Text{}, unclear(errors.New("there is no number"))
	}
	if words := shown(said.Message); words != "" {
		return message.Plain(fmt.Sprintf("%s (%s)", shown(said.Number), words)), nil
	}
	return message.Plain(shown(said.Number)), nil
}
