package packet

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/finish"
	"dorbin/core/problem"
)

// FuzzApply carries out whatever the API may be sent. A list of commands is refused whole,
// with an error that a user can read, or leads to a packet in which every page is in one
// place, and that can be taken back, also after it was stored.
func FuzzApply(f *testing.F) {
	for _, seed := range []string{
		`[{"do":"move","pages":["p2"],"after":"p6"}]`,
		`[{"do":"turn","range":"odd of part 1, not last","by":90},{"do":"flip","pages":["p3"],"axis":"topBottom"}]`,
		`[{"do":"crop","pages":["p2","p3"],"boxes":{"p2":{"x0":1,"y0":1,"x1":99,"y1":99}}}]`,
		`[{"do":"crop","range":"all","box":{"x0":1,"y0":1,"x1":99,"y1":99},"mirrored":true}]`,
		`[{"do":"outline","pages":["p2"],"outline":[{"x":0,"y":0},{"x":1,"y":0},{"x":1,"y":1},{"x":0,"y":1}]},{"do":"cut","pages":["p2"],"fold":{"top":0.5,"bottom":0.5}}]`,
		`[{"do":"fit","pages":["p2"],"fit":{"paper":{"width":420,"height":595},"scale":"shrink","margin":{"top":9}},"mirrored":true}]`,
		`[{"do":"slice","breaks":{"p2":[0.3,0.6],"p3":[0.5]},"paper":{"width":595,"height":842}},{"do":"slice","breaks":{"p2":[0.5]}}]`,
		`[{"do":"straighten","pages":["p2"],"angle":3},{"do":"tone","pages":["p2"],"tone":{"mode":"blackWhite"}},{"do":"clean","pages":["p2"],"clean":{"edges":true}}]`,
		`[{"do":"paint","pages":["p2"],"box":{"x0":1,"y0":1,"x1":99,"y1":99}},{"do":"paint","pages":["p2"],"at":0}]`,
		`[{"do":"picture","pages":["p2"],"picture":true},{"do":"annotate","pages":["p2"],"annotations":{"fields":"fixed","comments":"leftOut"}},{"do":"note","pages":["p2"],"title":"x"}]`,
		`[{"do":"setAside","pages":["p2"]},{"do":"restore","pages":["p2"],"part":"s5","at":1}]`,
		`[{"do":"keepOnly","range":"first 2"},{"do":"duplicate","pages":["p2"]},{"do":"insertBlank","size":{"width":100,"height":100},"before":"p2"}]`,
		`[{"do":"arrange","pages":["p3","p2"]},{"do":"swap","pages":["p2","p6"]},{"do":"reverse","range":"all"},{"do":"interleave","range":"all","backwards":true},{"do":"deal","range":"all"},{"do":"sort","range":"all"}]`,
		`[{"do":"split","pages":["p3"],"title":"x"},{"do":"divide","pages":["p7"],"titles":["y"]},{"do":"join","parts":["s1","s5"]},{"do":"movePart","part":"s1","at":1}]`,
		`[{"do":"partPerSource"},{"do":"expect","count":7},{"do":"rename","title":"x"},{"do":"renamePart","part":"s1","title":"y"}]`,
		`[{"do":"finish","cover":{"on":true,"design":"plain","face":"sans","colour":"#000000","title":"x"},"contents":{"on":true,"title":"x","face":"serif"},"sheets":{"on":true,"as":"sheet","text":"x","face":"sans","size":9,"colour":"#000000","side":"left"}},{"do":"setAside","range":"first 1"},{"do":"reverse","range":"all"}]`,
		`[{"do":"receiver","receiver":{"name":"Fund","rules":{"fileBytes":4000000,"sizes":[]},"papers":[{"title":" Form "}]}},{"do":"paper","parts":["s1"],"paper":"Form"},{"do":"receiver"}]`,
		`[{"do":"copy","pages":["p2","p6"],"after":"p3"},{"do":"bring","from":"k2","fromPages":["p2"]}]`,
		`[{"do":"place","source":"f4","take":[4,1,1],"replace":["p2"]},{"do":"removeSource","source":"f3"},{"do":"returnSource","source":"f3"}]`,
	} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		var commands Commands
		if json.Unmarshal([]byte(text), &commands) != nil || len(commands) > 8 {
			return
		}
		before := twoParts(t)
		after, words, err := Apply(before, commands, sizes)
		if err != nil {
			require.ErrorIs(t, err, problem.Invalid)
			assert.NotEmpty(t, err.Error())
			assert.Equal(t, before, after, "nothing was done")
			return
		}
		assert.NotEmpty(t, words.English)
		seen := map[PageID]bool{}
		for _, part := range after.Parts {
			assert.NotEmpty(t, part.Pages, "a part is never empty")
		}
		for _, page := range after.Pages() {
			assert.False(t, seen[page.ID], "page %s is in two places", page.ID)
			seen[page.ID] = true
			size := page.Size()
			assert.True(t, size.Width > 0 && size.Height > 0, "page %s has no size", page.ID)
		}
		for _, aside := range after.SetAside {
			assert.False(t, seen[aside.ID], "page %s is in two places", aside.ID)
			seen[aside.ID] = true
		}

		pages := after.FinishPages(PageFacts{})
		assert.Len(t, after.Finish.Marks(pages, finish.Facts{}), len(pages))

		var delta Delta
		stored, err := json.Marshal(Diff(before, after))
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(stored, &delta))
		back, err := delta.Back(after)
		require.NoError(t, err)
		back.LastID = before.LastID
		assert.True(t, Diff(before, back).Empty(), "it is taken back")
	})
}
