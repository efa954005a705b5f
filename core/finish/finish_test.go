package finish

import (
	"fmt"
	"math/rand/v2"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
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
			func(n *Numbers) { n.Style = Plain }, []Page{{Size: geometry.A4}, {Size: geometry.A4, Skipped: true}, {Size: geometry.A4}},
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
			all[i].Skipped = random.IntN(6) == 0
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
	f.Header = Line{On: true, Left: "{packet}", Middle: "{part}", Right: "{page} / {pages}, {date}", Mirror: true, Rule: true, Writing: f.Header.Writing}
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
		"does not have the letter '漢'":             {Header: Line{Left: "漢", Writing: Default().Header.Writing}},
		"at most 500 letters, this one has 10000":  {Footer: Line{Left: strings.Repeat("x", 10_000), Writing: Default().Footer.Writing}},
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
	f.Footer = Line{On: true, Right: "Larkmere Rowing Club", Writing: f.Footer.Writing}
	f.Header = Line{On: true, Left: strings.Repeat("A long header. ", 20), Writing: f.Header.Writing}
	all := pages(2)
	blank := func(int, geometry.Box) bool { return false }
	var said []string
	for _, misfit := range Misfits(all, f.Marks(all, Facts{}), blank) {
		said = append(said, misfit.Sentence)
	}
	assert.Equal(t, []string{
		"On page 1 the header is too long for the page.", "On page 1 the page number lies on another text.",
		"On page 2 the header is too long for the page.", "On page 2 the page number lies on another text.",
	}, said)
	assert.Empty(t, Misfits(all, Finish{}.Marks(all, Facts{}), blank))
	full := func(page int, box geometry.Box) bool { return page == 1 && box.Y0 > 700 }
	f = numbers(func(*Numbers) {})
	assert.Equal(t, []Misfit{{Page: 2, Kind: NumberMark, Sentence: "On page 2 the page number lies on what is on the page."}},
		Misfits(all, f.Marks(all, Facts{}), full))
}
