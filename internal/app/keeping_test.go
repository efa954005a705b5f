package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/requirements"
	"dorbin/internal/handin"
	"dorbin/internal/keeping"
	"dorbin/internal/store"
)

// TestAPacketIsDeletedWhenItsDayHasCome keeps packets for some days, and a line of what was handed in
// of one of them.
func TestAPacketIsDeletedWhenItsDayHasCome(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	today := time.Now()
	day := func(in int) string { return today.AddDate(0, 0, in).Format(time.DateOnly) }
	handedIn := func() string {
		id, made := formMade(t, a)
		_, err := a.HandIn.Start(t.Context(), made, handin.Order{Delivery: requirements.Delivery{By: requirements.ByDownload}, Answer: "No. 17"})
		require.NoError(t, err)
		return id
	}
	withLine, without, kept := handedIn(), handedIn(), handedIn()
	for id, order := range map[string]keeping.KeepOrder{withLine: {Until: day(3), Lines: true}, without: {Until: day(3)}} {
		_, err := a.Keeping.Set(t.Context(), id, order)
		require.NoError(t, err)
	}
	for want, until := range map[string]string{"is over": day(-1), "is no day": "tomorrow"} {
		_, err := a.Keeping.Set(t.Context(), kept, keeping.KeepOrder{Until: until})
		require.ErrorContains(t, err, want)
	}
	_, err := a.Keeping.Set(t.Context(), "nobody", keeping.KeepOrder{})
	require.ErrorIs(t, err, store.ErrNotFound)

	require.NoError(t, a.Keeping.DeleteDue(t.Context(), today.AddDate(0, 0, 3)))
	cards, err := a.Packets.List(t.Context())
	require.NoError(t, err)
	assert.Len(t, cards, 3, "the last day is one of those on which it is kept")
	require.NoError(t, a.Keeping.DeleteDue(t.Context(), today.AddDate(0, 0, 4)))
	cards, err = a.Packets.List(t.Context())
	require.NoError(t, err)
	require.Len(t, cards, 1)
	assert.Equal(t, kept, cards[0].ID)
	assert.Empty(t, cards[0].KeptUntil)

	lines, err := a.Keeping.Lines(t.Context())
	require.NoError(t, err)
	require.Len(t, lines, 1)
	assert.Equal(t, "No. 17", lines[0].Answer.English)
	assert.Equal(t, "Tarn Valley Fund", lines[0].Receiver)
	assert.Equal(t, 4, lines[0].Pages)
	require.NoError(t, a.Keeping.ForgetLine(t.Context(), lines[0].ID))
	require.ErrorIs(t, a.Keeping.ForgetLine(t.Context(), lines[0].ID), store.ErrNotFound)
}

func TestWhatIsDeletedIsCounted(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id, made := formMade(t, a)
	_, err := a.HandIn.Start(t.Context(), made, handin.Order{Delivery: requirements.Delivery{By: requirements.ByDownload}})
	require.NoError(t, err)
	e, err := a.Export.Get(t.Context(), made)
	require.NoError(t, err)
	k, err := a.Keeping.Get(t.Context(), id)
	require.NoError(t, err)
	assert.True(t, k.Lines)
	form := int64(len(paper(t, "application-form.pdf")))
	went, err := a.Keeping.Delete(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, keeping.Holdings{Sources: 1, Pages: 4, Texts: went.Texts, Exports: 1, HandedIn: 1, Bytes: form + e.Receipt.Bytes}, went)
	_, err = a.Keeping.Delete(t.Context(), id)
	require.ErrorIs(t, err, store.ErrNotFound)
}
