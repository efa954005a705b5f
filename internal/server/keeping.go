package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/internal/keeping"
)

type keepingAnswer struct{ Body keeping.Keeping }

type keepingRequest struct {
	PacketPath
	Body keeping.KeepOrder
}

type deletedAnswer struct{ Body keeping.Holdings }

type linesAnswer struct {
	Body []keeping.DeliveryLine `nullable:"false"`
}

// LinePath is the path of an operation on a line of what was handed in.
type LinePath struct {
	Line string `path:"line" doc:"The line's id."`
}

func (h handlers) registerKeeping(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "keeping", Method: http.MethodGet, Path: "/api/packets/{id}/keeping", Summary: "How long a packet is kept, and what belongs to it",
	}, func(ctx context.Context, in *PacketPath) (*keepingAnswer, error) {
		k, err := h.app.Keeping.Get(ctx, in.ID)
		return &keepingAnswer{k}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "set-keeping", Method: http.MethodPut, Path: "/api/packets/{id}/keeping", Summary: "Say how long a packet is kept",
	}, func(ctx context.Context, in *keepingRequest) (*keepingAnswer, error) {
		k, err := h.app.Keeping.Set(ctx, in.ID, in.Body)
		return &keepingAnswer{k}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "delete-packet", Method: http.MethodDelete, Path: "/api/packets/{id}", Summary: "Delete a packet and all it holds",
	}, func(ctx context.Context, in *PacketPath) (*deletedAnswer, error) {
		went, err := h.app.Keeping.Delete(ctx, in.ID)
		return &deletedAnswer{went}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "list-lines", Method: http.MethodGet, Path: "/api/handed-in", Summary: "What was handed in of packets that are deleted",
	}, func(ctx context.Context, _ *struct{}) (*linesAnswer, error) {
		lines, err := h.app.Keeping.Lines(ctx)
		return &linesAnswer{lines}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "forget-line", Method: http.MethodDelete, Path: "/api/handed-in/{line}", Summary: "Remove a line of what was handed in",
	}, func(ctx context.Context, in *LinePath) (*struct{}, error) {
		return nil, refusal(h.app.Keeping.ForgetLine(ctx, in.Line))
	})
}
