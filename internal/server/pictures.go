package server

import (
	"context"
	"net/http"
	"os"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/packet"
)

type pagePictureRequest struct {
	PacketPath
	Page  string `path:"page" doc:"The page's id."`
	Width int    `query:"width" default:"240" minimum:"1" maximum:"2400" doc:"Pixels; the picture may be wider."`
}

type sourcePictureRequest struct {
	Source string `path:"source" doc:"The source's id."`
	Number int    `path:"number" minimum:"1" doc:"The page's number in the source, from 1."`
	Width  int    `query:"width" default:"240" minimum:"1" maximum:"2400" doc:"Pixels; the picture may be wider."`
}

// Caching of pictures: a page may be turned, a source's page never changes.
const (
	mayChange    = "private, no-cache"
	neverChanges = "private, max-age=31536000, immutable"
)

func (h handlers) registerPictures(api huma.API) {
	responses := func() map[string]*huma.Response {
		return map[string]*huma.Response{"200": {
			Description: "A JPEG",
			Content:     map[string]*huma.MediaType{"image/jpeg": {Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}}},
		}}
	}
	huma.Register(api, huma.Operation{
		OperationID: "page-picture", Method: http.MethodGet, Path: "/api/packets/{id}/pages/{page}/image",
		Summary: "A page as it now stands", Responses: responses(),
	}, func(ctx context.Context, in *pagePictureRequest) (*huma.StreamResponse, error) {
		path, err := h.app.PagePicture(ctx, in.ID, packet.PageID(in.Page), in.Width)
		return sendFile(path, "image/jpeg", mayChange, "", err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "source-picture", Method: http.MethodGet, Path: "/api/sources/{source}/pages/{number}/image",
		Summary: "A source's page as it came in", Responses: responses(),
	}, func(ctx context.Context, in *sourcePictureRequest) (*huma.StreamResponse, error) {
		path, err := h.app.SourcePicture(ctx, in.Source, in.Number, in.Width)
		return sendFile(path, "image/jpeg", neverChanges, "", err)
	})
}

// sendFile streams a file from disk. A disposition makes it a download.
func sendFile(path, contentType, caching, disposition string, err error) (*huma.StreamResponse, error) {
	if err != nil {
		return nil, problem(err)
	}
	file, err := os.Open(path)
	if err != nil {
		return nil, problem(err)
	}
	info, err := file.Stat()
	if err != nil {
		_ = file.Close() // only read from
		return nil, problem(err)
	}
	return &huma.StreamResponse{Body: func(ctx huma.Context) {
		defer file.Close() //nolint:errcheck // only read from
		ctx.SetHeader("Content-Type", contentType)
		ctx.SetHeader("Content-Length", strconv.FormatInt(info.Size(), 10))
		ctx.SetHeader("Cache-Control", caching)
		if disposition != "" {
			ctx.SetHeader("Content-Disposition", disposition)
		}
		_, _ = file.WriteTo(ctx.BodyWriter()) // the client may be gone
	}}, nil
}
