package requirements

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"dorbin/core/message"
	"dorbin/core/problem"
)

// A receiver's file is JSON: its kind, its version, and the receiver. docs/receiver.schema.json
// describes it.
const (
	fileKind    = "dorbin-receiver"
	fileVersion = 1
	// MostFileBytes is how large a receiver's file may be.
	MostFileBytes = 1 << 20
)

// ReceiverFile is a receiver as it is shared.
type ReceiverFile struct {
	Kind     string   `json:"kind" enum:"dorbin-receiver"`
	Version  int      `json:"version" minimum:"1" maximum:"1"`
	Receiver Receiver `json:"receiver"`
}

// WriteFile writes a receiver as it is shared.
func WriteFile(w io.Writer, r Receiver) error {
	encoder := json.NewEncoder(w)
	encoder.SetIndent("", "  ")
	if err := encoder.Encode(ReceiverFile{fileKind, fileVersion, r}); err != nil {
		return fmt.Errorf("write a receiver: %w", err)
	}
	return nil
}

// ReadFile reads a receiver that was shared, and checks it. Errors are a problem.Invalid.
func ReadFile(in io.Reader) (Receiver, error) {
	encoded, err := io.ReadAll(io.LimitReader(in, MostFileBytes+1))
	if err != nil {
		return Receiver{}, fmt.Errorf("read a receiver: %w", err)
	}
	if len(encoded) > MostFileBytes {
		return Receiver{}, wrong("this is no receiver’s file: it has more than 1 MB")
	}
	var head struct {
		Kind    string `json:"kind"`
		Version int    `json:"version"`
	}
	if err := json.Unmarshal(encoded, &head); err != nil || head.Kind != fileKind {
		return Receiver{}, &problem.Error{Kind: problem.Invalid, Sentence: message.Of("This is no receiver’s file."), Cause: err}
	}
	if head.Version != fileVersion {
		return Receiver{}, wrong("this receiver’s file is of version %d, and this program reads version %d", head.Version, fileVersion)
	}
	var file ReceiverFile
	decoder := json.NewDecoder(bytes.NewReader(encoded))
	decoder.DisallowUnknownFields() // a rule that is not known cannot be kept
	if err := decoder.Decode(&file); err != nil {
		return Receiver{}, fileError(err)
	}
	return file.Receiver, file.Receiver.Check()
}

func fileError(err error) error {
	var kind *json.UnmarshalTypeError
	if errors.As(err, &kind) {
		return wrong("the receiver’s file says %s where %s must stand for %q", kind.Value, kind.Type, kind.Field)
	}
	if _, field, ok := strings.Cut(err.Error(), "unknown field "); ok {
		return wrong("the receiver’s file has a rule that is not known: %s", field)
	}
	return &problem.Error{Kind: problem.Invalid, Sentence: message.Of("The receiver’s file cannot be read."), Cause: err}
}
