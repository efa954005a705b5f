package app

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"time"

	"dorbin/core/requirements"
	"dorbin/internal/finished"
)

// CheckFile holds any PDF against the rules of a receiver. The password opens it, where it needs one.
// Errors wrap render.ErrPassword or render.ErrNotPDF where it cannot be opened.
func (a *App) CheckFile(ctx context.Context, path, password string, receiver requirements.Receiver) (_ []requirements.Verdict, err error) {
	in, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("open the document: %w", err)
	}
	defer in.Close() //nolint:errcheck // only read from
	own, bytes, err := a.pool.MakeFile(func(out io.Writer) (int64, error) { return io.Copy(out, in) })
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, os.Remove(own)) }()
	doc := finished.Document{Path: own, Readable: own, Name: filepath.Base(path), Bytes: bytes, Password: password}
	if password != "" {
		doc.Readable, _, err = a.pool.MakeFile(func(out io.Writer) (int64, error) { return 0, a.engine.Rewrite(ctx, own, password, out) })
		if err != nil {
			return nil, fmt.Errorf("open the document with its password: %w", err)
		}
		defer func() { err = errors.Join(err, os.Remove(doc.Readable)) }()
	}
	facts, err := finished.Reader{Engine: a.engine, Pictures: a.pictures}.Facts(ctx, doc, receiver.Rules)
	if err != nil {
		return nil, err
	}
	facts.Today = time.Now().Format(time.DateOnly)
	return receiver.Judge(facts), nil
}
