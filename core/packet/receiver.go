package packet

import (
	"dorbin/core/message"
	"dorbin/core/requirements"
)

// SetReceiver says whom the packet is for, and by which rules it is checked. Nil is nobody.
type SetReceiver struct {
	Receiver *requirements.Receiver `json:"receiver,omitempty"`
}

func (c SetReceiver) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	before := p.Receiver
	if c.Receiver == nil {
		if before == nil {
			return message.Text{}, message.Errorf("the packet is for nobody already")
		}
		p.Receiver = nil
		return message.Of("Removed the receiver %s", before.Name), nil
	}
	receiver := c.Receiver.Tidy()
	if err := receiver.Check(); err != nil {
		return message.Text{}, err
	}
	p.Receiver = &receiver
	if before != nil && before.Name == receiver.Name {
		return message.Of("Changed what %s asks for", receiver.Name), nil
	}
	return message.Of("The packet is for %s", receiver.Name), nil
}

// IsPaper says which of the papers that the receiver asks for parts are.
type IsPaper struct {
	Parts []PartID `json:"parts"`
	Paper string   `json:"paper,omitempty"`
}

func (c IsPaper) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	if len(c.Parts) == 0 {
		return message.Text{}, message.Errorf("no part is named")
	}
	if c.Paper != "" && !p.asksFor(c.Paper) {
		return message.Text{}, message.Errorf("nobody asks for %q", c.Paper)
	}
	last := ""
	for _, id := range c.Parts {
		at := p.partIndex(id)
		if at < 0 {
			return message.Text{}, message.Errorf("there is no part %q", id)
		}
		p.Parts[at].Paper, last = c.Paper, p.Parts[at].Title
	}
	switch {
	case c.Paper == "" && len(c.Parts) == 1:
		return message.Of("“%s” is none of the papers asked for", last), nil
	case c.Paper == "":
		return message.Of("%d parts are none of the papers asked for", len(c.Parts)), nil
	case len(c.Parts) == 1:
		return message.Of("“%s” is the %s", last, c.Paper), nil
	}
	return message.Of("%d parts are the %s", len(c.Parts), c.Paper), nil
}

// ReceiverName is the name of whom the packet is for; empty where nobody was named.
func (p Packet) ReceiverName() string {
	if p.Receiver == nil {
		return ""
	}
	return p.Receiver.Name
}

func (p Packet) asksFor(title string) bool {
	if p.Receiver == nil {
		return false
	}
	for _, paper := range p.Receiver.Papers {
		if paper.Title == title {
			return true
		}
	}
	return false
}
