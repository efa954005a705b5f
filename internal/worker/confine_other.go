//go:build !linux

package worker

import "syscall"

// confine does nothing here: the collector's limit bounds the memory as far as it can.
func confine() error { return nil }

func confined() *syscall.SysProcAttr { return &syscall.SysProcAttr{} }

// residentBytes is not known here.
func residentBytes(int) int64 { return 0 }
