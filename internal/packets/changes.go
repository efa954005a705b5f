package packets

import (
	"slices"

	"dorbin/core/finish"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/requirements"
	"dorbin/internal/store"
)

// Change is what an act did to a packet: what leads from one revision to the
// next.
type Change struct {
	ID       string                 `json:"id" doc:"The packet's id."`
	From     int                    `json:"from" doc:"The revision that it changes."`
	Revision int                    `json:"revision" doc:"The revision that it leads to."`
	Name     string                 `json:"name"`
	Undo     message.Text           `json:"undo,omitzero" doc:"What undoing would take back; missing when there is nothing."`
	Redo     message.Text           `json:"redo,omitzero" doc:"What redoing would do again; missing when there is nothing."`
	Expected int                    `json:"expected,omitempty"`
	Finish   *finish.Finish         `json:"finish,omitempty" doc:"What is added to the document, where that changed."`
	Receiver *requirements.Receiver `json:"receiver,omitempty"`
	FileName string                 `json:"fileName"`
	Hunks    []Hunk                 `json:"hunks" nullable:"false" doc:"To be carried out in order."`
	Sources  []Source               `json:"sources,omitempty" doc:"Those that are new or have changed."`
	Gone     []packet.SourceID      `json:"gone,omitempty" doc:"Sources that were taken out."`
}

// Hunk replaces a run of a packet's rows. The rows are the packet written out as
// a list: each part's head followed by its pages, then the pages set aside.
type Hunk struct {
	At     int   `json:"at" doc:"The first row that is replaced, after all earlier hunks."`
	Remove int   `json:"remove" doc:"How many rows are taken out."`
	Rows   []Row `json:"rows,omitempty" doc:"What comes in their place."`
}

// Row is one row: exactly one field is set. The pages are not numbered.
type Row struct {
	Part  *PartHead `json:"part,omitempty"`
	Page  *Page     `json:"page,omitempty"`
	Aside *Page     `json:"aside,omitempty"`
}

// PartHead is a part without its pages.
type PartHead struct {
	ID    packet.PartID `json:"id"`
	Title string        `json:"title"`
	Paper string        `json:"paper,omitempty"`
}

// viewChange shows what leads from one state of a packet to the next.
func (v viewer) change(before, after store.Packet, delta packet.Delta) Change {
	change := Change{
		ID: after.ID, From: before.Revision, Revision: after.Revision,
		Name: after.State.Name, Undo: after.Undo, Redo: after.Redo, Expected: after.State.Expected,
		Receiver: after.State.Receiver, FileName: after.State.ProposeFileName(".pdf"),
		Hunks: []Hunk{},
	}
	if before.State.Finish != after.State.Finish {
		added := after.State.Finish.OrDefaults()
		change.Finish = &added
	}
	for _, h := range delta.Hunks {
		if hunk, ok := v.hunk(h); ok {
			change.Hunks = append(change.Hunks, hunk)
		}
	}
	wasPlaced, isPlaced := before.State.Placed(), after.State.Placed()
	for _, source := range v.sources {
		id := packet.SourceID(source.ID)
		was, is := slices.Contains(before.State.Removed, id), slices.Contains(after.State.Removed, id)
		switch {
		case is && !was:
			change.Gone = append(change.Gone, id)
		case !is && (was || wasPlaced[id] != isPlaced[id]):
			change.Sources = append(change.Sources, viewSource(source, isPlaced[id]))
		}
	}
	return change
}

// hunk leaves out the sources that were taken out, which are the last rows of a
// packet.
func (v viewer) hunk(h packet.Hunk) (Hunk, bool) {
	hunk := Hunk{At: h.At}
	for _, row := range h.Before {
		if row.Removed == nil {
			hunk.Remove++
		}
	}
	for _, row := range h.After {
		switch {
		case row.Part != nil:
			hunk.Rows = append(hunk.Rows, Row{Part: &PartHead{row.Part.ID, row.Part.Title, row.Part.Paper}})
		case row.Page != nil:
			page := v.page(*row.Page, 0)
			hunk.Rows = append(hunk.Rows, Row{Page: &page})
		case row.Aside != nil:
			aside := v.aside(*row.Aside)
			hunk.Rows = append(hunk.Rows, Row{Aside: &aside})
		}
	}
	return hunk, hunk.Remove > 0 || len(hunk.Rows) > 0
}
