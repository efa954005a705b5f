package intake

import (
	"context"
	"image"
	"io"
	"os"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestADecoderThatIsGivenUpEnds(t *testing.T) {
	const endless = "/dev/zero"
	if _, err := os.Stat(endless); err != nil {
		t.Skip("there is no endless file on this system")
	}
	ended := make(chan struct{})
	ctx, cancel := context.WithCancel(t.Context())
	c := codec{decode: func(r io.Reader) (image.Image, error) {
		defer close(ended)
		cancel()
		_, err := io.Copy(io.Discard, r)
		return nil, err
	}}
	_, err := c.read(ctx, endless)
	require.ErrorIs(t, err, context.Canceled, "it is not called damaged")
	<-ended
}
