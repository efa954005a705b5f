package sim

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"errors"
	"fmt"
	"io"
	"log"
	"math/big"
	"net"
	"strings"
	"time"

	"github.com/emersion/go-message/mail"
	"github.com/emersion/go-smtp"
)

// Mail is the receiver's mail server. Its certificate is its own: whoever sends to it has to trust
// it.
func (o *Office) Mail() (*smtp.Server, *x509.Certificate, error) {
	certificate, parsed, err := newCertificate()
	if err != nil {
		return nil, nil, err
	}
	server := smtp.NewServer(smtp.BackendFunc(func(c *smtp.Conn) (smtp.Session, error) { return &session{o, c}, nil }))
	server.Domain = "localhost"
	server.TLSConfig = &tls.Config{Certificates: []tls.Certificate{certificate}, MinVersion: tls.VersionTLS12}
	server.MaxMessageBytes = o.State().LimitMB * 1_000_000 * 3 / 2 // with what base64 adds
	server.ErrorLog = log.New(io.Discard, "", 0)
	server.ReadTimeout, server.WriteTimeout = time.Minute, time.Minute
	return server, parsed, nil
}

// newCertificate makes a certificate for this machine.
func newCertificate() (tls.Certificate, *x509.Certificate, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return tls.Certificate{}, nil, fmt.Errorf("make a key: %w", err)
	}
	template := &x509.Certificate{
		SerialNumber: big.NewInt(time.Now().UnixNano()), Subject: pkix.Name{CommonName: "Simulated receiver"},
		NotBefore: time.Now().Add(-time.Hour), NotAfter: time.Now().AddDate(1, 0, 0),
		IsCA: true, BasicConstraintsValid: true, KeyUsage: x509.KeyUsageDigitalSignature | x509.KeyUsageCertSign,
		DNSNames: []string{"localhost"}, IPAddresses: []net.IP{net.IPv4(127, 0, 0, 1), net.IPv6loopback},
	}
	encoded, err := x509.CreateCertificate(rand.Reader, template, template, &key.PublicKey, key)
	if err != nil {
		return tls.Certificate{}, nil, fmt.Errorf("make a certificate: %w", err)
	}
	parsed, err := x509.ParseCertificate(encoded)
	if err != nil {
		return tls.Certificate{}, nil, fmt.Errorf("read the certificate: %w", err)
	}
	return tls.Certificate{Certificate: [][]byte{encoded}, PrivateKey: key}, parsed, nil
}

// session is an e-mail that comes.
type session struct {
	office *Office
	conn   *smtp.Conn
}

// Mail begins an e-mail, which may be refused.
func (s *session) Mail(string, *smtp.MailOptions) error {
	switch s.office.begin().Fault {
	case Full:
		return &smtp.SMTPError{Code: 452, EnhancedCode: smtp.EnhancedCode{4, 2, 2}, Message: "The inbox is full"}
	case Refuses:
		return &smtp.SMTPError{Code: 550, EnhancedCode: smtp.EnhancedCode{5, 7, 1}, Message: "Nothing is taken from you"}
	case Works, BreaksOff, Loses, Trouble, Page, Silent:
	}
	return nil
}

// Rcpt takes any address.
func (*session) Rcpt(string, *smtp.RcptOptions) error { return nil }

// Data takes the e-mail.
func (s *session) Data(r io.Reader) error {
	message, err := mail.CreateReader(r)
	if err != nil {
		return fmt.Errorf("read the e-mail: %w", err)
	}
	id, _ := message.Header.MessageID()    // one without is kept too
	subject, _ := message.Header.Subject() // as it is
	for {
		part, err := message.NextPart()
		if errors.Is(err, io.EOF) {
			if s.office.once(Loses) {
				return s.conn.Conn().Close()
			}
			return nil
		}
		if err != nil {
			return fmt.Errorf("read the e-mail: %w", err)
		}
		attachment, ok := part.Header.(*mail.AttachmentHeader)
		if !ok {
			continue
		}
		name, _ := attachment.Filename() // one without is kept too
		_, sum, bytes, err := s.office.store("mail", part.Body, s.office.State())
		if err != nil {
			return fmt.Errorf("take the document: %w", err)
		}
		delivery, _, _ := strings.Cut(id, "@")
		s.office.keep(Document{Inbox: "mail", Delivery: delivery, Name: name, Bytes: bytes, SHA256: sum, Title: subject})
	}
}

// Reset forgets an e-mail that was begun.
func (*session) Reset() {}

// Logout ends a session.
func (*session) Logout() error { return nil }
