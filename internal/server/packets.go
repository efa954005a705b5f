package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/packet"
	"dorbin/internal/demo"
	"dorbin/internal/packets"
)

// PacketPath is the path of an operation on a packet. It is exported because huma
// fills embedded structs only if they are.
type PacketPath struct {
	ID string `path:"id" doc:"The packet's id."`
}

type packetAnswer struct{ Body packets.Packet }

type packetsAnswer struct {
	Body []packets.PacketCard `nullable:"false"`
}

type createPacketRequest struct {
	Body struct {
		Name string `json:"name"`
	}
}

type copyPacketRequest struct {
	PacketPath
	Body struct {
		Name string `json:"name" doc:"Of the copy."`
	}
}

type revisionRequest struct {
	PacketPath
	Body struct {
		Revision int `json:"revision" doc:"The revision that the user sees."`
	}
}

type commandsRequest struct {
	PacketPath
	Body struct {
		Revision int             `json:"revision" doc:"The revision the commands were made for."`
		Commands packet.Commands `json:"commands" nullable:"false" minItems:"1" doc:"One step of undo."`
	}
}

func (h handlers) registerPackets(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-packets", Method: http.MethodGet, Path: "/api/packets", Summary: "All packets, the last changed first",
	}, func(ctx context.Context, _ *struct{}) (*packetsAnswer, error) {
		cards, err := h.app.Packets.List(ctx)
		return &packetsAnswer{cards}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "create-packet", Method: http.MethodPost, Path: "/api/packets", Summary: "Make a packet",
		DefaultStatus: http.StatusCreated,
	}, func(ctx context.Context, in *createPacketRequest) (*packetAnswer, error) {
		return answer(h.app.Packets.Create(ctx, in.Body.Name))
	})
	huma.Register(api, huma.Operation{
		OperationID: "make-sample-packet", Method: http.MethodPost, Path: "/api/samples",
		Summary: "Make a packet of sample papers, to try things on", DefaultStatus: http.StatusCreated,
	}, func(ctx context.Context, in *createPacketRequest) (*packetAnswer, error) {
		return answer(demo.Add(ctx, h.app, in.Body.Name))
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-packet", Method: http.MethodGet, Path: "/api/packets/{id}", Summary: "One packet",
	}, func(ctx context.Context, in *PacketPath) (*packetAnswer, error) {
		return answer(h.app.Packets.Get(ctx, in.ID))
	})
	huma.Register(api, huma.Operation{
		OperationID: "copy-packet", Method: http.MethodPost, Path: "/api/packets/{id}/copies",
		Summary: "Make a packet that is as this one stands, without its history", DefaultStatus: http.StatusCreated,
	}, func(ctx context.Context, in *copyPacketRequest) (*packetAnswer, error) {
		return answer(h.app.Packets.Copy(ctx, in.ID, in.Body.Name))
	})
	huma.Register(api, huma.Operation{
		OperationID: "command-packet", Method: http.MethodPost, Path: "/api/packets/{id}/commands", Summary: "Carry out commands",
		Responses: conflictResponse(api),
		Errors:    []int{http.StatusNotFound, http.StatusUnprocessableEntity},
	}, func(ctx context.Context, in *commandsRequest) (*changeAnswer, error) {
		return changed(h.app.Packets.Apply(ctx, in.ID, in.Body.Revision, in.Body.Commands))
	})
	huma.Register(api, huma.Operation{
		OperationID: "undo", Method: http.MethodPost, Path: "/api/packets/{id}/undo", Summary: "Take the last step back",
		Responses: conflictResponse(api),
	}, func(ctx context.Context, in *revisionRequest) (*changeAnswer, error) {
		return changed(h.app.Packets.Undo(ctx, in.ID, in.Body.Revision))
	})
	huma.Register(api, huma.Operation{
		OperationID: "redo", Method: http.MethodPost, Path: "/api/packets/{id}/redo", Summary: "Do the step again that was undone last",
		Responses: conflictResponse(api),
	}, func(ctx context.Context, in *revisionRequest) (*changeAnswer, error) {
		return changed(h.app.Packets.Redo(ctx, in.ID, in.Body.Revision))
	})
}

func answer(p packets.Packet, err error) (*packetAnswer, error) {
	if err != nil {
		return nil, refusal(err)
	}
	return &packetAnswer{p}, nil
}

type changeAnswer struct{ Body packets.Change }

func changed(c packets.Change, err error) (*changeAnswer, error) {
	if err != nil {
		return nil, refusal(err)
	}
	return &changeAnswer{c}, nil
}

func conflictResponse(api huma.API) map[string]*huma.Response {
	schema := huma.SchemaFromType(api.OpenAPI().Components.Schemas, typeOf[Conflict]())
	return map[string]*huma.Response{"409": {
		Description: "The packet has changed; it is in the answer",
		Content:     map[string]*huma.MediaType{"application/problem+json": {Schema: schema}},
	}}
}
