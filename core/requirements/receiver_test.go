package requirements

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/message"
	"dorbin/core/problem"
)

func TestRulesThatContradictEachOtherAreRefused(t *testing.T) {
	for _, test := range []struct {
		asked Receiver
		says  string
	}{
		{Receiver{Name: " "}, "needs a name"},
		{Receiver{Name: "A", Until: "31 March"}, "is not a day"},
		{Receiver{Name: "A", Rules: Rules{LeastPages: 9, MostPages: 3}}, "at least 9 pages and at most 3"},
		{Receiver{Name: "A", Rules: Rules{LeastDPI: 300, MostDPI: 200}}, "at least 300 dpi"},
		{Receiver{Name: "A", Rules: Rules{Files: OneFile, MostFiles: 3}}, "choose one"},
		{Receiver{Name: "A", Rules: Rules{FileBytes: 9_000_000, TotalBytes: 3_000_000}}, "larger than all files"},
		{Receiver{Name: "A", Rules: Rules{FileBytes: 12}}, "between 10 KB"},
		{Receiver{Name: "A", Rules: Rules{LongestName: 3}}, "at least 5 characters"},
		{Receiver{Name: "A", Rules: Rules{Contents: true, NoLinks: true}}, "contents page has links"},
		{Receiver{Name: "A", Rules: Rules{Password: PasswordRequired, Version: "1.4"}}, "newer than 1.4"},
		{Receiver{Name: "A", Rules: Rules{Sizes: []string{"A99"}}}, "no paper"},
		{Receiver{Name: "A", Rules: Rules{Properties: []string{"colour"}}}, "no property"},
		{Receiver{Name: "A", Rules: Rules{Version: "9"}}, "no version"},
		{Receiver{Name: "A", Rules: Rules{Colours: "pink"}}, "cannot be"},
		{Receiver{Name: "A", Rules: Rules{MostFiles: -1}}, "below 0"},
		{Receiver{Name: "A", Papers: []Paper{{Title: "Form"}, {Title: "Form"}}}, "asked for twice"},
		{Receiver{Name: "A", Papers: []Paper{{Title: ""}}}, "needs a title"},
		{Receiver{Name: "A", Papers: []Paper{{Title: "Form", Since: "soon"}}}, "is not a day"},
		{Receiver{Name: "A", Rules: Rules{MostPages: 2}, Papers: []Paper{{Title: "Quote", Least: 3}}}, "have no room"},
	} {
		err := test.asked.Check()
		require.ErrorIs(t, err, problem.Invalid, test.says)
		assert.Contains(t, err.Error(), test.says)
	}
	for _, shipped := range Shipped() {
		require.NoError(t, shipped.Check(), shipped.Name)
	}
}

func TestReceiversAreSharedAsFiles(t *testing.T) {
	for _, receiver := range Shipped() {
		var file bytes.Buffer
		require.NoError(t, WriteFile(&file, receiver))
		read, err := ReadFile(&file)
		require.NoError(t, err)
		assert.Equal(t, receiver, read)
	}
}

func TestFilesThatAreNoReceivers(t *testing.T) {
	for _, test := range []struct{ file, says string }{
		{"", "no receiver’s file"},
		{"[1]", "no receiver’s file"},
		{`{"kind":"other","version":1}`, "no receiver’s file"},
		{`{"kind":"dorbin-receiver","version":7,"receiver":{}}`, "version 7"},
		{`{"kind":"dorbin-receiver","version":1,"receiver":{"name":"A","rules":{"smell":"roses"}}}`, `not known: "smell"`},
		{`{"kind":"dorbin-receiver","version":1,"receiver":{"name":"A","rules":{"fileBytes":"4 MB"}}}`, "fileBytes"},
		{`{"kind":"dorbin-receiver","version":1,"receiver":{"name":"A","rules":{"leastPages":5,"mostPages":2}}}`, "at least 5"},
		{`{"kind":"dorbin-receiver","version":1,"receiver":{"name":"` + strings.Repeat("A", 10<<20) + `"}}`, "more than 1 MB"},
	} {
		_, err := ReadFile(strings.NewReader(test.file))
		require.ErrorIs(t, err, problem.Invalid)
		assert.Contains(t, err.Error(), test.says)
	}
}

func FuzzReadFile(f *testing.F) {
	for _, receiver := range Shipped() {
		var file bytes.Buffer
		require.NoError(f, WriteFile(&file, receiver))
		f.Add(file.String())
	}
	f.Fuzz(func(t *testing.T, file string) {
		receiver, err := ReadFile(strings.NewReader(file))
		if err != nil {
			return
		}
		facts := fine()
		for _, verdict := range receiver.Judge(facts) {
			assert.NotEmpty(t, verdict.Title)
		}
		receiver.JudgePapers([]PartFacts{{Title: receiver.Name, Text: file}})
	})
}

func TestPapersThatAreAskedFor(t *testing.T) {
	fund := Receiver{Name: "Fund", Papers: []Paper{
		{Title: "Application form"}, {Title: "Roofers’ quotes", Least: 2}, {Title: "Certificate of insurance", Since: "2026-01-01"},
		{Title: "Site plan"}, {Title: "Photographs", Optional: true},
	}}
	parts := []PartFacts{
		{Title: "application-form", Text: "Tarn Valley Fund"},
		{Title: "Quote of Slate & Lead", Paper: "Roofers’ quotes"},
		{Title: "scan 14:05", Text: "Certificate of Insurance. The boathouse is insured until 31 December 2027"},
		{Title: "Insurance", Paper: "Certificate of insurance", Text: "Dated 3 May 2025, paid on 2025-06-01"},
	}
	verdicts := fund.JudgePapers(parts)
	require.Len(t, verdicts, 5)
	assert.Equal(t, PaperVerdict{Title: "Application form", State: NotMet, Why: message.Of("Missing"), Wanted: 1, Parts: []int{}, Proposed: []int{0}}, verdicts[0])
	assert.Equal(t, NotMet, verdicts[1].State)
	assert.Equal(t, "1 more is missing", verdicts[1].Why.English)
	assert.Equal(t, []int{1}, verdicts[1].Parts)
	assert.Equal(t, "It is of 1 June 2025, and must be of 1 January 2026 or later", verdicts[2].Why.English)
	assert.Equal(t, []int{2}, verdicts[2].Proposed)
	assert.Equal(t, NotMet, verdicts[3].State)
	assert.Equal(t, Met, verdicts[4].State)

	parts[3].Text = "no date"
	assert.Equal(t, Pending, fund.JudgePapers(parts)[2].State)
	parts[3].Text = "Signed on January 12th, 2026"
	assert.Equal(t, Met, fund.JudgePapers(parts)[2].State)
}
