package requirements

import (
	"cmp"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/problem"
)

// Receiver is whom a document is for, and what they ask for.
type Receiver struct {
	Name string `json:"name" minLength:"1" maxLength:"200"`
	// Until is the last day on which the document can be handed in.
	Until  string  `json:"until,omitempty" doc:"The last day on which the document can be handed in, as 2026-03-31."`
	Rules  Rules   `json:"rules"`
	Papers []Paper `json:"papers,omitempty" maxItems:"100" doc:"What is asked for, in the order in which it is wanted."`
	// Delivery is how the document is handed in; nil where nothing was said.
	Delivery *Delivery `json:"delivery,omitempty"`
}

// Rules are those of a receiver. What is zero is no rule.
type Rules struct {
	FileBytes  int64 `json:"fileBytes,omitempty" minimum:"0" doc:"The most bytes that a file may have."`
	TotalBytes int64 `json:"totalBytes,omitempty" minimum:"0" doc:"The most bytes that all files together may have."`
	LeastPages int   `json:"leastPages,omitempty" minimum:"0" maximum:"100000"`
	MostPages  int   `json:"mostPages,omitempty" minimum:"0" maximum:"100000"`
	Files      Files `json:"files,omitempty" enum:"one,perPart" doc:"One PDF, or one for each part."`
	MostFiles  int   `json:"mostFiles,omitempty" minimum:"0" maximum:"10000"`

	Sizes    []string `json:"sizes,omitempty" maxItems:"20" doc:"The papers that pages may have, upright or on their sides, such as A4."`
	SameSize bool     `json:"sameSize,omitempty" doc:"All pages have one size."`
	Upright  bool     `json:"upright,omitempty" doc:"All pages stand upright."`
	LeastDPI int      `json:"leastDPI,omitempty" minimum:"0" maximum:"2400" doc:"Of scans."`
	MostDPI  int      `json:"mostDPI,omitempty" minimum:"0" maximum:"2400" doc:"Of scans."`
	Colours  Colours  `json:"colours,omitempty" enum:"grey,blackWhite" doc:"Without it, colours are allowed. Black and white is ink or paper, with nothing between."`

	Searchable bool `json:"searchable,omitempty" doc:"All pages have text."`
	Numbers    bool `json:"numbers,omitempty" doc:"Pages are numbered."`
	Bookmarks  bool `json:"bookmarks,omitempty"`
	Contents   bool `json:"contents,omitempty" doc:"There is a contents page."`

	Password      Password `json:"password,omitempty" enum:"none,required" doc:"Whether a password may, or must, be needed to open it."`
	NoForms       bool     `json:"noForms,omitempty" doc:"No form fields."`
	NoComments    bool     `json:"noComments,omitempty"`
	NoLinks       bool     `json:"noLinks,omitempty"`
	NoAttachments bool     `json:"noAttachments,omitempty" doc:"No attached files and no scripts."`
	Version       string   `json:"version,omitempty" enum:"1.3,1.4,1.5,1.6,1.7,2.0" doc:"The newest version of PDF that is taken."`
	Fonts         bool     `json:"fonts,omitempty" doc:"All fonts are embedded."`

	FileName    string   `json:"fileName,omitempty" maxLength:"200" doc:"How files are named, with fields as for exports: {reference} {packet}."`
	PlainName   bool     `json:"plainName,omitempty" doc:"File names have the letters A to Z, digits, hyphens and underscores alone."`
	LongestName int      `json:"longestName,omitempty" minimum:"0" maximum:"250" doc:"The most characters of a file name, with its extension."`
	Properties  []string `json:"properties,omitempty" maxItems:"10" doc:"Properties that must be filled in: title, author, subject, keywords, reference, caseNumber, senderReference."`
}

// Files is how many files a document comes in.
type Files string

// The numbers of files.
const (
	OneFile     Files = "one"
	FilePerPart Files = "perPart"
)

// Colours is what pages may show.
type Colours string

// The colours, each with more than the one before.
const (
	BlackWhite Colours = "blackWhite"
	Grey       Colours = "grey"
	Colour     Colours = "colour"
)

// Password is whether one is needed to open a document.
type Password string

// The rules of passwords.
const (
	NoPassword       Password = "none"
	PasswordRequired Password = "required"
)

// Paper is something that is asked for: a form, a quote, a certificate.
type Paper struct {
	Title string `json:"title" minLength:"1" maxLength:"200"`
	Least int    `json:"least,omitempty" minimum:"0" maximum:"100" doc:"How many of it there must be at least, each a part; 1 when it is missing."`
	// Since is the first day on which it may have been written.
	Since    string `json:"since,omitempty" doc:"It may not be older than this day, as 2026-03-31."`
	Optional bool   `json:"optional,omitempty" doc:"It is welcome, but not asked for."`
}

// AtLeast is how many parts there must be of a paper.
func (p Paper) AtLeast() int {
	if p.Optional {
		return 0
	}
	return max(1, p.Least)
}

// Bounds of what a receiver can ask for.
const (
	mostPapers   = 100
	longestTitle = 200
	leastBytes   = 10_000 // hardly a page
	mostBytes    = 10_000_000_000
)

// PropertyNames are those that can be asked for, by their names in the packet.
var PropertyNames = []string{"title", "author", "subject", "keywords", "reference", "caseNumber", "senderReference"}

// versions of PDF, from the oldest.
var versions = []string{"1.3", "1.4", "1.5", "1.6", "1.7", "2.0"}

// Check tells what is wrong with a receiver: rules that no document could meet, above all. The error
// is a problem.Invalid.
func (r Receiver) Check() error {
	for _, check := range []func() error{r.checkNames, r.Rules.checkValues, r.Rules.checkContradictions, r.checkPapers, r.checkDelivery} {
		if err := check(); err != nil {
			return err
		}
	}
	return nil
}

// Tidy is the receiver without spaces around what was typed, and without empty lists, so that it
// equals what is read of it.
func (r Receiver) Tidy() Receiver {
	r.Name, r.Rules.FileName = strings.TrimSpace(r.Name), strings.TrimSpace(r.Rules.FileName)
	r.Papers, r.Rules.Sizes, r.Rules.Properties = tidy(r.Papers), tidy(r.Rules.Sizes), tidy(r.Rules.Properties)
	for i := range r.Papers {
		r.Papers[i].Title = strings.TrimSpace(r.Papers[i].Title)
	}
	if r.Delivery != nil {
		delivery := r.Delivery.Tidy()
		r.Delivery = &delivery
	}
	return r
}

func (r Receiver) checkDelivery() error {
	if r.Delivery == nil {
		return nil
	}
	return r.Delivery.Check()
}

func tidy[T any](list []T) []T {
	if len(list) == 0 {
		return nil
	}
	return slices.Clone(list)
}

func wrong(format string, values ...any) error {
	return problem.New(problem.Invalid, format, values...)
}

func (r Receiver) checkNames() error {
	switch {
	case strings.TrimSpace(r.Name) == "":
		return wrong("a receiver needs a name")
	case utf8.RuneCountInString(r.Name) > longestTitle:
		return wrong("the name of a receiver has at most %d characters", longestTitle)
	}
	return checkDay(message.Of("the last day to hand it in"), r.Until)
}

func checkDay(what message.Text, day string) error {
	if day == "" {
		return nil
	}
	if _, err := time.Parse(time.DateOnly, day); err != nil {
		return wrong("%s is not a day such as 2026-03-31: %s", what, day)
	}
	return nil
}

func (r Rules) checkValues() error {
	for _, bytes := range []int64{r.FileBytes, r.TotalBytes} {
		if bytes != 0 && (bytes < leastBytes || bytes > mostBytes) {
			return wrong("a file size is between 10 KB and 10 GB")
		}
	}
	for _, name := range r.Sizes {
		if _, ok := geometry.PaperNamed(name); !ok {
			return wrong("there is no paper %q", name)
		}
	}
	for _, name := range r.Properties {
		if !slices.Contains(PropertyNames, name) {
			return wrong("there is no property %q", name)
		}
	}
	if r.Version != "" && !slices.Contains(versions, r.Version) {
		return wrong("there is no version %q of PDF", r.Version)
	}
	for _, choice := range []struct {
		what, value string
		known       []string
	}{
		{"files", string(r.Files), []string{"", string(OneFile), string(FilePerPart)}},
		{"colours", string(r.Colours), []string{"", string(BlackWhite), string(Grey)}},
		{"password", string(r.Password), []string{"", string(NoPassword), string(PasswordRequired)}},
	} {
		if !slices.Contains(choice.known, choice.value) {
			return wrong("the rule %q cannot be %q", choice.what, choice.value)
		}
	}
	if min(r.LeastPages, r.MostPages, r.MostFiles, r.LeastDPI, r.MostDPI, r.LongestName) < 0 {
		return wrong("a rule cannot be a number below 0")
	}
	return nil
}

// shortestName is the shortest file name with its extension.
const shortestName = 5

func (r Rules) checkContradictions() error {
	switch {
	case r.MostPages > 0 && r.LeastPages > r.MostPages:
		return wrong("no document has at least %d pages and at most %d", r.LeastPages, r.MostPages)
	case r.MostDPI > 0 && r.LeastDPI > r.MostDPI:
		return wrong("no scan has at least %d dpi and at most %d", r.LeastDPI, r.MostDPI)
	case r.Files == OneFile && r.MostFiles > 1:
		return wrong("one file is asked for, and up to %d are allowed: choose one of the two rules", r.MostFiles)
	case r.TotalBytes > 0 && r.FileBytes > r.TotalBytes:
		return wrong("a file may be larger than all files together")
	case r.LongestName > 0 && r.LongestName < shortestName:
		return wrong("a file name with its extension has at least %d characters", shortestName)
	case r.Contents && r.NoLinks:
		return wrong("a contents page has links: one of the two rules cannot be met")
	case r.Password == PasswordRequired && r.Version != "" && r.Version != "2.0":
		return wrong("what is locked with a password is PDF 2.0, which is newer than %s", r.Version)
	}
	return nil
}

func (r Receiver) checkPapers() error {
	if len(r.Papers) > mostPapers {
		return wrong("a receiver asks for at most %d papers", mostPapers)
	}
	least, titles := 0, map[string]bool{}
	for _, paper := range r.Papers {
		title := strings.TrimSpace(paper.Title)
		switch {
		case title == "":
			return wrong("a paper that is asked for needs a title")
		case utf8.RuneCountInString(title) > longestTitle:
			return wrong("the title of a paper has at most %d characters", longestTitle)
		case titles[title]:
			return wrong("%q is asked for twice: say how many there must be", title)
		case paper.Least < 0 || paper.Least > mostPapers:
			return wrong("there can be between 1 and %d of a paper", mostPapers)
		}
		if err := checkDay(message.Of("the day of %s", title), paper.Since); err != nil {
			return err
		}
		titles[title] = true
		least += paper.AtLeast()
	}
	if r.Rules.MostPages > 0 && least > r.Rules.MostPages {
		return wrong("%d papers have no room on %d pages", least, r.Rules.MostPages)
	}
	return nil
}

// Limit is the most bytes that one file may have; 0 is any number.
func (r Rules) Limit() int64 {
	if r.FileBytes > 0 && r.TotalBytes > 0 {
		return min(r.FileBytes, r.TotalBytes)
	}
	return cmp.Or(r.FileBytes, r.TotalBytes)
}

// BytesWords tells a file size as people do: 4 MB, 850 KB.
func BytesWords(bytes int64) message.Text {
	switch {
	case bytes < 1_000_000:
		return message.Of("%d KB", (bytes+500)/1000)
	case bytes%1_000_000 == 0:
		return message.Of("%d MB", bytes/1_000_000)
	}
	return message.Of("%.1f MB", float64(bytes)/1e6)
}
