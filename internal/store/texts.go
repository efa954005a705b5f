package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"dorbin/core/check"
	"dorbin/core/message"
	"dorbin/core/text"
)

// TextState is how it stands with the text of a page.
type TextState string

// States of texts.
const (
	TextAsked  TextState = "asked"  // it is to be read
	TextRead   TextState = "read"   // it was recognised
	TextOwn    TextState = "own"    // the page of a PDF has it
	TextNone   TextState = "none"   // the page of a PDF has none
	TextFailed TextState = "failed" // it could not be read
)

// TextKey names a page as its text was read.
type TextKey struct {
	Source string
	Page   int    // from 1
	Look   string // how the page comes to lie flat
}

// TextInfo is what is known of the text of a page.
type TextInfo struct {
	TextKey
	State     TextState
	Languages string       // that it is read in, joined by +
	Turn      int          // by which the page stands, where it was asked for: degrees clockwise
	Problem   message.Text // why it could not be read, or what is wrong with the text
	Words     int
	Doubtful  int           // words that were read unsurely
	Printed   check.Printed // the page number on it
	Upright   int           // by which the flat page is turned to be read, in degrees clockwise; UprightUnknown is not known
}

// UprightUnknown is where nobody knows which way up a page is read.
const UprightUnknown = -1

const textColumns = `source, page, look, state, languages, turn, problem, words, doubtful, printed, printed_of, upright`

func (t *TextInfo) columns() []any {
	return []any{&t.Source, &t.Page, &t.Look, &t.State, &t.Languages, &t.Turn, (*said)(&t.Problem), &t.Words, &t.Doubtful, &t.Printed.Number, &t.Printed.Of, &t.Upright}
}

// Texts reads what is known of the texts of the pages of a packet's sources. It is shared: nobody may
// change it.
func (s *Store) Texts(ctx context.Context, packet string) (map[TextKey]TextInfo, error) {
	texts, err := s.texts.of(ctx, packet, s.readTexts)
	return texts.infos, err
}

// FoldedTexts reads the texts of the pages of a packet's sources as they are searched. They are
// shared: nobody may change them.
func (s *Store) FoldedTexts(ctx context.Context, packet string) (map[TextKey]string, error) {
	texts, err := s.texts.of(ctx, packet, s.readTexts)
	return texts.folded, err
}

func (s *Store) readTexts(ctx context.Context, packet string) (rememberedTexts, error) {
	type entry struct {
		TextInfo
		folded string
	}
	all, err := queryAll(ctx, s.db, func(row scanner) (e entry, err error) {
		err = row.Scan(append(e.columns(), &e.folded)...)
		return e, err
	}, `SELECT `+textColumns+`, folded FROM texts WHERE source IN (SELECT id FROM sources WHERE packet = ?)`, packet)
	if err != nil {
		return rememberedTexts{}, fmt.Errorf("read what is known of texts: %w", err)
	}
	texts := rememberedTexts{infos: make(map[TextKey]TextInfo, len(all)), folded: make(map[TextKey]string, len(all))}
	for _, e := range all {
		texts.infos[e.TextKey] = e.TextInfo
		texts.folded[e.TextKey] = e.folded
	}
	return texts, nil
}

// Text reads the text of a page, which is empty where there is none.
func (s *Store) Text(ctx context.Context, key TextKey) (page text.Page, err error) {
	var content string
	err = s.db.QueryRowContext(ctx, `SELECT content FROM texts WHERE source = ? AND page = ? AND look = ?`, key.Source, key.Page, key.Look).Scan(&content)
	if errors.Is(err, sql.ErrNoRows) || err == nil && content == "" {
		return page, nil
	}
	if err == nil {
		err = json.Unmarshal([]byte(content), &page)
	}
	if err != nil {
		return page, fmt.Errorf("read the text of a page: %w", err)
	}
	return page, nil
}

// KeepText keeps the text of a page. What is no longer asked for is not kept: the reading was
// cancelled meanwhile. A page that has its own text need not be read, if that was asked for.
func (s *Store) KeepText(ctx context.Context, t TextInfo, page text.Page) error {
	content := ""
	if len(page.Lines) > 0 {
		encoded, err := json.Marshal(page)
		if err != nil {
			return fmt.Errorf("encode the text of a page: %w", err)
		}
		content = string(encoded)
	}
	folded := text.IndexOf(page).Folded
	if t.State == TextRead || t.State == TextFailed {
		return s.changeTexts(ctx, `UPDATE texts SET state = ?, problem = ?, words = ?, doubtful = ?, printed = ?, printed_of = ?, upright = ?, folded = ?, content = ?
			WHERE source = ? AND page = ? AND look = ? AND state = ?`,
			t.State, said(t.Problem), t.Words, t.Doubtful, t.Printed.Number, t.Printed.Of, t.Upright, folded, content, t.Source, t.Page, t.Look, TextAsked)
	}
	return s.changeTexts(ctx, `INSERT INTO texts (`+textColumns+`, folded, content) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT DO UPDATE SET state = excluded.state, words = excluded.words, printed = excluded.printed, printed_of = excluded.printed_of,
			folded = excluded.folded, content = excluded.content
		WHERE texts.state = ? AND excluded.state = ?`,
		t.Source, t.Page, t.Look, t.State, t.Languages, t.Turn, said(t.Problem), t.Words, t.Doubtful, t.Printed.Number, t.Printed.Of, t.Upright, folded, content, TextAsked, TextOwn)
}

// AskTexts notes that pages are to be read. Those that were read before keep their text until then.
func (s *Store) AskTexts(ctx context.Context, asked []TextInfo) error {
	defer s.texts.wrote()
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		for _, t := range asked {
			_, err := tx.ExecContext(ctx, `INSERT INTO texts (source, page, look, state, languages, turn) VALUES (?, ?, ?, ?, ?, ?)
				ON CONFLICT DO UPDATE SET state = excluded.state, languages = excluded.languages, turn = excluded.turn, problem = ''`,
				t.Source, t.Page, t.Look, TextAsked, t.Languages, t.Turn)
			if err != nil {
				return fmt.Errorf("ask for the text of a page: %w", notFound(err))
			}
		}
		return nil
	})
}

// CancelTexts forgets that pages of a packet were to be read.
func (s *Store) CancelTexts(ctx context.Context, packet string) error {
	const asked = `state = ? AND source IN (SELECT id FROM sources WHERE packet = ?)`
	return errors.Join(
		s.changeTexts(ctx, `DELETE FROM texts WHERE content = '' AND `+asked, TextAsked, packet),
		s.changeTexts(ctx, `UPDATE texts SET state = ? WHERE `+asked, TextRead, TextAsked, packet),
	)
}

func (s *Store) changeTexts(ctx context.Context, query string, values ...any) error {
	defer s.texts.wrote()
	if _, err := s.db.ExecContext(ctx, query, values...); err != nil {
		return fmt.Errorf("keep the text of pages: %w", notFound(err))
	}
	return nil
}

// Reading is what was said about reading a packet.
type Reading struct {
	Languages string // joined by +; empty is the installation's own
	Every     bool   // every page that comes in is read
}

// Reading reads what was said about reading a packet.
func (s *Store) Reading(ctx context.Context, packet string) (r Reading, err error) {
	err = s.db.QueryRowContext(ctx, `SELECT languages, every FROM reading WHERE packet = ?`, packet).Scan(&r.Languages, &r.Every)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return r, fmt.Errorf("read how a packet is read: %w", err)
	}
	return r, nil
}

// SetReading keeps what was said about reading a packet.
func (s *Store) SetReading(ctx context.Context, packet string, r Reading) error {
	_, err := s.db.ExecContext(ctx, `INSERT OR REPLACE INTO reading (packet, languages, every) VALUES (?, ?, ?)`, packet, r.Languages, r.Every)
	if err != nil {
		return fmt.Errorf("keep how a packet is read: %w", notFound(err))
	}
	return nil
}
