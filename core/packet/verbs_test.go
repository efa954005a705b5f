package packet

import (
	"encoding/json"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestCommandsAreReadAsTheyWereWritten fills every field of every command.
func TestCommandsAreReadAsTheyWereWritten(t *testing.T) {
	var all Commands
	for _, verb := range Verbs() {
		command := reflect.New(verb.Type).Elem()
		fill(command)
		all = append(all, command.Interface().(Command), reflect.Zero(verb.Type).Interface().(Command))
	}
	text, err := json.Marshal(all)
	require.NoError(t, err)
	var again Commands
	require.NoError(t, json.Unmarshal(text, &again), string(text))
	assert.Equal(t, all, again)

	names := map[string]bool{}
	for _, verb := range Verbs() {
		assert.False(t, names[verb.Name], "%s is there twice", verb.Name)
		names[verb.Name] = true
		assert.NotEmpty(t, verb.Doc, verb.Name)
	}
}

// fill gives every field a value that is not its zero.
func fill(v reflect.Value) {
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			fill(v.Field(i))
		}
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		fill(v.Elem())
	case reflect.Slice:
		v.Set(reflect.MakeSlice(v.Type(), 2, 2))
		for i := range v.Len() {
			fill(v.Index(i))
		}
	case reflect.Array:
		for i := range v.Len() {
			fill(v.Index(i))
		}
	case reflect.Map:
		v.Set(reflect.MakeMap(v.Type()))
		key, value := reflect.New(v.Type().Key()).Elem(), reflect.New(v.Type().Elem()).Elem()
		fill(key)
		fill(value)
		v.SetMapIndex(key, value)
	case reflect.String:
		v.SetString("x")
	case reflect.Int, reflect.Int64:
		v.SetInt(7)
	case reflect.Float64:
		v.SetFloat(0.5)
	case reflect.Bool:
		v.SetBool(true)
	default:
		panic("no value for a " + v.Kind().String())
	}
}

func TestWhatIsNoCommandIsNotRead(t *testing.T) {
	for _, text := range []string{`[{"do":"juggle"}]`, `[{}]`, `[7]`, `{"do":"turn"}`, `[{"do":"turn","by":"90"}]`} {
		var commands Commands
		require.Error(t, json.Unmarshal([]byte(text), &commands), text)
	}
}
