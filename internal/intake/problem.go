package intake

import "fmt"

// Reason says why a file was not taken.
type Reason string

// The reasons.
const (
	UnknownKind   Reason = "unknown-kind"
	Empty         Reason = "empty"
	Damaged       Reason = "damaged"
	NeedsPassword Reason = "needs-password"
	WrongPassword Reason = "wrong-password"
	TooLarge      Reason = "too-large"
	TooManyPages  Reason = "too-many-pages"
	TooManyPixels Reason = "too-many-pixels"
	DiskFull      Reason = "disk-full"
	NeedsOffice   Reason = "needs-office"
	BadRange      Reason = "bad-range"
)

// Problem is the reason why a file was not taken, in a sentence for its user.
type Problem struct {
	Reason   Reason
	Sentence string
	Cause    error // what the reader reported; may be nil
}

func (p *Problem) Error() string { return p.Sentence }

func (p *Problem) Unwrap() error { return p.Cause }

func problem(reason Reason, cause error, format string, args ...any) *Problem {
	return &Problem{Reason: reason, Sentence: fmt.Sprintf(format, args...), Cause: cause}
}

// Limits bound what is taken in.
type Limits struct {
	FileBytes int64
	Pages     int   // per file
	Pixels    int64 // per image
}

// DefaultLimits are generous for office papers and keep a mistake from filling
// the machine.
var DefaultLimits = Limits{FileBytes: 500 << 20, Pages: 10_000, Pixels: 200_000_000}
