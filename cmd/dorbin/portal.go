package main

import (
	"context"
	"crypto/x509"
	"encoding/pem"
	"flag"
	"fmt"
	"io"
	"net"
	"os"
	"path/filepath"

	"dorbin/internal/demo"
	"dorbin/internal/folders"
	"dorbin/internal/handin"
	"dorbin/internal/handin/sim"
)

// usualPortal is where the simulated receiver listens if nothing else is said.
const usualPortal = "127.0.0.1:8383"

// runPortal serves the simulated receiver alone.
func runPortal(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("portal", flag.ContinueOnError)
	flags.SetOutput(stderr)
	listen := flags.String("listen", usualPortal, "the address to listen on")
	mailListen := flags.String("mail-listen", "127.0.0.1:8384", "the address to take e-mails at")
	data := flags.String("data", filepath.Join(os.TempDir(), "dorbin-portal"), "the folder that documents are kept in")
	if err := readFlags(flags, args); err != nil {
		return unlessHelp(err)
	}
	office, err := serveOffice(ctx, *data, *listen, *mailListen)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(*data, 0o700); err != nil {
		return fmt.Errorf("make the folder: %w", err)
	}
	certificate := filepath.Join(*data, "certificate.pem")
	block := pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: office.certificate.Raw})
	if err := os.WriteFile(certificate, block, 0o600); err != nil {
		return fmt.Errorf("write the mail server's certificate: %w", err)
	}
	fmt.Fprintf(stdout, "The simulated receiver is at http://%s/\n", office.address)
	fmt.Fprintf(stdout, "Its portal is at http://%s/upload, its WebDAV folder at http://%s/webdav/\n", office.address, office.address)
	fmt.Fprintf(stdout, "Its mail server is smtp://%s, and has the certificate %s\n", office.mail, certificate)
	<-ctx.Done()
	return nil
}

// simulatedOffice is where a simulated receiver listens.
type simulatedOffice struct {
	address, mail string
	certificate   *x509.Certificate // of the mail server
}

// serveOffice serves a simulated receiver until the context ends.
func serveOffice(ctx context.Context, folder, listen, mailListen string) (simulatedOffice, error) {
	office := sim.New(demo.FundName, folder, sim.State{LimitMB: demo.FundMB, OnlyPDF: true})
	address, err := serveUntil(ctx, listen, office.Handler())
	if err != nil {
		return simulatedOffice{}, fmt.Errorf("take documents: %w", err)
	}
	mailServer, certificate, err := office.Mail()
	if err != nil {
		return simulatedOffice{}, err
	}
	mailListener, err := net.Listen("tcp", mailListen)
	if err != nil {
		return simulatedOffice{}, fmt.Errorf("listen for e-mails: %w", err)
	}
	go func() { _ = mailServer.Serve(mailListener) }() // ends with the context
	context.AfterFunc(ctx, func() { _ = mailServer.Close() })
	return simulatedOffice{address, mailListener.Addr().String(), certificate}, nil
}

// handInSettings are what the flags allow for handing in.
func (s settings) handInSettings() (handin.Settings, error) {
	var allowed handin.Settings
	var err error
	if allowed.Folders, err = folders.Parse(s.folders); err != nil {
		return allowed, fmt.Errorf("--folders: %w", err)
	}
	if allowed.Mail, err = handin.ParseMailServer(s.mailServer, s.mailFrom, os.Getenv("DORBIN_MAIL_PASSWORD")); err != nil {
		return allowed, fmt.Errorf("--mail-server: %w", err)
	}
	if allowed.Trusted, err = trustedBy(s.trust); err != nil {
		return allowed, fmt.Errorf("--trust: %w", err)
	}
	allowed.KeyFile = s.keyFile
	return allowed, nil
}

// trustedBy are the authorities of the system and those in a file; nil are those of the system alone.
func trustedBy(file string) (*x509.CertPool, error) {
	if file == "" {
		return nil, nil
	}
	certificates, err := os.ReadFile(file)
	if err != nil {
		return nil, fmt.Errorf("read certificates: %w", err)
	}
	pool := systemAuthorities()
	if !pool.AppendCertsFromPEM(certificates) {
		return nil, fmt.Errorf("%s holds no certificates in PEM", file)
	}
	return pool, nil
}

func systemAuthorities() *x509.CertPool {
	pool, err := x509.SystemCertPool()
	if err != nil {
		return x509.NewCertPool() // a system without any
	}
	return pool
}

// startDemoOffice serves the demo's receiver, and allows handing in to it.
func startDemoOffice(ctx context.Context, s settings, allowed handin.Settings) (simulatedOffice, handin.Settings, error) {
	folder := filepath.Join(s.data, "receiver")
	office, err := serveOffice(ctx, folder, s.portalListen, "127.0.0.1:0")
	if err != nil { // another demo may be running
		if office, err = serveOffice(ctx, folder, "127.0.0.1:0", "127.0.0.1:0"); err != nil {
			return office, allowed, err
		}
	}
	return office, withDemo(allowed, s.data, office), nil
}

// outboxOf is the demo's folder for what is handed in.
func outboxOf(data string) string { return filepath.Join(data, "outbox") }

// recordsOf is the demo's folder of PDFs that can be opened.
func recordsOf(data string) string { return filepath.Join(data, "records") }

// makeDemoFolders makes the demo's folders, with papers in that of the records.
func makeDemoFolders(data string) error {
	if err := os.MkdirAll(outboxOf(data), 0o700); err != nil {
		return fmt.Errorf("make the outbox: %w", err)
	}
	return demo.KeepRecords(recordsOf(data))
}

// withDemo adds what the demo hands in to: an outbox, and the simulated receiver's mail server.
func withDemo(allowed handin.Settings, data string, office simulatedOffice) handin.Settings {
	if len(allowed.Folders) == 0 {
		allowed.Folders = folders.List{{Name: "Records", Path: recordsOf(data)}, {Name: "Outbox", Path: outboxOf(data)}}
	}
	if allowed.Mail.Address == "" {
		allowed.Mail = handin.MailServer{Address: office.mail, From: demo.ClubAddress}
		if allowed.Trusted == nil {
			allowed.Trusted = systemAuthorities()
		}
		allowed.Trusted.AddCert(office.certificate)
	}
	return allowed
}
