package sim_test

import (
	"bytes"
	"context"
	"errors"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/problem"
	"dorbin/internal/await"
	"dorbin/internal/sampling"
	"dorbin/internal/scanner"
	"dorbin/internal/scanner/sim"
)

// flag is a sheet with a dark band at the height that its number says.
func flag(name string, number int) sim.Sheet {
	return sim.Sheet{Name: name, Width: 210, Height: 297, Front: func(dpi float64) *image.RGBA {
		img := image.NewRGBA(image.Rect(0, 0, int(210*dpi/25.4), int(297*dpi/25.4)))
		draw.Draw(img, img.Rect, image.White, image.Point{}, draw.Src)
		y := int((20 + 25*float64(number)) * dpi / 25.4)
		draw.Draw(img, image.Rect(img.Rect.Dx()/4, y, img.Rect.Dx()*3/4, y+int(12*dpi/25.4)), image.NewUniform(color.RGBA{120, 20, 20, 255}), image.Point{}, draw.Src)
		return img
	}}
}

func device(t *testing.T, state sim.State) (*sim.Device, string) {
	t.Helper()
	state.On = true
	var sheets []sim.Sheet
	for i, name := range []string{"one", "two", "three", "four", "five"} {
		sheets = append(sheets, flag(name, i+1))
	}
	d := sim.New("Test scanner", sheets, state)
	server := httptest.NewServer(d.Handler())
	server.Config.ErrorLog = nil
	t.Cleanup(server.Close)
	return d, server.URL
}

func client(t *testing.T, address string) *scanner.Client {
	t.Helper()
	c, err := scanner.NewClient(address)
	require.NoError(t, err)
	return c
}

var settings = scanner.Settings{FromFeeder: true, Width: 2480, Height: 3508, Colour: scanner.Gray, Resolution: 75}

// scan scans and gives the number of the band of each page that arrived.
func scan(t *testing.T, address string, s scanner.Settings) ([]int, error) {
	t.Helper()
	var bands []int
	err := client(t, address).Scan(t.Context(), s, func(p scanner.Page) error {
		bands = append(bands, band(t, p.Data))
		return nil
	})
	return bands, err
}

func band(t *testing.T, data []byte) int {
	t.Helper()
	img, err := jpeg.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	h := float64(img.Bounds().Dy())
	for number := 1; number <= 5; number++ {
		y := int((26 + 25*float64(number)) / 297 * h)
		if v := color.GrayModel.Convert(img.At(img.Bounds().Dx()/2, y)).(color.Gray).Y; v < 110 {
			return number
		}
	}
	return 0
}

func TestScanningAStack(t *testing.T) {
	d, address := device(t, sim.State{Feeder: []string{"one", "two", "three"}, Glass: "five"})
	capabilities, err := client(t, address).Capabilities(t.Context())
	require.NoError(t, err)
	assert.Equal(t, "Test scanner", capabilities.Name)
	assert.True(t, capabilities.DetectsPaper)
	assert.Contains(t, capabilities.Feeder.Resolutions, 600)
	status, err := client(t, address).Status(t.Context())
	require.NoError(t, err)
	assert.True(t, status.Loaded())

	bands, err := scan(t, address, settings)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 2, 3}, bands)
	assert.Empty(t, d.State().Feeder)
	_, err = scan(t, address, settings)
	assertFault(t, scanner.FeederEmpty, err)

	glass := settings
	glass.FromFeeder = false
	for range 2 { // the sheet stays on the glass
		bands, err = scan(t, address, glass)
		require.NoError(t, err)
		assert.Equal(t, []int{5}, bands)
	}
}

func TestBothSides(t *testing.T) {
	_, address := device(t, sim.State{Feeder: []string{"two", "four"}})
	both := settings
	both.Duplex = true
	bands, err := scan(t, address, both)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 0, 4, 0}, bands, "the backs are blank")
}

func TestColoursAndResolutions(t *testing.T) {
	for colour, components := range map[scanner.Colour]int{scanner.FullColour: 3, scanner.Gray: 1, scanner.BlackAndWhite: 1} {
		_, address := device(t, sim.State{Glass: "one"})
		s := scanner.Settings{Width: 1748, Height: 2480, Colour: colour, Resolution: 150}
		err := client(t, address).Scan(t.Context(), s, func(p scanner.Page) error {
			assert.Equal(t, components, p.Components, colour)
			assert.Equal(t, []int{874, 1240}, []int{p.Width, p.Height}, "A5 at 150 dpi")
			return nil
		})
		require.NoError(t, err)
	}
	_, address := device(t, sim.State{Glass: "one"})
	odd := scanner.Settings{Width: 1748, Height: 2480, Colour: scanner.Gray, Resolution: 123}
	_, err := scan(t, address, odd)
	assertFault(t, scanner.Refused, err)
}

func assertFault(t *testing.T, reason problem.Reason, err error) {
	t.Helper()
	var f *problem.Error
	require.ErrorAs(t, err, &f)
	assert.Equal(t, reason, f.Reason, f.Sentence)
}

func TestFaultsKeepWhatHasArrivedAndTheScanGoesOn(t *testing.T) {
	sampling.Heavy(t)
	stack := []string{"one", "two", "three", "four"}
	t.Run("jam", func(t *testing.T) {
		d, address := device(t, sim.State{Feeder: stack, Fault: sim.JamAt, At: 3})
		bands, err := scan(t, address, settings)
		assert.Equal(t, []int{1, 2}, bands)
		assertFault(t, scanner.Jam, err)
		_, err = scan(t, address, settings)
		assertFault(t, scanner.Jam, err)
		require.NoError(t, d.Set(d.State())) // somebody takes the sheet out and puts it back
		bands, err = scan(t, address, settings)
		require.NoError(t, err)
		assert.Equal(t, []int{3, 4}, bands)
	})
	t.Run("two at once", func(t *testing.T) {
		_, address := device(t, sim.State{Feeder: stack, Fault: sim.DoubleAt, At: 2})
		bands, err := scan(t, address, settings)
		require.NoError(t, err, "the device does not notice")
		assert.Equal(t, []int{1, 2, 4}, bands)
	})
	t.Run("switched off", func(t *testing.T) {
		d, address := device(t, sim.State{Feeder: stack, Fault: sim.OffAt, At: 2})
		bands, err := scan(t, address, settings)
		assert.Equal(t, []int{1}, bands)
		assertFault(t, scanner.Unreachable, err)
		state := d.State()
		state.On = true
		require.NoError(t, d.Set(state))
		bands, err = scan(t, address, settings)
		require.NoError(t, err)
		assert.Equal(t, []int{2, 3, 4}, bands)
	})
	t.Run("cover open", func(t *testing.T) {
		_, address := device(t, sim.State{Feeder: stack, Fault: sim.Cover})
		_, err := scan(t, address, settings)
		assertFault(t, scanner.CoverOpen, err)
	})
	t.Run("nonsense", func(t *testing.T) {
		_, address := device(t, sim.State{Feeder: stack, Fault: sim.Nonsense})
		_, err := client(t, address).Capabilities(t.Context())
		assertFault(t, scanner.Nonsense, err)
	})
	t.Run("silent", func(t *testing.T) {
		_, address := device(t, sim.State{Feeder: stack, Fault: sim.Silent})
		ctx, cancel := context.WithTimeout(t.Context(), 200*time.Millisecond)
		defer cancel()
		_, err := client(t, address).Status(ctx)
		assertFault(t, scanner.Unreachable, err)
	})
	t.Run("busy for a while", func(t *testing.T) {
		d, address := device(t, sim.State{Feeder: stack, Fault: sim.Busy})
		time.AfterFunc(300*time.Millisecond, func() {
			state := d.State()
			state.Fault = sim.Works
			assert.NoError(t, d.Set(state))
		})
		bands, err := scan(t, address, settings)
		require.NoError(t, err)
		assert.Len(t, bands, 4)
	})
}

func TestCancelling(t *testing.T) {
	d, address := device(t, sim.State{Feeder: []string{"one", "two", "three"}, Seconds: 0.3})
	ctx, cancel := context.WithCancel(t.Context())
	err := client(t, address).Scan(ctx, settings, func(scanner.Page) error {
		cancel()
		return nil
	})
	require.ErrorIs(t, err, context.Canceled)
	await.Until(t, func() bool {
		status, err := client(t, address).Status(t.Context())
		return err == nil && status.State == "Idle"
	}, "the device has been told")
	assert.NotEmpty(t, d.State().Feeder)
	own := errors.New("the disk is full")
	err = client(t, address).Scan(t.Context(), settings, func(scanner.Page) error { return own })
	require.ErrorIs(t, err, own)
}

func TestTheDevicesOwnPage(t *testing.T) {
	d, address := device(t, sim.State{Feeder: []string{"one"}})
	form := url.Values{"feeder": {"two\r\n three \r\n"}, "glass": {"four"}, "fault": {"jam"}, "at": {"2"}, "seconds": {"0.5"}, "on": {"true"}}
	response, err := http.PostForm(address, form)
	require.NoError(t, err)
	defer response.Body.Close() //nolint:errcheck // only read from
	assert.Equal(t, sim.State{Feeder: []string{"two", "three"}, Glass: "four", Fault: sim.JamAt, At: 2, Seconds: 0.5, On: true}, d.State())
	form.Set("feeder", "a sheet that is not there")
	again, err := http.PostForm(address, form)
	require.NoError(t, err)
	defer again.Body.Close() //nolint:errcheck // only read from
	var page bytes.Buffer
	_, err = page.ReadFrom(again.Body)
	require.NoError(t, err)
	assert.Contains(t, page.String(), "there is no sheet")
	assert.Equal(t, []string{"two", "three"}, d.State().Feeder)
}

// TestSANEScansFromTheDevice has Debian's driverless backend, which knows nothing
// of us, scan the stack and the glass.
func TestSANEScansFromTheDevice(t *testing.T) {
	_, address := device(t, sim.State{Feeder: []string{"one", "two", "three"}, Glass: "five"})
	folder := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(folder, "dll.conf"), []byte("airscan\n"), 0o600))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "airscan.conf"),
		[]byte("[devices]\n\"Sim\" = "+address+"/eSCL, eSCL\n[options]\ndiscovery = disable\n"), 0o600))
	scanimage := func(args ...string) string {
		command := exec.Command("scanimage", args...)
		command.Env = append(os.Environ(), "SANE_CONFIG_DIR="+folder)
		command.Dir = folder
		out, err := command.CombinedOutput()
		require.NoError(t, err, string(out))
		return string(out)
	}
	name := strings.TrimSpace(scanimage("-f", "%d"))
	require.Contains(t, name, "airscan", "the backend finds the device")
	assert.Contains(t, scanimage("-d", name, "-A"), "ADF Duplex")
	scanimage("-d", name, "--source", "ADF", "--mode", "Gray", "--resolution", "75", "--format=jpeg", "--batch=page%d.jpg")
	for i, want := range []int{1, 2, 3} {
		data, err := os.ReadFile(filepath.Join(folder, []string{"page1.jpg", "page2.jpg", "page3.jpg"}[i]))
		require.NoError(t, err)
		assert.Equal(t, want, band(t, data))
	}
	scanimage("-d", name, "--source", "Flatbed", "--mode", "Color", "--resolution", "75", "--format=jpeg", "-o", "glass.jpg")
	data, err := os.ReadFile(filepath.Join(folder, "glass.jpg"))
	require.NoError(t, err)
	assert.Equal(t, 5, band(t, data))
}

func TestAnnouncedDevicesAreFound(t *testing.T) {
	sampling.Heavy(t)
	_, address := device(t, sim.State{})
	stop, err := sim.Announce("Announced scanner", strings.TrimPrefix(address, "http://"))
	if err != nil {
		t.Skip("this machine has no network to announce on:", err)
	}
	defer stop()
	for _, found := range scanner.Discover(t.Context(), 2*time.Second) {
		if found.Address == address+"/eSCL" {
			assert.Equal(t, "Announced scanner", found.Name)
			return
		}
	}
	t.Skip("the network of this machine does not carry multicast")
}
