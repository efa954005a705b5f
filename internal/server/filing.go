package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/internal/filing"
)

// FolderPath is the path of an operation on a folder that the installation allows.
type FolderPath struct {
	Folder string `path:"folder" doc:"The folder's name."`
}

type foldersAnswer struct {
	Body []string `nullable:"false"`
}

type listFolderRequest struct {
	FolderPath
	In string `query:"in" doc:"A folder within it: names joined by slashes."`
}

type listingAnswer struct{ Body filing.Listing }

type lookRequest struct {
	FolderPath
	File string `query:"file" required:"true" doc:"Its name in the folder, with slashes."`
}

type lookAnswer struct{ Body filing.Look }

type openFileRequest struct {
	FolderPath
	Body struct {
		File string `json:"file" minLength:"1" doc:"Its name in the folder, with slashes."`
	}
}

type openedFileAnswer struct{ Body filing.OpenedFile }

type originAnswer struct {
	Body struct {
		Origin *filing.Origin `json:"origin,omitempty" doc:"Missing where the packet was not opened from a folder."`
	}
}

type saveBackRequest struct {
	ExportPath
	Body filing.SaveOrder
}

func (h handlers) registerFiling(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-folders", Method: http.MethodGet, Path: "/api/folders", Summary: "The folders that the installation allows",
	}, func(context.Context, *struct{}) (*foldersAnswer, error) {
		return &foldersAnswer{h.app.Filing.Folders()}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "list-folder", Method: http.MethodGet, Path: "/api/folders/{folder}/files", Summary: "PDFs in a folder, and the folders in it",
	}, func(ctx context.Context, in *listFolderRequest) (*listingAnswer, error) {
		listing, err := h.app.Filing.List(ctx, in.Folder, in.In)
		return &listingAnswer{listing}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "look-at-file", Method: http.MethodGet, Path: "/api/folders/{folder}/look", Summary: "The first page of a PDF in a folder",
	}, func(ctx context.Context, in *lookRequest) (*lookAnswer, error) {
		look, err := h.app.Filing.Look(ctx, in.Folder, in.File)
		return &lookAnswer{look}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "open-file", Method: http.MethodPost, Path: "/api/folders/{folder}/open", Summary: "Make a packet of a PDF in a folder",
		DefaultStatus: http.StatusCreated,
	}, func(ctx context.Context, in *openFileRequest) (*openedFileAnswer, error) {
		opened, err := h.app.Filing.Open(ctx, in.Folder, in.Body.File)
		return &openedFileAnswer{opened}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "origin", Method: http.MethodGet, Path: "/api/packets/{id}/origin", Summary: "The file of a folder that a packet was opened from",
	}, func(ctx context.Context, in *PacketPath) (*originAnswer, error) {
		origin, err := h.app.Filing.Origin(ctx, in.ID)
		answer := &originAnswer{}
		answer.Body.Origin = origin
		return answer, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "save-back", Method: http.MethodPost, Path: "/api/exports/{export}/save-back",
		Summary: "Save a finished document in the place of the file that its packet was opened from",
		Errors:  []int{http.StatusConflict},
	}, func(ctx context.Context, in *saveBackRequest) (*originAnswer, error) {
		origin, err := h.app.Filing.SaveBack(ctx, in.Export, in.Body)
		answer := &originAnswer{}
		answer.Body.Origin = origin
		return answer, refusal(err)
	})
}
