package check

// Holdings are what a page of a PDF holds, and of what kind it is.
type Holdings struct {
	Fields   bool `json:"fields,omitempty"`   // form fields
	Comments bool `json:"comments,omitempty"` // annotations that are neither fields nor links
	Links    bool `json:"links,omitempty"`
	// LinksWithin tells of links that lead to pages of the document.
	LinksWithin bool `json:"linksWithin,omitempty"`
	// Pictures tells whether it shows any, and OneBit whether all of them are ink or paper, with
	// nothing between.
	Pictures bool `json:"pictures,omitempty"`
	OneBit   bool `json:"oneBit,omitempty"`
	// DPI is the resolution of its finest picture that covers most of the page; 0 where none does.
	DPI int `json:"dpi,omitempty"`
	// LooseFonts tells of text in fonts that are not embedded.
	LooseFonts bool `json:"looseFonts,omitempty"`
}
