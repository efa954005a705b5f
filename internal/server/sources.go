package server

import (
	"context"
	"errors"
	"fmt"
	"io"
	"mime"
	"mime/multipart"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/internal/app"
)

func typeOf[T any]() reflect.Type { return reflect.TypeFor[T]() }

// filesRequest gives the files of a multipart body one after another, without
// gathering them in memory or on disk first.
type filesRequest struct {
	PacketPath
	parts *multipart.Reader
}

// Resolve is called by huma with the request.
func (r *filesRequest) Resolve(ctx huma.Context) []error {
	kind, parameters, err := mime.ParseMediaType(ctx.Header("Content-Type"))
	if err != nil || kind != "multipart/form-data" {
		return []error{&huma.ErrorDetail{Message: "send files as multipart/form-data", Location: "body"}}
	}
	r.parts = multipart.NewReader(ctx.BodyReader(), parameters["boundary"])
	return nil
}

type outcomesAnswer struct {
	Body []app.Outcome `nullable:"false"`
}

// SourcePath is the path of an operation on a source.
type SourcePath struct {
	PacketPath
	Source string `path:"source" doc:"The source's id."`
}

type unlockRequest struct {
	SourcePath
	Body struct {
		Password string `json:"password" minLength:"1"`
	}
}

type outcomeAnswer struct{ Body app.Outcome }

func (h handlers) registerSources(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "add-sources", Method: http.MethodPost, Path: "/api/packets/{id}/sources",
		Summary: "Add files, in the order they are sent; each becomes a part at the end",
	}, func(ctx context.Context, in *filesRequest) (*outcomesAnswer, error) {
		outcomes, err := h.addFiles(ctx, in)
		return &outcomesAnswer{outcomes}, err
	})
	// Described afterwards: huma would otherwise read and check the body itself.
	api.OpenAPI().Paths["/api/packets/{id}/sources"].Post.RequestBody = filesBody()
	huma.Register(api, huma.Operation{
		OperationID: "unlock-source", Method: http.MethodPost, Path: "/api/packets/{id}/sources/{source}/unlock",
		Summary: "Open a protected source with its password and place its pages",
	}, func(ctx context.Context, in *unlockRequest) (*outcomeAnswer, error) {
		outcome, err := h.app.Unlock(ctx, in.ID, in.Source, in.Body.Password)
		return &outcomeAnswer{outcome}, problem(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-locked-source", Method: http.MethodDelete, Path: "/api/packets/{id}/sources/{source}",
		Summary: "Take a protected source out again",
	}, func(ctx context.Context, in *SourcePath) (*packetAnswer, error) {
		return answer(h.app.RemoveLocked(ctx, in.ID, in.Source))
	})
}

func filesBody() *huma.RequestBody {
	return &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{
		"multipart/form-data": {Schema: &huma.Schema{Type: huma.TypeObject, Properties: map[string]*huma.Schema{
			"files": {Type: huma.TypeArray, Items: &huma.Schema{Type: huma.TypeString, Format: "binary"}},
		}}},
	}}
}

func (h handlers) addFiles(ctx context.Context, in *filesRequest) ([]app.Outcome, error) {
	outcomes := []app.Outcome{}
	for {
		part, err := in.parts.NextPart()
		if errors.Is(err, io.EOF) {
			return outcomes, nil
		}
		if err != nil {
			return nil, huma.Error400BadRequest(fmt.Sprintf("the upload broke off: %v", err))
		}
		if part.FileName() == "" {
			continue
		}
		outcome, err := h.app.AddFile(ctx, in.ID, part.FileName(), part)
		if err != nil {
			return nil, problem(err)
		}
		outcomes = append(outcomes, outcome)
	}
}
