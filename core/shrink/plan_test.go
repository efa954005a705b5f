package shrink

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
	"dorbin/internal/sampling"
)

// versionsOf makes pages whose versions lose the more the smaller they are.
func versionsOf(random *rand.Rand, pages, most int) [][]Candidate {
	all := make([][]Candidate, pages)
	for i := range all {
		bytes, loss := int64(20_000+random.IntN(2_000_000)), 0.0
		for range 1 + random.IntN(most) {
			all[i] = append(all[i], Candidate{Bytes: bytes, Likeness: Likeness{Loss: loss}})
			bytes = int64(float64(bytes) * (0.3 + 0.6*random.Float64()))
			loss += 0.05 * random.Float64()
		}
	}
	return all
}

func sizeOf(pages [][]Candidate, chosen []int) (bytes int64, loss float64) {
	for i, choice := range chosen {
		bytes, loss = bytes+pages[i][choice].Bytes, loss+pages[i][choice].Loss
	}
	return bytes, loss
}

// bruteForce tries all choices.
func bruteForce(pages [][]Candidate, limit int64) (loss float64, fits bool) {
	loss = math.Inf(1)
	chosen := make([]int, len(pages))
	for {
		if bytes, lost := sizeOf(pages, chosen); bytes <= limit {
			loss, fits = math.Min(loss, lost), true
		}
		i := 0
		for ; i < len(chosen); i++ {
			if chosen[i]++; chosen[i] < len(pages[i]) {
				break
			}
			chosen[i] = 0
		}
		if i == len(chosen) {
			return loss, fits
		}
	}
}

func TestFitIsTheBestOfAllChoices(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for range 400 {
		pages := versionsOf(random, 1+random.IntN(5), 5)
		largest, _ := sizeOf(pages, make([]int, len(pages)))
		limit := int64(float64(largest) * random.Float64() * 1.1)
		want, wantFits := bruteForce(pages, limit)
		chosen, fits := ChooseWithinBudget(pages, limit)
		require.Equal(t, wantFits, fits)
		bytes, loss := sizeOf(pages, chosen)
		if !fits {
			least := int64(0)
			for _, candidates := range pages {
				least += candidates[cheapest(candidates, math.Inf(1))].Bytes
			}
			assert.Equal(t, least, bytes, "the lightest of each")
			continue
		}
		assert.LessOrEqual(t, bytes, limit)
		assert.InDelta(t, want, loss, 1e-9)
	}
}

// leastLoss is what no choice can lose less than: pages may be written by a mixture of
// two versions (the bound by Lagrange multipliers).
func leastLoss(pages [][]Candidate, limit int64) float64 {
	best := math.Inf(-1)
	for price := 1e-10; price < 1e-4; price *= 1.05 {
		bound := -price * float64(limit)
		for _, candidates := range pages {
			least := math.Inf(1)
			for _, v := range candidates {
				least = math.Min(least, v.Loss+price*float64(v.Bytes))
			}
			bound += least
		}
		best = math.Max(best, bound)
	}
	return best
}

func TestFitOfManyPages(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4))
	for _, count := range []int{30, 300, 1500} {
		pages := versionsOf(random, count, 9)
		largest, _ := sizeOf(pages, make([]int, len(pages)))
		lightestChoice, _ := ChooseWithinBudget(pages, 0)
		least, most := sizeOf(pages, lightestChoice)
		for _, share := range []float64{0.1, 0.4, 0.8} {
			limit := least + int64(share*float64(largest-least))
			chosen, fits := ChooseWithinBudget(pages, limit)
			require.True(t, fits)
			bytes, loss := sizeOf(pages, chosen)
			assert.LessOrEqual(t, bytes, limit)
			bound := leastLoss(pages, limit)
			assert.Greater(t, float64(bytes), 0.99*float64(limit))
			assert.LessOrEqual(t, loss, bound+0.003*most, "of %d pages", count)
		}
	}
}

func TestAllowedVersions(t *testing.T) {
	text := Measured{Kind: BlackText, Candidates: []Candidate{
		AsItIs(1000),
		{EncodingParams: EncodingParams{Encoding: Resized, DPI: 200, Quality: 78}, Likeness: Likeness{Fidelity: 1, Loss: 0.01}, Bytes: 700, VisuallyLossless: true},
		{EncodingParams: EncodingParams{Encoding: Layers, DPI: 100, Quality: 55}, Likeness: Likeness{Fidelity: 0.99, Loss: 0.02}, Bytes: 100, VisuallyLossless: true},
		{EncodingParams: EncodingParams{Encoding: Resized, DPI: 90, Quality: 45}, Likeness: Likeness{Fidelity: 0.8, Loss: 0.2}, Bytes: 80},
		{EncodingParams: EncodingParams{Encoding: OneBit}, Likeness: Likeness{Fidelity: 0.98, Loss: 0.05}, Bytes: 40},
	}}
	bytes := func(m Measured, override Override) (all []int64) {
		for _, v := range m.Allowed(override) {
			all = append(all, v.Bytes)
		}
		return all
	}
	assert.Equal(t, []int64{1000, 700, 100, 40}, bytes(text, Auto), "what cannot be read is not chosen")
	assert.Equal(t, []int64{1000}, bytes(text, KeepAsItIs))
	assert.Equal(t, []int64{1000, 700, 100}, bytes(text, KeepColour))
	assert.Equal(t, []int64{40}, bytes(text, InBlack))
	assert.Equal(t, []int64{1000, 700}, bytes(text, AsPhoto))
	assert.Equal(t, int64(100), text.Smaller(Auto).Bytes)
	assert.Equal(t, int64(40), text.Smaller(InBlack).Bytes)
	assert.Equal(t, int64(1000), text.Smaller(KeepAsItIs).Bytes)
	assert.Equal(t, int64(700), text.Smaller(AsPhoto).Bytes)

	stamped := text
	stamped.Kind = ColourText
	assert.Equal(t, []int64{1000, 700, 100}, bytes(stamped, Auto), "colour is not lost without asking")
	misread := 0.9
	unlike := text
	unlike.Candidates = slices.Clone(text.Candidates)
	unlike.Candidates[4].Words = &misread
	assert.Equal(t, []int64{1000, 700, 100}, bytes(unlike, Auto), "nor what is read otherwise")
	assert.Equal(t, []int64{40}, bytes(unlike, InBlack), "unless somebody decided so")
	few := Measured{Kind: BlackText, Candidates: text.Candidates[:2]}
	assert.Equal(t, []int64{1000}, bytes(few, InBlack), "what was not measured is not chosen")
}

func BenchmarkFit(b *testing.B) {
	for _, count := range []int{20, 100, 1000} {
		pages := versionsOf(rand.New(rand.NewPCG(5, 6)), count, 9)
		largest, _ := sizeOf(pages, make([]int, len(pages)))
		b.Run(fmt.Sprint(count), func(b *testing.B) {
			for b.Loop() {
				ChooseWithinBudget(pages, largest/3)
			}
		})
	}
}

func TestWordsAgree(t *testing.T) {
	words := strings.Fields(prose)
	share, known := WordsAgree(words, words)
	assert.True(t, known)
	assert.InDelta(t, 1, share, 0)
	misread := slices.Clone(words)
	misread[3], misread[7] = "wi1l", "ot"
	share, _ = WordsAgree(words, append(misread, "the", "the"))
	assert.InDelta(t, 1-2/float64(len(words)), share, 1e-9, "each is read as often as it stands there")
	_, known = WordsAgree(words[:10], nil)
	assert.False(t, known, "of few words nothing is concluded")
}

func TestGrey(t *testing.T) {
	sampling.Heavy(t)
	scene := scene(7)
	m, _, err := Measure(scene, testDPI, 1<<30, Fully)
	require.NoError(t, err)
	assert.Contains(t, m.Overrides(), InGrey)
	colour, grey := m.Smaller(Auto), m.Smaller(InGrey)
	assert.False(t, colour.Grey, "colour is not lost without asking")
	assert.Equal(t, EncodingParams{Resized, colour.DPI, colour.Quality, true}, grey.EncodingParams)
	assert.Less(t, grey.Bytes, colour.Bytes)
	for _, v := range m.Allowed(InGrey) {
		assert.True(t, v.Grey, "%+v", v)
	}
	compressed, err := Write(scene, testDPI, grey.EncodingParams)
	require.NoError(t, err)
	assert.True(t, compressed.JPEG.Gray)
	assert.EqualValues(t, compressed.Bytes(), grey.Bytes)
	refined, err := RefineQuality(scene, testDPI, grey, nil, 10_000)
	require.NoError(t, err)
	assert.True(t, refined.Grey)
	assert.Greater(t, refined.Bytes, grey.Bytes)

	m, _, err = Measure(raster.ToGray(scene), testDPI, 1<<30, Fully)
	require.NoError(t, err)
	assert.NotContains(t, m.Overrides(), InGrey, "it has no colour")
	assert.Equal(t, m.Candidates[:1], m.Allowed(InGrey))
}
