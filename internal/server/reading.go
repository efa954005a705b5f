package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/packet"
	"dorbin/internal/reading"
)

type textAnswer struct{ Body reading.TextStatus }

type textRequest struct {
	PacketPath
	Body reading.TextOrder
}

type findRequest struct {
	PacketPath
	Text string `query:"text" required:"true" minLength:"1" maxLength:"200" doc:"What is searched. Accents, capitals and hyphens do not matter."`
}

type foundAnswer struct{ Body reading.Found }

type doubtfulAnswer struct{ Body reading.DoubtfulWords }

type documentsRequest struct {
	PacketPath
	Part packet.PartID `path:"part" doc:"The part's id."`
}

type documentsAnswer struct{ Body reading.Documents }

type headingsAnswer struct {
	Body struct {
		Headings []reading.Heading `json:"headings" nullable:"false"`
	}
}

type textDocumentRequest struct {
	PacketPath
	Body reading.DocumentOrder
}

type wordsRequest struct {
	PacketPath
	Page packet.PageID `path:"page" doc:"The page's id."`
	Find string        `query:"find" maxLength:"200" doc:"What is searched on it."`
}

type wordsAnswer struct{ Body reading.PageWords }

func (h handlers) registerReading(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "text", Method: http.MethodGet, Path: "/api/packets/{id}/text", Summary: "Which pages of a packet have text",
	}, func(ctx context.Context, in *PacketPath) (*textAnswer, error) {
		status, err := h.app.Reading.Status(ctx, in.ID)
		return &textAnswer{status}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "read-text", Method: http.MethodPost, Path: "/api/packets/{id}/text", Summary: "Have the text of pages recognised",
	}, func(ctx context.Context, in *textRequest) (*textAnswer, error) {
		status, err := h.app.Reading.Ask(ctx, in.ID, in.Body)
		return &textAnswer{status}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "stop-reading", Method: http.MethodPost, Path: "/api/packets/{id}/text/stop", Summary: "Have no more pages read",
	}, func(ctx context.Context, in *PacketPath) (*textAnswer, error) {
		status, err := h.app.Reading.Stop(ctx, in.ID)
		return &textAnswer{status}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "find", Method: http.MethodGet, Path: "/api/packets/{id}/find", Summary: "Find a text on a packet's pages",
	}, func(ctx context.Context, in *findRequest) (*foundAnswer, error) {
		found, err := h.app.Reading.Find(ctx, in.ID, in.Text)
		return &foundAnswer{found}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "doubtful-words", Method: http.MethodGet, Path: "/api/packets/{id}/doubtful", Summary: "Words that were read unsurely",
	}, func(ctx context.Context, in *PacketPath) (*doubtfulAnswer, error) {
		words, err := h.app.Reading.Doubtful(ctx, in.ID)
		return &doubtfulAnswer{words}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "find-documents", Method: http.MethodGet, Path: "/api/packets/{id}/parts/{part}/documents",
		Summary: "How the pages of a part belong together, by what is written on them",
	}, func(ctx context.Context, in *documentsRequest) (*documentsAnswer, error) {
		documents, err := h.app.Reading.FindDocuments(ctx, in.ID, in.Part)
		return &documentsAnswer{documents}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "headings", Method: http.MethodGet, Path: "/api/packets/{id}/headings", Summary: "The headings in the text of a packet's pages",
	}, func(ctx context.Context, in *PacketPath) (*headingsAnswer, error) {
		answer := &headingsAnswer{}
		var err error
		answer.Body.Headings, err = h.app.Reading.Headings(ctx, in.ID)
		return answer, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "text-document", Method: http.MethodPost, Path: "/api/packets/{id}/text-document",
		Summary: "A text document of pages that can be edited", Responses: fileResponse("A text document"),
	}, h.textDocument)
	huma.Register(api, huma.Operation{
		OperationID: "page-words", Method: http.MethodGet, Path: "/api/packets/{id}/pages/{page}/words", Summary: "The words on a page as it stands",
	}, func(ctx context.Context, in *wordsRequest) (*wordsAnswer, error) {
		words, err := h.app.Reading.PageWords(ctx, in.ID, in.Page, in.Find)
		return &wordsAnswer{words}, refusal(err)
	})
}

// textDocument sends a text document.
func (h handlers) textDocument(ctx context.Context, in *textDocumentRequest) (*huma.StreamResponse, error) {
	made, err := h.app.Reading.MakeDocument(ctx, in.ID, in.Body)
	if err != nil {
		return nil, refusal(err)
	}
	return &huma.StreamResponse{Body: func(ctx huma.Context) {
		ctx.SetHeader("Content-Type", made.ContentType)
		ctx.SetHeader("Content-Disposition", attachment(made.Name))
		_, _ = ctx.BodyWriter().Write(made.Data) // the client may be gone
	}}, nil
}
