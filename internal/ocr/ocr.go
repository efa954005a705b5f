package ocr

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"image"
	"image/draw"
	"io"
	"os"
	"os/exec"
	"slices"
	"strings"
	"time"

	"dorbin/internal/confine"
)

// ErrNotInstalled is returned when there is no program to read with.
var ErrNotInstalled = errors.New("tesseract is not installed")

// Bounds of the work on a picture.
const (
	processorTime = 2 * time.Minute
	patience      = 20 * time.Minute // of the clock, for what hangs; a busy machine stops nothing sooner
	mostSaid      = 64 << 20         // bytes of an answer
	memory        = 2 << 30          // bytes that the program can write to
)

// Reader reads text with the tesseract program.
type Reader struct {
	Program string // its path or name; "tesseract" when empty
	// Confined starts this program again so that it does Be with the arguments behind. Without it
	// tesseract is started as it is.
	Confined []string
	// Yields has it leave the processor to what somebody waits for, where it is confined.
	Yields bool
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

// Run is the first of a worker's arguments where it is to become the program that reads.
const Run = "ocr"

// Be becomes the program that reads, in a process that can use the system's own files, and a bounded
// memory and time. The arguments are whether it yields, an empty folder, the program and its arguments.
func Be(args []string) error {
	if len(args) < 3 {
		return errors.New("the recognition of text is started by the program")
	}
	limits := confine.Limits{Memory: memory, Processor: processorTime, Yields: args[0] == yields}
	return confine.Exec(args[1], limits, args[2], args[3:]...)
}

// The first argument of Be.
const (
	yields  = "yields"
	hurries = "hurries"
)

// Lines gives the lines of text in a picture. It returns ErrNotInstalled when there is no
// program to read with.
func (r Reader) Lines(ctx context.Context, img image.Image) (string, error) {
	return r.read(ctx, img, "--psm", "6")
}

func (r Reader) read(ctx context.Context, img image.Image, how ...string) (string, error) {
	var out strings.Builder
	err := r.run(ctx, img, &out, append([]string{"stdin", "stdout"}, how...)...)
	return out.String(), err
}

// run has the program read a picture, and gives what it writes to standard output. It is killed
// when its time is over, with all that it started.
func (r Reader) run(ctx context.Context, img image.Image, out io.Writer, args ...string) error {
	program, err := r.path()
	if err != nil {
		return err
	}
	words := append([]string{program}, args...)
	if len(r.Confined) > 0 {
		folder, err := os.MkdirTemp("", "dorbin-ocr-*")
		if err != nil {
			return fmt.Errorf("read text: %w", err)
		}
		defer os.RemoveAll(folder) //nolint:errcheck // it is empty
		pace := hurries
		if r.Yields {
			pace = yields
		}
		words = slices.Concat(r.Confined, []string{pace, folder}, words)
	}
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	command := exec.CommandContext(ctx, words[0], words[1:]...) //nolint:gosec // the program itself, or what reads text
	command.Env = append(os.Environ(), "OMP_THREAD_LIMIT=1")
	command.WaitDelay = time.Second
	var said bytes.Buffer
	command.Stdout, command.Stderr = &limited{to: out, left: mostSaid}, &limited{to: &said, left: 4096}
	command.Cancel = func() error { return confine.KillGroup(command) }
	if img != nil {
		command.Stdin = graymap(img)
	}
	if err := confine.Start(command); err != nil {
		return fmt.Errorf("start the recognition of text: %w", err)
	}
	if err := command.Wait(); err != nil {
		if told := strings.TrimSpace(said.String()); told != "" {
			err = fmt.Errorf("%w: %s", err, told)
		}
		return fmt.Errorf("read text: %w", errors.Join(err, ctx.Err(), overTime(command.ProcessState)))
	}
	return nil
}

// overTime is the error of a process that was killed because it computed for too long, which the
// system measures in two ways that differ by some tenths.
func overTime(ended *os.ProcessState) error {
	if ended.UserTime()+ended.SystemTime() < processorTime*3/4 {
		return nil
	}
	return context.DeadlineExceeded
}

// limited takes so many bytes, and breaks off what writes more.
type limited struct {
	to   io.Writer
	left int
}

func (l *limited) Write(b []byte) (int, error) {
	if l.left -= len(b); l.left < 0 {
		return 0, errors.New("more was said than a page has")
	}
	return l.to.Write(b)
}

// graymap is a picture as a portable graymap (Netpbm's PGM), which takes no time to write. Colours
// tell nothing about letters.
func graymap(img image.Image) io.Reader {
	gray, ok := img.(*image.Gray)
	if size := img.Bounds().Size(); !ok {
		gray = image.NewGray(image.Rectangle{Max: size})
		draw.Draw(gray, gray.Rect, img, img.Bounds().Min, draw.Src)
	}
	size := gray.Rect.Size()
	rows := []io.Reader{strings.NewReader(fmt.Sprintf("P5 %d %d 255\n", size.X, size.Y))}
	for y := range size.Y {
		rows = append(rows, bytes.NewReader(gray.Pix[y*gray.Stride:y*gray.Stride+size.X]))
	}
	return io.MultiReader(rows...)
}
