package pdfium

import (
	"github.com/klippa-app/go-pdfium/enums"
	"github.com/klippa-app/go-pdfium/references"
	"github.com/klippa-app/go-pdfium/requests"

	"dorbin/core/annotation"
)

// hideAnnotations hides those annotations of a page that are left out, and returns what shows
// them again. One that cannot be read is drawn or not as PDFium pleases.
func (l *Library) hideAnnotations(page requests.Page, policy annotation.Policy) (showAgain func()) {
	var shown []func()
	showAgain = func() {
		for _, show := range shown {
			show()
		}
	}
	if policy.Fields != annotation.LeftOut && policy.Comments != annotation.LeftOut {
		return showAgain
	}
	count, err := l.instance.FPDFPage_GetAnnotCount(&requests.FPDFPage_GetAnnotCount{Page: page})
	if err != nil {
		return showAgain
	}
	for i := range min(count.Count, mostHidden) {
		annot, err := l.instance.FPDFPage_GetAnnot(&requests.FPDFPage_GetAnnot{Page: page, Index: i})
		if err != nil {
			continue
		}
		if flags, ok := l.flagsOfLeftOut(annot.Annotation, policy); ok {
			set := func(flags enums.FPDF_ANNOT_FLAG) {
				_, _ = l.instance.FPDFAnnot_SetFlags(&requests.FPDFAnnot_SetFlags{Annotation: annot.Annotation, Flags: flags}) // drawn, then
			}
			set(flags | enums.FPDF_ANNOT_FLAG_HIDDEN)
			shown = append(shown, func() { set(flags) })
		}
		shown = append(shown, func() {
			_, _ = l.instance.FPDFPage_CloseAnnot(&requests.FPDFPage_CloseAnnot{Annotation: annot.Annotation}) // only read from
		})
	}
	return showAgain
}

// mostHidden bounds how many annotations of a page are looked at before it is drawn.
const mostHidden = 20_000

// flagsOfLeftOut gives the flags of an annotation that is left out. It is not ok for others.
func (l *Library) flagsOfLeftOut(annot references.FPDF_ANNOTATION, policy annotation.Policy) (flags enums.FPDF_ANNOT_FLAG, ok bool) {
	kind, err := l.instance.FPDFAnnot_GetSubtype(&requests.FPDFAnnot_GetSubtype{Annotation: annot})
	if err != nil {
		return 0, false
	}
	handling := policy.Comments
	switch kind.Subtype {
	case enums.FPDF_ANNOT_SUBTYPE_WIDGET:
		handling = policy.Fields
	case enums.FPDF_ANNOT_SUBTYPE_LINK:
		return 0, false
	}
	if handling != annotation.LeftOut {
		return 0, false
	}
	response, err := l.instance.FPDFAnnot_GetFlags(&requests.FPDFAnnot_GetFlags{Annotation: annot})
	if err != nil {
		return 0, false
	}
	return response.Flags, true
}
