package receivers

import (
	"slices"

	"dorbin/core/annotation"
	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/raster"
	"dorbin/core/requirements"
)

// Settlement is what would settle a rule that is not met. Exactly one of commands, limit, read and open
// is given.
type Settlement struct {
	Words    message.Text    `json:"words" doc:"What a button says: Turn both."`
	Does     message.Text    `json:"does" doc:"What it would do, in a sentence."`
	Safe     bool            `json:"safe" doc:"It takes nothing away that is seen, and can be done without looking."`
	Commands packet.Commands `json:"commands,omitempty"`
	Limit    int64           `json:"limit,omitempty" doc:"The document is to fit under so many bytes."`
	Read     []packet.PageID `json:"read,omitempty" doc:"The text of these pages is to be recognised."`
	Open     string          `json:"open,omitempty" enum:"export,finish?section=properties,finish?section=protection" doc:"The view in which somebody has to decide."`
}

// settlement is what would settle a rule; nil where it is met, or nothing simple would.
func (h held) settlement(rule RuleState) *Settlement {
	if rule.State == requirements.Met {
		return nil
	}
	settle, ok := settlements[rule.Rule]
	if !ok {
		return nil
	}
	return settle(h, rule)
}

var settlements = map[requirements.Rule]func(held, RuleState) *Settlement{
	requirements.RuleFileSize:   func(h held, _ RuleState) *Settlement { return h.fit(h.receiver.Rules.FileBytes) },
	requirements.RuleTotalSize:  func(h held, _ RuleState) *Settlement { return h.fit(h.receiver.Rules.TotalBytes) },
	requirements.RuleSizes:      layOnPaper,
	requirements.RuleSameSize:   layOnCommonest,
	requirements.RuleUpright:    turnUpright,
	requirements.RuleColours:    leaveColoursOut,
	requirements.RuleSearchable: makeSearchable,
	requirements.RuleNumbers:    numberPages,
	requirements.RuleBookmarks:  addBookmarks,
	requirements.RuleContents:   addContents,
	requirements.RulePassword:   protect,
	requirements.RuleForms:      fixFields,
	requirements.RuleComments:   leaveCommentsOut,
	requirements.RuleLinks:      leaveLinksOut,
	requirements.RuleProperties: func(held, RuleState) *Settlement {
		return &Settlement{Words: message.Of("Fill in…"), Does: message.Of("Shows the document’s properties."), Open: "finish?section=properties"}
	},
}

// fit has the document fit under a limit. Where it is asked to already, only somebody's decision helps.
func (h held) fit(limit int64) *Settlement {
	isAsked := h.plan.Size == planning.Fit && h.plan.Limit <= limit
	switch {
	case isAsked && h.plan.Waiting > 0:
		return nil // it is being measured
	case isAsked:
		return &Settlement{Words: message.Of("Decide…"), Does: message.Of("Shows what would make the document smaller."), Open: "export"}
	}
	size := requirements.BytesWords(limit)
	return &Settlement{
		Words: message.Of("Fit under %s", size), Does: message.Of("Makes the pages as small as they must be to fit under %s; text stays sharp.", size),
		Safe: true, Limit: limit,
	}
}

func layOn(pages []packet.PageID, name string, size geometry.Size) *Settlement {
	return &Settlement{
		Words: message.Of("Lay on %s", name), Does: message.Of("Lays %s on %s.", packet.CountPages(len(pages)), name), Safe: true,
		Commands: packet.Commands{packet.FitTo(size, pages...)},
	}
}

func layOnPaper(h held, rule RuleState) *Settlement {
	paper, ok := geometry.PaperNamed(h.receiver.Rules.Sizes[0])
	if !ok {
		return nil
	}
	return layOn(rule.PageIDs, paper.Name, paper.Size)
}

func layOnCommonest(h held, rule RuleState) *Settlement {
	most := packet.CommonestSize(h.pages)
	at := slices.IndexFunc(h.pages, func(page packet.Page) bool { return packet.SizeName(page) == most })
	return layOn(rule.PageIDs, most, h.pages[at].Size())
}

// turnUpright does what the findings of these pages propose.
func turnUpright(h held, rule RuleState) *Settlement {
	var commands packet.Commands
	for _, finding := range h.findings.Findings {
		if finding.Kind == check.Sideways && slices.Contains(rule.PageIDs, finding.Page) {
			commands = append(commands, finding.Settle...)
		}
	}
	if len(commands) == 0 {
		return nil
	}
	return &Settlement{
		Words: turnWords(len(commands)), Does: message.Of("Turns %s upright.", packet.CountPages(len(commands))), Safe: true, Commands: commands,
	}
}

func leaveColoursOut(h held, rule RuleState) *Settlement {
	if rule.State == requirements.Pending {
		return nil
	}
	tone, words := raster.GrayTone, message.Of("grey")
	if h.receiver.Rules.Colours == requirements.BlackWhite {
		tone, words = raster.BlackWhite, message.Of("black and white")
	}
	return &Settlement{
		Words: message.Of("Make %s", words), Does: message.Of("Makes %s %s. Look at them afterwards.", packet.CountPages(len(rule.PageIDs)), words),
		Commands: packet.Commands{packet.Tone{Selected: packet.On(rule.PageIDs...), Tone: raster.Tone{Mode: tone}}},
	}
}

// makeSearchable reads those pages that are not being read already.
func makeSearchable(h held, rule RuleState) *Settlement {
	var unread []packet.PageID
	for _, id := range rule.PageIDs {
		if h.text[id] == requirements.No {
			unread = append(unread, id)
		}
	}
	if len(unread) == 0 || !h.canRead {
		return nil
	}
	return &Settlement{
		Words: message.Of("Make searchable"), Does: message.Of("Has the text of %s recognised.", packet.CountPages(len(unread))), Safe: true, Read: unread,
	}
}

func numberPages(h held, _ RuleState) *Settlement {
	numbers := h.State.Finish.OrDefaults().Numbers
	numbers.On = true
	return &Settlement{
		Words: message.Of("Number them"), Does: message.Of("Numbers the pages."), Safe: true, Commands: packet.Commands{packet.Finish{Numbers: &numbers}},
	}
}

func addBookmarks(h held, _ RuleState) *Settlement {
	bookmarks := h.State.Finish.OrDefaults().Bookmarks
	bookmarks.On = true
	return &Settlement{
		Words: message.Of("Add bookmarks"), Does: message.Of("Adds bookmarks to the parts."), Safe: true, Commands: packet.Commands{packet.Finish{Bookmarks: &bookmarks}},
	}
}

func addContents(h held, _ RuleState) *Settlement {
	contents := h.State.Finish.OrDefaults().Contents
	contents.On = true
	return &Settlement{
		Words: message.Of("Add a contents page"), Does: message.Of("Adds a contents page."), Safe: true, Commands: packet.Commands{packet.Finish{Contents: &contents}},
	}
}

// protect takes a password away that nobody may need. One that is required is somebody's to choose.
func protect(h held, _ RuleState) *Settlement {
	if h.receiver.Rules.Password == requirements.PasswordRequired {
		return &Settlement{Words: message.Of("Lock it…"), Does: message.Of("Shows how the document is protected."), Open: "finish?section=protection"}
	}
	protection := h.State.Finish.OrDefaults().Protection
	protection.On = false
	return &Settlement{
		Words: message.Of("Leave the password out"), Does: message.Of("Leaves out what protects the document."),
		Commands: packet.Commands{packet.Finish{Protection: &protection}},
	}
}

func fixFields(h held, rule RuleState) *Settlement {
	on := packet.CountPages(len(rule.Pages))
	return h.annotate(rule, message.Of("Fix the form fields"), message.Of("Makes the form fields of %s part of the page, as they look.", on), true, func(p *annotation.Policy) {
		p.Fields = annotation.Fixed
	})
}

func leaveCommentsOut(h held, rule RuleState) *Settlement {
	on := packet.CountPages(len(rule.Pages))
	return h.annotate(rule, message.Of("Leave comments out"), message.Of("Leaves out the comments of %s.", on), false, func(p *annotation.Policy) {
		p.Comments = annotation.LeftOut
	})
}

// annotate changes what becomes of the annotations of pages, and leaves the rest of that as it is.
func (h held) annotate(rule RuleState, words, does message.Text, safe bool, change func(*annotation.Policy)) *Settlement {
	if rule.State == requirements.Pending {
		return nil
	}
	byPolicy := map[annotation.Policy][]packet.PageID{}
	var policies []annotation.Policy
	for _, number := range rule.Pages {
		page := h.pages[number-1]
		policy := page.Annotations
		change(&policy)
		if byPolicy[policy] == nil {
			policies = append(policies, policy)
		}
		byPolicy[policy] = append(byPolicy[policy], page.ID)
	}
	s := Settlement{Words: words, Does: does, Safe: safe}
	for _, policy := range policies {
		s.Commands = append(s.Commands, packet.Annotate{Selected: packet.On(byPolicy[policy]...), Annotations: policy})
	}
	return &s
}

func leaveLinksOut(h held, _ RuleState) *Settlement {
	bookmarks := h.State.Finish.OrDefaults().Bookmarks
	if bookmarks.NoLinks {
		return nil // they are those of the contents page
	}
	bookmarks.NoLinks = true
	return &Settlement{
		Words: message.Of("Leave links out"), Does: message.Of("Leaves out the links on pages."), Commands: packet.Commands{packet.Finish{Bookmarks: &bookmarks}},
	}
}

// turnWords is what a button says that turns so many pages.
func turnWords(pages int) message.Text {
	if pages == 2 {
		return message.Of("Turn both")
	}
	return message.Count(pages, "Turn it", "Turn all %d")
}
