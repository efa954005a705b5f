package intake

import (
	"dorbin/core/message"
	"dorbin/core/problem"
)

// The reasons why a file is not taken.
const (
	UnknownKind   problem.Reason = "unknown-kind"
	Empty         problem.Reason = "empty"
	Damaged       problem.Reason = "damaged"
	NeedsPassword problem.Reason = "needs-password"
	WrongPassword problem.Reason = "wrong-password"
	TooLarge      problem.Reason = "too-large"
	TooManyPages  problem.Reason = "too-many-pages"
	TooManyPixels problem.Reason = "too-many-pixels"
	DiskFull      problem.Reason = "disk-full"
	NeedsOffice   problem.Reason = "needs-office"
	BadRange      problem.Reason = "bad-range"
)

// refuse says why a file is not taken.
func refuse(reason problem.Reason, cause error, format string, args ...any) *problem.Error {
	return &problem.Error{Kind: problem.Invalid, Reason: reason, Sentence: message.Of(format, args...), Cause: cause}
}
