package scanning

import (
	"dorbin/core/check"
	"dorbin/core/problem"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// batchOf is a batch as it grows. Pages are named after what they are of: the front of the
// third sheet is f3, its back b3.
type batchOf struct{ batchState }

// arrive has pages arrive, each with a version of its own.
func (b *batchOf) arrive(into landing, ids ...string) {
	for _, id := range ids {
		b.Version++
		b.land(batchPage{ID: id, Arrived: b.Version}, &into)
	}
}

func (b *batchOf) order() string {
	ids := make([]string, len(b.Pages))
	for i, page := range b.Pages {
		ids[i] = page.ID
	}
	return strings.Join(ids, " ")
}

// put arranges the pages as a user does who saw the batch at a version.
func (b *batchOf) put(t *testing.T, version int, ids ...string) {
	t.Helper()
	order := make([]BatchOrder, len(ids))
	for i, id := range ids {
		order[i] = BatchOrder{ID: id}
	}
	b.Version++
	require.NoError(t, b.arrange(version, order))
}

func (b *batchOf) backs(ids ...string) {
	into := landing{isBacks: true}
	b.beginPass(into)
	b.arrive(into, ids...)
	b.interleave()
}

func TestBacksMatchTheirFronts(t *testing.T) {
	for name, c := range map[string]struct {
		scan func(*batchOf)
		want string
	}{
		"all of them":              {func(b *batchOf) { b.backs("b4", "b3", "b2", "b1") }, "f1 b1 f2 b2 f3 b3 f4 b4"},
		"a front was removed":      {func(b *batchOf) { b.put(t, b.Version, "f1", "f3", "f4"); b.backs("b4", "b3", "b2", "b1") }, "f1 b1 b2 f3 b3 f4 b4"},
		"the first was removed":    {func(b *batchOf) { b.put(t, b.Version, "f2", "f3", "f4"); b.backs("b4", "b3", "b2", "b1") }, "b1 f2 b2 f3 b3 f4 b4"},
		"the last was removed":     {func(b *batchOf) { b.put(t, b.Version, "f1", "f2", "f3"); b.backs("b4", "b3", "b2", "b1") }, "f1 b1 f2 b2 f3 b3 b4"},
		"all but one were removed": {func(b *batchOf) { b.put(t, b.Version, "f2"); b.backs("b4", "b3", "b2", "b1") }, "b1 f2 b2 b3 b4"},
		"fronts were moved":        {func(b *batchOf) { b.put(t, b.Version, "f4", "f1", "f2", "f3"); b.backs("b4", "b3", "b2", "b1") }, "f4 b4 f1 b1 f2 b2 f3 b3"},
		"a front was scanned again": {func(b *batchOf) {
			b.arrive(landing{replace: "f2"}, "n2")
			b.backs("b4", "b3", "b2", "b1")
		}, "f1 b1 n2 b2 f3 b3 f4 b4"},
		"a front came later into its gap": {func(b *batchOf) {
			b.arrive(landing{after: "f2"}, "f2½")
			b.backs("b4", "b3", "b2½", "b2", "b1")
		}, "f1 b1 f2 b2 f2½ b2½ f3 b3 f4 b4"},
		"the last sheets alone": {func(b *batchOf) { b.backs("b4", "b3") }, "f1 f2 f3 b3 f4 b4"},
		"a back was removed while others came": {func(b *batchOf) {
			into := landing{isBacks: true}
			b.beginPass(into)
			b.arrive(into, "b4", "b3")
			b.put(t, b.Version, "f1", "f2", "f3", "f4", "b3")
			b.arrive(into, "b2", "b1")
			b.interleave()
		}, "f1 b1 f2 b2 f3 b3 f4"},
		"in two passes, as the first broke off": {func(b *batchOf) {
			into := landing{isBacks: true}
			b.beginPass(into)
			b.arrive(into, "b4", "b3")
			b.backs("b2", "b1")
		}, "f1 b1 f2 b2 f3 b3 f4 b4"},
		"all again, as the first pass broke off": {func(b *batchOf) {
			into := landing{isBacks: true}
			b.beginPass(into)
			b.arrive(into, "x4", "x3")
			b.put(t, b.Version, "f1", "f2", "f3", "f4")
			b.backs("b4", "b3", "b2", "b1")
		}, "f1 b1 f2 b2 f3 b3 f4 b4"},
		"of a second stack": {func(b *batchOf) {
			b.backs("b4", "b3", "b2", "b1")
			b.arrive(landing{}, "g1", "g2")
			b.backs("h2", "h1")
		}, "f1 b1 f2 b2 f3 b3 f4 b4 g1 h1 g2 h2"},
		"too many": {func(b *batchOf) { b.backs("b5", "b4", "b3", "b2", "b1") }, "f1 f2 f3 f4 b5 b4 b3 b2 b1"},
	} {
		t.Run(name, func(t *testing.T) {
			b := &batchOf{}
			b.arrive(landing{}, "f1", "f2", "f3", "f4")
			c.scan(b)
			assert.Equal(t, c.want, b.order())
			assert.Equal(t, name == "too many", !b.Problem.IsEmpty())
		})
	}
}

// TestBacksNeverLoseAPage removes every set of fronts and backs there is.
func TestBacksNeverLoseAPage(t *testing.T) {
	const sheets = 4
	for removed := range 1 << sheets {
		for count := range sheets + 2 {
			b := &batchOf{}
			var kept []string
			for i := range sheets {
				id := fmt.Sprintf("f%d", i)
				b.arrive(landing{}, id)
				if removed&(1<<i) == 0 {
					kept = append(kept, id)
				}
			}
			b.put(t, b.Version, kept...)
			var backs []string
			for i := range count {
				backs = append(backs, fmt.Sprintf("b%d", i))
			}
			b.backs(backs...)
			assert.ElementsMatch(t, append(kept, backs...), strings.Fields(b.order()))
		}
	}
}

func TestAPageThatArrivesWhileOthersAreArrangedStays(t *testing.T) {
	b := &batchOf{}
	b.arrive(landing{}, "a", "b", "c")
	seen := b.Version
	b.arrive(landing{}, "d")
	b.put(t, seen, "c", "a") // b is dropped, d has not been seen
	assert.Equal(t, "c a d", b.order())

	seen = b.Version
	b.arrive(landing{after: "c"}, "x", "y")
	b.put(t, seen, "a", "d", "c")
	assert.Equal(t, "a d c x y", b.order(), "behind the page that they came after")

	b.put(t, b.Version, "a")
	assert.Equal(t, "a", b.order(), "what was seen and is not named is dropped")
	require.ErrorIs(t, b.arrange(b.Version, []BatchOrder{{ID: "a"}, {ID: "a"}}), problem.Invalid)
	require.ErrorIs(t, b.arrange(b.Version, []BatchOrder{{ID: "gone"}}), problem.Invalid)
}

func TestAScanThatIsOverDoesNotEndTheNext(t *testing.T) {
	s := scans{under: map[string]*underWay{}}
	first, ok := s.start("k", func() {})
	require.True(t, ok)
	_, ok = s.start("k", func() {})
	require.False(t, ok, "one at a time")
	s.end("k", first)
	_, ok = s.start("k", func() {})
	require.True(t, ok)
	s.end("k", first)
	assert.True(t, s.running("k"))
}

func TestSheetsAreCountedForWhatTheyAre(t *testing.T) {
	b := &batchOf{}
	b.count(ScanRequest{Sheets: 3, Duplex: true})
	b.arrive(landing{}, "1", "1b", "2", "2b", "3")
	assert.Equal(t, 1, b.missing())

	b.Pages[1].IsBlank, b.Pages[3].IsBlank = true, true
	b.put(t, b.Version, "1", "2", "3")
	assert.Equal(t, 1, b.missing(), "blank backs that were removed did come")
	assert.Equal(t, 4, b.expected())

	glass := batchPage{ID: "glass", IsExtra: true}
	b.land(glass, &landing{})
	assert.Equal(t, 1, b.missing(), "a page from the glass is of no sheet")
	again := batchPage{ID: "3 again"}
	b.land(again, &landing{replace: "3"})
	assert.Equal(t, 1, b.missing(), "a page that is scanned again is the same page")
	b.land(batchPage{ID: "3b"}, &landing{after: "3 again"})
	assert.Zero(t, b.missing(), "what fills the gap is counted")
	assert.Zero(t, (&batchState{Pages: make([]batchPage, 4)}).missing(), "nobody said how many")
}

func TestGapsAcrossBlankBacks(t *testing.T) {
	number := func(n int) batchPage { return batchPage{Printed: check.Printed{Number: n, Of: 5}} }
	blank := batchPage{IsBlank: true}
	state := batchState{Pages: []batchPage{number(1), blank, number(2), blank, number(4), blank}}
	assert.Equal(t, []check.Gap{{After: 4, Missing: 1}, {After: 6, Missing: 1}}, state.gaps())
}

func TestRemovedPagesComeBack(t *testing.T) {
	b := &batchOf{}
	b.arrive(landing{}, "1", "2", "3")
	b.put(t, b.Version, "3")
	assert.Equal(t, "3", b.order())
	b.put(t, b.Version, "1", "2", "3")
	assert.Equal(t, "1 2 3", b.order())
	assert.Empty(t, b.Removed)
	require.Error(t, b.arrange(b.Version, []BatchOrder{{ID: "9"}}))
}
