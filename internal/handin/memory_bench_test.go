package handin

import (
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"runtime"
	"testing"

	"github.com/stretchr/testify/require"

	"dorbin/core/requirements"
)

// BenchmarkHandIn hands in a document of 500 MB, and tells how much memory the program had of the system
// at most, the receiver included.
func BenchmarkHandIn(b *testing.B) {
	const size = 500_000_000
	path := filepath.Join(b.TempDir(), "made")
	file, err := os.Create(path) //nolint:gosec // of the benchmark
	require.NoError(b, err)
	require.NoError(b, file.Truncate(size))
	require.NoError(b, file.Close())
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		_, _ = io.Copy(io.Discard, r.Body)
		say(w, `{"number":"1"}`)
	}))
	defer server.Close()
	outbox := b.TempDir()
	for name, c := range map[string]struct {
		channel  channel
		delivery requirements.Delivery
	}{
		"portal": {portal{newWeb(nil)}, requirements.Delivery{By: requirements.ByPortal, Address: server.URL}},
		"folder": {outboxes{{Name: "Outbox", Path: outbox}}, requirements.Delivery{By: requirements.ByFolder, Address: "Outbox"}},
	} {
		b.Run(name, func(b *testing.B) {
			var most uint64
			before := held()
			for b.Loop() {
				s := &sending{
					document: document{id: "d1", path: path, name: "made.pdf", contentType: "application/pdf", bytes: size, fill: func(s string) string { return s }},
					delivery: c.delivery, note: func(string) error { return nil },
					sent: func(n int64) {
						if n%(50<<20) < 64<<10 {
							most = max(most, held())
						}
					},
				}
				_, err := c.channel.send(b.Context(), s)
				require.NoError(b, err)
			}
			b.ReportMetric(float64(max(most, before))/1e6, "MB")
			b.SetBytes(size)
		})
	}
}

func held() uint64 {
	var stats runtime.MemStats
	runtime.ReadMemStats(&stats)
	return stats.Sys
}
