package finish

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/message"
)

func pages(parts ...int) []Page {
	var all []Page
	for part, count := range parts {
		for i := range count {
			all = append(all, Page{Size: geometry.A4, Part: fmt.Sprintf("Part %d", part+1), Begins: i == 0})
		}
	}
	return all
}

func numbers(change func(*Numbers)) Finish {
	f := Default()
	f.Numbers.On = true
	change(&f.Numbers)
	return f
}

func texts(f Finish, pages []Page) []string {
	written := make([]string, len(pages))
	for i, marks := range f.Marks(pages, Facts{}) {
		for _, mark := range marks {
			written[i] = mark.Text
		}
	}
	return written
}

func TestNumbers(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*Numbers)
		pages  []Page
		want   []string
		labels []string
	}{
		"from page 2": {
			func(n *Numbers) { n.From = 2 }, pages(3), []string{"", "1/2", "2/2"}, []string{"", "1", "2"},
		},
		"from 7": {
			func(n *Numbers) { n.First, n.Style = 7, OfTotal }, pages(2), []string{"Page 7 of 8", "Page 8 of 8"}, []string{"7", "8"},
		},
		"anew in each part": {
			func(n *Numbers) { n.PerPart = true }, pages(2, 1), []string{"1/2", "2/2", "1/1"}, []string{"1", "2", "1"},
		},
		"up to page 2": {
			func(n *Numbers) { n.To, n.Style = 2, Dashes }, pages(3), []string{"- 1 -", "- 2 -", ""}, []string{"1", "2", ""},
		},
		"Roman": {
			func(n *Numbers) { n.First, n.Style = 3998, Roman }, pages(3),
			[]string{"mmmcmxcviii", "mmmcmxcix", "4000"}, []string{"mmmcmxcviii", "mmmcmxcix", "4000"},
		},
		"prefixed": {
			func(n *Numbers) { n.Style, n.Digits, n.Prefix = Prefixed, 6, "LRC " }, pages(2), []string{"LRC 000001", "LRC 000002"}, []string{"LRC 000001", "LRC 000002"},
		},
		"skipped": {
			func(n *Numbers) { n.Style = Plain }, []Page{{Size: geometry.A4}, {Size: geometry.A4, Without: Without{Number: true}}, {Size: geometry.A4}},
			[]string{"1", "", "2"}, []string{"1", "", "2"},
		},
	} {
		f := numbers(c.change)
		assert.Equal(t, c.want, texts(f, c.pages), name)
		assert.Equal(t, c.labels, f.Labels(c.pages), name)
	}
	assert.Nil(t, Default().Labels(pages(2)), "numbers are off")
	assert.Empty(t, strings.Join(texts(Default(), pages(2)), ""))
}

// TestNumbersAgree holds what is written, what readers show and the totals against each other.
func TestNumbersAgree(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for range 300 {
		all := pages(1+random.IntN(5), 1+random.IntN(5), 1+random.IntN(9))
		for i := range all {
			all[i].Without.Number = random.IntN(6) == 0
		}
		f := numbers(func(n *Numbers) {
			n.First, n.From, n.PerPart, n.Style = random.IntN(30), 1+random.IntN(len(all)), random.IntN(2) == 0, Slash
			if random.IntN(2) == 0 {
				n.To = n.From + random.IntN(4)
			}
		})
		labels, last := f.Labels(all), -1
		for i, text := range texts(f, all) {
			number, total, found := strings.Cut(text, "/")
			assert.Equal(t, labels[i], number)
			if !found {
				assert.Empty(t, text)
				continue
			}
			n, _ := strconv.Atoi(number)
			of, _ := strconv.Atoi(total)
			assert.GreaterOrEqual(t, of, n)
			assert.True(t, n == last+1 || n == f.Numbers.First, "numbers go on, or begin anew")
			last = n
		}
	}
}

func TestFieldsOfALine(t *testing.T) {
	f := Default()
	f.Header = Line{On: true, Texts: Texts{"{packet}", "{part}", "{page} / {pages}, {date}"}, Mirror: true, Rule: true, Writing: f.Header.Writing}
	marks := f.Marks(pages(1, 1), Facts{Packet: "Roof", Date: "3 March 2026"})
	var said [2][]string
	for i := range marks {
		for _, mark := range marks[i] {
			said[i] = append(said[i], mark.Text)
		}
	}
	assert.Equal(t, []string{"Roof", "Part 1", "1 / 2, 3 March 2026", ""}, said[0])
	assert.Equal(t, []string{"2 / 2, 3 March 2026", "Part 2", "Roof", ""}, said[1], "left and right change places")
	assert.True(t, marks[0][3].Rule)
}

// TestPlaces keeps every text at its distance from the paper's edges, on pages of all sizes.
func TestPlaces(t *testing.T) {
	for _, size := range []geometry.Size{geometry.A4, geometry.A4.Turned(90), {Width: 57, Height: 57}, {Width: 2000, Height: 300}} {
		for _, side := range []Side{Left, Middle, Right, Outer} {
			for _, head := range []bool{false, true} {
				f := numbers(func(n *Numbers) { n.Side, n.Head, n.Edge, n.Style = side, head, 10, Plain })
				all := f.Marks([]Page{{Size: size}, {Size: size}}, Facts{})
				for i, marks := range all {
					mark := marks[0]
					left, right := mark.At.X, size.Width-mark.At.X-mark.Width
					switch side.on(i) {
					case Left:
						assert.InDelta(t, 10, left, 1e-9)
					case Right:
						assert.InDelta(t, 10, right, 1e-9)
					case Middle:
						assert.InDelta(t, left, right, 1e-9)
					}
					if head {
						assert.InDelta(t, 10, mark.At.Y-mark.Face.Metrics().CapHeight*mark.Size, 1e-9)
					} else {
						assert.InDelta(t, 10, size.Height-mark.At.Y, 1e-9)
					}
				}
			}
		}
	}
}

func TestWhatMakesNoSense(t *testing.T) {
	for want, f := range map[string]Finish{
		"begin at 0 or above, not at -1":           numbers(func(n *Numbers) { n.First = -1 }),
		"from 1 to 5, not on 6":                    numbers(func(n *Numbers) { n.From = 6 }),
		"cannot end on page 2":                     numbers(func(n *Numbers) { n.From, n.To = 3, 2 }),
		"from 4 to 72 points, not 200":             numbers(func(n *Numbers) { n.Size = 200 }),
		"no colour":                                numbers(func(n *Numbers) { n.Colour = "red" }),
		"does not have the letter '漢'":             {Header: Line{Texts: Texts{Left: "漢"}, Writing: Default().Header.Writing}},
		"at most 500 letters, this one has 10000":  {Footer: Line{Texts: Texts{Left: strings.Repeat("x", 10_000)}, Writing: Default().Footer.Writing}},
		"the author has at most 500 letters":       {Properties: Properties{Author: strings.Repeat("x", 501)}},
		"opens at a page from 1 to 5, not at 9":    {Opening: Opening{Layout: "page", Fit: "page", Page: 9}},
		`opens by page, scroll or facing, not "x"`: {Opening: Opening{Layout: "x"}},
	} {
		assert.ErrorContains(t, f.Check(5), want)
	}
	assert.NoError(t, Finish{}.Check(0))
	assert.NoError(t, Default().Check(0))
	assert.Equal(t, Default(), Finish{}.OrDefaults())
}

func TestMisfits(t *testing.T) {
	f := numbers(func(*Numbers) {})
	f.Footer = Line{On: true, Texts: Texts{Right: "Larkmere Rowing Club"}, Writing: f.Footer.Writing}
	f.Header = Line{On: true, Texts: Texts{Left: strings.Repeat("A long header. ", 20)}, Writing: f.Header.Writing}
	all := pages(2)
	blank := seenAs(func(int, geometry.Box) bool { return false })
	var said []string
	for _, misfit := range f.Misfits(all, f.Marks(all, Facts{}), blank) {
		said = append(said, misfit.Sentence.English)
	}
	assert.Equal(t, []string{
		"On page 1 the header is too long for the page.", "On page 1 the page number lies on another text.",
		"On page 2 the header is too long for the page.", "On page 2 the page number lies on another text.",
	}, said)
	assert.Empty(t, f.Misfits(all, Finish{}.Marks(all, Facts{}), blank))
	full := seenAs(func(page int, box geometry.Box) bool { return page == 1 && box.Y0 > 700 })
	f = numbers(func(*Numbers) {})
	misfits := f.Misfits(all, f.Marks(all, Facts{}), full)
	require.Len(t, misfits, 1)
	assert.Equal(t, "On page 2 the page number lies on what is on the page.", misfits[0].Sentence.English)
	misfits[0].Sentence = message.Text{}
	assert.Equal(t, Misfit{Page: 2, Kind: NumberMark, IsFree: true}, misfits[0])
}

// hiddenWords is what is said of a mark that a picture hides, to be compared whole.
func hiddenWords(page int, mark message.Text) message.Text {
	return message.Sentence("on page %d %s %s", page, mark, message.Of("is hidden by the picture that the page is"))
}

func seenAs(onInk func(int, geometry.Box) bool) Seen {
	return Seen{OnInk: onInk, IsPicture: func(page int) bool { return page == 0 }}
}

// TestLettersThatAreMissing are told where a field brings them in.
func TestLettersThatAreMissing(t *testing.T) {
	f := Default()
	f.Footer.On, f.Contents.On = true, true
	all := []Page{{Size: geometry.A4, Made: ContentsPage, Part: "Contents", Begins: true}, {Size: geometry.A4, Part: "屋根", Begins: true}}
	var said []string
	for _, misfit := range f.Misfits(all, f.Marks(all, Facts{}), seenAs(func(int, geometry.Box) bool { return false })) {
		said = append(said, misfit.Sentence.English)
	}
	assert.Equal(t, []string{
		"On page 1 the table of contents has the letter “屋”, which the typeface does not have.",
		"On page 2 the footer has the letter “屋”, which the typeface does not have.",
	}, said)
}

// TestFreePlace finds the nearest place in which all numbers have room.
func TestFreePlace(t *testing.T) {
	all := pages(2)
	for name, c := range map[string]struct {
		onInk func(box geometry.Box) bool
		want  func(n *Numbers)
	}{
		"another distance": {func(box geometry.Box) bool { return box.Y1 < 815 }, func(n *Numbers) { n.Edge = geometry.FromMM(10) }},
		"the middle":       {func(box geometry.Box) bool { return box.X1 > 400 }, func(n *Numbers) { n.Side = Middle }},
		"the head":         {func(box geometry.Box) bool { return box.Y0 > 400 }, func(n *Numbers) { n.Head = true }},
		"nowhere":          {func(geometry.Box) bool { return true }, nil},
	} {
		f := numbers(func(*Numbers) {})
		got := f.FreePlace(all, f.Marks(all, Facts{}), seenAs(func(_ int, box geometry.Box) bool { return c.onInk(box) }))
		if c.want == nil {
			assert.Nil(t, got, name)
			continue
		}
		want := numbers(c.want).Numbers
		if assert.NotNil(t, got, name) {
			assert.InDelta(t, want.Edge, got.Edge, 1e-9, name)
			got.Edge = want.Edge
			assert.Equal(t, want, *got, name)
		}
	}
}

func TestANumberAtTheOtherEnd(t *testing.T) {
	f := numbers(func(*Numbers) {})
	all := pages(2)
	all[1].Elsewhere = true
	marks := f.Marks(all, Facts{})
	assert.Greater(t, marks[0][0].At.Y, 700.0)
	assert.Less(t, marks[1][0].At.Y, 100.0)
}

func TestWatermark(t *testing.T) {
	for name, c := range map[string]struct {
		change func(w *Watermark)
		count  int
	}{
		"as large as fits": {func(*Watermark) {}, 1},
		"flat at the top":  {func(w *Watermark) { w.Angle, w.Place = 0, AtTop }, 1},
		"at the bottom":    {func(w *Watermark) { w.Angle, w.Place = -90, AtBottom }, 1},
		"repeated":         {func(w *Watermark) { w.Repeated, w.Size = true, 30 }, 20},
		"one letter":       {func(w *Watermark) { w.Text = "x" }, 1},
	} {
		f := Default()
		f.Watermark.On = true
		c.change(&f.Watermark)
		require.NoError(t, f.Check(3), name)
		for _, size := range []geometry.Size{geometry.A4, geometry.A4.Turned(90), {Width: 57, Height: 57}} {
			marks := f.Marks([]Page{{Size: size}}, Facts{})[0]
			if size == geometry.A4 {
				assert.Len(t, marks, c.count, name)
			}
			assert.NotEmpty(t, marks)
			for _, mark := range marks {
				box := mark.Box()
				if f.Watermark.Size == 0 {
					assert.True(t, box.X0 >= -1 && box.Y0 >= -1 && box.X1 <= size.Width+1 && box.Y1 <= size.Height+1, "%s on %v: %v", name, size, box)
				}
				assert.InDelta(t, 0.2, mark.Opacity, 1e-9)
			}
		}
	}
	f := Default()
	f.Watermark.On, f.Watermark.Behind = true, true
	all := pages(2)
	said := f.Misfits(all, f.Marks(all, Facts{}), seenAs(func(int, geometry.Box) bool { return true }))
	assert.Equal(t, []Misfit{{Page: 1, Kind: WatermarkMark, Sentence: hiddenWords(1, message.Of("the watermark"))}}, said)
	all[0].Without.Watermark = true
	assert.Empty(t, f.Marks(all, Facts{})[0])
}

// TestMarksCoverTheirTurnedText tells points on a turned text from those in the box around it.
func TestMarksCoverTheirTurnedText(t *testing.T) {
	f := Default()
	f.Watermark.On = true
	mark := f.Marks([]Page{{Size: geometry.A4}}, Facts{})[0][0]
	assert.True(t, mark.Covers(geometry.Point{X: geometry.A4.Width / 2, Y: geometry.A4.Height / 2}, 0))
	assert.False(t, mark.Covers(geometry.Point{X: mark.Box().X0 + 5, Y: mark.Box().Y0 + 5}, 0))
}

// TestTables keep the marks of pages, each once.
func TestTables(t *testing.T) {
	f := Default()
	f.Header.On, f.Numbers.On, f.Watermark.On, f.Watermark.Repeated = true, true, true, true
	marks := f.Marks(pages(3, 2), Facts{Packet: "Roof"})
	table := TableOf(marks)
	assert.Equal(t, marks, table.Marks())
	assert.Len(t, table.Different, len(marks[0])+4, "the numbers of the others are all that differ")
	assert.Empty(t, Table{Pages: [][]int{{7, -1}}}.Marks()[0])
}

func TestLettersCount(t *testing.T) {
	for n, want := range map[int]string{0: "", 1: "A", 26: "Z", 27: "AA", 52: "AZ", 53: "BA", 702: "ZZ", 703: "AAA"} {
		assert.Equal(t, want, letters(n))
	}
}

func TestOwnFields(t *testing.T) {
	f := Default()
	f.Properties = Properties{Own: "Project: Roof\n\nRoom: 3: left", Reference: "TVF-7", CaseNumber: "12", SenderReference: "LRC/9", Author: "Larkmere"}
	f.Footer.On, f.Footer.Skip = true, ""
	f.Footer.Texts = Texts{"{Project}, {Room}", "{reference} {caseNumber} {senderReference}", "{author} to {receiver}, {title} {unknown}"}
	var said []string
	for _, mark := range f.Marks(pages(1), Facts{Packet: "Roof", Receiver: "Fund"})[0] {
		said = append(said, mark.Text)
	}
	assert.Equal(t, []string{"Roof, 3: left", "TVF-7 12 LRC/9", "Larkmere to Fund, Roof {unknown}"}, said)
	for _, own := range []string{"no colon", "Bad/name: x", ": x", strings.Repeat("A: x\n", 21), "A: " + strings.Repeat("x", 501)} {
		assert.Error(t, Finish{Properties: Properties{Own: own}}.Check(1), own)
	}
}

// TestAllFieldsAreFilledIn leaves none of those that are offered as they are.
func TestAllFieldsAreFilledIn(t *testing.T) {
	f := Default()
	f.Header.On = true
	for _, field := range slices.Concat(PageFields, DocumentFields) {
		f.Header.Texts = Texts{Left: "-{" + field + "}-"}
		text := f.Marks(pages(1), Facts{})[0][0].Text
		assert.NotContains(t, text, "{", field)
	}
}

func TestBracesThatAreNoFieldsStay(t *testing.T) {
	value := func(name string) (string, bool) { return "<" + name + ">", name != "" && name != "unknown" }
	for text, want := range map[string]string{
		"": "", "plain": "plain", "{a}": "<a>", "a{b}c{d}e": "a<b>c<d>e", "{": "{", "}": "}", "{}": "{}", "{a": "{a", "a}": "a}",
		"{a{b}c}": "{a<b>c}", "{{a}}": "{<a>}", "{unknown}{a}": "{unknown}<a>", "x{}{a}": "x{}<a>", "{ä}": "<ä>", "{a}{": "<a>{",
	} {
		assert.Equal(t, want, filled(text, value), text)
	}
}

func TestEvenPagesApart(t *testing.T) {
	f := Default()
	f.Header.On, f.Header.Apart = true, true
	f.Header.Texts, f.Header.Even = Texts{Left: "odd"}, Texts{Right: "even"}
	marks := f.Marks(pages(3), Facts{})
	for i, want := range []string{"odd", "even", "odd"} {
		assert.Equal(t, want, marks[i][0].Text)
	}
}

// TestContentsAgree holds the contents of random packets against their pages and numbers: each part
// is listed once, with its first page and that page's number, on as many pages as were asked for.
func TestContentsAgree(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4))
	for range 200 {
		f := numbers(func(n *Numbers) { n.Style, n.First, n.PerPart = Roman, random.IntN(20), random.IntN(2) == 0 })
		f.Contents.On = true
		f.Numbers.On = random.IntN(3) > 0
		sizes := []geometry.Size{{Width: 100 + random.Float64()*500, Height: 60 + random.Float64()*800}}
		f.Contents.Nested = random.IntN(2) == 0
		var all []Page
		for part := range 1 + random.IntN(60) {
			title := strings.Repeat("A long title ", random.IntN(12)) + strconv.Itoa(part)
			for i := range 1 + random.IntN(3) {
				headings := slices.Repeat([]string{"A heading"}, random.IntN(3))
				all = append(all, Page{Size: geometry.A4, Part: title, Begins: i == 0, Headings: headings})
			}
		}
		contentsPage := Page{Size: sizes[0], Part: "Contents", Begins: true, Made: ContentsPage}
		count := f.Contents.PagesFor(append([]Page{contentsPage}, all...))
		contents := slices.Repeat([]Page{contentsPage}, count)
		for i := range contents {
			contents[i].Begins = i == 0
		}
		all = append(contents, all...)
		var listed []int
		for i, marks := range f.Marks(all, Facts{}) {
			previous := 0
			for _, mark := range marks {
				if mark.Kind != ContentsMark || mark.To == 0 {
					continue
				}
				assert.Less(t, i, count, "only on pages of the contents")
				if mark.To != previous {
					listed = append(listed, mark.To)
				}
				previous = mark.To
			}
		}
		if count == MostContents {
			continue
		}
		var want []int
		for i, page := range all {
			if page.Listed() || f.Contents.Nested && len(page.Headings) > 0 {
				want = append(want, i+1)
			}
		}
		assert.Equal(t, want, slices.Compact(listed), "headings of a page may go on on another page of the contents")
	}
}

// TestMadePagesStayOnTheirPaper has covers, sheets and contents with long words on pages of all
// sizes: nothing stands out of the page at its sides.
func TestMadePagesStayOnTheirPaper(t *testing.T) {
	long := strings.Repeat("Regenwasserabflussrohr", 8) + " for the boathouse of the Larkmere Rowing Club, " + strings.Repeat("and so on ", 20)
	for _, size := range []geometry.Size{geometry.A4, geometry.A4.Turned(90), {Width: 280, Height: 400}} {
		for _, design := range []Design{PlainCover, FramedCover, BandCover} {
			f := Default()
			f.Cover.Design, f.Cover.From, f.Properties.Title = design, "Larkmere Rowing Club", long
			for _, made := range []Made{CoverPage, SheetPage, ContentsPage} {
				marks := f.Marks([]Page{{Size: size, Made: made, Part: long, Begins: true, Annex: 3}, {Size: size, Part: long, Begins: true}}, Facts{})[0]
				assert.NotEmpty(t, marks)
				for _, mark := range marks {
					assert.GreaterOrEqual(t, mark.Box().X0, -0.01, mark.Text)
					assert.LessOrEqual(t, mark.Box().X1, size.Width+0.01, mark.Text)
				}
			}
		}
	}
}

// TestLetterheads scales a page to others, keeps another at its size, and has another one for the
// first page that has any.
func TestLetterheads(t *testing.T) {
	f := Default()
	f.Letterhead = Letterhead{On: true, Picture: Picture{"f1", 1}, First: Picture{"f1", 2}}
	var facts Facts
	facts.AddPicture(f.Letterhead.Picture, geometry.A4)
	facts.AddPicture(f.Letterhead.First, geometry.Size{Width: 300, Height: 150})
	all := []Page{{Size: geometry.A4, Made: CoverPage, Without: Without{Letterhead: true}}, {Size: geometry.A4}, {Size: geometry.A4.Turned(90)}}
	marks := f.Marks(all, facts)
	for _, mark := range marks[0] {
		assert.Empty(t, mark.Picture)
	}
	first, second := marks[1][0], marks[2][0]
	assert.Equal(t, f.Letterhead.First, first.Picture)
	assert.InDelta(t, geometry.A4.Width, first.Width, 0.01)
	assert.InDelta(t, geometry.A4.Width/2, first.Size, 0.01)
	assert.InDelta(t, (geometry.A4.Height-geometry.A4.Width/2)/2, first.At.Y, 0.01)
	assert.InDelta(t, geometry.A4.Width, second.Size, 0.01, "as high as the page that lies on its side")
	assert.True(t, first.Under)
	f.Letterhead.Actual, f.Letterhead.Over = true, true
	first = f.Marks(all, facts)[1][0]
	assert.Equal(t, geometry.Point{X: (geometry.A4.Width - 300) / 2, Y: 0}, first.At)
	assert.True(t, first.Multiplied && !first.Under)
	f.Letterhead.Over = false
	said := f.Misfits(all, f.Marks(all, facts), Seen{OnInk: func(int, geometry.Box) bool { return true }, IsPicture: func(page int) bool { return page == 2 }})
	assert.Equal(t, []Misfit{{Page: 3, Kind: LetterheadMark, Sentence: hiddenWords(3, message.Of("the letterhead"))}}, said)
	assert.Empty(t, f.Marks(all, Facts{})[1], "its source is gone")
	assert.Len(t, f.Pictures(), 2)
}

func TestPicturesAsWatermarkAndOnTheCover(t *testing.T) {
	f := Default()
	sign := Picture{"f2", 1}
	f.Watermark.On, f.Watermark.Picture, f.Watermark.Angle = true, sign, 0
	f.Cover.On, f.Cover.Picture = true, sign
	var facts Facts
	facts.AddPicture(sign, geometry.Size{Width: 200, Height: 100})
	marks := f.Marks([]Page{{Size: geometry.A4, Made: CoverPage}}, facts)[0]
	var drawn []Mark
	for _, mark := range marks {
		if !mark.Picture.IsZero() {
			drawn = append(drawn, mark)
		}
	}
	require.Len(t, drawn, 2)
	assert.InDelta(t, 200, drawn[0].Width, 0.01, "on the cover no larger than it is")
	assert.Less(t, drawn[0].Box().Y1, geometry.A4.Height)
	assert.InDelta(t, 0.8*geometry.A4.Width, drawn[1].Width, 0.01)
	box := drawn[1].Box()
	assert.InDelta(t, geometry.A4.Height, box.Y0+box.Y1, 0.01, "in the middle")
	f.Watermark.Angle, f.Watermark.Size, f.Watermark.Repeated = 30, 40, true
	for _, mark := range f.Marks([]Page{{Size: geometry.A4}}, facts)[0] {
		assert.InDelta(t, 40, mark.Size, 0.01)
		assert.InDelta(t, 80, mark.Width, 0.01)
	}
}

// TestWhatIsPutByHandKeepsItsDistance has watermarks and letterheads so far from the edges of pages that
// have room for it, and on all others that they fit on.
func TestWhatIsPutByHandKeepsItsDistance(t *testing.T) {
	facts := Facts{}
	picture := Picture{"f1", 1}
	facts.AddPicture(picture, geometry.Size{Width: 120, Height: 60})
	draw := rand.New(rand.NewPCG(11, 7))
	for range 500 {
		spot := Spot{
			Across: []Side{Left, Middle, Right}[draw.IntN(3)], FromSide: 900 * draw.Float64(),
			Down: []Height{AtTop, AtMiddle, AtBottom}[draw.IntN(3)], FromEnd: 900 * draw.Float64(),
		}
		page := geometry.Size{Width: 300 + 600*draw.Float64(), Height: 300 + 600*draw.Float64()}
		f := Default()
		f.Watermark.On, f.Watermark.Size, f.Watermark.Spot = true, 30, spot
		f.Watermark.Angle = draw.IntN(181) - 90
		f.Letterhead = Letterhead{On: true, Picture: picture, Actual: true, Spot: spot}
		require.NoError(t, f.Check(1))
		for _, mark := range f.Marks([]Page{{Size: page}}, facts)[0] {
			box := mark.Box()
			spareAcross, spareDown := page.Width-(box.X1-box.X0), page.Height-(box.Y1-box.Y0)
			want := map[Side]float64{Left: box.X0, Middle: spot.FromSide, Right: page.Width - box.X1}[spot.Across]
			assert.InDelta(t, min(spot.FromSide, spareAcross), min(want, spareAcross), 1e-6, mark.Kind)
			want = map[Height]float64{AtTop: box.Y0, AtMiddle: spot.FromEnd, AtBottom: page.Height - box.Y1}[spot.Down]
			assert.InDelta(t, min(spot.FromEnd, spareDown), min(want, spareDown), 1e-6, mark.Kind)
			if spot.Across == Middle {
				assert.InDelta(t, page.Width/2, (box.X0+box.X1)/2, 1e-6)
			}
			assert.True(t, box.X0 > -1e-6 && box.Y0 > -1e-6 && box.X1 < page.Width+1e-6 && box.Y1 < page.Height+1e-6, "%v on %v", box, page)
		}
	}
	for _, wrong := range []Spot{{Across: "inside", Down: AtTop}, {Across: Left}, {Across: Left, Down: AtTop, FromEnd: -1}, {Across: Left, Down: AtTop, FromSide: math.NaN()}} {
		f := Default()
		f.Watermark.Spot = wrong
		assert.Error(t, f.Check(1), "%v", wrong)
		assert.Error(t, Finish{Letterhead: Letterhead{On: true, Spot: wrong}}.Check(1), "%v", wrong)
	}
}
