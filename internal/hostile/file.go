package hostile

import (
	"fmt"
	"slices"
	"strings"
)

// File is a hostile file. Its name says what is wrong with it and ends with the ending of its
// kind; its data is made when it is asked for, as some take seconds.
type File struct {
	Name string
	Data func() []byte
}

// Files are all hostile files, in the order of their names.
func Files() []File {
	var files []File
	for _, kind := range []map[string]func() []byte{pdfs, drawings, structures, jpegs, pngs, tiffs, otherImages, papers} {
		for name, data := range kind {
			files = append(files, File{name, data})
		}
	}
	slices.SortFunc(files, func(a, b File) int { return strings.Compare(a.Name, b.Name) })
	return files
}

// Named gives the data of the file with a name.
func Named(name string) []byte {
	for _, file := range Files() {
		if file.Name == name {
			return file.Data()
		}
	}
	panic(fmt.Sprintf("there is no hostile file %q", name))
}

// just is data that takes no time to make.
func just(data string) func() []byte { return func() []byte { return []byte(data) } }
