package handin

import (
	"context"
	"errors"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/internal/folders"
)

// webDAV puts documents into a folder on a server (RFC 4918). A document is sent under a name of its
// own and then moved to its place, which is refused where something is there.
type webDAV struct{ web }

// cleanUpTime is how long removing what is left of a delivery may take.
const cleanUpTime = 10 * time.Second

func (w webDAV) send(ctx context.Context, s *sending) (answer message.Text, err error) {
	base := strings.TrimSuffix(s.delivery.Address, "/") + "/"
	part := base + url.PathEscape(s.partName())
	if before := s.placedBefore(); before != "" {
		isThere, err := w.wasPlaced(ctx, s, base+url.PathEscape(before), part)
		if isThere || err != nil {
			return placedAnswer(s.name, before), err
		}
	}
	if err := w.put(ctx, s, part); err != nil {
		w.remove(ctx, s, part)
		return message.Text{}, err
	}
	name, err := folders.FreeName(s.name, func(name string) (bool, error) {
		if err := s.note(placing + name); err != nil {
			return false, err
		}
		return w.move(ctx, s, part, base+url.PathEscape(name))
	})
	if errors.Is(err, folders.ErrNamesTaken) {
		err = problem.New(problem.Invalid, "%s has too many files of that name", hostOf(base))
	}
	var broken *brokenError
	if err != nil && !errors.As(err, &broken) { // a broken line may have moved it
		w.remove(ctx, s, part)
	}
	return placedAnswer(s.name, name), err
}

func (w webDAV) request(s *sending, method, address string) request {
	return request{method: method, address: address, user: s.delivery.User, password: s.password, header: map[string]string{}}
}

func (w webDAV) put(ctx context.Context, s *sending, address string) error {
	in, err := s.open()
	if err != nil {
		return err
	}
	defer in.Close() //nolint:errcheck // only read from
	r := w.request(s, http.MethodPut, address)
	r.body, r.bytes, r.header["Content-Type"] = in, s.bytes, s.contentType
	said, err := w.ask(ctx, r)
	if err != nil {
		return err
	}
	switch said.status {
	case http.StatusNotFound, http.StatusConflict:
		return problem.New(problem.Invalid, "the folder %s is not there", s.delivery.Address)
	case http.StatusMethodNotAllowed, http.StatusNotImplemented:
		return problem.New(problem.Invalid, "%s takes no files: it is no WebDAV folder", s.delivery.Address)
	}
	return said.refusal(hostOf(address), s)
}

// move gives what was sent its place, unless something is there.
func (w webDAV) move(ctx context.Context, s *sending, from, to string) (isFree bool, err error) {
	r := w.request(s, "MOVE", from)
	r.header["Destination"], r.header["Overwrite"] = to, "F"
	said, err := w.ask(ctx, r)
	if err != nil {
		return false, err
	}
	if said.status == http.StatusPreconditionFailed {
		return false, nil
	}
	return true, said.refusal(hostOf(from), s)
}

// wasPlaced tells whether an earlier try came as far as its end: what was sent is at its place, and no
// longer where it was sent to.
func (w webDAV) wasPlaced(ctx context.Context, s *sending, place, part string) (bool, error) {
	there, err := w.ask(ctx, w.request(s, http.MethodHead, place))
	if err != nil {
		return false, err
	}
	left, err := w.ask(ctx, w.request(s, http.MethodHead, part))
	if err != nil {
		return false, err
	}
	bytes, _ := strconv.ParseInt(there.header.Get("Content-Length"), 10, 64) // 0 is not what was sent
	return there.status == http.StatusOK && bytes == s.bytes && left.status == http.StatusNotFound, nil
}

// remove removes what was sent in part. The next try would overwrite it.
func (w webDAV) remove(ctx context.Context, s *sending, address string) {
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), cleanUpTime)
	defer cancel()
	_, _ = w.ask(ctx, w.request(s, http.MethodDelete, address)) // nothing more can be done
}
