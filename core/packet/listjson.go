package packet

import (
	"encoding/json"
	"fmt"
)

// ListJSON is a list that is kept as its JSON, so that pages can be compared and copied like numbers.
// An empty list is the empty string.
type ListJSON[T any] string

// List gives what is on the list.
func (l ListJSON[T]) List() (list []T) {
	if l != "" {
		_ = json.Unmarshal([]byte(l), &list) // made by listJSON
	}
	return list
}

// listJSON keeps a list of texts and numbers that were checked.
func listJSON[T any](list []T) ListJSON[T] {
	if len(list) == 0 {
		return ""
	}
	encoded, _ := json.Marshal(list)
	return ListJSON[T](encoded)
}

// MarshalJSON writes the list.
func (l ListJSON[T]) MarshalJSON() ([]byte, error) {
	if l == "" {
		return []byte("null"), nil
	}
	return []byte(l), nil
}

// UnmarshalJSON reads a list.
func (l *ListJSON[T]) UnmarshalJSON(encoded []byte) error {
	var list []T
	if err := json.Unmarshal(encoded, &list); err != nil {
		return fmt.Errorf("read what is on a page: %w", err)
	}
	*l = listJSON(list)
	return nil
}
