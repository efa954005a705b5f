package server

import (
	"context"
	"errors"
	"io"
	"mime"
	"mime/multipart"
	"net/http"
	"reflect"

	"dorbin/core/message"
	"dorbin/internal/gather"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/annotation"
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
	Body []gather.Outcome `nullable:"false"`
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

type placeSourceRequest struct {
	SourcePath
	Body struct {
		Place       string            `json:"place,omitempty" doc:"As for files."`
		Pages       string            `json:"pages,omitempty" doc:"Such as 1, 4-6, last; all when it is missing."`
		Annotations annotation.Policy `json:"annotations,omitzero" doc:"What becomes of form fields and comments."`
	}
}

type outcomeAnswer struct{ Body gather.Outcome }

type sourcePagesRequest struct {
	Source string `path:"source" doc:"The source's id."`
}

type sourcePagesAnswer struct {
	Body []gather.SourcePage `nullable:"false"`
}

func (h handlers) registerSources(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "add-sources", Method: http.MethodPost, Path: "/api/packets/{id}/sources",
		Summary: "Add files, in the order they are sent; fields before a file say where its pages go",
		Errors:  []int{http.StatusNotFound, http.StatusUnprocessableEntity},
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
		outcome, err := h.app.Gather.Unlock(ctx, in.ID, in.Source, in.Body.Password)
		return &outcomeAnswer{outcome}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "source-pages", Method: http.MethodGet, Path: "/api/sources/{source}/pages",
		Summary: "A source's own pages",
	}, func(ctx context.Context, in *sourcePagesRequest) (*sourcePagesAnswer, error) {
		pages, err := h.app.Gather.SourcePages(ctx, in.Source)
		return &sourcePagesAnswer{pages}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "place-source", Method: http.MethodPost, Path: "/api/packets/{id}/sources/{source}/place",
		Summary: "Place pages of a source that is in the packet already",
	}, func(ctx context.Context, in *placeSourceRequest) (*outcomeAnswer, error) {
		placement := gather.Placement{Place: in.Body.Place, Pages: in.Body.Pages, Annotations: in.Body.Annotations}
		outcome, err := h.app.Gather.PlaceSource(ctx, in.ID, in.Source, placement)
		return &outcomeAnswer{outcome}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-locked-source", Method: http.MethodDelete, Path: "/api/packets/{id}/sources/{source}",
		Summary: "Take a protected source out again",
	}, func(ctx context.Context, in *SourcePath) (*packetAnswer, error) {
		return answer(h.app.Gather.RemoveLocked(ctx, in.ID, in.Source))
	})
}

func filesBody() *huma.RequestBody {
	text := func(doc string) *huma.Schema { return &huma.Schema{Type: huma.TypeString, Description: doc} }
	return &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{
		"multipart/form-data": {Schema: &huma.Schema{Type: huma.TypeObject, Properties: map[string]*huma.Schema{
			"place":    text("end (the default: a part of its own), start, intake, after:<page>, before:<page>, part:<part>, or replace:<page>,<page>"),
			"pages":    text("Which of the file's pages, such as 1, 4-6, last; all when it is missing"),
			"fields":   text("fixed or leftOut, of the form; kept when it is missing"),
			"comments": text("fixed or leftOut, of notes, marks and stamps; kept when it is missing"),
			"title":    text("Of the part that the pages become; the file's name when it is missing"),
			"password": text("Of a protected PDF"),
			"files":    {Type: huma.TypeArray, Items: &huma.Schema{Type: huma.TypeString, Format: "binary"}},
		}}},
	}}
}

// longestField is enough for a list of pages to replace.
const longestField = 1 << 20

// addFiles takes files in as they come. Fields count for the files after them;
// the second file for one place follows the first.
func (h handlers) addFiles(ctx context.Context, in *filesRequest) ([]gather.Outcome, error) {
	outcomes := []gather.Outcome{}
	var placement gather.Placement
	fields := map[string]func(string){
		"place":    func(v string) { placement.Place = v },
		"pages":    func(v string) { placement.Pages = v },
		"fields":   func(v string) { placement.Annotations.Fields = annotation.Handling(v) },
		"comments": func(v string) { placement.Annotations.Comments = annotation.Handling(v) },
		"title":    func(v string) { placement.Title = v },
		"password": func(v string) { placement.Password = v },
	}
	for {
		part, err := in.parts.NextPart()
		if errors.Is(err, io.EOF) {
			return outcomes, nil
		}
		if err != nil {
			return nil, problemAnswer(http.StatusBadRequest, message.Sentence("the upload broke off: %s", err))
		}
		if part.FileName() == "" {
			value, err := io.ReadAll(io.LimitReader(part, longestField))
			if err != nil {
				return nil, problemAnswer(http.StatusBadRequest, message.Sentence("the upload broke off: %s", err))
			}
			if set := fields[part.FormName()]; set != nil {
				set(string(value))
			}
			continue
		}
		outcome, err := h.app.Gather.AddFile(ctx, in.ID, part.FileName(), placement, part)
		if err != nil {
			return nil, refusal(err)
		}
		outcomes = append(outcomes, outcome)
		placement = placement.Next(outcome)
	}
}
