package pdf

import (
	"slices"
	"strconv"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// appendObject writes an object in the file's syntax (7.3). Dictionary keys are
// sorted, so that equal objects are equal bytes.
func appendObject(b []byte, o types.Object) []byte {
	switch v := o.(type) {
	case types.Dict:
		return appendDict(b, v)
	case types.Array:
		b = append(b, '[')
		for i, item := range v {
			if i > 0 {
				b = append(b, ' ')
			}
			b = appendObject(b, item)
		}
		return append(b, ']')
	case types.IndirectRef:
		b = strconv.AppendInt(b, int64(v.ObjectNumber), 10)
		return append(b, " 0 R"...)
	case types.Name:
		b = append(b, '/')
		return append(b, types.EncodeName(string(v))...)
	case types.Integer:
		return strconv.AppendInt(b, int64(v), 10)
	case types.Float:
		return strconv.AppendFloat(b, float64(v), 'f', -1, 64)
	case types.Boolean:
		return strconv.AppendBool(b, bool(v))
	case types.StringLiteral:
		b = append(b, '(')
		b = append(b, v...)
		return append(b, ')')
	case types.HexLiteral:
		b = append(b, '<')
		b = append(b, v...)
		return append(b, '>')
	}
	return append(b, "null"...)
}

func appendDict(b []byte, d types.Dict) []byte {
	keys := make([]string, 0, len(d))
	for key := range d {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	b = append(b, "<<"...)
	for _, key := range keys {
		b = append(b, '/')
		b = append(b, types.EncodeName(key)...)
		b = append(b, ' ')
		b = appendObject(b, d[key])
	}
	return append(b, ">>"...)
}

func reference(number int) types.IndirectRef {
	return types.IndirectRef{ObjectNumber: types.Integer(number)}
}

func numbers(values ...float64) types.Array {
	array := make(types.Array, len(values))
	for i, v := range values {
		array[i] = types.Float(v)
	}
	return array
}
