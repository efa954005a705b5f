package ocr

import (
	"context"
	"errors"
	"image"
	"os/exec"
	"strconv"
	"strings"
)

// Orientation is which way up the writing in a picture stands.
type Orientation struct {
	Turn       int     // by which the picture is to be turned to be read, in degrees clockwise
	Confidence float64 // from 0; what of pages of writing is told right has more than 2 nearly always

	Script           string // such as Latin; empty where it was not told
	ScriptConfidence float64
}

// Orientation tells which way up a picture stands. It is not ok where the program cannot tell,
// which it needs some dozens of letters for. It returns ErrNotInstalled when there is no program.
func (r Reader) Orientation(ctx context.Context, img image.Image) (o Orientation, ok bool, err error) {
	report, err := r.read(ctx, img, "--psm", "0")
	var failed *exec.ExitError
	if errors.As(err, &failed) && ctx.Err() == nil {
		return Orientation{}, false, nil // too few letters, or it was installed without its data for this
	}
	if err != nil {
		return Orientation{}, false, err
	}
	o, ok = parseOrientation(report)
	return o, ok, nil
}

// parseOrientation reads tesseract's report, which has a name and a value in each line.
func parseOrientation(report string) (o Orientation, ok bool) {
	haveTurn, haveConfidence := false, false
	for line := range strings.Lines(report) {
		name, value, _ := strings.Cut(line, ":")
		switch value = strings.TrimSpace(value); strings.TrimSpace(name) {
		case "Rotate":
			turn, err := strconv.Atoi(value)
			o.Turn, haveTurn = turn, err == nil && turn >= 0 && turn < 360 && turn%90 == 0
		case "Orientation confidence":
			confidence, err := strconv.ParseFloat(value, 64)
			o.Confidence, haveConfidence = confidence, err == nil && confidence >= 0
		case "Script":
			o.Script = value
		case "Script confidence":
			o.ScriptConfidence, _ = strconv.ParseFloat(value, 64) // without a number it is not believed
		}
	}
	return o, haveTurn && haveConfidence
}
