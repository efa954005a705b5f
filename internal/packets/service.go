package packets

import (
	"context"
	"fmt"
	"log/slog"
	"slices"
	"time"

	"dorbin/core/check"
	"dorbin/core/finish"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/checking"
	"dorbin/internal/jobs"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// ErrNotFound is returned for a packet, page or step that is not there.
var ErrNotFound = store.ErrNotFound

// ConflictError says that a command was made for another revision than the
// packet now has.
type ConflictError struct{ Current Packet }

func (e *ConflictError) Error() string {
	return fmt.Sprintf("the packet has changed: it is at revision %d", e.Current.Revision)
}

// ErrNothingToUndo and ErrNothingToRedo are returned by Undo and Redo at the
// ends of the history.
var (
	ErrNothingToUndo = problem.New(problem.Conflict, "there is nothing to undo")
	ErrNothingToRedo = problem.New(problem.Conflict, "there is nothing to redo")
)

// Deps are what a Service works with.
type Deps struct {
	Store    *store.Store
	Checking *checking.Service
	Pictures *render.Pictures
	Sources  *sources.Opener
	Runner   *jobs.Runner
	Log      *slog.Logger
	KeepDays int           // that new packets are kept, if nothing else is said; 0 is for good
	Finish   finish.Finish // that new packets begin with
	// Changed is told what an act did to a packet.
	Changed func(Change)
	// Deleting is told that a packet is about to be deleted, Deleted that it was.
	Deleting func(packetID string)
	Deleted  func(packetID string)
}

// Service keeps packets and carries out commands on them. It is safe for concurrent use.
type Service struct {
	store    *store.Store
	checking *checking.Service
	pictures *render.Pictures
	sources  *sources.Opener
	runner   *jobs.Runner
	log      *slog.Logger
	keepDays int
	finish   finish.Finish
	changed  func(Change)
	deleting func(packetID string)
	deleted  func(packetID string)
	locks    Locks // commands on one packet are carried out one after another
}

// New returns a service.
func New(d Deps) *Service {
	return &Service{
		store: d.Store, checking: d.Checking, pictures: d.Pictures, sources: d.Sources, runner: d.Runner, log: d.Log, keepDays: d.KeepDays, finish: d.Finish,
		changed: d.Changed, deleting: d.Deleting, deleted: d.Deleted,
	}
}

// Create makes an empty packet.
func (s *Service) Create(ctx context.Context, name string) (Packet, error) {
	// Naming a packet follows the same rules as renaming one.
	state, _, err := packet.Apply(packet.New(""), []packet.Command{packet.Rename{Title: name}}, packet.Known{})
	if err != nil {
		return Packet{}, err
	}
	state.Finish = s.finish
	id := store.NewID("k")
	if err := s.store.CreatePacket(ctx, id, state); err != nil {
		return Packet{}, err
	}
	s.log.Info("packet created", "packet", id)
	if err := s.keepAsUsual(ctx, id); err != nil {
		return Packet{}, err
	}
	return s.Get(ctx, id)
}

// keepAsUsual has a new packet be kept as long as the installation keeps packets.
func (s *Service) keepAsUsual(ctx context.Context, id string) error {
	if s.keepDays == 0 {
		return nil
	}
	return s.store.SetKeeping(ctx, id, store.Keeping{Until: time.Now().AddDate(0, 0, s.keepDays).Format(time.DateOnly), Lines: true})
}

// Get shows one packet.
func (s *Service) Get(ctx context.Context, id string) (Packet, error) {
	p, _, v, err := s.load(ctx, id)
	if err != nil {
		return Packet{}, err
	}
	return v.packet(p), nil
}

// load reads a packet with its sources, and with what it is shown by.
func (s *Service) load(ctx context.Context, id string) (p store.Packet, all []store.Source, v viewer, err error) {
	if p, all, err = s.store.Load(ctx, id); err != nil {
		return p, all, v, err
	}
	reviewed, err := s.store.Reviewed(ctx, id)
	return p, all, newViewer(all, reviewed), err
}

// loadAt is load for an act of somebody who sees the packet at a revision. Another one is a
// *ConflictError.
func (s *Service) loadAt(ctx context.Context, id string, revision int) (p store.Packet, all []store.Source, v viewer, err error) {
	p, all, v, err = s.load(ctx, id)
	if err == nil && p.Revision != revision {
		err = &ConflictError{v.packet(p)}
	}
	return p, all, v, err
}

// List lists all packets, the last changed first.
func (s *Service) List(ctx context.Context) ([]PacketCard, error) {
	packets, err := s.store.Packets(ctx)
	if err != nil {
		return nil, err
	}
	all, err := s.store.AllSources(ctx)
	if err != nil {
		return nil, err
	}
	cards := make([]PacketCard, len(packets))
	for i, p := range packets {
		cards[i] = viewCard(p, all[p.ID])
	}
	return cards, nil
}

// stopTime is how long the jobs of a packet that is deleted have to end.
const stopTime = 10 * time.Second

// Delete deletes a packet and everything that belongs to it alone. Its jobs end
// first.
func (s *Service) Delete(ctx context.Context, id string) error {
	defer s.locks.Lock(id)()
	all, err := s.store.Sources(ctx, id)
	if err != nil {
		return err
	}
	s.deleting(id)
	stopping, cancel := context.WithTimeout(ctx, stopTime)
	defer cancel()
	s.runner.CancelPacket(stopping, id)
	if err := s.store.DeletePacket(ctx, id); err != nil {
		return err
	}
	s.checking.Forget(id, all)
	s.log.Info("packet deleted", "packet", id)
	s.deleted(id)
	return nil
}

// Apply carries out a list of commands made for a revision, as one step of
// undo. A wrong revision is a *ConflictError; a command that cannot be carried
// out is a problem.Invalid, and nothing is changed.
func (s *Service) Apply(ctx context.Context, id string, revision int, commands []packet.Command) (Change, error) {
	defer s.runner.Foreground()()
	defer s.locks.Lock(id)()
	before, all, v, err := s.loadAt(ctx, id, revision)
	if err != nil {
		return Change{}, err
	}
	rules := known(all)
	if slices.ContainsFunc(commands, packet.NamesRange) {
		if rules.Facts, err = s.checking.Facts(ctx, before, all); err != nil {
			return Change{}, err
		}
	}
	imports := importing{service: s, to: id, v: &v}
	rules.Foreign = func(c packet.Bring) (packet.Foreign, error) { return imports.foreign(ctx, c) }
	_, change, err := s.carryOut(ctx, before, &v, rules, commands)
	return change, imports.end(ctx, err)
}

// Do carries out the commands that make gives for a packet as it stands, as one step, and
// gives the packet as it is then. Nobody else changes the packet meanwhile.
func (s *Service) Do(ctx context.Context, id string, make func(store.Packet) ([]packet.Command, error)) (store.Packet, error) {
	defer s.locks.Lock(id)()
	before, all, v, err := s.load(ctx, id)
	if err != nil {
		return before, err
	}
	commands, err := make(before)
	if err != nil || len(commands) == 0 {
		return before, err
	}
	after, _, err := s.carryOut(ctx, before, &v, known(all), commands)
	return after, err
}

// carryOut carries out commands as one step, which it records and tells the listeners of,
// unless they change nothing. It is called with the packet locked.
func (s *Service) carryOut(ctx context.Context, before store.Packet, v *viewer, rules packet.Known, commands []packet.Command) (store.Packet, Change, error) {
	next, words, err := packet.Apply(before.State, commands, rules)
	if err != nil {
		return before, Change{}, err
	}
	delta := packet.Diff(before.State, next)
	if delta.Empty() {
		return before, v.change(before, before, delta), nil
	}
	after, err := s.store.Append(ctx, before, next, store.Step{Words: words, Commands: commands, Delta: delta})
	if err != nil {
		return before, Change{}, err
	}
	change := v.change(before, after, delta)
	s.changed(change)
	return after, change, nil
}

// Select reads which pages are meant by words, as packet.ParseSelection does. An error may
// be a *packet.RangeError.
func (s *Service) Select(ctx context.Context, packetID, text string) ([]packet.PageID, error) {
	p, all, err := s.store.Load(ctx, packetID)
	if err != nil {
		return nil, err
	}
	facts, err := s.checking.Facts(ctx, p, all)
	if err != nil {
		return nil, err
	}
	return packet.ParseSelection(text, p.State, packet.Known{Facts: facts})
}

// Undo takes the last step back of the packet at a revision. A wrong revision is a
// *ConflictError.
func (s *Service) Undo(ctx context.Context, id string, revision int) (Change, error) {
	return s.goTo(ctx, id, revision, func(p store.Packet) (int, error) {
		if p.Cursor == 0 {
			return 0, ErrNothingToUndo
		}
		return p.Cursor - 1, nil
	})
}

// Redo does the step again that was undone last. A wrong revision is a *ConflictError.
func (s *Service) Redo(ctx context.Context, id string, revision int) (Change, error) {
	return s.goTo(ctx, id, revision, func(p store.Packet) (int, error) {
		if p.Redo.IsEmpty() {
			return 0, ErrNothingToRedo
		}
		return p.Cursor + 1, nil
	})
}

// GoToStep takes steps back, or does them again, until the given number of steps are done.
// A wrong revision is a *ConflictError.
func (s *Service) GoToStep(ctx context.Context, id string, revision, step int) (Change, error) {
	return s.goTo(ctx, id, revision, func(store.Packet) (int, error) { return step, nil })
}

// Step is an act in a packet's history.
type Step struct {
	Number int          `json:"number" doc:"From 1, in the order of time."`
	Words  message.Text `json:"words" doc:"What was done."`
	At     time.Time    `json:"at"`
	Done   bool         `json:"done" doc:"Whether it is in effect, or was taken back."`
}

// History lists a packet's steps, the first first.
func (s *Service) History(ctx context.Context, id string) ([]Step, error) {
	p, err := s.store.Packet(ctx, id)
	if err != nil {
		return nil, err
	}
	kept, err := s.store.Steps(ctx, id)
	if err != nil {
		return nil, err
	}
	steps := make([]Step, len(kept))
	for i, step := range kept {
		steps[i] = Step{Number: step.Number, Words: step.Words, At: step.At, Done: step.Number <= p.Cursor}
	}
	return steps, nil
}

// goTo goes to where as many steps are done as goal says.
func (s *Service) goTo(ctx context.Context, id string, revision int, goal func(store.Packet) (int, error)) (Change, error) {
	defer s.locks.Lock(id)()
	before, _, v, err := s.loadAt(ctx, id, revision)
	if err != nil {
		return Change{}, err
	}
	step, err := goal(before)
	if err != nil {
		return Change{}, err
	}
	next, err := s.stateAt(ctx, before, step)
	if err != nil {
		return Change{}, err
	}
	if err := s.store.MarkAt(ctx, before, next, step); err != nil {
		return Change{}, err
	}
	after, err := s.store.Packet(ctx, id)
	if err != nil {
		return Change{}, err
	}
	change := v.change(before, after, packet.Diff(before.State, next))
	s.changed(change)
	return change, nil
}

// stateAt is a packet's state where this many of its steps are done.
func (s *Service) stateAt(ctx context.Context, p store.Packet, step int) (packet.Packet, error) {
	state := p.State
	for at := p.Cursor; at > step; at-- {
		taken, err := s.store.Step(ctx, p.ID, at)
		if err != nil {
			return state, err
		}
		if state, err = taken.Delta.Back(state); err != nil {
			return state, err
		}
	}
	for at := p.Cursor; at < step; at++ {
		taken, err := s.store.Step(ctx, p.ID, at+1)
		if err != nil {
			return state, err
		}
		if state, err = taken.Delta.Forward(state); err != nil {
			return state, err
		}
	}
	return state, nil
}

// known is what the rules of the packet need to know of its sources.
// A source is looked up for every page, so it is made ready once.
func known(all []store.Source) packet.Known {
	ready := make(map[packet.SourceID]packet.Source, len(all))
	return packet.Known{Source: func(id packet.SourceID) (packet.Source, bool) {
		if source, ok := ready[id]; ok {
			return source, true
		}
		for _, source := range all {
			if source.ID == string(id) && source.State == store.SourceReady {
				ready[id] = knownSource(source)
				return ready[id], true
			}
		}
		return packet.Source{}, false
	}}
}

func knownSource(source store.Source) packet.Source {
	pages := make([]packet.SourcePage, len(source.Pages))
	for i, page := range source.Pages {
		pages[i] = packet.SourcePage{Size: page.Size, Scanned: page.Scanned, Headings: page.Headings}
	}
	return packet.Source{Name: source.Name, Title: sources.PartTitle(source.Name), Pages: pages}
}

// Analysis gives what is known of the pictures of the pages of sources; nil for those that have not
// been analysed.
func (s *Service) Analysis(ctx context.Context, all []store.Source) (func(packet.Page) *check.PageAnalysis, error) {
	analysis, err := s.checking.AnalysesOf(ctx, all)
	if err != nil {
		return nil, err
	}
	return func(page packet.Page) *check.PageAnalysis { return analysis(page.Source, page.SourcePage) }, nil
}
