package pdf

import (
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// outlineItem is a bookmark (12.3.3) of the assembled file.
type outlineItem struct {
	title    types.Object
	dest     types.Object
	position int // of the page it opens; -1 for a heading that opens none
	open     bool
	style    types.Dict // colour and style
	kids     []outlineItem
}

const maxBookmarks = 100_000

// outline reads the document's bookmarks, as far as they or those below them
// lead to kept pages.
func (c *copier) outline(positions map[int]int) []outlineItem {
	budget := maxBookmarks
	first := c.doc.dict(c.doc.root["Outlines"])["First"]
	return c.outlineLevel(first, positions, map[int]bool{}, &budget, 0)
}

func (c *copier) outlineLevel(o types.Object, positions map[int]int, seen map[int]bool, budget *int, depth int) []outlineItem {
	var items []outlineItem
	for node := c.doc.dict(o); node != nil && depth < maxTreeDepth; node = c.doc.dict(o) {
		object := objectNumber(o)
		if *budget--; *budget < 0 || seen[object] {
			break
		}
		seen[object] = true
		item := c.outlineItem(node, positions)
		item.kids = c.outlineLevel(node["First"], positions, seen, budget, depth+1)
		if item.position >= 0 || len(item.kids) > 0 {
			items = append(items, item)
		}
		o = node["Next"]
	}
	return items
}

func (c *copier) outlineItem(node types.Dict, positions map[int]int) outlineItem {
	target := node["Dest"]
	if action := c.doc.dict(node["A"]); target == nil && c.doc.name(action["S"]) == "GoTo" {
		target = action["D"]
	}
	count, _ := c.doc.number(node["Count"])
	title, _ := c.doc.text(node["Title"])
	item := outlineItem{
		title:    textString(decodeText(title)),
		dest:     c.destination(target),
		position: -1,
		open:     count > 0,
		style:    types.Dict{},
	}
	for _, key := range []string{"C", "F"} {
		if value := c.value(node[key]); value != nil {
			item.style[key] = value
		}
	}
	if item.dest != nil {
		item.position = c.doc.positionOf(target, positions)
	}
	return item
}

func (d *Document) positionOf(target types.Object, positions map[int]int) int {
	page := d.explicitDestination(target)[0]
	index, ok := d.pageIndex[objectNumber(page)]
	if !ok {
		n, _ := d.number(page)
		index = int(n)
	}
	return positions[index]
}

// within keeps the bookmarks that open a page of the run, and headings above
// them.
func within(items []outlineItem, first, count int) []outlineItem {
	var kept []outlineItem
	for _, item := range items {
		inside := item.position >= first && item.position < first+count
		item.kids = within(item.kids, first, count)
		if !inside && len(item.kids) == 0 {
			continue
		}
		if !inside {
			item.dest, item.position = item.kids[0].dest, item.kids[0].position
		}
		kept = append(kept, item)
	}
	return kept
}

// writeOutline writes one bookmark per run, with the documents' own below it,
// and returns the number of the outline's root, or 0 when there is none.
func (a *Assembler) writeOutline(bookmarks []Bookmark) int {
	var items []outlineItem
	for _, b := range bookmarks {
		item := outlineItem{
			title:    textString(b.Title),
			dest:     a.opening(b.First),
			position: b.First,
			open:     b.Open,
		}
		if !b.Bare {
			item.kids = within(a.outlines, b.First, b.Count)
		}
		if len(item.kids) == 0 {
			item.kids = a.leveled(b.Headings)
		}
		items = append(items, item)
	}
	if len(items) == 0 {
		return 0
	}
	root := a.out.allocate()
	first, last, visible := a.writeOutlineLevel(items, root)
	a.out.object(root, appendDict(nil, types.Dict{
		"Type": types.Name("Outlines"), "First": reference(first), "Last": reference(last),
		"Count": types.Integer(visible),
	}))
	return root
}

// opening is a destination that shows all of a page.
func (a *Assembler) opening(position int) types.Array {
	return types.Array{reference(a.pages[position]), types.Name("Fit")}
}

// leveled are bookmarks to headings, each below the one before it that is of a higher level.
func (a *Assembler) leveled(headings []Heading) []outlineItem {
	var items []outlineItem
	for i := 0; i < len(headings); {
		heading := headings[i]
		below := i + 1
		for below < len(headings) && headings[below].Level > heading.Level {
			below++
		}
		items = append(items, outlineItem{
			title: textString(heading.Title), dest: a.opening(heading.Position), position: heading.Position,
			kids: a.leveled(headings[i+1 : below]),
		})
		i = below
	}
	return items
}

// writeOutlineLevel returns the numbers of the first and last item, and how
// many items are visible when the parent is open.
func (a *Assembler) writeOutlineLevel(items []outlineItem, parent int) (first, last, visible int) {
	nums := make([]int, len(items))
	for i := range items {
		nums[i] = a.out.allocate()
	}
	for i, item := range items {
		visible++
		dict := types.Dict{"Title": item.title, "Parent": reference(parent), "Dest": item.dest}
		for key, value := range item.style {
			dict[key] = value
		}
		if i > 0 {
			dict["Prev"] = reference(nums[i-1])
		}
		if i < len(items)-1 {
			dict["Next"] = reference(nums[i+1])
		}
		if len(item.kids) > 0 {
			kidFirst, kidLast, count := a.writeOutlineLevel(item.kids, nums[i])
			dict["First"], dict["Last"] = reference(kidFirst), reference(kidLast)
			dict["Count"] = types.Integer(-count)
			if item.open {
				dict["Count"] = types.Integer(count)
				visible += count
			}
		}
		a.out.object(nums[i], appendDict(nil, dict))
	}
	return nums[0], nums[len(nums)-1], visible
}
