package demo

import (
	"fmt"
	"image"

	"dorbin/internal/scanner/sim"
)

// ScannerName is the name of the demo's simulated scanner.
const ScannerName = "Boathouse scanner (simulated)"

// reportPages is how many sheets the surveyor's report has.
const reportPages = 9

// Scanner is the demo's simulated scanner: the surveyor's report lies in its
// feeder, of which two sheets stick together, and the signed declaration on its
// glass.
func Scanner() *sim.Device {
	sheets := []sim.Sheet{onA4("Declaration, signed", func(s sheet) { declaration(s, true) }), onA4("Declaration, not signed", func(s sheet) { declaration(s, false) })}
	var feeder []string
	for n := 1; n <= reportPages; n++ {
		name := fmt.Sprintf("Surveyor’s report, page %d", n)
		sheets = append(sheets, onA4(name, func(s sheet) { reportPage(s, n) }))
		feeder = append(feeder, name)
	}
	return sim.New(ScannerName, sheets, sim.State{
		Feeder: feeder, Glass: sheets[0].Name, Fault: sim.DoubleAt, At: 4, Seconds: 0.6, On: true,
	})
}

func onA4(name string, draw func(sheet)) sim.Sheet {
	return sim.Sheet{Name: name, Width: 210, Height: 297, Front: func(dpi float64) *image.RGBA {
		s := newSheet(210, 297, dpi)
		s.SetRGB255(0, 0, 0)
		draw(s)
		return s.Image().(*image.RGBA)
	}}
}

var reportChapters = [reportPages]struct {
	title string
	words []string
}{
	{"Survey of the boathouse roof", []string{
		"Larkmere Rowing Club asked us to look at the roof of the boathouse in Shore Lane, to say what is wrong with it, what will become of it if nothing is done, and what ought to be done.",
		"We looked at it on two dry days in January from a tower on the north side, from ladders on the south side, and from inside the loft. No slates were lifted."}},
	{"The building", []string{
		"The boathouse was built in 1908 of stone, with a roof of local slate on softwood battens. It is 31 metres long and 13 metres wide. The north slope has an area of 212 square metres.",
		"The south slope was re-slated in 1986. The north slope has been patched many times and never renewed."}},
	{"The north slope", []string{
		"Of about 9,200 slates, 1,140 have slipped, 830 are broken and 390 are gone. The nails have rusted through in most places that could be seen.",
		"The battens are soft over a third of the slope and will not hold new nails."}},
	{"Lead and gutters", []string{
		"The lead of both valleys is worn thin and has been mended with tape. Water stands in the western valley after rain.",
		"The gutters are of cast iron, sound but for two joints, and want cleaning and paint."}},
	{"Inside", []string{
		"Water comes in at three places above the boat racks and at one above the training room, where part of the ceiling came down in November.",
		"The rafters are sound where we could touch them. Two have old marks of beetles, not active."}},
	{"What will happen", []string{
		"If nothing is done we expect the slope to fail in large areas within two winters. Repairs by patching would cost about £ 4,000 a year and would not stop the leaks.",
		"Wet timber will rot, and what is a matter of slates will become one of structure."}},
	{"What ought to be done", []string{
		"Strip the north slope, keep the sound slates for repairs of the south side, and re-slate on new battens over a breathing membrane. Renew the lead of both valleys in code 6.",
		"Lay 200 mm of insulation over the training room while the slope is open."}},
	{"What it will cost", []string{
		"We would expect tenders between £ 44,000 and £ 54,000 with tax, of which the scaffold is an eighth. Work should be done between June and September.",
		"The sums are for guidance. Quotes should be asked of at least two roofers."}},
	{"The surveyor", []string{
		"This report is for the club and those to whom it applies for help. It may be copied whole, and not in parts.",
		"The writer has surveyed roofs for twenty-two years and has no part in any firm that may do the work."}},
}

func reportPage(s sheet, n int) {
	chapter := reportChapters[n-1]
	s.setFont("", 9)
	s.text(24, 22, "Tarnside Surveys (fictional)  ·  Report 2026-014")
	s.line(24, 25, 186, 25, 0.3)
	s.setFont("B", 15)
	s.text(24, 44, fmt.Sprintf("%d  %s", n, chapter.title))
	s.setFont("", 11)
	y := 58.0
	for _, words := range chapter.words {
		y = s.paragraph(24, y, 162, words) + 3
	}
	if n == reportPages {
		s.signature(28, y+20, 46, 77)
		s.setFont("", 10)
		s.text(24, y+32, "for Tarnside Surveys")
	}
	s.setFont("", 10)
	s.text(90, 284, fmt.Sprintf("Page %d of %d", n, reportPages))
}

func declaration(s sheet, signed bool) {
	s.setFont("B", 17)
	s.text(24, 40, "Declaration")
	s.setFont("", 11)
	y := 56.0
	for _, words := range []string{
		"We declare on behalf of the Larkmere Rowing Club that what is said in this application to the Tarn Valley Fund is true and complete as far as we know.",
		"We have read the notes for applicants. If the grant is given we shall use it for nothing but the work described, and send accounts within three months of its end.",
		"We agree that an officer of the fund may look at the work and at the bills.",
	} {
		y = s.paragraph(24, y, 162, words) + 3
	}
	for i, name := range []string{"for the committee: the chair", "for the committee: the treasurer"} {
		at := y + 30 + float64(i)*34
		s.line(24, at, 104, at, 0.3)
		s.setFont("", 9)
		s.text(24, at+6, name)
		s.text(120, at+6, "date")
		s.line(120, at, 170, at, 0.3)
		if signed {
			s.signature(30, at-2, 48, uint64(90+i))
			s.setFont("I", 11)
			s.text(124, at-2, "2 March 2026")
		}
	}
}
