package server

import (
	"bytes"
	"encoding/json"
	"os"
	"reflect"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/require"

	"dorbin/core/check"
	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/requirements"
)

// TestDescriptionIsCurrent compares the committed description, which the front
// end's client is generated from, with the program. "make api" writes it anew.
func TestDescriptionIsCurrent(t *testing.T) {
	requireCurrent(t, "openapi.json", describe(chi.NewRouter(), nil, "1"))
}

// TestRulesOfTheClientAreCurrent holds what the front end knows of the rules of the job to what
// the core has.
func TestRulesOfTheClientAreCurrent(t *testing.T) {
	type paper struct {
		Name   string  `json:"name"`
		Width  float64 `json:"width"`
		Height float64 `json:"height"`
	}
	type number struct {
		Style  finish.Style `json:"style"`
		Number int          `json:"number"`
		Prefix string       `json:"prefix"`
		Digits int          `json:"digits"`
		Text   string       `json:"text"`
	}
	rules := struct { // all lengths in points
		Papers           []paper  `json:"papers"`
		PaperTolerance   float64  `json:"paperTolerance"`
		SmallestCrop     float64  `json:"smallestCrop"`
		ContentTolerance float64  `json:"contentTolerance"`
		ContentRoom      float64  `json:"contentRoom"`
		PageFields       []string `json:"pageFields"` // of texts
		DocumentFields   []string `json:"documentFields"`
		PagesOfExamples  int      `json:"pagesOfExamples"` // of a document whose numbers are shown as examples
	}{
		PaperTolerance: geometry.PaperTolerance, SmallestCrop: geometry.SmallestCrop,
		ContentTolerance: check.ContentTolerance, ContentRoom: check.ContentRoom,
		PageFields: finish.PageFields, DocumentFields: finish.DocumentFields, PagesOfExamples: 20,
	}
	var written []number // cases for the tests of the client, which do not ship with it
	for _, style := range []finish.Style{finish.Plain, finish.Slash, finish.OfTotal, finish.Dashes, finish.Roman, finish.Prefixed} {
		for _, n := range []int{0, 1, 4, 9, 48, 1994, 4000} {
			numbers := finish.Numbers{Style: style, Prefix: "B-", Digits: 6}
			text := numbers.Written(n, rules.PagesOfExamples)
			written = append(written, number{style, n, numbers.Prefix, numbers.Digits, text})
		}
	}
	for _, p := range geometry.Papers() {
		rules.Papers = append(rules.Papers, paper{p.Name, p.Size.Width, p.Size.Height})
	}
	requireCurrent(t, "../../web/src/api/rules.json", rules)
	requireCurrent(t, "../../web/src/finish/numberCases.json", written)
}

// TestSchemaOfReceiversFilesIsCurrent holds the published schema of receivers' files to what is read.
func TestSchemaOfReceiversFilesIsCurrent(t *testing.T) {
	registry := huma.NewMapRegistry("#/$defs/", huma.DefaultSchemaNamer)
	root := registry.Schema(reflect.TypeFor[requirements.ReceiverFile](), true, "ReceiverFile")
	requireCurrent(t, "../../docs/receiver.schema.json", map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "A receiver's file", "$ref": root.Ref, "$defs": registry.Map(),
	})
}

// requireCurrent compares a file that is made of something, as JSON, or writes it anew.
func requireCurrent(t *testing.T, path string, made any) {
	t.Helper()
	text, err := json.Marshal(made)
	require.NoError(t, err)
	var indented bytes.Buffer
	require.NoError(t, json.Indent(&indented, text, "", "  "))
	indented.WriteByte('\n')
	if os.Getenv("UPDATE_OPENAPI") != "" {
		require.NoError(t, os.WriteFile(path, indented.Bytes(), 0o600))
	}
	committed, err := os.ReadFile(path)
	require.NoError(t, err)
	require.Equal(t, string(committed), indented.String(), `run "make api"`)
}
