package sim

import (
	"fmt"
	"slices"
	"strconv"
	"sync"
	"time"
)

// Fault is how the device misbehaves.
type Fault string

// The faults. Those that happen at a sheet happen once; then the device works.
const (
	Works    Fault = ""
	JamAt    Fault = "jam"      // paper jams at the sheet
	DoubleAt Fault = "double"   // the sheet and the next are pulled together
	OffAt    Fault = "off"      // the device is switched off at the sheet
	Cover    Fault = "cover"    // the feeder's cover is open until it is closed
	Busy     Fault = "busy"     // somebody else is scanning
	Nonsense Fault = "nonsense" // answers are not eSCL
	Silent   Fault = "silent"   // there is no answer
)

// State is what lies in the device and how it behaves.
type State struct {
	Feeder  []string `json:"feeder"` // names of sheets, the top one first
	Glass   string   `json:"glass"`  // name of a sheet; empty is none
	Fault   Fault    `json:"fault"`
	At      int      `json:"at"`      // the sheet, from 1, at which the fault happens
	Seconds float64  `json:"seconds"` // for each sheet
	On      bool     `json:"on"`
}

// Device is the simulated scanner.
type Device struct {
	Name string

	mutex  sync.Mutex
	sheets map[string]Sheet
	names  []string
	state  State
	jam    bool
	jobs   map[string]*job
	nextID int
	seed   uint64
}

// order is what a job asks for.
type order struct {
	feeder, duplex bool
	width, height  int // 1/300 inch
	colour         string
	resolution     int
}

// job is a scan under way.
type job struct {
	order
	id       string
	sheet    int    // sheets taken so far
	taken    *Sheet // of which the back is still to come
	done     bool
	aborted  bool
	pages    int
	canceled chan struct{}
}

// New makes a device. The sheets are those that can lie in it; the state is how
// it is at first.
func New(name string, sheets []Sheet, state State) *Device {
	d := &Device{Name: name, sheets: map[string]Sheet{}, jobs: map[string]*job{}, state: state}
	d.state.Feeder = slices.Clone(state.Feeder)
	for _, sheet := range sheets {
		d.sheets[sheet.Name] = sheet
		d.names = append(d.names, sheet.Name)
	}
	return d
}

// State gives the device's state.
func (d *Device) State() State {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	s := d.state
	s.Feeder = slices.Clone(s.Feeder)
	return s
}

// Set changes what lies in the device and how it behaves. Sheets that it does not
// know are an error. A jam is cleared by it.
func (d *Device) Set(s State) error {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	for _, name := range append(slices.Clone(s.Feeder), s.Glass) {
		if _, ok := d.sheets[name]; !ok && name != "" {
			return fmt.Errorf("there is no sheet %q", name)
		}
	}
	if s.Seconds < 0 || s.Seconds > 60 {
		return fmt.Errorf("a sheet takes between 0 and 60 seconds, not %g", s.Seconds)
	}
	d.state, d.jam = s, false
	d.state.Feeder = slices.Clone(s.Feeder)
	return nil
}

// begin makes a job, or says with which HTTP status it is refused.
func (d *Device) begin(o order) (*job, int) {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	if o.feeder && (len(d.state.Feeder) == 0 || d.jam || d.state.Fault == Cover) {
		return nil, 409
	}
	for _, other := range d.jobs {
		if !other.done {
			return nil, 503
		}
	}
	d.nextID++
	j := &job{order: o, id: strconv.Itoa(d.nextID), canceled: make(chan struct{})}
	d.jobs[j.id] = j
	return j, 0
}

func (d *Device) cancel(id string) bool {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	j, ok := d.jobs[id]
	if ok && !j.done {
		j.done = true
		close(j.canceled)
	}
	return ok
}

func (d *Device) job(id string) (*job, bool) {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	j, ok := d.jobs[id]
	return j, ok
}

// side is one side of a sheet that is ready to be drawn.
type side struct {
	sheet Sheet
	back  bool
	seed  uint64
}

// pull takes the next side of a job's sheets. Without one the job is over: all
// is scanned, or something has happened.
func (d *Device) pull(j *job) (side, bool) {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	if j.done {
		return side{}, false
	}
	d.seed++
	if j.taken != nil {
		s := side{*j.taken, true, d.seed}
		j.taken = nil
		j.pages++
		return s, true
	}
	if !j.feeder {
		j.done = true
		j.pages++
		return side{d.sheets[d.state.Glass], false, d.seed}, true
	}
	sheet, ok := d.feed(j)
	if !ok {
		j.done = true
		return side{}, false
	}
	if j.duplex {
		j.taken = &sheet
	}
	j.pages++
	return side{sheet, false, d.seed}, true
}

// feed takes the top sheet of the stack, and lets happen what is to happen.
func (d *Device) feed(j *job) (Sheet, bool) {
	if len(d.state.Feeder) == 0 || d.jam || d.state.Fault == Cover {
		j.aborted = d.jam || d.state.Fault == Cover
		return Sheet{}, false
	}
	j.sheet++
	if j.sheet == d.state.At {
		switch d.state.Fault {
		case JamAt:
			d.jam, j.aborted = true, true
			d.state.Fault = Works
			return Sheet{}, false
		case OffAt:
			d.state.On, j.aborted = false, true
			d.state.Fault = Works
			return Sheet{}, false
		case DoubleAt:
			d.state.Fault = Works
			if len(d.state.Feeder) > 1 { // the lower one is not seen
				d.state.Feeder = slices.Delete(d.state.Feeder, 1, 2)
			}
		}
	}
	sheet := d.sheets[d.state.Feeder[0]]
	d.state.Feeder = d.state.Feeder[1:]
	return sheet, true
}

// wait takes the time of a sheet, at its resolution.
func (d *Device) wait(j *job) bool {
	seconds := d.State().Seconds
	if j.resolution > 300 {
		seconds *= 2
	}
	select {
	case <-j.canceled:
		return false
	case <-time.After(time.Duration(seconds * float64(time.Second))):
		return true
	}
}

// feederState is the feeder's state in eSCL's words.
func (d *Device) feederState() string {
	switch {
	case d.jam:
		return "ScannerAdfJam"
	case d.state.Fault == Cover:
		return "ScannerAdfDoorOpen"
	case len(d.state.Feeder) == 0:
		return "ScannerAdfEmpty"
	}
	return "ScannerAdfLoaded"
}
