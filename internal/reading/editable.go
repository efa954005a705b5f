package reading

import (
	"bytes"
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"io"
	"os"

	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/text"
	"dorbin/internal/office"
)

// Format is a kind of text document.
type Format string

// Formats of text documents.
const (
	DOCX  Format = "docx"
	ODT   Format = "odt"
	HTML  Format = "html"
	Plain Format = "txt"
)

// ContentTypes are those of the formats.
var ContentTypes = map[Format]string{
	DOCX: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
	ODT:  "application/vnd.oasis.opendocument.text", HTML: "text/html; charset=utf-8", Plain: "text/plain; charset=utf-8",
}

// converted are the formats that LibreOffice writes, of HTML.
var converted = map[Format]office.Kind{
	DOCX: {Extension: "docx", Reads: "HTML (StarWriter)", Writes: "MS Word 2007 XML"},
	ODT:  {Extension: "odt", Reads: "HTML (StarWriter)", Writes: "writer8"},
}

// DocumentOrder asks for a text document of pages that can be edited.
type DocumentOrder struct {
	Pages          []packet.PageID `json:"pages,omitempty" doc:"The pages; none are all."`
	Format         Format          `json:"format" enum:"docx,odt,html,txt"`
	WithoutRunning bool            `json:"withoutRunning,omitempty" doc:"Lines that come again at the head and foot of pages, and page numbers, are left out."`
}

// MadeDocument is a text document.
type MadeDocument struct {
	Name        string
	ContentType string
	Data        []byte
}

// MakeDocument makes a text document of pages that can be edited.
func (s *Service) MakeDocument(ctx context.Context, packetID string, order DocumentOrder) (MadeDocument, error) {
	contentType, ok := ContentTypes[order.Format]
	if !ok {
		return MadeDocument{}, problem.New(problem.Invalid, "there is no text document %q", order.Format)
	}
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return MadeDocument{}, err
	}
	pages, err := wanted(p.State, TextOrder{Pages: order.Pages})
	if err != nil {
		return MadeDocument{}, err
	}
	made := MadeDocument{Name: packet.ProposeFileName(p.State.Name, "."+string(order.Format)), ContentType: contentType}
	texts, err := s.TextsOf(ctx, packetID)
	if err != nil {
		return made, err
	}
	sheets, _, err := s.sheets(ctx, texts.known, pages)
	if err != nil {
		return made, err
	}
	var out bytes.Buffer
	err = s.writeDocument(ctx, &out, editable{p.State.Name, texts.Language, pages, text.Blocks(sheets, order.WithoutRunning)}, order.Format)
	made.Data = out.Bytes()
	return made, err
}

// editable is a text document before it is written.
type editable struct {
	title, language string
	pages           []packet.Page
	blocks          []text.Block
}

func (s *Service) writeDocument(ctx context.Context, w io.Writer, e editable, format Format) error {
	if format == Plain {
		return text.WritePlain(w, e.blocks)
	}
	kind, isConverted := converted[format]
	if isConverted && !s.office.IsInstalled() {
		return problem.New(problem.Invalid, "Writing %s takes LibreOffice, which is not installed here (on Debian: apt install libreoffice-writer). "+
			"Plain text and HTML can be written.", map[Format]string{DOCX: "DOCX", ODT: "ODT"}[format])
	}
	var page bytes.Buffer
	var failed error
	err := text.WriteHTML(&page, e.title, e.language, e.blocks, func(i int) string {
		address, err := s.pictureIn(ctx, e.pages[i])
		failed = errors.Join(failed, err)
		return address
	})
	if err := errors.Join(err, failed); err != nil {
		return err
	}
	if !isConverted {
		_, err := w.Write(page.Bytes())
		return err
	}
	return s.convert(ctx, page.Bytes(), kind, w)
}

// pictureWidth is how many pixels the picture of a page has that stands for its text.
const pictureWidth = 960

// pictureIn is the picture of a page as an address that holds it; none of a blank page, or of one that
// cannot be shown.
func (s *Service) pictureIn(ctx context.Context, page packet.Page) (string, error) {
	if page.IsBlank() {
		return "", nil
	}
	source, err := s.sources.Ready(ctx, string(page.Source), page.SourcePage)
	if err != nil {
		return "", err
	}
	path, err := s.pictures.Picture(ctx, s.sources.Page(source, page.SourcePage, page.Adjustments, page.Turn), pictureWidth)
	if err != nil {
		s.log.Warn("page without text not shown in a document", "source", source.ID, "page", page.SourcePage, "error", err)
		return "", ctx.Err()
	}
	data, err := os.ReadFile(path)
	if err != nil {
		return "", fmt.Errorf("read the picture of a page: %w", err)
	}
	return "data:image/jpeg;base64," + base64.StdEncoding.EncodeToString(data), nil
}

// convert has LibreOffice write what is HTML in another format.
func (s *Service) convert(ctx context.Context, page []byte, kind office.Kind, w io.Writer) error {
	file, err := os.CreateTemp(s.store.ScratchFolder(), "text-*.html")
	if err != nil {
		return fmt.Errorf("make a text document: %w", err)
	}
	defer os.Remove(file.Name()) //nolint:errcheck // a temporary file
	_, err = file.Write(page)
	if err := errors.Join(err, file.Close()); err != nil {
		return fmt.Errorf("make a text document: %w", err)
	}
	if err := s.office.Convert(ctx, file.Name(), "document.html", kind, w); err != nil {
		return fmt.Errorf("make a text document: %w", err)
	}
	return nil
}
