package scanner

import "fmt"

// FaultKind is what hinders a scan.
type FaultKind string

// The faults.
const (
	Unreachable FaultKind = "unreachable"
	Nonsense    FaultKind = "nonsense"
	Busy        FaultKind = "busy"
	FeederEmpty FaultKind = "feederEmpty"
	Jam         FaultKind = "jam"
	CoverOpen   FaultKind = "coverOpen"
	Mispick     FaultKind = "mispick"
	Stopped     FaultKind = "stopped"
	Refused     FaultKind = "refused"
)

// Fault is what hinders a scan, in a sentence that says what to do at the
// device. Pages that have arrived are not touched by it.
type Fault struct {
	Kind     FaultKind
	Sentence string
	Cause    error
}

func (f *Fault) Error() string { return f.Sentence }

func (f *Fault) Unwrap() error { return f.Cause }

func fault(kind FaultKind, cause error, format string, args ...any) *Fault {
	return &Fault{Kind: kind, Sentence: fmt.Sprintf(format, args...), Cause: cause}
}

// feederFaults are the states of a feeder that hinder a scan (eSCL, AdfState).
var feederFaults = map[string]*Fault{
	"ScannerAdfEmpty":                 {Kind: FeederEmpty, Sentence: "The feeder is empty. Put paper in, or scan from the glass."},
	"ScannerAdfJam":                   {Kind: Jam, Sentence: "Paper is jammed in the feeder. Open its cover, take the sheet out, put it and those not scanned yet back in, and go on."},
	"ScannerAdfDoorOpen":              {Kind: CoverOpen, Sentence: "The cover of the feeder is open. Close it and go on."},
	"ScannerAdfHatchOpen":             {Kind: CoverOpen, Sentence: "The cover of the feeder is open. Close it and go on."},
	"ScannerAdfMispick":               {Kind: Mispick, Sentence: "The feeder could not take the next sheet. Straighten the stack, put it back in, and go on."},
	"ScannerAdfMultipickDetected":     {Kind: Mispick, Sentence: "The device felt two sheets go through at once. Put them back in, and go on."},
	"ScannerAdfInputTrayFailed":       {Kind: Mispick, Sentence: "The feeder’s tray has failed. Look at the device."},
	"ScannerAdfDuplexPageTooShort":    {Kind: Refused, Sentence: "A sheet is too short to be scanned on both sides. Scan one side, or use the glass."},
	"ScannerAdfDuplexPageTooLong":     {Kind: Refused, Sentence: "A sheet is too long to be scanned on both sides. Scan one side, or use the glass."},
	"ScannerAdfInputTrayOverloaded":   {Kind: Refused, Sentence: "There is too much paper in the feeder. Take some out and go on."},
	"ScannerAdfProcessingTemporarily": {Kind: Busy, Sentence: "The feeder is still at work. Wait a moment and go on."},
}
