package requirements

import (
	"net"
	"net/mail"
	"net/url"
	"strings"
	"unicode/utf8"
)

// Channel is a way in which a document gets to a receiver.
type Channel string

// The channels.
const (
	ByDownload Channel = "download" // somebody takes the file there
	ByFolder   Channel = "folder"   // one that the installation allows
	ByWebDAV   Channel = "webdav"   // a folder on a server
	ByMail     Channel = "mail"
	ByPortal   Channel = "portal" // an upload by HTTP
)

// Delivery is how a document gets to a receiver. Passwords are not part of it.
type Delivery struct {
	By      Channel `json:"by" enum:"download,folder,webdav,mail,portal"`
	Address string  `json:"address,omitempty" maxLength:"1000" doc:"The name of a folder that the installation allows; the address of a WebDAV folder or of a portal; e-mail addresses, with commas between them."`
	User    string  `json:"user,omitempty" maxLength:"200" doc:"The name to sign in with, for WebDAV and portals."`
	Subject string  `json:"subject,omitempty" maxLength:"200" doc:"Of the e-mail, with fields in braces as in file names."`
	Text    string  `json:"text,omitempty" maxLength:"5000" doc:"Of the e-mail, with fields in braces as in file names."`
}

// Tidy is the delivery without spaces around what was typed, and without what its channel has no use
// for.
func (d Delivery) Tidy() Delivery {
	d.Address, d.User, d.Subject = strings.TrimSpace(d.Address), strings.TrimSpace(d.User), strings.TrimSpace(d.Subject)
	if d.By == ByDownload {
		d.Address = ""
	}
	if d.By != ByWebDAV && d.By != ByPortal {
		d.User = ""
	}
	if d.By != ByMail {
		d.Subject, d.Text = "", ""
	}
	return d
}

// Check tells what is wrong with a delivery. The error is a problem.Invalid.
func (d Delivery) Check() error {
	switch d.By {
	case ByDownload:
		return nil
	case ByFolder:
		if d.Address == "" {
			return wrong("say which folder the document goes to")
		}
		return nil
	case ByWebDAV, ByPortal:
		return checkURL(d.Address)
	case ByMail:
		return d.checkMail()
	}
	return wrong("there is no way of handing in by the name %q", d.By)
}

// checkURL tells what is wrong with the address of a server. What is sent is readable by everybody on
// the way unless it is encrypted: that is accepted within this machine alone.
func checkURL(address string) error {
	parsed, err := url.Parse(address)
	if err != nil || parsed.Hostname() == "" {
		return wrong("“%s” is no address of a server: one is like https://portal.example/upload", address)
	}
	if parsed.User != nil {
		return wrong("leave the name and the password out of the address: they are entered beside it")
	}
	switch parsed.Scheme {
	case "https":
		return nil
	case "http":
		if isThisMachine(parsed.Hostname()) {
			return nil
		}
		return wrong("%s would be sent to unencrypted: use its https address", parsed.Hostname())
	}
	return wrong("the address begins with https://, and not with %s://", parsed.Scheme)
}

func isThisMachine(host string) bool {
	ip := net.ParseIP(host)
	return host == "localhost" || ip != nil && ip.IsLoopback()
}

const mostAddresses = 20

func (d Delivery) checkMail() error {
	addresses, err := mail.ParseAddressList(d.Address)
	if err != nil {
		return wrong("“%s” is no e-mail address: one is like post@fund.example", d.Address)
	}
	if len(addresses) > mostAddresses {
		return wrong("an e-mail goes to at most %d addresses", mostAddresses)
	}
	if strings.ContainsAny(d.Subject, "\r\n") || !utf8.ValidString(d.Subject) {
		return wrong("the subject is one line")
	}
	return nil
}
