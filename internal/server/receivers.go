package server

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/packet"
	"dorbin/core/requirements"
	"dorbin/internal/receivers"
)

// ReceiverPath is the path of an operation on a receiver.
type ReceiverPath struct {
	Receiver string `path:"receiver" doc:"The receiver's id."`
}

type receiversAnswer struct {
	Body []receivers.Known `nullable:"false"`
}

type receiverAnswer struct{ Body receivers.Known }

type receiverRequest struct{ Body requirements.Receiver }

type changeReceiverRequest struct {
	ReceiverPath
	Body requirements.Receiver
}

type receiverFileRequest struct {
	RawBody []byte `contentType:"application/octet-stream"`
}

type requirementsAnswer struct{ Body receivers.Requirements }

func (h handlers) registerReceivers(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "requirements", Method: http.MethodGet, Path: "/api/packets/{id}/requirements",
		Summary: "How a packet stands against what its receiver asks for",
	}, func(ctx context.Context, in *PacketPath) (*requirementsAnswer, error) {
		view, err := h.app.Receivers.Requirements(ctx, in.ID)
		return &requirementsAnswer{view}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "list-receivers", Method: http.MethodGet, Path: "/api/receivers", Summary: "Receivers that can be chosen",
	}, func(ctx context.Context, _ *struct{}) (*receiversAnswer, error) {
		all, err := h.app.Receivers.List(ctx)
		return &receiversAnswer{all}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "add-receiver", Method: http.MethodPost, Path: "/api/receivers", Summary: "Keep a new receiver",
	}, func(ctx context.Context, in *receiverRequest) (*receiverAnswer, error) {
		known, err := h.app.Receivers.Add(ctx, in.Body)
		return &receiverAnswer{known}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "import-receiver", Method: http.MethodPost, Path: "/api/receivers/import", Summary: "Keep a receiver that was shared as a file",
		MaxBodyBytes: 2 * requirements.MostFileBytes,
	}, func(ctx context.Context, in *receiverFileRequest) (*receiverAnswer, error) {
		known, err := h.app.Receivers.Import(ctx, bytes.NewReader(in.RawBody))
		return &receiverAnswer{known}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "change-receiver", Method: http.MethodPut, Path: "/api/receivers/{receiver}", Summary: "Change what a receiver asks for",
	}, func(ctx context.Context, in *changeReceiverRequest) (*receiverAnswer, error) {
		known, err := h.app.Receivers.Change(ctx, in.Receiver, in.Body)
		return &receiverAnswer{known}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-receiver", Method: http.MethodDelete, Path: "/api/receivers/{receiver}", Summary: "Forget a receiver",
	}, func(ctx context.Context, in *ReceiverPath) (*struct{}, error) {
		return nil, refusal(h.app.Receivers.Remove(ctx, in.Receiver))
	})
	huma.Register(api, huma.Operation{
		OperationID: "receiver-file", Method: http.MethodGet, Path: "/api/receivers/{receiver}/file", Summary: "A receiver as a file to be shared",
		Responses: fileResponse("A receiver's file"),
	}, h.receiverFile)
}

// receiverFile sends a receiver as a file.
func (h handlers) receiverFile(ctx context.Context, in *ReceiverPath) (*huma.StreamResponse, error) {
	known, err := h.app.Receivers.Get(ctx, in.Receiver)
	if err != nil {
		return nil, refusal(err)
	}
	return &huma.StreamResponse{Body: func(ctx huma.Context) {
		ctx.SetHeader("Content-Type", "application/json")
		ctx.SetHeader("Content-Disposition", attachment(packet.ProposeFileName(known.Receiver.Name, ".json")))
		_ = requirements.WriteFile(ctx.BodyWriter(), known.Receiver) // the client may be gone
	}}, nil
}
