package ocr

import (
	"bytes"
	"cmp"
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

// Reader reads text with the tesseract program.
type Reader struct {
	Program string // its path or name; "tesseract" when empty
}

func (r Reader) path() (string, error) {
	path, err := exec.LookPath(cmp.Or(r.Program, "tesseract"))
	if err != nil {
		return "", ErrNotInstalled
	}
	return path, nil
}

// IsInstalled tells whether there is a program to read with.
func (r Reader) IsInstalled() bool {
	_, err := r.path()
	return err == nil
}

// Lines gives the lines of text in a picture. It returns ErrNotInstalled when there is no
// program to read with.
func (r Reader) Lines(ctx context.Context, img image.Image) (string, error) {
	return r.read(ctx, img, "--psm", "6")
}

func (r Reader) read(ctx context.Context, img image.Image, how ...string) (string, error) {
	program, err := r.path()
	if err != nil {
		return "", err
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
