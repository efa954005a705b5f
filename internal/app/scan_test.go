package app_test

import (
	"net/http/httptest"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/check"
	"dorbin/core/problem"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/demo"
	"dorbin/internal/gather"
	"dorbin/internal/intake"
	"dorbin/internal/sampling"
	"dorbin/internal/scanner"
	"dorbin/internal/scanner/sim"
	"dorbin/internal/scanning"
)

// scannerOf is the demo's scanner, at work without delay, added to the
// application.
func scannerOf(t *testing.T, a *app.App, change func(*sim.State)) (*sim.Device, string) {
	t.Helper()
	device := demo.Scanner()
	state := device.State()
	state.Seconds, state.Fault, state.At = 0, sim.Works, 0
	if change != nil {
		change(&state)
	}
	require.NoError(t, device.Set(state))
	server := httptest.NewServer(device.Handler())
	t.Cleanup(server.Close)
	added, err := a.Scanning.AddScanner(t.Context(), server.URL)
	require.NoError(t, err)
	assert.Equal(t, demo.ScannerName, added.Name)
	return device, added.ID
}

var fast = scanning.ScanRequest{From: "auto", Paper: "A4", Colour: scanner.Gray, Resolution: 100}

// scanned scans and waits for the end.
func scanned(t *testing.T, a *app.App, id, device string, request scanning.ScanRequest) scanning.Batch {
	t.Helper()
	request.Device = device
	_, err := a.Scanning.StartScan(t.Context(), id, request)
	require.NoError(t, err)
	return settled(t, a, id)
}

func settled(t *testing.T, a *app.App, id string) scanning.Batch {
	t.Helper()
	var b scanning.Batch
	await.Until(t, func() bool {
		var err error
		b, err = a.Scanning.Batch(t.Context(), id)
		require.NoError(t, err)
		return !b.Scanning
	})
	return b
}

// withNumbers waits until the printed numbers of all pages are read.
func withNumbers(t *testing.T, a *app.App, id string) scanning.Batch {
	t.Helper()
	var b scanning.Batch
	await.Until(t, func() bool {
		var err error
		b, err = a.Scanning.Batch(t.Context(), id)
		require.NoError(t, err)
		for _, page := range b.Pages {
			if page.Printed.Number == 0 {
				return false
			}
		}
		return true
	})
	return b
}

func TestAMissingSheetIsFoundAndScannedIntoItsGap(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newReadingApp(t)
	id := newPacket(t, a)
	device, scannerID := scannerOf(t, a, func(s *sim.State) { s.Fault, s.At = sim.DoubleAt, 4 })
	request := fast
	request.Sheets = 9
	b := scanned(t, a, id, scannerID, request)
	assert.Len(t, b.Pages, 8)
	assert.Equal(t, 9, b.Expected)
	b = withNumbers(t, a, id)
	assert.Equal(t, []check.Gap{{After: 4, Missing: 1}}, b.Gaps)

	state := device.State()
	state.Feeder = []string{"Surveyor’s report, page 5"}
	require.NoError(t, device.Set(state))
	request = fast
	request.Into = "after:" + b.Pages[3].ID
	scanned(t, a, id, scannerID, request)
	b = withNumbers(t, a, id)
	assert.Len(t, b.Pages, 9)
	assert.Empty(t, b.Gaps)

	order := make([]scanning.BatchOrder, len(b.Pages))
	for i, page := range b.Pages {
		order[i] = scanning.BatchOrder{ID: page.ID}
	}
	order[8].Turn = 180
	_, err := a.Scanning.ArrangeBatch(t.Context(), id, b.Version, order)
	require.NoError(t, err)
	outcome, err := a.Scanning.PlaceBatch(t.Context(), id, "Surveyor’s report.tif", gather.Placement{})
	require.NoError(t, err)
	assert.Equal(t, "added", outcome.Result)
	p := get(t, a, id)
	assert.Len(t, p.Parts[0].Pages, 9)
	assert.Equal(t, 180, p.Parts[0].Pages[8].Turn)
	assert.InDelta(t, 595.3, p.Parts[0].Pages[0].Width, 0.5)
	b, err = a.Scanning.Batch(t.Context(), id)
	require.NoError(t, err)
	assert.Empty(t, b.Pages, "the batch is over")
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Equal(t, 9, strings.Count(run(t, "pdfimages", "-list", path), "jpeg"), "what the device sent is embedded")
}

func TestAPageOfABatchIsScannedAgainAndAnotherReplaced(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	_, scannerID := scannerOf(t, a, func(s *sim.State) { s.Feeder = s.Feeder[:2] })
	b := scanned(t, a, id, scannerID, fast)
	require.Len(t, b.Pages, 2)
	again := fast
	again.Into, again.From = "replace:"+b.Pages[0].ID, "glass"
	b2 := scanned(t, a, id, scannerID, again)
	require.Len(t, b2.Pages, 2)
	assert.NotEqual(t, b.Pages[0].ID, b2.Pages[0].ID)
	assert.Equal(t, b.Pages[1].ID, b2.Pages[1].ID)

	_, err := a.Scanning.ArrangeBatch(t.Context(), id, b2.Version, []scanning.BatchOrder{{ID: b2.Pages[0].ID}})
	require.NoError(t, err)
	last := get(t, a, id).Parts[0].Pages[3].ID
	_, err = a.Scanning.PlaceBatch(t.Context(), id, "Declaration.tif", gather.Placement{Place: "replace:" + string(last)})
	require.NoError(t, err)
	p := get(t, a, id)
	assert.Len(t, p.Parts[0].Pages, 4)
	assert.Equal(t, last, p.SetAside[0].ID)
}

func TestTwoPassesOnAOneSidedFeeder(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newReadingApp(t)
	id := newPacket(t, a)
	report := func(pages ...string) []string {
		for i, n := range pages {
			pages[i] = "Surveyor’s report, page " + n
		}
		return pages
	}
	device, scannerID := scannerOf(t, a, func(s *sim.State) { s.Feeder = report("1", "3", "5") })
	scanned(t, a, id, scannerID, fast)
	state := device.State()
	state.Feeder = report("6", "4", "2") // the stack turned over
	require.NoError(t, device.Set(state))
	backs := fast
	backs.Into = "backs"
	scanned(t, a, id, scannerID, backs)
	b := withNumbers(t, a, id)
	var numbers []int
	for _, page := range b.Pages {
		numbers = append(numbers, page.Printed.Number)
	}
	assert.Equal(t, []int{1, 2, 3, 4, 5, 6}, numbers)

	state.Feeder = report("8", "7", "9", "8", "7", "9", "8")
	require.NoError(t, device.Set(state))
	b = scanned(t, a, id, scannerID, backs)
	assert.Contains(t, b.Problem.English, "7 backs came in for 6 fronts")
	assert.Len(t, b.Pages, 13, "nothing is lost")
}

func TestAFaultKeepsThePagesAlsoAcrossARestart(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	id := newPacket(t, a)
	device, scannerID := scannerOf(t, a, func(s *sim.State) { s.Fault, s.At = sim.JamAt, 4 })
	b := scanned(t, a, id, scannerID, fast)
	assert.Len(t, b.Pages, 3)
	assert.Contains(t, b.Problem.English, "jammed")
	require.NoError(t, a.Close())

	a = openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	b, err := a.Scanning.Batch(t.Context(), id)
	require.NoError(t, err)
	assert.Len(t, b.Pages, 3)
	path, err := a.Scanning.BatchPicture(t.Context(), b.ID, b.Pages[2].ID, 240)
	require.NoError(t, err)
	_, err = os.Stat(path)
	require.NoError(t, err)
	require.NoError(t, device.Set(device.State()))
	b = scanned(t, a, id, scannerID, fast)
	assert.Len(t, b.Pages, 9)
	assert.Empty(t, b.Problem)

	require.NoError(t, a.Scanning.DiscardBatch(t.Context(), id))
	assert.Empty(t, keptFiles(t, folder), "its files are gone")
}

func TestAScanIsStoppedAndSecondOnesAreRefused(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	_, scannerID := scannerOf(t, a, func(s *sim.State) { s.Seconds = 0.2 })
	request := fast
	request.Device = scannerID
	_, err := a.Scanning.StartScan(t.Context(), id, request)
	require.NoError(t, err)
	_, err = a.Scanning.StartScan(t.Context(), id, request)
	assert.ErrorIs(t, err, scanning.ErrScanning)
	_, err = a.Scanning.PlaceBatch(t.Context(), id, "x.tif", gather.Placement{})
	assert.ErrorIs(t, err, scanning.ErrNothingScanned)
	_, err = a.Scanning.StopScan(t.Context(), id)
	require.NoError(t, err)
	b := settled(t, a, id)
	assert.Empty(t, b.Problem, "the user knows")
	assert.Less(t, len(b.Pages), 9)
	_, err = a.Scanning.StartScan(t.Context(), id, scanning.ScanRequest{Device: scannerID, Into: "after:g99"})
	assert.ErrorIs(t, err, problem.Invalid)
	_, err = a.Scanning.AddScanner(t.Context(), "127.0.0.1:1")
	var fault *problem.Error
	require.ErrorAs(t, err, &fault)
	assert.Equal(t, scanner.Unreachable, fault.Reason)
}
