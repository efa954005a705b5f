package intake

import (
	"context"
	"errors"
	"io"

	"dorbin/internal/office"
)

// convertOffice writes the PDF of a text document or spreadsheet.
func convertOffice(ctx context.Context, converter office.Converter, path, name string, w io.Writer) error {
	err := converter.Convert(ctx, path, name, office.Kind{Extension: "pdf"}, w)
	switch {
	case errors.Is(err, office.ErrNotInstalled):
		return refuse(NeedsOffice, err, "%s is a text document or spreadsheet, which takes LibreOffice to read, and that is not installed here. "+
			"Install it (on Debian: apt install libreoffice-writer libreoffice-calc), or save the file as PDF and add that.", name)
	case errors.Is(err, office.ErrTooSlow):
		return refuse(Damaged, err, "%s was not added: making pages of it took longer than %d seconds. Save it as PDF and add that.",
			name, int(converter.Limit().Seconds()))
	case errors.Is(err, office.ErrNothing):
		return refuse(Damaged, err, "%s cannot be opened: it is damaged or protected with a password. Save it as PDF and add that.", name)
	}
	return err
}
