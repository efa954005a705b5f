package app_test

import (
	"bytes"
	"fmt"
	"image/jpeg"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/check"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/sampling"
)

// TestPhotographsOfPaperLyingOnTheirSide takes photographs of papers with the camera held in all
// four ways, and pictures of a roof, which have no way up that could be told.
func TestPhotographsOfPaperLyingOnTheirSide(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newReadingApp(t)
	id := newPacket(t, a)
	wanted := map[packet.PageID]int{} // degrees clockwise
	for name, upright := range map[string]int{"insurance.jpg": 90, "roof-1.jpg": -1} {
		photo, err := jpeg.Decode(bytes.NewReader(paper(t, name)))
		require.NoError(t, err)
		for _, turn := range []int{0, 90, 180, 270} {
			added := add(t, a, id, fmt.Sprintf("%d-%s", turn, name), jpegFile(t, raster.Turn(photo, turn)))
			require.Len(t, added.Pages, 1)
			if turn != upright && upright >= 0 {
				wanted[added.Pages[0]] = (upright - turn + 360) % 360
			}
		}
	}
	found := seen(t, a, id)
	turns := map[packet.PageID]int{}
	for _, finding := range found.Findings {
		if finding.Kind == check.Sideways {
			turns[finding.Page] = finding.Settle[0].(packet.Turn).By
		}
	}
	assert.Equal(t, wanted, turns)
}
