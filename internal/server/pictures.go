package server

import (
	"context"
	"net/http"
	"os"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/app"
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

func (q OutlineQuery) outline() (o geometry.Outline) {
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
	OutlineQuery
	Width      int             `query:"width" default:"240" minimum:"1" maximum:"2400" doc:"Pixels; the picture may be wider."`
	Straighten float64         `query:"straighten" minimum:"-15" maximum:"15" doc:"Degrees clockwise."`
	Crop       []float64       `query:"crop" minItems:"4" maxItems:"4" doc:"Left, top, right and bottom of what is kept of the flat page, in points."`
	Tone       raster.ToneMode `query:"tone" enum:"white,gray,blackWhite"`
	Brightness int             `query:"brightness" minimum:"-100" maximum:"100"`
	Contrast   int             `query:"contrast" minimum:"-100" maximum:"100"`
	Bare       bool            `query:"bare" doc:"Without comments and form fields."`
}

func (r sourcePictureRequest) look() packet.Look {
	look := packet.Look{
		Outline: r.outline(), Straighten: r.Straighten, Bare: r.Bare,
		Tone: raster.Tone{Mode: r.Tone, Brightness: r.Brightness, Contrast: r.Contrast},
	}
	if len(r.Crop) == 4 {
		look.Crop = geometry.Box{X0: r.Crop[0], Y0: r.Crop[1], X1: r.Crop[2], Y1: r.Crop[3]}
	}
	return look
}

type findPapersRequest struct {
	SourcePagePath
	OutlineQuery
}

type papersAnswer struct{ Body app.Papers }

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
		path, err := h.app.PagePicture(ctx, in.ID, packet.PageID(in.Page), in.Width)
		return sendFile(path, "image/jpeg", mayChange, "", err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "source-picture", Method: http.MethodGet, Path: "/api/sources/{source}/pages/{number}/image",
		Summary: "A source's page as it came in, or with a look that it may get", Responses: pictureResponse(),
	}, func(ctx context.Context, in *sourcePictureRequest) (*huma.StreamResponse, error) {
		path, err := h.app.SourcePicture(ctx, in.Source, in.Number, in.look(), in.Width)
		return sendFile(path, "image/jpeg", neverChanges, "", err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "find-papers", Method: http.MethodGet, Path: "/api/sources/{source}/pages/{number}/papers",
		Summary: "Where a paper, and the fold of two facing pages, seem to lie in a picture",
	}, func(ctx context.Context, in *findPapersRequest) (*papersAnswer, error) {
		papers, err := h.app.FindPapers(ctx, in.Source, in.Number, in.outline())
		return &papersAnswer{papers}, problem(err)
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
