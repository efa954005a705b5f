package server

import (
	"context"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"dorbin/core/packet"
	"dorbin/internal/app"
)

// New returns the handler of the whole program. Listen is the address the
// server was told to listen on; requests for other hosts are refused.
func New(a *app.App, version, listen string) http.Handler {
	router := chi.NewRouter()
	router.Use(middleware.Recoverer, securityHeaders, checkHost(listen), checkOrigin, endStalled(stallTime))
	router.Get("/healthz", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/plain")
		_, _ = w.Write([]byte("ok\n")) // the client may be gone
	})
	router.Get("/api/typefaces/{face}", sendTypeface)
	describe(router, a, version)
	router.NotFound(frontEnd())
	return router
}

// describe registers the API's operations and returns its description.
func describe(router chi.Router, a *app.App, version string) *huma.OpenAPI {
	config := huma.DefaultConfig("Dorbin", version)
	config.DocsPath = "" // it would load scripts from elsewhere
	config.SchemasPath = ""
	config.OpenAPIPath = "/api/openapi"
	config.CreateHooks = nil // no links to schemas in answers
	api := humachi.New(router, config)
	api.OpenAPI().Components.Schemas.RegisterTypeAlias(reflect.TypeFor[packet.Command](), reflect.TypeFor[anyCommand]())
	h := handlers{app: a}
	h.registerReadiness(api)
	h.registerPackets(api)
	h.registerArranging(api)
	h.registerReading(api)
	h.registerSources(api)
	h.registerPictures(api)
	h.registerCrop(api)
	h.registerScanners(api)
	h.registerBatches(api)
	h.registerExports(api)
	h.registerPlans(api)
	h.registerProofs(api)
	h.registerReceivers(api)
	h.registerHandIn(api)
	h.registerKeeping(api)
	h.registerFiling(api)
	h.registerEvents(api)
	return api.OpenAPI()
}

type handlers struct{ app *app.App }

type readinessAnswer struct {
	Body struct {
		Ready bool `json:"ready" doc:"Whether pages can be drawn. At its first start the program prepares for that for some seconds."`
	}
}

func (h handlers) registerReadiness(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "readiness", Method: http.MethodGet, Path: "/api/readiness", Summary: "Tell whether pages can be drawn",
	}, func(context.Context, *struct{}) (*readinessAnswer, error) {
		var answer readinessAnswer
		answer.Body.Ready = h.app.IsReady()
		return &answer, nil
	})
}
