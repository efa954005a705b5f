package store

import (
	"context"
	"sync"
)

// textMemo remembers what is known of the texts of packets, which is asked for at every key that
// somebody types to find something. It holds for as long as no text is written.
type textMemo struct {
	mutex    sync.Mutex
	version  int // grows with every text that is written
	byPacket map[string]rememberedTexts
}

// rememberedTexts are shared: nobody may change them.
type rememberedTexts struct {
	infos  map[TextKey]TextInfo
	folded map[TextKey]string
}

// mostTextsRemembered is of how many packets texts are remembered.
const mostTextsRemembered = 4

// wrote tells that a text was written.
func (m *textMemo) wrote() {
	m.mutex.Lock()
	defer m.mutex.Unlock()
	m.version++
	clear(m.byPacket)
}

// TextsVersion grows whenever a text is written.
func (s *Store) TextsVersion() int {
	s.texts.mutex.Lock()
	defer s.texts.mutex.Unlock()
	return s.texts.version
}

// of gives what is remembered of a packet, or reads it. What is written meanwhile is not remembered.
func (m *textMemo) of(ctx context.Context, packet string, read func(context.Context, string) (rememberedTexts, error)) (rememberedTexts, error) {
	m.mutex.Lock()
	known, ok := m.byPacket[packet]
	version := m.version
	m.mutex.Unlock()
	if ok {
		return known, nil
	}
	texts, err := read(ctx, packet)
	if err != nil {
		return texts, err
	}
	m.mutex.Lock()
	defer m.mutex.Unlock()
	if m.byPacket == nil || len(m.byPacket) >= mostTextsRemembered {
		m.byPacket = map[string]rememberedTexts{}
	}
	if m.version == version {
		m.byPacket[packet] = texts
	}
	return texts, nil
}
