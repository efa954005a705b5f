package demo

import (
	"bytes"
	"fmt"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// withTextField adds a text field to a PDF's first page; the box is in points
// (ISO 32000-2:2020, 12.7).
func withTextField(file []byte, name string, box [4]float64) ([]byte, error) {
	api.DisableConfigDir()
	conf := model.NewDefaultConfiguration()
	conf.Offline = true
	ctx, err := api.ReadContext(bytes.NewReader(file), conf)
	if err != nil {
		return nil, fmt.Errorf("add a field: %w", err)
	}
	if err := ctx.EnsurePageCount(); err != nil {
		return nil, fmt.Errorf("add a field: %w", err)
	}
	root, err := ctx.Catalog()
	if err != nil {
		return nil, fmt.Errorf("add a field: %w", err)
	}
	page, _, _, err := ctx.PageDict(1, false)
	if err != nil {
		return nil, fmt.Errorf("add a field: %w", err)
	}
	font, err := ctx.IndRefForNewObject(types.Dict{
		"Type": types.Name("Font"), "Subtype": types.Name("Type1"), "BaseFont": types.Name("Helvetica"),
	})
	if err != nil {
		return nil, fmt.Errorf("add a field: %w", err)
	}
	const multiline = 1 << 12
	field, err := ctx.IndRefForNewObject(types.Dict{
		"Type": types.Name("Annot"), "Subtype": types.Name("Widget"), "FT": types.Name("Tx"),
		"T": types.StringLiteral(name), "F": types.Integer(4), "Ff": types.Integer(multiline),
		"Rect": types.NewNumberArray(box[:]...),
		"DA":   types.StringLiteral("/Helv 10 Tf 0 g"),
		"MK":   types.Dict{"BC": types.NewNumberArray(0.4, 0.4, 0.4), "BG": types.NewNumberArray(0.96, 0.97, 1)},
	})
	if err != nil {
		return nil, fmt.Errorf("add a field: %w", err)
	}
	annots, _ := page["Annots"].(types.Array)
	page["Annots"] = append(annots, *field)
	root["AcroForm"] = types.Dict{
		"Fields": types.Array{*field}, "NeedAppearances": types.Boolean(true),
		"DR": types.Dict{"Font": types.Dict{"Helv": *font}},
	}
	var out bytes.Buffer
	if err := api.WriteContext(ctx, &out); err != nil {
		return nil, fmt.Errorf("add a field: %w", err)
	}
	return out.Bytes(), nil
}
