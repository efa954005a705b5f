package sim

import (
	"encoding/json"
	"errors"
	"html/template"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"
	"golang.org/x/net/webdav"
)

// Handler serves the portal at /upload, the WebDAV folder at /webdav/, and the receiver's own page
// at /.
func (o *Office) Handler() http.Handler {
	router := chi.NewRouter()
	router.Get("/", o.page)
	router.Post("/", o.control)
	router.Get("/state", o.sendState)
	router.Put("/state", o.putState)
	router.Get("/documents", o.sendDocuments)
	router.Post("/upload", o.guarded(o.upload))
	router.Get("/upload/{delivery}", o.guarded(o.askedFor))
	chi.RegisterMethod("MOVE")
	router.Handle("/webdav/*", o.guarded(o.intoFolder(webdav.NewMemLS())))
	return router
}

// guarded lets in whoever knows the name and the password.
func (o *Office) guarded(next http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		user, password, _ := r.BasicAuth()
		if o.State().Protected && (user != User || password != Password) {
			w.Header().Set("WWW-Authenticate", `Basic realm="documents"`)
			say(w, http.StatusUnauthorized, answer{Message: "Sign in."})
			return
		}
		next(w, r)
	}
}

// answer is what the portal says.
type answer struct {
	Number  string `json:"number,omitempty"`
	Message string `json:"message"`
}

func say(w http.ResponseWriter, status int, a answer) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(a) // the client may be gone
}

// misbehaves does what the receiver's fault is, as far as that is before a document is taken.
func misbehaves(w http.ResponseWriter, r *http.Request, state State) bool {
	switch {
	case state.Fault == Full:
		say(w, http.StatusInsufficientStorage, answer{Message: "The inbox is full."})
	case state.Fault == Refuses:
		say(w, http.StatusUnprocessableEntity, answer{Message: "The application form is not signed."})
	case state.Fault == Trouble:
		say(w, http.StatusInternalServerError, answer{Message: "Something went wrong."})
	case state.Fault == Page:
		w.Header().Set("Content-Type", "text/html")
		_, _ = io.WriteString(w, "<!doctype html><title>Welcome</title><p>Please sign in.") // the client may be gone
	case state.Fault == Silent:
		<-r.Context().Done()
	case state.LimitMB > 0 && r.ContentLength > state.LimitMB*1_000_000:
		tooLarge(w, state)
	default:
		return false
	}
	return true
}

func tooLarge(w http.ResponseWriter, state State) {
	say(w, http.StatusRequestEntityTooLarge, answer{Message: "Documents have at most " + strconv.FormatInt(state.LimitMB, 10) + " MB."})
}

// breakOff ends a connection without a word.
func breakOff() { panic(http.ErrAbortHandler) }

const mostField = 10_000 // bytes

// upload takes a document, as docs/portal.md says.
func (o *Office) upload(w http.ResponseWriter, r *http.Request) {
	state := o.begin()
	if misbehaves(w, r, state) {
		return
	}
	form, err := r.MultipartReader()
	if err != nil {
		say(w, http.StatusBadRequest, answer{Message: "This is no form with a file."})
		return
	}
	fields := map[string]string{}
	for {
		part, err := form.NextPart()
		if err != nil {
			say(w, http.StatusBadRequest, answer{Message: "The form has no file."})
			return
		}
		if part.FormName() == "file" {
			o.takeUpload(w, part, part.FileName(), fields, state)
			return
		}
		value, _ := io.ReadAll(io.LimitReader(part, mostField)) // what is missing of it is not needed
		fields[part.FormName()] = string(value)
	}
}

func (o *Office) takeUpload(w http.ResponseWriter, in io.Reader, name string, fields map[string]string, state State) {
	if state.OnlyPDF && !strings.EqualFold(filepath.Ext(name), ".pdf") {
		say(w, http.StatusUnsupportedMediaType, answer{Message: "Only PDFs are taken."})
		return
	}
	path, sum, bytes, err := o.store("portal", in, state)
	switch {
	case errors.Is(err, errBrokenOff):
		breakOff()
	case errors.Is(err, errTooLarge):
		tooLarge(w, state)
		return
	case err != nil:
		return // the sender is gone
	case fields["sha256"] != "" && fields["sha256"] != sum:
		_ = os.Remove(path) // it is of no use
		say(w, http.StatusBadRequest, answer{Message: "The document did not come whole."})
		return
	}
	d := o.keep(Document{
		Inbox: "portal", Delivery: fields["delivery"], Name: name, Bytes: bytes, SHA256: sum, Reference: fields["reference"], Title: fields["title"],
	})
	if o.once(Loses) {
		breakOff()
	}
	say(w, http.StatusCreated, answer{d.Number, "Received."})
}

// askedFor tells whether a document came.
func (o *Office) askedFor(w http.ResponseWriter, r *http.Request) {
	d, ok := o.known("portal", chi.URLParam(r, "delivery"))
	if !ok {
		say(w, http.StatusNotFound, answer{Message: "It has not come."})
		return
	}
	say(w, http.StatusOK, answer{d.Number, "Received."})
}

// intoFolder serves the WebDAV folder, as the receiver behaves.
func (o *Office) intoFolder(locks webdav.LockSystem) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		folder := &webdav.Handler{Prefix: "/webdav", FileSystem: webdav.Dir(o.inbox("webdav")), LockSystem: locks}
		switch r.Method {
		case http.MethodPut:
			state := o.begin()
			if misbehaves(w, r, state) {
				return
			}
			r.Body = io.NopCloser(orBreakOff{&behaving{in: r.Body, office: o, state: state}})
		case "MOVE":
			if o.State().Fault == Loses {
				folder.ServeHTTP(quiet{w}, r)
				o.once(Loses)
				breakOff()
			}
		}
		folder.ServeHTTP(w, r)
	}
}

// quiet keeps an answer back.
type quiet struct{ http.ResponseWriter }

func (quiet) Write(p []byte) (int, error) { return len(p), nil }
func (quiet) WriteHeader(int)             {}

// orBreakOff breaks the connection off where its reader does.
type orBreakOff struct{ io.Reader }

func (r orBreakOff) Read(p []byte) (int, error) {
	n, err := r.Reader.Read(p)
	if errors.Is(err, errBrokenOff) {
		breakOff()
	}
	return n, err //nolint:wrapcheck // io.EOF is told as it is
}

// faultWords are the faults as the receiver's page offers them.
var faultWords = []struct {
	Fault Fault
	Words string
}{
	{Works, "takes documents"}, {Full, "is full"}, {Refuses, "refuses documents"}, {BreaksOff, "breaks off once"},
	{Loses, "takes a document and does not say so, once"}, {Trouble, "has a problem of its own"}, {Page, "answers with a web page"},
	{Silent, "does not answer"},
}

var control = template.Must(template.New("control").Parse(`<!doctype html>
<html lang="en"><meta charset="utf-8"><title>{{.Name}}</title>
<style>
body{font:16px/1.5 system-ui,sans-serif;max-width:56em;margin:2em auto;padding:0 1em;color:#1f2a2c;background:#efece4}
fieldset{background:#fcfbf8;border:1px solid #d9d4c8;border-radius:6px;margin:0 0 1em}
label{display:block;margin:.4em 0}select,input[type=number]{font:inherit}input[type=number]{width:6em}
button{font:inherit;padding:.3em 1em;background:#1c5a52;color:#fff;border:0;border-radius:6px}
table{border-collapse:collapse;width:100%;background:#fcfbf8}td,th{text-align:left;padding:.3em .6em;border:1px solid #d9d4c8;overflow-wrap:anywhere}
</style>
<h1>{{.Name}}</h1>
<p>A simulated receiver. Documents come to its portal at <code>/upload</code>, to its WebDAV folder at <code>/webdav/</code>, and by e-mail.</p>
<h2>What came</h2>
{{if .Documents}}<table><tr><th>Number</th><th>By</th><th>File</th><th>Bytes</th><th>Reference</th><th>When</th></tr>
{{range .Documents}}<tr><td>{{.Number}}</td><td>{{.Inbox}}</td><td>{{.Name}}</td><td>{{.Bytes}}</td><td>{{.Reference}}</td><td>{{.Came.Format "2 Jan 15:04:05"}}</td></tr>
{{end}}</table>{{else}}<p>Nothing yet.</p>{{end}}
<h2>How it behaves</h2>
<form method="post"><fieldset>
<label>It <select name="fault">{{range .Faults}}<option value="{{.Fault}}" {{if eq .Fault $.State.Fault}}selected{{end}}>{{.Words}}</option>{{end}}</select></label>
<label>It breaks off after <input type="number" name="afterKB" min="0" value="{{.State.AfterKB}}"> KB</label>
<label>It takes documents of up to <input type="number" name="limitMB" min="0" value="{{.State.LimitMB}}"> MB (0: of any size)</label>
<label>It takes <input type="number" name="slowKB" min="0" value="{{.State.SlowKB}}"> KB in a second (0: as fast as it can)</label>
<label><input type="checkbox" name="onlyPDF" value="true" {{if .State.OnlyPDF}}checked{{end}}> It takes PDFs alone</label>
<label><input type="checkbox" name="protected" value="true" {{if .State.Protected}}checked{{end}}> It asks for the name “{{.User}}” and the password “{{.Password}}”</label>
</fieldset><button>Set</button></form>
</html>`))

func (o *Office) page(w http.ResponseWriter, _ *http.Request) {
	documents, err := o.Documents()
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	_ = control.Execute(w, map[string]any{ // the client may be gone
		"Name": o.Name, "State": o.State(), "Documents": documents, "Faults": faultWords, "User": User, "Password": Password,
	})
}

func (o *Office) control(w http.ResponseWriter, r *http.Request) {
	number := func(name string) int64 {
		n, _ := strconv.ParseInt(r.PostFormValue(name), 10, 64) // 0 is none
		return max(0, n)
	}
	o.Set(State{
		Fault: Fault(r.PostFormValue("fault")), AfterKB: number("afterKB"), LimitMB: number("limitMB"), SlowKB: number("slowKB"),
		OnlyPDF: r.PostFormValue("onlyPDF") == "true", Protected: r.PostFormValue("protected") == "true",
	})
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

func (o *Office) sendState(w http.ResponseWriter, _ *http.Request) { send(w, o.State()) }

func (o *Office) sendDocuments(w http.ResponseWriter, _ *http.Request) {
	documents, err := o.Documents()
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	send(w, documents)
}

func send(w http.ResponseWriter, value any) {
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(value) // the client may be gone
}

func (o *Office) putState(w http.ResponseWriter, r *http.Request) {
	state := o.State()
	if err := json.NewDecoder(io.LimitReader(r.Body, mostField)).Decode(&state); err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	o.Set(state)
}
