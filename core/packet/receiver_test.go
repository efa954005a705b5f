package packet

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/problem"
	"dorbin/core/requirements"
)

func TestAPacketIsForAReceiver(t *testing.T) {
	before := twoParts(t)
	fund := requirements.Receiver{Name: " Fund ", Rules: requirements.Rules{Sizes: []string{}}, Papers: []requirements.Paper{{Title: "Form"}}}
	after, words, err := Apply(before, []Command{SetReceiver{&fund}, IsPaper{Parts: []PartID{before.Parts[0].ID}, Paper: "Form"}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "The packet is for Fund, then “A” is the Form", words.English)
	assert.Equal(t, "Fund", after.ReceiverName())
	assert.Equal(t, "Form", after.Parts[0].Paper)

	_, words, err = Apply(after, []Command{SetReceiver{&requirements.Receiver{Name: "Fund"}}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "Changed what Fund asks for", words.English)
	for _, nonsense := range []Command{
		IsPaper{Parts: []PartID{"s99"}, Paper: "Form"}, IsPaper{Parts: []PartID{before.Parts[0].ID}, Paper: "Menu"}, IsPaper{Paper: "Form"},
		SetReceiver{&requirements.Receiver{Name: ""}},
	} {
		_, _, err := Apply(after, []Command{nonsense}, Known{})
		require.ErrorIs(t, err, problem.Invalid)
	}
	_, _, err = Apply(before, []Command{SetReceiver{}}, Known{})
	require.ErrorIs(t, err, problem.Invalid, "it was for nobody")
}

func TestTheReceiverIsTakenBackAlsoAfterItWasStored(t *testing.T) {
	before := twoParts(t)
	fund := requirements.Receiver{Name: "Fund", Papers: []requirements.Paper{{Title: "Form"}}}
	after, _, err := Apply(before, []Command{SetReceiver{&fund}, IsPaper{Parts: []PartID{before.Parts[1].ID}, Paper: "Form"}}, Known{})
	require.NoError(t, err)
	stored := func(from any, to any) {
		encoded, err := json.Marshal(from)
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(encoded, to))
	}
	var delta Delta
	var loaded Packet
	stored(Diff(before, after), &delta)
	stored(after, &loaded)
	back, err := delta.Back(loaded)
	require.NoError(t, err)
	assert.Nil(t, back.Receiver)
	assert.Empty(t, back.Parts[1].Paper)
	again, err := delta.Forward(back)
	require.NoError(t, err)
	assert.Equal(t, "Fund", again.ReceiverName())
	loaded.Receiver = &requirements.Receiver{Name: "Council"}
	_, err = delta.Back(loaded)
	require.ErrorIs(t, err, ErrMismatch)
}

func TestFilesAreNamedAsTheReceiverWants(t *testing.T) {
	p := Packet{Name: "Boathouse roof"}
	assert.Equal(t, "boathouse-roof.pdf", p.ProposeFileName(".pdf"))
	p.Receiver = &requirements.Receiver{Name: "Fund", Rules: requirements.Rules{FileName: "{reference} {packet}"}}
	assert.Equal(t, "{reference} {packet}.pdf", p.ProposeFileName(".pdf"))
}
