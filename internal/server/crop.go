package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/internal/arrange"
)

type contentRequest struct {
	PacketPath
	Body struct {
		Pages []packet.PageID `json:"pages" nullable:"false"`
	}
}

type contentAnswer struct {
	Body []arrange.PageContent `nullable:"false"`
}

type breaksRequest struct {
	PacketPath
	Body struct {
		Pages []packet.PageID `json:"pages" nullable:"false"`
		Paper geometry.Size   `json:"paper" doc:"Of the sheets, in points."`
	}
}

type breaksAnswer struct {
	Body []arrange.PageBreaks `nullable:"false"`
}

type overlayRequest struct {
	PacketPath
	Pages []packet.PageID `query:"pages" minItems:"1" doc:"The pages' ids."`
	Mode  string          `query:"mode" enum:"darkest,average" default:"darkest"`
}

func (h handlers) registerCrop(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "find-content", Method: http.MethodPost, Path: "/api/packets/{id}/content",
		Summary: "Where on pages there is anything, as they would stand uncropped",
	}, func(ctx context.Context, in *contentRequest) (*contentAnswer, error) {
		contents, err := h.app.Arrange.Contents(ctx, in.ID, in.Body.Pages)
		return &contentAnswer{contents}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "find-breaks", Method: http.MethodPost, Path: "/api/packets/{id}/breaks",
		Summary: "Where long pages are best cut across",
	}, func(ctx context.Context, in *breaksRequest) (*breaksAnswer, error) {
		breaks, err := h.app.Arrange.Breaks(ctx, in.ID, in.Body.Pages, in.Body.Paper)
		return &breaksAnswer{breaks}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "overlay", Method: http.MethodGet, Path: "/api/packets/{id}/overlay",
		Summary: "Pages overlaid, as they would stand uncropped", Responses: pictureResponse(),
	}, func(ctx context.Context, in *overlayRequest) (*huma.StreamResponse, error) {
		picture, err := h.app.Arrange.Overlay(ctx, in.ID, in.Pages, in.Mode == "average")
		if err != nil {
			return nil, refusal(err)
		}
		return &huma.StreamResponse{Body: func(hc huma.Context) {
			hc.SetHeader("Content-Type", "image/jpeg")
			hc.SetHeader("Cache-Control", mayChange)
			_, _ = hc.BodyWriter().Write(picture) // a client that went away is no error
		}}, nil
	})
}
