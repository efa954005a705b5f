package server

import (
	"context"
	"net/http"

	"dorbin/internal/gather"
	"dorbin/internal/scanning"

	"github.com/danielgtaylor/huma/v2"
)

// ScannerPath is the path of an operation on a scanner.
type ScannerPath struct {
	ID string `path:"id" doc:"The scanner's id."`
}

type scannersAnswer struct {
	Body []scanning.Scanner `nullable:"false"`
}

type scannerAnswer struct{ Body scanning.Scanner }

type scannerStateAnswer struct{ Body scanning.ScannerState }

type batchAnswer struct{ Body scanning.Batch }

type addScannerRequest struct {
	Body struct {
		Address string `json:"address" doc:"A name or number, with a port if it has one, or a URL."`
	}
}

type scanRequest struct {
	PacketPath
	Body scanning.ScanRequest
}

type arrangeRequest struct {
	PacketPath
	Body struct {
		Version int                   `json:"version" doc:"The batch's version that the order was made for: pages that arrived since stay."`
		Pages   []scanning.BatchOrder `json:"pages" nullable:"false"`
	}
}

type placeBatchRequest struct {
	PacketPath
	Body struct {
		Name  string `json:"name" minLength:"1" maxLength:"200" doc:"Of the source that is made."`
		Place string `json:"place,omitempty" doc:"As for files."`
	}
}

type batchPictureRequest struct {
	Batch string `path:"batch"`
	Page  string `path:"page"`
	Width int    `query:"width" default:"240" minimum:"1" maximum:"2400" doc:"Pixels; the picture may be wider."`
}

func (h handlers) registerScanners(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "list-scanners", Method: http.MethodGet, Path: "/api/scanners", Summary: "The scanners that were added or found",
	}, func(ctx context.Context, _ *struct{}) (*scannersAnswer, error) {
		list, err := h.app.Scanning.Scanners(ctx)
		return &scannersAnswer{list}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "add-scanner", Method: http.MethodPost, Path: "/api/scanners", Summary: "Add the scanner at an address",
	}, func(ctx context.Context, in *addScannerRequest) (*scannerAnswer, error) {
		added, err := h.app.Scanning.AddScanner(ctx, in.Body.Address)
		return &scannerAnswer{added}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "search-scanners", Method: http.MethodPost, Path: "/api/scanners/search", Summary: "Look for scanners on the local network and add them",
	}, func(ctx context.Context, _ *struct{}) (*scannersAnswer, error) {
		list, err := h.app.Scanning.SearchScanners(ctx)
		return &scannersAnswer{list}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "scanner-state", Method: http.MethodGet, Path: "/api/scanners/{id}", Summary: "What a scanner can do, and how it is",
	}, func(ctx context.Context, in *ScannerPath) (*scannerStateAnswer, error) {
		state, err := h.app.Scanning.ScannerState(ctx, in.ID)
		return &scannerStateAnswer{state}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "remove-scanner", Method: http.MethodDelete, Path: "/api/scanners/{id}", Summary: "Forget a scanner",
	}, func(ctx context.Context, in *ScannerPath) (*struct{}, error) {
		return nil, refusal(h.app.Scanning.RemoveScanner(ctx, in.ID))
	})
}

func (h handlers) registerBatches(api huma.API) {
	batch := func(b scanning.Batch, err error) (*batchAnswer, error) { return &batchAnswer{b}, refusal(err) }
	huma.Register(api, huma.Operation{
		OperationID: "get-batch", Method: http.MethodGet, Path: "/api/packets/{id}/batch", Summary: "The pages that were scanned and are not placed yet",
	}, func(ctx context.Context, in *PacketPath) (*batchAnswer, error) {
		return batch(h.app.Scanning.Batch(ctx, in.ID))
	})
	huma.Register(api, huma.Operation{
		OperationID: "start-scan", Method: http.MethodPost, Path: "/api/packets/{id}/batch/scans", Summary: "Scan into the batch",
		DefaultStatus: http.StatusAccepted,
	}, func(ctx context.Context, in *scanRequest) (*batchAnswer, error) {
		return batch(h.app.Scanning.StartScan(ctx, in.ID, in.Body))
	})
	huma.Register(api, huma.Operation{
		OperationID: "stop-scan", Method: http.MethodPost, Path: "/api/packets/{id}/batch/stop", Summary: "Stop the scan; what has arrived stays",
	}, func(ctx context.Context, in *PacketPath) (*batchAnswer, error) {
		return batch(h.app.Scanning.StopScan(ctx, in.ID))
	})
	huma.Register(api, huma.Operation{
		OperationID: "arrange-batch", Method: http.MethodPut, Path: "/api/packets/{id}/batch/pages",
		Summary: "Put the batch's pages in order and turn them; those not named are dropped",
	}, func(ctx context.Context, in *arrangeRequest) (*batchAnswer, error) {
		return batch(h.app.Scanning.ArrangeBatch(ctx, in.ID, in.Body.Version, in.Body.Pages))
	})
	huma.Register(api, huma.Operation{
		OperationID: "place-batch", Method: http.MethodPost, Path: "/api/packets/{id}/batch/place", Summary: "Make a source of the batch and place it",
	}, func(ctx context.Context, in *placeBatchRequest) (*outcomeAnswer, error) {
		outcome, err := h.app.Scanning.PlaceBatch(ctx, in.ID, in.Body.Name, gather.Placement{Place: in.Body.Place})
		return &outcomeAnswer{outcome}, refusal(err)
	})
	huma.Register(api, huma.Operation{
		OperationID: "discard-batch", Method: http.MethodDelete, Path: "/api/packets/{id}/batch", Summary: "Throw the batch away",
	}, func(ctx context.Context, in *PacketPath) (*struct{}, error) {
		return nil, refusal(h.app.Scanning.DiscardBatch(ctx, in.ID))
	})
	huma.Register(api, huma.Operation{
		OperationID: "batch-picture", Method: http.MethodGet, Path: "/api/batches/{batch}/pages/{page}/image",
		Summary: "A page of a batch, not turned", Responses: pictureResponse(),
	}, func(ctx context.Context, in *batchPictureRequest) (*huma.StreamResponse, error) {
		path, err := h.app.Scanning.BatchPicture(ctx, in.Batch, in.Page, in.Width)
		return sendFile(path, "image/jpeg", neverChanges, "", err)
	})
}
