package packet

import (
	"errors"
	"fmt"

	"dorbin/core/requirements"
)

// SetReceiver says whom the packet is for, and by which rules it is checked. Nil is nobody.
type SetReceiver struct {
	Receiver *requirements.Receiver `json:"receiver,omitempty"`
}

func (c SetReceiver) apply(p *Packet, _ []PageID, _ Known) (string, error) {
	before := p.Receiver
	if c.Receiver == nil {
		if before == nil {
			return "", errors.New("the packet is for nobody already")
		}
		p.Receiver = nil
		return "Removed the receiver " + before.Name, nil
	}
	receiver := c.Receiver.Tidy()
	if err := receiver.Check(); err != nil {
		return "", err
	}
	p.Receiver = &receiver
	if before != nil && before.Name == receiver.Name {
		return "Changed what " + receiver.Name + " asks for", nil
	}
	return "The packet is for " + receiver.Name, nil
}

// IsPaper says which of the papers that the receiver asks for parts are.
type IsPaper struct {
	Parts []PartID `json:"parts"`
	Paper string   `json:"paper,omitempty"`
}

func (c IsPaper) apply(p *Packet, _ []PageID, _ Known) (string, error) {
	if len(c.Parts) == 0 {
		return "", errors.New("no part is named")
	}
	if c.Paper != "" && !p.asksFor(c.Paper) {
		return "", fmt.Errorf("nobody asks for %q", c.Paper)
	}
	last := ""
	for _, id := range c.Parts {
		at := p.partIndex(id)
		if at < 0 {
			return "", fmt.Errorf("there is no part %q", id)
		}
		p.Parts[at].Paper, last = c.Paper, p.Parts[at].Title
	}
	switch {
	case c.Paper == "" && len(c.Parts) == 1:
		return fmt.Sprintf("“%s” is none of the papers asked for", last), nil
	case c.Paper == "":
		return fmt.Sprintf("%d parts are none of the papers asked for", len(c.Parts)), nil
	case len(c.Parts) == 1:
		return fmt.Sprintf("“%s” is the %s", last, c.Paper), nil
	}
	return fmt.Sprintf("%d parts are the %s", len(c.Parts), c.Paper), nil
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
