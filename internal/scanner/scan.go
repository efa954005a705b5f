package scanner

import (
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"image/color"
	"image/jpeg"
	"io"
	"net/http"
	"strings"
	"time"
)

// Settings is what is asked of a scan.
type Settings struct {
	FromFeeder bool
	Duplex     bool
	Width      int // 1/300 inch
	Height     int // 1/300 inch
	Colour     Colour
	Resolution int    // dpi
	Content    string // Text, TextAndPhoto or Photo; may be empty
}

// Page is a page that has arrived.
type Page struct {
	Data          []byte // a JPEG
	Width, Height int    // pixels
	Components    int    // 1 is grey, 3 is colour
}

// cancelTime is how long a device may take to take note that a job is cancelled.
const cancelTime = 5 * time.Second

// Scan runs a job and calls back for each page as it arrives. It ends when the
// glass is scanned or the feeder is empty. Errors are a *problem.Error, what the callback
// returned, or the context's; then the job is cancelled at the device.
func (c *Client) Scan(ctx context.Context, s Settings, onPage func(Page) error) error {
	job, err := c.start(ctx, s)
	if err != nil {
		return err
	}
	for count := 0; ; count++ {
		page, more, err := c.next(ctx, job, count)
		if err == nil && more {
			err = onPage(page)
		}
		if err != nil {
			c.cancel(ctx, job)
			return err
		}
		if !more {
			return c.ending(ctx, job, count, s.FromFeeder)
		}
		if !s.FromFeeder {
			c.cancel(ctx, job) // the glass has one page; some devices would wait
			return nil
		}
	}
}

func (c *Client) start(ctx context.Context, s Settings) (job string, err error) {
	text, err := s.xml()
	if err != nil {
		return "", err
	}
	begin, cancel := context.WithTimeout(ctx, busyTime+answerTime)
	defer cancel()
	response, err := c.do(begin, http.MethodPost, c.base.JoinPath("ScanJobs").String(), text)
	if err != nil {
		return "", err
	}
	defer response.Body.Close() //nolint:errcheck // only read from
	switch response.StatusCode {
	case http.StatusCreated, http.StatusOK:
	case http.StatusConflict, http.StatusBadRequest, http.StatusForbidden:
		return "", c.whyNot(ctx, s)
	default:
		return "", c.unexpected(response)
	}
	job, err = c.resolve(response.Header.Get("Location"))
	if err != nil {
		return "", fault(Nonsense, err, "The device at %s took the order but did not say where the pages are.", c.base.Host)
	}
	return job, nil
}

// whyNot finds a reason for a job that was refused, in the device's status.
func (c *Client) whyNot(ctx context.Context, s Settings) error {
	status, err := c.Status(ctx)
	if err != nil {
		return err
	}
	if f, ok := feederFaults[status.Feeder]; ok && s.FromFeeder {
		return f
	}
	return fault(Refused, nil, "The device refuses to scan like this. Choose other settings.")
}

// next fetches a page. More is false at the end of the stack.
func (c *Client) next(ctx context.Context, job string, number int) (page Page, more bool, err error) {
	ctx, cancel := context.WithTimeout(ctx, sheetTime)
	defer cancel()
	response, err := c.do(ctx, http.MethodGet, job+"/NextDocument", nil)
	if err != nil {
		return page, false, err
	}
	defer response.Body.Close() //nolint:errcheck // only read from
	switch response.StatusCode {
	case http.StatusOK:
	case http.StatusNotFound, http.StatusGone:
		return page, false, nil
	case http.StatusConflict, http.StatusInternalServerError:
		return page, false, nil // the status tells why
	default:
		return page, false, c.unexpected(response)
	}
	// Devices send chunks, a length, or neither and close: the end is the end of
	// the picture in any case.
	data, err := io.ReadAll(io.LimitReader(response.Body, maxPage+1))
	if err != nil && !wholeJPEG(data) {
		return page, false, c.unreachable(err)
	}
	if len(data) > maxPage {
		return page, false, fault(Nonsense, nil, "The device sent a page of more than %d MB.", maxPage>>20)
	}
	page, err = readPage(data)
	if err != nil {
		return page, false, fault(Nonsense, err, "The device sent something that is not a picture as page %d.", number+1)
	}
	return page, true, nil
}

func wholeJPEG(data []byte) bool {
	return bytes.HasPrefix(data, []byte{0xFF, 0xD8}) && bytes.HasSuffix(bytes.TrimRight(data, "\x00\r\n"), []byte{0xFF, 0xD9})
}

func readPage(data []byte) (Page, error) {
	config, err := jpeg.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return Page{}, fmt.Errorf("read the page: %w", err)
	}
	components := 3
	if config.ColorModel == color.GrayModel {
		components = 1
	}
	return Page{Data: data, Width: config.Width, Height: config.Height, Components: components}, nil
}

// ending tells whether a job ended because all was scanned.
func (c *Client) ending(ctx context.Context, job string, pages int, fromFeeder bool) error {
	status, err := c.Status(ctx)
	if err != nil {
		return err
	}
	for _, j := range status.jobs {
		if strings.HasSuffix(job, strings.TrimRight(j.URI, "/")) && (j.State == "Aborted" || j.State == "Canceled") {
			return c.abortion(status, j, fromFeeder)
		}
	}
	if f, ok := feederFaults[status.Feeder]; fromFeeder && ok && (f.Reason != FeederEmpty || pages == 0) {
		return f
	}
	if pages == 0 {
		return fault(Nonsense, nil, "The device scanned nothing and did not say why. Look at its display.")
	}
	return nil
}

func (c *Client) abortion(status Status, j jobXML, fromFeeder bool) error {
	if f, ok := feederFaults[status.Feeder]; ok && fromFeeder && f.Reason != FeederEmpty {
		return f
	}
	for _, reason := range j.Reason {
		if reason == "JobCanceledAtDevice" || reason == "JobCanceledByUser" {
			return fault(Stopped, nil, "The scan was stopped at the device. Go on when you are ready.")
		}
	}
	return fault(Stopped, errors.New(strings.Join(j.Reason, ", ")), "The device stopped the scan. Look at its display, then go on.")
}

// cancel tells the device that a job is not wanted any more, whatever it says.
func (c *Client) cancel(ctx context.Context, job string) {
	ctx, stop := context.WithTimeout(context.WithoutCancel(ctx), cancelTime)
	defer stop()
	request, err := http.NewRequestWithContext(ctx, http.MethodDelete, job, nil)
	if err != nil {
		return
	}
	if response, err := c.http.Do(request); err == nil {
		_ = response.Body.Close() // only read from
	}
}

const settingsHead = `<?xml version="1.0" encoding="UTF-8"?>` + "\n"

// settingsXML is ScanSettings.
type settingsXML struct {
	XMLName xml.Name `xml:"scan:ScanSettings"`
	Scan    string   `xml:"xmlns:scan,attr"`
	PWG     string   `xml:"xmlns:pwg,attr"`
	Version string   `xml:"pwg:Version"`
	Region  struct {
		Height int    `xml:"pwg:Height"`
		Units  string `xml:"pwg:ContentRegionUnits"`
		Width  int    `xml:"pwg:Width"`
		X      int    `xml:"pwg:XOffset"`
		Y      int    `xml:"pwg:YOffset"`
	} `xml:"pwg:ScanRegions>pwg:ScanRegion"`
	Source    string `xml:"pwg:InputSource"`
	Content   string `xml:"pwg:ContentType,omitempty"`
	Colour    Colour `xml:"scan:ColorMode"`
	X         int    `xml:"scan:XResolution"`
	Y         int    `xml:"scan:YResolution"`
	Format    string `xml:"pwg:DocumentFormat"`
	FormatExt string `xml:"scan:DocumentFormatExt"`
	Duplex    *bool  `xml:"scan:Duplex,omitempty"`
}

func (s Settings) xml() ([]byte, error) {
	x := settingsXML{
		Scan: "http://schemas.hp.com/imaging/escl/2011/05/03", PWG: "http://www.pwg.org/schemas/2010/12/sm",
		Version: "2.6", Source: "Platen", Content: s.Content, Colour: s.Colour, X: s.Resolution, Y: s.Resolution,
		Format: "image/jpeg", FormatExt: "image/jpeg",
	}
	x.Region.Height, x.Region.Width, x.Region.Units = s.Height, s.Width, "escl:ThreeHundredthsOfInches"
	if s.FromFeeder {
		x.Source, x.Duplex = "Feeder", &s.Duplex
	}
	text, err := xml.MarshalIndent(x, "", " ")
	if err != nil {
		return nil, fmt.Errorf("write scan settings: %w", err)
	}
	return append([]byte(settingsHead), text...), nil
}
