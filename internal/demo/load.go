package demo

import (
	"context"

	"dorbin/internal/app"
)

// Load makes the demo packet, unless it is there already.
func Load(ctx context.Context, a *app.App) error {
	return nil
}
