package intake

import (
	"archive/zip"
	"context"
	"errors"
	"math"

	"dorbin/internal/worker"
)

// Bounds of what an office document, which is an archive of files, unpacks to, in bytes.
const (
	mostUnpacked  = 200 << 20 // of a document
	timesUnpacked = 50        // of its own bytes, where it is more than
	fewUnpacked   = 20 << 20
)

var unpackedTask = worker.Func[string, int64]{Name: "archive unpacked", Limit: decodeTime}

// unpackedBytes is how many bytes the files of an archive say that they have; 0 of what is no
// archive.
func unpackedBytes(path string) (total int64, err error) {
	archive, err := zip.OpenReader(path)
	if err != nil {
		return 0, nil //nolint:nilerr // LibreOffice reads other kinds as well
	}
	defer func() { err = errors.Join(err, archive.Close()) }()
	for _, file := range archive.File {
		if file.UncompressedSize64 > math.MaxInt64/2 || total > math.MaxInt64/2 {
			return math.MaxInt64, nil
		}
		total += int64(file.UncompressedSize64) //nolint:gosec // bounded above
	}
	return total, nil
}

// checkUnpacked has a worker tell what an office document unpacks to, and refuses one that unpacks
// to much more than it is. Name is what its user calls it.
func (in *Inspector) checkUnpacked(ctx context.Context, path, name string, bytes int64) error {
	total, _, err := unpackedTask.Do(ctx, in.Pool, path)
	if err != nil {
		return ofFile(name, err)
	}
	if total > mostUnpacked || (total > fewUnpacked && total > timesUnpacked*bytes) {
		return refuse(TooLarge, nil, "%s was not added: it unpacks to %d MB, which no letter or table does. Save it as PDF and add that.", name, total>>20)
	}
	return nil
}
