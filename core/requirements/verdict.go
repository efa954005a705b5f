package requirements

import (
	"cmp"
	"math"
	"slices"
	"time"

	"dorbin/core/geometry"
	"dorbin/core/message"
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
	Rule  Rule         `json:"rule" enum:"fileSize,totalSize,pages,files,sizes,sameSize,upright,resolution,colours,searchable,numbers,bookmarks,contents,password,forms,comments,links,attachments,version,fonts,fileName,properties,until"`
	Title message.Text `json:"title" doc:"What is asked for: At most 4 MB."`
	State State        `json:"state" enum:"met,notMet,unknown"`
	Why   message.Text `json:"why,omitzero" doc:"Why it is, or is not, met."`
	Pages []int        `json:"pages,omitempty" doc:"Those that do not meet it, or of which it is not known: numbers, from 1."`
}

// Judge holds a document against the rules of a receiver.
func (r Receiver) Judge(facts Facts) []Verdict {
	j := judge{r.Rules, facts}
	verdicts := []Verdict{}
	for _, rule := range []struct {
		name  Rule
		title message.Text // empty where there is no such rule
		judge func() Verdict
	}{
		{RuleFileSize, j.fileSizeTitle(), j.fileSize},
		{RuleTotalSize, r.Rules.totalSizeTitle(), j.totalSize},
		{RulePages, r.Rules.pagesTitle(), j.pages},
		{RuleFiles, r.Rules.filesTitle(), j.files},
		{RuleSizes, message.Or(r.Rules.Sizes...), j.sizes},
		{RuleSameSize, when(r.Rules.SameSize, message.Of("All pages of one size")), j.sameSize},
		{RuleUpright, when(r.Rules.Upright, message.Of("Pages upright")), j.upright},
		{RuleResolution, r.Rules.resolutionTitle(), j.resolution},
		{RuleColours, colourTitles[r.Rules.Colours], j.colours},
		{RuleSearchable, when(r.Rules.Searchable, message.Of("Searchable")), j.searchable},
		{RuleNumbers, when(r.Rules.Numbers, message.Of("Page numbers")), j.numbers},
		{RuleBookmarks, when(r.Rules.Bookmarks, message.Of("Bookmarks")), j.bookmarks},
		{RuleContents, when(r.Rules.Contents, message.Of("A contents page")), j.contents},
		{RulePassword, passwordTitles[r.Rules.Password], j.password},
		{RuleForms, when(r.Rules.NoForms, message.Of("No form fields")), j.noForms},
		{RuleComments, when(r.Rules.NoComments, message.Of("No comments")), j.noComments},
		{RuleLinks, when(r.Rules.NoLinks, message.Of("No links")), j.noLinks},
		{RuleAttachments, when(r.Rules.NoAttachments, message.Of("No attached files, no scripts")), j.noAttachments},
		{RuleVersion, when(r.Rules.Version != "", message.Of("PDF %s at most", r.Rules.Version)), j.version},
		{RuleFonts, when(r.Rules.Fonts, message.Of("Fonts embedded")), j.fonts},
		{RuleFileName, r.Rules.nameTitle(), j.fileName},
		{RuleProperties, propertiesTitle(r.Rules.Properties), j.properties},
		{RuleUntil, untilTitle(r.Until), func() Verdict { return until(r.Until, facts.Today) }},
	} {
		if rule.title.IsEmpty() {
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

func met(why message.Text) Verdict     { return Verdict{State: Met, Why: why} }
func notMet(why message.Text) Verdict  { return Verdict{State: NotMet, Why: why} }
func pending(why message.Text) Verdict { return Verdict{State: Pending, Why: why} }

func when(is bool, title message.Text) message.Text {
	if is {
		return title
	}
	return message.Text{}
}

func (j judge) fileSizeTitle() message.Text {
	switch limit := j.rules.FileBytes; {
	case limit == 0:
		return message.Text{}
	case j.severalFiles():
		return message.Of("At most %s each", BytesWords(limit))
	default:
		return message.Of("At most %s", BytesWords(limit))
	}
}

func (r Rules) totalSizeTitle() message.Text {
	return when(r.TotalBytes > 0, message.Of("At most %s together", BytesWords(r.TotalBytes)))
}

func (j judge) severalFiles() bool { return len(j.facts.Files) > 1 || j.rules.Files == FilePerPart }

// fileSize holds each file against the limit. Where an estimate lies near it, nobody knows.
func (j judge) fileSize() Verdict {
	unsure := false
	for _, file := range j.facts.Files {
		switch {
		case file.Bytes-file.Doubt > j.rules.FileBytes:
			return notMet(j.sizeNow(file))
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
		return notMet(message.Of("%s now", BytesWords(all.Bytes)))
	}
	return sizeVerdict(all.Bytes+all.Doubt > j.rules.TotalBytes, all)
}

func (j judge) sizeNow(file File) message.Text {
	if j.severalFiles() {
		return message.Of("%s now: %s", BytesWords(file.Bytes), file.Name)
	}
	return message.Of("%s now", BytesWords(file.Bytes))
}

func sizeVerdict(unsure bool, of File) Verdict {
	if unsure {
		return pending(message.Of("About %s: the pages are still being measured", BytesWords(of.Bytes)))
	}
	return met(BytesWords(of.Bytes))
}

func (r Rules) pagesTitle() message.Text {
	switch {
	case r.LeastPages > 0 && r.MostPages == r.LeastPages:
		return message.Of("Exactly %s", pagesOf(r.MostPages))
	case r.LeastPages > 0 && r.MostPages > 0:
		return message.Of("%d to %d pages", r.LeastPages, r.MostPages)
	case r.LeastPages > 0:
		return message.Of("At least %s", pagesOf(r.LeastPages))
	case r.MostPages > 0:
		return message.Of("At most %s", pagesOf(r.MostPages))
	}
	return message.Text{}
}

func (j judge) pages() Verdict {
	n := len(j.facts.Pages)
	switch {
	case j.rules.MostPages > 0 && n > j.rules.MostPages:
		return notMet(message.Of("%s, %d too many", pagesOf(n), n-j.rules.MostPages))
	case n < j.rules.LeastPages:
		return notMet(message.Of("%s, %d too few", pagesOf(n), j.rules.LeastPages-n))
	}
	return met(pagesOf(n))
}

func (r Rules) filesTitle() message.Text {
	switch {
	case r.Files == OneFile:
		return message.Of("One PDF")
	case r.Files == FilePerPart && r.MostFiles > 0:
		return message.Of("A PDF for each part, at most %d", r.MostFiles)
	case r.Files == FilePerPart:
		return message.Of("A PDF for each part")
	case r.MostFiles > 0:
		return message.Of("At most %s", filesOf(r.MostFiles))
	}
	return message.Text{}
}

func (j judge) files() Verdict {
	n := len(j.facts.Files)
	switch {
	case j.rules.Files == OneFile && n > 1:
		return notMet(message.Of("%d files", n))
	case j.rules.Files == FilePerPart && j.facts.Parts > 0 && n != j.facts.Parts:
		return notMet(message.Of("%s for %s", filesOf(n), message.Count(j.facts.Parts, "%d part", "%d parts")))
	case j.rules.MostFiles > 0 && n > j.rules.MostFiles:
		return notMet(message.Of("%d files, %d too many", n, n-j.rules.MostFiles))
	}
	return met(filesOf(n))
}

func (j judge) sizes() Verdict {
	return j.eachPage("%s is of another size", "%s are of another size", func(p Page) Answer {
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
		return met(message.Plain(most))
	}
	return notMetBy(others, "%s is not %s", "%s are not %s", most)
}

func (j judge) upright() Verdict {
	return j.eachPage("%s does not stand upright", "%s do not stand upright", func(p Page) Answer { return p.Upright })
}

func (r Rules) resolutionTitle() message.Text {
	switch {
	case r.LeastDPI > 0 && r.MostDPI > 0:
		return message.Of("Scans at %d to %d dpi", r.LeastDPI, r.MostDPI)
	case r.LeastDPI > 0:
		return message.Of("Scans at %d dpi or finer", r.LeastDPI)
	case r.MostDPI > 0:
		return message.Of("Scans at %d dpi at most", r.MostDPI)
	}
	return message.Text{}
}

// dpiTolerance is how far, as a share, a resolution may be from what is asked for: pictures have
// whole pixels, and scanners' sheets are not exact.
const dpiTolerance = 0.03

func (j judge) resolution() Verdict {
	least, most := float64(j.rules.LeastDPI)*(1-dpiTolerance), float64(j.rules.MostDPI)*(1+dpiTolerance)
	return j.eachPage("%s has another resolution", "%s have another resolution", func(p Page) Answer {
		dpi := float64(p.DPI)
		return AnswerOf(p.DPI == 0 || dpi >= least && (j.rules.MostDPI == 0 || dpi <= most))
	})
}

var colourTitles = map[Colours]message.Text{Grey: message.Of("No colours"), BlackWhite: message.Of("Black and white")}

func (j judge) colours() Verdict {
	return j.eachPage("%s shows more than that", "%s show more than that", func(p Page) Answer {
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
	return j.eachPage("%s cannot be searched", "%s cannot be searched", func(p Page) Answer { return p.Text })
}

// numbers holds the pages from the first on that has one: a cover and a list of contents need none.
func (j judge) numbers() Verdict {
	begun := !slices.ContainsFunc(j.facts.Pages, func(p Page) bool { return p.Number == Yes })
	return j.eachPage("%s has no number", "%s have no number", func(p Page) Answer {
		if begun = begun || p.Number == Yes; !begun {
			return Yes
		}
		return p.Number
	})
}

func (j judge) bookmarks() Verdict {
	return answered(j.facts.Bookmarks, message.Of("There are none"))
}

func (j judge) contents() Verdict {
	return answered(j.facts.Contents, message.Of("There is none"))
}

var passwordTitles = map[Password]message.Text{
	NoPassword:       message.Of("No password"),
	PasswordRequired: message.Of("Locked with a password"),
}

func (j judge) password() Verdict {
	if j.rules.Password == PasswordRequired {
		return answered(j.facts.Locked, message.Of("It opens without one"))
	}
	return answered(j.facts.Locked.Not(), message.Of("A password is needed to open it"))
}

func (j judge) noForms() Verdict {
	return j.eachPage("%s has form fields", "%s have form fields", func(p Page) Answer { return p.Fields.Not() })
}

func (j judge) noComments() Verdict {
	return j.eachPage("%s has comments", "%s have comments", func(p Page) Answer { return p.Comments.Not() })
}

func (j judge) noLinks() Verdict {
	return j.eachPage("%s has links", "%s have links", func(p Page) Answer { return p.Links.Not() })
}

func (j judge) noAttachments() Verdict {
	return answered(j.facts.Attached.Not(), message.Of("Files or scripts are attached"))
}

func (j judge) version() Verdict {
	switch {
	case j.facts.Version == "":
		return pending(message.Of("It is known after the export"))
	case slices.Index(versions, j.facts.Version) > slices.Index(versions, j.rules.Version) || !slices.Contains(versions, j.facts.Version):
		return notMet(message.Of("It is PDF %s", j.facts.Version))
	}
	return met(message.Of("PDF %s", j.facts.Version))
}

func (j judge) fonts() Verdict {
	return answered(j.facts.Fonts, message.Of("A font is missing in the file"))
}

var propertyWords = map[string]message.Text{
	"title": message.Of("title"), "author": message.Of("author"), "subject": message.Of("subject"), "keywords": message.Of("keywords"),
	"reference": message.Of("reference"), "caseNumber": message.Of("case number"), "senderReference": message.Of("sender’s reference"),
}

func propertiesTitle(names []string) message.Text {
	return when(len(names) > 0, message.Of("Properties: %s", listOfProperties(names)))
}

func listOfProperties(names []string) message.Text {
	words := make([]message.Text, len(names))
	for i, name := range names {
		words[i] = propertyWords[name]
	}
	return message.And(words...)
}

func (j judge) properties() Verdict {
	if j.facts.Properties == nil {
		return pending(message.Text{})
	}
	missing := slices.DeleteFunc(slices.Clone(j.rules.Properties), func(name string) bool { return j.facts.Properties[name] })
	if len(missing) > 0 {
		return notMet(message.Count(len(missing), "The %s is missing", "The %s are missing", listOfProperties(missing)))
	}
	return met(message.Text{})
}

func untilTitle(day string) message.Text {
	if day == "" {
		return message.Text{}
	}
	return message.Of("Handed in by %s", message.Day(day))
}

func until(day, today string) Verdict {
	last, err := time.Parse(time.DateOnly, day)
	now, errNow := time.Parse(time.DateOnly, today)
	if err != nil || errNow != nil {
		return pending(message.Text{})
	}
	left := int(math.Round(last.Sub(now).Hours() / 24))
	switch {
	case left < 0:
		return notMet(message.Of("That was %s ago", daysOf(-left)))
	case left == 0:
		return met(message.Of("Today is the last day"))
	}
	return met(message.Of("%s left", daysOf(left)))
}

func answered(a Answer, no message.Text) Verdict {
	switch a {
	case Yes:
		return met(message.Text{})
	case No:
		return notMet(no)
	}
	return pending(message.Of("It is known after the export"))
}
