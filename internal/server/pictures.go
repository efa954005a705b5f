package server

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"net/http"
	"os"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/internal/gather"
	"dorbin/internal/packets"
)

type pagePictureRequest struct {
	PacketPath
	Page  string `path:"page" doc:"The page's id."`
	Width int    `query:"width" default:"240" minimum:"1" maximum:"2400" doc:"Pixels; the picture may be wider."`
}

// SourcePagePath is the path of an operation on a page of a source.
type SourcePagePath struct {
	Source string `path:"source" doc:"The source's id."`
	Number int    `path:"number" minimum:"1" doc:"The page's number in the source, from 1."`
}

// OutlineQuery is an outline in a query.
type OutlineQuery struct {
	Outline []float64 `query:"outline" minItems:"8" maxItems:"8" doc:"x and y of the corners, clockwise from the paper's top left, as fractions."`
}

func (q OutlineQuery) outline() (o geometry.PaperQuad) {
	for i := range q.Outline {
		corner := &o[i/2]
		if i%2 == 0 {
			corner.X = q.Outline[i]
		} else {
			corner.Y = q.Outline[i]
		}
	}
	return o
}

type sourcePictureRequest struct {
	SourcePagePath
	Width       int    `query:"width" default:"240" minimum:"1" maximum:"2400" doc:"Pixels; the picture may be wider."`
	Adjustments string `query:"adjustments" maxLength:"20000" doc:"How the page is shown: the schema Adjustments as JSON. Without it, as it came in."`
}

func (r sourcePictureRequest) adjustments() (adjustments packets.Adjustments, err error) {
	if r.Adjustments == "" {
		return adjustments, nil
	}
	if err := json.Unmarshal([]byte(r.Adjustments), &adjustments); err != nil {
		return adjustments, problemAnswer(http.StatusUnprocessableEntity, message.Of("The adjustments are not written as they should be."))
	}
	return adjustments, nil
}

type findPapersRequest struct {
	SourcePagePath
	OutlineQuery
}

type papersAnswer struct{ Body gather.Papers }

// Caching of pictures: a page may be turned, a source's page never changes.
const (
	mayChange    = "private, no-cache"
	neverChanges = "private, max-age=31536000, immutable"
)

func pictureResponse() map[string]*huma.Response {
	return map[string]*huma.Response{"200": {
		Description: "A JPEG",
		Content:     map[string]*huma.MediaType{"image/jpeg": {Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}}},
	}}
}

func (h handlers) registerPictures(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "page-picture", Method: http.MethodGet, Path: "/api/packets/{id}/pages/{page}/image",
		Summary: "A page as it now stands", Responses: pictureResponse(),
	}, func(ctx context.Context, in *pagePictureRequest) (*huma.StreamResponse, error) {
		path, err := h.app.Packets.PagePicture(ctx, in.ID, packet.PageID(in.Page), in.Width)
		return sendFile(path, "image/jpeg", mayChange, "", err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "source-picture", Method: http.MethodGet, Path: "/api/sources/{source}/pages/{number}/image",
		Summary: "A source's page as it came in, or with a look that it may get", Responses: pictureResponse(),
	}, func(ctx context.Context, in *sourcePictureRequest) (*huma.StreamResponse, error) {
		adjustments, err := in.adjustments()
		if err != nil {
			return nil, err
		}
		path, err := h.app.Packets.SourcePicture(ctx, in.Source, in.Number, adjustments, in.Width)
		return sendFile(path, "image/jpeg", neverChanges, "", err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "find-papers", Method: http.MethodGet, Path: "/api/sources/{source}/pages/{number}/papers",
		Summary: "Where a paper, and the fold of two facing pages, seem to lie in a picture",
	}, func(ctx context.Context, in *findPapersRequest) (*papersAnswer, error) {
		papers, err := h.app.Gather.FindPapers(ctx, in.Source, in.Number, in.outline())
		return &papersAnswer{papers}, refusal(err)
	})
}

// sendFile sends a file from disk, or the part of it that is asked for. A file at a path
// never changes, so that the path tells what a client has already. A disposition makes it
// a download.
func sendFile(path, contentType, caching, disposition string, err error) (*huma.StreamResponse, error) {
	if err != nil {
		return nil, refusal(err)
	}
	file, err := os.Open(path)
	if err != nil {
		return nil, refusal(err)
	}
	info, err := file.Stat()
	if err != nil {
		_ = file.Close() // only read from
		return nil, refusal(err)
	}
	tag := sha256.Sum256([]byte(path))
	return &huma.StreamResponse{Body: func(ctx huma.Context) {
		defer file.Close() //nolint:errcheck // only read from
		request, writer := humachi.Unwrap(ctx)
		header := writer.Header()
		header.Set("Content-Type", contentType)
		header.Set("Cache-Control", caching)
		header.Set("ETag", fmt.Sprintf(`"%x"`, tag[:12]))
		if disposition != "" {
			header.Set("Content-Disposition", disposition)
		}
		http.ServeContent(writer, request, "", info.ModTime(), file)
	}}, nil
}
