package store

// syncFolder does nothing: Windows keeps the names of files by itself.
func syncFolder(string) error { return nil }
