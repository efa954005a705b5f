package export

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"dorbin/core/shrink"
	"dorbin/internal/store"
)

// WrittenPrefix begins the names of pages that were written to be measured. They are kept beside what else is derived
// from the file that they are of: an export takes them as they are, and need not find their ink again.
const WrittenPrefix = "written-"

// pageOfFile names a page of a stored file, or a picture on one, and how its pixels come about.
type pageOfFile struct {
	file string // its hash
	name string
}

// ofImageFile is a page of an image file, however it stands.
func ofImageFile(source store.Source, page placedPage) pageOfFile {
	key := measuredKey(page.Page)
	return pageOfFile{source.Working, fmt.Sprintf("page %d %s", key.Page, key.Fingerprint)}
}

// picture is one that is on the page of a PDF.
func (p inPlacePage) picture(object int) pageOfFile {
	return pageOfFile{p.file, fmt.Sprintf("picture %d on %d", object, p.page)}
}

// writtenName is that of the page as an encoding writes it.
func (p pageOfFile) writtenName(encoding shrink.EncodingParams) string {
	return derivedName(WrittenPrefix, p.name, encoding)
}

// derivedName is that of what is made of a page by an encoding, beside what else is derived from its file.
func derivedName(prefix, page string, encoding shrink.EncodingParams) string {
	sum := sha256.Sum256(fmt.Appendf(nil, "%s %+v", page, encoding))
	return prefix + hex.EncodeToString(sum[:10])
}

// keepWritten keeps a page as encodings write it. Where that fails, it is written once more for an export.
func (s *Service) keepWritten(page pageOfFile, written []shrink.CompressedPage) {
	for _, compressed := range written {
		packed, err := compressed.Pack()
		if err == nil {
			err = s.store.WriteDerived(page.file, page.writtenName(compressed.EncodingParams), func(file *os.File) error {
				_, err := file.Write(packed)
				return err
			})
		}
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			s.log.Warn("page not kept as it was written", "file", page.file, "page", page.name, "error", err)
		}
	}
}

// takeWritten gives a page as an encoding writes it, if that was kept.
func (s *Service) takeWritten(page pageOfFile, encoding shrink.EncodingParams) (compressed shrink.CompressedPage, ok bool) {
	packed, err := os.ReadFile(filepath.Join(s.store.DerivedFolder(page.file), page.writtenName(encoding)))
	if errors.Is(err, os.ErrNotExist) {
		return compressed, false
	}
	if err == nil {
		compressed, err = shrink.Unpack(packed)
	}
	if err != nil {
		s.log.Warn("page that was kept is written anew", "file", page.file, "page", page.name, "error", err)
	}
	return compressed, err == nil
}
