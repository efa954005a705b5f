package export

import (
	"slices"

	"dorbin/core/pdf"
	"dorbin/core/shrink"
	"dorbin/internal/assembly"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// document is a PDF while it is made: what it is made of is taken down source by source, and
// written by a worker in the end.
type document struct {
	*assembly.Builder
	*making
	segment
	owners []owner      // of the builder's steps
	pins   []*store.Pin // of the files that the steps name
}

// owner is what a step of the builder is of.
type owner struct {
	source    store.Source
	page      int  // of the source, from 1; 0 where it is of several
	pages     int  // how many are written
	isCounted bool // progress was told of them when they were encoded
}

// took notes what the step is of that was taken down last.
func (d *document) took(o owner) { d.owners = append(d.owners, o) }

// pin has a file stay until the document is written.
func (d *document) pin(file *store.Pin) { d.pins = append(d.pins, file) }

func (d *document) close() error {
	for _, pin := range d.pins {
		pin.Release()
	}
	return d.Builder.Close()
}

// choice is how a page of the document is to be written.
func (d *document) choice(page placedPage) shrink.Candidate { return d.chosen[d.from+page.position] }

// measured is what is known of a page of the document.
func (d *document) measured(page placedPage) *measuredPage { return d.pages[d.from+page.position] }

// note keeps that a page was written in so many bytes instead of what it takes up as it
// is.
func (d *document) note(page placedPage, before, after int64) {
	v, kind := d.choice(page), shrink.ContinuousTone
	if known := d.measured(page).known; known != nil {
		kind = known.Kind
	}
	d.became = append(d.became, RecodedPage{
		Number: d.from + page.position + 1, Kind: kind, EncodingParams: v.EncodingParams, Before: before, After: after, Kept: v.Fidelity, Words: v.Words,
	})
}

// noteRepacked keeps that a page was written in so many bytes less, with every pixel the same: besides
// what became of it else.
func (d *document) noteRepacked(position int, saved int64) {
	number := d.from + position + 1
	if i := slices.IndexFunc(d.became, func(p RecodedPage) bool { return p.Number == number }); i >= 0 {
		d.became[i].After = max(0, d.became[i].After-saved)
		return
	}
	before := d.pages[number-1].bytes
	d.became = append(d.became, RecodedPage{
		Number: number, Kind: shrink.ContinuousTone, EncodingParams: shrink.EncodingParams{Encoding: shrink.Original},
		SamePixels: true, Before: before, After: max(0, before-saved), Kept: 1,
	})
}

// uncounted is how many of the first pages that are written were not counted when they were
// encoded.
func (d *document) uncounted(written int) (pages int) {
	for _, o := range d.owners {
		n := min(written, o.pages)
		if written -= n; !o.isCounted {
			pages += n
		}
	}
	return pages
}

// named gives an error of writing with the name of the source, and the page where it is of one.
func (o owner) named(err error) error {
	switch {
	case isDiskFull(err) || worker.IsUnavailable(err) || o.source.ID == "":
		return err
	case o.page > 0:
		return damaged(err, "Page %d of %s is damaged and cannot be written.", o.page, o.source.Name)
	}
	return unwritable(o.source, err)
}

// addEncoded adds a page that was encoded.
func (d *document) addEncoded(source store.Source, page placedPage, encoded pdf.Replacement) error {
	if err := d.AddPicture(encoded, pdf.Placement{Position: page.position, Framing: page.Framing()}); err != nil {
		return err
	}
	d.took(owner{source: source, page: page.SourcePage, pages: 1, isCounted: true})
	return d.progress()
}
