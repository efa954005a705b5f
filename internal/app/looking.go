package app

import (
	"context"
	"image"
	"sync"
	"time"

	"dorbin/core/check"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/store"
)

// seenPages remembers the signs of pages, which are many and seldom change.
type seenPages struct {
	mutex    sync.Mutex
	bySource map[string][]*check.Signs
	byPacket map[string]knownTwins
}

// knownTwins are the pages of a packet that look alike, for as long as these are
// its pages.
type knownTwins struct {
	key   string
	twins []raster.Twin
}

// mostRemembered bounds the packets whose twins are remembered.
const mostRemembered = 64

func (s *seenPages) twins(packetID, key string, find func() []raster.Twin) []raster.Twin {
	s.mutex.Lock()
	known, ok := s.byPacket[packetID]
	s.mutex.Unlock()
	if ok && known.key == key {
		return known.twins
	}
	twins := find()
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if len(s.byPacket) >= mostRemembered {
		clear(s.byPacket)
	}
	s.byPacket[packetID] = knownTwins{key, twins}
	return twins
}

const (
	scanLookEdge  = 1400 // pixels at which lines of writing can be told apart
	textLookEdge  = 700  // enough where the text is known
	signsPerWrite = 16
)

// signs gives what is known of a source's pages; nil for those that have not
// been looked at.
func (a *App) signs(ctx context.Context, source store.Source) ([]*check.Signs, error) {
	a.seen.mutex.Lock()
	defer a.seen.mutex.Unlock()
	if signs := a.seen.bySource[source.ID]; len(signs) == len(source.Pages) {
		return signs, nil
	}
	signs, err := a.store.Signs(ctx, source.ID, len(source.Pages))
	if err == nil {
		a.seen.bySource[source.ID] = signs
	}
	return signs, err
}

// keepSigns keeps what was learned of pages, by their numbers.
func (a *App) keepSigns(ctx context.Context, source store.Source, learned map[int]*check.Signs) error {
	if err := a.store.AddSigns(ctx, source.ID, learned); err != nil {
		return err
	}
	a.seen.mutex.Lock()
	defer a.seen.mutex.Unlock()
	known := make([]*check.Signs, len(source.Pages)) // who reads the old ones goes on doing so
	copy(known, a.seen.bySource[source.ID])
	for page, signs := range learned {
		known[page-1] = signs
	}
	a.seen.bySource[source.ID] = known
	return nil
}

// lookAtSource looks at the pages of a source that nobody has looked at, so that
// findings can be told. It goes on at the next start where it was stopped.
func (a *App) lookAtSource(ctx context.Context, id string) {
	source, err := a.store.Source(ctx, id)
	if err != nil {
		return // deleted meanwhile
	}
	known, err := a.signs(ctx, source)
	if err != nil {
		a.log.Error("signs not read", "source", id, "error", err)
		return
	}
	learned := map[int]*check.Signs{}
	keep := func() bool {
		if err := a.keepSigns(ctx, source, learned); err != nil {
			if ctx.Err() == nil {
				a.log.Warn("signs not kept", "packet", source.Packet, "source", id, "error", err)
			}
			return false
		}
		clear(learned)
		a.events.send(Event{Kind: "findings", Packet: source.Packet})
		return true
	}
	for i := range source.Pages {
		if known[i] != nil {
			continue
		}
		begun := time.Now()
		signs, err := a.lookAtPage(ctx, source, i+1)
		if err != nil {
			return
		}
		// Half of a core is left to whoever scrolls meanwhile.
		if rest(ctx, min(time.Since(begun), longestRest)) != nil {
			return
		}
		learned[i+1] = &signs
		if len(learned) >= signsPerWrite && !keep() {
			return
		}
	}
	if len(learned) > 0 {
		keep()
	}
}

// lookAtPage gives the signs of a page. One that cannot be drawn has none, which
// nothing is concluded from; an error tells that the application stops.
func (a *App) lookAtPage(ctx context.Context, source store.Source, number int) (check.Signs, error) {
	unknown := check.Signs{Ink: 1}
	if err := a.leisure(ctx); err != nil {
		return unknown, err
	}
	var text check.Text
	edge := scanLookEdge
	if readsAsPDF(source) {
		var err error
		if text, err = a.engine.Text(ctx, a.store.Files.Path(source.Working), number); err != nil {
			return unknown, ctx.Err()
		}
		if text.IsEnough() {
			edge = textLookEdge
		}
	}
	var picture image.Image
	picture, err := a.pictures.Upright(ctx, a.renderPage(source, number, packet.Look{}, 0), edge)
	if err != nil {
		return unknown, ctx.Err()
	}
	return check.Look(picture, text, source.Pages[number-1].Size), nil
}

const (
	patience    = 20 * time.Millisecond
	longestRest = 100 * time.Millisecond
	quiet       = 150 * time.Millisecond // for which nobody must have waited
)

// leisure waits until nobody waits for the application, and has not for a while:
// for a picture, a command, a file that comes in, or a document that is made.
func (a *App) leisure(ctx context.Context) error {
	for !a.urgent.over(quiet) || a.pictures.Asked() {
		if err := rest(ctx, patience); err != nil {
			return err
		}
	}
	return nil
}

func rest(ctx context.Context, while time.Duration) error {
	select {
	case <-time.After(while):
	case <-ctx.Done():
	}
	return ctx.Err()
}

// urgency counts the work that somebody waits for.
type urgency struct {
	mutex sync.Mutex
	count int
	ended time.Time
}

// begin marks work that somebody waits for; what it returns is called at its end.
func (u *urgency) begin() (end func()) {
	u.mutex.Lock()
	defer u.mutex.Unlock()
	u.count++
	return func() {
		u.mutex.Lock()
		defer u.mutex.Unlock()
		u.count--
		u.ended = time.Now()
	}
}

// over tells whether there was no such work for a while.
func (u *urgency) over(while time.Duration) bool {
	u.mutex.Lock()
	defer u.mutex.Unlock()
	return u.count == 0 && time.Since(u.ended) >= while
}
