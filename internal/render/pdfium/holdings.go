package pdfium

import (
	"fmt"
	"math"

	"github.com/klippa-app/go-pdfium/enums"
	"github.com/klippa-app/go-pdfium/references"
	"github.com/klippa-app/go-pdfium/requests"

	"dorbin/core/check"
	"dorbin/core/geometry"
)

// Bounds of what is looked at on a page.
const (
	mostObjects = 5_000
	deepest     = 4 // forms within each other
	largeShare  = 0.25
)

// Holdings tells what a page of a PDF, counted from 1, holds.
func (l *Library) Holdings(path string, page int) (holdings check.Holdings, err error) {
	err = l.use(func() error {
		doc, err := l.document(path)
		if err != nil {
			return err
		}
		which := requests.Page{ByIndex: &requests.PageByIndex{Document: doc, Index: page - 1}}
		if holdings, err = l.annotated(doc, which); err != nil {
			return fmt.Errorf("read the annotations of page %d: %w", page, err)
		}
		size, err := l.instance.FPDF_GetPageSizeByIndex(&requests.FPDF_GetPageSizeByIndex{Document: doc, Index: page - 1})
		if err != nil {
			return fmt.Errorf("measure page %d: %w", page, err)
		}
		walk := objectWalk{library: l, page: which, area: size.Width * size.Height, holdings: &holdings, embedded: map[references.FPDF_FONT]bool{}}
		holdings.OneBit = true
		if err := walk.onPage(); err != nil {
			return fmt.Errorf("look at page %d: %w", page, err)
		}
		holdings.OneBit = holdings.OneBit && holdings.Pictures
		return nil
	})
	return holdings, err
}

// annotated tells what annotations a page has. One that cannot be read is none.
func (l *Library) annotated(doc references.FPDF_DOCUMENT, page requests.Page) (h check.Holdings, err error) {
	count, err := l.instance.FPDFPage_GetAnnotCount(&requests.FPDFPage_GetAnnotCount{Page: page})
	if err != nil {
		return h, err
	}
	for i := range min(count.Count, mostHidden) {
		annot, err := l.instance.FPDFPage_GetAnnot(&requests.FPDFPage_GetAnnot{Page: page, Index: i})
		if err != nil {
			continue
		}
		if kind, err := l.instance.FPDFAnnot_GetSubtype(&requests.FPDFAnnot_GetSubtype{Annotation: annot.Annotation}); err == nil {
			switch kind.Subtype {
			case enums.FPDF_ANNOT_SUBTYPE_WIDGET:
				h.Fields = true
			case enums.FPDF_ANNOT_SUBTYPE_LINK:
				h.Links = true
				h.LinksWithin = h.LinksWithin || l.leadsWithin(doc, annot.Annotation)
			case enums.FPDF_ANNOT_SUBTYPE_POPUP: // of a comment
			default:
				h.Comments = true
			}
		}
		_, _ = l.instance.FPDFPage_CloseAnnot(&requests.FPDFPage_CloseAnnot{Annotation: annot.Annotation}) // only read from
	}
	return h, nil
}

// leadsWithin tells whether a link leads to a page of the document.
func (l *Library) leadsWithin(doc references.FPDF_DOCUMENT, annot references.FPDF_ANNOTATION) bool {
	link, err := l.instance.FPDFAnnot_GetLink(&requests.FPDFAnnot_GetLink{Annotation: annot})
	if err != nil {
		return false
	}
	if dest, err := l.instance.FPDFLink_GetDest(&requests.FPDFLink_GetDest{Document: doc, Link: link.Link}); err == nil && dest.Dest != nil {
		return true
	}
	action, err := l.instance.FPDFLink_GetAction(&requests.FPDFLink_GetAction{Link: link.Link})
	if err != nil || action.Action == nil {
		return false
	}
	kind, err := l.instance.FPDFAction_GetType(&requests.FPDFAction_GetType{Action: *action.Action})
	return err == nil && kind.Type == enums.FPDF_ACTION_ACTION_GOTO
}

// objectWalk goes through what is drawn on a page.
type objectWalk struct {
	library  *Library
	page     requests.Page
	area     float64 // of the page, in square points
	seen     int     // objects
	embedded map[references.FPDF_FONT]bool
	holdings *check.Holdings
}

func (w *objectWalk) onPage() error {
	count, err := w.library.instance.FPDFPage_CountObjects(&requests.FPDFPage_CountObjects{Page: w.page})
	if err != nil {
		return err
	}
	for i := range min(count.Count, mostObjects) {
		object, err := w.library.instance.FPDFPage_GetObject(&requests.FPDFPage_GetObject{Page: w.page, Index: i})
		if err != nil {
			return err
		}
		w.take(object.PageObject, 1, geometry.Identity)
	}
	return nil
}

// take notes an object. One that cannot be read tells nothing.
func (w *objectWalk) take(object references.FPDF_PAGEOBJECT, depth int, to geometry.Affine) {
	kind, err := w.library.instance.FPDFPageObj_GetType(&requests.FPDFPageObj_GetType{PageObject: object})
	if w.seen++; err != nil || w.seen > mostObjects {
		return
	}
	switch kind.Type {
	case enums.FPDF_PAGEOBJ_IMAGE:
		w.takePicture(object, to)
	case enums.FPDF_PAGEOBJ_TEXT:
		w.takeText(object)
	case enums.FPDF_PAGEOBJ_FORM:
		if depth < deepest {
			w.within(object, depth+1, to)
		}
	}
}

func (w *objectWalk) within(form references.FPDF_PAGEOBJECT, depth int, to geometry.Affine) {
	count, err := w.library.instance.FPDFFormObj_CountObjects(&requests.FPDFFormObj_CountObjects{PageObject: form})
	if err != nil {
		return
	}
	at, err := w.placeOf(form)
	if err != nil {
		return
	}
	for i := range min(count.Count, mostObjects) {
		object, err := w.library.instance.FPDFFormObj_GetObject(&requests.FPDFFormObj_GetObject{PageObject: form, Index: uint64(i)}) //nolint:gosec // not negative
		if err != nil {
			return
		}
		w.take(object.PageObject, depth, at.Then(to))
	}
}

// placeOf is where an object is drawn within what holds it.
func (w *objectWalk) placeOf(object references.FPDF_PAGEOBJECT) (geometry.Affine, error) {
	m, err := w.library.instance.FPDFPageObj_GetMatrix(&requests.FPDFPageObj_GetMatrix{PageObject: object})
	if err != nil {
		return geometry.Affine{}, err
	}
	return geometry.Affine{
		A: float64(m.Matrix.A), B: float64(m.Matrix.B), C: float64(m.Matrix.C), D: float64(m.Matrix.D), E: float64(m.Matrix.E), F: float64(m.Matrix.F),
	}, nil
}

// takePicture notes a picture, which is drawn as a square of one unit.
func (w *objectWalk) takePicture(object references.FPDF_PAGEOBJECT, to geometry.Affine) {
	told, err := w.library.instance.FPDFImageObj_GetImageMetadata(&requests.FPDFImageObj_GetImageMetadata{ImageObject: object, Page: w.page})
	if err != nil {
		return
	}
	w.holdings.Pictures = true
	w.holdings.OneBit = w.holdings.OneBit && told.ImageMetadata.BitsPerPixel == 1
	at, err := w.placeOf(object)
	if err != nil {
		return
	}
	at = at.Then(to)
	across, down := math.Hypot(at.A, at.B), math.Hypot(at.C, at.D)
	if across*down < largeShare*w.area {
		return
	}
	dpi := math.Min(float64(told.ImageMetadata.Width)/across, float64(told.ImageMetadata.Height)/down) * geometry.PointsPerInch
	if dpi < mostDPI {
		w.holdings.DPI = max(w.holdings.DPI, int(math.Round(dpi)))
	}
}

// mostDPI is more than any picture has.
const mostDPI = 100_000

func (w *objectWalk) takeText(object references.FPDF_PAGEOBJECT) {
	if w.holdings.LooseFonts {
		return
	}
	font, err := w.library.instance.FPDFTextObj_GetFont(&requests.FPDFTextObj_GetFont{PageObject: object})
	if err != nil {
		return
	}
	embedded, known := w.embedded[font.Font]
	if !known {
		answer, err := w.library.instance.FPDFFont_GetIsEmbedded(&requests.FPDFFont_GetIsEmbedded{Font: font.Font})
		embedded = err != nil || answer.IsEmbedded
		w.embedded[font.Font] = embedded
	}
	w.holdings.LooseFonts = !embedded
}
