package scanner

import (
	"dorbin/core/message"
	"dorbin/core/problem"
)

// The reasons that hinder a scan.
const (
	Unreachable problem.Reason = "unreachable"
	Nonsense    problem.Reason = "nonsense"
	Busy        problem.Reason = "busy"
	FeederEmpty problem.Reason = "feederEmpty"
	Jam         problem.Reason = "jam"
	CoverOpen   problem.Reason = "coverOpen"
	Mispick     problem.Reason = "mispick"
	Stopped     problem.Reason = "stopped"
	Refused     problem.Reason = "refused"
)

// fault is what hinders a scan, in a sentence that says what to do at the device. Pages that
// have arrived are not touched by it.
func fault(reason problem.Reason, cause error, format string, args ...any) *problem.Error {
	return &problem.Error{Kind: problem.Invalid, Reason: reason, Sentence: message.Of(format, args...), Cause: cause}
}

// feederFaults are the states of a feeder that hinder a scan (eSCL, AdfState).
var feederFaults = map[string]*problem.Error{
	"ScannerAdfEmpty":                 {Kind: problem.Invalid, Reason: FeederEmpty, Sentence: message.Of("The feeder is empty. Put paper in, or scan from the glass.")},
	"ScannerAdfJam":                   {Kind: problem.Invalid, Reason: Jam, Sentence: message.Of("Paper is jammed in the feeder. Open its cover, take the sheet out, put it and those not scanned yet back in, and go on.")},
	"ScannerAdfDoorOpen":              {Kind: problem.Invalid, Reason: CoverOpen, Sentence: message.Of("The cover of the feeder is open. Close it and go on.")},
	"ScannerAdfHatchOpen":             {Kind: problem.Invalid, Reason: CoverOpen, Sentence: message.Of("The cover of the feeder is open. Close it and go on.")},
	"ScannerAdfMispick":               {Kind: problem.Invalid, Reason: Mispick, Sentence: message.Of("The feeder could not take the next sheet. Straighten the stack, put it back in, and go on.")},
	"ScannerAdfMultipickDetected":     {Kind: problem.Invalid, Reason: Mispick, Sentence: message.Of("The device felt two sheets go through at once. Put them back in, and go on.")},
	"ScannerAdfInputTrayFailed":       {Kind: problem.Invalid, Reason: Mispick, Sentence: message.Of("The feeder’s tray has failed. Look at the device.")},
	"ScannerAdfDuplexPageTooShort":    {Kind: problem.Invalid, Reason: Refused, Sentence: message.Of("A sheet is too short to be scanned on both sides. Scan one side, or use the glass.")},
	"ScannerAdfDuplexPageTooLong":     {Kind: problem.Invalid, Reason: Refused, Sentence: message.Of("A sheet is too long to be scanned on both sides. Scan one side, or use the glass.")},
	"ScannerAdfInputTrayOverloaded":   {Kind: problem.Invalid, Reason: Refused, Sentence: message.Of("There is too much paper in the feeder. Take some out and go on.")},
	"ScannerAdfProcessingTemporarily": {Kind: problem.Invalid, Reason: Busy, Sentence: message.Of("The feeder is still at work. Wait a moment and go on.")},
}
