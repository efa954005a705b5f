package server

import (
	"reflect"
	"strings"
	"unicode"

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
		properties := commandProperties(r)
		for _, verb := range packet.Verbs() {
			name := strings.ToUpper(verb.Name[:1]) + verb.Name[1:] + commandSchema
			r.Map()[name] = schemaOf(verb, properties)
			union.OneOf = append(union.OneOf, &huma.Schema{Ref: prefix + name})
			union.Discriminator.Mapping[verb.Name] = prefix + name
		}
	}
	return &huma.Schema{Ref: prefix + commandSchema}
}

// commandProperties are the schemas of a command's fields by their names in JSON.
func commandProperties(r huma.Registry) map[string]*huma.Schema {
	properties := map[string]*huma.Schema{}
	command := reflect.TypeFor[packet.Command]()
	for i := range command.NumField() {
		field := command.Field(i)
		name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
		properties[name] = huma.SchemaFromField(r, field, commandSchema+capital(name))
	}
	return properties
}

func capital(name string) string {
	runes := []rune(name)
	return string(unicode.ToUpper(runes[0])) + string(runes[1:])
}

func schemaOf(verb packet.Verb, properties map[string]*huma.Schema) *huma.Schema {
	s := &huma.Schema{
		Type: huma.TypeObject, Description: verb.Doc, AdditionalProperties: false, Required: append([]string{"do"}, verb.Needs...),
		Properties: map[string]*huma.Schema{"do": {Type: huma.TypeString, Enum: []any{verb.Name}}},
	}
	for _, field := range verb.Fields {
		s.Properties[field] = properties[field]
	}
	s.PrecomputeMessages()
	return s
}
