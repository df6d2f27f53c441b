package store

import (
	"errors"
	"fmt"

	"modernc.org/sqlite"
	lib "modernc.org/sqlite/lib"

	"bead/core/scene"
)

// What the disk may refuse.
var (
	ErrNoRoom   = errors.New("the disk that keeps the scenes is full: nothing was changed; make room there, and what is not saved yet will be")
	ErrReadOnly = errors.New("the scenes lie where nothing can be written: nothing was changed; make their directory and its files writable")
)

// ErrTooLarge is returned for a document that is larger than is read back.
var ErrTooLarge = fmt.Errorf("the document is larger than the %d MB that are kept: fewer points or parts are accepted", scene.MaxBytes>>20)

// UnreadableError is of a scene that is stored and cannot be read, as one of a newer program or
// one whose bytes were damaged.
type UnreadableError struct {
	ID  string
	Why error
}

func (e *UnreadableError) Error() string { return fmt.Sprintf("scene %s as stored: %v", e.ID, e.Why) }
func (e *UnreadableError) Unwrap() error { return e.Why }

// plain turns what SQLite says of the disk into a sentence.
func plain(err error) error {
	var e *sqlite.Error
	if !errors.As(err, &e) {
		return err
	}
	switch e.Code() & 0xff { // the low byte is the kind, the rest says more of it
	case lib.SQLITE_FULL:
		return fmt.Errorf("%w (%v)", ErrNoRoom, err)
	case lib.SQLITE_READONLY, lib.SQLITE_CANTOPEN, lib.SQLITE_PERM:
		return fmt.Errorf("%w (%v)", ErrReadOnly, err)
	}
	return err
}

// Disk is ErrNoRoom or ErrReadOnly where an error comes from one of them, else the error.
func Disk(err error) error {
	for _, e := range []error{ErrNoRoom, ErrReadOnly} {
		if errors.Is(err, e) {
			return e
		}
	}
	return err
}
