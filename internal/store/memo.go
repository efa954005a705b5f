package store

import (
	"encoding/json"
	"sync"
)

// memo remembers what texts decoded to. Decoding a packet of thousands of pages
// takes longer than all else that a command needs; comparing its text does not.
// What is decoded is shared, so nobody may change it.
type memo[T any] struct {
	mutex   sync.Mutex
	decoded map[string]remembered[T]
}

type remembered[T any] struct {
	text  string
	value T
}

// memoEntries bounds the memory that is held; a memo that is full starts anew.
const memoEntries = 64

func (m *memo[T]) decode(id, text string) (T, error) {
	m.mutex.Lock()
	known, ok := m.decoded[id]
	m.mutex.Unlock()
	if ok && known.text == text {
		return known.value, nil
	}
	var value T
	if err := json.Unmarshal([]byte(text), &value); err != nil {
		return value, err
	}
	m.remember(id, text, value)
	return value, nil
}

func (m *memo[T]) remember(id, text string, value T) {
	m.mutex.Lock()
	defer m.mutex.Unlock()
	if m.decoded == nil || len(m.decoded) >= memoEntries {
		m.decoded = map[string]remembered[T]{}
	}
	m.decoded[id] = remembered[T]{text, value}
}

// forget drops what a text decoded to.
func (m *memo[T]) forget(id string) {
	m.mutex.Lock()
	defer m.mutex.Unlock()
	delete(m.decoded, id)
}
