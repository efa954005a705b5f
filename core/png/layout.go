package png

import "errors"

// Layout tells how the samples of a picture lie in memory: row by row, each beginning with a byte of its own.
type Layout struct {
	Width, Height int // pixels
	Channels      int // samples of a pixel
	Bits          int // of a sample: 1, 2, 4, 8 or 16
}

// mostSamples is how many bytes of samples a picture has at most that is written in fewer bytes: they are in memory, several
// times.
const mostSamples = 64 << 20

// Errors of pictures that are left alone.
var (
	// ErrNotSmaller is returned for a picture that cannot be written in fewer bytes.
	ErrNotSmaller = errors.New("it is as small as it can be")
	// ErrUnsupported is returned for a picture that is large or kept in another way.
	ErrUnsupported = errors.New("it is kept in a way that is left as it is")
	// ErrDamaged is returned for a picture whose samples are not all there.
	ErrDamaged = errors.New("its samples are damaged")
)

func (l Layout) check() error {
	if l.Width <= 0 || l.Height <= 0 || l.Channels < 1 || l.Channels > 4 {
		return ErrUnsupported
	}
	switch l.Bits {
	case 1, 2, 4, 8, 16:
	default:
		return ErrUnsupported
	}
	if l.Width > mostSamples || l.rowBytes() > mostSamples/l.Height {
		return ErrUnsupported
	}
	return nil
}

// rowBytes is how many bytes a row has.
func (l Layout) rowBytes() int { return (l.Width*l.Channels*l.Bits + 7) / 8 }

// pixelBytes is how far to the left a filter looks for the same sample of the pixel before (9.2).
func (l Layout) pixelBytes() int { return (l.Channels*l.Bits + 7) / 8 }
