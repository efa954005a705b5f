package worker

import (
	"os"
	"strconv"
	"strings"
)

// residentBytes is how much memory a process takes (proc(5), statm); 0 where it has ended.
func residentBytes(pid int) int64 {
	text, err := os.ReadFile("/proc/" + strconv.Itoa(pid) + "/statm")
	if err != nil {
		return 0
	}
	fields := strings.Fields(string(text))
	if len(fields) < 2 {
		return 0
	}
	pages, _ := strconv.ParseInt(fields[1], 10, 64) // a number, as the system writes it
	return pages * int64(os.Getpagesize())
}
