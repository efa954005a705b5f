package packet

import (
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestVerbsTakeFieldsThatThereAre(t *testing.T) {
	there := map[string]bool{}
	for i := range reflect.TypeFor[Command]().NumField() {
		name, _, _ := strings.Cut(reflect.TypeFor[Command]().Field(i).Tag.Get("json"), ",")
		there[name] = true
	}
	taken := map[string]bool{"do": true}
	for _, verb := range Verbs() {
		assert.NotEmpty(t, verb.Doc, verb.Name)
		for _, field := range verb.Fields {
			assert.True(t, there[field], "%s takes %s", verb.Name, field)
			taken[field] = true
		}
		assert.Subset(t, verb.Fields, verb.Needs, verb.Name)
	}
	assert.Equal(t, there, taken, "every field is for some verb")
}
