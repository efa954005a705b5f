package demo

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
)

// records are the papers that the club has filed as PDFs, by the drawings that they are.
var records = map[string]string{
	"Accounts 2025.pdf":                   "accounts.pdf",
	"Site plan of the boathouse.pdf":      "site-plan.pdf",
	"Older/Application to the county.pdf": "application-form.pdf",
}

// KeepRecords fills a folder with the club's records, unless it is there.
func KeepRecords(folder string) error {
	if _, err := os.Stat(folder); err == nil || !errors.Is(err, fs.ErrNotExist) {
		return err //nolint:wrapcheck // nil, or names the folder
	}
	for name, drawing := range records {
		paper, err := Draw(drawing)
		if err != nil {
			return err
		}
		path := filepath.Join(folder, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
			return fmt.Errorf("make the folder of the records: %w", err)
		}
		if err := os.WriteFile(path, paper.Data, 0o600); err != nil {
			return fmt.Errorf("file %s: %w", name, err)
		}
	}
	return nil
}
