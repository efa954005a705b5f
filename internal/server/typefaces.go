package server

import (
	"bytes"
	"net/http"
	"slices"
	"time"

	"github.com/go-chi/chi/v5"

	"dorbin/core/typeface"
)

// sendTypeface sends the file of a typeface, so that a page is shown with the letters that it
// will have.
func sendTypeface(w http.ResponseWriter, r *http.Request) {
	face := typeface.Face(chi.URLParam(r, "face"))
	if !slices.Contains(typeface.Faces, face) {
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Content-Type", "font/ttf")
	w.Header().Set("Cache-Control", "max-age=86400")
	http.ServeContent(w, r, "", time.Time{}, bytes.NewReader(face.File()))
}
