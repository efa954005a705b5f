package handin

import (
	"context"
	"crypto/sha256"
	"crypto/x509"
	"encoding/hex"
	"errors"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/problem"
	"dorbin/core/requirements"
	"dorbin/internal/handin/sim"
)

// newSending is a document of so many bytes that is to be handed in. What is noted of it is kept.
func newSending(t *testing.T, size int, d requirements.Delivery) *sending {
	t.Helper()
	path := filepath.Join(t.TempDir(), "made")
	data := make([]byte, size)
	_, _ = rand.NewChaCha8([32]byte{1}).Read(data)
	require.NoError(t, os.WriteFile(path, data, 0o600))
	sum := sha256.Sum256(data)
	s := &sending{
		document: document{
			id: "d0123456789", path: path, name: "Boathouse roof.pdf", contentType: "application/pdf", bytes: int64(size), sha256: hex.EncodeToString(sum[:]),
			pages: 3, reference: "TV-2026/118", title: "Boathouse roof",
			fill: func(text string) string { return strings.ReplaceAll(text, "{reference}", "TV-2026/118") },
		},
		delivery: d, sent: func(int64) {},
	}
	s.note = func(stage string) error {
		s.stage = stage
		return nil
	}
	return s
}

// newOffice serves a simulated receiver.
func newOffice(t *testing.T, state sim.State) (office *sim.Office, address string) {
	t.Helper()
	office = sim.New("Tarn Valley Fund", t.TempDir(), state)
	server := httptest.NewServer(office.Handler())
	t.Cleanup(server.Close)
	return office, server.URL
}

func documents(t *testing.T, office *sim.Office) []sim.Document {
	t.Helper()
	all, err := office.Documents()
	require.NoError(t, err)
	return all
}

func impatient() web {
	w := newWeb(nil)
	w.stall = 300 * time.Millisecond
	return w
}

// isBroken tells whether an error says that it may be tried again.
func isBroken(err error) bool {
	var broken *brokenError
	return errors.As(err, &broken) && !broken.mayHaveArrived
}

func isUnclear(err error) bool {
	var broken *brokenError
	return errors.As(err, &broken) && broken.mayHaveArrived
}

func TestAPortalTakesADocument(t *testing.T) {
	t.Parallel()
	office, address := newOffice(t, sim.State{LimitMB: 4, OnlyPDF: true})
	s := newSending(t, 900_000, requirements.Delivery{By: requirements.ByPortal, Address: address + "/upload"})
	var sent int64
	s.document.name = "Überdachung “neu”.pdf"
	s.sent = func(n int64) { sent = n }
	answer, err := portal{impatient()}.send(t.Context(), s)
	require.NoError(t, err)
	assert.Regexp(t, `^TVF-\d+-0001 \(Received\.\)$`, answer.English)
	assert.EqualValues(t, 900_000, sent)
	came := documents(t, office)
	require.Len(t, came, 1)
	assert.Equal(t, s.sha256, came[0].SHA256)
	assert.Equal(t, "TV-2026/118", came[0].Reference)
	assert.Equal(t, s.name, came[0].Name)
}

func TestWhatAPortalRefusesIsTold(t *testing.T) {
	t.Parallel()
	for want, c := range map[string]struct {
		state sim.State
		size  int
	}{
		"takes no document as large as this one. It says: “Documents have at most 1 MB.”": {sim.State{LimitMB: 1}, 1_500_000},
		"has no room left": {sim.State{Fault: sim.Full}, 10},
		"refused the document (422). It says: “The application form is not signed.”": {sim.State{Fault: sim.Refuses}, 10},
		"asks for a name and a password":                                             {sim.State{Protected: true}, 10},
	} {
		office, address := newOffice(t, c.state)
		s := newSending(t, c.size, requirements.Delivery{By: requirements.ByPortal, Address: address + "/upload"})
		_, err := portal{impatient()}.send(t.Context(), s)
		var told *problem.Error
		require.ErrorAs(t, err, &told, want)
		assert.Contains(t, told.Sentence.English, want)
		assert.Empty(t, documents(t, office))
	}
}

func TestAPortalAsksForAPassword(t *testing.T) {
	t.Parallel()
	office, address := newOffice(t, sim.State{Protected: true})
	s := newSending(t, 10, requirements.Delivery{By: requirements.ByPortal, Address: address + "/upload", User: sim.User})
	_, err := portal{impatient()}.send(t.Context(), s)
	assert.ErrorContains(t, err, "asks for the password of club")
	s.password = "wrong"
	_, err = portal{impatient()}.send(t.Context(), s)
	assert.ErrorContains(t, err, "refused the name or the password")
	s.password = sim.Password
	_, err = portal{impatient()}.send(t.Context(), s)
	require.NoError(t, err)
	assert.Len(t, documents(t, office), 1)
}

// TestADocumentIsNotSentTwice breaks the line before and after a portal and a WebDAV folder have a
// document.
func TestADocumentIsNotSentTwice(t *testing.T) {
	t.Parallel()
	for by, path := range map[requirements.Channel]string{requirements.ByPortal: "/upload", requirements.ByWebDAV: "/webdav/"} {
		for _, fault := range []sim.Fault{sim.BreaksOff, sim.Loses} {
			office, address := newOffice(t, sim.State{Fault: fault, AfterKB: 100})
			s := newSending(t, 600_000, requirements.Delivery{By: by, Address: address + path})
			channel := map[requirements.Channel]channel{requirements.ByPortal: portal{impatient()}, requirements.ByWebDAV: webDAV{impatient()}}[by]
			_, err := channel.send(t.Context(), s)
			require.True(t, isBroken(err), "%s %s: %v", by, fault, err)
			_, err = channel.send(t.Context(), s)
			require.NoError(t, err, "%s %s", by, fault)
			came := documents(t, office)
			require.Len(t, came, 1, "%s %s", by, fault)
			assert.Equal(t, s.sha256, came[0].SHA256)
			wanted := map[sim.Fault]int{sim.BreaksOff: 2, sim.Loses: 1}[fault]
			assert.Equal(t, wanted, office.Attempts(), "%s %s: what arrived is not sent again", by, fault)
		}
	}
}

func TestAnswersThatAreNoneOfAPortal(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		handle func(http.ResponseWriter, *http.Request)
		is     func(error) bool
	}{
		"html": {func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", "text/html")
			_, _ = io.WriteString(w, "<p>Welcome")
		}, isUnclear},
		"nothing":   {func(http.ResponseWriter, *http.Request) {}, isUnclear},
		"no number": {func(w http.ResponseWriter, _ *http.Request) { say(w, `{"message":"ok"}`) }, isUnclear},
		"no end": {func(w http.ResponseWriter, _ *http.Request) {
			say(w, `{"message":"`+strings.Repeat("x", 2*answerBytes))
		}, isUnclear},
		"endless": {func(w http.ResponseWriter, r *http.Request) {
			for {
				say(w, " ")
				w.(http.Flusher).Flush() //nolint:forcetypeassert // it is one
				select {
				case <-r.Context().Done():
					return
				case <-time.After(20 * time.Millisecond):
				}
			}
		}, isBroken},
		"silent":  {func(_ http.ResponseWriter, r *http.Request) { <-r.Context().Done() }, isBroken},
		"trouble": {func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusInternalServerError) }, isBroken},
		"elsewhere": {func(w http.ResponseWriter, r *http.Request) {
			http.Redirect(w, r, "https://elsewhere.example/upload", http.StatusTemporaryRedirect)
		}, func(err error) bool {
			return strings.Contains(err.Error(), "refers to another address, https://elsewhere.example/upload")
		}},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
				_, _ = io.Copy(io.Discard, r.Body)
				c.handle(w, r)
			}))
			defer server.Close()
			s := newSending(t, 10, requirements.Delivery{By: requirements.ByPortal, Address: server.URL})
			_, err := portal{impatient()}.send(t.Context(), s)
			require.Error(t, err)
			assert.True(t, c.is(err), "%v", err)
		})
	}
}

func say(w http.ResponseWriter, text string) {
	w.Header().Set("Content-Type", "application/json")
	_, _ = io.WriteString(w, text)
}

func TestOnlyCertificatesThatAreTrusted(t *testing.T) {
	t.Parallel()
	office := sim.New("Fund", t.TempDir(), sim.State{})
	server := httptest.NewTLSServer(office.Handler())
	defer server.Close()
	for by, channel := range map[requirements.Channel]func(web) channel{
		requirements.ByPortal: func(w web) channel { return portal{w} }, requirements.ByWebDAV: func(w web) channel { return webDAV{w} },
	} {
		path := map[requirements.Channel]string{requirements.ByPortal: "/upload", requirements.ByWebDAV: "/webdav/"}[by]
		s := newSending(t, 10, requirements.Delivery{By: by, Address: server.URL + path})
		before := office.Attempts()
		_, err := channel(newWeb(nil)).send(t.Context(), s)
		var told *problem.Error
		require.ErrorAs(t, err, &told)
		assert.Contains(t, told.Sentence.English, "its certificate is from an authority that is not known here")
		assert.Equal(t, before, office.Attempts(), "nothing was sent")
		trusted := x509.NewCertPool()
		trusted.AddCert(server.Certificate())
		_, err = channel(newWeb(trusted)).send(t.Context(), s)
		require.NoError(t, err)
	}
	assert.Len(t, documents(t, office), 2)
}

func TestNothingIsOverwritten(t *testing.T) {
	t.Parallel()
	office, address := newOffice(t, sim.State{})
	outbox := t.TempDir()
	for by, c := range map[requirements.Channel]struct {
		channel channel
		address string
	}{
		requirements.ByWebDAV: {webDAV{impatient()}, address + "/webdav"},
		requirements.ByFolder: {outboxes{{Name: "Outbox", Path: outbox}}, "Outbox"},
	} {
		for i, want := range []string{"", "Placed as Boathouse roof-2.pdf, as there was a Boathouse roof.pdf.", "Placed as Boathouse roof-3.pdf, as there was a Boathouse roof.pdf."} {
			s := newSending(t, 10+i, requirements.Delivery{By: by, Address: c.address})
			answer, err := c.channel.send(t.Context(), s)
			require.NoError(t, err, by)
			assert.Equal(t, want, answer.English, by)
		}
	}
	sizes := map[string]int64{}
	for _, d := range documents(t, office) {
		sizes[d.Name] = d.Bytes
	}
	assert.Equal(t, map[string]int64{"Boathouse roof.pdf": 10, "Boathouse roof-2.pdf": 11, "Boathouse roof-3.pdf": 12}, sizes)
	entries, err := os.ReadDir(outbox)
	require.NoError(t, err)
	assert.Len(t, entries, 3, "nothing else is left")
}

func TestWebDAVFoldersThatAreNone(t *testing.T) {
	t.Parallel()
	office, address := newOffice(t, sim.State{})
	s := newSending(t, 10, requirements.Delivery{By: requirements.ByWebDAV, Address: address + "/webdav/missing/"})
	_, err := webDAV{impatient()}.send(t.Context(), s)
	assert.ErrorContains(t, err, "is not there")
	s.delivery.Address = address + "/state"
	_, err = webDAV{impatient()}.send(t.Context(), s)
	require.Error(t, err)
	office.Set(sim.State{Fault: sim.Full})
	s.delivery.Address = address + "/webdav"
	_, err = webDAV{impatient()}.send(t.Context(), s)
	assert.ErrorContains(t, err, "has no room left")
	assert.Empty(t, documents(t, office))
}

func TestAFolderTakesADocumentWholeOrNotAtAll(t *testing.T) {
	t.Parallel()
	outbox := t.TempDir()
	allowed := outboxes{{Name: "Outbox", Path: outbox}, {Name: "Gone", Path: filepath.Join(outbox, "gone")}}
	s := newSending(t, 3_000_000, requirements.Delivery{By: requirements.ByFolder, Address: "Gone"})
	_, err := allowed.send(t.Context(), s)
	assert.ErrorContains(t, err, "The folder Gone is not there")
	s.delivery.Address = "/etc"
	_, err = allowed.send(t.Context(), s)
	assert.ErrorContains(t, err, "There is no folder /etc")

	s.delivery.Address = "Outbox"
	ctx, cancel := context.WithCancel(t.Context())
	s.sent = func(int64) { cancel() }
	_, err = allowed.send(ctx, s)
	require.ErrorIs(t, err, context.Canceled)
	entries, err := os.ReadDir(outbox)
	require.NoError(t, err)
	assert.Empty(t, entries)

	s.sent = func(int64) {}
	_, err = allowed.send(t.Context(), s)
	require.NoError(t, err)
	answer, err := allowed.send(t.Context(), s) // the program ended before it was noted
	require.NoError(t, err)
	assert.Empty(t, answer)
	entries, err = os.ReadDir(outbox)
	require.NoError(t, err)
	assert.Len(t, entries, 1, "it was not placed twice")
}

// newMail serves a simulated mail server, and gives a mailer that trusts it.
func newMail(t *testing.T, state sim.State) (*sim.Office, mailer) {
	t.Helper()
	office := sim.New("Fund", t.TempDir(), state)
	server, certificate, err := office.Mail()
	require.NoError(t, err)
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = server.Serve(listener) }()
	t.Cleanup(func() { _ = server.Close() })
	trusted := x509.NewCertPool()
	trusted.AddCert(certificate)
	return office, mailer{MailServer{Address: listener.Addr().String(), From: "Rowing club <club@larkmere.example>"}, trusted}
}

func byMail() requirements.Delivery {
	return requirements.Delivery{
		By: requirements.ByMail, Address: "Fund <post@fund.example>, desk@fund.example", Subject: "Our application {reference}", Text: "Dear all,\nhere it is.",
	}
}

func TestADocumentIsMailed(t *testing.T) {
	t.Parallel()
	office, m := newMail(t, sim.State{})
	s := newSending(t, 700_000, byMail())
	s.name = "Dachstuhl – Übersicht.pdf"
	_, err := m.send(t.Context(), s)
	require.NoError(t, err)
	came := documents(t, office)
	require.Len(t, came, 1)
	assert.Equal(t, sim.Document{
		Number: came[0].Number, Delivery: s.id, Inbox: "mail", Name: s.name, Bytes: 700_000, SHA256: s.sha256, Title: "Our application TV-2026/118", Came: came[0].Came,
	}, came[0])
}

func TestWhatAMailServerRefusesIsTold(t *testing.T) {
	t.Parallel()
	office, m := newMail(t, sim.State{LimitMB: 1})
	_, err := m.send(t.Context(), newSending(t, 1_400_000, byMail()))
	assert.ErrorContains(t, err, "Nothing was sent: the mail server takes e-mails of up to 1 MB, and this one would have 1.9 MB")
	assert.Zero(t, office.Attempts())

	office, m = newMail(t, sim.State{Fault: sim.Refuses})
	_, err = m.send(t.Context(), newSending(t, 10, byMail()))
	assert.ErrorContains(t, err, "The mail server refused the e-mail (550): “Nothing is taken from you”")

	office.Set(sim.State{Fault: sim.Full})
	_, err = m.send(t.Context(), newSending(t, 10, byMail()))
	assert.True(t, isBroken(err), "%v", err)

	office.Set(sim.State{})
	untrusting := mailer{server: m.server}
	_, err = untrusting.send(t.Context(), newSending(t, 10, byMail()))
	assert.ErrorContains(t, err, "its certificate is from an authority that is not known here")
	assert.Empty(t, documents(t, office))
}

func TestAnEMailThatMayHaveGoneIsNotSentAgain(t *testing.T) {
	t.Parallel()
	office, m := newMail(t, sim.State{Fault: sim.Loses})
	s := newSending(t, 10, byMail())
	_, err := m.send(t.Context(), s)
	require.True(t, isUnclear(err), "%v", err)
	_, err = m.send(t.Context(), s)
	require.True(t, isUnclear(err), "not by itself")
	assert.Len(t, documents(t, office), 1)
}

func TestMailServersAreNamed(t *testing.T) {
	for address, want := range map[string]MailServer{
		"":                              {},
		"smtp://mail.example":           {Address: "mail.example:587", From: "a@b.example", Password: "x"},
		"smtps://ann@mail.example":      {Address: "mail.example:465", Implicit: true, User: "ann", From: "a@b.example", Password: "x"},
		"smtps://ann@mail.example:4650": {Address: "mail.example:4650", Implicit: true, User: "ann", From: "a@b.example", Password: "x"},
	} {
		got, err := ParseMailServer(address, "a@b.example", "x")
		require.NoError(t, err)
		assert.Equal(t, want, got)
	}
	for _, wrong := range []string{"mail.example:25", "http://mail.example", "smtp://"} {
		_, err := ParseMailServer(wrong, "a@b.example", "")
		require.Error(t, err, wrong)
	}
	_, err := ParseMailServer("smtp://mail.example", "nobody", "")
	require.Error(t, err)
}

// FuzzReply has servers say anything.
func FuzzReply(f *testing.F) {
	for _, seed := range []string{`{"number":"1"}`, `{"number":"` + strings.Repeat("é", 400) + `"}`, `{"message":"\u0000\n","detail":"x"}`, `[]`, ``} {
		f.Add(201, "application/json", []byte(seed))
	}
	f.Fuzz(func(t *testing.T, status int, contentType string, body []byte) {
		r := reply{status: status, header: http.Header{"Content-Type": {contentType}, "Location": {string(body)}}, body: body}
		s := &sending{delivery: requirements.Delivery{User: "club"}}
		if err := r.refusal("host", s); err != nil {
			assert.NotContains(t, err.Error(), "\n")
		}
		number, err := r.number("host")
		assert.True(t, number.IsEmpty() != (err == nil))
		assert.LessOrEqual(t, len([]rune(number.English)), 2*messageSize+5)
		assert.NotContains(t, number.English, "\n")
	})
}
