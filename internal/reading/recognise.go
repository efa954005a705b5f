package reading

import (
	"context"
	"image"
	"image/color"
	"math"
	"strings"

	"golang.org/x/text/language"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/raster"
	"dorbin/core/text"
	"dorbin/internal/ocr"
	"dorbin/internal/store"
)

const (
	readingDPI  = 300
	finestScan  = 600        // dots an inch: a picture with more is as large as somebody guessed, such as a long screenshot
	mostRead    = 36_000_000 // pixels of what is read; of larger pages it has fewer an inch
	longestRead = 30_000     // pixels of its longer edge: the recognition takes few more
	levelEnough = 0.5        // degrees by which lines may be off level
)

// noText is that of a page without any.
var noText text.Page

// flatPicture is a page laid flat as it is read: grey, level, and as fine as it is read best.
type flatPicture struct {
	gray *image.Gray
	dpi  float64
	tilt float64 // degrees clockwise by which it was straightened
}

// prepare makes the picture that is read of one of a flat page of this size in points.
func prepare(img image.Image, flat geometry.Size, mirrored bool) flatPicture {
	dpi := dpiFor(flat, float64(img.Bounds().Dx())/flat.Width*geometry.PointsPerInch)
	width, height := pixelsAt(flat.Width, dpi), pixelsAt(flat.Height, dpi)
	gray := raster.ToGray(raster.Resize(raster.ToGray(img), width, height))
	if mirrored {
		gray = raster.ToGray(raster.Orient(gray, raster.Mirrored))
	}
	p := flatPicture{gray: gray, dpi: dpi}
	tilt := raster.MeasureTilt(gray)
	if tilt.Sure >= raster.SureTilt && math.Abs(tilt.Angle) > levelEnough && math.Abs(tilt.Angle) <= geometry.SteepestTilt {
		p.tilt = -tilt.Angle
		level := p.framing(0).Straightening().Inverse()
		p.gray = raster.ToGray(raster.Warp(gray, level.Projection(), width, height, color.White))
	}
	return p
}

// dpiFor is how many dots an inch a page of a size in points is read with, of which there is a picture of so many.
func dpiFor(flat geometry.Size, given float64) float64 {
	wanted := float64(readingDPI)
	if given > finestScan {
		wanted = given
	}
	most := min(math.Sqrt(mostRead/(flat.Width*flat.Height)), longestRead/max(flat.Width, flat.Height))
	return min(wanted, most*geometry.PointsPerInch)
}

func pixelsAt(points, dpi float64) int {
	return max(1, int(math.Round(points/geometry.PointsPerInch*dpi)))
}

// framing leads from the flat page, in pixels, to the picture that is read when it is turned.
func (p flatPicture) framing(turn int) geometry.Framing {
	size := p.gray.Bounds().Size()
	return geometry.Framing{Flat: geometry.Size{Width: float64(size.X), Height: float64(size.Y)}, Straighten: p.tilt, Turn: turn}
}

// toFlat has a text in pixels of the picture, turned, be in points of the flat page.
func (p flatPicture) toFlat(page text.Page, turn int) text.Page {
	points := geometry.PointsPerInch / p.dpi
	return page.Mapped(p.framing(turn).Transform().Inverse().Then(geometry.Scaling(points, points)))
}

// recognised is what was read of a page, on the page laid flat.
type recognised struct {
	page    text.Page
	upright int // by which the flat page is turned to be read; store.UprightUnknown is not known
	problem message.Text
}

// sureEnough is the share of sure words from which on nobody needs to wonder whether the page lies on
// its side.
const sureEnough = 0.6

// recognise reads a picture, turned as its page stands. Where its lines run otherwise it is turned by
// them. Where hardly anything can be read it is asked which way up the writing stands, and in which
// script it is.
func (s *Service) recognise(ctx context.Context, p flatPicture, info store.TextInfo) (recognised, error) {
	turn, languages := info.Turn, split(info.Languages)
	read, err := s.readTurned(ctx, p, turn, languages)
	if err != nil {
		return recognised{}, err
	}
	var problem message.Text
	by := read.Turn()
	if by == 0 && sureShare(read) < sureEnough {
		stands, _, err := s.reader.Orientation(ctx, raster.Turn(p.gray, turn))
		if err != nil {
			return recognised{}, err
		}
		if problem = scriptProblem(stands, languages); stands.Confidence >= plainlyTurned {
			by = stands.Turn
		}
	}
	if by != 0 {
		again, err := s.readTurned(ctx, p, geometry.NormalTurn(turn+by), languages)
		if err != nil {
			return recognised{}, err
		}
		if sureWords(again) >= sureWords(read) {
			read, turn = again, geometry.NormalTurn(turn+by)
		}
	}
	if sureShare(read) >= sureEnough {
		problem = message.Text{}
	}
	upright := store.UprightUnknown
	if sureWords(read) >= wordsThatTell {
		upright = turn
	}
	return recognised{p.toFlat(read, turn), upright, problem}, nil
}

// wordsThatTell is how many words must be read surely to tell which way up a page stands.
const wordsThatTell = 12

// plainlyTurned is how confident the recognition must be of which way up a page stands before the
// page is read so.
const plainlyTurned = 2.0

func (s *Service) readTurned(ctx context.Context, p flatPicture, turn int, languages []string) (text.Page, error) {
	told := min(int(math.Round(p.dpi)), readingDPI) // it finds no lines where letters seem to be of a tenth of a millimetre
	read, err := s.reader.Text(ctx, raster.Turn(p.gray, turn), languages, told)
	if err != nil {
		return noText, err
	}
	return text.WithoutNoise(read), nil
}

func sureWords(p text.Page) int { return p.Count(text.Word.IsSure) }

func sureShare(p text.Page) float64 {
	return float64(sureWords(p)) / math.Max(1, float64(p.WordCount()))
}

// sureScript is how confident the recognition must be of the script of a page to say so.
const sureScript = 1.0

// scriptProblem says that a page is in another script than it was read in.
func scriptProblem(stands ocr.Orientation, languages []string) message.Text {
	if stands.Script == "" || stands.ScriptConfidence < sureScript {
		return message.Text{}
	}
	for _, code := range languages {
		if strings.EqualFold(scriptOf(code), stands.Script) {
			return message.Text{}
		}
	}
	return message.Of("It seems to be written in %s letters, which is not what it was read in.", stands.Script)
}

// scripts are the names that the recognition has for scripts, by their codes (ISO 15924).
var scripts = map[string]string{
	"Latn": "Latin", "Cyrl": "Cyrillic", "Grek": "Greek", "Hans": "Han", "Hant": "Han", "Arab": "Arabic", "Hebr": "Hebrew",
	"Jpan": "Japanese", "Kore": "Korean", "Deva": "Devanagari", "Thai": "Thai", "Beng": "Bengali", "Taml": "Tamil",
	"Telu": "Telugu", "Geor": "Georgian", "Armn": "Armenian", "Latf": "Fraktur", "Khmr": "Khmer", "Laoo": "Lao",
}

// scriptOf is the recognition's name for the script of a language.
func scriptOf(code string) string {
	tag, err := language.Parse(ocr.Tag(code))
	if err != nil {
		return ""
	}
	script, _ := tag.Script()
	return scripts[script.String()]
}
