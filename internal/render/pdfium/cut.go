package pdfium

import (
	"fmt"
	"image"
	"io"
	"math"
	"slices"

	"github.com/klippa-app/go-pdfium/enums"
	"github.com/klippa-app/go-pdfium/references"
	"github.com/klippa-app/go-pdfium/requests"

	"dorbin/core/geometry"
)

// Cut is what is kept of a page of a PDF.
type Cut struct {
	Page    int             // counted from 1
	Kept    geometry.Box    // in the page's own user space, where y points up
	Content geometry.Affine // where the page's content goes, in user space, before it is cut
	Seen    geometry.Box    // surely kept, as fractions of the page as a reader shows it
}

const (
	cutCheckWidth = 500 // pixels at which a page is compared before and after
	// The most by which a page may differ there, in grey levels a pixel: fonts that
	// are written anew are not smoothed the same way everywhere.
	cutTolerance = 0.6
	// Objects and characters that reach into what is kept by less, in points, are
	// outside it.
	cutSliver = 0.5
)

// CutAway writes a document anew without the objects that lie wholly outside what
// is kept of some of its pages. A page that would look different inside is left
// whole.
func (l *Library) CutAway(path string, cuts []Cut, out io.Writer) error {
	for {
		var spoilt []int
		err := l.use(func() error {
			doc, err := l.load(path, "")
			if err != nil {
				return err
			}
			defer l.close(doc)
			for _, cut := range cuts {
				same, err := l.cutPage(doc.ref, cut)
				if err != nil {
					return fmt.Errorf("cut page %d: %w", cut.Page, err)
				}
				if !same {
					spoilt = append(spoilt, cut.Page)
				}
			}
			if len(spoilt) > 0 {
				return nil // begun anew without them
			}
			if _, err := l.instance.FPDF_SaveAsCopy(&requests.FPDF_SaveAsCopy{Document: doc.ref, Flags: requests.SaveFlagRemoveSecurity, FileWriter: out}); err != nil {
				return fmt.Errorf("write the cut pages: %w", err)
			}
			return nil
		})
		if err != nil || len(spoilt) == 0 {
			return err
		}
		cuts = slices.DeleteFunc(slices.Clone(cuts), func(c Cut) bool { return slices.Contains(spoilt, c.Page) })
	}
}

// cutPage takes what is outside away, and tells whether the rest looks the same.
func (l *Library) cutPage(doc references.FPDF_DOCUMENT, cut Cut) (same bool, err error) {
	loaded, err := l.instance.FPDF_LoadPage(&requests.FPDF_LoadPage{Document: doc, Index: cut.Page - 1})
	if err != nil {
		return false, err
	}
	page := requests.Page{ByReference: &loaded.Page}
	defer func() {
		_, _ = l.instance.FPDF_ClosePage(&requests.FPDF_ClosePage{Page: loaded.Page}) // nothing to be done about it
	}()
	outside, err := l.objectsOutside(page, cut)
	if err != nil || len(outside) == 0 {
		return true, err
	}
	before, err := l.glance(page)
	if err != nil {
		return false, err
	}
	for _, object := range outside {
		if _, err := l.instance.FPDFPage_RemoveObject(&requests.FPDFPage_RemoveObject{Page: page, PageObject: object}); err != nil {
			return false, err
		}
	}
	if _, err := l.instance.FPDFPage_GenerateContent(&requests.FPDFPage_GenerateContent{Page: page}); err != nil {
		return false, err
	}
	// What was written is read again, from the document.
	after, err := l.glance(requests.Page{ByIndex: &requests.PageByIndex{Document: doc, Index: cut.Page - 1}})
	return err == nil && alikeWithin(before, after, cut.Seen), err
}

func (l *Library) objectsOutside(page requests.Page, cut Cut) ([]references.FPDF_PAGEOBJECT, error) {
	count, err := l.instance.FPDFPage_CountObjects(&requests.FPDFPage_CountObjects{Page: page})
	if err != nil {
		return nil, err
	}
	var outside []references.FPDF_PAGEOBJECT
	for i := range count.Count {
		object, err := l.instance.FPDFPage_GetObject(&requests.FPDFPage_GetObject{Page: page, Index: i})
		if err != nil {
			return nil, err
		}
		bounds, err := l.boundsOf(object.PageObject)
		if err != nil {
			continue // an object without bounds shows nothing
		}
		if liesOutside(bounds.Mapped(cut.Content), cut.Kept) {
			outside = append(outside, object.PageObject)
		}
	}
	return outside, nil
}

func (l *Library) boundsOf(object references.FPDF_PAGEOBJECT) (geometry.Box, error) {
	b, err := l.instance.FPDFPageObj_GetBounds(&requests.FPDFPageObj_GetBounds{PageObject: object})
	if err != nil {
		return geometry.Box{}, err
	}
	return geometry.Box{X0: float64(b.Left), Y0: float64(b.Bottom), X1: float64(b.Right), Y1: float64(b.Top)}, nil
}

func liesOutside(b, kept geometry.Box) bool {
	return b.X1 < kept.X0+cutSliver || b.X0 > kept.X1-cutSliver || b.Y1 < kept.Y0+cutSliver || b.Y0 > kept.Y1-cutSliver
}

// glance draws a page small, to be compared.
func (l *Library) glance(page requests.Page) (*image.RGBA, error) {
	response, err := l.instance.RenderPageInPixels(&requests.RenderPageInPixels{Page: page, Width: cutCheckWidth, Height: 2 * cutCheckWidth})
	if err != nil {
		return nil, err
	}
	defer response.Cleanup()
	copied, _ := copyPicture(response.Result.RenderedImage).(*image.RGBA)
	return copied, nil
}

func alikeWithin(a, b *image.RGBA, seen geometry.Box) bool {
	if a.Rect != b.Rect {
		return false
	}
	w, h := float64(a.Rect.Dx()), float64(a.Rect.Dy())
	// A pixel inwards, as those at the border are mixed with what is outside.
	inside := image.Rect(int(seen.X0*w)+2, int(seen.Y0*h)+2, int(seen.X1*w)-2, int(seen.Y1*h)-2).Intersect(a.Rect)
	if inside.Empty() {
		return true
	}
	sum := 0.0
	for y := inside.Min.Y; y < inside.Max.Y; y++ {
		for i := a.PixOffset(inside.Min.X, y); i < a.PixOffset(inside.Max.X, y); i++ {
			sum += math.Abs(float64(a.Pix[i]) - float64(b.Pix[i]))
		}
	}
	return sum/float64(4*inside.Dx()*inside.Dy()) <= cutTolerance
}

// HidesContent tells whether characters or parts of pictures of a page, counted from
// 1, lie outside what is seen of it, in fractions of the page as a reader shows it: they
// are not seen, but in the file.
func (l *Library) HidesContent(path string, page int, seen geometry.Box) (hides bool, err error) {
	err = l.use(func() error {
		doc, err := l.document(path)
		if err != nil {
			return err
		}
		which := requests.Page{ByIndex: &requests.PageByIndex{Document: doc, Index: page - 1}}
		box, err := l.inUserSpace(which, seen)
		if err != nil {
			return fmt.Errorf("read what is shown of page %d: %w", page, err)
		}
		if hides, err = l.hidesPictures(which, box); err != nil || hides {
			return err
		}
		hides, err = l.hidesText(which, box)
		return err
	})
	return hides, err
}

// inUserSpace gives a box in fractions of a page as a reader shows it in the page's own
// user space, where it is not turned and y points up.
func (l *Library) inUserSpace(page requests.Page, seen geometry.Box) (geometry.Box, error) {
	media, err := l.instance.FPDFPage_GetMediaBox(&requests.FPDFPage_GetMediaBox{Page: page})
	if err != nil {
		return geometry.Box{}, err
	}
	turn, err := l.instance.FPDFPage_GetRotation(&requests.FPDFPage_GetRotation{Page: page})
	if err != nil {
		return geometry.Box{}, err
	}
	flat := geometry.Size{Width: float64(media.Right - media.Left), Height: float64(media.Top - media.Bottom)}
	stands := geometry.Framing{Flat: flat, Turn: 90 * int(turn.PageRotation)}
	size := stands.Size()
	fromTop := seen.Mapped(geometry.Scaling(size.Width, size.Height).Then(stands.Transform().Inverse()))
	return geometry.Box{
		X0: float64(media.Left) + fromTop.X0, Y0: float64(media.Top) - fromTop.Y1,
		X1: float64(media.Left) + fromTop.X1, Y1: float64(media.Top) - fromTop.Y0,
	}, nil
}

func (l *Library) hidesPictures(page requests.Page, box geometry.Box) (bool, error) {
	count, err := l.instance.FPDFPage_CountObjects(&requests.FPDFPage_CountObjects{Page: page})
	if err != nil {
		return false, err
	}
	for i := range count.Count {
		object, err := l.instance.FPDFPage_GetObject(&requests.FPDFPage_GetObject{Page: page, Index: i})
		if err != nil {
			return false, err
		}
		kind, err := l.instance.FPDFPageObj_GetType(&requests.FPDFPageObj_GetType{PageObject: object.PageObject})
		if err != nil || kind.Type != enums.FPDF_PAGEOBJ_IMAGE {
			continue
		}
		if bounds, err := l.boundsOf(object.PageObject); err == nil && !box.Holds(bounds, 1) {
			return true, nil
		}
	}
	return false, nil
}

func (l *Library) hidesText(page requests.Page, box geometry.Box) (bool, error) {
	loaded, err := l.instance.FPDFText_LoadPage(&requests.FPDFText_LoadPage{Page: page})
	if err != nil {
		return false, err
	}
	defer func() {
		_, _ = l.instance.FPDFText_ClosePage(&requests.FPDFText_ClosePage{TextPage: loaded.TextPage}) // nothing to be done about it
	}()
	count, err := l.instance.FPDFText_CountChars(&requests.FPDFText_CountChars{TextPage: loaded.TextPage})
	if err != nil {
		return false, err
	}
	for i := range count.Count {
		c, err := l.instance.FPDFText_GetCharBox(&requests.FPDFText_GetCharBox{TextPage: loaded.TextPage, Index: i})
		if err != nil || c.Right <= c.Left || c.Top <= c.Bottom {
			continue // a space, or an end of line that PDFium adds
		}
		if liesOutside(geometry.Box{X0: c.Left, Y0: c.Bottom, X1: c.Right, Y1: c.Top}, box) {
			return true, nil
		}
	}
	return false, nil
}
