package sim

import (
	"encoding/json"
	"html/template"
	"io"
	"net/http"
	"strconv"
	"strings"
)

// faultWords are the faults as the device's page offers them.
var faultWords = []struct {
	Fault Fault
	Words string
}{
	{Works, "works"}, {JamAt, "paper jam at sheet"}, {DoubleAt, "two sheets pulled together at sheet"},
	{OffAt, "switched off at sheet"}, {Cover, "cover of the feeder is open"}, {Busy, "busy with somebody else"},
	{Nonsense, "answers nonsense"}, {Silent, "does not answer"},
}

var page = template.Must(template.New("control").Parse(`<!doctype html>
<html lang="en"><meta charset="utf-8"><title>{{.Name}}</title>
<style>
body{font:16px/1.5 system-ui,sans-serif;max-width:44em;margin:2em auto;padding:0 1em;color:#1f2a2c;background:#efece4}
fieldset{background:#fcfbf8;border:1px solid #d9d4c8;border-radius:6px;margin:0 0 1em}
label{display:block;margin:.4em 0}textarea,select,input[type=number]{font:inherit}textarea{width:100%;height:14em}
button{font:inherit;padding:.3em 1em;background:#1c5a52;color:#fff;border:0;border-radius:6px}.problem{color:#a6402b}
</style>
<h1>{{.Name}}</h1>
<p>A simulated scanner. Here you are what stands before a real one: put paper in, take it out, open the cover.</p>
{{with .Problem}}<p class="problem">{{.}}</p>{{end}}
<form method="post">
<fieldset><legend>Paper</legend>
<label>In the feeder, one sheet a line, the top one first
<textarea name="feeder">{{range .State.Feeder}}{{.}}
{{end}}</textarea></label>
<label>On the glass <select name="glass"><option value="">nothing</option>
{{range .Sheets}}<option {{if eq . $.State.Glass}}selected{{end}}>{{.}}</option>{{end}}</select></label>
</fieldset>
<fieldset><legend>Behaviour</legend>
<label><input type="checkbox" name="on" value="true" {{if .State.On}}checked{{end}}> Switched on</label>
<label>It <select name="fault">{{range .Faults}}<option value="{{.Fault}}" {{if eq .Fault $.State.Fault}}selected{{end}}>{{.Words}}</option>{{end}}</select>
<input type="number" name="at" min="0" max="999" value="{{.State.At}}" aria-label="sheet"></label>
<label>Seconds for each sheet <input type="number" name="seconds" min="0" max="60" step="0.1" value="{{.State.Seconds}}"></label>
</fieldset>
<button>Set</button>
</form>
<h2>Sheets that can lie in it</h2><ul>{{range .Sheets}}<li>{{.}}</li>{{end}}</ul>
</html>`))

func (d *Device) controlPage(w http.ResponseWriter, _ *http.Request) { d.showControl(w, nil) }

func (d *Device) showControl(w http.ResponseWriter, problem error) {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	_ = page.Execute(w, map[string]any{ // the client may be gone
		"Name": d.Name, "State": d.State(), "Sheets": d.names, "Faults": faultWords, "Problem": problem,
	})
}

func (d *Device) control(w http.ResponseWriter, r *http.Request) {
	s := State{Glass: r.PostFormValue("glass"), Fault: Fault(r.PostFormValue("fault")), On: r.PostFormValue("on") == "true"}
	for line := range strings.Lines(r.PostFormValue("feeder")) {
		if name := strings.TrimSpace(line); name != "" {
			s.Feeder = append(s.Feeder, name)
		}
	}
	s.At, _ = strconv.Atoi(r.PostFormValue("at"))                     // 0 is no sheet
	s.Seconds, _ = strconv.ParseFloat(r.PostFormValue("seconds"), 64) // 0 is at once
	if err := d.Set(s); err != nil {
		d.showControl(w, err)
		return
	}
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

func (d *Device) sendState(w http.ResponseWriter, _ *http.Request) {
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(d.State()) // the client may be gone
}

func (d *Device) putState(w http.ResponseWriter, r *http.Request) {
	s := d.State()
	if err := json.NewDecoder(io.LimitReader(r.Body, maxSettings)).Decode(&s); err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	if err := d.Set(s); err != nil {
		http.Error(w, err.Error(), http.StatusUnprocessableEntity)
	}
}
