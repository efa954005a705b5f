package packet

// CanPlace tells whether the pages and the part are there that a command names as the place
// of new pages.
func (p Packet) CanPlace(c Place) bool {
	for _, id := range append([]PageID{c.After, c.Before}, c.Replace...) {
		if _, _, found := p.position(id); id != "" && !found {
			return false
		}
	}
	return c.Part == "" || p.partIndex(c.Part) >= 0
}

// AddedSince lists the pages in parts that an earlier state did not have, in
// order.
func (p Packet) AddedSince(before Packet) []PageID {
	had := make(map[PageID]bool, before.PageCount()+len(before.SetAside))
	for _, page := range before.Pages() {
		had[page.ID] = true
	}
	for _, aside := range before.SetAside {
		had[aside.ID] = true
	}
	var added []PageID
	for _, page := range p.Pages() {
		if !had[page.ID] {
			added = append(added, page.ID)
		}
	}
	return added
}
