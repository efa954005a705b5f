package handin

import (
	"cmp"
	"context"
	"errors"
	"strconv"
	"strings"
	"time"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/core/requirements"
	"dorbin/internal/export"
	"dorbin/internal/jobs"
	"dorbin/internal/store"
)

// mostTries is how often a document is sent whose line breaks.
const mostTries = 3

// handIn brings a document to its receiver. When the program stops meanwhile, it goes on at the next
// start.
func (s *Service) handIn(ctx context.Context, task *jobs.Task) error {
	d, err := s.store.Delivery(ctx, task.Key)
	if err != nil || d.State == store.DeliveryCancelled {
		return store.UnlessGone(err)
	}
	d.State, d.Sent = store.DeliveryRunning, 0
	if err := s.record(ctx, d); err != nil {
		return store.UnlessGone(err)
	}
	keep := context.WithoutCancel(ctx)
	answer, err := s.trySeveralTimes(ctx, &d)
	var broken *brokenError
	switch {
	case ctx.Err() != nil && !jobs.IsCancelled(ctx):
		return ctx.Err()
	case err == nil:
		s.log.Info("document handed in", "delivery", d.ID, "packet", d.Packet, "by", d.Delivery.By, "bytes", d.Bytes)
		d.Sent = d.Bytes
		return store.UnlessGone(s.end(keep, d, store.DeliveryDone, message.Text{}, answer))
	case errors.As(err, &broken) && broken.mayHaveArrived:
		return store.UnlessGone(s.end(keep, d, store.DeliveryUnclear, broken.sentence, message.Text{}))
	case ctx.Err() != nil:
		return ctx.Err()
	}
	s.log.Warn("document not handed in", "delivery", d.ID, "packet", d.Packet, "by", d.Delivery.By, "error", err)
	return store.UnlessGone(s.end(keep, d, store.DeliveryFailed, sentence(d.ID, err), message.Text{}))
}

// trySeveralTimes sends a document, again if the line breaks.
func (s *Service) trySeveralTimes(ctx context.Context, d *store.Delivery) (answer message.Text, err error) {
	for try := 1; ; try++ {
		answer, err = s.send(ctx, d)
		var broken *brokenError
		if !errors.As(err, &broken) || broken.mayHaveArrived || try == mostTries || ctx.Err() != nil {
			return answer, err
		}
		d.Problem, d.Sent = message.Of("%s It is tried again.", broken.sentence), 0
		if err := s.record(ctx, *d); err != nil {
			return message.Text{}, err
		}
		if err := jobs.Sleep(ctx, time.Duration(try)*s.pause); err != nil {
			return message.Text{}, err
		}
	}
}

func (s *Service) send(ctx context.Context, d *store.Delivery) (answer message.Text, err error) {
	document, err := s.documentOf(ctx, *d)
	if err != nil {
		return message.Text{}, err
	}
	password, err := s.secrets.of(ctx, d.ID, placeOf(d.Delivery))
	if err != nil {
		return message.Text{}, err
	}
	return s.channels[d.Delivery.By].send(ctx, &sending{
		document: document, delivery: d.Delivery, password: password, stage: d.Stage,
		note: func(stage string) error {
			d.Stage = stage
			return s.record(ctx, *d)
		},
		sent: s.progress(ctx, d),
	})
}

// documentOf is what a delivery brings, with what is said about it.
func (s *Service) documentOf(ctx context.Context, d store.Delivery) (document, error) {
	snapshot, err := s.export.Snapshot(ctx, d.Export)
	if err != nil {
		return document{}, err
	}
	p := snapshot.Packet
	extra := strings.NewReplacer("{pages}", strconv.Itoa(d.Pages), "{file}", d.Name)
	return document{
		id: d.ID, path: s.store.FilePath(d.Blob), name: d.Name, contentType: cmp.Or(export.ContentType(d.Name), "application/octet-stream"),
		bytes: d.Bytes, sha256: d.Blob, pages: d.Pages, reference: p.Finish.Properties.Reference, title: p.Name,
		fill: func(text string) string { return p.Finish.Fill(extra.Replace(text), snapshot.Facts) },
	}, nil
}

// tellEvery is how often it is told how much was sent.
const tellEvery = 400 * time.Millisecond

// progress keeps how much was sent, and tells it now and then, and when all of it is: what is on the line
// then may take long to arrive.
func (s *Service) progress(ctx context.Context, d *store.Delivery) func(n int64) {
	last := time.Now()
	return func(n int64) {
		// The end of the file may be read when the answer is there already, and is no news.
		if d.Sent == d.Bytes {
			return
		}
		d.Sent = min(n, d.Bytes)
		if time.Since(last) < tellEvery && d.Sent < d.Bytes {
			return
		}
		last = time.Now()
		if err := s.record(ctx, *d); err != nil && ctx.Err() == nil {
			s.log.Warn("progress not kept", "delivery", d.ID, "error", err)
		}
	}
}

func (s *Service) cancelled(ctx context.Context, cancelled jobs.Taken) error {
	d, err := s.store.Delivery(ctx, cancelled.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	return store.UnlessGone(s.end(ctx, d, store.DeliveryCancelled, message.Text{}, message.Text{}))
}

func (s *Service) giveUp(ctx context.Context, failed jobs.Taken, cause error) error {
	d, err := s.store.Delivery(ctx, failed.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	if d.Stage != "" && d.Delivery.By == requirements.ByMail {
		return s.end(ctx, d, store.DeliveryUnclear, unclearMail, message.Text{})
	}
	return s.end(ctx, d, store.DeliveryFailed, sentence(d.ID, cause), message.Text{})
}

// end records how a delivery has ended.
func (s *Service) end(ctx context.Context, d store.Delivery, state store.DeliveryState, problem, answer message.Text) error {
	s.secrets.forget(d.ID)
	d.State, d.Problem, d.Answer, d.Ended = state, problem, answer, time.Now()
	return s.record(ctx, d)
}

func (s *Service) record(ctx context.Context, d store.Delivery) error {
	if err := s.store.UpdateDelivery(ctx, d); err != nil {
		return err
	}
	s.changed(d.Packet)
	return nil
}

// sentence says why a document was not handed in, as its user reads it.
func sentence(id string, err error) message.Text {
	var told *problem.Error
	var broken *brokenError
	switch {
	case errors.As(err, &told):
		return told.Sentence
	case errors.As(err, &broken):
		return broken.sentence
	}
	return message.Of("The document could not be handed in. The log tells more under the number %s.", id)
}
