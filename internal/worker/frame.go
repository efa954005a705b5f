package worker

import (
	"encoding/binary"
	"encoding/json"
	"fmt"
	"io"
)

// What a frame may have at most: the other side is believed no more than a file is.
const (
	mostJSON = 64 << 20
	mostData = 2 << 30
	// mostAtOnce is read at once, on the word of the other side.
	mostAtOnce = 64 << 20
)

func writeFrame(w io.Writer, value any, data []byte) error {
	text, err := json.Marshal(value)
	if err != nil {
		return fmt.Errorf("encode frame: %w", err)
	}
	if len(text) > mostJSON || len(data) > mostData {
		return fmt.Errorf("a frame of %d and %d bytes is too large", len(text), len(data))
	}
	head := binary.BigEndian.AppendUint32(nil, uint32(len(text))) //nolint:gosec // bounded above
	head = append(head, text...)
	head = binary.BigEndian.AppendUint64(head, uint64(len(data)))
	for _, part := range [][]byte{head, data} {
		if _, err := w.Write(part); err != nil {
			return fmt.Errorf("write frame: %w", err)
		}
	}
	return nil
}

// readFrame reads a frame into value. The error wraps io.EOF where the other side has ended.
func readFrame(r io.Reader, value any) (data []byte, err error) {
	var head [8]byte
	if _, err := io.ReadFull(r, head[:4]); err != nil {
		return nil, fmt.Errorf("read frame: %w", err)
	}
	text, err := readExactly(r, uint64(binary.BigEndian.Uint32(head[:4])), mostJSON)
	if err != nil {
		return nil, err
	}
	if _, err := io.ReadFull(r, head[:]); err != nil {
		return nil, fmt.Errorf("read frame: %w", err)
	}
	if data, err = readExactly(r, binary.BigEndian.Uint64(head[:]), mostData); err != nil {
		return nil, err
	}
	if err := json.Unmarshal(text, value); err != nil {
		return nil, fmt.Errorf("decode frame: %w", err)
	}
	return data, nil
}

func readExactly(r io.Reader, length, most uint64) ([]byte, error) {
	if length > most {
		return nil, fmt.Errorf("a frame of %d bytes is too large", length)
	}
	var data []byte
	for uint64(len(data)) < length { // memory is taken as the bytes come in
		piece := make([]byte, min(length-uint64(len(data)), mostAtOnce))
		if _, err := io.ReadFull(r, piece); err != nil {
			return nil, fmt.Errorf("read frame: %w", err)
		}
		if data == nil {
			data = piece
		} else {
			data = append(data, piece...)
		}
	}
	return data, nil
}
