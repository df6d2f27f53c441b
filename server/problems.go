package server

import (
	"encoding/json"
	"errors"
	"net/http"

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

// failWith turns an error into the problem its kind stands for.
func (s *Server) failWith(c *gin.Context, err error) {
	var faults scene.Faults
	var conflict *store.ConflictError
	var large *http.MaxBytesError
	switch {
	case errors.As(err, &faults):
		fail(c, http.StatusUnprocessableEntity, "document", faults.Error(), faults)
	case errors.As(err, &conflict):
		now := stateOf(conflict.Current)
		write(c, Problem{Status: http.StatusConflict, Code: "conflict", Current: &now,
			Detail: "This scene was changed in another window. Choose which version to keep."})
	case errors.As(err, &large):
		fail(c, http.StatusRequestEntityTooLarge, "size", "That is too large to be read here.", nil)
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
