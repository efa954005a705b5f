package ocr

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/png"
	"os"
	"os/exec"
	"time"
)

// ErrNotInstalled is returned when there is no program to read with.
var ErrNotInstalled = errors.New("tesseract is not installed")

const readTime = 30 * time.Second

// Read gives the lines of text in a picture.
func Read(ctx context.Context, img image.Image) (string, error) { return read(ctx, img, "--psm", "6") }

func read(ctx context.Context, img image.Image, how ...string) (string, error) {
	program, err := exec.LookPath("tesseract")
	if err != nil {
		return "", ErrNotInstalled
	}
	var in, out bytes.Buffer
	encoder := png.Encoder{CompressionLevel: png.BestSpeed}
	if err := encoder.Encode(&in, img); err != nil {
		return "", fmt.Errorf("read text: %w", err)
	}
	ctx, cancel := context.WithTimeout(ctx, readTime)
	defer cancel()
	command := exec.CommandContext(ctx, program, append([]string{"stdin", "stdout"}, how...)...)
	command.Env = append(os.Environ(), "OMP_THREAD_LIMIT=1")
	command.Stdin, command.Stdout = &in, &out
	if err := command.Run(); err != nil {
		return "", fmt.Errorf("read text: %w", err)
	}
	return out.String(), nil
}
