package sim

import (
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"text/template"

	"github.com/go-chi/chi/v5"
)

// Handler serves the device: eSCL under /eSCL, and its own page at the root.
func (d *Device) Handler() http.Handler {
	router := chi.NewRouter()
	router.Get("/", d.controlPage)
	router.Post("/", d.control)
	router.Get("/state", d.sendState)
	router.Put("/state", d.putState)
	router.Group(func(r chi.Router) {
		r.Use(d.misbehave)
		r.Get("/eSCL/ScannerCapabilities", d.sendCapabilities)
		r.Get("/eSCL/ScannerStatus", d.sendStatus)
		r.Post("/eSCL/ScanJobs", d.createJob)
		r.Get("/eSCL/ScanJobs/{job}/NextDocument", d.nextDocument)
		r.Delete("/eSCL/ScanJobs/{job}", d.deleteJob)
	})
	return router
}

// misbehave stands before the protocol: a device that is off closes the
// connection without a word.
func (d *Device) misbehave(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		state := d.State()
		switch {
		case !state.On:
			panic(http.ErrAbortHandler)
		case state.Fault == Silent:
			<-r.Context().Done()
		case state.Fault == Nonsense:
			_, _ = io.WriteString(w, "<html><p>Welcome to the coffee machine</p>") // the client may be gone
		case state.Fault == Busy && r.Method == http.MethodPost:
			w.Header().Set("Retry-After", "1")
			w.WriteHeader(http.StatusServiceUnavailable)
		default:
			next.ServeHTTP(w, r)
		}
	})
}

const namespaces = `xmlns:scan="http://schemas.hp.com/imaging/escl/2011/05/03" xmlns:pwg="http://www.pwg.org/schemas/2010/12/sm"`

var resolutions = []int{75, 100, 150, 200, 300, 400, 600}

// The largest areas in 1/300 inch: the glass and the feeder take Letter and A4.
const (
	maxWidth  = 2550
	maxHeight = 3508
)

var capabilitiesTemplate = template.Must(template.New("capabilities").Parse(`<?xml version="1.0" encoding="UTF-8"?>
<scan:ScannerCapabilities {{.Namespaces}}>
 <pwg:Version>2.63</pwg:Version>
 <pwg:MakeAndModel>{{.Name}}</pwg:MakeAndModel>
 <pwg:SerialNumber>SIM-0001</pwg:SerialNumber>
 <scan:UUID>4509a320-00a0-008f-00b6-002507510eca</scan:UUID>
 <scan:Platen><scan:PlatenInputCaps>{{template "input" .}}</scan:PlatenInputCaps></scan:Platen>
 <scan:Adf>
  <scan:AdfSimplexInputCaps>{{template "input" .}}</scan:AdfSimplexInputCaps>
  <scan:AdfDuplexInputCaps>{{template "input" .}}</scan:AdfDuplexInputCaps>
  <scan:FeederCapacity>50</scan:FeederCapacity>
  <scan:AdfOptions><scan:AdfOption>DetectPaperLoaded</scan:AdfOption><scan:AdfOption>Duplex</scan:AdfOption></scan:AdfOptions>
 </scan:Adf>
</scan:ScannerCapabilities>
{{define "input"}}
  <scan:MinWidth>300</scan:MinWidth><scan:MaxWidth>{{.MaxWidth}}</scan:MaxWidth>
  <scan:MinHeight>300</scan:MinHeight><scan:MaxHeight>{{.MaxHeight}}</scan:MaxHeight>
  <scan:MaxScanRegions>1</scan:MaxScanRegions>
  <scan:SettingProfiles><scan:SettingProfile>
   <scan:ColorModes><scan:ColorMode>BlackAndWhite1</scan:ColorMode><scan:ColorMode>Grayscale8</scan:ColorMode><scan:ColorMode>RGB24</scan:ColorMode></scan:ColorModes>
   <scan:ContentTypes><pwg:ContentType>Text</pwg:ContentType><pwg:ContentType>TextAndPhoto</pwg:ContentType><pwg:ContentType>Photo</pwg:ContentType></scan:ContentTypes>
   <scan:DocumentFormats><pwg:DocumentFormat>image/jpeg</pwg:DocumentFormat><scan:DocumentFormatExt>image/jpeg</scan:DocumentFormatExt></scan:DocumentFormats>
   <scan:SupportedResolutions><scan:DiscreteResolutions>{{range .Resolutions}}<scan:DiscreteResolution><scan:XResolution>{{.}}</scan:XResolution><scan:YResolution>{{.}}</scan:YResolution></scan:DiscreteResolution>{{end}}</scan:DiscreteResolutions></scan:SupportedResolutions>
  </scan:SettingProfile></scan:SettingProfiles>
{{end}}`))

func (d *Device) sendCapabilities(w http.ResponseWriter, _ *http.Request) {
	w.Header().Set("Content-Type", "text/xml")
	_ = capabilitiesTemplate.Execute(w, map[string]any{ // the client may be gone
		"Namespaces": namespaces, "Name": d.Name, "MaxWidth": maxWidth, "MaxHeight": maxHeight, "Resolutions": resolutions,
	})
}

func (d *Device) sendStatus(w http.ResponseWriter, _ *http.Request) {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	state := "Idle"
	jobs := ""
	for _, j := range d.jobs {
		jobState, reason := "Processing", "JobScanning"
		switch {
		case j.aborted:
			jobState, reason = "Aborted", "AbortBySystem"
		case j.done:
			jobState, reason = "Completed", "JobCompletedSuccessfully"
		default:
			state = "Processing"
		}
		jobs += fmt.Sprintf("<scan:JobInfo><pwg:JobUri>/eSCL/ScanJobs/%s</pwg:JobUri><pwg:JobUuid>%s</pwg:JobUuid><scan:Age>1</scan:Age>"+
			"<pwg:ImagesCompleted>%d</pwg:ImagesCompleted><pwg:JobState>%s</pwg:JobState>"+
			"<pwg:JobStateReasons><pwg:JobStateReason>%s</pwg:JobStateReason></pwg:JobStateReasons></scan:JobInfo>", j.id, j.id, j.pages, jobState, reason)
	}
	w.Header().Set("Content-Type", "text/xml")
	_, _ = fmt.Fprintf(w, `<?xml version="1.0" encoding="UTF-8"?><scan:ScannerStatus %s><pwg:Version>2.63</pwg:Version><pwg:State>%s</pwg:State>`+
		`<scan:AdfState>%s</scan:AdfState><scan:Jobs>%s</scan:Jobs></scan:ScannerStatus>`, namespaces, state, d.feederState(), jobs) // the client may be gone
}

// scanSettings is what a client asks for.
type scanSettings struct {
	XMLName xml.Name `xml:"ScanSettings"`
	Regions []struct {
		Width, Height int
	} `xml:"ScanRegions>ScanRegion"`
	InputSource string
	ColorMode   string
	XResolution int
	YResolution int
	Duplex      bool
	Format      string `xml:"DocumentFormat"`
	FormatExt   string `xml:"DocumentFormatExt"`
}

const maxSettings = 1 << 20

func (s scanSettings) order() (order, error) {
	o := order{
		feeder: s.InputSource == "Feeder" || s.InputSource == "Adf", duplex: s.Duplex, colour: s.ColorMode,
		resolution: s.XResolution, width: maxWidth, height: maxHeight,
	}
	if len(s.Regions) > 0 {
		o.width, o.height = s.Regions[0].Width, s.Regions[0].Height
	}
	if o.colour == "" {
		o.colour = "RGB24"
	}
	if o.resolution == 0 {
		o.resolution = 300
	}
	switch {
	case !slices.Contains(resolutions, o.resolution):
		return o, fmt.Errorf("%d dpi are not offered", o.resolution)
	case o.width < 100 || o.width > maxWidth || o.height < 100 || o.height > maxHeight:
		return o, fmt.Errorf("an area of %d by %d is not offered", o.width, o.height)
	case !slices.Contains([]string{"BlackAndWhite1", "Grayscale8", "RGB24"}, o.colour):
		return o, fmt.Errorf("the colour mode %s is not offered", o.colour)
	case s.Format != "" && s.Format != "image/jpeg":
		return o, errors.New("only JPEG is offered")
	}
	return o, nil
}

func (d *Device) createJob(w http.ResponseWriter, r *http.Request) {
	var settings scanSettings
	if err := xml.NewDecoder(io.LimitReader(r.Body, maxSettings)).Decode(&settings); err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	o, err := settings.order()
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	j, refusal := d.begin(o)
	if refusal != 0 {
		if refusal == http.StatusServiceUnavailable {
			w.Header().Set("Retry-After", "1")
		}
		w.WriteHeader(refusal)
		return
	}
	w.Header().Set("Location", "/eSCL/ScanJobs/"+j.id)
	w.WriteHeader(http.StatusCreated)
}

func (d *Device) nextDocument(w http.ResponseWriter, r *http.Request) {
	j, ok := d.job(chi.URLParam(r, "job"))
	if !ok {
		w.WriteHeader(http.StatusNotFound)
		return
	}
	if !d.wait(j) {
		w.WriteHeader(http.StatusGone)
		return
	}
	next, ok := d.pull(j)
	switch {
	case ok:
	case !d.State().On:
		panic(http.ErrAbortHandler)
	default:
		w.WriteHeader(http.StatusNotFound)
		return
	}
	data, err := next.sheet.side(next.back, j.order, next.seed)
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Content-Length", strconv.Itoa(len(data)))
	_, _ = w.Write(data) // the client may be gone
}

func (d *Device) deleteJob(w http.ResponseWriter, r *http.Request) {
	if !d.cancel(chi.URLParam(r, "job")) {
		w.WriteHeader(http.StatusNotFound)
	}
}
