package requirements

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"dorbin/core/geometry"
)

// State is how a rule stands.
type State string

// The states.
const (
	Met     State = "met"
	NotMet  State = "notMet"
	Pending State = "unknown" // what it asks for is not known yet
)

// Rule names a rule.
type Rule string

// The rules, in the order in which they are told.
const (
	RuleFileSize    Rule = "fileSize"
	RuleTotalSize   Rule = "totalSize"
	RulePages       Rule = "pages"
	RuleFiles       Rule = "files"
	RuleSizes       Rule = "sizes"
	RuleSameSize    Rule = "sameSize"
	RuleUpright     Rule = "upright"
	RuleResolution  Rule = "resolution"
	RuleColours     Rule = "colours"
	RuleSearchable  Rule = "searchable"
	RuleNumbers     Rule = "numbers"
	RuleBookmarks   Rule = "bookmarks"
	RuleContents    Rule = "contents"
	RulePassword    Rule = "password"
	RuleForms       Rule = "forms"
	RuleComments    Rule = "comments"
	RuleLinks       Rule = "links"
	RuleAttachments Rule = "attachments"
	RuleVersion     Rule = "version"
	RuleFonts       Rule = "fonts"
	RuleFileName    Rule = "fileName"
	RuleProperties  Rule = "properties"
	RuleUntil       Rule = "until"
)

// Verdict tells whether a rule is met.
type Verdict struct {
	Rule  Rule   `json:"rule" enum:"fileSize,totalSize,pages,files,sizes,sameSize,upright,resolution,colours,searchable,numbers,bookmarks,contents,password,forms,comments,links,attachments,version,fonts,fileName,properties,until"`
	Title string `json:"title" doc:"What is asked for: At most 4 MB."`
	State State  `json:"state" enum:"met,notMet,unknown"`
	Why   string `json:"why" doc:"Why it is, or is not, met; may be empty."`
	Pages []int  `json:"pages,omitempty" doc:"Those that do not meet it, or of which it is not known: numbers, from 1."`
}

// Judge holds a document against the rules of a receiver.
func (r Receiver) Judge(facts Facts) []Verdict {
	j := judge{r.Rules, facts}
	verdicts := []Verdict{}
	for _, rule := range []struct {
		name  Rule
		title string // empty where there is no such rule
		judge func() Verdict
	}{
		{RuleFileSize, atMost(r.Rules.FileBytes, " each", j.severalFiles()), j.fileSize},
		{RuleTotalSize, atMost(r.Rules.TotalBytes, " together", true), j.totalSize},
		{RulePages, r.Rules.pagesTitle(), j.pages},
		{RuleFiles, r.Rules.filesTitle(), j.files},
		{RuleSizes, orList(r.Rules.Sizes), j.sizes},
		{RuleSameSize, when(r.Rules.SameSize, "All pages of one size"), j.sameSize},
		{RuleUpright, when(r.Rules.Upright, "Pages upright"), j.upright},
		{RuleResolution, r.Rules.resolutionTitle(), j.resolution},
		{RuleColours, colourTitles[r.Rules.Colours], j.colours},
		{RuleSearchable, when(r.Rules.Searchable, "Searchable"), j.searchable},
		{RuleNumbers, when(r.Rules.Numbers, "Page numbers"), j.numbers},
		{RuleBookmarks, when(r.Rules.Bookmarks, "Bookmarks"), j.bookmarks},
		{RuleContents, when(r.Rules.Contents, "A contents page"), j.contents},
		{RulePassword, passwordTitles[r.Rules.Password], j.password},
		{RuleForms, when(r.Rules.NoForms, "No form fields"), j.noForms},
		{RuleComments, when(r.Rules.NoComments, "No comments"), j.noComments},
		{RuleLinks, when(r.Rules.NoLinks, "No links"), j.noLinks},
		{RuleAttachments, when(r.Rules.NoAttachments, "No attached files, no scripts"), j.noAttachments},
		{RuleVersion, when(r.Rules.Version != "", "PDF "+r.Rules.Version+" at most"), j.version},
		{RuleFonts, when(r.Rules.Fonts, "Fonts embedded"), j.fonts},
		{RuleFileName, r.Rules.nameTitle(), j.fileName},
		{RuleProperties, propertiesTitle(r.Rules.Properties), j.properties},
		{RuleUntil, untilTitle(r.Until), func() Verdict { return until(r.Until, facts.Today) }},
	} {
		if rule.title == "" {
			continue
		}
		verdict := rule.judge()
		verdict.Rule, verdict.Title = rule.name, rule.title
		verdicts = append(verdicts, verdict)
	}
	return verdicts
}

type judge struct {
	rules Rules
	facts Facts
}

func met(why string, values ...any) Verdict {
	return Verdict{State: Met, Why: fmt.Sprintf(why, values...)}
}
func notMet(why string, values ...any) Verdict {
	return Verdict{State: NotMet, Why: fmt.Sprintf(why, values...)}
}
func pending(why string, values ...any) Verdict {
	return Verdict{State: Pending, Why: fmt.Sprintf(why, values...)}
}

func when(is bool, title string) string {
	if is {
		return title
	}
	return ""
}

func atMost(bytes int64, each string, named bool) string {
	if bytes == 0 {
		return ""
	}
	return "At most " + BytesWords(bytes) + when(named, each)
}

func (j judge) severalFiles() bool { return len(j.facts.Files) > 1 || j.rules.Files == FilePerPart }

// fileSize holds each file against the limit. Where an estimate lies near it, nobody knows.
func (j judge) fileSize() Verdict {
	unsure := false
	for _, file := range j.facts.Files {
		switch {
		case file.Bytes-file.Doubt > j.rules.FileBytes:
			return notMet("%s now%s", BytesWords(file.Bytes), when(j.severalFiles(), ": "+file.Name))
		case file.Bytes+file.Doubt > j.rules.FileBytes:
			unsure = true
		}
	}
	return sizeVerdict(unsure, slices.MaxFunc(append(j.facts.Files, File{}), func(a, b File) int { return cmp.Compare(a.Bytes, b.Bytes) }))
}

func (j judge) totalSize() Verdict {
	var all File
	for _, file := range j.facts.Files {
		all.Bytes, all.Doubt = all.Bytes+file.Bytes, all.Doubt+file.Doubt
	}
	if all.Bytes-all.Doubt > j.rules.TotalBytes {
		return notMet("%s now", BytesWords(all.Bytes))
	}
	return sizeVerdict(all.Bytes+all.Doubt > j.rules.TotalBytes, all)
}

func sizeVerdict(unsure bool, of File) Verdict {
	if unsure {
		return pending("About %s: the pages are still being measured", BytesWords(of.Bytes))
	}
	return met("%s", BytesWords(of.Bytes))
}

func (r Rules) pagesTitle() string {
	switch {
	case r.LeastPages > 0 && r.MostPages == r.LeastPages:
		return "Exactly " + count(r.MostPages, "page")
	case r.LeastPages > 0 && r.MostPages > 0:
		return fmt.Sprintf("%d to %d pages", r.LeastPages, r.MostPages)
	case r.LeastPages > 0:
		return "At least " + count(r.LeastPages, "page")
	case r.MostPages > 0:
		return "At most " + count(r.MostPages, "page")
	}
	return ""
}

func (j judge) pages() Verdict {
	n := len(j.facts.Pages)
	switch {
	case j.rules.MostPages > 0 && n > j.rules.MostPages:
		return notMet("%s, %d too many", count(n, "page"), n-j.rules.MostPages)
	case n < j.rules.LeastPages:
		return notMet("%s, %d too few", count(n, "page"), j.rules.LeastPages-n)
	}
	return met("%s", count(n, "page"))
}

func (r Rules) filesTitle() string {
	switch {
	case r.Files == OneFile:
		return "One PDF"
	case r.Files == FilePerPart && r.MostFiles > 0:
		return fmt.Sprintf("A PDF for each part, at most %d", r.MostFiles)
	case r.Files == FilePerPart:
		return "A PDF for each part"
	case r.MostFiles > 0:
		return "At most " + count(r.MostFiles, "file")
	}
	return ""
}

func (j judge) files() Verdict {
	n := len(j.facts.Files)
	switch {
	case j.rules.Files == OneFile && n > 1:
		return notMet("%d files", n)
	case j.rules.Files == FilePerPart && j.facts.Parts > 0 && n != j.facts.Parts:
		return notMet("%s for %s", count(n, "file"), count(j.facts.Parts, "part"))
	case j.rules.MostFiles > 0 && n > j.rules.MostFiles:
		return notMet("%d files, %d too many", n, n-j.rules.MostFiles)
	}
	return met("%s", count(n, "file"))
}

func (j judge) sizes() Verdict {
	return j.eachPage(phrase{"is of another size", "are of another size"}, func(p Page) Answer {
		return AnswerOf(slices.Contains(j.rules.Sizes, geometry.PaperName(p.Size)))
	})
}

// sameSize names the pages that have not the size of most. A page on its side has the same.
func (j judge) sameSize() Verdict {
	counts, sizes := map[string]int{}, make([]string, len(j.facts.Pages))
	most := ""
	for i, page := range j.facts.Pages {
		short, long := math.Min(page.Size.Width, page.Size.Height), math.Max(page.Size.Width, page.Size.Height)
		if sizes[i] = geometry.PaperName(page.Size); sizes[i] == "" {
			sizes[i] = geometry.Size{Width: short, Height: long}.String()
		}
		if counts[sizes[i]]++; counts[sizes[i]] > counts[most] || most == "" {
			most = sizes[i]
		}
	}
	var others []int
	for i, size := range sizes {
		if size != most {
			others = append(others, i+1)
		}
	}
	if len(others) == 0 {
		return met("%s", most)
	}
	return notMetBy(others, phrase{"is not " + most, "are not " + most})
}

func (j judge) upright() Verdict {
	return j.eachPage(phrase{"does not stand upright", "do not stand upright"}, func(p Page) Answer { return p.Upright })
}

func (r Rules) resolutionTitle() string {
	switch {
	case r.LeastDPI > 0 && r.MostDPI > 0:
		return fmt.Sprintf("Scans at %d to %d dpi", r.LeastDPI, r.MostDPI)
	case r.LeastDPI > 0:
		return fmt.Sprintf("Scans at %d dpi or finer", r.LeastDPI)
	case r.MostDPI > 0:
		return fmt.Sprintf("Scans at %d dpi at most", r.MostDPI)
	}
	return ""
}

// dpiTolerance is how far, as a share, a resolution may be from what is asked for: pictures have
// whole pixels, and scanners' sheets are not exact.
const dpiTolerance = 0.03

func (j judge) resolution() Verdict {
	least, most := float64(j.rules.LeastDPI)*(1-dpiTolerance), float64(j.rules.MostDPI)*(1+dpiTolerance)
	return j.eachPage(phrase{"has another resolution", "have another resolution"}, func(p Page) Answer {
		dpi := float64(p.DPI)
		return AnswerOf(p.DPI == 0 || dpi >= least && (j.rules.MostDPI == 0 || dpi <= most))
	})
}

var colourTitles = map[Colours]string{Grey: "No colours", BlackWhite: "Black and white"}

func (j judge) colours() Verdict {
	return j.eachPage(phrase{"shows more than that", "show more than that"}, func(p Page) Answer {
		switch {
		case p.Colours == "":
			return Unknown
		case j.rules.Colours == Grey:
			return AnswerOf(p.Colours != Colour)
		}
		return AnswerOf(p.Colours == BlackWhite)
	})
}

func (j judge) searchable() Verdict {
	return j.eachPage(phrase{"cannot be searched", "cannot be searched"}, func(p Page) Answer { return p.Text })
}

// numbers holds the pages from the first on that has one: a cover and a list of contents need none.
func (j judge) numbers() Verdict {
	begun := !slices.ContainsFunc(j.facts.Pages, func(p Page) bool { return p.Number == Yes })
	return j.eachPage(phrase{"has no number", "have no number"}, func(p Page) Answer {
		if begun = begun || p.Number == Yes; !begun {
			return Yes
		}
		return p.Number
	})
}

func (j judge) bookmarks() Verdict {
	return answered(j.facts.Bookmarks, "", "There are none")
}

func (j judge) contents() Verdict {
	return answered(j.facts.Contents, "", "There is none")
}

var passwordTitles = map[Password]string{NoPassword: "No password", PasswordRequired: "Locked with a password"}

func (j judge) password() Verdict {
	if j.rules.Password == PasswordRequired {
		return answered(j.facts.Locked, "", "It opens without one")
	}
	return answered(j.facts.Locked.Not(), "", "A password is needed to open it")
}

func (j judge) noForms() Verdict {
	return j.eachPage(phrase{"has form fields", "have form fields"}, func(p Page) Answer { return p.Fields.Not() })
}

func (j judge) noComments() Verdict {
	return j.eachPage(phrase{"has comments", "have comments"}, func(p Page) Answer { return p.Comments.Not() })
}

func (j judge) noLinks() Verdict {
	return j.eachPage(phrase{"has links", "have links"}, func(p Page) Answer { return p.Links.Not() })
}

func (j judge) noAttachments() Verdict {
	return answered(j.facts.Attached.Not(), "", "Files or scripts are attached")
}

func (j judge) version() Verdict {
	switch {
	case j.facts.Version == "":
		return pending("It is known after the export")
	case slices.Index(versions, j.facts.Version) > slices.Index(versions, j.rules.Version) || !slices.Contains(versions, j.facts.Version):
		return notMet("It is PDF %s", j.facts.Version)
	}
	return met("PDF %s", j.facts.Version)
}

func (j judge) fonts() Verdict {
	return answered(j.facts.Fonts, "", "A font is missing in the file")
}

var propertyWords = map[string]string{
	"title": "title", "author": "author", "subject": "subject", "keywords": "keywords",
	"reference": "reference", "caseNumber": "case number", "senderReference": "sender’s reference",
}

func propertiesTitle(names []string) string {
	if len(names) == 0 {
		return ""
	}
	return "Properties: " + list(wordsOf(names), "and")
}

func wordsOf(names []string) (words []string) {
	for _, name := range names {
		words = append(words, propertyWords[name])
	}
	return words
}

func (j judge) properties() Verdict {
	if j.facts.Properties == nil {
		return pending("")
	}
	missing := slices.DeleteFunc(slices.Clone(j.rules.Properties), func(name string) bool { return j.facts.Properties[name] })
	if len(missing) > 0 {
		return notMet("The %s %s missing", list(wordsOf(missing), "and"), verb(len(missing), "is", "are"))
	}
	return met("")
}

func untilTitle(day string) string {
	if day == "" {
		return ""
	}
	return "Handed in by " + DayWords(day)
}

// DayWords tells a day as people do: 3 March 2026.
func DayWords(day string) string {
	at, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return at.Format("2 January 2006")
}

func until(day, today string) Verdict {
	last, err := time.Parse(time.DateOnly, day)
	now, errNow := time.Parse(time.DateOnly, today)
	if err != nil || errNow != nil {
		return pending("")
	}
	left := int(math.Round(last.Sub(now).Hours() / 24))
	switch {
	case left < 0:
		return notMet("That was %s ago", count(-left, "day"))
	case left == 0:
		return met("Today is the last day")
	}
	return met("%s left", count(left, "day"))
}

func answered(a Answer, yes, no string) Verdict {
	switch a {
	case Yes:
		return met("%s", yes)
	case No:
		return notMet("%s", no)
	}
	return pending("It is known after the export")
}
