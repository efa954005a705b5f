package app_test

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dorbin/core/finish"
	"dorbin/core/packet"
	"dorbin/core/pdf/pdftest"
	"dorbin/core/requirements"
	"dorbin/internal/app"
	"dorbin/internal/checking"
	"dorbin/internal/gather"
	"dorbin/internal/intake"
	"dorbin/internal/packets"
)

// book is a PDF of n pages of text, which are much alike.
func book(n int) []byte {
	return written(n, func(page, line int) string {
		return fmt.Sprintf("Leaf %d, line %d of a page of running text in a long book", page+1, line+1)
	})
}

// letters is a PDF of n pages whose text has nothing in common, also not with that of other seeds.
func letters(n int, seed uint64) []byte {
	random := rand.New(rand.NewPCG(seed, 7))
	return written(n, func(int, int) string {
		var line strings.Builder
		for range 3 + random.IntN(8) {
			for range 1 + random.IntN(10) {
				line.WriteByte(byte('a' + random.IntN(26)))
			}
			line.WriteByte(' ')
		}
		return line.String()
	})
}

// written is a PDF of n pages of 45 lines.
func written(n int, text func(page, line int) string) []byte {
	var objects []string
	var kids bytes.Buffer
	for i := range n {
		var content bytes.Buffer
		for line := range 45 {
			fmt.Fprintf(&content, "BT /F 11 Tf 60 %d Td (%s) Tj ET\n", 780-16*line, text(i, line))
		}
		objects = append(objects,
			pdftest.Stream("", content.String()),
			fmt.Sprintf("<< /Type /Page /Parent 2 0 R /Contents %d 0 R >>", 4+2*i))
		fmt.Fprintf(&kids, "%d 0 R ", 5+2*i)
	}
	objects = append([]string{
		"<< /Type /Catalog /Pages 2 0 R >>",
		fmt.Sprintf("<< /Type /Pages /Kids [%s] /Count %d /MediaBox [0 0 595 842] /Resources << /Font << /F 3 0 R >> >> >>", kids.String(), n),
		"<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
	}, objects...)
	return pdftest.File(objects...)
}

// firstScreen is how many pages the wall shows at once at 1280 by 800 pixels.
const firstScreen = 21

// BenchmarkFirstScreen measures the time from the end of the upload of 1,000
// pages until the pictures of the first screen are there.
func BenchmarkFirstScreen(b *testing.B) {
	data := book(1000)
	a := newApp(b)
	n := 0
	for b.Loop() {
		b.StopTimer()
		n++
		id := newPacket(b, a)
		fresh := append(bytes.Clone(data), strconv.Itoa(n)...) // not the same bytes, which would be cached
		b.StartTimer()
		outcome := add(b, a, id, "book.pdf", fresh)
		require.Equal(b, "added", outcome.Result)
		pictures(b, a, string(*outcome.Source))
	}
}

func pictures(b *testing.B, a *app.App, source string) {
	const connections = 6 // of a browser to one server
	pages := make(chan int)
	var wait sync.WaitGroup
	for range connections {
		wait.Go(func() {
			for page := range pages {
				if _, err := a.Packets.SourcePicture(b.Context(), source, page, packets.Adjustments{}, 172); err != nil {
					b.Error(err)
				}
			}
		})
	}
	for page := range firstScreen {
		pages <- page + 1
	}
	close(pages)
	wait.Wait()
}

// BenchmarkExportOfScans exports 1,000 scanned pages, as TIFF files and as one
// PDF made of them, and reports the process's largest size in memory so far.
// Run it by itself.
func BenchmarkExportOfScans(b *testing.B) {
	scan := paper(b, "quotes-scan.tif")
	a := openApp(b, b.TempDir(), intake.DefaultLimits)
	b.Cleanup(func() { require.NoError(b, a.Close()) })
	id := newPacket(b, a)
	const pagesPerFile, pages = 6, 1000
	for n := range (pages + pagesPerFile - 1) / pagesPerFile {
		add(b, a, id, fmt.Sprintf("scan-%d.tif", n), append(bytes.Clone(scan), byte(n), byte(n>>8)))
	}
	for b.Loop() {
		path, e := exportAsItIs(b, a, id)
		require.Equal(b, "done", e.State, e.Problem)
		b.ReportMetric(float64(e.Receipt.Bytes)/1e6, "MB-written")
		b.ReportMetric(peakMB(b), "peak-MB-tiff")
		one := newPacket(b, a)
		file, err := os.Open(path)
		require.NoError(b, err)
		_, err = a.Gather.AddFile(b.Context(), one, "all.pdf", gather.Placement{}, file)
		require.NoError(b, err)
		require.NoError(b, file.Close())
		started := time.Now()
		_, e = exportAsItIs(b, a, one)
		require.Equal(b, "done", e.State, e.Problem)
		b.ReportMetric(time.Since(started).Seconds(), "s-pdf")
		b.ReportMetric(peakMB(b), "peak-MB-pdf")
	}
}

var peak = regexp.MustCompile(`VmHWM:\s+(\d+) kB`)

func peakMB(b *testing.B) float64 {
	status, err := os.ReadFile("/proc/self/status")
	require.NoError(b, err)
	kb, err := strconv.Atoi(string(peak.FindSubmatch(status)[1]))
	require.NoError(b, err)
	return float64(kb) / 1000
}

// BenchmarkSeenThrough lays 100 scanned pages on each other, whose pictures are
// there already, and then looks where the ink of each is. All pages have been looked
// at in the background, as they are within a minute of coming in.
func BenchmarkSeenThrough(b *testing.B) {
	scan := paper(b, "quotes-scan.tif")
	const pages = 100
	for b.Loop() {
		b.StopTimer()
		folder := b.TempDir()
		a := openApp(b, folder, intake.DefaultLimits)
		id := newPacket(b, a)
		for n := range 17 {
			add(b, a, id, fmt.Sprintf("scan-%d.tif", n), append(bytes.Clone(scan), byte(n)))
		}
		var ids []packet.PageID
		for _, part := range get(b, a, id).Parts {
			for _, page := range part.Pages {
				ids = append(ids, page.ID)
			}
		}
		ids = ids[:pages]
		_, err := a.Arrange.Overlay(b.Context(), id, ids, false) // makes the pictures
		require.NoError(b, err)
		for found := (checking.Findings{Waiting: 1}); found.Waiting > 0; time.Sleep(100 * time.Millisecond) {
			found, err = a.Checking.Findings(b.Context(), id)
			require.NoError(b, err)
		}
		require.NoError(b, a.Close())
		a = openApp(b, folder, intake.DefaultLimits)
		b.StartTimer()
		begun := time.Now()
		_, err = a.Arrange.Overlay(b.Context(), id, ids, false)
		require.NoError(b, err)
		b.ReportMetric(float64(time.Since(begun).Milliseconds()), "ms-overlay")
		begun = time.Now()
		_, err = a.Arrange.Contents(b.Context(), id, ids)
		require.NoError(b, err)
		b.ReportMetric(float64(time.Since(begun).Milliseconds()), "ms-content-after")
		b.StopTimer()
		require.NoError(b, a.Close())
		b.StartTimer()
	}
}

// BenchmarkFinishedExport exports 2,000 pages of text, without and with page numbers, a header and
// a watermark, and reports how much longer and larger that is. Work in the background waits meanwhile.
func BenchmarkFinishedExport(b *testing.B) {
	const pages = 2000
	a := openApp(b, b.TempDir(), intake.DefaultLimits)
	b.Cleanup(func() { require.NoError(b, a.Close()) })
	id := newPacket(b, a)
	add(b, a, id, "book.pdf", book(pages))
	f := finish.Default()
	f.Numbers.On, f.Header.On, f.Watermark.On = true, true, true
	times, bytes := [2][]float64{}, [2]int64{}
	for b.Loop() {
		for with, section := range []packet.Finish{
			{Numbers: &finish.Numbers{}, Header: &finish.Line{}, Watermark: &finish.Watermark{}},
			{Numbers: &f.Numbers, Header: &f.Header, Watermark: &f.Watermark},
		} {
			apply(b, a, id, section)
			started := time.Now()
			_, e := exportAsItIs(b, a, id)
			require.Equal(b, "done", e.State, e.Problem)
			times[with] = append(times[with], time.Since(started).Seconds())
			bytes[with] = e.Receipt.Bytes
		}
	}
	b.ReportMetric(median(times[1])/median(times[0]), "time-ratio")
	b.ReportMetric(median(times[0]), "s-without")
	b.ReportMetric(float64(bytes[1]-bytes[0])/pages, "B/page-more")
}

func median(values []float64) float64 {
	return slices.Sorted(slices.Values(values))[len(values)/2]
}

// BenchmarkFind searches 2,000 pages of text, as at each key that is typed.
func BenchmarkFind(b *testing.B) {
	a := newApp(b)
	id := newPacket(b, a)
	const pages = 2000
	add(b, a, id, "book.pdf", book(pages))
	for {
		status, err := a.Reading.Status(b.Context(), id)
		if err != nil {
			b.Fatal(err)
		}
		if len(status.Own) == pages {
			break
		}
		time.Sleep(100 * time.Millisecond)
	}
	for _, query := range []string{"l", "line", "Leaf 1234, line 7 of", "no such words"} {
		b.Run(query, func(b *testing.B) {
			for b.Loop() {
				if _, err := a.Reading.Find(b.Context(), id, query); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// BenchmarkRequirements holds 2,000 pages against all rules and 20 papers, as after each command.
func BenchmarkRequirements(b *testing.B) {
	a := newApp(b)
	id := newPacket(b, a)
	const parts = 20
	for i := range parts {
		add(b, a, id, fmt.Sprintf("paper-%d.pdf", i), letters(100, uint64(i)))
	}
	receiver := requirements.Receiver{Name: "Everybody", Until: "2099-01-01", Rules: everything}
	receiver.Rules.MostPages = 5000
	for i := range parts {
		receiver.Papers = append(receiver.Papers, requirements.Paper{Title: fmt.Sprintf("Paper %d", i)})
	}
	apply(b, a, id, packet.SetReceiver{Receiver: &receiver})
	for {
		findings, err := a.Checking.Findings(b.Context(), id)
		require.NoError(b, err)
		if findings.Waiting == 0 {
			break
		}
		time.Sleep(time.Second)
	}
	for b.Loop() {
		if _, err := a.Receivers.Requirements(b.Context(), id); err != nil {
			b.Fatal(err)
		}
	}
}
