package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

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
