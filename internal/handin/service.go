package handin

import (
	"context"
	"crypto/x509"
	"errors"
	"log/slog"
	"strings"
	"time"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/core/requirements"
	"dorbin/internal/export"
	"dorbin/internal/folders"
	"dorbin/internal/jobs"
	"dorbin/internal/store"
)

// Settings are what the installation allows.
type Settings struct {
	Folders folders.List
	Mail    MailServer
	// Trusted are the authorities whose certificates are valid; nil are those of the system.
	Trusted *x509.CertPool
	KeyFile string // holds the key that passwords are sealed with; it is made when it is missing
}

// Deps are what a Service works with.
type Deps struct {
	Store    *store.Store
	Export   *export.Service
	Runner   *jobs.Runner
	Log      *slog.Logger
	Settings Settings
	Changed  func(packetID string) // of a delivery
}

// Service hands documents in. It is safe for concurrent use.
type Service struct {
	store    *store.Store
	export   *export.Service
	runner   *jobs.Runner
	log      *slog.Logger
	settings Settings
	changed  func(packetID string)
	secrets  secrets
	channels map[requirements.Channel]channel
	pause    time.Duration // before a broken line is tried again
}

// mostAtOnce is how many documents are on their way at the same time: a slow receiver does not hold up
// the others.
const mostAtOnce = 4

// New returns a service.
func New(d Deps) *Service {
	web := newWeb(d.Settings.Trusted)
	s := &Service{
		store: d.Store, export: d.Export, runner: d.Runner, log: d.Log, settings: d.Settings, changed: d.Changed,
		secrets: secrets{store: d.Store, keyFile: d.Settings.KeyFile, once: map[string]string{}},
		channels: map[requirements.Channel]channel{
			requirements.ByFolder: outboxes(d.Settings.Folders),
			requirements.ByWebDAV: webDAV{web},
			requirements.ByPortal: portal{web},
			requirements.ByMail:   mailer{d.Settings.Mail, d.Settings.Trusted},
		},
		pause: 2 * time.Second,
	}
	d.Runner.Handle(jobs.Kind{
		Name: store.JobHandIn, Do: s.handIn, GiveUp: s.giveUp, Cancelled: s.cancelled, AtOnce: mostAtOnce,
	})
	return s
}

// Ways are the ways of handing in that the installation allows.
type Ways struct {
	Folders []string `json:"folders" nullable:"false" doc:"Names of the folders that documents may go to."`
	Mail    string   `json:"mail,omitempty" doc:"The address that e-mails come from; none where no mail server is set up."`
}

// Ways tells which ways of handing in the installation allows.
func (s *Service) Ways() Ways {
	ways := Ways{Folders: s.settings.Folders.Names()}
	if s.settings.Mail.Address != "" {
		ways.Mail = s.settings.Mail.From
	}
	return ways
}

// Order says how a document is to be handed in.
type Order struct {
	Delivery requirements.Delivery `json:"delivery"`
	Password string                `json:"password,omitempty" maxLength:"500" doc:"To sign in with; without it, the one that is kept for the place."`
	Keep     bool                  `json:"keep,omitempty" doc:"The password is kept, sealed, for the next time."`
	Answer   string                `json:"answer,omitempty" maxLength:"200" doc:"Of a document that somebody took there: what the receiver answered."`
}

// HandedIn is a document that was handed in, or is on its way.
type HandedIn struct {
	ID       string                `json:"id"`
	Packet   string                `json:"packet"`
	Export   string                `json:"export"`
	Name     string                `json:"name" doc:"The file's name."`
	Bytes    int64                 `json:"bytes"`
	SHA256   string                `json:"sha256"`
	Pages    int                   `json:"pages"`
	Delivery requirements.Delivery `json:"delivery"`
	Receiver string                `json:"receiver,omitempty" doc:"Whom it was for."`
	State    store.DeliveryState   `json:"state" enum:"waiting,running,done,unclear,failed,cancelled" doc:"Unclear: it may have arrived, or not."`
	Sent     int64                 `json:"sent" doc:"Bytes."`
	Problem  message.Text          `json:"problem,omitzero"`
	Answer   message.Text          `json:"answer,omitzero" doc:"What the receiver answered."`
	Created  time.Time             `json:"created"`
	Ended    *time.Time            `json:"ended,omitempty"`
	Since    *export.Since         `json:"since,omitempty" doc:"What changed in the packet since the document was made; missing where nothing did."`
}

// Start hands a finished document in. What was carried there by hand is noted alone.
func (s *Service) Start(ctx context.Context, exportID string, order Order) (HandedIn, error) {
	delivery := order.Delivery.Tidy()
	if err := delivery.Check(); err != nil {
		return HandedIn{}, err
	}
	e, err := s.export.GetFinished(ctx, exportID)
	if err != nil {
		return HandedIn{}, err
	}
	if err := s.check(delivery, e); err != nil {
		return HandedIn{}, err
	}
	snapshot, err := s.export.Snapshot(ctx, e.ID)
	if err != nil {
		return HandedIn{}, err
	}
	d := store.Delivery{
		ID: store.NewID("d"), Packet: e.Packet, Export: e.ID, Name: e.Name, Blob: e.Receipt.SHA256, Bytes: e.Receipt.Bytes, Pages: e.Receipt.Pages,
		Receiver: snapshot.Packet.ReceiverName(), Delivery: delivery, State: store.DeliveryWaiting,
	}
	if delivery.By == requirements.ByDownload {
		d.State, d.Answer, d.Sent, d.Ended = store.DeliveryDone, message.Plain(strings.TrimSpace(order.Answer)), d.Bytes, time.Now()
		if err := s.store.AddDelivery(ctx, d); err != nil {
			return HandedIn{}, err
		}
		s.changed(d.Packet)
		return s.Get(ctx, d.ID)
	}
	if err := s.secrets.take(ctx, d.ID, placeOf(delivery), order); err != nil {
		return HandedIn{}, err
	}
	if err := s.store.AddDelivery(ctx, d, jobs.Job{Kind: store.JobHandIn, Key: d.ID}); err != nil {
		return HandedIn{}, err
	}
	s.runner.Wake(store.JobHandIn)
	s.changed(d.Packet)
	return s.Get(ctx, d.ID)
}

// check tells what the installation does not allow of a delivery.
func (s *Service) check(d requirements.Delivery, e export.Export) error {
	switch d.By {
	case requirements.ByFolder:
		_, err := s.settings.Folders.Named(d.Address)
		return err
	case requirements.ByMail:
		if s.settings.Mail.Address == "" {
			return problem.New(problem.Invalid, "no mail server is set up here: whoever runs this installation names one with --mail-server")
		}
		if size := messageBytes(e.Receipt.Bytes); size > mostMessageBytes {
			return problem.New(problem.Invalid, "the document is too large for an e-mail: it would have %d MB", size/1_000_000)
		}
	}
	return nil
}

// Again tries to hand in once more what did not arrive.
func (s *Service) Again(ctx context.Context, id string, order Order) (HandedIn, error) {
	d, err := s.store.Delivery(ctx, id)
	if err != nil {
		return HandedIn{}, err
	}
	switch d.State {
	case store.DeliveryFailed, store.DeliveryCancelled, store.DeliveryUnclear:
	default:
		return HandedIn{}, problem.New(problem.Invalid, "the document has arrived, or is on its way")
	}
	if err := s.secrets.take(ctx, d.ID, placeOf(d.Delivery), order); err != nil {
		return HandedIn{}, err
	}
	if d.State == store.DeliveryUnclear && d.Delivery.By == requirements.ByMail {
		d.Stage = "" // whoever asks for it knows that it may come twice
	}
	d.State, d.Problem, d.Sent, d.Ended = store.DeliveryWaiting, message.Text{}, 0, time.Time{}
	if err := s.store.UpdateDelivery(ctx, d, jobs.Job{Kind: store.JobHandIn, Key: d.ID}); err != nil {
		return HandedIn{}, err
	}
	s.runner.Wake(store.JobHandIn)
	s.changed(d.Packet)
	return s.Get(ctx, d.ID)
}

// Cancel stops a delivery that is under way.
func (s *Service) Cancel(ctx context.Context, id string) (HandedIn, error) {
	if _, err := s.store.Delivery(ctx, id); err != nil {
		return HandedIn{}, err
	}
	if err := s.runner.Cancel(ctx, jobs.Job{Kind: store.JobHandIn, Key: id}); err != nil {
		return HandedIn{}, err
	}
	return s.Get(ctx, id)
}

// Get shows a delivery.
func (s *Service) Get(ctx context.Context, id string) (HandedIn, error) {
	d, err := s.store.Delivery(ctx, id)
	if err != nil {
		return HandedIn{}, err
	}
	return s.view(ctx, d)
}

// List lists a packet's deliveries, the newest first.
func (s *Service) List(ctx context.Context, packetID string) ([]HandedIn, error) {
	if _, err := s.store.Packet(ctx, packetID); err != nil {
		return nil, err
	}
	all, err := s.store.Deliveries(ctx, packetID)
	if err != nil {
		return nil, err
	}
	return s.viewAll(ctx, all)
}

// Last lists of each packet that was handed in the last document that arrived.
func (s *Service) Last(ctx context.Context) ([]HandedIn, error) {
	all, err := s.store.LastDeliveries(ctx)
	if err != nil {
		return nil, err
	}
	return s.viewAll(ctx, all)
}

// viewAll leaves out those whose packet is deleted meanwhile.
func (s *Service) viewAll(ctx context.Context, all []store.Delivery) ([]HandedIn, error) {
	views := []HandedIn{}
	for _, d := range all {
		view, err := s.view(ctx, d)
		if errors.Is(err, store.ErrNotFound) {
			continue
		}
		if err != nil {
			return nil, err
		}
		views = append(views, view)
	}
	return views, nil
}

// File gives the path of what was handed in, and its name.
func (s *Service) File(ctx context.Context, id string) (path, name string, err error) {
	d, err := s.store.Delivery(ctx, id)
	if err != nil {
		return "", "", err
	}
	return s.store.FilePath(d.Blob), d.Name, nil
}

func (s *Service) view(ctx context.Context, d store.Delivery) (HandedIn, error) {
	v := HandedIn{
		ID: d.ID, Packet: d.Packet, Export: d.Export, Name: d.Name, Bytes: d.Bytes, SHA256: d.Blob, Pages: d.Pages, Delivery: d.Delivery,
		Receiver: d.Receiver, State: d.State, Sent: d.Sent, Problem: d.Problem, Answer: d.Answer, Created: d.Created,
	}
	if !d.Ended.IsZero() {
		v.Ended = &d.Ended
	}
	if d.State != store.DeliveryDone {
		return v, nil
	}
	var err error
	v.Since, err = s.export.ChangedSince(ctx, d.Export)
	return v, err
}
