package assembly

import (
	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/pdf"
)

// plan is a document that is to be written.
type plan struct {
	Pages        int             `json:"pages"`
	Steps        []step          `json:"steps"`
	Properties   pdf.Properties  `json:"properties"`
	KeepPictures bool            `json:"keepPictures,omitempty"`
	Repack       bool            `json:"repack,omitempty"`
	Protection   *pdf.Protection `json:"protection,omitempty"`
	Marks        extent          `json:"marks"`           // the finish.Table of what is added to the pages, as gob: thousands are read at once
	Texts        []extent        `json:"texts,omitempty"` // by position: the text that lies unseen under a page, as JSON
	Encoded      string          `json:"encoded"`         // the path of the file in which the bytes of encoded images are
	Out          string          `json:"out"`             // the path of the file that is written
}

// Written is what became of a document that was written.
type Written struct {
	LeftOut pdf.Tally     `json:"leftOut"`
	Saved   map[int]int64 `json:"saved,omitempty"` // bytes, by position: of JPEGs of PDFs, with every pixel the same
}

// step adds pages to a document. One of its fields is set.
type step struct {
	Blank    *blankStep    `json:"blank,omitempty"`
	Image    *imageStep    `json:"image,omitempty"`
	Encoded  *encodedStep  `json:"encoded,omitempty"`
	Document *documentStep `json:"document,omitempty"`
	Overlay  *overlayStep  `json:"overlay,omitempty"`
}

type blankStep struct {
	Position int           `json:"position"`
	Size     geometry.Size `json:"size"`
}

// imageStep is a page of an image file, from 0, as it is.
type imageStep struct {
	Path       string          `json:"path"`
	Page       int             `json:"page"`
	Placements []pdf.Placement `json:"placements"`
}

// overlayStep is a page of a file, from 0, that marks draw.
type overlayStep struct {
	Picture finish.Picture `json:"picture"`
	Path    string         `json:"path"`
	Page    int            `json:"page"`
	IsPDF   bool           `json:"isPdf"`
}

// encodedStep is an image that the program encoded, with the inks over it if it has any.
type encodedStep struct {
	picture
	Placement pdf.Placement `json:"placement"`
}

// documentStep is pages of a PDF, some of whose images, by the numbers of their objects, are
// written otherwise.
type documentStep struct {
	Path       string          `json:"path"`
	Placements []pdf.Placement `json:"placements"`
	Instead    map[int]picture `json:"instead,omitempty"`
	IsCounted  bool            `json:"isCounted,omitempty"` // what it carries besides its pages was counted before
}

// picture is an encoded image with the inks that are painted over it.
type picture struct {
	Image encoded `json:"image"`
	Inks  []ink   `json:"inks,omitempty"`
}

type ink struct {
	Mask             encoded `json:"mask"`
	Red, Green, Blue uint8
	Colours          *encoded `json:"colours,omitempty"`
}

// encoded is an image without its bytes, and where in the file of the plan these are. Data and
// Shared take the place of the image's own.
type encoded struct {
	pdf.Image
	Data   extent
	Shared extent
}

// extent is a run of bytes of the file in which the bytes of encoded images and texts are.
type extent struct {
	Offset int64 `json:"offset"`
	Length int64 `json:"length"`
}
