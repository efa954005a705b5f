package finish

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
)

// largestDefaults is how many bytes a file of defaults has at most.
const largestDefaults = 1 << 20

// ReadDefaults reads what new packets begin with, as JSON of some sections of Finish. What it does not
// say is as it is proposed. Pictures cannot be named, as they are pages of a packet's own files.
func ReadDefaults(r io.Reader) (Finish, error) {
	data, err := io.ReadAll(io.LimitReader(r, largestDefaults+1))
	if err != nil {
		return Finish{}, fmt.Errorf("read what is added to new packets: %w", err)
	}
	if len(data) > largestDefaults {
		return Finish{}, errors.New("a file of what is added to new packets has at most 1 MB")
	}
	f := Default()
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&f); err != nil {
		return Finish{}, fmt.Errorf("read what is added to new packets: %w", err)
	}
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		return Finish{}, errors.New("read what is added to new packets: there is something behind it")
	}
	if len(f.named()) > 0 {
		return Finish{}, errors.New("what is added to new packets names no pictures: they are pages of a packet's own files")
	}
	return f, f.Check(1)
}
