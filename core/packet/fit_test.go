package packet

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/problem"
)

func TestFit(t *testing.T) {
	p := threeParts(t)
	pages := p.Pages()
	ids := []PageID{pages[0].ID, pages[1].ID}
	border := geometry.SheetLayout{Margin: geometry.Margin{Left: 40}}
	next, said, err := Apply(p, []Command{Fit{Selected: On(ids...), Fit: &border, Mirrored: true}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "Added a border to 2 pages", said.English)
	after := next.Pages()
	assert.InDelta(t, 40.0, after[0].Sheet.Margin.Left, 0)
	assert.InDelta(t, 40.0, after[1].Sheet.Margin.Right, 0, "even pages have it at the other side")
	assert.InDelta(t, pages[0].Size().Width+40, after[0].Size().Width, 1e-9)

	turned, _, err := Apply(next, []Command{Turn{Selected: On(ids[:1]...), By: 90}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, after[0].Size().Turned(90), turned.Pages()[0].Size(), "the sheet turns with its page")

	a4 := geometry.SheetLayout{Paper: geometry.A4, Follow: true, Scale: geometry.Fill, Across: 0.5, Down: 0.5}
	fitted, said, err := Apply(turned, []Command{Fit{Selected: On(ids...), Fit: &a4}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "Made 2 pages A4", said.English)
	for _, page := range fitted.Pages()[:2] {
		assert.Equal(t, "A4", geometry.PaperName(page.Size()))
	}
	assert.True(t, fitted.Pages()[0].IsLandscape(), "the paper lies as the page does")

	lifted, said, err := Apply(fitted, []Command{Fit{Selected: On(ids...)}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "Left 2 pages as large as they were", said.English)
	assert.Zero(t, lifted.Pages()[0].Sheet)

	_, _, err = Apply(p, []Command{Fit{Selected: On(ids...), Fit: &geometry.SheetLayout{Across: 3}}}, Known{})
	require.ErrorIs(t, err, problem.Invalid)
}
