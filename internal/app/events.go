package app

import (
	"sync"

	"dorbin/core/packet"
	"dorbin/internal/export"
	"dorbin/internal/packets"
)

// Event tells that something about a packet changed.
type Event struct {
	Kind   string `json:"kind" enum:"packet,sources,findings,reviewed,export,batch,plan,text,delivery,origin,deleted"`
	Packet string `json:"packet"`
	// Change is what an act did, for packet events.
	Change *packets.Change `json:"change,omitempty"`
	Export *export.Export  `json:"export,omitempty"`
	// Pages were reviewed as they stood at a revision, or not, for reviewed events.
	Revision int             `json:"revision,omitempty"`
	Pages    []packet.PageID `json:"pages,omitempty"`
	Reviewed bool            `json:"reviewed,omitempty"`
}

// hub passes events on to whoever listens. A listener that does not keep up
// loses its oldest events: each tells of the newest state, so the last counts.
type hub struct {
	mutex     *sync.Mutex
	listeners map[chan Event]string // the packet listened to; empty is all
}

func newHub() hub { return hub{mutex: &sync.Mutex{}, listeners: map[chan Event]string{}} }

const eventBuffer = 64

// Listen returns a channel of the events of a packet, or of all packets when id
// is empty, and a function that ends the listening. The channel is closed when
// the application stops.
func (a *App) Listen(id string) (<-chan Event, func()) { return a.events.listen(id) }

func (h hub) listen(packet string) (<-chan Event, func()) {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	events := make(chan Event, eventBuffer)
	h.listeners[events] = packet
	return events, func() {
		h.mutex.Lock()
		defer h.mutex.Unlock()
		delete(h.listeners, events)
	}
}

func (h hub) send(e Event) {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	for events, packet := range h.listeners {
		if packet != "" && packet != e.Packet {
			continue
		}
		select {
		case events <- e:
			continue
		default:
		}
		// Only this function sends, and it holds the mutex: once one event is taken
		// out, by whomever, there is room for this one.
		select {
		case <-events:
		default:
		}
		events <- e
	}
}

func (h hub) close() {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	for events := range h.listeners {
		close(events)
	}
	clear(h.listeners)
}
