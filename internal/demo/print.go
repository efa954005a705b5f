package demo

import (
	"bytes"
	"fmt"
	"time"

	"github.com/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goitalic"
	"golang.org/x/image/font/gofont/goregular"
)

// The papers are dated so that they come out the same at every run.
var written = time.Date(2026, time.March, 2, 9, 30, 0, 0, time.UTC)

const (
	margin   = 22.0 // mm
	bodySize = 10.5 // points
	leading  = 5.4  // mm
	fontName = "Go"
)

// Colours of the club and of the fund.
var (
	clubBlue  = [3]int{38, 70, 110}
	fundGreen = [3]int{52, 92, 60}
	grey      = [3]int{95, 95, 95}
)

// print is a PDF being written.
type print struct{ *fpdf.Fpdf }

func newPrint(title string, size fpdf.SizeType) print {
	pdf := fpdf.NewCustom(&fpdf.InitType{OrientationStr: "P", UnitStr: "mm", Size: size})
	pdf.SetCreationDate(written)
	pdf.SetModificationDate(written)
	pdf.SetCatalogSort(true)
	pdf.SetTitle(title, true)
	pdf.AddUTF8FontFromBytes(fontName, "", goregular.TTF)
	pdf.AddUTF8FontFromBytes(fontName, "B", gobold.TTF)
	pdf.AddUTF8FontFromBytes(fontName, "I", goitalic.TTF)
	pdf.SetMargins(margin, margin, margin)
	pdf.SetAutoPageBreak(false, margin)
	return print{pdf}
}

func (p print) bytes() ([]byte, error) {
	var out bytes.Buffer
	if err := p.Output(&out); err != nil {
		return nil, fmt.Errorf("write PDF: %w", err)
	}
	return out.Bytes(), nil
}

func (p print) colour(c [3]int) { p.SetTextColor(c[0], c[1], c[2]) }

func (p print) heading(text string, c [3]int) {
	p.SetFont(fontName, "B", 13)
	p.colour(c)
	p.MultiCell(0, 7, text, "", "L", false)
	p.SetTextColor(20, 20, 20)
	p.Ln(1)
}

func (p print) paragraph(text string) {
	p.SetFont(fontName, "", bodySize)
	p.MultiCell(0, leading, text, "", "L", false)
	p.Ln(2.5)
}

// row writes cells of the given widths in mm; numbers stand at the right.
func (p print) row(style string, widths []float64, cells []string, rightFrom int) {
	p.SetFont(fontName, style, bodySize-0.5)
	for i, cell := range cells {
		align := "L"
		if i >= rightFrom {
			align = "R"
		}
		p.CellFormat(widths[i], 6.4, cell, "B", 0, align, false, 0, "")
	}
	p.Ln(-1)
}

// field is a line of a form with its answer.
func (p print) field(label, value string) {
	p.SetFont(fontName, "", 8)
	p.colour(grey)
	p.CellFormat(0, 4.5, label, "", 1, "L", false, 0, "")
	p.SetFont(fontName, "", bodySize+0.5)
	p.SetTextColor(24, 40, 90)
	p.CellFormat(0, 7, value, "B", 1, "L", false, 0, "")
	p.SetTextColor(20, 20, 20)
	p.Ln(2.4)
}

// fundHead is the head of the fund's own forms.
func (p print) fundHead(subtitle string) {
	p.SetFillColor(fundGreen[0], fundGreen[1], fundGreen[2])
	p.Rect(0, 0, 210, 24, "F")
	p.SetTextColor(255, 255, 255)
	p.SetFont(fontName, "B", 18)
	p.Text(margin, 13, "Tarn Valley Fund")
	p.SetFont(fontName, "", 10)
	p.Text(margin, 19, subtitle)
	p.SetTextColor(20, 20, 20)
	p.SetY(34)
}

// clubHead is the club's letterhead: two crossed oars over water.
func (p print) clubHead() {
	x, y := 28.0, 24.0
	p.SetDrawColor(clubBlue[0], clubBlue[1], clubBlue[2])
	p.SetFillColor(clubBlue[0], clubBlue[1], clubBlue[2])
	p.SetLineWidth(0.9)
	p.Line(x-6, y+6, x+6, y-7)
	p.Line(x+6, y+6, x-6, y-7)
	p.Polygon([]fpdf.PointType{{X: x + 4.6, Y: y - 7}, {X: x + 7.4, Y: y - 9.6}, {X: x + 8.4, Y: y - 8.4}, {X: x + 6, Y: y - 5.6}}, "F")
	p.Polygon([]fpdf.PointType{{X: x - 4.6, Y: y - 7}, {X: x - 7.4, Y: y - 9.6}, {X: x - 8.4, Y: y - 8.4}, {X: x - 6, Y: y - 5.6}}, "F")
	p.SetLineWidth(0.5)
	for i := range 2 {
		top := y + 8 + float64(i)*1.8
		p.CurveBezierCubic(x-8, top, x-3, top-2, x+3, top+2, x+8, top, "D")
	}
	p.SetLineWidth(0.2)
	p.SetDrawColor(60, 60, 60)
	p.SetFont(fontName, "B", 15)
	p.colour(clubBlue)
	p.Text(42, 22, "Larkmere Rowing Club")
	p.SetFont(fontName, "", 8.5)
	p.colour(grey)
	p.Text(42, 27, "The Boathouse, Shore Lane, Larkmere  ·  founded 1908  ·  registered charity (fictional)")
	p.SetTextColor(20, 20, 20)
	p.SetY(44)
}

func (p print) foot(text string) {
	p.SetFont(fontName, "", 8)
	p.colour(grey)
	p.Text(margin, 285, text)
	p.SetTextColor(20, 20, 20)
}

var a4 = fpdf.SizeType{Wd: 210, Ht: 297}

// applicationForm is the fund's form, filled in: four pages of text.
func applicationForm() ([]byte, error) {
	p := newPrint("Application for a grant", a4)
	const total = 4
	page := func(n int) {
		p.AddPage()
		p.fundHead("Application for a grant  ·  buildings and places")
		p.foot(fmt.Sprintf("Tarn Valley Fund, form B2  ·  page %d of %d", n, total))
	}
	page(1)
	p.heading("1  Who is applying", fundGreen)
	for _, f := range [][2]string{
		{"Name of the organisation", "Larkmere Rowing Club"},
		{"Kind of organisation", "Members’ club, charitable"},
		{"Address", "The Boathouse, Shore Lane, Larkmere"},
		{"Person we can ask", "The honorary secretary"},
		{"How many people use what you do", "214 members, 90 of them under 18; about 1,100 visitors a year"},
		{"Income in the last full year", "£ 61,480"},
	} {
		p.field(f[0], f[1])
	}
	p.heading("2  What it is for", fundGreen)
	p.paragraph("The roof of the boathouse, built in 1931, has let in water since the storms of last winter. We ask for help " +
		"with stripping and re-slating the north slope, replacing the rotten battens and the lead of both valleys, and " +
		"insulating the training room below.")
	page(2)
	p.heading("3  Why it is needed", fundGreen)
	for _, text := range []string{
		"Water reaches the boat racks at three places. Two eights and a quad have been moved to the yard under covers, where they cannot stay another winter. The training room was closed in November after part of its ceiling came down.",
		"The boathouse is the only covered place on the lake from which people who use wheelchairs can get afloat. The rowing club of the school and the Thursday group of the health centre use it as well.",
		"A surveyor looked at the roof in January and found that a quarter of the slates on the north slope are slipped or broken, and that the battens will not hold new nails.",
	} {
		p.paragraph(text)
	}
	p.heading("4  What will be different", fundGreen)
	for _, text := range []string{
		"A dry boathouse for at least sixty years, at a cost of upkeep the club can bear by itself.",
		"The training room open again from October, with half the heating cost.",
		"Forty more places in the learn-to-row courses, for which there is a waiting list of 63.",
	} {
		p.paragraph("–  " + text)
	}
	page(3)
	p.heading("5  What it costs", fundGreen)
	widths := []float64{96, 35, 35}
	p.row("B", widths, []string{"Item", "Quote", "Asked for"}, 1)
	for _, r := range [][]string{
		{"Scaffold and protection", "£ 6,240", "£ 4,000"},
		{"Strip and re-slate the north slope", "£ 18,900", "£ 14,000"},
		{"Battens, felt and counter battens", "£ 4,310", "£ 3,000"},
		{"Lead to valleys and abutments", "£ 5,780", "£ 4,000"},
		{"Insulation over the training room", "£ 2,950", "£ 2,000"},
		{"Making good and clearing away", "£ 1,620", "–"},
		{"Value added tax", "£ 7,960", "–"},
	} {
		p.row("", widths, r, 1)
	}
	p.row("B", widths, []string{"Together", "£ 47,760", "£ 27,000"}, 1)
	p.Ln(6)
	p.heading("6  Where the rest comes from", fundGreen)
	p.paragraph("The members have given £ 9,400 and the regatta brought in £ 3,150. The club will take £ 8,210 from its reserve, which leaves it with half a year’s costs, as its rules ask.")
	page(4)
	p.heading("7  What you have to send with this form", fundGreen)
	for _, text := range []string{
		"Two quotes for the work", "Photographs of what is to be repaired", "A plan of the site", "The accounts of the last two years",
		"A certificate of insurance", "The minutes of the meeting that decided to apply", "This form, with the declaration signed on paper",
	} {
		p.paragraph("☐  " + text)
	}
	p.heading("8  How to send it", fundGreen)
	p.paragraph("As one PDF of at most 30 pages in A4 and at most 4 MB, upright and searchable, by the last day of March.")
	p.paragraph("Notes for applicants: www.tarnvalleyfund.example")
	p.LinkString(margin, p.GetY()-9, 90, 6, "https://www.tarnvalleyfund.example/notes")
	return p.bytes()
}

// sitePlan is a drawing on A3, lying: lines only.
func sitePlan() ([]byte, error) {
	p := newPrint("Site plan", fpdf.SizeType{Wd: 420, Ht: 297})
	p.AddPage()
	p.SetLineWidth(0.6)
	p.Rect(12, 12, 396, 273, "D")
	p.drawGround()
	p.drawBuildings()
	p.drawPlanHead()
	return p.bytes()
}

func (p print) drawGround() {
	p.SetDrawColor(90, 130, 160)
	p.SetLineWidth(0.35)
	for i := range 14 {
		offset := float64(i) * 6
		p.CurveBezierCubic(14, 60+offset, 90, 40+offset*1.1, 150, 90+offset*0.7, 190-float64(i)*4, 14, "D")
	}
	p.SetDrawColor(150, 140, 110)
	p.SetLineWidth(0.2)
	for i := range 9 {
		y := 190 + float64(i)*10
		p.CurveBezierCubic(14, y, 140, y-26, 260, y+18, 330, y-14, "D")
	}
	p.SetDrawColor(60, 60, 60)
	p.SetDashPattern([]float64{6, 2, 1, 2}, 0)
	p.SetLineWidth(0.5)
	p.Polygon([]fpdf.PointType{{X: 120, Y: 70}, {X: 318, Y: 58}, {X: 326, Y: 230}, {X: 108, Y: 248}}, "D")
	p.SetDashPattern(nil, 0)
}

func (p print) drawBuildings() {
	p.SetFillColor(225, 220, 208)
	p.SetLineWidth(0.8)
	p.Polygon([]fpdf.PointType{{X: 170, Y: 96}, {X: 262, Y: 90}, {X: 266, Y: 150}, {X: 174, Y: 156}}, "DF")
	p.SetLineWidth(0.25)
	for i := range 22 {
		x := 174 + float64(i)*4.1
		p.Line(x, 98, x+2, 124)
	}
	p.Line(172, 126, 264, 120)
	p.SetFillColor(238, 235, 226)
	p.Rect(280, 170, 30, 40, "DF")
	p.SetFont(fontName, "B", 11)
	p.Text(196, 142, "Boathouse")
	p.SetFont(fontName, "", 9)
	p.Text(190, 116, "north slope: to be re-slated")
	p.Text(284, 192, "Store")
	p.Text(40, 84, "Lark Mere")
	p.Text(150, 226, "Yard and slipway")
	p.SetLineWidth(0.4)
	p.Line(170, 164, 266, 158)
	p.Text(208, 168, "24.6 m")
	p.Line(276, 90, 279, 150)
	p.Text(281, 122, "15.2 m")
}

func (p print) drawPlanHead() {
	p.Rect(322, 236, 86, 49, "D")
	p.Line(322, 250, 408, 250)
	p.SetFont(fontName, "B", 12)
	p.Text(326, 245, "Site plan, 1 : 250")
	p.SetFont(fontName, "", 9)
	p.Text(326, 257, "Larkmere Rowing Club")
	p.Text(326, 263, "Boathouse roof, drawing 01")
	p.Text(326, 269, "2 March 2026")
	p.SetLineWidth(0.7)
	p.Line(380, 60, 380, 28)
	p.Polygon([]fpdf.PointType{{X: 376, Y: 38}, {X: 380, Y: 24}, {X: 384, Y: 38}}, "F")
	p.Text(378, 66, "N")
}

// accounts are two years' figures, with bookmarks, a link from the contents,
// and a field to fill in.
func accounts() ([]byte, error) {
	p := newPrint("Accounts 2024 and 2025", a4)
	years := []int{2024, 2025}
	p.AddPage()
	p.clubHead()
	p.Bookmark("Accounts", 0, 0)
	p.heading("Accounts of the years 2024 and 2025", clubBlue)
	p.paragraph("Examined by two members who are not on the committee. The full ledgers can be seen at the boathouse.")
	for _, year := range years {
		link := p.AddLink()
		p.SetLink(link, 0, year-2022)
		p.SetFont(fontName, "", bodySize)
		p.SetTextColor(24, 60, 140)
		p.CellFormat(0, 8, fmt.Sprintf("Income and spending in %d, page %d", year, year-2022), "", 1, "L", false, link, "")
	}
	p.SetTextColor(20, 20, 20)
	p.Ln(4)
	p.paragraph("Examiner’s remark:")
	p.foot("Larkmere Rowing Club, accounts  ·  1")
	for i, year := range years {
		p.AddPage()
		p.clubHead()
		p.Bookmark(fmt.Sprintf("%d", year), 1, 0)
		p.yearFigures(year, float64(i))
		p.foot(fmt.Sprintf("Larkmere Rowing Club, accounts  ·  %d", i+2))
	}
	plain, err := p.bytes()
	if err != nil {
		return nil, err
	}
	return withTextField(plain, "examiner_remark", [4]float64{62, 500, 530, 560})
}

func (p print) yearFigures(year int, later float64) {
	widths := []float64{110, 50}
	pounds := func(base float64) string {
		v := int(base * (1 + 0.07*later))
		return fmt.Sprintf("£ %d,%03d", v/1000, v%1000)
	}
	p.heading(fmt.Sprintf("Income in %d", year), clubBlue)
	for _, r := range []struct {
		item   string
		pounds float64
	}{{"Subscriptions", 31240}, {"Courses", 12875}, {"Regatta", 6410}, {"Hire of the room", 4120}, {"Gifts", 2815}} {
		p.row("", widths, []string{r.item, pounds(r.pounds)}, 1)
	}
	p.row("B", widths, []string{"Together", pounds(57460)}, 1)
	p.Ln(6)
	p.heading(fmt.Sprintf("Spending in %d", year), clubBlue)
	for _, r := range []struct {
		item   string
		pounds float64
	}{{"Boats and oars", 18310}, {"Building", 13120}, {"Insurance", 6205}, {"Coaching", 9640}, {"Safety launch", 4180}, {"Office", 1735}} {
		p.row("", widths, []string{r.item, pounds(r.pounds)}, 1)
	}
	p.row("B", widths, []string{"Together", pounds(53190)}, 1)
}
