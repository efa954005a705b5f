package check

import (
	"fmt"
	"slices"
	"strings"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/raster"
)

// Kinds of findings.
const (
	Damaged  = "damaged"  // some of a source is missing
	Locked   = "locked"   // a source is protected with a password
	Facing   = "facing"   // shows two facing pages
	Long     = "long"     // a picture of many screens, too high for a sheet
	Sideways = "sideways" // lies on its side or upside down
	Blank    = "blank"
	Copy     = "copy"   // looks like an earlier page
	Twice    = "twice"  // the same page of a source as an earlier page
	Size     = "size"   // of another size than most pages
	Number   = "number" // printed numbers are out of order or leave a gap
	Count    = "count"  // more or fewer pages than there should be
	Cut      = "cut"    // cropped through what is on it
	Tilted   = "tilted" // leans
	Unread   = "unread" // could not be read, so that nothing is known of it
)

// Finding is something about a packet that is worth checking.
type Finding struct {
	Kind     string          `json:"kind" enum:"damaged,locked,facing,long,sideways,tilted,blank,copy,twice,size,number,count,cut,unread"`
	Key      string          `json:"key" doc:"Names the finding as long as its pages stay as they are."`
	Page     packet.PageID   `json:"page,omitempty" doc:"The page that it is about."`
	Other    packet.PageID   `json:"other,omitempty" doc:"The page that it is compared with."`
	Source   packet.SourceID `json:"source,omitempty" doc:"The source that it is about."`
	Sentence message.Text    `json:"sentence" doc:"What was found, for the user."`
	Settle   packet.Commands `json:"settle,omitempty" doc:"What would settle it."`
}

// Known is what is known of a packet's pages.
type Known struct {
	// Analysis of a page of a source; false while they are not known.
	Analysis func(packet.SourceID, int) (PageAnalysis, bool)
	// Sources of the packet, in the order of their arrival.
	Sources []Source
	// Remember gives what was made for a key, or makes it; nil remembers nothing.
	Remember func(key string, make func() []raster.Twin) []raster.Twin
	// SameInk tells whether the ink of two scans is the same; not known before it was compared.
	SameInk func(Pair) (same, known bool)
}

func (k Known) sameInk(pair Pair) (same, known bool) {
	if k.SameInk == nil {
		return false, false
	}
	return k.SameInk(pair)
}

// Source is what is known of a source as a whole.
type Source struct {
	ID        packet.SourceID
	Name      string
	PageCount int
	Expected  int          // how many pages the sheets put into a scanner should have made; 0 is unknown
	Damage    message.Text // what is missing of it, in a sentence; empty where it is whole
	Locked    bool         // it is protected with a password
	Folds     map[int]bool // its pages, from 1, in which a fold between two facing pages was found
	Unsized   map[int]bool // its pages, from 1, of which it is not known how large they are on paper
}

const (
	blankInk        = 0.0004
	nearlyBlankInk  = 0.0012
	alike           = 0.95 // likeness of two pages with the same text
	alikeInTheLarge = 0.75 // likeness of two scans whose ink is worth comparing
	surelyTurned    = 0.6  // share of a page's text that must run the same way
)

// Check finds what is worth checking in a packet. The findings come in the order of the kinds, then
// of the pages.
func Check(p packet.Packet, known Known) []Finding { return SurveyOf(p, known).Findings() }

// Survey is a packet with what is known of its pages.
type Survey struct {
	packet packet.Packet
	pages  []packet.Page
	known  Known
	scans  []original // pages of sources that have something on them, each once
	alike  []Pair     // those that look alike in the large
	// sources are those of the packet by their ids.
	sources map[packet.SourceID]Source
}

// SurveyOf goes through a packet.
func SurveyOf(p packet.Packet, known Known) Survey {
	s := Survey{packet: p, pages: p.Pages(), known: known}
	s.known.Sources = slices.DeleteFunc(slices.Clone(known.Sources), func(source Source) bool {
		return slices.Contains(p.Removed, source.ID)
	})
	s.sources = map[packet.SourceID]Source{}
	for _, source := range s.known.Sources {
		s.sources[source.ID] = source
	}
	s.scans = s.originals()
	s.alike = s.alikeScans()
	return s
}

// Findings are what is worth checking, in the order of the kinds, then of the pages.
func (s Survey) Findings() []Finding {
	findings := []Finding{}
	for _, find := range []func() []Finding{
		s.damaged, s.locked, s.unread, s.facing, s.long, s.standing, s.tilted, s.cut, s.blank, s.twice, s.copies, s.numbers, s.sizes, s.counts,
	} {
		findings = append(findings, find()...)
	}
	return findings
}

// AlikeScans are the pairs of scans that look alike in the large, the likest first.
func (s Survey) AlikeScans() []Pair { return s.alike }

// signs of a page; false for one that is laid flat or mirrored, of which those
// of its source say little.
func (s Survey) signs(page packet.Page) (PageAnalysis, bool) {
	if page.IsBlank() || page.Mirror || !page.Paper.IsZero() {
		return PageAnalysis{}, false
	}
	return s.known.Analysis(page.Source, page.SourcePage)
}

func key(kind string, pages ...packet.Page) string {
	words := []string{kind}
	for _, page := range pages {
		words = append(words, string(page.ID), page.Fingerprint())
	}
	return strings.Join(words, " ")
}

// unread tells of pages that could not be read, so that somebody checks them.
func (s Survey) unread() []Finding {
	var findings []Finding
	for i, page := range s.pages {
		if page.IsBlank() {
			continue
		}
		if signs, ok := s.known.Analysis(page.Source, page.SourcePage); ok && signs.Failed {
			findings = append(findings, Finding{
				Kind: Unread, Key: key(Unread, page), Page: page.ID,
				Sentence: message.Of("Page %d (page %d of %s) %s", i+1, page.SourcePage, s.nameOf(page.Source), ProblemWords(signs.Problem)),
				Settle:   []packet.Command{packet.SetAside{Selected: packet.On(page.ID)}},
			})
		}
	}
	return findings
}

// LooksBlankWords tells of a page on which a reader shows nothing where a picture should be, to be put
// behind its number.
var LooksBlankWords = message.Of("looks blank, but has a picture that cannot be read: its file is damaged")

// ProblemWords tells why a page could not be read, to be put behind its number.
func ProblemWords(sentence message.Text) message.Text {
	if words, ok := problem.WithoutThis(sentence); ok {
		return words
	}
	return message.Of("could not be checked: it is damaged, or takes too much time or memory")
}

// nameOf is what the user calls a source.
func (s Survey) nameOf(id packet.SourceID) message.Text {
	for _, source := range s.known.Sources {
		if source.ID == id {
			return message.Plain(source.Name)
		}
	}
	return message.Of("its file")
}

func (s Survey) standing() []Finding {
	var findings []Finding
	for i, page := range s.pages {
		standing, isText := s.standingOf(page)
		if standing.Sure < surelyTurned && isText || standing.Sure == 0 {
			continue
		}
		turn := geometry.NormalTurn(standing.Turn - page.Turn)
		if turn == 0 {
			continue
		}
		sure := isText || standing.Sure >= PlainlyTurned
		findings = append(findings, Finding{
			Kind: Sideways, Key: key(Sideways, page), Page: page.ID,
			Sentence: message.Of("Page %d %s", i+1, turnedWords(turn, sure)),
			Settle:   []packet.Command{packet.Turn{Selected: packet.On(page.ID), By: turn}},
		})
	}
	return findings
}

// standingOf is how a page stands before its turn, and whether its text tells so. What is not
// known is zero.
func (s Survey) standingOf(page packet.Page) (standing raster.Standing, isText bool) {
	if page.IsBlank() || page.Mirror {
		return raster.Standing{}, false
	}
	signs, _ := s.known.Analysis(page.Source, page.SourcePage)
	if !page.Paper.IsZero() {
		return signs.FlatStanding, false
	}
	return signs.Standing, signs.Text != ""
}

func turnedWords(turn int, sure bool) message.Text {
	switch {
	case turn == 180 && sure:
		return message.Of("is upside down")
	case turn == 180:
		return message.Of("seems to be upside down")
	case sure:
		return message.Of("lies on its side")
	}
	return message.Of("seems to lie on its side")
}

func (s Survey) blank() []Finding {
	var findings []Finding
	for i, page := range s.pages {
		signs, ok := s.signs(page)
		if !ok || !signs.IsNearlyBlank() {
			continue
		}
		sentence := message.Of("Page %d is nearly blank", i+1)
		if signs.Ink < blankInk {
			sentence = message.Of("Page %d is blank", i+1)
		}
		findings = append(findings, Finding{
			Kind: Blank, Key: key(Blank, page), Page: page.ID,
			Sentence: sentence,
			Settle:   []packet.Command{packet.SetAside{Selected: packet.On(page.ID)}},
		})
	}
	return findings
}

// twice tells of pages that show the same of a page of a source as an earlier page.
func (s Survey) twice() []Finding {
	type origin struct {
		source  packet.SourceID
		page    int
		outline geometry.PaperQuad
	}
	earlier := map[origin][]int{}
	var findings []Finding
	for i, page := range s.pages {
		if page.IsBlank() {
			continue
		}
		from := origin{page.Source, page.SourcePage, page.Paper}
		at := slices.IndexFunc(earlier[from], func(at int) bool { return showSame(s.pages[at], page) })
		if at < 0 {
			earlier[from] = append(earlier[from], i)
			continue
		}
		findings = append(findings, s.double(Twice, earlier[from][at], i, message.Of("is the same page as")))
	}
	return findings
}

// showSame tells whether two pages of one page of a source show more of the same than each of its own, as
// pieces of a long page do not.
func showSame(a, b packet.Page) bool {
	one, other := a.Framing().Kept(), b.Framing().Kept()
	common := one.Intersect(other).Size()
	if common.Width <= 0 || common.Height <= 0 {
		return false
	}
	area := func(size geometry.Size) float64 { return size.Width * size.Height }
	return area(common) > min(area(one.Size()), area(other.Size()))/2
}

func (s Survey) double(kind string, first, second int, how message.Text) Finding {
	one, other := s.pages[first], s.pages[second]
	return Finding{
		Kind: kind, Key: key(kind, other, one), Page: other.ID, Other: one.ID,
		Sentence: message.Of("Page %d %s page %d", second+1, how, first+1),
		Settle:   []packet.Command{packet.SetAside{Selected: packet.On(other.ID)}},
	}
}

func (s Survey) counts() []Finding {
	var findings []Finding
	if n := len(s.pages); s.packet.Expected > 0 && n != s.packet.Expected {
		findings = append(findings, Finding{
			Kind: Count, Key: fmt.Sprintf("%s %d %d", Count, n, s.packet.Expected),
			Sentence: message.Of("There are %d pages, and there should be %d: %s", n, s.packet.Expected, missing(s.packet.Expected-n)),
		})
	}
	for _, source := range s.known.Sources {
		should, is := source.Expected, source.PageCount
		if should > 0 && should != is {
			findings = append(findings, Finding{
				Kind: Count, Key: fmt.Sprintf("%s %s", Count, source.ID), Page: s.firstOf(source.ID),
				Sentence: message.Of("The sheets scanned as %s should have made %d pages, and there are %d: %s",
					source.Name, should, is, missing(should-is)),
			})
		}
	}
	return findings
}

func (s Survey) firstOf(source packet.SourceID) packet.PageID {
	for _, page := range s.pages {
		if page.Source == source {
			return page.ID
		}
	}
	return ""
}

func missing(n int) message.Text {
	if n > 0 {
		return message.Of("%d missing", n)
	}
	return message.Of("%d too many", -n)
}
