package worker

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/color"
	"io"
	"log/slog"
	"os"
	"runtime"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/internal/await"
)

// roles are what the test's binary is by its first argument, on some systems.
var roles = map[string]func(){}

var discardLog = slog.New(slog.DiscardHandler)

var errOdd = errors.New("the number is odd")

// Tasks of the test's own worker.
var (
	double = Func[int, int]{Name: "double", Limit: time.Minute, Known: []error{errOdd}}
	refuse = Func[string, int]{Name: "refuse", Limit: time.Minute}
	hang   = Func[int, int]{Name: "hang", Limit: 100 * time.Millisecond}
	spin   = Func[int, int]{Name: "spin", Limit: time.Minute}
	grow   = Func[int, int]{Name: "grow", Limit: time.Minute}
	crash  = Func[int, int]{Name: "crash", Limit: time.Minute}
	panics = Func[int, int]{Name: "panics", Limit: time.Minute}
	write  = Func[string, int]{Name: "write", Limit: time.Minute}
	self   = Func[int, int]{Name: "self", Limit: time.Minute}
	count  = Func[int, int]{Name: "count", Limit: 500 * time.Millisecond}
)

func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == "worker" {
		var tasks Tasks
		Handle(&tasks, double, func(_ context.Context, n int) (int, []byte, error) {
			if n%2 == 1 {
				return 0, nil, fmt.Errorf("double %d: %w", n, errOdd)
			}
			return 2 * n, bytes.Repeat([]byte{byte(n)}, n), nil
		})
		Handle(&tasks, refuse, func(_ context.Context, name string) (int, []byte, error) {
			return 0, nil, fmt.Errorf("inspect: %w", &problem.Error{Kind: problem.Invalid, Reason: "odd", Sentence: message.Of("%s is odd.", name)})
		})
		Handle(&tasks, hang, func(context.Context, int) (int, []byte, error) { select {} })
		Handle(&tasks, spin, func(context.Context, int) (int, []byte, error) {
			for {
				runtime.Gosched()
			}
		})
		Handle(&tasks, grow, func(context.Context, int) (int, []byte, error) {
			var all [][]byte
			for {
				all = append(all, bytes.Repeat([]byte{1}, 16<<20))
				runtime.KeepAlive(all)
			}
		})
		Handle(&tasks, count, func(ctx context.Context, to int) (int, []byte, error) {
			for n := range to {
				time.Sleep(50 * time.Millisecond)
				if err := Tell(ctx, Progress{Step: n, Done: 10 * n}); err != nil {
					return 0, nil, err
				}
			}
			return to, nil, nil
		})
		Handle(&tasks, crash, func(context.Context, int) (int, []byte, error) { os.Exit(3); return 0, nil, nil })
		Handle(&tasks, panics, func(_ context.Context, n int) (int, []byte, error) { return []int{}[n], nil, nil })
		Handle(&tasks, write, func(_ context.Context, path string) (int, []byte, error) {
			return 0, nil, os.WriteFile(path, []byte("written"), 0o600)
		})
		Handle(&tasks, self, func(context.Context, int) (int, []byte, error) { return os.Getpid(), nil, nil })
		if err := Serve(&tasks, os.Stdin, os.Stdout); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		return
	}
	if len(os.Args) > 1 && roles[os.Args[1]] != nil {
		roles[os.Args[1]]()
		return
	}
	if len(os.Args) > 2 && os.Args[1] == "program" {
		beProgram(os.Args[2])
		return
	}
	os.Exit(m.Run())
}

// beProgram tells the process of its worker, and has it turn in circles.
func beProgram(scratch string) {
	p := NewPool(slog.New(slog.DiscardHandler), scratch, os.Args[0], "worker")
	pid, _, err := self.Do(context.Background(), p, 0)
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	time.AfterFunc(50*time.Millisecond, func() { fmt.Println(pid) })
	_, _, _ = spin.Do(context.Background(), p, 0)
}

func newPool(t *testing.T) *Pool {
	t.Helper()
	p := NewPool(slog.New(slog.DiscardHandler), t.TempDir(), os.Args[0], "worker")
	t.Cleanup(p.Close)
	return p
}

// TestTasksTellHowFarTheyAre has a task take longer than its limit, which counts from when it
// last told something.
func TestTasksTellHowFarTheyAre(t *testing.T) {
	var told []Progress
	n, _, err := count.DoTelling(t.Context(), newPool(t), 15, func(p Progress) { told = append(told, p) })
	require.NoError(t, err)
	assert.Equal(t, 15, n)
	require.Len(t, told, 15)
	assert.Equal(t, Progress{Step: 14, Done: 140}, told[14])
}

func TestTasksGiveValuesDataAndErrors(t *testing.T) {
	p := newPool(t)
	out, data, err := double.Do(t.Context(), p, 8)
	require.NoError(t, err)
	assert.Equal(t, 16, out)
	assert.Equal(t, bytes.Repeat([]byte{8}, 8), data)

	_, _, err = double.Do(t.Context(), p, 7)
	require.ErrorIs(t, err, errOdd)
	assert.Equal(t, "double 7: the number is odd", err.Error())

	_, _, err = refuse.Do(t.Context(), p, "plan.pdf")
	var told *problem.Error
	require.ErrorAs(t, err, &told)
	assert.Equal(t, problem.Error{Kind: problem.Invalid, Reason: "odd", Sentence: message.Of("%s is odd.", "plan.pdf"), Cause: told.Cause}, *told)

	_, _, err = panics.Do(t.Context(), p, 1)
	require.ErrorContains(t, err, "index out of range")
	_, _, err = Func[int, int]{Name: "unheard of", Limit: time.Minute}.Do(t.Context(), p, 1)
	require.ErrorContains(t, err, "there is no task")
}

func TestAWorkerStaysForTheNextTask(t *testing.T) {
	p := newPool(t)
	first, _, err := self.Do(t.Context(), p, 0)
	require.NoError(t, err)
	second, _, err := self.Do(t.Context(), p, 0)
	require.NoError(t, err)
	assert.Equal(t, first, second)
}

func TestIdleWorkersCarryOutATask(t *testing.T) {
	p := newPool(t)
	first, _, err := self.Do(t.Context(), p, 0)
	require.NoError(t, err)
	require.NoError(t, self.DoIdle(p, 0))
	second, _, err := self.Do(t.Context(), p, 0)
	require.NoError(t, err)
	assert.Equal(t, first, second, "it stays for the next one")
	require.NoError(t, crash.DoIdle(p, 1))
	third, _, err := self.Do(t.Context(), p, 0)
	require.NoError(t, err)
	assert.NotEqual(t, first, third, "one that cannot is ended")
}

func TestNoMoreWorkersAreKeptThanWorkAtOnce(t *testing.T) {
	p := newPool(t)
	for range p.size + 2 {
		_, _, err := self.Do(t.Context(), p, 0)
		require.NoError(t, err)
		out := p.takeIdle() // as if they carried out a task together
		_, _, err = self.Do(t.Context(), p, 0)
		require.NoError(t, err)
		for _, worker := range out {
			p.keep(worker)
		}
	}
	p.mutex.Lock()
	defer p.mutex.Unlock()
	assert.Len(t, p.idle, int(p.size))
}

func TestTasksThatEndTheirWorkersFail(t *testing.T) {
	if runtime.GOOS != "linux" {
		t.Skip("memory is watched on Linux alone")
	}
	p := newPool(t)
	for name, c := range map[string]struct {
		task   Func[int, int]
		reason problem.Reason
	}{
		"hangs":               {hang, TooSlow},
		"takes all memory":    {grow, TooLarge},
		"ends without answer": {crash, Broken},
	} {
		_, _, err := c.task.Do(t.Context(), p, 0)
		var told *problem.Error
		require.ErrorAs(t, err, &told, name)
		assert.Equal(t, c.reason, told.Reason, name)
		assert.True(t, GaveUp(err), name)
		out, _, err := double.Do(t.Context(), p, 4)
		require.NoError(t, err, "%s: the next task has another worker", name)
		assert.Equal(t, 8, out)
	}
}

func TestATaskThatIsNotWantedAnyMoreIsEnded(t *testing.T) {
	p := newPool(t)
	ctx, cancel := context.WithCancel(t.Context())
	done := make(chan error)
	go func() {
		_, _, err := spin.Do(ctx, p, 0)
		done <- err
	}()
	await.Until(t, func() bool {
		p.mutex.Lock()
		defer p.mutex.Unlock()
		return len(p.busy) == 1
	})
	cancel()
	require.ErrorIs(t, <-done, context.Canceled)
	await.Until(t, func() bool {
		p.mutex.Lock()
		defer p.mutex.Unlock()
		return len(p.busy) == 0 && len(p.idle) == 0
	}, "its worker has ended")
}

func TestWhoWaitsFindsAWorkerThatTheBackgroundLeaves(t *testing.T) {
	p := newPool(t)
	ctx, cancel := context.WithCancel(InBackground(t.Context()))
	var tasks sync.WaitGroup
	for range 2 * runtime.NumCPU() {
		tasks.Go(func() { _, _, _ = spin.Do(ctx, p, 0) })
	}
	await.Until(t, func() bool {
		p.mutex.Lock()
		defer p.mutex.Unlock()
		return len(p.busy) == runtime.NumCPU()
	})
	out, _, err := double.Do(t.Context(), p, 2)
	require.NoError(t, err)
	assert.Equal(t, 4, out)
	cancel()
	tasks.Wait()
}

// TestALargeTaskHoldsNobodyUp has tasks that fail twice wait for each other, and for nobody else.
func TestALargeTaskHoldsNobodyUp(t *testing.T) {
	p := newPool(t)
	ctx, cancel := context.WithCancel(InBackground(t.Context()))
	defer cancel()
	require.NoError(t, p.large.Acquire(ctx, 1)) // one is being done
	failed := make(chan error)
	go func() {
		_, _, err := crash.Do(ctx, p, 0)
		failed <- err
	}()
	for range 20 {
		out, _, err := double.Do(t.Context(), p, 2)
		require.NoError(t, err)
		assert.Equal(t, 4, out)
	}
	p.large.Release(1)
	assert.True(t, GaveUp(<-failed))
}

// TestSmallTasksAreEndedForALargeOne weighs workers whose memory together is too much.
func TestSmallTasksAreEndedForALargeOne(t *testing.T) {
	p := newPool(t)
	large := &watch{resident: 1 << 30, isLarge: true, over: make(chan struct{})}
	tiny := &watch{resident: 10 << 20, over: make(chan struct{})}
	usual := &watch{resident: 500 << 20, over: make(chan struct{})}
	p.busy = map[*process]*watch{{}: large, {}: tiny, {}: usual}
	p.note(usual, 600<<20)
	assert.True(t, usual.isOver)
	assert.False(t, large.isOver || tiny.isOver)
	p.busy = map[*process]*watch{{}: large, {}: tiny}
	p.note(large, 1535<<20)
	assert.True(t, large.isOver, "nobody else could make room")
	assert.False(t, tiny.isOver)
	p.busy = nil
}

func TestManyTasksAtOnce(t *testing.T) {
	p := newPool(t)
	var tasks sync.WaitGroup
	for i := range 60 {
		tasks.Go(func() {
			ctx := t.Context()
			if i%2 == 0 {
				ctx = InBackground(ctx)
			}
			out, data, err := double.Do(ctx, p, 2*i)
			assert.NoError(t, err)
			assert.Equal(t, 4*i, out)
			assert.Len(t, data, 2*i)
		})
	}
	tasks.Wait()
}

func TestWithoutAWorkerNothingIsSaidOfTheFile(t *testing.T) {
	p := NewPool(discardLog, t.TempDir(), "/nowhere/dorbin")
	t.Cleanup(p.Close)
	_, _, err := double.Do(t.Context(), p, 2)
	assert.True(t, IsUnavailable(err))
	assert.False(t, GaveUp(err))
}

func TestAClosedPoolDoesNothing(t *testing.T) {
	p := newPool(t)
	_, _, err := double.Do(t.Context(), p, 2)
	require.NoError(t, err)
	p.Close()
	_, _, err = double.Do(t.Context(), p, 2)
	require.ErrorIs(t, err, context.Canceled)
}

func TestWhatATaskWritesIsCopied(t *testing.T) {
	p := newPool(t)
	var out bytes.Buffer
	require.NoError(t, p.Written(&out, func(file string) error {
		_, _, err := write.Do(t.Context(), p, file)
		return err
	}))
	assert.Equal(t, "written", out.String())
	left, err := os.ReadDir(p.scratch)
	require.NoError(t, err)
	assert.Empty(t, left)
}

func TestPicturesAreUnpackedAsTheyWerePacked(t *testing.T) {
	large := image.NewYCbCr(image.Rect(0, 0, 37, 23), image.YCbCrSubsampleRatio420)
	for i := range large.Y {
		large.Y[i] = byte(i)
	}
	for i := range large.Cb {
		large.Cb[i], large.Cr[i] = byte(3*i), byte(5*i)
	}
	gray := image.NewGray(image.Rect(0, 0, 20, 10))
	for i := range gray.Pix {
		gray.Pix[i] = byte(i)
	}
	for name, img := range map[string]image.Image{
		"grey": gray, "a piece of grey": gray.SubImage(image.Rect(3, 2, 15, 9)), "colour": large,
		"transparent": image.NewNRGBA(image.Rect(0, 0, 4, 4)), "palette": image.NewPaletted(image.Rect(1, 1, 5, 5), color.Palette{color.Black}),
		"colours of a palette": image.NewPaletted(image.Rect(0, 0, 5, 5), color.Palette{color.RGBA{200, 0, 0, 255}}),
	} {
		packed, data := PackPicture(img)
		assert.Equal(t, strings.Contains(name, "colour"), packed.Model != "gray", name)
		again, err := packed.Unpack(data)
		require.NoError(t, err, name)
		require.Equal(t, img.Bounds().Size(), again.Bounds().Size(), name)
		for y := range again.Bounds().Dy() {
			for x := range again.Bounds().Dx() {
				r, g, b, a := img.At(img.Bounds().Min.X+x, img.Bounds().Min.Y+y).RGBA()
				if white := 0xFFFF - a; name == "transparent" {
					r, g, b = r+white, g+white, b+white
				}
				r2, g2, b2, _ := again.At(x, y).RGBA()
				require.Equal(t, [3]uint32{r, g, b}, [3]uint32{r2, g2, b2}, "%s at %d, %d", name, x, y)
			}
		}
		_, err = packed.Unpack(data[:len(data)/2])
		require.Error(t, err, name)
	}
}

// FuzzFrame reads frames that a worker which was broken into might send.
func FuzzFrame(f *testing.F) {
	var whole bytes.Buffer
	picture, data := PackPicture(image.NewYCbCr(image.Rect(0, 0, 3, 3), image.YCbCrSubsampleRatio420))
	if err := writeFrame(&whole, picture, data); err != nil {
		f.Fatal(err)
	}
	f.Add(whole.Bytes())
	f.Add([]byte("\x00\x00\x00\x02{}\xFF\xFF\xFF\xFF\xFF\xFF\xFF\xFF"))
	f.Add([]byte("\x00\x00\x00\x31" + `{"width":3,"height":3,"model":"ycbcr","ratio":2}` + "\n\x00\x00\x00\x00\x00\x00\x00\x01x"))
	f.Fuzz(func(t *testing.T, frame []byte) {
		var p Picture
		data, err := readFrame(io.LimitReader(bytes.NewReader(frame), 1<<20), &p)
		if err != nil {
			return
		}
		img, err := p.Unpack(data)
		if err != nil {
			return
		}
		b := img.Bounds()
		_, _ = img.At(b.Max.X-1, b.Max.Y-1), img.At(0, b.Max.Y-1)
	})
}
