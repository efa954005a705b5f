package demo

import (
	"bytes"
	"fmt"
	"regexp"
	"strconv"
)

var (
	trailerSize  = regexp.MustCompile(`/Size (\d+)`)
	trailerRoot  = regexp.MustCompile(`/Root (\d+) 0 R`)
	startOfTable = regexp.MustCompile(`startxref\s+(\d+)`)
	pageObject   = regexp.MustCompile(`(?s)\n(\d+) 0 obj\n(<</Type /Page\n.*?)\nendobj`)
	annotsArray  = regexp.MustCompile(`/Annots \[`)
)

// withTextField adds a text field to the first page of a PDF, as an incremental
// update (ISO 32000-2:2020, 7.5.6 and 12.7). The page must have annotations
// already; the box is in points.
func withTextField(file []byte, name string, box [4]float64) ([]byte, error) {
	size, root, table := lastNumber(trailerSize, file), lastNumber(trailerRoot, file), lastNumber(startOfTable, file)
	page := pageObject.FindSubmatch(file)
	catalog := regexp.MustCompile(fmt.Sprintf(`(?s)\n%d 0 obj\n<<(.*?)>>\nendobj`, root)).FindSubmatch(file)
	if size == 0 || page == nil || catalog == nil || !annotsArray.Match(page[2]) {
		return nil, fmt.Errorf("add field %s: the file is not as expected", name)
	}
	number, err := strconv.Atoi(string(page[1]))
	if err != nil {
		return nil, fmt.Errorf("add field %s: %w", name, err)
	}
	font, field := size, size+1
	u := update{out: bytes.NewBuffer(bytes.Clone(file)), offsets: map[int]int{}}
	u.object(number, string(annotsArray.ReplaceAll(page[2], fmt.Appendf(nil, "/Annots [%d 0 R ", field))))
	u.object(root, fmt.Sprintf("<<%s/AcroForm << /Fields [%d 0 R] /NeedAppearances true /DR << /Font << /Helv %d 0 R >> >> >>\n>>",
		catalog[1], field, font))
	u.object(font, "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>")
	const multiline = 1 << 12
	u.object(field, fmt.Sprintf("<< /Type /Annot /Subtype /Widget /FT /Tx /T (%s) /F 4 /Ff %d /Rect [%g %g %g %g] "+
		"/DA (/Helv 10 Tf 0 g) /MK << /BC [0.4 0.4 0.4] /BG [0.96 0.97 1] >> >>",
		name, multiline, box[0], box[1], box[2], box[3]))
	return u.finish(root, size+2, table), nil
}

func lastNumber(pattern *regexp.Regexp, file []byte) int {
	all := pattern.FindAllSubmatch(file, -1)
	if len(all) == 0 {
		return 0
	}
	n, _ := strconv.Atoi(string(all[len(all)-1][1])) // the pattern has digits only
	return n
}

type update struct {
	out     *bytes.Buffer
	order   []int
	offsets map[int]int
}

func (u *update) object(number int, body string) {
	u.order = append(u.order, number)
	u.offsets[number] = u.out.Len()
	fmt.Fprintf(u.out, "%d 0 obj\n%s\nendobj\n", number, body)
}

func (u *update) finish(root, size, previous int) []byte {
	start := u.out.Len()
	fmt.Fprint(u.out, "xref\n")
	for _, number := range u.order {
		fmt.Fprintf(u.out, "%d 1\n%010d 00000 n \n", number, u.offsets[number])
	}
	fmt.Fprintf(u.out, "trailer\n<< /Size %d /Root %d 0 R /Prev %d >>\nstartxref\n%d\n%%%%EOF\n", size, root, previous, start)
	return u.out.Bytes()
}
