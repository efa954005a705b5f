package server

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/sse"

	"dorbin/internal/app"
)

type eventsRequest struct {
	Packet string `query:"packet" doc:"Only of this packet; without it of all."`
}

// Alive is sent now and then so that a broken connection is noticed.
type Alive struct{}

const aliveEvery = 20 * time.Second

func (h handlers) registerEvents(api huma.API) {
	sse.Register(api, huma.Operation{
		OperationID: "events", Method: http.MethodGet, Path: "/api/events", Summary: "Changes as they happen",
	}, map[string]any{"change": app.Event{}, "alive": Alive{}}, func(ctx context.Context, in *eventsRequest, send sse.Sender) {
		events, stop := h.app.Listen(in.Packet)
		defer stop()
		// The first message tells that the listening has begun.
		err := send.Data(Alive{})
		ticker := time.NewTicker(aliveEvery)
		defer ticker.Stop()
		for err == nil {
			select {
			case <-ctx.Done():
				return
			case event, open := <-events:
				if !open {
					return
				}
				err = send.Data(event)
			case <-ticker.C:
				err = send.Data(Alive{})
			}
		}
	})
}
