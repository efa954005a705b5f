package server

import (
	"embed"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5/middleware"
)

//go:embed all:dist
var built embed.FS

// frontEnd serves the built front end. Paths without a file of their own are
// views, which the front end finds by itself.
func frontEnd() http.HandlerFunc {
	files, err := fs.Sub(built, "dist")
	if err != nil {
		panic(err) // dist is embedded
	}
	return frontEndOf(files)
}

func frontEndOf(files fs.FS) http.HandlerFunc {
	onItsWay := middleware.Compress(assetLevel, compressible...)(uncompressed(files))
	return func(w http.ResponseWriter, r *http.Request) {
		if !sendCompressed(w, r, files) {
			onItsWay.ServeHTTP(w, r)
		}
	}
}

// compressedSuffix is of files beside others that the build compressed (RFC 7932).
const compressedSuffix = ".br"

// sendCompressed sends a script or a style sheet as the build compressed it, where there is one and the client takes it.
func sendCompressed(w http.ResponseWriter, r *http.Request, files fs.FS) bool {
	name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
	if !strings.HasPrefix(name, "assets/") || !takesBrotli(r) {
		return false
	}
	if _, err := fs.Stat(files, name+compressedSuffix); err != nil {
		return false
	}
	header := w.Header()
	header.Set("Cache-Control", neverChanges)
	header.Set("Content-Encoding", "br")
	header.Set("Content-Type", mime.TypeByExtension(path.Ext(name)))
	header.Add("Vary", "Accept-Encoding")
	http.ServeFileFS(w, r, files, name+compressedSuffix)
	return true
}

// takesBrotli tells whether a client names the encoding, and does not refuse it (RFC 9110, section 12.5.3).
func takesBrotli(r *http.Request) bool {
	for accepted := range strings.SplitSeq(r.Header.Get("Accept-Encoding"), ",") {
		coding, weight, _ := strings.Cut(accepted, ";")
		if strings.EqualFold(strings.TrimSpace(coding), "br") {
			quality, isWeighted := strings.CutPrefix(strings.TrimSpace(weight), "q=")
			weighs, err := strconv.ParseFloat(quality, 64)
			return !isWeighted || err == nil && weighs > 0
		}
	}
	return false
}

// assetLevel is how well the rest of the front end is compressed for the way: its files come once, as their names hold
// their hashes.
const assetLevel = 6

// compressible are the types of its files that are smaller afterwards.
var compressible = []string{"text/html", "text/css", "text/javascript", "image/svg+xml"}

func uncompressed(files fs.FS) http.HandlerFunc {
	server := http.FileServerFS(files)
	return func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
		if strings.HasPrefix(name, "api/") || (r.Method != http.MethodGet && r.Method != http.MethodHead) {
			http.NotFound(w, r)
			return
		}
		info, err := fs.Stat(files, name)
		switch {
		case err == nil && !info.IsDir() && strings.HasPrefix(name, "assets/"):
			w.Header().Set("Cache-Control", neverChanges) // their names hold their hashes
			server.ServeHTTP(w, r)
		case err == nil && !info.IsDir():
			server.ServeHTTP(w, r)
		default:
			w.Header().Set("Cache-Control", "no-cache")
			http.ServeFileFS(w, r, files, "index.html")
		}
	}
}
