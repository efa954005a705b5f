package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/internal/export"
	"dorbin/internal/handin"
)

// DeliveryPath is the path of an operation on a document that was handed in.
type DeliveryPath struct {
	Delivery string `path:"delivery" doc:"The delivery's id."`
}

type waysAnswer struct{ Body handin.Ways }

type handInRequest struct {
	ExportPath
	Body handin.Order
}

type handInAgainRequest struct {
	DeliveryPath
	Body struct {
		Password string `json:"password,omitempty" maxLength:"500" doc:"To sign in with; without it, the one that is kept for the place."`
		Keep     bool   `json:"keep,omitempty" doc:"The password is kept, sealed, for the next time."`
	}
}

type deliveryAnswer struct{ Body handin.HandedIn }

type deliveriesAnswer struct {
	Body []handin.HandedIn `nullable:"false"`
}

func (h handlers) registerHandIn(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "ways-to-hand-in", Method: http.MethodGet, Path: "/api/ways-to-hand-in", Summary: "Which ways of handing in the installation allows",
	}, func(context.Context, *struct{}) (*waysAnswer, error) {
		return &waysAnswer{h.app.HandIn.Ways()}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "hand-in", Method: http.MethodPost, Path: "/api/exports/{export}/deliveries", Summary: "Hand a finished document in",
		DefaultStatus: http.StatusAccepted,
	}, func(ctx context.Context, in *handInRequest) (*deliveryAnswer, error) {
		d, err := h.app.HandIn.Start(ctx, in.Export, in.Body)
		return &deliveryAnswer{d}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "list-deliveries", Method: http.MethodGet, Path: "/api/packets/{id}/deliveries",
		Summary: "What was handed in of a packet, the newest first",
	}, func(ctx context.Context, in *PacketPath) (*deliveriesAnswer, error) {
		all, err := h.app.HandIn.List(ctx, in.ID)
		return &deliveriesAnswer{all}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "last-deliveries", Method: http.MethodGet, Path: "/api/deliveries", Summary: "What was handed in last, of each packet",
	}, func(ctx context.Context, _ *struct{}) (*deliveriesAnswer, error) {
		all, err := h.app.HandIn.Last(ctx)
		return &deliveriesAnswer{all}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "hand-in-again", Method: http.MethodPost, Path: "/api/deliveries/{delivery}/again", Summary: "Try again to hand a document in",
		DefaultStatus: http.StatusAccepted,
	}, func(ctx context.Context, in *handInAgainRequest) (*deliveryAnswer, error) {
		d, err := h.app.HandIn.Again(ctx, in.Delivery, handin.Order{Password: in.Body.Password, Keep: in.Body.Keep})
		return &deliveryAnswer{d}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "cancel-delivery", Method: http.MethodPost, Path: "/api/deliveries/{delivery}/cancel", Summary: "Stop handing a document in",
	}, func(ctx context.Context, in *DeliveryPath) (*deliveryAnswer, error) {
		d, err := h.app.HandIn.Cancel(ctx, in.Delivery)
		return &deliveryAnswer{d}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "delivery-file", Method: http.MethodGet, Path: "/api/deliveries/{delivery}/file", Summary: "The file that was handed in",
		Responses: fileResponse("A PDF, a picture, or a zip of several"),
	}, func(ctx context.Context, in *DeliveryPath) (*huma.StreamResponse, error) {
		path, name, err := h.app.HandIn.File(ctx, in.Delivery)
		return sendFile(path, export.ContentType(name), neverChanges, attachment(name), err)
	})
}
