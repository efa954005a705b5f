package export

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"sync"
	"unicode/utf8"

	"dorbin/core/finish"
	"dorbin/core/message"
	"dorbin/core/pdf"
	"dorbin/core/problem"
	"dorbin/internal/render"
)

// Passwords protect a document. They are never stored.
type Passwords struct {
	ToOpen   string `json:"toOpen,omitempty" maxLength:"100"`
	ToChange string `json:"toChange,omitempty" maxLength:"100" doc:"Without it nobody can change the protection."`
}

const leastPassword = 4 // letters

// check tells what is wrong with passwords for a protection.
func (p Passwords) check(wanted finish.Protection) error {
	refuse := func(sentence message.Text) error {
		return &problem.Error{Kind: problem.Invalid, Reason: "password", Sentence: sentence}
	}
	isWeak := func(password string) bool {
		return password != "" && (utf8.RuneCountInString(password) < leastPassword || strings.TrimSpace(password) == "")
	}
	switch {
	case isWeak(p.ToOpen):
		return refuse(message.Of("The password to open the document needs at least %d letters, and not spaces alone.", leastPassword))
	case isWeak(p.ToChange):
		return refuse(message.Of("The password to change it needs at least %d letters, and not spaces alone.", leastPassword))
	}
	switch {
	case wanted.Locked && p.ToOpen == "":
		return refuse(message.Of("Enter the password that the document is to be opened with. It is not kept, so it is asked for at every export."))
	case wanted.Locked && p.ToOpen == p.ToChange:
		return refuse(message.Of("The two passwords are the same: whoever opens the document could change it."))
	}
	if err := pdf.NewAssembler(io.Discard, 0).Protect(p.protection(wanted)); err != nil {
		return refuse(message.Of("A password has letters that cannot be in one: leave out tabs, line ends and the like."))
	}
	return nil
}

func (p Passwords) protection(wanted finish.Protection) pdf.Protection {
	protection := pdf.Protection{ToChange: p.ToChange, Print: wanted.Print, Copy: wanted.Copy, Fill: wanted.Fill}
	if wanted.Locked {
		protection.ToOpen = p.ToOpen
	}
	return protection
}

// secrets are the passwords of exports, while these are made and compared.
type secrets struct {
	mutex sync.Mutex
	known map[string]Passwords // by the exports' ids
}

func (s *secrets) keep(export string, p Passwords) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if s.known == nil {
		s.known = map[string]Passwords{}
	}
	s.known[export] = p
}

func (s *secrets) of(export string) (p Passwords, known bool) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	p, known = s.known[export]
	return p, known
}

func (s *secrets) forget(export string) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	delete(s.known, export)
}

// errForgotten says that the passwords of an export are gone with the program that knew them.
var errForgotten = problem.New(problem.Invalid,
	"The program was started again while the document was being made, and passwords are not kept. Export again and enter them once more.")

// isProtected tells whether what is made is protected: pictures cannot be.
func (r exportRequest) isProtected() bool { return r.Finish.Protection.On && !r.Make.isPictures() }

// protection is that of what is made; nil where there is none.
func (m *making) protection() *pdf.Protection {
	if !m.request.isProtected() {
		return nil
	}
	protection := m.passwords.protection(m.request.Finish.Protection)
	return &protection
}

// passwordToOpen is that of what is made; empty where anybody may open it.
func (m *making) passwordToOpen() string {
	if !m.request.isLocked() {
		return ""
	}
	return m.passwords.ToOpen
}

// isLocked tells whether what is made can only be opened with a password.
func (r exportRequest) isLocked() bool { return r.isProtected() && r.Finish.Protection.Locked }

// opened gives the path of a finished document as it can be read without its password: a copy of
// one that is locked, which is deleted when it is closed.
func (s *Service) opened(ctx context.Context, request exportRequest, passwords Passwords, path string) (readable string, closeIt func(), err error) {
	if !request.isLocked() {
		return path, func() {}, nil
	}
	file, err := s.pool.ScratchFile()
	if err != nil {
		return "", nil, err
	}
	closeIt = func() {
		if err := os.Remove(file.Name()); err != nil {
			s.log.Warn("copy of a protected document not deleted", "error", err)
		}
	}
	if err := errors.Join(s.engine.Rewrite(ctx, path, passwords.ToOpen, file), file.Close()); err != nil {
		closeIt()
		return "", nil, fmt.Errorf("open the protected document: %w", err)
	}
	return file.Name(), closeIt, nil
}

// checkLock tells what is wrong with the protection of a finished document: that it opens without
// its password. It is found out by opening it.
func (s *Service) checkLock(ctx context.Context, path string) (difference message.Text, err error) {
	_, err = s.engine.PageSizes(ctx, path, "", 1)
	switch {
	case errors.Is(err, render.ErrPassword):
		return message.Text{}, nil
	case err != nil:
		return message.Text{}, err
	}
	return message.Of("The file opens without its password."), nil
}
