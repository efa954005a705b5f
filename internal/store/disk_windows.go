package store

import (
	"fmt"

	"golang.org/x/sys/windows"
)

func freeBytes(path string) (int64, error) {
	name, err := windows.UTF16PtrFromString(path)
	if err != nil {
		return 0, fmt.Errorf("ask for free disk space: %w", err)
	}
	var free uint64
	if err := windows.GetDiskFreeSpaceEx(name, &free, nil, nil); err != nil {
		return 0, fmt.Errorf("ask for free disk space: %w", err)
	}
	return int64(free), nil
}
