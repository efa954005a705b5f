package filing

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"strings"
	"time"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/internal/export"
	"dorbin/internal/folders"
	"dorbin/internal/store"
)

// OriginState is how the file that a packet was opened from is now.
type OriginState string

// The states.
const (
	OriginSame    OriginState = "same"    // as it was opened, or saved last
	OriginChanged OriginState = "changed" // by somebody else
	OriginGone    OriginState = "gone"
	OriginAway    OriginState = "away" // its folder is not there
)

// Origin is the file of a folder that a packet was opened from, and that it is saved back to.
type Origin struct {
	Folder  string        `json:"folder" doc:"Its name."`
	Path    string        `json:"path" doc:"Of the file in the folder, with slashes."`
	State   OriginState   `json:"state" enum:"same,changed,gone,away" doc:"How the file is now: as it was opened, or saved last; changed outside; gone; or its folder is not there."`
	Locked  bool          `json:"locked,omitempty" doc:"The file opened with a password alone. What is saved does, too, only where the packet is protected."`
	Saved   *time.Time    `json:"saved,omitempty" doc:"When a document was saved back last."`
	Since   *export.Since `json:"since,omitempty" doc:"What changed in the packet since then; missing where nothing did."`
	Earlier []Earlier     `json:"earlier" nullable:"false" doc:"Earlier versions that are kept beside it, the newest first."`
}

// Earlier is an earlier version of a file.
type Earlier struct {
	Path string    `json:"path" doc:"In the folder, with slashes."`
	Kept time.Time `json:"kept" doc:"When it was replaced."`
}

// Origin tells what a packet was opened from; nil where it was not.
func (s *Service) Origin(ctx context.Context, packetID string) (*Origin, error) {
	o, err := s.store.Origin(ctx, packetID)
	if errors.Is(err, store.ErrNotFound) {
		_, err := s.store.Packet(ctx, packetID)
		return nil, err
	}
	if err != nil {
		return nil, err
	}
	sources, err := s.store.Sources(ctx, packetID)
	if err != nil {
		return nil, err
	}
	view := &Origin{Folder: o.Folder, Path: o.Path, State: s.stateOf(o), Locked: o.Saved.IsZero() && wasLocked(sources), Earlier: []Earlier{}}
	if !o.Saved.IsZero() {
		view.Saved = &o.Saved
		if view.Since, err = s.export.ChangedSince(ctx, o.Export); err != nil && !errors.Is(err, store.ErrNotFound) {
			return nil, err
		}
	}
	earlier, err := s.store.EarlierVersions(ctx, packetID)
	if err != nil {
		return nil, err
	}
	for _, version := range earlier {
		view.Earlier = append(view.Earlier, Earlier{version.Path, version.Kept})
	}
	return view, nil
}

// wasLocked tells whether the file that a packet was opened from, its first, opened with a password
// alone: it had to wait to be placed.
func wasLocked(sources []store.Source) bool { return len(sources) > 0 && sources[0].Placement != "" }

// stateOf tells how the file of a packet is now. Its time and size tell, where they are the same.
func (s *Service) stateOf(o store.Origin) OriginState {
	opened, err := s.open(o.Folder, o.Path)
	if err != nil {
		return OriginAway
	}
	defer opened.Close() //nolint:errcheck // only read from
	file, info, err := opened.Read(o.Path)
	if err != nil {
		return OriginGone
	}
	defer file.Close() //nolint:errcheck // only read from
	if info.Size() != o.Bytes {
		return OriginChanged
	}
	if known, ok := s.same.Load(o.SHA256); info.ModTime().Equal(o.Modified) || ok && info.ModTime().Equal(known.(time.Time)) { //nolint:forcetypeassert // stored below
		return OriginSame
	}
	if same, err := opened.HasHash(o.Path, o.SHA256); err != nil || !same {
		return OriginChanged
	}
	s.same.Store(o.SHA256, info.ModTime())
	return OriginSame
}

// SaveOrder says how a document is to be saved.
type SaveOrder struct {
	Beside bool `json:"beside,omitempty" doc:"Under a name that is free, beside what has the file's name now; it is saved there from then on."`
}

// SaveBack saves a finished document in the place of the file that its packet was opened from. It
// returns a problem.Conflict, and overwrites nothing, where that file was changed or removed outside.
func (s *Service) SaveBack(ctx context.Context, exportID string, order SaveOrder) (*Origin, error) {
	e, err := s.export.GetFinished(ctx, exportID)
	if err != nil {
		return nil, err
	}
	if !isPDF(e.Name) {
		return nil, problem.New(problem.Invalid, "%s is not one PDF, and cannot be saved as one", e.Name)
	}
	o, err := s.store.Origin(ctx, e.Packet)
	if errors.Is(err, store.ErrNotFound) {
		return nil, problem.New(problem.Invalid, "the packet was not opened from a folder")
	}
	if err != nil {
		return nil, err
	}
	defer s.locks.Lock(o.Folder + "/" + o.Path)()
	// Somebody may have saved it meanwhile.
	if o, err = s.store.Origin(ctx, e.Packet); err != nil {
		return nil, err
	}
	if err := s.save(ctx, e, o, order); err != nil {
		return nil, err
	}
	s.log.Info("document saved back", "packet", e.Packet, "export", e.ID)
	s.changed(e.Packet)
	return s.Origin(ctx, e.Packet)
}

func (s *Service) save(ctx context.Context, e export.Export, o store.Origin, order SaveOrder) error {
	opened, err := s.open(o.Folder, o.Path)
	if err != nil {
		return err
	}
	defer opened.Close() //nolint:errcheck // only its files are written
	part := path.Join(path.Dir(o.Path), "."+store.NewID("s")+".part")
	defer opened.Remove(part) //nolint:errcheck // it has its name, or is of no use
	if err := s.write(ctx, opened, part, e.Receipt.SHA256); err != nil {
		return opened.Problem(err)
	}
	now := time.Now()
	var kept []store.EarlierVersion
	if order.Beside {
		o.Path, err = folders.FreeName(o.Path, func(name string) (bool, error) { return opened.Place(part, name) })
	} else {
		var earlier string
		earlier, err = opened.Replace(part, o.Path, o.SHA256, earlierName(o.Path, now))
		kept = append(kept, store.EarlierVersion{Packet: e.Packet, Folder: o.Folder, Path: earlier, SHA256: o.SHA256, Kept: now})
	}
	if err != nil {
		return notSaved(err, opened, path.Base(o.Path))
	}
	o.SHA256, o.Bytes, o.Export, o.Saved = e.Receipt.SHA256, e.Receipt.Bytes, e.ID, now
	if o.Modified, err = modified(opened, o.Path); err != nil {
		return err
	}
	return s.store.SetOrigin(context.WithoutCancel(ctx), o, kept...)
}

func (s *Service) write(ctx context.Context, opened *folders.Opened, name, sha256 string) error {
	document, err := os.Open(s.store.FilePath(sha256))
	if err != nil {
		return fmt.Errorf("open the document: %w", err)
	}
	defer document.Close() //nolint:errcheck // only read from
	return opened.Write(ctx, name, document)
}

// earlierName is the name of what was in a file's place until a time.
func earlierName(name string, until time.Time) string {
	extension := path.Ext(name)
	return fmt.Sprintf("%s (before %s)%s", strings.TrimSuffix(name, extension), until.Format("2006-01-02 15.04"), extension)
}

// notSaved says why a document was not saved.
func notSaved(err error, opened *folders.Opened, name string) error {
	switch {
	case errors.Is(err, folders.ErrChanged):
		return &problem.Error{Kind: problem.Conflict, Cause: err, Sentence: message.Of(
			"%s was changed by somebody else in the folder %s. Nothing was overwritten: save beside it, or open it as another packet.", name, opened.Name)}
	case errors.Is(err, fs.ErrNotExist):
		return &problem.Error{Kind: problem.Conflict, Cause: err, Sentence: message.Of(
			"%s is not in the folder %s any more. Nothing was written: save it there anew, if that is meant.", name, opened.Name)}
	}
	return opened.Problem(err)
}

func modified(opened *folders.Opened, name string) (time.Time, error) {
	file, info, err := opened.Read(name)
	if err != nil {
		return time.Time{}, err
	}
	return info.ModTime(), file.Close()
}

// RemoveEarlier removes the earlier versions of a packet's file that are kept beside it, but for those
// that somebody else has written since.
func (s *Service) RemoveEarlier(ctx context.Context, packetID string) error {
	versions, err := s.store.EarlierVersions(ctx, packetID)
	if err != nil {
		return err
	}
	var problems []error
	for _, version := range versions {
		if err := s.removeVersion(version); err != nil && !errors.Is(err, fs.ErrNotExist) {
			problems = append(problems, err)
		}
	}
	return errors.Join(problems...)
}

func (s *Service) removeVersion(version store.EarlierVersion) error {
	opened, err := s.open(version.Folder, version.Path)
	if err != nil {
		return err
	}
	defer opened.Close() //nolint:errcheck // only its files are removed
	isOurs, err := opened.HasHash(version.Path, version.SHA256)
	if err != nil || !isOurs {
		return err
	}
	return opened.Remove(version.Path)
}
