package server_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"io"
	"log/slog"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/pdf/pdftest"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/gather"
	"dorbin/internal/intake"
	"dorbin/internal/keeping"
	"dorbin/internal/packets"
	"dorbin/internal/server"
)

// client talks to a real server with a real data folder.
type client struct {
	t   testing.TB
	url string
}

func start(t testing.TB, change ...func(*app.Options)) client {
	t.Helper()
	folder := t.TempDir()
	cache := filepath.Join(os.TempDir(), "dorbin-test-pdfium")
	require.NoError(t, os.MkdirAll(cache, 0o700))
	options := app.Options{
		Folder: folder, Limits: intake.DefaultLimits, Log: slog.New(slog.DiscardHandler), CodeCache: cache,
		WorkerProgram: os.Getenv("DORBIN_TEST_WORKER"), // under the race detector their own binary is slow to start
	}
	for _, c := range change {
		c(&options)
	}
	a, err := app.Open(context.Background(), options)
	require.NoError(t, err)
	s := httptest.NewServer(server.New(a, "test", "127.0.0.1:0"))
	t.Cleanup(func() {
		s.CloseClientConnections()
		s.Close()
		require.NoError(t, a.Close())
	})
	return client{t, s.URL}
}

// do sends a request with a JSON body, if any, and decodes the answer into out.
func (c client) do(method, path string, body, out any) int {
	c.t.Helper()
	var reader io.Reader
	if body != nil {
		text, err := json.Marshal(body)
		require.NoError(c.t, err)
		reader = bytes.NewReader(text)
	}
	request, err := http.NewRequestWithContext(c.t.Context(), method, c.url+path, reader)
	require.NoError(c.t, err)
	request.Header.Set("Content-Type", "application/json")
	return c.send(request, out)
}

func (c client) send(request *http.Request, out any) int {
	c.t.Helper()
	response, err := http.DefaultClient.Do(request)
	require.NoError(c.t, err)
	defer response.Body.Close() //nolint:errcheck // only read from
	if out != nil {
		require.NoError(c.t, json.NewDecoder(response.Body).Decode(out))
	}
	return response.StatusCode
}

type namedFile struct {
	name string
	data []byte
}

func (c client) upload(id string, files ...namedFile) []gather.Outcome {
	c.t.Helper()
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	for _, file := range files {
		part, err := form.CreateFormFile("files", file.name)
		require.NoError(c.t, err)
		_, err = part.Write(file.data)
		require.NoError(c.t, err)
	}
	require.NoError(c.t, form.Close())
	request, err := http.NewRequestWithContext(c.t.Context(), http.MethodPost, c.url+"/api/packets/"+id+"/sources", &body)
	require.NoError(c.t, err)
	request.Header.Set("Content-Type", form.FormDataContentType())
	var outcomes []gather.Outcome
	require.Equal(c.t, http.StatusOK, c.send(request, &outcomes))
	return outcomes
}

func (c client) newPacket() packets.Packet {
	c.t.Helper()
	var p packets.Packet
	require.Equal(c.t, http.StatusCreated, c.do("POST", "/api/packets", map[string]string{"name": "Test"}, &p))
	return p
}

func (c client) packet(id string) packets.Packet {
	c.t.Helper()
	var p packets.Packet
	require.Equal(c.t, http.StatusOK, c.do("GET", "/api/packets/"+id, nil, &p))
	return p
}

// revision is the body of a request that names the revision that its user sees.
func (c client) revision(id string) map[string]int {
	c.t.Helper()
	return map[string]int{"revision": c.packet(id).Revision}
}

// step is the body of a request to go to a step.
func (c client) step(id string, step int) map[string]int {
	c.t.Helper()
	body := c.revision(id)
	body["step"] = step
	return body
}

type commands struct {
	Revision int             `json:"revision"`
	Commands packet.Commands `json:"commands"`
}

func pngFile(t testing.TB, w, h int) []byte {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, image.NewGray(image.Rect(0, 0, w, h))))
	return out.Bytes()
}

type problem struct {
	Title  string         `json:"title"`
	Status int            `json:"status"`
	Detail string         `json:"detail"`
	Packet packets.Packet `json:"packet"`
}

func TestFilesAreTakenInTheOrderSentAndTheRestGoesOn(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	outcomes := c.upload(id,
		namedFile{"b.png", pngFile(t, 30, 40)},
		namedFile{"letter.docx", []byte("PK\x03\x04")},
		namedFile{"a.png", pngFile(t, 40, 30)},
		namedFile{"again.png", pngFile(t, 30, 40)},
	)
	var results []string
	for _, o := range outcomes {
		results = append(results, o.Name+" "+o.Result)
	}
	assert.Equal(t, []string{"b.png added", "letter.docx refused", "a.png added", "b.png duplicate"}, results)
	p := c.packet(id)
	require.Len(t, p.Parts, 2)
	assert.Equal(t, "B", p.Parts[0].Title)
	assert.Equal(t, 2, p.Parts[1].Pages[0].Number)
}

func TestCommandsUndoAndConflict(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"a.png", pngFile(t, 30, 40)}, namedFile{"b.png", pngFile(t, 40, 30)})
	p := c.packet(id)
	page := p.Parts[0].Pages[0].ID
	turn := commands{p.Revision, []packet.Command{packet.Turn{Selected: packet.On(page), By: 90}}}
	var change packets.Change
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/commands", turn, &change))
	assert.Equal(t, p.Revision, change.From)
	require.Len(t, change.Hunks, 1, "only what changed is sent")
	require.Len(t, change.Hunks[0].Rows, 1)
	assert.Equal(t, 90, change.Hunks[0].Rows[0].Page.Turn)
	turned := c.packet(id)
	assert.Equal(t, change.Revision, turned.Revision)
	assert.Equal(t, 90, turned.Parts[0].Pages[0].Turn)
	assert.Equal(t, "Turned page 1 right", turned.Undo.English)
	assert.Greater(t, turned.Parts[0].Pages[0].Width, turned.Parts[0].Pages[0].Height)

	var conflict problem
	require.Equal(t, http.StatusConflict, c.do("POST", "/api/packets/"+id+"/commands", turn, &conflict))
	assert.Equal(t, turned.Revision, conflict.Packet.Revision, "the answer holds the packet as it now stands")
	assert.NotEmpty(t, conflict.Detail)

	bad := commands{turned.Revision, []packet.Command{turn.Commands[0], packet.Move{Selected: packet.On("p99"), Destination: packet.Destination{After: page}}}}
	var refused problem
	require.Equal(t, http.StatusUnprocessableEntity, c.do("POST", "/api/packets/"+id+"/commands", bad, &refused))
	assert.Contains(t, refused.Detail, "p99")
	assert.Equal(t, turned.Revision, c.packet(id).Revision, "nothing was applied")

	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/undo", c.revision(id), &change))
	assert.Equal(t, "Turned page 1 right", change.Redo.English)
	assert.Equal(t, 0, c.packet(id).Parts[0].Pages[0].Turn)
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/redo", c.revision(id), &change))
	assert.Equal(t, turned.Parts, c.packet(id).Parts)
	assert.Equal(t, http.StatusConflict, c.do("POST", "/api/packets/"+id+"/redo", c.revision(id), nil))
	old := map[string]int{"revision": turned.Revision}
	require.Equal(t, http.StatusConflict, c.do("POST", "/api/packets/"+id+"/undo", old, &conflict))
	assert.Equal(t, c.packet(id).Revision, conflict.Packet.Revision, "what another window did is not undone unseen")
}

// TestManyAtOnce has several clients act on one packet at the same time, each
// trying again when it was too late. No act is lost and none is done twice.
func TestManyAtOnce(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"a.png", pngFile(t, 30, 40)})
	page := c.packet(id).Parts[0].Pages[0].ID
	before := c.packet(id).Revision
	const clients, turns = 4, 6
	var wait sync.WaitGroup
	for range clients {
		wait.Go(func() {
			revision := before
			for done := 0; done < turns; {
				var answer problem
				status := c.do("POST", "/api/packets/"+id+"/commands",
					commands{revision, []packet.Command{packet.Turn{Selected: packet.On(page), By: 90}}}, &answer)
				if status == http.StatusConflict {
					revision = answer.Packet.Revision
					continue
				}
				assert.Equal(t, http.StatusOK, status)
				done++
				revision++
			}
		})
	}
	wait.Wait()
	assert.Equal(t, before+clients*turns, c.packet(id).Revision)
}

func TestPictures(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"a.png", pngFile(t, 300, 400)})
	page := c.packet(id).Parts[0].Pages[0]
	for _, path := range []string{
		"/api/sources/" + string(page.Source) + "/pages/1/image?width=100",
		"/api/packets/" + id + "/pages/" + string(page.ID) + "/image?width=100",
	} {
		response, err := http.Get(c.url + path) //nolint:noctx // short
		require.NoError(t, err)
		img, err := jpeg.Decode(response.Body)
		require.NoError(t, err)
		assert.Equal(t, 120, img.Bounds().Dx())
		assert.Equal(t, "image/jpeg", response.Header.Get("Content-Type"))
		require.NoError(t, response.Body.Close())
	}
	assert.Equal(t, http.StatusNotFound, c.do("GET", "/api/sources/"+string(page.Source)+"/pages/2/image", nil, nil))
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("GET", "/api/sources/"+string(page.Source)+"/pages/1/image?width=99999", nil, nil))
}

func TestExport(t *testing.T) {
	c := start(t)
	p := c.newPacket()
	var refused problem
	require.Equal(t, http.StatusUnprocessableEntity, c.do("POST", "/api/packets/"+p.ID+"/exports", map[string]string{}, &refused))
	assert.Equal(t, "There are no pages to export.", refused.Detail)
	c.upload(p.ID, namedFile{"a.png", pngFile(t, 300, 400)})
	var e export.Export
	require.Equal(t, http.StatusAccepted, c.do("POST", "/api/packets/"+p.ID+"/exports", map[string]string{"name": "Übersicht: 1"}, &e))
	await.Until(t, func() bool {
		c.do("GET", "/api/exports/"+e.ID, nil, &e)
		return e.State == "done"
	})
	assert.Equal(t, 1, e.Receipt.Pages)
	response, err := http.Get(c.url + "/api/exports/" + e.ID + "/file") //nolint:noctx // short
	require.NoError(t, err)
	defer response.Body.Close() //nolint:errcheck // only read from
	assert.Equal(t, `attachment; filename*=utf-8''%C3%9Cbersicht-%201.pdf`, response.Header.Get("Content-Disposition"))
	body, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	assert.EqualValues(t, e.Receipt.Bytes, len(body))
	var all []export.Export
	c.do("GET", "/api/packets/"+p.ID+"/exports", nil, &all)
	assert.Len(t, all, 1)
}

func TestEvents(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	response, err := http.Get(c.url + "/api/events?packet=" + id) //nolint:noctx // closed below
	require.NoError(t, err)
	defer response.Body.Close() //nolint:errcheck // only read from
	lines := bufio.NewScanner(response.Body)
	waitForLine := func(part string) {
		for lines.Scan() {
			if strings.Contains(lines.Text(), part) {
				return
			}
		}
		require.Fail(t, "the stream ended", "before %q", part)
	}
	waitForLine("alive")
	c.upload(id, namedFile{"a.png", pngFile(t, 30, 40)})
	waitForLine(`"kind":"packet"`)
	var went keeping.Holdings
	require.Equal(t, http.StatusOK, c.do("DELETE", "/api/packets/"+id, nil, &went))
	assert.Equal(t, 1, went.Sources)
	assert.Equal(t, 1, went.Pages)
	waitForLine(`"kind":"deleted"`)
	assert.Equal(t, http.StatusNotFound, c.do("GET", "/api/packets/"+id, nil, nil))
}

func TestRequestsFromElsewhereAreRefused(t *testing.T) {
	c := start(t)
	send := func(method, host, origin string) int {
		request, err := http.NewRequestWithContext(t.Context(), method, c.url+"/api/packets", strings.NewReader(`{"name":"x"}`))
		require.NoError(t, err)
		request.Header.Set("Content-Type", "application/json")
		if host != "" {
			request.Host = host
		}
		if origin != "" {
			request.Header.Set("Origin", origin)
		}
		return c.send(request, nil)
	}
	assert.Equal(t, http.StatusOK, send("GET", "", ""))
	assert.Equal(t, http.StatusOK, send("GET", "localhost:1", ""))
	assert.Equal(t, http.StatusMisdirectedRequest, send("GET", "evil.example", ""))
	assert.Equal(t, http.StatusCreated, send("POST", "", c.url))
	assert.Equal(t, http.StatusForbidden, send("POST", "", "https://evil.example"))
	assert.Equal(t, http.StatusForbidden, send("POST", "", "null"))
}

func TestNothingIsLoadedFromElsewhere(t *testing.T) {
	c := start(t)
	for _, path := range []string{"/", "/packets/some-id", "/api/packets", "/healthz"} {
		response, err := http.Get(c.url + path) //nolint:noctx // short
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		policy := response.Header.Get("Content-Security-Policy")
		assert.Contains(t, policy, "default-src 'self'", path)
		assert.NotContains(t, policy, "http", path)
		assert.Equal(t, "nosniff", response.Header.Get("X-Content-Type-Options"), path)
		assert.Equal(t, http.StatusOK, response.StatusCode, path)
	}
	for _, path := range []string{"/api/nothing", "/docs", "/api/docs"} {
		var body bytes.Buffer
		response, err := http.Get(c.url + path) //nolint:noctx // short
		require.NoError(t, err)
		_, err = body.ReadFrom(response.Body)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		assert.NotContains(t, body.String(), "unpkg", path)
	}
}

// BenchmarkCommand measures the server's whole answer to a command, over HTTP,
// and how many bytes it is: turning two pages that lie apart, and moving one page
// across half of the packet and back.
func BenchmarkCommand(b *testing.B) {
	for _, pages := range []int{20, 200, 2000, 5000} {
		c := start(b)
		id := c.newPacket().ID
		require.Equal(b, "added", c.upload(id, namedFile{"many.pdf", blankPDF(pages)})[0].Result)
		ids := c.packet(id).Parts[0].Pages
		first, middle, last := ids[0].ID, ids[pages/2].ID, ids[pages-1].ID
		turns := []packet.Command{packet.Turn{Selected: packet.On(first, middle), By: 90}}
		moves := [][]packet.Command{
			{packet.Move{Selected: packet.On(first), Destination: packet.Destination{After: middle}}}, {packet.Move{Selected: packet.On(first), Destination: packet.Destination{After: last}}},
		}
		b.Run(fmt.Sprintf("turn of %d", pages), func(b *testing.B) {
			benchmarkCommands(b, c, id, func(int) []packet.Command { return turns })
		})
		b.Run(fmt.Sprintf("move of %d", pages), func(b *testing.B) {
			benchmarkCommands(b, c, id, func(i int) []packet.Command { return moves[i%2] })
		})
	}
}

func benchmarkCommands(b *testing.B, c client, id string, next func(int) []packet.Command) {
	revision := c.packet(id).Revision
	var sent int64
	var times []time.Duration
	for i := 0; b.Loop(); i++ {
		begun := time.Now()
		body, err := json.Marshal(commands{revision, next(i)})
		require.NoError(b, err)
		response, err := http.Post(c.url+"/api/packets/"+id+"/commands", "application/json", bytes.NewReader(body))
		require.NoError(b, err)
		n, err := io.Copy(io.Discard, response.Body)
		require.NoError(b, err)
		require.NoError(b, response.Body.Close())
		if response.StatusCode != http.StatusOK {
			b.Fatal(response.StatusCode)
		}
		times = append(times, time.Since(begun))
		sent += n
		revision++
	}
	slices.Sort(times)
	b.ReportMetric(float64(times[len(times)/2].Microseconds())/1000, "ms-median")
	b.ReportMetric(float64(sent)/float64(len(times)), "B/answer")
}

func blankPDF(pages int) []byte {
	var kids strings.Builder
	var objects []string
	for i := range pages {
		kids.WriteString(strconv.Itoa(i+3) + " 0 R ")
		objects = append(objects, "<< /Type /Page /Parent 2 0 R >>")
	}
	return pdftest.File(append([]string{
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [" + kids.String() + "] /Count " + strconv.Itoa(pages) + " /MediaBox [0 0 595 842] >>",
	}, objects...)...)
}

func TestTheProgramTellsWhenPagesCanBeDrawn(t *testing.T) {
	c := start(t)
	await.Until(t, func() bool {
		var answer struct{ Ready bool }
		require.Equal(t, http.StatusOK, c.do("GET", "/api/readiness", nil, &answer))
		return answer.Ready
	})
}
