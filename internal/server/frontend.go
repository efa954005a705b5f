package server

import (
	"embed"
	"io/fs"
	"net/http"
	"path"
	"strings"

	"github.com/go-chi/chi/v5/middleware"
)

//go:embed all:dist
var built embed.FS

// frontEnd serves the built front end. Paths without a file of their own are
// views, which the front end finds by itself.
func frontEnd() http.HandlerFunc {
	return middleware.Compress(assetLevel, compressible...)(uncompressed()).ServeHTTP
}

// assetLevel is how well the front end is compressed for the way: its files come once, as their names hold their hashes.
const assetLevel = 6

// compressible are the types of its files that are smaller afterwards.
var compressible = []string{"text/html", "text/css", "text/javascript", "image/svg+xml"}

func uncompressed() http.HandlerFunc {
	files, err := fs.Sub(built, "dist")
	if err != nil {
		panic(err) // dist is embedded
	}
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
