package packet

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/finish"
	"dorbin/core/geometry"
)

// switched is the command that switches made pages on or off.
func switched(cover, contents, sheets bool) Finish {
	f := finish.Default()
	f.Cover.On, f.Contents.On, f.Sheets.On = cover, contents, sheets
	return Finish{Cover: &f.Cover, Contents: &f.Contents, Sheets: &f.Sheets}
}

// kinds writes a packet with its made pages as words: "Cover: cover | A: sheet p2 p3".
func kinds(p Packet) string {
	text := drawn(p)
	for _, part := range p.Parts {
		for _, page := range part.Pages {
			if page.IsMade() {
				text = strings.Replace(text, " "+string(page.ID), " "+string(page.Made), 1)
			}
		}
	}
	return text
}

func TestMadePages(t *testing.T) {
	all := switched(true, true, true)
	made := func(p Packet, made finish.Made, n int) PageID {
		for _, page := range p.Pages() {
			if page.Made == made {
				if n--; n == 0 {
					return page.ID
				}
			}
		}
		return ""
	}
	for name, c := range map[string]struct {
		act   func(p Packet) Command
		want  string
		words string
	}{
		"nothing more": {
			func(Packet) Command { return Rename{Title: "Test"} },
			"Cover: cover | Contents: contents | A: sheet p2 p3 p4 | B: sheet p6 p7", "Renamed the packet to “Test”",
		},
		"the cover is removed": {
			func(p Packet) Command { return SetAside{On(made(p, finish.CoverPage, 1))} },
			"Contents: contents | A: sheet p2 p3 p4 | B: sheet p6 p7", "Set aside page 1, then switched off the cover",
		},
		"the contents are switched off": {
			func(Packet) Command { return Finish{Contents: &finish.Contents{Title: "Contents", Face: "sans"}} },
			"Cover: cover | A: sheet p2 p3 p4 | B: sheet p6 p7", "Switched off the contents",
		},
		"a sheet is removed": {
			func(p Packet) Command { return SetAside{On(made(p, finish.SheetPage, 2))} },
			"Cover: cover | Contents: contents | A: sheet p2 p3 p4 | B: p6 p7", "Set aside page 7",
		},
		"all sheets become labels": {
			func(Packet) Command {
				f := finish.Default().Sheets
				f.On, f.As = true, finish.AsLabel
				return Finish{Sheets: &f}
			},
			"Cover: cover | Contents: contents | A: p2 p3 p4 | B: p6 p7", "Changed part sheets",
		},
		"the last page of a part is removed": {
			func(Packet) Command { return SetAside{On("p6", "p7")} },
			"Cover: cover | Contents: contents | A: sheet p2 p3 p4 [p6] [p7]", "Set aside 2 pages",
		},
		"a new part": {
			func(Packet) Command { return Split{Selected: On("p4"), Title: "C"} },
			"Cover: cover | Contents: contents | A: sheet p2 p3 | C: sheet p4 | B: sheet p6 p7", "Made page 6 a part of its own",
		},
		"parts are joined": {
			func(Packet) Command { return Join{Parts: []PartID{"s1", "s5"}} },
			"Cover: cover | Contents: contents | A: sheet p2 p3 p4 p6 p7", "Joined 2 parts into “A”",
		},
		"a page is put before a sheet": {
			func(p Packet) Command {
				return Move{On("p7"), Destination{Before: made(p, finish.SheetPage, 1)}}
			},
			"Cover: cover | Contents: contents | A: sheet p7 p2 p3 p4 | B: sheet p6", "Moved page 9 to 3",
		},
		"the cover is moved": {
			func(p Packet) Command { return Move{On(made(p, finish.CoverPage, 1)), Destination{After: "p7"}} },
			"Contents: contents | A: sheet p2 p3 p4 | B: sheet p6 p7 cover", "Moved page 1 to 9",
		},
		"a part for each file": {
			func(Packet) Command { return PartPerSource{} },
			"Cover: cover | Contents: contents | File 3: sheet p2 p3 p4 | File 2: sheet p6 p7", "Made 2 parts, one for each file",
		},
	} {
		t.Run(name, func(t *testing.T) {
			before := apply(t, twoParts(t), all)
			after, words, err := Apply(before, []Command{c.act(before)}, sizes)
			require.NoError(t, err)
			assert.Equal(t, c.want, kinds(after))
			assert.Equal(t, c.words, words.English)
			back, err := Diff(before, after).Back(after)
			require.NoError(t, err)
			assert.Equal(t, kinds(before), kinds(back))
			assert.Equal(t, before.Finish, back.Finish)
		})
	}
}

// TestAPageOfThePacketIsTheCover has one in place of a made one, until it is removed.
func TestAPageOfThePacketIsTheCover(t *testing.T) {
	p := apply(t, twoParts(t), switched(true, false, false))
	f := finish.Default()
	f.Cover.On, f.Cover.Own = true, "p6"
	f.Numbers.On = true
	p = apply(t, p, Finish{Cover: &f.Cover, Numbers: &f.Numbers}, Move{On("p6"), Destination{Before: "p2"}})
	assert.Equal(t, "A: p6 p2 p3 p4 | B: p7", kinds(p))
	pages := p.FinishPages(PageFacts{})
	assert.True(t, pages[0].Without.Number, "the cover has no number")
	assert.False(t, pages[1].Without.Number)
	next, words, err := Apply(p, []Command{SetAside{On("p6")}}, sizes)
	require.NoError(t, err)
	assert.Equal(t, "A: p2 p3 p4 | B: p7 [p6]", kinds(next))
	assert.Equal(t, "Set aside page 1, then switched off the cover", words.English)
	assert.False(t, next.Finish.Cover.On)
}

func TestMadePagesAreNotCopied(t *testing.T) {
	p := apply(t, twoParts(t), switched(true, true, true))
	cover := p.Pages()[0].ID
	for _, c := range []Command{Duplicate{On(cover)}, Copy{On(cover), Destination{After: "p2"}}, Bring{From: "k2", FromPages: []PageID{cover}}} {
		_, _, err := Apply(p, []Command{c}, Known{Foreign: func(Bring) (Foreign, error) { return Foreign{Pages: p.Pages()[:1]}, nil }})
		assert.ErrorContains(t, err, "cannot be copied", "%T", c)
	}
}

// TestContentsGrow has contents take as many pages as they need, and give them back.
func TestContentsGrow(t *testing.T) {
	p := apply(t, New("Many"), Place{Source: "f90", Title: "All"}, switched(false, true, false))
	assert.Equal(t, 1, p.countMade(finish.ContentsPage))
	p = apply(t, p, Divide{Selected: InRange("2-91")})
	assert.Equal(t, 3, p.countMade(finish.ContentsPage))
	assert.Len(t, p.Parts[0].Pages, 3)
	third := p.Parts[0].Pages[2].ID
	assert.Zero(t, apply(t, p, SetAside{On(third)}).countMade(finish.ContentsPage), "one that is removed takes all with it")
	p = apply(t, p, SetAside{InRange("part 30")})
	p = apply(t, p, Join{Parts: []PartID{p.Parts[3].ID, p.Parts[4].ID}})
	p = apply(t, p, SetAside{InRange("20-last")})
	assert.Equal(t, 1, p.countMade(finish.ContentsPage))
}

func TestMadePagesAreAsLargeAsTheOthers(t *testing.T) {
	a5 := geometry.Size{Width: 595, Height: 420}
	p := apply(t, twoParts(t), InsertBlank{Size: a5, Count: 6, Destination: Destination{After: "p2"}}, switched(true, false, false))
	assert.Equal(t, a5.Turned(90), p.Pages()[0].Size())
	stamps := apply(t, twoParts(t), InsertBlank{Size: geometry.Size{Width: 57, Height: 57}, Count: 6, Destination: Destination{After: "p2"}})
	stamps = apply(t, stamps, switched(true, true, true))
	assert.Equal(t, geometry.A4, stamps.Pages()[0].Size())
}

// TestAnyChangeSettles has random commands leave a packet with the made pages that it asks for.
func TestAnyChangeSettles(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	for range 60 {
		p := apply(t, twoParts(t), switched(true, true, true))
		for range 25 {
			before := p
			c := commandOnMade(random, p)
			next, _, err := Apply(p, []Command{c}, sizes)
			if err != nil {
				continue
			}
			p = next
			back, err := Diff(before, p).Back(p)
			require.NoError(t, err)
			assert.Equal(t, kinds(before), kinds(back))
			checkMade(t, p, fmt.Sprintf("%T", c))
		}
	}
}

func commandOnMade(random *rand.Rand, p Packet) Command {
	pages := p.Pages()
	if len(pages) == 0 || random.IntN(8) == 0 {
		return switched(random.IntN(2) == 0, random.IntN(2) == 0, random.IntN(2) == 0)
	}
	page, other := pages[random.IntN(len(pages))].ID, pages[random.IntN(len(pages))].ID
	switch random.IntN(8) {
	case 0:
		return Move{On(page), Destination{After: other}}
	case 1:
		return SetAside{On(page)}
	case 2:
		if len(p.SetAside) > 0 {
			return Restore{Selected: On(p.SetAside[0].ID)}
		}
		return Reverse{InRange("all")}
	case 3:
		return Split{Selected: On(page), Title: "New"}
	case 4:
		return Join{Parts: []PartID{p.Parts[0].ID, p.Parts[len(p.Parts)-1].ID}}
	case 5:
		return PartPerSource{}
	case 6:
		return Turn{On(page), 90}
	}
	return Duplicate{On(page)}
}

func checkMade(t *testing.T, p Packet, after string) {
	t.Helper()
	f := p.Finish
	for made, on := range map[finish.Made]bool{finish.CoverPage: f.Cover.IsMade(), finish.ContentsPage: f.Contents.On} {
		assert.Equal(t, on, p.countMade(made) > 0, "%s after %s", made, after)
	}
	assert.LessOrEqual(t, p.countMade(finish.CoverPage), 1, after)
	if f.Contents.On {
		assert.Equal(t, p.contentsPages(sizes), p.countMade(finish.ContentsPage), after)
	}
	without := p.withoutSheet()
	for _, part := range p.Parts {
		_, isGiven := part.firstGiven()
		at := slices.IndexFunc(part.Pages, func(page Page) bool { return page.Made == finish.SheetPage })
		if isGiven && f.Sheets.WantsSheets() && !without[part.ID] {
			assert.Zero(t, at, "the sheet of %s after %s", part.Title, after)
		} else {
			assert.Negative(t, at, "no sheet of %s after %s", part.Title, after)
		}
	}
	assert.False(t, slices.ContainsFunc(p.SetAside, func(aside Aside) bool { return aside.IsMade() }))
	for _, page := range p.FinishPages(PageFacts{}) {
		assert.True(t, page.Size.Width > 0)
	}
}
