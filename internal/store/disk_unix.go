//go:build unix

package store

import (
	"fmt"

	"golang.org/x/sys/unix"
)

func freeBytes(path string) (int64, error) {
	var stat unix.Statfs_t
	if err := unix.Statfs(path, &stat); err != nil {
		return 0, fmt.Errorf("ask for free disk space: %w", err)
	}
	return int64(stat.Bavail) * int64(stat.Bsize), nil //nolint:unconvert // the types differ between systems
}
