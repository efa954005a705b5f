package handin

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"errors"
	"fmt"
	"io"
	"net"
	"net/mail"
	"net/url"
	"strings"
	"time"

	email "github.com/emersion/go-message/mail"
	"github.com/emersion/go-sasl"
	"github.com/emersion/go-smtp"

	"dorbin/core/message"
	"dorbin/core/problem"
)

// MailServer is the server that e-mails are sent through. What is said to it is encrypted, always.
type MailServer struct {
	Address  string // host and port; empty is none
	Implicit bool   // encrypted from the first byte; otherwise by STARTTLS (RFC 3207)
	User     string // empty signs in as nobody
	Password string
	From     string // the address that e-mails come from
}

// ParseMailServer reads the address of a mail server: smtp://host:587 or smtps://user@host:465.
func ParseMailServer(address, from, password string) (MailServer, error) {
	if address == "" {
		return MailServer{}, nil
	}
	parsed, err := url.Parse(address)
	if err != nil || parsed.Hostname() == "" || parsed.Scheme != "smtp" && parsed.Scheme != "smtps" {
		return MailServer{}, fmt.Errorf("%q is no mail server: one is like smtp://mail.example:587 or smtps://user@mail.example:465", address)
	}
	if _, err := mail.ParseAddress(from); err != nil {
		return MailServer{}, fmt.Errorf("%q is no address that e-mails can come from: %w", from, err)
	}
	port := parsed.Port()
	if port == "" {
		port = map[string]string{"smtp": "587", "smtps": "465"}[parsed.Scheme]
	}
	return MailServer{
		Address: net.JoinHostPort(parsed.Hostname(), port), Implicit: parsed.Scheme == "smtps", User: parsed.User.Username(), Password: password, From: from,
	}, nil
}

// mailer sends documents by e-mail (RFC 5321, 5322).
type mailer struct {
	server  MailServer
	trusted *x509.CertPool
}

const (
	dialTime = 30 * time.Second
	// mostMessageBytes is more than any mail server takes.
	mostMessageBytes = 1 << 30
	// handedOver is the stage of an e-mail that is all with the mail server, which has yet to answer.
	handedOver = "handed over"
)

var unclearMail = message.Of("The line broke when the e-mail was all with the mail server: it may have been sent. Ask the receiver before it is sent again.")

// messageBytes is about how large an e-mail with a document is: base64 in lines of 76 characters.
func messageBytes(document int64) int64 { return document*4/3*78/76 + 8<<10 }

func (m mailer) send(ctx context.Context, s *sending) (answer message.Text, err error) {
	if s.stage == handedOver {
		return message.Text{}, unclear(errors.New("an earlier try handed it over"))
	}
	to, err := mail.ParseAddressList(s.delivery.Address)
	if err != nil {
		return message.Text{}, problem.Because(problem.Invalid, err)
	}
	watch, alive, stop := watched(ctx, stallTime)
	defer stop()
	client, err := m.connect(watch)
	if err != nil {
		return message.Text{}, m.failure(ctx, err)
	}
	defer context.AfterFunc(watch, func() { _ = client.Close() })()
	defer client.Close() //nolint:errcheck // quit before, where all went well
	if most, known := client.MaxMessageSize(); known && most > 0 && messageBytes(s.bytes) > int64(most) {
		return message.Text{}, problem.New(problem.Invalid, "nothing was sent: the mail server takes e-mails of up to %d MB, and this one would have %.1f MB",
			most/1_000_000, float64(messageBytes(s.bytes))/1e6)
	}
	said, err := m.deliver(client, s, to, alive)
	if err != nil {
		return message.Text{}, m.failure(ctx, err)
	}
	_ = client.Quit() // it was answered already
	return message.Plain(shown(said)), nil
}

// connect opens an encrypted connection, and signs in.
func (m mailer) connect(ctx context.Context) (*smtp.Client, error) {
	host, _, err := net.SplitHostPort(m.server.Address)
	if err != nil {
		return nil, fmt.Errorf("read the mail server's address: %w", err)
	}
	config := &tls.Config{RootCAs: m.trusted, ServerName: host, MinVersion: tls.VersionTLS12}
	conn, err := (&net.Dialer{Timeout: dialTime}).DialContext(ctx, "tcp", m.server.Address)
	if err != nil {
		return nil, fmt.Errorf("reach the mail server: %w", err)
	}
	stop := context.AfterFunc(ctx, func() { _ = conn.Close() })
	defer stop()
	var client *smtp.Client
	if m.server.Implicit {
		client = smtp.NewClient(tls.Client(conn, config))
	} else if client, err = smtp.NewClientStartTLS(conn, config); err != nil {
		return nil, fmt.Errorf("encrypt the line to the mail server: %w", err)
	}
	client.CommandTimeout, client.SubmissionTimeout = stallTime, 5*stallTime
	if m.server.User != "" {
		if err := client.Auth(sasl.NewPlainClient("", m.server.User, m.server.Password)); err != nil {
			return nil, errors.Join(fmt.Errorf("sign in to the mail server: %w", err), client.Close())
		}
	}
	return client, nil
}

// deliver hands an e-mail over.
func (m mailer) deliver(client *smtp.Client, s *sending, to []*mail.Address, alive func()) (answer string, err error) {
	from, err := mail.ParseAddress(m.server.From)
	if err != nil {
		return "", fmt.Errorf("read the sender's address: %w", err)
	}
	if err := client.Mail(from.Address, &smtp.MailOptions{Size: messageBytes(s.bytes)}); err != nil {
		return "", fmt.Errorf("begin the e-mail: %w", err)
	}
	for _, address := range to {
		if err := client.Rcpt(address.Address, nil); err != nil {
			return "", fmt.Errorf("address the e-mail to %s: %w", address.Address, err)
		}
	}
	data, err := client.Data()
	if err != nil {
		return "", fmt.Errorf("begin the e-mail: %w", err)
	}
	if err := s.writeMessage(data, from, to, alive); err != nil {
		return "", err
	}
	if err := s.note(handedOver); err != nil {
		return "", err
	}
	alive()
	said, err := data.CloseWithResponse()
	var refused *smtp.SMTPError
	switch {
	case errors.As(err, &refused):
		return "", errors.Join(fmt.Errorf("end the e-mail: %w", err), s.note(""))
	case err != nil:
		return "", unclear(err)
	}
	return said.StatusText, nil
}

func unclear(cause error) error {
	return &brokenError{sentence: unclearMail, cause: cause, mayHaveArrived: true}
}

// writeMessage writes an e-mail with a text and the document. Its number is that of the delivery, so
// that mail servers can tell if it comes twice.
func (s *sending) writeMessage(out io.Writer, from *mail.Address, to []*mail.Address, alive func()) error {
	_, domain, _ := strings.Cut(from.Address, "@")
	var header email.Header
	header.SetDate(time.Now())
	header.SetAddressList("From", []*email.Address{(*email.Address)(from)})
	header.SetAddressList("To", addresses(to))
	header.SetSubject(oneLine(s.fill(s.delivery.Subject)))
	header.SetMessageID(s.id + "@" + domain)
	writer, err := email.CreateWriter(out, header)
	if err != nil {
		return fmt.Errorf("write the e-mail: %w", err)
	}
	if err := errors.Join(s.writeText(writer), s.writeAttachment(writer, alive), writer.Close()); err != nil {
		return fmt.Errorf("write the e-mail: %w", err)
	}
	return nil
}

func addresses(all []*mail.Address) []*email.Address {
	same := make([]*email.Address, len(all))
	for i, address := range all {
		same[i] = (*email.Address)(address)
	}
	return same
}

func oneLine(text string) string { return strings.Join(strings.Fields(text), " ") }

func (s *sending) writeText(writer *email.Writer) error {
	var header email.InlineHeader
	header.SetContentType("text/plain", map[string]string{"charset": "utf-8"})
	text, err := writer.CreateSingleInline(header)
	if err != nil {
		return err
	}
	_, err = io.WriteString(text, s.fill(s.delivery.Text)+"\n")
	return errors.Join(err, text.Close())
}

func (s *sending) writeAttachment(writer *email.Writer, alive func()) error {
	in, err := s.open()
	if err != nil {
		return err
	}
	defer in.Close() //nolint:errcheck // only read from
	var header email.AttachmentHeader
	header.SetContentType(s.contentType, nil)
	header.SetFilename(s.name)
	attachment, err := writer.CreateAttachment(header)
	if err != nil {
		return err
	}
	_, err = io.Copy(attachment, aliveReader{in, alive})
	return errors.Join(err, attachment.Close())
}

// failure says why an e-mail was not sent.
func (m mailer) failure(ctx context.Context, err error) error {
	if ctx.Err() != nil {
		return ctx.Err() //nolint:wrapcheck // told as it is
	}
	var broken *brokenError
	var refused *smtp.SMTPError
	switch {
	case errors.As(err, &broken):
		return err
	case errors.As(err, &refused) && refused.Temporary():
		return broke(err, "The mail server has no time (%d: %s).", refused.Code, shown(refused.Message))
	case errors.As(err, &refused):
		return &problem.Error{Kind: problem.Invalid, Cause: err, Sentence: message.Of("The mail server refused the e-mail (%d): “%s”", refused.Code, shown(refused.Message))}
	}
	if told := certificateProblem(m.server.Address, err); told != nil {
		return told
	}
	return broke(err, "The mail server cannot be reached, or the line broke.")
}
