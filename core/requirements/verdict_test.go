package requirements

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

// letter is a page that breaks no rule.
var letter = Page{Size: geometry.A4, Upright: Yes, Colours: BlackWhite, Text: Yes, Number: Yes, Fields: No, Comments: No, Links: No}

// fine are the facts of a document that breaks no rule of the tables below.
func fine() Facts {
	return Facts{
		Today: "2026-03-01", Files: []File{{Name: "roof.pdf", Bytes: 2_000_000, Pages: 3}}, Parts: 1, Pages: []Page{letter, letter, letter},
		Bookmarks: Yes, Contents: Yes, Locked: No, Attached: No, Version: "1.7", Fonts: Yes, Properties: map[string]bool{"title": true},
	}
}

// eachPage changes every page but the first.
func eachPage(change func(*Page)) func(*Facts) {
	return func(f *Facts) {
		for i := range f.Pages[1:] {
			change(&f.Pages[1+i])
		}
	}
}

func TestEachRule(t *testing.T) {
	for _, test := range []struct {
		rule    Rule
		asked   Receiver
		title   string
		breaks  func(*Facts)
		why     string
		pages   []int
		unknown func(*Facts) // makes it not known
	}{
		{
			RuleFileSize, Receiver{Rules: Rules{FileBytes: 4_000_000}}, "At most 4 MB",
			func(f *Facts) { f.Files[0].Bytes = 15_900_000 }, "15.9 MB now", nil,
			func(f *Facts) { f.Files[0].Bytes, f.Files[0].Doubt = 3_900_000, 200_000 },
		},
		{
			RuleTotalSize, Receiver{Rules: Rules{TotalBytes: 4_000_000}}, "At most 4 MB together",
			func(f *Facts) { f.Files = append(f.Files, File{Bytes: 2_100_000}) }, "4.1 MB now", nil,
			func(f *Facts) { f.Files[0].Bytes, f.Files[0].Doubt = 4_100_000, 200_000 },
		},
		{
			RulePages, Receiver{Rules: Rules{MostPages: 3}}, "At most 3 pages",
			func(f *Facts) { f.Pages = append(f.Pages, letter) }, "4 pages, 1 too many", nil, nil,
		},
		{
			RulePages, Receiver{Rules: Rules{LeastPages: 3, MostPages: 3}}, "Exactly 3 pages",
			func(f *Facts) { f.Pages = f.Pages[:1] }, "1 page, 2 too few", nil, nil,
		},
		{
			RuleFiles, Receiver{Rules: Rules{Files: OneFile}}, "One PDF",
			func(f *Facts) { f.Files = append(f.Files, File{}) }, "2 files", nil, nil,
		},
		{
			RuleFiles, Receiver{Rules: Rules{Files: FilePerPart, MostFiles: 2}}, "A PDF for each part, at most 2",
			func(f *Facts) { f.Parts = 2 }, "1 file for 2 parts", nil, nil,
		},
		{
			RuleSizes, Receiver{Rules: Rules{Sizes: []string{"A4", "A3"}}}, "A4 or A3",
			eachPage(func(p *Page) { p.Size = geometry.Letter }), "Pages 2 and 3 are of another size", []int{2, 3}, nil,
		},
		{
			RuleSameSize, Receiver{Rules: Rules{SameSize: true}}, "All pages of one size",
			func(f *Facts) { f.Pages[2].Size = geometry.A3 }, "Page 3 is not A4", []int{3}, nil,
		},
		{
			RuleUpright, Receiver{Rules: Rules{Upright: true}}, "Pages upright",
			func(f *Facts) { f.Pages[1].Upright, f.Pages[2].Upright = No, Unknown }, "Page 2 does not stand upright", []int{2},
			eachPage(func(p *Page) { p.Upright = Unknown }),
		},
		{
			RuleResolution, Receiver{Rules: Rules{LeastDPI: 200, MostDPI: 300}}, "Scans at 200 to 300 dpi",
			eachPage(func(p *Page) { p.DPI = 150 }), "Pages 2 and 3 have another resolution", []int{2, 3}, nil,
		},
		{
			RuleColours, Receiver{Rules: Rules{Colours: Grey}}, "No colours",
			eachPage(func(p *Page) { p.Colours = Colour }), "Pages 2 and 3 show more than that", []int{2, 3},
			eachPage(func(p *Page) { p.Colours = "" }),
		},
		{
			RuleColours, Receiver{Rules: Rules{Colours: BlackWhite}}, "Black and white",
			eachPage(func(p *Page) { p.Colours = Grey }), "Pages 2 and 3 show more than that", []int{2, 3}, nil,
		},
		{
			RuleSearchable, Receiver{Rules: Rules{Searchable: true}}, "Searchable",
			eachPage(func(p *Page) { p.Text = No }), "Pages 2 and 3 cannot be searched", []int{2, 3},
			eachPage(func(p *Page) { p.Text = Unknown }),
		},
		{
			RuleNumbers, Receiver{Rules: Rules{Numbers: true}}, "Page numbers",
			eachPage(func(p *Page) { p.Number = No }), "Pages 2 and 3 have no number", []int{2, 3}, nil,
		},
		{
			RuleNumbers, Receiver{Rules: Rules{Numbers: true}}, "Page numbers",
			func(f *Facts) {
				for i := range f.Pages {
					f.Pages[i].Number = No
				}
			}, "Pages 1–3 have no number", []int{1, 2, 3}, nil,
		},
		{
			RuleBookmarks, Receiver{Rules: Rules{Bookmarks: true}}, "Bookmarks",
			func(f *Facts) { f.Bookmarks = No }, "There are none", nil, nil,
		},
		{
			RuleContents, Receiver{Rules: Rules{Contents: true}}, "A contents page",
			func(f *Facts) { f.Contents = No }, "There is none", nil, nil,
		},
		{
			RulePassword, Receiver{Rules: Rules{Password: NoPassword}}, "No password",
			func(f *Facts) { f.Locked = Yes }, "A password is needed to open it", nil, func(f *Facts) { f.Locked = Unknown },
		},
		{
			RuleForms, Receiver{Rules: Rules{NoForms: true}}, "No form fields",
			func(f *Facts) { f.Pages[0].Fields = Yes }, "Page 1 has form fields", []int{1}, eachPage(func(p *Page) { p.Fields = Unknown }),
		},
		{
			RuleComments, Receiver{Rules: Rules{NoComments: true}}, "No comments",
			func(f *Facts) { f.Pages[0].Comments = Yes }, "Page 1 has comments", []int{1}, nil,
		},
		{
			RuleLinks, Receiver{Rules: Rules{NoLinks: true}}, "No links",
			func(f *Facts) { f.Pages[0].Links = Yes }, "Page 1 has links", []int{1}, nil,
		},
		{
			RuleAttachments, Receiver{Rules: Rules{NoAttachments: true}}, "No attached files, no scripts",
			func(f *Facts) { f.Attached = Yes }, "Files or scripts are attached", nil, nil,
		},
		{
			RuleVersion, Receiver{Rules: Rules{Version: "1.7"}}, "PDF 1.7 at most",
			func(f *Facts) { f.Version = "2.0" }, "It is PDF 2.0", nil, func(f *Facts) { f.Version = "" },
		},
		{
			RuleFonts, Receiver{Rules: Rules{Fonts: true}}, "Fonts embedded",
			func(f *Facts) { f.Fonts = No }, "A font is missing in the file", nil, func(f *Facts) { f.Fonts = Unknown },
		},
		{
			RuleFileName, Receiver{Rules: Rules{PlainName: true}}, "File name of letters, digits, - and _",
			func(f *Facts) { f.Files[0].Name = "Dach öffnen.pdf" }, "Dach öffnen.pdf has other characters", nil, nil,
		},
		{
			RuleFileName, Receiver{Rules: Rules{LongestName: 12}}, "File name of at most 12 characters",
			func(f *Facts) { f.Files[0].Name = "application.pdf" }, "application.pdf has 15 characters", nil, nil,
		},
		{
			RuleFileName, Receiver{Rules: Rules{FileName: "roof{counter}"}}, "File name named roof{counter}",
			func(f *Facts) { f.Files[0].Name = "my-roof.pdf" }, "my-roof.pdf is named otherwise", nil, nil,
		},
		{
			RuleProperties, Receiver{Rules: Rules{Properties: []string{"title", "caseNumber"}}}, "Properties: title and case number",
			func(f *Facts) { f.Properties = map[string]bool{} }, "The title and case number are missing", nil,
			func(f *Facts) { f.Properties = nil },
		},
		{
			RuleUntil, Receiver{Until: "2026-03-03"}, "Handed in by 3 March 2026",
			func(f *Facts) { f.Today = "2026-03-05" }, "That was 2 days ago", nil, nil,
		},
	} {
		t.Run(test.title, func(t *testing.T) {
			facts := fine()
			if test.rule == RuleProperties {
				facts.Properties["caseNumber"] = true
			}
			verdicts := test.asked.Judge(facts)
			require.Len(t, verdicts, 1)
			assert.Equal(t, test.rule, verdicts[0].Rule)
			assert.Equal(t, test.title, verdicts[0].Title.English)
			assert.Equal(t, Met, verdicts[0].State, verdicts[0].Why)
			broken := fine()
			test.breaks(&broken)
			verdict := test.asked.Judge(broken)[0]
			assert.Equal(t, NotMet, verdict.State)
			assert.Equal(t, test.why, verdict.Why.English)
			assert.Equal(t, test.pages, verdict.Pages)
			if test.unknown != nil {
				unknown := fine()
				test.unknown(&unknown)
				assert.Equal(t, Pending, test.asked.Judge(unknown)[0].State)
			}
		})
	}
}

func TestAPasswordThatIsRequired(t *testing.T) {
	asked, facts := Receiver{Rules: Rules{Password: PasswordRequired}}, fine()
	assert.Equal(t, NotMet, asked.Judge(facts)[0].State)
	facts.Locked = Yes
	assert.Equal(t, Met, asked.Judge(facts)[0].State)
}

func TestACoverNeedsNoNumber(t *testing.T) {
	asked, facts := Receiver{Rules: Rules{Numbers: true}}, fine()
	facts.Pages[0].Number = No
	assert.Equal(t, Met, asked.Judge(facts)[0].State)
}

func TestPagesOnTheirSidesHaveTheSameSize(t *testing.T) {
	facts := fine()
	facts.Pages[1].Size = geometry.A4.Landscape()
	asked := Receiver{Rules: Rules{Sizes: []string{"A4"}, SameSize: true}}
	for _, verdict := range asked.Judge(facts) {
		assert.Equal(t, Met, verdict.State, verdict.Title)
	}
}

func TestNoRulesNoVerdicts(t *testing.T) {
	assert.Empty(t, Receiver{Name: "Anybody"}.Judge(fine()))
	assert.NotPanics(t, func() {
		for _, shipped := range Shipped() {
			shipped.Judge(Facts{})
		}
	})
}

func TestPagesInWords(t *testing.T) {
	for _, test := range []struct {
		pages []int
		words string
	}{
		{[]int{6}, "Page 6"}, {[]int{6, 12}, "Pages 6 and 12"}, {[]int{1, 2, 3, 4, 7}, "Pages 1–4 and 7"},
		{[]int{1, 2}, "Pages 1 and 2"}, {[]int{1, 3, 5, 7, 9, 11}, "Pages 1, 3, 5, 7 and 2 more"},
	} {
		assert.Equal(t, test.words, pagesWords(test.pages).English)
	}
}

func TestNamesMatchPatterns(t *testing.T) {
	for _, test := range []struct {
		pattern, name string
		matches       bool
	}{
		{"{reference} {packet}", "TV-2031 Boathouse roof.pdf", true},
		{"{reference}_roof", "TV-2031_roof.pdf", true},
		{"{reference}_roof", "TV-2031_roofs.pdf", false},
		{"Application", "application.pdf", true},
		{"Application {date}", "application-2026-03-01.pdf", true},
		{"Application {date}", "my application-2026-03-01.pdf", false},
		{"a{b", "a{b.pdf", true},
	} {
		assert.Equal(t, test.matches, matches(test.pattern, test.name), "%s: %s", test.pattern, test.name)
	}
}

func TestNamesAreMadeAsTheRulesWantThem(t *testing.T) {
	rules := Rules{PlainName: true, LongestName: 12}
	assert.Equal(t, "Dach-off-01.pdf", Rules{PlainName: true, LongestName: 15}.NameFor("Dach öffnen!", " 01.pdf"))
	for _, name := range []string{"a very long name of a file", "äöü", "x"} {
		made := rules.NameFor(name, ".pdf")
		facts := fine()
		facts.Files[0].Name = made
		assert.Equal(t, Met, Receiver{Rules: rules}.Judge(facts)[0].State, made)
	}
}
