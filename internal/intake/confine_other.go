//go:build !linux

package intake

import "os/exec"

// runConfined runs a command. Its profile and environment keep it from fetching
// anything.
func runConfined(command *exec.Cmd) (said string, err error) {
	out, err := command.CombinedOutput()
	return string(out), err
}
