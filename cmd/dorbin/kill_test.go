//go:build unix

package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"mime/multipart"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/internal/app"
	"dorbin/internal/sampling"
	"dorbin/internal/store"
)

// serveVariable has the test's own binary be the program, on the data folder that it names.
const serveVariable = "DORBIN_TEST_SERVE"

func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == app.WorkerArgument {
		main()
		return
	}
	if folder := os.Getenv(serveVariable); folder != "" {
		os.Args = []string{"dorbin", "serve", "--data", folder, "--listen", "127.0.0.1:0"}
		main()
		return
	}
	os.Exit(m.Run())
}

// victim is the program, running until it is killed.
type victim struct {
	t       *testing.T
	process *os.Process
	url     string
	answers chan struct{} // one for every request that was answered
}

func startVictim(t *testing.T, folder string) *victim {
	t.Helper()
	command := exec.Command(os.Args[0])
	command.Env = append(os.Environ(), serveVariable+"="+folder)
	out, err := command.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, command.Start())
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if _, address, ok := strings.Cut(lines.Text(), "Dorbin is at "); ok {
			return &victim{t, command.Process, strings.TrimSuffix(address, "/"), make(chan struct{}, 1000)}
		}
	}
	require.Fail(t, "the program did not start")
	return nil
}

// do sends a request; it is false when the program was killed before it answered.
func (v *victim) do(method, path, contentType string, body io.Reader, into any) bool {
	request, err := http.NewRequestWithContext(v.t.Context(), method, v.url+path, body)
	if !assert.NoError(v.t, err) {
		return false
	}
	request.Header.Set("Content-Type", contentType)
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		return false
	}
	defer answer.Body.Close() //nolint:errcheck // only read from
	if !assert.Less(v.t, answer.StatusCode, 300, "%s %s", method, path) {
		return false
	}
	if into != nil && json.NewDecoder(answer.Body).Decode(into) != nil {
		return false
	}
	v.answers <- struct{}{}
	return true
}

func upload(v *victim, packet string, picture []byte) bool {
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	part, err := form.CreateFormFile("files", "picture.png")
	assert.NoError(v.t, err)
	_, err = part.Write(picture)
	assert.NoError(v.t, err)
	assert.NoError(v.t, form.Close())
	return v.do("POST", "/api/packets/"+packet+"/sources", form.FormDataContentType(), &body, nil)
}

// work makes packets, adds pictures, exports and deletes until the program is killed. It
// gives the packets that were acknowledged and not asked to be deleted, with how many
// pictures were.
func work(v *victim, worker int) map[string]int {
	acknowledged := map[string]int{}
	for n := 0; ; n++ {
		var packet struct{ ID string }
		if !v.do("POST", "/api/packets", "application/json", strings.NewReader(fmt.Sprintf(`{"name":"Packet %d"}`, n)), &packet) {
			return acknowledged
		}
		acknowledged[packet.ID] = 0
		for i := range 2 {
			img := image.NewGray(image.Rect(0, 0, 40+worker, 30+10*n+i))
			var data bytes.Buffer
			assert.NoError(v.t, png.Encode(&data, img))
			if !upload(v, packet.ID, data.Bytes()) {
				return acknowledged
			}
			acknowledged[packet.ID]++
		}
		if !v.do("POST", "/api/packets/"+packet.ID+"/exports", "application/json", strings.NewReader(`{"size":"lighter"}`), nil) {
			return acknowledged
		}
		if n%2 == 1 {
			delete(acknowledged, packet.ID) // it may be gone from here on
			if !v.do("DELETE", "/api/packets/"+packet.ID, "", nil, nil) {
				return acknowledged
			}
		}
	}
}

// TestKilledAgainAndAgain kills the program with kill -9 while it works, after ever more
// answers. What was acknowledged is there afterwards, and no file that nobody owns.
func TestKilledAgainAndAgain(t *testing.T) {
	sampling.Slow(t)
	folder := newDataFolder(t)
	acknowledged := map[string]int{}
	for round := range 6 {
		v := startVictim(t, folder)
		var workers sync.WaitGroup
		var mutex sync.Mutex
		for worker := range 2 {
			workers.Go(func() {
				done := work(v, 10*round+worker)
				mutex.Lock()
				defer mutex.Unlock()
				for id, pictures := range done {
					acknowledged[id] = pictures
				}
			})
		}
		go func() { // so that nobody waits for answers of workers that gave up
			workers.Wait()
			close(v.answers)
		}()
		for range 3 + 7*round {
			_, working := <-v.answers
			assert.True(t, working, "the program was not killed yet")
		}
		require.NoError(t, v.process.Kill())
		_, err := v.process.Wait()
		require.NoError(t, err)
		workers.Wait()
	}

	db, err := store.Open(folder)
	require.NoError(t, err)
	defer db.Close() //nolint:errcheck // only read from
	require.NoError(t, db.Sweep(t.Context()))
	owned := map[string]bool{}
	sources, err := db.AllSources(t.Context())
	require.NoError(t, err)
	packets, err := db.Packets(t.Context())
	require.NoError(t, err)
	there := map[string]bool{}
	for _, p := range packets {
		there[p.ID] = true
		exports, err := db.Exports(t.Context(), p.ID)
		require.NoError(t, err)
		for _, e := range exports {
			owned[e.Blob] = true
		}
		for _, source := range sources[p.ID] {
			assert.FileExists(t, db.FilePath(source.Blob))
			owned[source.Blob], owned[source.Working] = true, true
		}
	}
	require.NotEmpty(t, acknowledged)
	for id, pictures := range acknowledged {
		assert.True(t, there[id], "packet %s was acknowledged", id)
		assert.GreaterOrEqual(t, len(sources[id]), pictures, "of packet %s", id)
	}
	files, err := filepath.Glob(filepath.Join(folder, "files", "*", "*"))
	require.NoError(t, err)
	for _, file := range files {
		assert.True(t, owned[filepath.Base(file)], "nobody owns %s", file)
	}
	left, err := filepath.Glob(filepath.Join(folder, "incoming", "*"))
	require.NoError(t, err)
	assert.Empty(t, left)
}
