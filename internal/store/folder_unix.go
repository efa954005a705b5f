//go:build unix

package store

import (
	"errors"
	"fmt"
	"os"
)

// syncFolder makes sure that the names in a folder survive a power cut.
func syncFolder(path string) error {
	folder, err := os.Open(path)
	if err != nil {
		return fmt.Errorf("sync folder: %w", err)
	}
	if err := errors.Join(folder.Sync(), folder.Close()); err != nil {
		return fmt.Errorf("sync folder: %w", err)
	}
	return nil
}
