package store

import (
	"database/sql/driver"
	"encoding/json"
	"fmt"
	"strings"

	"dorbin/core/message"
)

// said is a message.Text as a column has it: as JSON. Rows of earlier versions have its English alone.
type said message.Text

// encodedText is how the JSON of every message.Text begins.
const encodedText = `{"english":`

// Value gives the column's text.
func (s said) Value() (driver.Value, error) {
	if s.English == "" {
		return "", nil
	}
	encoded, err := json.Marshal(message.Text(s))
	if err != nil {
		return nil, fmt.Errorf("encode a text: %w", err)
	}
	return string(encoded), nil
}

// Scan reads the column's text.
func (s *said) Scan(column any) error {
	text, ok := column.(string)
	if !ok {
		return fmt.Errorf("a text is kept as %T", column)
	}
	if !strings.HasPrefix(text, encodedText) {
		*s = said(message.Plain(text))
		return nil
	}
	if err := json.Unmarshal([]byte(text), (*message.Text)(s)); err != nil {
		return fmt.Errorf("decode a text: %w", err)
	}
	return nil
}
