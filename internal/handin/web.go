package handin

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strings"
	"time"
	"unicode"

	"dorbin/core/message"
	"dorbin/core/problem"
)

// Bounds of what a server may do.
const (
	stallTime   = time.Minute // without a byte that goes on, and for a whole answer
	answerBytes = 64 << 10
	messageSize = 300 // characters of what a server says that are shown
)

var errStalled = errors.New("nothing went on for a while")

// watched ends a context when nothing goes on: alive is called when something does.
func watched(ctx context.Context, after time.Duration) (_ context.Context, alive, stop func()) {
	ctx, cancel := context.WithCancelCause(ctx)
	timer := time.AfterFunc(after, func() { cancel(errStalled) })
	return ctx, func() { timer.Reset(after) }, func() {
		timer.Stop()
		cancel(nil)
	}
}

// aliveReader tells of each read.
type aliveReader struct {
	io.Reader
	alive func()
}

func (r aliveReader) Read(p []byte) (int, error) {
	r.alive()
	return r.Reader.Read(p) //nolint:wrapcheck // io.EOF is told as it is
}

// web speaks HTTP with servers that are not trusted.
type web struct {
	client *http.Client
	stall  time.Duration
}

func newWeb(trusted *x509.CertPool) web {
	transport := http.DefaultTransport.(*http.Transport).Clone() //nolint:forcetypeassert // what it is
	transport.TLSClientConfig = &tls.Config{RootCAs: trusted, MinVersion: tls.VersionTLS12}
	transport.MaxResponseHeaderBytes = answerBytes
	return web{stall: stallTime, client: &http.Client{
		Transport:     transport,
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
	}}
}

// request is what is asked of a server.
type request struct {
	method, address string
	header          map[string]string
	body            io.Reader // nil has none
	bytes           int64     // of the body
	user, password  string
}

// reply is what a server said.
type reply struct {
	status int
	header http.Header
	body   []byte // at most answerBytes of it
}

// ask sends a request and reads the answer.
func (w web) ask(ctx context.Context, r request) (reply, error) {
	host := hostOf(r.address)
	watch, alive, stop := watched(ctx, w.stall)
	defer stop()
	var sent io.Reader
	if r.body != nil {
		sent = aliveReader{r.body, alive}
	}
	req, err := http.NewRequestWithContext(watch, r.method, r.address, sent)
	if err != nil {
		return reply{}, problem.Because(problem.Invalid, err)
	}
	req.ContentLength = r.bytes
	for name, value := range r.header {
		req.Header.Set(name, value)
	}
	if r.bytes > 0 {
		req.Header.Set("Expect", "100-continue") // a refusal comes before the document is sent
	}
	if r.user != "" {
		req.SetBasicAuth(r.user, r.password)
	}
	response, err := w.client.Do(req)
	if err != nil {
		return reply{}, w.failure(ctx, watch, host, err)
	}
	defer response.Body.Close() //nolint:errcheck // only read from
	alive()
	body, err := io.ReadAll(io.LimitReader(response.Body, answerBytes))
	if err != nil {
		return reply{}, w.failure(ctx, watch, host, err)
	}
	return reply{response.StatusCode, response.Header, body}, nil
}

func hostOf(address string) string {
	parsed, err := url.Parse(address)
	if err != nil {
		return address
	}
	return parsed.Host
}

// failure says why a server did not answer.
func (w web) failure(ctx, watch context.Context, host string, err error) error {
	if ctx.Err() != nil {
		return ctx.Err() //nolint:wrapcheck // told as it is
	}
	if errors.Is(context.Cause(watch), errStalled) {
		return broke(err, "%s stopped answering.", host)
	}
	if told := certificateProblem(host, err); told != nil {
		return told
	}
	return broke(err, "%s cannot be reached, or the line broke.", host)
}

// certificateProblem says what is wrong with the certificate of a server; nil where that is not why.
func certificateProblem(host string, err error) error {
	var invalid *tls.CertificateVerificationError
	var noTLS tls.RecordHeaderError
	switch {
	case errors.As(err, &invalid):
		return &problem.Error{Kind: problem.Invalid, Cause: err, Sentence: message.Of(
			"Nothing was sent: %s cannot show that it is who it says (%s). Whoever runs this installation can have its certificate trusted with --trust.",
			host, whyInvalid(invalid.Err))}
	case errors.As(err, &noTLS):
		return &problem.Error{Kind: problem.Invalid, Cause: err, Sentence: message.Of("Nothing was sent: %s does not encrypt what is sent to it.", host)}
	}
	return nil
}

func whyInvalid(err error) message.Text {
	var unknown x509.UnknownAuthorityError
	var other x509.HostnameError
	var invalid x509.CertificateInvalidError
	switch {
	case errors.As(err, &unknown):
		return message.Of("its certificate is from an authority that is not known here")
	case errors.As(err, &other):
		return message.Of("its certificate is for another server")
	case errors.As(err, &invalid) && invalid.Reason == x509.Expired:
		return message.Of("its certificate has expired, or is not valid yet")
	}
	return message.Of("its certificate is not valid")
}

// refusal says why a server did not take a document, by the status that it answered with; nil where it
// took it.
func (r reply) refusal(host string, s *sending) error {
	refuse := func(sentence message.Text) error {
		return &problem.Error{Kind: problem.Invalid, Sentence: sentence, Cause: fmt.Errorf("status %d", r.status)}
	}
	switch {
	case r.status >= 200 && r.status < 300:
		return nil
	case r.status == http.StatusUnauthorized && s.delivery.User == "":
		return refuse(message.Of("%s asks for a name and a password.", host))
	case r.status == http.StatusUnauthorized && s.password == "":
		return refuse(message.Of("%s asks for the password of %s.", host, s.delivery.User))
	case r.status == http.StatusUnauthorized || r.status == http.StatusForbidden:
		return refuse(r.andSaying(message.Of("%s refused the name or the password.", host)))
	case r.status == http.StatusRequestEntityTooLarge:
		return refuse(r.andSaying(message.Of("%s takes no document as large as this one.", host)))
	case r.status == http.StatusInsufficientStorage:
		return refuse(message.Of("%s has no room left.", host))
	case r.status >= 300 && r.status < 400:
		return refuse(message.Of("%s refers to another address, %s: enter that one, if you trust it.", host, shown(r.header.Get("Location"))))
	case r.status == http.StatusRequestTimeout || r.status == http.StatusTooManyRequests || r.status >= 500:
		return &brokenError{cause: fmt.Errorf("status %d", r.status), sentence: r.andSaying(message.Of("%s had a problem of its own (%d).", host, r.status))}
	}
	return refuse(r.andSaying(message.Of("%s refused the document (%d).", host, r.status)))
}

// andSaying adds to a sentence what a server says about its answer, where it says something.
func (r reply) andSaying(sentence message.Text) message.Text {
	var said struct {
		Message string `json:"message"`
		Detail  string `json:"detail"` // of a problem (RFC 9457)
	}
	if json.Unmarshal(r.body, &said) != nil {
		return sentence
	}
	if words := shown(said.Message + said.Detail); words != "" {
		return message.Of("%s It says: “%s”", sentence, words)
	}
	return sentence
}

// shown is what a server said, short and in one line.
func shown(text string) string {
	text = strings.Join(strings.FieldsFunc(text, func(r rune) bool { return unicode.IsSpace(r) || !unicode.IsPrint(r) }), " ")
	if runes := []rune(text); len(runes) > messageSize {
		return string(runes[:messageSize]) + "…"
	}
	return text
}
