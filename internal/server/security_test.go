package server

import (
	"compress/gzip"
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"regexp"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestKnownHosts(t *testing.T) {
	cases := []struct {
		host, listen string
		known        bool
	}{
		{"127.0.0.1:8181", "127.0.0.1", true},
		{"localhost:8181", "127.0.0.1", true},
		{"LOCALHOST", "127.0.0.1", true},
		{"[::1]:8181", "127.0.0.1", true},
		{"192.168.1.5:8181", "127.0.0.1", false},
		{"192.168.1.5:8181", "192.168.1.5", true},
		{"192.168.1.5:8181", "0.0.0.0", true},
		{"192.168.1.5:8181", "", true},
		{"evil.example:8181", "0.0.0.0", false},
		{"desk.office.example", "desk.office.example", true},
		{"", "127.0.0.1", false},
	}
	for _, c := range cases {
		assert.Equal(t, c.known, knownHost(c.host, c.listen), "%s on %s", c.host, c.listen)
	}
}

func TestOriginsAreCheckedForWhatChangesSomething(t *testing.T) {
	handler := checkOrigin(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusOK) }))
	for _, c := range []struct {
		method, origin string
		status         int
	}{
		{http.MethodPost, "http://127.0.0.1:8181", http.StatusOK},
		{http.MethodPost, "", http.StatusOK}, // not a browser
		{http.MethodPost, "http://127.0.0.1:9999", http.StatusForbidden},
		{http.MethodDelete, "https://evil.example", http.StatusForbidden},
		{http.MethodPut, "::not a url", http.StatusForbidden},
		{http.MethodGet, "https://evil.example", http.StatusOK},
	} {
		request := httptest.NewRequest(c.method, "http://127.0.0.1:8181/api/packets", nil)
		request.Header.Set("Origin", c.origin)
		answer := httptest.NewRecorder()
		handler.ServeHTTP(answer, request)
		assert.Equal(t, c.status, answer.Code, "%s from %q", c.method, c.origin)
	}
}

func TestTheFrontEndComesCompressed(t *testing.T) {
	if _, err := built.ReadFile("dist/index.html"); err != nil {
		t.Skip("the front end is not built")
	}
	for accepted, encoding := range map[string]string{"gzip, deflate, br": "gzip", "identity": ""} {
		request := httptest.NewRequest(http.MethodGet, "http://127.0.0.1:8181/", nil)
		request.Header.Set("Accept-Encoding", accepted)
		answer := httptest.NewRecorder()
		frontEnd()(answer, request)
		assert.Equal(t, http.StatusOK, answer.Code)
		assert.Equal(t, encoding, answer.Header().Get("Content-Encoding"))
		body := io.Reader(answer.Body)
		if encoding != "" {
			var err error
			body, err = gzip.NewReader(answer.Body)
			require.NoError(t, err)
		}
		page, err := io.ReadAll(body)
		require.NoError(t, err)
		assert.Contains(t, string(page), `<div id="root">`)
	}
}

func TestScriptsComeAsTheBuildCompressedThem(t *testing.T) {
	files := fstest.MapFS{
		"assets/a.js": {Data: []byte("plain")}, "assets/a.js.br": {Data: []byte("compressed")}, "assets/b.js": {Data: []byte("plain")},
	}
	for _, c := range []struct{ name, accepted, encoding, body string }{
		{"assets/a.js", "gzip, br", "br", "compressed"},
		{"assets/a.js", "br;q=0.5", "br", "compressed"},
		{"assets/a.js", "br;q=0", "", "plain"},
		{"assets/a.js", "br; q=nonsense", "", "plain"},
		{"assets/a.js", "brotli", "", "plain"},
		{"assets/b.js", "br", "", "plain"},
	} {
		request := httptest.NewRequest(http.MethodGet, "http://127.0.0.1:8181/"+c.name, nil)
		request.Header.Set("Accept-Encoding", c.accepted)
		answer := httptest.NewRecorder()
		frontEndOf(files)(answer, request)
		assert.Equal(t, http.StatusOK, answer.Code)
		assert.Equal(t, c.encoding, answer.Header().Get("Content-Encoding"), c.accepted)
		assert.Equal(t, "text/javascript; charset=utf-8", answer.Header().Get("Content-Type"))
		assert.Contains(t, answer.Header().Get("Cache-Control"), "immutable")
		assert.Equal(t, c.body, answer.Body.String())
	}
}

// mostScripts is how many bytes of scripts the first view may load, compressed.
const mostScripts = 150_000

func TestTheFirstViewLoadsFewScripts(t *testing.T) {
	page, err := built.ReadFile("dist/index.html")
	if err != nil {
		t.Skip("the front end is not built")
	}
	scripts := regexp.MustCompile(`"/(assets/[^"]+\.js)"`).FindAllSubmatch(page, -1)
	require.NotEmpty(t, scripts)
	total := 0
	for _, script := range scripts {
		compressed, err := built.ReadFile("dist/" + string(script[1]) + compressedSuffix)
		require.NoError(t, err)
		total += len(compressed)
	}
	assert.Less(t, total, mostScripts)
}

func TestFileNamesInHeaders(t *testing.T) {
	assert.Equal(t, `attachment; filename=plan.pdf`, attachment("plan.pdf"))
	assert.Equal(t, `attachment; filename*=utf-8''%22a%5C%0Ab%E2%80%9D.pdf`, attachment("\"a\\\nb”.pdf"))
}

// TestEveryOperationIsDescribed keeps the description fit for generating
// clients: every operation has a name of its own, words, and an answer.
func TestEveryOperationIsDescribed(t *testing.T) {
	text, err := os.ReadFile("openapi.json")
	require.NoError(t, err)
	var description struct {
		Paths map[string]map[string]struct {
			OperationID string         `json:"operationId"`
			Summary     string         `json:"summary"`
			Responses   map[string]any `json:"responses"`
		} `json:"paths"`
	}
	require.NoError(t, json.Unmarshal(text, &description))
	seen := map[string]bool{}
	for path, operations := range description.Paths {
		for method, operation := range operations {
			assert.NotEmpty(t, operation.Summary, "%s %s", method, path)
			assert.NotEmpty(t, operation.Responses, "%s %s", method, path)
			assert.False(t, seen[operation.OperationID], operation.OperationID)
			seen[operation.OperationID] = true
		}
	}
	for _, id := range []string{"add-sources", "command-packet", "undo", "redo", "start-export", "events", "page-picture"} {
		assert.True(t, seen[id], id)
	}
}

func TestARequestWhoseBodyStallsIsEnded(t *testing.T) {
	ended := make(chan error, 1)
	s := httptest.NewServer(endStalled(50 * time.Millisecond)(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		_, err := io.ReadAll(r.Body)
		if err == nil {
			select { // what is done with a body may take longer than it came in
			case <-r.Context().Done():
				err = r.Context().Err()
			case <-time.After(150 * time.Millisecond):
			}
		}
		ended <- err
		w.WriteHeader(http.StatusNoContent)
	})))
	defer s.Close()
	out, in := io.Pipe()
	defer in.Close() //nolint:errcheck // it only ends the request
	request, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL, out)
	require.NoError(t, err)
	go func() {
		_, _ = in.Write([]byte("half")) // and no more
	}()
	if answer, err := s.Client().Do(request); err == nil {
		require.NoError(t, answer.Body.Close())
	}
	require.ErrorIs(t, <-ended, os.ErrDeadlineExceeded)

	answer, err := s.Client().Post(s.URL, "text/plain", strings.NewReader("whole"))
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	require.NoError(t, <-ended)
}
