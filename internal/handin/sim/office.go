package sim

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"time"
)

// Fault is how the receiver misbehaves.
type Fault string

// The faults.
const (
	Works     Fault = ""
	Full      Fault = "full"      // there is no room left
	Refuses   Fault = "refuses"   // the document, and says why
	BreaksOff Fault = "breaksOff" // after some bytes, once; then it works
	Loses     Fault = "loses"     // takes the document, and breaks off before it answers, once
	Trouble   Fault = "trouble"   // has a problem of its own
	Page      Fault = "page"      // answers with a web page
	Silent    Fault = "silent"    // does not answer
)

// State is how the receiver behaves.
type State struct {
	Fault     Fault `json:"fault"`
	AfterKB   int64 `json:"afterKB"`   // after which it breaks off
	LimitMB   int64 `json:"limitMB"`   // the largest document that it takes; 0 is any
	SlowKB    int64 `json:"slowKB"`    // that it takes in a second; 0 is as fast as it can
	OnlyPDF   bool  `json:"onlyPDF"`   // takes nothing else
	Protected bool  `json:"protected"` // asks for the name and the password
}

// The name and the password that it asks for.
const (
	User     = "club"
	Password = "boathouse"
)

// Document is one that came.
type Document struct {
	Number    string    `json:"number"`
	Delivery  string    `json:"delivery"` // the sender's number of it
	Inbox     string    `json:"inbox"`    // portal, webdav or mail
	Name      string    `json:"name"`
	Bytes     int64     `json:"bytes"`
	SHA256    string    `json:"sha256"`
	Reference string    `json:"reference"`
	Title     string    `json:"title"`
	Came      time.Time `json:"came"`
}

// Office is the simulated receiver.
type Office struct {
	Name   string
	folder string

	mutex     sync.Mutex
	state     State
	documents []Document
	attempts  int
}

// New makes a receiver that keeps what it takes in a folder, which is made when the first document
// comes.
func New(name, folder string, state State) *Office {
	return &Office{Name: name, folder: folder, state: state}
}

// State tells how the receiver behaves.
func (o *Office) State() State {
	o.mutex.Lock()
	defer o.mutex.Unlock()
	return o.state
}

// Set has the receiver behave otherwise.
func (o *Office) Set(s State) {
	o.mutex.Lock()
	defer o.mutex.Unlock()
	o.state = s
}

// Documents are those that came, the first first, with the files in the WebDAV folder.
func (o *Office) Documents() ([]Document, error) {
	o.mutex.Lock()
	defer o.mutex.Unlock()
	all := append([]Document{}, o.documents...)
	entries, err := os.ReadDir(o.inbox("webdav"))
	if err != nil {
		return nil, fmt.Errorf("list the WebDAV folder: %w", err)
	}
	for _, entry := range entries {
		info, err := entry.Info()
		if err != nil || strings.HasPrefix(entry.Name(), ".") {
			continue // gone meanwhile, or not all there
		}
		sum, err := hashOf(filepath.Join(o.inbox("webdav"), entry.Name()))
		if err != nil {
			return nil, err
		}
		all = append(all, Document{Inbox: "webdav", Name: entry.Name(), Bytes: info.Size(), SHA256: sum, Came: info.ModTime()})
	}
	return all, nil
}

func hashOf(path string) (string, error) {
	file, err := os.Open(path) //nolint:gosec // in the inbox
	if err != nil {
		return "", fmt.Errorf("open a document: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	digest := sha256.New()
	if _, err := io.Copy(digest, file); err != nil {
		return "", fmt.Errorf("read a document: %w", err)
	}
	return hex.EncodeToString(digest.Sum(nil)), nil
}

// Attempts is how often somebody began to send a document.
func (o *Office) Attempts() int {
	o.mutex.Lock()
	defer o.mutex.Unlock()
	return o.attempts
}

// inbox is a folder for what comes in one way.
func (o *Office) inbox(name string) string {
	path := filepath.Join(o.folder, name)
	_ = os.MkdirAll(path, 0o700) // whoever writes into it says that it is missing
	return path
}

func (o *Office) begin() State {
	o.mutex.Lock()
	defer o.mutex.Unlock()
	o.attempts++
	return o.state
}

// once tells whether a fault that happens once is to happen, and has it be over.
func (o *Office) once(fault Fault) bool {
	o.mutex.Lock()
	defer o.mutex.Unlock()
	if o.state.Fault != fault {
		return false
	}
	o.state.Fault = Works
	return true
}

// keep numbers a document that came. One that came before keeps its number.
func (o *Office) keep(d Document) Document {
	o.mutex.Lock()
	defer o.mutex.Unlock()
	for _, before := range o.documents {
		if d.Delivery != "" && before.Delivery == d.Delivery && before.Inbox == d.Inbox {
			return before
		}
	}
	d.Number, d.Came = fmt.Sprintf("TVF-%d-%04d", time.Now().Year(), len(o.documents)+1), time.Now()
	o.documents = append(o.documents, d)
	return d
}

// known gives the document that came by a sender's number.
func (o *Office) known(inbox, delivery string) (Document, bool) {
	o.mutex.Lock()
	defer o.mutex.Unlock()
	for _, d := range o.documents {
		if d.Inbox == inbox && d.Delivery == delivery {
			return d, true
		}
	}
	return Document{}, false
}

var (
	errBrokenOff = errors.New("the receiver breaks off")
	errTooLarge  = errors.New("the document is too large")
)

// store writes what comes to the inbox, as slowly and as far as the receiver behaves.
func (o *Office) store(inbox string, in io.Reader, state State) (path, sum string, bytes int64, err error) {
	file, err := os.CreateTemp(o.inbox(inbox), "document-*")
	if err != nil {
		return "", "", 0, fmt.Errorf("make a file: %w", err)
	}
	digest := sha256.New()
	bytes, err = io.Copy(io.MultiWriter(file, digest), &behaving{in: in, office: o, state: state})
	if err := errors.Join(err, file.Close()); err != nil {
		return "", "", bytes, errors.Join(err, os.Remove(file.Name()))
	}
	return file.Name(), hex.EncodeToString(digest.Sum(nil)), bytes, nil
}

// pieces is in how many a slow receiver takes what comes in a second.
const pieces = 10

// behaving reads what comes as slowly and as far as the receiver behaves.
type behaving struct {
	in     io.Reader
	office *Office
	state  State
	read   int64
}

// Read reads on, or gives errBrokenOff or errTooLarge.
func (b *behaving) Read(p []byte) (int, error) {
	if b.state.Fault == BreaksOff && b.read >= b.state.AfterKB<<10 && b.office.once(BreaksOff) {
		return 0, errBrokenOff
	}
	if slow := b.office.State().SlowKB; slow > 0 { // it may become faster meanwhile
		time.Sleep(time.Second / pieces)
		p = p[:min(int64(len(p)), max(1, slow<<10/pieces))]
	}
	n, err := b.in.Read(p)
	b.read += int64(n)
	if b.state.LimitMB > 0 && b.read > b.state.LimitMB*1_000_000 {
		return n, errTooLarge
	}
	return n, err //nolint:wrapcheck // io.EOF is told as it is
}
