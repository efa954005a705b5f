package scanner

import (
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"
	"unicode"

	"dorbin/core/problem"
)

// Times and sizes that a device may take.
const (
	connectTime  = 5 * time.Second
	answerTime   = 15 * time.Second // for a short answer
	sheetTime    = 3 * time.Minute  // for a page
	busyTime     = 45 * time.Second // for a device that is busy to be free
	longestRetry = 10 * time.Second
	maxXML       = 1 << 20
	maxPage      = 400 << 20
)

// Client talks to one device.
type Client struct {
	base *url.URL
	http *http.Client
}

// NewClient makes a client for an address: a host, a host with a port, or a
// whole URL such as http://192.0.2.7/eSCL.
func NewClient(address string) (*Client, error) {
	address = strings.TrimSpace(address)
	if !strings.Contains(address, "://") {
		address = "http://" + address
	}
	base, err := url.Parse(address)
	if err != nil || base.Host == "" || (base.Scheme != "http" && base.Scheme != "https") || base.User != nil {
		return nil, fault(Refused, err, "“%s” is not an address. Write a name or number such as 192.0.2.7, with a port if it has one.", strings.TrimPrefix(address, "http://"))
	}
	if base.Path = strings.TrimRight(base.Path, "/"); base.Path == "" {
		base.Path = "/eSCL"
	}
	base.RawQuery, base.Fragment = "", ""
	transport := &http.Transport{
		DialContext:           (&net.Dialer{Timeout: connectTime}).DialContext,
		TLSHandshakeTimeout:   connectTime,
		ResponseHeaderTimeout: sheetTime,
		DisableKeepAlives:     true, // devices forget idle connections and reset them
		Proxy:                 nil,  // devices are near
	}
	return &Client{base: base, http: &http.Client{Transport: transport, CheckRedirect: sameService}}, nil
}

// sameService follows redirects only within the service at the address: what else runs on that
// machine, or behind it, is not the user's to ask through this program.
func sameService(request *http.Request, via []*http.Request) error {
	if first := via[0].URL; len(via) > 3 || request.URL.Host != first.Host || request.URL.Scheme != first.Scheme {
		return http.ErrUseLastResponse
	}
	return nil
}

// Address is the device's root URL.
func (c *Client) Address() string { return c.base.String() }

// Capabilities asks what the device can do. Errors are a *problem.Error.
func (c *Client) Capabilities(ctx context.Context) (Capabilities, error) {
	var answer capabilitiesXML
	if err := c.getXML(ctx, "ScannerCapabilities", &answer); err != nil {
		return Capabilities{}, err
	}
	capabilities := answer.capabilities()
	if capabilities.Glass == nil && capabilities.Feeder == nil && capabilities.Duplex == nil {
		return capabilities, fault(Nonsense, nil, "The device at %s answers, but offers no scan that can be used.", c.base.Host)
	}
	if capabilities.Name = boundedName(capabilities.Name); capabilities.Name == "" {
		capabilities.Name = "Scanner at " + c.base.Host
	}
	return capabilities, nil
}

// longestName is how many characters of the name that a device gives itself are shown.
const longestName = 80

// boundedName is a device's name without what cannot be seen, and not longer than it is shown.
func boundedName(name string) string {
	name = strings.Join(strings.Fields(strings.Map(func(r rune) rune {
		if unicode.IsSpace(r) {
			return ' '
		}
		if !unicode.IsPrint(r) {
			return -1
		}
		return r
	}, name)), " ")
	if runes := []rune(name); len(runes) > longestName {
		return string(runes[:longestName-1]) + "…"
	}
	return name
}

// Status is the state of a device.
type Status struct {
	State  string `json:"state"`  // Idle, Processing, Testing, Stopped or Down
	Feeder string `json:"feeder"` // ScannerAdfLoaded, ScannerAdfEmpty, ScannerAdfJam…; empty when it has none
	jobs   []jobXML
}

type jobXML struct {
	URI    string   `xml:"JobUri"`
	State  string   `xml:"JobState"`
	Reason []string `xml:"JobStateReasons>JobStateReason"`
}

// Loaded tells whether there is paper in the feeder.
func (s Status) Loaded() bool { return s.Feeder == "ScannerAdfLoaded" }

// Status asks how the device is. Errors are a *problem.Error.
func (c *Client) Status(ctx context.Context) (Status, error) {
	var answer struct {
		XMLName  xml.Name `xml:"ScannerStatus"`
		State    string
		AdfState string
		Jobs     []jobXML `xml:"Jobs>JobInfo"`
	}
	err := c.getXML(ctx, "ScannerStatus", &answer)
	return Status{State: answer.State, Feeder: answer.AdfState, jobs: answer.Jobs}, err
}

func (c *Client) getXML(ctx context.Context, name string, into any) error {
	ctx, cancel := context.WithTimeout(ctx, answerTime)
	defer cancel()
	response, err := c.do(ctx, http.MethodGet, c.base.JoinPath(name).String(), nil)
	if err != nil {
		return err
	}
	defer response.Body.Close() //nolint:errcheck // only read from
	if response.StatusCode != http.StatusOK {
		return c.unexpected(response)
	}
	text, err := io.ReadAll(io.LimitReader(response.Body, maxXML))
	if err != nil {
		return c.unreachable(err)
	}
	return c.decode(text, into)
}

func (c *Client) decode(text []byte, into any) error {
	decoder := xml.NewDecoder(bytes.NewReader(text))
	decoder.CharsetReader = func(_ string, r io.Reader) (io.Reader, error) { return r, nil }
	if err := decoder.Decode(into); err != nil {
		return fault(Nonsense, err, "The device at %s does not answer like a scanner. Check the address.", c.base.Host)
	}
	return nil
}

// do sends a request. It waits while the device says that it is busy, as long as
// Retry-After asks, within limits (RFC 9110, 10.2.3).
func (c *Client) do(ctx context.Context, method, target string, body []byte) (*http.Response, error) {
	begun := time.Now()
	for {
		var reader io.Reader
		if body != nil {
			reader = bytes.NewReader(body)
		}
		request, err := http.NewRequestWithContext(ctx, method, target, reader)
		if err != nil {
			return nil, fault(Nonsense, err, "The device at %s gave an address that cannot be used.", c.base.Host)
		}
		if body != nil {
			request.Header.Set("Content-Type", "text/xml; charset=utf-8")
		}
		response, err := c.http.Do(request)
		if err != nil {
			if ctx.Err() != nil && !errors.Is(ctx.Err(), context.DeadlineExceeded) {
				return nil, ctx.Err()
			}
			return nil, c.unreachable(err)
		}
		if response.StatusCode != http.StatusServiceUnavailable {
			return response, nil
		}
		wait := retryAfter(response)
		_ = response.Body.Close() // only read from
		if time.Since(begun)+wait > busyTime {
			return nil, fault(Busy, nil, "The device at %s is busy with something else. Wait until it is done and go on.", c.base.Host)
		}
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case <-time.After(wait):
		}
	}
}

func retryAfter(response *http.Response) time.Duration {
	seconds, err := strconv.Atoi(strings.TrimSpace(response.Header.Get("Retry-After")))
	if err != nil || seconds < 0 {
		seconds = 1
	}
	return min(longestRetry, max(200*time.Millisecond, time.Duration(seconds)*time.Second))
}

func (c *Client) unreachable(err error) *problem.Error {
	return fault(Unreachable, err, "The device at %s does not answer. Check that it is switched on and connected.", c.base.Host)
}

func (c *Client) unexpected(response *http.Response) *problem.Error {
	return fault(Nonsense, nil, "The device at %s does not answer like a scanner (%d). Check the address.", c.base.Host, response.StatusCode)
}

// resolve makes a whole address of a job's, which devices give absolute, with or
// without their own name, or relative. The job is always fetched from the
// address that the device is known by.
func (c *Client) resolve(location string) (string, error) {
	reference, err := url.Parse(location)
	if err != nil || location == "" {
		return "", fmt.Errorf("the job has no address: %w", err)
	}
	target := c.base.JoinPath("/").ResolveReference(reference)
	if reference.IsAbs() || strings.HasPrefix(location, "//") || strings.HasPrefix(location, "/") {
		target.Path = "/" + strings.TrimLeft(reference.Path, "/")
	}
	target.Scheme, target.Host, target.User = c.base.Scheme, c.base.Host, nil
	return strings.TrimRight(target.String(), "/"), nil
}
