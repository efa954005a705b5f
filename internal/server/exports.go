package server

import (
	"context"
	"io"
	"mime"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/packet"
	"dorbin/core/shrink"
	"dorbin/internal/export"
)

type exportRequest struct {
	PacketPath
	Body export.ExportOrder
}

type sinceAnswer struct {
	Body struct {
		Since *export.Since `json:"since,omitempty" doc:"Missing where nothing did."`
	}
}

// ExportPath is the path of an operation on an export.
type ExportPath struct {
	Export string `path:"export" doc:"The export's id."`
}

type exportAgainRequest struct {
	ExportPath
	Body *export.Passwords `doc:"Where the packet is protected."`
}

type exportFileRequest struct {
	ExportPath
	Inline bool `query:"inline" doc:"To be shown, not kept."`
}

type filesPreviewRequest struct {
	PacketPath
	Body export.ExportOrder
}

type filesPreviewAnswer struct {
	Body []export.PlannedFile `nullable:"false"`
}

type fileName struct {
	Name string `json:"name"`
}

type fileNameAnswer struct{ Body fileName }

type fileInExportRequest struct {
	ExportPath
	File int `path:"file" minimum:"1" doc:"Its place among the files, from 1."`
}

type planRequest struct {
	PacketPath
	Range string `query:"range" maxLength:"1000" doc:"These pages alone, in words: 2-9, odd."`
}

type planAnswer struct{ Body export.Plan }

type proofRequest struct {
	PacketPath
	Page        string          `path:"page" doc:"The page's id."`
	Adjustments string          `query:"adjustments" doc:"Whatever tells the page as it now stands from how it stood."`
	Way         shrink.Encoding `query:"way" default:"kept" enum:"kept,oneBit,layers,resized"`
	DPI         int             `query:"dpi" minimum:"0" maximum:"2400"`
	Quality     int             `query:"quality" minimum:"0" maximum:"100"`
	Grey        bool            `query:"grey"`
	Width       int             `query:"width" default:"960" minimum:"1" maximum:"3200" doc:"Pixels; the picture may be wider."`
}

type sizingRequest struct {
	PacketPath
	Body export.Sizing
}

type finishedAnswer struct{ Body export.Finished }

type exportAnswer struct{ Body export.Export }

type exportsAnswer struct {
	Body []export.Export `nullable:"false"`
}

func (h handlers) registerPlans(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "finished-pages", Method: http.MethodGet, Path: "/api/packets/{id}/finish", Summary: "What is added to the pages",
	}, func(ctx context.Context, in *PacketPath) (*finishedAnswer, error) {
		finished, err := h.app.Export.Finished(ctx, in.ID)
		return &finishedAnswer{finished}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-plan", Method: http.MethodGet, Path: "/api/packets/{id}/plan",
		Summary: "How each page is to be written, and how large the document will be",
	}, func(ctx context.Context, in *planRequest) (*planAnswer, error) {
		plan, err := h.app.Export.Plan(ctx, in.ID, in.Range)
		return &planAnswer{plan}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "set-plan", Method: http.MethodPut, Path: "/api/packets/{id}/plan",
		Summary: "Say how large the document may be, and what is decided for single pages",
	}, func(ctx context.Context, in *sizingRequest) (*planAnswer, error) {
		plan, err := h.app.Export.SetSizing(ctx, in.ID, in.Body)
		return &planAnswer{plan}, refusal(err)
	})
}

func (h handlers) registerProofs(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "proof", Method: http.MethodGet, Path: "/api/packets/{id}/pages/{page}/proof",
		Summary: "A page as it would be exported by an encoding, from the bytes that it would have", Responses: pictureResponse(),
	}, func(ctx context.Context, in *proofRequest) (*huma.StreamResponse, error) {
		encoding := shrink.EncodingParams{Encoding: in.Way, DPI: in.DPI, Quality: in.Quality, Grey: in.Grey}
		path, err := h.app.Export.Proof(ctx, in.ID, packet.PageID(in.Page), encoding, in.Width)
		return sendFile(path, "image/jpeg", mayChange, "", err)
	})
}

func (h handlers) registerExports(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "start-export", Method: http.MethodPost, Path: "/api/packets/{id}/exports",
		Summary: "Make files of the packet as it now stands", DefaultStatus: http.StatusAccepted,
	}, func(ctx context.Context, in *exportRequest) (*exportAnswer, error) {
		e, err := h.app.Export.Start(ctx, in.ID, in.Body)
		return &exportAnswer{e}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "preview-files", Method: http.MethodPost, Path: "/api/packets/{id}/files",
		Summary: "Into which files an order would divide the packet", DefaultStatus: http.StatusOK,
	}, func(ctx context.Context, in *filesPreviewRequest) (*filesPreviewAnswer, error) {
		files, err := h.app.Export.Preview(ctx, in.ID, in.Body)
		return &filesPreviewAnswer{files}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "preview-name", Method: http.MethodPost, Path: "/api/packets/{id}/file-name",
		Summary: "The name that the next export would have", DefaultStatus: http.StatusOK,
	}, func(ctx context.Context, in *exportRequest) (*fileNameAnswer, error) {
		name, err := h.app.Export.FileName(ctx, in.ID, in.Body)
		return &fileNameAnswer{fileName{name}}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "list-exports", Method: http.MethodGet, Path: "/api/packets/{id}/exports", Summary: "A packet's exports, the newest first",
	}, func(ctx context.Context, in *PacketPath) (*exportsAnswer, error) {
		all, err := h.app.Export.List(ctx, in.ID)
		return &exportsAnswer{all}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "get-export", Method: http.MethodGet, Path: "/api/exports/{export}", Summary: "State, progress and receipt",
	}, func(ctx context.Context, in *ExportPath) (*exportAnswer, error) {
		e, err := h.app.Export.Get(ctx, in.Export)
		return &exportAnswer{e}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "export-again", Method: http.MethodPost, Path: "/api/exports/{export}/again",
		Summary: "Make the same once more, of the packet as it now stands", DefaultStatus: http.StatusAccepted,
	}, func(ctx context.Context, in *exportAgainRequest) (*exportAnswer, error) {
		e, err := h.app.Export.Again(ctx, in.Export, in.Body)
		return &exportAnswer{e}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "cancel-export", Method: http.MethodPost, Path: "/api/exports/{export}/cancel", Summary: "Stop an export",
	}, func(ctx context.Context, in *ExportPath) (*exportAnswer, error) {
		e, err := h.app.Export.Cancel(ctx, in.Export)
		return &exportAnswer{e}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "export-file-in", Method: http.MethodGet, Path: "/api/exports/{export}/files/{file}",
		Summary: "One of several finished files", Responses: fileResponse("A PDF or a picture"),
	}, h.fileIn)
	huma.Register(api, huma.Operation{
		OperationID: "changed-since", Method: http.MethodGet, Path: "/api/exports/{export}/since",
		Summary: "What changed in a packet since a document was made of it",
	}, func(ctx context.Context, in *ExportPath) (*sinceAnswer, error) {
		since, err := h.app.Export.ChangedSince(ctx, in.Export)
		answer := &sinceAnswer{}
		answer.Body.Since = since
		return answer, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "export-file", Method: http.MethodGet, Path: "/api/exports/{export}/file",
		Summary: "The finished file", Responses: fileResponse("A PDF, a picture, or a zip of several"),
	}, func(ctx context.Context, in *exportFileRequest) (*huma.StreamResponse, error) {
		path, name, err := h.app.Export.File(ctx, in.Export)
		if in.Inline {
			return shownInPage(sendFile(path, export.ContentType(name), neverChanges, "inline", err))
		}
		return sendFile(path, export.ContentType(name), neverChanges, attachment(name), err)
	})
}

func fileResponse(doc string) map[string]*huma.Response {
	return map[string]*huma.Response{"200": {
		Description: doc,
		Content:     map[string]*huma.MediaType{"application/octet-stream": {Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}}},
	}}
}

// fileIn sends one of several files that an export made.
func (h handlers) fileIn(ctx context.Context, in *fileInExportRequest) (*huma.StreamResponse, error) {
	file, name, err := h.app.Export.FileIn(ctx, in.Export, in.File)
	if err != nil {
		return nil, refusal(err)
	}
	return &huma.StreamResponse{Body: func(ctx huma.Context) {
		defer file.Close() //nolint:errcheck // only read from
		ctx.SetHeader("Content-Type", export.ContentType(name))
		ctx.SetHeader("Content-Disposition", attachment(name))
		_, _ = io.Copy(ctx.BodyWriter(), file) // the client may be gone
	}}, nil
}

// shownInPage lets the application's own pages, and no others, show a file in a frame,
// from which it is printed. It holds nothing that could run.
func shownInPage(file *huma.StreamResponse, err error) (*huma.StreamResponse, error) {
	if err != nil {
		return nil, err
	}
	return &huma.StreamResponse{Body: func(ctx huma.Context) {
		ctx.SetHeader("Content-Security-Policy", "frame-ancestors 'self'")
		file.Body(ctx)
	}}, nil
}

// attachment is the Content-Disposition of a download by this name (RFC 6266).
func attachment(name string) string {
	return mime.FormatMediaType("attachment", map[string]string{"filename": name})
}
