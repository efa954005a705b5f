package reading

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/core/requirements"
	"dorbin/internal/store"
)

func TestPagesThatCanBeSearched(t *testing.T) {
	plain, grey := packet.Page{Source: "f1"}, packet.Page{Source: "f1"}
	grey.Tone = raster.Tone{Mode: raster.GrayTone}
	for _, test := range []struct {
		name          string
		page          packet.Page
		info          store.TextInfo
		ofPDF, isScan bool
		want          requirements.Answer
	}{
		{"blank", packet.Page{}, store.TextInfo{}, false, false, requirements.Yes},
		{"a scan that was not read", plain, store.TextInfo{}, false, false, requirements.No},
		{"a scan that is being read", plain, store.TextInfo{State: store.TextAsked}, false, false, requirements.Unknown},
		{"a photograph without words that was read", plain, store.TextInfo{State: store.TextRead}, false, false, requirements.Yes},
		{"could not be read", plain, store.TextInfo{State: store.TextFailed, Problem: message.Of("It could not be read.")}, false, false, requirements.No},
		{"a page of a PDF that nobody has looked at", plain, store.TextInfo{}, true, false, requirements.Unknown},
		{"its own text", plain, store.TextInfo{State: store.TextOwn, Words: 90}, true, false, requirements.Yes},
		{"its own text, which is of no use", plain, store.TextInfo{State: store.TextOwn, Words: 90, Problem: message.Of("No letters.")}, true, false, requirements.No},
		{"its own text, which does not go in", grey, store.TextInfo{State: store.TextOwn, Words: 90}, true, false, requirements.No},
		{"a few words", plain, store.TextInfo{State: store.TextNone, Words: 1}, true, false, requirements.Yes},
		{"a stamp on a scan", plain, store.TextInfo{State: store.TextNone, Words: 3}, true, true, requirements.No},
		{"a drawing", plain, store.TextInfo{State: store.TextNone}, true, false, requirements.No},
	} {
		assert.Equal(t, test.want, searchable(test.page, test.info, test.ofPDF, test.isScan), test.name)
	}
}
