package requirements

// Shipped are the receivers that come with the program, for usual ways to send a document.
func Shipped() []Receiver {
	portal := Rules{Files: OneFile, Upright: true, Searchable: true, Password: NoPassword, NoAttachments: true}
	small, large := portal, portal
	small.FileBytes, large.FileBytes = 5_000_000, 20_000_000
	return []Receiver{
		{Name: "E-mail, up to 10 MB", Rules: Rules{TotalBytes: 10_000_000, NoAttachments: true}},
		{Name: "E-mail, up to 25 MB", Rules: Rules{TotalBytes: 25_000_000, NoAttachments: true}},
		{Name: "Upload portal, up to 5 MB", Rules: small},
		{Name: "Upload portal, up to 20 MB", Rules: large},
		{Name: "Print on A4", Rules: Rules{Sizes: []string{"A4"}, LeastDPI: 150, Password: NoPassword, Fonts: true, NoForms: true}},
		{Name: "Archive", Rules: Rules{
			Files: OneFile, Upright: true, LeastDPI: 200, Searchable: true, Bookmarks: true, Password: NoPassword,
			NoForms: true, NoComments: true, NoAttachments: true, Fonts: true, Properties: []string{"title", "author"},
		}},
	}
}
