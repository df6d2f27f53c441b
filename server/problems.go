package server

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"syscall"
	"unicode"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"bead/core/scene"
	"bead/store"
)

// Problem is what goes wrong, as RFC 9457 problem details.
type Problem struct {
	Type   string        `json:"type"`
	Title  string        `json:"title"`
	Status int           `json:"status"`
	Code   string        `json:"code"`             // stable, for programs
	Detail string        `json:"detail"`           // a plain sentence
	Faults []scene.Fault `json:"faults,omitempty"` // with addresses in the document
	// Current is the scene as it stands, where the answer is a conflict.
	Current *SceneState `json:"current,omitempty"`
}

// fail ends the request with a problem.
func fail(c *gin.Context, status int, code, detail string, faults []scene.Fault) {
	write(c, Problem{Status: status, Code: code, Detail: detail, Faults: faults})
}

func write(c *gin.Context, p Problem) {
	p.Type, p.Title = "about:blank", http.StatusText(p.Status)
	body, err := json.Marshal(p)
	if err != nil {
		body = []byte(`{"status":500,"code":"internal"}`)
	}
	c.Abort()
	c.Data(p.Status, "application/problem+json", body)
}

// statusGone is for a client that has left: nobody reads it but the log.
const statusGone = 499

// sentence is an error as a sentence.
func sentence(err error) string {
	text := err.Error()
	first, size := utf8.DecodeRuneInString(text)
	return string(unicode.ToUpper(first)) + text[size:] + "."
}

// failWith turns an error into the problem its kind stands for.
func (s *Server) failWith(c *gin.Context, err error) {
	var faults scene.Faults
	var conflict *store.ConflictError
	var large *http.MaxBytesError
	var unreadable *store.UnreadableError
	switch {
	case errors.As(err, &unreadable):
		fail(c, http.StatusUnprocessableEntity, "unreadable", "This scene cannot be read by this Bead ("+unreadable.Why.Error()+"). On the scenes page it can be saved as a file.", nil)
	case errors.Is(err, store.ErrTooLarge):
		fail(c, http.StatusRequestEntityTooLarge, "size", sentence(err), nil)
	case errors.As(err, &faults):
		fail(c, http.StatusUnprocessableEntity, "document", faults.Error(), faults)
	case errors.As(err, &conflict):
		now := stateOf(conflict.Current)
		write(c, Problem{Status: http.StatusConflict, Code: "conflict", Current: &now,
			Detail: "This scene was changed in another window. Choose which version to keep."})
	case errors.As(err, &large):
		fail(c, http.StatusRequestEntityTooLarge, "size", "That is too large to be read here.", nil)
	case errors.Is(err, errOtherRequest):
		fail(c, http.StatusUnprocessableEntity, "idempotency", sentence(err), nil)
	case errors.Is(err, errManyBakes), errors.Is(err, errOwnBakes):
		fail(c, http.StatusTooManyRequests, "bakes", sentence(err), nil)
	case errors.Is(err, context.Canceled):
		fail(c, statusGone, "gone", "Nobody waits for this any more.", nil)
	case errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EROFS), errors.Is(err, store.ErrNoRoom), errors.Is(err, store.ErrReadOnly):
		s.cfg.Log.Error("the disk refuses", "path", c.Request.URL.Path, "err", err)
		fail(c, http.StatusInsufficientStorage, "disk", sentence(store.Disk(err)), nil)
	case errors.Is(err, store.ErrNotFound):
		fail(c, http.StatusNotFound, "scene", "There is no such scene. It may have been deleted.", nil)
	case errors.Is(err, store.ErrNoAsset):
		fail(c, http.StatusNotFound, "asset", "A mesh's file is not in this store. Bring the file in again.", nil)
	case errors.Is(err, store.ErrNothing):
		fail(c, http.StatusConflict, "step", "There is no step to take that way.", nil)
	default:
		s.cfg.Log.Error("request failed", "path", c.Request.URL.Path, "err", err)
		fail(c, http.StatusInternalServerError, "internal", "This could not be done just now; nothing was changed. The log says why.", nil)
	}
}
