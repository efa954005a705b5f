package server

import (
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"dorbin/core/packet"
)

// anyCommand describes a command in the API: one of a closed list, told apart by "do", each
// with fields of its own.
type anyCommand struct{}

const commandSchema = "Command"

// Schema implements huma.SchemaProvider.
func (anyCommand) Schema(r huma.Registry) *huma.Schema {
	const prefix = "#/components/schemas/"
	union := r.Map()[commandSchema]
	if union == nil {
		union = &huma.Schema{Discriminator: &huma.Discriminator{PropertyName: "do", Mapping: map[string]string{}}}
		r.Map()[commandSchema] = union
		for _, verb := range packet.Verbs() {
			name := strings.ToUpper(verb.Name[:1]) + verb.Name[1:] + commandSchema
			r.Map()[name] = schemaOf(verb, r)
			union.OneOf = append(union.OneOf, &huma.Schema{Ref: prefix + name})
			union.Discriminator.Mapping[verb.Name] = prefix + name
		}
	}
	return &huma.Schema{Ref: prefix + commandSchema}
}

// schemaOf describes the commands of a kind: the fields of their type, and "do".
func schemaOf(verb packet.Verb, r huma.Registry) *huma.Schema {
	s := huma.SchemaFromType(r, verb.Type)
	s.Description = verb.Doc
	s.Properties["do"] = &huma.Schema{Type: huma.TypeString, Enum: []any{verb.Name}}
	s.Required = append([]string{"do"}, s.Required...)
	s.PrecomputeMessages()
	return s
}
