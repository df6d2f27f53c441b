package server

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"net/http"
	"sync"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/gin-gonic/gin"

	"bead/core/scene"
)

// Kept is the answer to a stored edit. The page has the document; Doc is set only where it is stored in
// another form, for instance without empty lists, so that the next patch counts from that.
type Kept struct {
	ID       string          `json:"id"`
	Revision int64           `json:"revision"`
	Undo     string          `json:"undo"`
	Redo     string          `json:"redo"`
	Doc      *scene.Document `json:"doc,omitempty"`
}

// maxOps bounds the operations of one patch; a page with more to say sends the document.
const maxOps = 10_000

// patched is a document after a JSON Patch (RFC 6902). It is no larger than a document may be.
func patched(text, patch []byte) ([]byte, error) {
	p, err := jsonpatch.DecodePatch(patch)
	if err != nil {
		return nil, fmt.Errorf("the change is no JSON Patch: %w", err)
	}
	if len(p) > maxOps {
		return nil, fmt.Errorf("the change has %d operations: up to %d are accepted, or the whole document", len(p), maxOps)
	}
	o := jsonpatch.NewApplyOptions()
	o.AccumulatedCopySizeLimit = scene.MaxBytes
	out, err := p.ApplyWithOptions(text, o)
	if err != nil {
		return nil, fmt.Errorf("the change does not fit the document: %w", err)
	}
	if len(out) > scene.MaxBytes {
		return nil, fmt.Errorf("the document has %d bytes after the change: up to %d are accepted", len(out), scene.MaxBytes)
	}
	return out, nil
}

// patchScene stores an edit given as a patch.
func (s *Server) patchScene(c *gin.Context) {
	var req PatchScene
	if !body(c, &req) {
		return
	}
	ctx, id := c.Request.Context(), c.Param("id")
	text, err := s.cfg.Store.TextAt(ctx, id, req.Revision)
	if err != nil {
		s.failWith(c, err)
		return
	}
	if text, err = patched(text, req.Patch); err != nil {
		s.cfg.Log.Warn("an edit that does not fit", "err", err)
		fail(c, http.StatusBadRequest, "patch", sentence(err), nil)
		return
	}
	d, err := s.accept(ctx, text)
	if err != nil {
		s.failWith(c, err)
		return
	}
	sc, err := s.cfg.Store.Save(ctx, id, req.Revision, d, labelOf(req.Label))
	if err != nil {
		s.failWith(c, err)
		return
	}
	s.hub.moved(sc.ID, sc.Revision)
	out := Kept{ID: sc.ID, Revision: sc.Revision, Undo: sc.Undo, Redo: sc.Redo}
	if stored, err := json.Marshal(sc.Doc); err != nil || !bytes.Equal(stored, text) {
		out.Doc = sc.Doc
	}
	c.JSON(http.StatusOK, out)
}

func labelOf(label string) string {
	if label == "" || len(label) > 200 {
		return "edit"
	}
	return label
}

// proven remembers of which documents a compile went well lately: an edit is shown and kept, and
// compiled for one of the two.
type proven struct {
	mu    sync.Mutex
	of    map[[32]byte]*proof
	order [][32]byte
}

// proof is a compile that is under way or done.
type proof struct {
	done chan struct{}
	well bool
}

// maxProven is the most documents that are remembered.
const maxProven = 64

func keyOf(d *scene.Document) (key [32]byte, err error) {
	text, err := json.Marshal(d)
	return sha256.Sum256(text), err
}

// begin tells of a compile that begins; end of what came of it.
func (p *proven) begin(d *scene.Document) (end func(well bool)) {
	key, err := keyOf(d)
	if err != nil {
		return func(bool) {}
	}
	one := &proof{done: make(chan struct{})}
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.of == nil {
		p.of = map[[32]byte]*proof{}
	}
	if _, known := p.of[key]; !known {
		if p.order = append(p.order, key); len(p.order) > maxProven {
			delete(p.of, p.order[0])
			p.order = p.order[1:]
		}
	}
	p.of[key] = one
	return func(well bool) {
		one.well = well
		close(one.done)
	}
}

// went reports whether a document has compiled well, and waits where that is under way.
func (p *proven) went(ctx context.Context, d *scene.Document) bool {
	key, err := keyOf(d)
	if err != nil {
		return false
	}
	p.mu.Lock()
	one := p.of[key]
	p.mu.Unlock()
	if one == nil {
		return false
	}
	select {
	case <-one.done:
		return one.well
	case <-ctx.Done():
		return false
	}
}
