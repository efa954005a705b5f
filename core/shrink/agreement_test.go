package shrink

import (
	"bytes"
	"cmp"
	"image"
	"image/jpeg"
	"image/png"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
)

// agreement is what is known of a page that was written otherwise: how much of its detail was kept by the
// measure, and which share of its words tesseract read as before, against the share that it reads from a JPEG
// as good as the page.
type agreement struct{ fidelity, words float64 }

// BenchmarkAgreementWithRecognition tells how well the measure agrees with recognition on real scans: JPEGs of
// printed pages in the folder that DORBIN_SCANS names. Each is written in encodings that are used and in
// others that are far too coarse.
func BenchmarkAgreementWithRecognition(b *testing.B) {
	paths, err := filepath.Glob(filepath.Join(os.Getenv("DORBIN_SCANS"), "*.jpg"))
	require.NoError(b, err)
	if os.Getenv("DORBIN_SCANS") == "" || len(paths) == 0 {
		b.Skip("DORBIN_SCANS names no folder of scans")
	}
	for b.Loop() {
		var all []agreement
		for _, path := range paths {
			all = append(all, agreementOn(b, path)...)
		}
		accepted, lost := 0, 0
		for _, a := range all {
			if a.fidelity >= leastKept {
				accepted++
				if a.words < 0.9 {
					lost++
				}
			}
		}
		b.ReportMetric(rankCorrelation(all), "rank-correlation")
		b.ReportMetric(float64(accepted), "kept-by-the-measure")
		b.ReportMetric(float64(lost), "of-them-without-a-tenth-of-the-words")
	}
}

// agreementOn writes a scan in several encodings. Nothing is told of one with few words, or whose words are
// not even read alike from a JPEG that is as good as it, the first.
func agreementOn(b *testing.B, path string) (all []agreement) {
	b.Helper()
	data, err := os.ReadFile(path)
	require.NoError(b, err)
	img, err := jpeg.Decode(bytes.NewReader(data))
	require.NoError(b, err)
	const dpi = 150 // of most of them
	gray, size := raster.ToGray(img), img.Bounds().Size()
	before := readBy(b, gray)
	s, best := newSubject(img, dpi), 0.0
	for i, params := range []EncodingParams{
		{Encoding: Resized, DPI: 150, Quality: 92}, {Encoding: Resized, DPI: 150, Quality: 60}, {Encoding: Resized, DPI: 150, Quality: 25},
		{Encoding: Resized, DPI: 150, Quality: 8}, {Encoding: Resized, DPI: 110, Quality: 75}, {Encoding: Resized, DPI: 80, Quality: 60},
		{Encoding: Resized, DPI: 60, Quality: 60}, {Encoding: Layers, DPI: 100, Quality: 55}, {Encoding: Layers, DPI: 60, Quality: 40},
	} {
		compressed, err := s.write(params)
		require.NoError(b, err)
		candidate := Candidate{EncodingParams: params}
		if ok, err := s.compare(&candidate, compressed); !ok {
			require.NoError(b, err)
			continue // the plan takes none of these
		}
		drawn, err := compressed.drawGray(size)
		require.NoError(b, err)
		share, known := WordsAgree(before, readBy(b, drawn))
		if i == 0 {
			if best = share; !known || best < 0.9 {
				b.Logf("%s: too few words, or none that are read alike (%d, %.2f)", filepath.Base(path), len(before), best)
				return nil
			}
			continue
		}
		b.Logf("%s %s %d dpi %d: fidelity %.3f, words %.3f", filepath.Base(path), params.Encoding, params.DPI, params.Quality, candidate.Fidelity, share/best)
		all = append(all, agreement{candidate.Fidelity, share / best})
	}
	return all
}

// readBy are the words that tesseract reads.
func readBy(b *testing.B, img *image.Gray) []string {
	b.Helper()
	var file bytes.Buffer
	require.NoError(b, png.Encode(&file, img))
	cmd := exec.Command("tesseract", "-", "-")
	cmd.Env, cmd.Stdin = append(os.Environ(), "OMP_THREAD_LIMIT=1"), &file
	text, err := cmd.Output()
	require.NoError(b, err)
	return strings.FieldsFunc(string(text), func(r rune) bool { return r <= ' ' })
}

// rankCorrelation is Spearman's: 1 where more fidelity always goes with more words.
func rankCorrelation(all []agreement) float64 {
	byFidelity := ranks(all, func(a agreement) float64 { return a.fidelity })
	byWords := ranks(all, func(a agreement) float64 { return a.words })
	mean := float64(len(all)-1) / 2
	var both, first, second float64
	for i := range all {
		f, w := byFidelity[i]-mean, byWords[i]-mean
		both, first, second = both+f*w, first+f*f, second+w*w
	}
	return both / math.Sqrt(first*second)
}

// ranks are the places of values in their order; equal ones share the mean of theirs.
func ranks(all []agreement, value func(agreement) float64) []float64 {
	order := make([]int, len(all))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int { return cmp.Compare(value(all[a]), value(all[b])) })
	ranks := make([]float64, len(all))
	for from := 0; from < len(order); {
		to := from
		for to < len(order) && value(all[order[to]]) == value(all[order[from]]) {
			to++
		}
		for _, i := range order[from:to] {
			ranks[i] = float64(from+to-1) / 2
		}
		from = to
	}
	return ranks
}
