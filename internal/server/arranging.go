package server

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/internal/arrange"
	"dorbin/internal/checking"
	"dorbin/internal/packets"
)

type historyAnswer struct {
	Body []packets.Step `nullable:"false"`
}

type stepRequest struct {
	PacketPath
	Body struct {
		Revision int `json:"revision" doc:"The revision that the user sees."`
		Step     int `json:"step" minimum:"0" doc:"How many steps are to be done: 0 is how the packet began."`
	}
}

type selectionRequest struct {
	PacketPath
	Text string `query:"text" doc:"Which pages, in words, such as 2-9, 12, odd of part 2, not blank."`
}

// Selection is what words come to.
type Selection struct {
	Pages   []packet.PageID `json:"pages" nullable:"false" doc:"In the packet's order."`
	Problem message.Text    `json:"problem,omitzero" doc:"What is wrong with the words, for the user."`
	At      int             `json:"at" doc:"Where it is wrong, in bytes."`
}

type selectionAnswer struct{ Body Selection }

type splitRequest struct {
	PacketPath
	Part packet.PartID `path:"part" doc:"The part's id."`
	By   string        `query:"by" enum:"count,blank,bookmarks,source,bytes"`
	N    int64         `query:"n" minimum:"1" doc:"Pages or bytes."`
}

type splitAnswer struct{ Body arrange.Split }

type lookedRequest struct {
	PacketPath
	Body struct {
		Pages    []packet.PageID `json:"pages" nullable:"false"`
		Reviewed bool            `json:"reviewed"`
	}
}

type findingsAnswer struct{ Body checking.Findings }

type compareRequest struct {
	PacketPath
	First  packet.PageID `query:"first" required:"true"`
	Second packet.PageID `query:"second" required:"true"`
}

type comparisonAnswer struct{ Body checking.Comparison }

type acceptRequest struct {
	PacketPath
	Body struct {
		Keys     []string `json:"keys" nullable:"false" doc:"The findings' keys."`
		Accepted bool     `json:"accepted" doc:"Whether they are as they should be."`
	}
}

func (h handlers) registerArranging(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "history", Method: http.MethodGet, Path: "/api/packets/{id}/history", Summary: "A packet's steps, the first first",
	}, func(ctx context.Context, in *PacketPath) (*historyAnswer, error) {
		steps, err := h.app.Packets.History(ctx, in.ID)
		return &historyAnswer{steps}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "go-to-step", Method: http.MethodPost, Path: "/api/packets/{id}/history", Summary: "Go to a step, back or forth",
		Responses: conflictResponse(api),
	}, func(ctx context.Context, in *stepRequest) (*changeAnswer, error) {
		return changed(h.app.Packets.GoToStep(ctx, in.ID, in.Body.Revision, in.Body.Step))
	})
	huma.Register(api, huma.Operation{
		OperationID: "select", Method: http.MethodGet, Path: "/api/packets/{id}/selection", Summary: "Which pages words mean",
	}, func(ctx context.Context, in *selectionRequest) (*selectionAnswer, error) {
		pages, err := h.app.Packets.Select(ctx, in.ID, in.Text)
		var wrong *packet.RangeError
		if errors.As(err, &wrong) {
			return &selectionAnswer{Selection{Pages: []packet.PageID{}, Problem: wrong.Problem, At: wrong.At}}, nil
		}
		return &selectionAnswer{Selection{Pages: pages}}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "find-split", Method: http.MethodGet, Path: "/api/packets/{id}/parts/{part}/split", Summary: "Where a part would be split",
	}, func(ctx context.Context, in *splitRequest) (*splitAnswer, error) {
		split, err := h.app.Arrange.FindSplit(ctx, in.ID, in.Part, in.By, in.N)
		return &splitAnswer{split}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "mark-reviewed", Method: http.MethodPost, Path: "/api/packets/{id}/reviewed", Summary: "Mark pages as checked, or not",
	}, func(ctx context.Context, in *lookedRequest) (*struct{}, error) {
		return nil, refusal(h.app.Checking.MarkReviewed(ctx, in.ID, in.Body.Pages, in.Body.Reviewed))
	})
	huma.Register(api, huma.Operation{
		OperationID: "findings", Method: http.MethodGet, Path: "/api/packets/{id}/findings", Summary: "What there is to check",
	}, func(ctx context.Context, in *PacketPath) (*findingsAnswer, error) {
		findings, err := h.app.Checking.Findings(ctx, in.ID)
		return &findingsAnswer{findings}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "compare-pages", Method: http.MethodGet, Path: "/api/packets/{id}/comparison",
		Summary: "What is different about two pages that may be the same",
	}, func(ctx context.Context, in *compareRequest) (*comparisonAnswer, error) {
		comparison, err := h.app.Checking.ComparePages(ctx, in.ID, in.First, in.Second)
		return &comparisonAnswer{comparison}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "accept-findings", Method: http.MethodPost, Path: "/api/packets/{id}/findings/accept",
		Summary: "Say that findings are as they should be",
	}, func(ctx context.Context, in *acceptRequest) (*findingsAnswer, error) {
		findings, err := h.app.Checking.AcceptFindings(ctx, in.ID, in.Body.Keys, in.Body.Accepted)
		return &findingsAnswer{findings}, refusal(err)
	})
}
