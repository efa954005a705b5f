package export

import (
	"context"
	"image"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/require"
)

func TestPixelRoom(t *testing.T) {
	scan := image.NewRGBA(image.Rect(0, 0, 2480, 3508))
	large := image.NewRGBA(image.Rect(0, 0, 6000, 4200))
	bilevel := image.NewGray(large.Rect)
	for name, test := range map[string]struct {
		first, second image.Image
		fit           bool
	}{
		"two scans":             {scan, scan, true},
		"a large page and more": {large, scan, false},
		"more and a large page": {scan, large, false},
		"two large grey pages":  {bilevel, bilevel, true},
		"nothing decoded":       {nil, large, true},
	} {
		t.Run(name, func(t *testing.T) {
			synctest.Test(t, func(t *testing.T) {
				room := newPixelRoom()
				release, err := room.take(t.Context(), test.first)
				require.NoError(t, err)
				given, cancel := context.WithTimeout(t.Context(), time.Minute) // of the test's own clock
				defer cancel()
				second, err := room.take(given, test.second)
				if test.fit {
					require.NoError(t, err)
					second()
				} else {
					require.ErrorIs(t, err, context.DeadlineExceeded)
				}
				release()
				all, err := room.take(t.Context(), large)
				require.NoError(t, err, "all room is free again")
				all()
			})
		})
	}
}
