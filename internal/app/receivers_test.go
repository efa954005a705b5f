package app_test

import (
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/annotation"
	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/core/requirements"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/receivers"
	"dorbin/internal/sampling"
)

// held waits until everything is known of a packet that its receiver asks for.
func held(t *testing.T, a *app.App, id string) (view receivers.Requirements) {
	t.Helper()
	await.Until(t, func() bool {
		var err error
		view, err = a.Receivers.Requirements(t.Context(), id)
		require.NoError(t, err)
		return view.Unknown == 0
	}, &view)
	return view
}

// asked waits until an export was held against its receiver's rules.
func asked(t *testing.T, a *app.App, id string) export.Asked {
	t.Helper()
	var receipt *export.Receipt
	await.Until(t, func() bool {
		e, err := a.Export.Get(t.Context(), id)
		require.NoError(t, err)
		receipt = e.Receipt
		return receipt != nil && receipt.Asked != nil
	})
	return *receipt.Asked
}

// ruleOf is how a packet stands against a rule.
func ruleOf(t *testing.T, view receivers.Requirements, name requirements.Rule) receivers.RuleState {
	t.Helper()
	for _, rule := range view.Rules {
		if rule.Rule == name {
			return rule
		}
	}
	require.Fail(t, "no such rule", name)
	return receivers.RuleState{}
}

// TestAPacketIsHeldAgainstWhatItsReceiverAsksFor breaks rules, settles them by what is offered, and
// exports: whatever is met by the packet is met by the file.
func TestAPacketIsHeldAgainstWhatItsReceiverAsksFor(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	for _, name := range []string{"application-form.pdf", "site-plan.pdf", "accounts.pdf"} {
		add(t, a, id, name, paper(t, name))
	}
	view, err := a.Receivers.Requirements(t.Context(), id)
	require.NoError(t, err)
	assert.Nil(t, view.Receiver)
	assert.Empty(t, view.Rules)

	first := get(t, a, id).Parts[0].Pages[0].ID
	apply(t, a, id, packet.Turn{Selected: packet.On(first), By: 180})
	apply(t, a, id, packet.SetReceiver{Receiver: &requirements.Receiver{
		Name: "Fund", Until: time.Now().AddDate(0, 0, 3).Format(time.DateOnly),
		Rules: requirements.Rules{
			FileBytes: 1_000_000, MostPages: 20, Files: requirements.OneFile, Sizes: []string{"A4"}, Upright: true, Searchable: true, Numbers: true,
			Bookmarks: true, Contents: true, Password: requirements.NoPassword, NoForms: true, NoComments: true, NoAttachments: true, Version: "1.7",
			Fonts: true, PlainName: true, LongestName: 20, FileName: "{reference}_{packet}", Properties: []string{"title", "reference"},
		},
		Papers: []requirements.Paper{{Title: "Yearly accounts"}, {Title: "Application form"}, {Title: "Signed declaration"}, {Title: "Site plan", Optional: true}},
	}})
	view = held(t, a, id)
	broken := map[requirements.Rule]string{}
	for _, rule := range view.Rules {
		if rule.State == requirements.NotMet {
			broken[rule.Rule] = rule.Why.English
		}
	}
	assert.Equal(t, map[requirements.Rule]string{
		requirements.RuleUpright: "Page 1 does not stand upright", requirements.RuleSizes: "Page 5 is of another size",
		requirements.RuleContents: "There is none", requirements.RuleForms: "Page 6 has form fields", requirements.RuleProperties: "The reference is missing",
		requirements.RuleNumbers: "Pages 5, 7 and 8 have no number",
	}, broken)
	assert.Equal(t, []packet.PageID{first}, ruleOf(t, view, requirements.RuleUpright).PageIDs)

	for _, rule := range view.Rules {
		if rule.Settle != nil && rule.Rule != requirements.RuleProperties {
			apply(t, a, id, rule.Settle.Commands...)
		}
	}
	apply(t, a, id, packet.Finish{Properties: &finish.Properties{On: true, Reference: "TV/2031"}})
	require.Len(t, view.Papers, 4)
	assert.NotEmpty(t, view.Proposal)
	apply(t, a, id, view.Proposal...)
	view = held(t, a, id)
	assert.Equal(t, 1, view.NotMet, "the declaration is missing: %+v", view)
	apply(t, a, id, view.Order...)
	apply(t, a, id, held(t, a, id).Titles...)
	titles := []string{}
	for _, part := range get(t, a, id).Parts {
		titles = append(titles, part.Title)
	}
	assert.Equal(t, []string{"Contents", "Yearly accounts", "Application form", "Site plan"}, titles)

	_, e := exportAsItIs(t, a, id)
	file := asked(t, a, e.ID)
	for _, rule := range file.Rules {
		assert.Equal(t, requirements.Met, rule.State, "%s: %s", rule.Title, rule.Why)
	}
	states := map[string]requirements.State{}
	for _, paper := range file.Papers {
		states[paper.Title] = paper.State
	}
	assert.Equal(t, map[string]requirements.State{
		"Yearly accounts": requirements.Met, "Application form": requirements.Met, "Signed declaration": requirements.NotMet, "Site plan": requirements.Met,
	}, states)
}

// heldAlmost holds a packet against what its receiver asks for, as soon as all is known but whether a file is too large that
// is as large as it may be, within a fiftieth.
func heldAlmost(t *testing.T, a *app.App, id string) (view receivers.Requirements) {
	t.Helper()
	await.Until(t, func() bool {
		plan, err := a.Export.Plan(t.Context(), id, "")
		require.NoError(t, err)
		view, err = a.Receivers.Requirements(t.Context(), id)
		require.NoError(t, err)
		unknown := slices.ContainsFunc(view.Rules, func(rule receivers.RuleState) bool {
			isSize := rule.Rule == requirements.RuleFileSize || rule.Rule == requirements.RuleTotalSize
			return rule.State == requirements.Pending && !isSize
		})
		return !unknown && plan.Uncertainty <= plan.After/3
	}, &view)
	return view
}

// everything asks for as much as can be asked for at once.
var everything = requirements.Rules{
	FileBytes: 900_000, TotalBytes: 2_000_000, LeastPages: 2, MostPages: 9, Files: requirements.OneFile, Sizes: []string{"A4", "A3"}, SameSize: true,
	Upright: true, LeastDPI: 150, MostDPI: 400, Colours: requirements.Grey, Searchable: true, Numbers: true, Bookmarks: true,
	Password: requirements.NoPassword, NoForms: true, NoComments: true, NoLinks: true, NoAttachments: true, Version: "1.7", Fonts: true,
	PlainName: true, LongestName: 40, Properties: []string{"title", "subject"},
}

// TestWhatIsMetByAPacketIsMetByItsFile makes packets of papers and adjustments by chance, and holds
// what is told of each against what is told of its file.
func TestWhatIsMetByAPacketIsMetByItsFile(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	papers := []string{"application-form.pdf", "site-plan.pdf", "accounts.pdf", "roof-1.jpg", "quotes"}
	for _, seed := range sampling.Numbers(t, 40, 2) {
		chance := rand.New(rand.NewPCG(uint64(seed), 18)) //nolint:gosec // a test
		id := newPacket(t, a)
		for _, at := range chance.Perm(len(papers))[:2] {
			if name := papers[at]; name == "quotes" {
				add(t, a, id, "quotes.tif", scans(t, 0, 3))
			} else {
				add(t, a, id, name, paper(t, name))
			}
		}
		receiver := requirements.Receiver{Name: "Everybody", Rules: everything}
		apply(t, a, id, packet.SetReceiver{Receiver: &receiver})
		for range 4 {
			pages := get(t, a, id).Parts[0].Pages
			on := packet.On(pages[chance.IntN(len(pages))].ID)
			a4 := geometry.SheetLayout{Paper: geometry.A4, Follow: true, Scale: geometry.Fill}
			numbers := finish.Default().Numbers
			numbers.On = true
			apply(t, a, id, []packet.Command{
				packet.Turn{Selected: on, By: 180}, packet.Tone{Selected: on, Tone: raster.Tone{Mode: raster.GrayTone}}, packet.Fit{Selected: on, Fit: &a4},
				packet.Finish{Numbers: &numbers}, packet.Annotate{Selected: on, Annotations: annotation.NoneSeen},
				packet.Finish{Properties: &finish.Properties{On: true, Subject: "Roof"}}, packet.Finish{Bookmarks: &finish.Bookmarks{On: true, NoLinks: true}},
			}[chance.IntN(7)])
		}
		view := heldAlmost(t, a, id)
		_, e := exportAsItIs(t, a, id)
		file := asked(t, a, e.ID)
		require.Len(t, file.Rules, len(view.Rules))
		for i, rule := range view.Rules {
			if rule.State == requirements.Met {
				assert.Equal(t, requirements.Met, file.Rules[i].State, "seed %d, %s: %s, but of the file: %s", seed, rule.Title, rule.Why, file.Rules[i].Why)
			}
		}
	}
}
