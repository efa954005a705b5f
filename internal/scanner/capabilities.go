package scanner

import (
	"encoding/xml"
	"slices"
)

// Colour is an eSCL colour mode.
type Colour string

// The colour modes that are offered.
const (
	BlackAndWhite Colour = "BlackAndWhite1"
	Gray          Colour = "Grayscale8"
	FullColour    Colour = "RGB24"
)

// Capabilities is what a device can do.
type Capabilities struct {
	Name  string `json:"name"`
	Glass *Input `json:"glass,omitempty"`
	// Feeder is for one side; Duplex for both.
	Feeder *Input `json:"feeder,omitempty"`
	Duplex *Input `json:"duplex,omitempty"`
	// DetectsPaper tells whether the device says if its feeder is loaded.
	DetectsPaper bool `json:"detectsPaper"`
}

// Input is what can be asked of one way in.
type Input struct {
	MaxWidth    int      `json:"maxWidth" doc:"In 1/300 inch."`
	MaxHeight   int      `json:"maxHeight" doc:"In 1/300 inch."`
	Colours     []Colour `json:"colours" nullable:"false"`
	Resolutions []int    `json:"resolutions" nullable:"false" doc:"In dpi."`
	Contents    []string `json:"contents" nullable:"false" doc:"What it is: Text, TextAndPhoto, Photo."`
}

// capabilitiesXML is ScannerCapabilities. Names are matched without their
// namespace prefixes, which devices choose as they like.
type capabilitiesXML struct {
	XMLName      xml.Name `xml:"ScannerCapabilities"`
	MakeAndModel string
	Platen       struct {
		Input *inputXML `xml:"PlatenInputCaps"`
	}
	Adf struct {
		Simplex *inputXML `xml:"AdfSimplexInputCaps"`
		Duplex  *inputXML `xml:"AdfDuplexInputCaps"`
		Options []string  `xml:"AdfOptions>AdfOption"`
	}
}

type inputXML struct {
	MaxWidth  int
	MaxHeight int
	Profiles  []struct {
		Colours  []Colour `xml:"ColorModes>ColorMode"`
		Contents []string `xml:"ContentTypes>ContentType"`
		Formats  []string `xml:"DocumentFormats>DocumentFormat"`
		FormatsX []string `xml:"DocumentFormats>DocumentFormatExt"`
		Discrete []struct {
			X int `xml:"XResolution"`
		} `xml:"SupportedResolutions>DiscreteResolutions>DiscreteResolution"`
		Range struct {
			Min int `xml:"XResolutionRange>Min"`
			Max int `xml:"XResolutionRange>Max"`
		} `xml:"SupportedResolutions>ResolutionRange"`
	} `xml:"SettingProfiles>SettingProfile"`
}

// usualResolutions are offered of a device that takes any within a range.
var usualResolutions = []int{75, 100, 150, 200, 300, 400, 600}

const highestResolution = 1200

func (x capabilitiesXML) capabilities() Capabilities {
	return Capabilities{
		Name:         x.MakeAndModel,
		Glass:        x.Platen.Input.input(),
		Feeder:       x.Adf.Simplex.input(),
		Duplex:       x.Adf.Duplex.input(),
		DetectsPaper: slices.Contains(x.Adf.Options, "DetectPaperLoaded"),
	}
}

// input is nil for a way in that is not there or that cannot give JPEGs.
func (x *inputXML) input() *Input {
	if x == nil || x.MaxWidth <= 0 || x.MaxHeight <= 0 {
		return nil
	}
	in := &Input{MaxWidth: x.MaxWidth, MaxHeight: x.MaxHeight, Contents: []string{}}
	for _, profile := range x.Profiles {
		formats := slices.Concat(profile.Formats, profile.FormatsX)
		if len(formats) > 0 && !slices.Contains(formats, "image/jpeg") {
			continue
		}
		for _, colour := range profile.Colours {
			if slices.Contains([]Colour{BlackAndWhite, Gray, FullColour}, colour) {
				in.Colours = appendNew(in.Colours, colour)
			}
		}
		for _, content := range profile.Contents {
			in.Contents = appendNew(in.Contents, content)
		}
		for _, resolution := range profile.Discrete {
			if resolution.X > 0 && resolution.X <= highestResolution {
				in.Resolutions = appendNew(in.Resolutions, resolution.X)
			}
		}
		for _, usual := range usualResolutions {
			if usual >= profile.Range.Min && usual <= profile.Range.Max {
				in.Resolutions = appendNew(in.Resolutions, usual)
			}
		}
	}
	if len(in.Colours) == 0 || len(in.Resolutions) == 0 {
		return nil
	}
	slices.Sort(in.Resolutions)
	return in
}

func appendNew[T comparable](list []T, value T) []T {
	if slices.Contains(list, value) {
		return list
	}
	return append(list, value)
}
