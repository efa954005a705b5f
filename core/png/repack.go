package png

import (
	"bytes"
	"fmt"
	"io"

	"github.com/klauspost/compress/zlib"
)

// RepackSamples writes samples, as a PDF keeps them by FlateDecode, in fewer bytes: compressed by zlib, with a filter
// before each row (its predictor 15). Where isFiltered is set they are so already; else there are only samples.
// Every sample is the same, which is made sure by reading them again. Errors are ErrNotSmaller, ErrUnsupported and
// ErrDamaged.
func RepackSamples(data []byte, l Layout, isFiltered bool) ([]byte, error) {
	if err := l.check(); err != nil {
		return nil, err
	}
	samples, err := samplesOf(data, l, isFiltered)
	if err != nil {
		return nil, err
	}
	best, err := compress(filtered(samples, l, 0, l.Height, bestChoice(samples, l)))
	if err != nil {
		return nil, err
	}
	if len(best) >= len(data) {
		return nil, ErrNotSmaller
	}
	again, err := samplesOf(best, l, true)
	if err != nil || !bytes.Equal(again, samples) {
		return nil, fmt.Errorf("samples that were written are not those that were to be written: %w", ErrDamaged)
	}
	return best, nil
}

// samplesOf gives the samples that zlib compressed. There are as many as the layout says, and nothing more.
func samplesOf(data []byte, l Layout, isFiltered bool) ([]byte, error) {
	n := l.rowBytes()
	if isFiltered {
		n++
	}
	all, err := inflate(data, n*l.Height)
	if err != nil || !isFiltered {
		return all, err
	}
	return unfilter(all, l)
}

// inflate gives what, of this size in bytes, zlib compressed, and fails if there are fewer or more.
func inflate(data []byte, size int) ([]byte, error) {
	reader, err := zlib.NewReader(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("%w: %w", ErrDamaged, err)
	}
	all := make([]byte, size)
	if _, err := io.ReadFull(reader, all); err != nil {
		return nil, fmt.Errorf("%w: %w", ErrDamaged, err)
	}
	if n, err := reader.Read(make([]byte, 1)); n != 0 || err != io.EOF { //nolint:errorlint // it is told as it is
		return nil, fmt.Errorf("%w: there is more than its samples, or a wrong sum", ErrDamaged)
	}
	return all, nil
}

// What ways to filter are tried on, where a picture is large: some rows of it, here and there.
const (
	triedBytes = 2 << 20
	triedRows  = 16
)

// bestChoice tries ways to choose filters, and gives the one by which samples take up the least.
func bestChoice(samples []byte, l Layout) (best int) {
	every := max(1, len(samples)/triedBytes) * triedRows
	least := -1
	for choice := range choices {
		var tried []byte
		for y := 0; y < l.Height; y += every {
			tried = append(tried, filtered(samples, l, y, min(l.Height, y+triedRows), choice)...)
		}
		packed, err := compress(tried)
		if err == nil && (least < 0 || len(packed) < least) {
			best, least = choice, len(packed)
		}
	}
	return best
}

func compress(data []byte) ([]byte, error) {
	var out bytes.Buffer
	writer, err := zlib.NewWriterLevel(&out, zlib.BestCompression)
	if err != nil {
		return nil, fmt.Errorf("compress samples: %w", err)
	}
	if _, err := writer.Write(data); err != nil {
		return nil, fmt.Errorf("compress samples: %w", err)
	}
	if err := writer.Close(); err != nil {
		return nil, fmt.Errorf("compress samples: %w", err)
	}
	return out.Bytes(), nil
}
