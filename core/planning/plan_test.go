package planning

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/shrink"
)

func candidate(encoding shrink.Encoding, bytes int64, loss float64) shrink.Candidate {
	c := shrink.AsItIs(bytes)
	c.Encoding, c.Loss, c.Fidelity = encoding, loss, 1-loss
	return c
}

// scan is a page of black text that can be written in layers, which is not seen, or black and
// white.
func scan(bytes int64) Page {
	layers := candidate(shrink.Layers, bytes/5, 0.01)
	layers.VisuallyLossless = true
	return Page{Bytes: bytes, Part: "scans", Measured: &shrink.Measured{
		Kind:       shrink.BlackText,
		Candidates: []shrink.Candidate{shrink.AsItIs(bytes), layers, candidate(shrink.OneBit, bytes/20, 0.02)},
	}}
}

// photograph loses its colour for a third of its bytes.
func photograph(bytes int64) Page {
	grey := candidate(shrink.Resized, bytes/3, 0)
	grey.Grey = true
	return Page{Bytes: bytes, Part: "photographs", Measured: &shrink.Measured{
		Kind: shrink.ContinuousTone, Coloured: true, Candidates: []shrink.Candidate{shrink.AsItIs(bytes), grey},
	}}
}

func text(bytes int64) Page { return Page{Bytes: bytes, Fixed: true, Part: "text"} }

func bytesOf(chosen []shrink.Candidate) (all []int64) {
	for _, c := range chosen {
		all = append(all, c.Bytes)
	}
	return all
}

func TestChoose(t *testing.T) {
	pages := []Page{text(10_000), scan(100_000), {Bytes: 50_000}}
	for name, c := range map[string]struct {
		target Target
		limit  int64
		want   []int64
		fits   bool
	}{
		"as it is":              {AsItIs, 0, []int64{10_000, 100_000, 50_000}, true},
		"lighter":               {Smaller, 0, []int64{10_000, 20_000, 10_000}, true},
		"fits as it is":         {Fit, 160_000, []int64{10_000, 100_000, 50_000}, true},
		"one page is made less": {Fit, 80_000, []int64{10_000, 20_000, 50_000}, true},
		"all that can be":       {Fit, 25_000, []int64{10_000, 5_000, 10_000}, true},
		"cannot be":             {Fit, 20_000, []int64{10_000, 5_000, 10_000}, false},
	} {
		chosen, fits := Choose(pages, c.target, c.limit)
		assert.Equal(t, c.want, bytesOf(chosen), name)
		assert.Equal(t, c.fits, fits, name)
	}
	pages[1].Override = shrink.KeepAsItIs
	for _, target := range []Target{Smaller, Fit} {
		chosen, _ := Choose(pages, target, 20_000)
		assert.Equal(t, int64(100_000), chosen[1].Bytes, "what was decided counts")
	}
}

func TestScope(t *testing.T) {
	assert.Equal(t, shrink.LosslessOnly, Smaller.Scope(false))
	assert.Equal(t, shrink.Fully, Fit.Scope(false))
	assert.Equal(t, shrink.Fully, Smaller.Scope(true))
}

func TestRemedies(t *testing.T) {
	kept := scan(400_000)
	kept.Override = shrink.KeepAsItIs
	pages := []Page{text(900_000), photograph(300_000), kept, scan(1000), text(10), text(20)}
	remedies := Remedies(pages)
	require.Len(t, remedies, 4)
	assert.Equal(t, Remedy{Page: 2, Bytes: 400_000, Free: true, Saves: 380_000, Fidelity: 0.98}, remedies[0])
	assert.Equal(t, Remedy{Page: 1, Bytes: 300_000, Override: shrink.InGrey, Saves: 200_000, Fidelity: 1}, remedies[1])
	assert.Equal(t, Remedy{Page: 0, Bytes: 900_000}, remedies[2], "the largest page, though nothing helps")
	assert.Empty(t, Remedies(nil))
}

func TestFiles(t *testing.T) {
	pages := []Page{scan(100_000), scan(100_000), photograph(15_000), text(9_000)}
	smaller, _ := Choose(pages, Smaller, 0)
	assert.Equal(t, 1, Files(pages, smaller, 66_000+Overhead))
	assert.Equal(t, 2, Files(pages, smaller, 40_000+Overhead))
	assert.Zero(t, Files(pages, smaller, 19_000), "a page alone is larger")
	asTheyAre, _ := Choose(pages, AsItIs, 0)
	assert.Equal(t, 2, Files(pages, asTheyAre, 200_000+Overhead))
}
