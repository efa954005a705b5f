package demo

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image/jpeg"
	"runtime"
	"slices"
	"time"

	"golang.org/x/sync/errgroup"

	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/core/requirements"
	"dorbin/internal/app"
	"dorbin/internal/gather"
	"dorbin/internal/intake/tiff"
	"dorbin/internal/packets"
	"dorbin/internal/receivers"
)

// PacketName is the name of the demo packet.
const PacketName = "Boathouse roof application"

// OldName is the name of the packet with old papers.
const OldName = "Earlier repairs"

// FundName is the name of the demo's receiver.
const FundName = "Tarn Valley Fund"

// FundMB is the size of the largest file that the fund takes.
const FundMB = 4

// ClubAddress is where the demo's e-mails come from.
const ClubAddress = "Larkmere Rowing Club <club@larkmere.example>"

// Paper is a file as a member of the club would have it.
type Paper struct {
	Name string
	Data []byte
}

const (
	scanDPI     = 200
	scanQuality = 82
)

// drawing is a paper as it is drawn.
type drawing struct {
	name string
	draw func() ([]byte, error)
}

// drawings are the papers of the application, in the order in which they are added.
var drawings = []drawing{
	{"application-form.pdf", applicationForm},
	{"quotes-scan.tif", quotesScan},
	{"insurance.jpg", insurance},
	{"minute-book.jpg", minuteBook},
	{"site-plan.pdf", sitePlan},
	{"accounts.pdf", accounts},
	{"roof-1.jpg", func() ([]byte, error) { return roof(1) }},
	{"roof-2.jpg", func() ([]byte, error) { return roof(2) }},
	{"roof-3.jpg", func() ([]byte, error) { return roof(3) }},
	{"roof-4.jpg", func() ([]byte, error) { return roof(4) }},
}

// oldDrawings are papers that scans can be tried on: faded, creased and soft.
var oldDrawings = []drawing{
	{"receipt-1987.jpg", oldReceipt},
	{"letter-copy-1974.jpg", carbonCopy},
}

// Papers draws the papers of the application.
func Papers() ([]Paper, error) { return drawn(drawings) }

// OldPapers draws the old papers.
func OldPapers() ([]Paper, error) { return drawn(oldDrawings) }

func drawn(drawings []drawing) ([]Paper, error) {
	papers := make([]Paper, len(drawings))
	var group errgroup.Group
	group.SetLimit(runtime.NumCPU())
	for i, d := range drawings {
		group.Go(func() (err error) {
			papers[i], err = d.paper()
			return err
		})
	}
	return papers, group.Wait()
}

func (d drawing) paper() (Paper, error) {
	data, err := d.draw()
	if err != nil {
		return Paper{}, fmt.Errorf("draw %s: %w", d.name, err)
	}
	return Paper{d.name, data}, nil
}

// Draw draws the paper of this name.
func Draw(name string) (Paper, error) {
	all := slices.Concat(drawings, oldDrawings)
	i := slices.IndexFunc(all, func(d drawing) bool { return d.name == name })
	if i < 0 {
		return Paper{}, fmt.Errorf("there is no paper %s", name)
	}
	return all[i].paper()
}

// quotesScan is a stack of two letters that were mixed on the scanner: out of
// order, one page lying sideways, one upside down, all a little tilted.
func quotesScan() ([]byte, error) {
	scans := []struct {
		quote       quote
		page, turn  int
		tiltDegrees float64
	}{
		{slateAndLead, 1, 0, 0.4}, {fellsideRoofing, 2, 90, -0.3}, {slateAndLead, 2, 0, 0.6},
		{fellsideRoofing, 1, 0, 2.4}, {slateAndLead, 3, 180, -0.5}, {fellsideRoofing, 3, 0, 0.2},
	}
	var out bytes.Buffer
	err := tiff.Write(&out, len(scans), func(i int) (tiff.Encoded, error) {
		scan := scans[i]
		gray := scanned(scan.quote.page(scan.page, 3, scanDPI), scan.tiltDegrees, uint64(i))
		page := raster.Turn(gray, scan.turn)
		var data bytes.Buffer
		if err := jpeg.Encode(&data, page, &jpeg.Options{Quality: scanQuality}); err != nil {
			return tiff.Encoded{}, fmt.Errorf("encode scan: %w", err)
		}
		size := page.Bounds().Size()
		return tiff.EncodeJPEG(data.Bytes(), size.X, size.Y, 1, scanDPI), nil
	})
	return out.Bytes(), err
}

// Load makes the demo's packets, the application last, unless there are packets already. The fund takes documents at the
// address of its portal.
func Load(ctx context.Context, a *app.App, portal string) error {
	if _, err := keepFund(ctx, a, portal); err != nil {
		return err
	}
	packets, err := a.Packets.List(ctx)
	if err != nil || len(packets) > 0 {
		return err
	}
	if err := addOldPapers(ctx, a); err != nil {
		return err
	}
	_, err = Add(ctx, a, PacketName)
	return err
}

// Add makes a packet of the papers. They are added as a user would add them, and the work on
// them is begun. If it fails, no packet is left.
func Add(ctx context.Context, a *app.App, name string) (packets.Packet, error) {
	papers, err := Papers()
	if err != nil {
		return packets.Packet{}, err
	}
	return newPacket(ctx, a, name, func(id string) error {
		if err := fill(ctx, a, id, papers); err != nil {
			return err
		}
		fund, err := keepFund(ctx, a, "")
		if err != nil {
			return err
		}
		return begin(ctx, a, id, fund)
	})
}

func addOldPapers(ctx context.Context, a *app.App) error {
	papers, err := OldPapers()
	if err != nil {
		return err
	}
	_, err = newPacket(ctx, a, OldName, func(id string) error { return fill(ctx, a, id, papers) })
	return err
}

// newPacket makes a packet and has it filled. If that fails, no packet is left.
func newPacket(ctx context.Context, a *app.App, name string, fill func(id string) error) (packets.Packet, error) {
	p, err := a.Packets.Create(ctx, name)
	if err != nil {
		return p, err
	}
	if err := fill(p.ID); err != nil {
		return p, errors.Join(err, a.Packets.Delete(context.WithoutCancel(ctx), p.ID))
	}
	return a.Packets.Get(ctx, p.ID)
}

func fill(ctx context.Context, a *app.App, id string, papers []Paper) error {
	for _, paper := range papers {
		outcome, err := a.Gather.AddFile(ctx, id, paper.Name, gather.Placement{}, bytes.NewReader(paper.Data))
		if err != nil {
			return err
		}
		if outcome.Result != "added" {
			return fmt.Errorf("%s was not added: %s", paper.Name, outcome.Sentence)
		}
	}
	return nil
}

// keepFund has the fund be among the receivers that can be chosen, with the address of its portal where
// there is one.
func keepFund(ctx context.Context, a *app.App, portal string) (requirements.Receiver, error) {
	fund := Fund(time.Now())
	if portal != "" {
		fund.Delivery = &requirements.Delivery{By: requirements.ByPortal, Address: portal}
	}
	all, err := a.Receivers.List(ctx)
	if err != nil {
		return fund, err
	}
	at := slices.IndexFunc(all, func(k receivers.Known) bool { return k.Receiver.Name == fund.Name })
	if at < 0 {
		_, err = a.Receivers.Add(ctx, fund)
		return fund, err
	}
	known := all[at]
	if portal == "" || known.Receiver.Delivery != nil && *known.Receiver.Delivery == *fund.Delivery {
		return known.Receiver, nil
	}
	known.Receiver.Delivery = fund.Delivery
	_, err = a.Receivers.Change(ctx, known.ID, known.Receiver)
	return known.Receiver, err
}

// Fund is the receiver of the demo's packet, with what it asks for.
func Fund(now time.Time) requirements.Receiver {
	last := time.Date(now.Year(), time.March, 31, 0, 0, 0, 0, time.UTC)
	if !last.After(now) {
		last = last.AddDate(1, 0, 0)
	}
	return requirements.Receiver{
		Name: FundName, Until: last.Format(time.DateOnly),
		Rules: requirements.Rules{
			FileBytes: FundMB * 1_000_000, MostPages: 30, Files: requirements.OneFile, Sizes: []string{"A4"}, Upright: true, Searchable: true,
			Password: requirements.NoPassword, NoAttachments: true,
		},
		Papers: []requirements.Paper{
			{Title: "Application form"}, {Title: "Roofing quotes", Least: 2}, {Title: "Certificate of insurance"}, {Title: "Site plan"},
			{Title: "Yearly accounts"}, {Title: "Signed declaration"}, {Title: "Photographs of the roof", Optional: true},
		},
	}
}

// begin does the first steps of putting the packet in order, each a step that
// can be undone.
func begin(ctx context.Context, a *app.App, id string, fund requirements.Receiver) error {
	steps := []func(packets.Packet) []packet.Command{
		func(packets.Packet) []packet.Command {
			return []packet.Command{packet.SetReceiver{Receiver: &fund}}
		},
		func(p packets.Packet) []packet.Command { // the first quote gets its name
			return []packet.Command{packet.RenamePart{Part: p.Parts[1].ID, Title: "Roofing quotes"}}
		},
		func(p packets.Packet) []packet.Command { // the photographs go together
			var others []packet.PageID
			for _, part := range p.Parts[7:] {
				others = append(others, part.Pages[0].ID)
			}
			return []packet.Command{
				packet.Move{Selected: packet.On(others...), Destination: packet.Destination{Part: p.Parts[6].ID}},
				packet.RenamePart{Part: p.Parts[6].ID, Title: "Photographs of the roof"},
			}
		},
		func(p packets.Packet) []packet.Command { // one photograph too many
			photographs := p.Parts[6].Pages
			return []packet.Command{packet.SetAside{Selected: packet.On(photographs[len(photographs)-1].ID)}}
		},
		func(p packets.Packet) []packet.Command { // what lies upside down is turned
			return []packet.Command{packet.Turn{Selected: packet.On(p.Parts[1].Pages[4].ID), By: 180}}
		},
	}
	for _, step := range steps {
		p, err := a.Packets.Get(ctx, id)
		if err != nil {
			return err
		}
		// Work in the background may raise the revision in between.
		for {
			_, err = a.Packets.Apply(ctx, id, p.Revision, step(p))
			var conflict *packets.ConflictError
			if !errors.As(err, &conflict) {
				break
			}
			p = conflict.Current
		}
		if err != nil {
			return fmt.Errorf("begin the demo packet: %w", err)
		}
	}
	return nil
}
