package server

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
)

// Loops is the answer of the loop solver.
type Loops = check.LoopAnswer

// compiledFrom compiles the document of a request; false when it has answered.
func (s *Server) compiledFrom(c *gin.Context, doc json.RawMessage) (*rig.Scene, bool) {
	compiled, err := s.read(c.Request.Context(), doc)
	if err != nil {
		s.failWith(c, err)
		return nil, false
	}
	return compiled, true
}

// present gives a document of any version back in the present one.
func (s *Server) present(c *gin.Context) {
	var req OfDocument
	if !body(c, &req) {
		return
	}
	d, err := s.decode(c.Request.Context(), req.Doc)
	if err != nil {
		s.failWith(c, err)
		return
	}
	c.JSON(http.StatusOK, d)
}

// loops solves for loops of a rig near a wish.
func (s *Server) loops(c *gin.Context) {
	var req AskLoops
	if !body(c, &req) {
		return
	}
	compiled, ok := s.compiledFrom(c, req.Doc)
	if !ok {
		return
	}
	i := slices.IndexFunc(compiled.Doc.Rigs, func(r scene.Rig) bool { return r.ID == req.Rig })
	if i < 0 {
		fail(c, http.StatusUnprocessableEntity, "rig", fmt.Sprintf("%q is no rig of this scene.", req.Rig), nil)
		return
	}
	compile := func(d *scene.Document) (*rig.Scene, error) { return s.compile(c.Request.Context(), d) }
	answer, err := check.Loops(c.Request.Context(), compiled, compile, i, req.Frames, req.Speed)
	if err != nil {
		fail(c, http.StatusUnprocessableEntity, "loop", err.Error(), nil)
		return
	}
	c.JSON(http.StatusOK, answer)
}

// reparent puts a thing on another carrier and keeps its place in the world.
func (s *Server) reparent(c *gin.Context) {
	var req MoveTo
	if !body(c, &req) {
		return
	}
	compiled, ok := s.compiledFrom(c, req.Doc)
	if !ok {
		return
	}
	doc, err := compiled.Reparent(req.Kind, req.ID, req.Carrier, float64(req.Frame))
	if err == nil {
		_, err = s.compile(c.Request.Context(), doc) // what rings it makes is found here
	}
	if err != nil {
		fail(c, http.StatusUnprocessableEntity, "carrier", err.Error(), nil)
		return
	}
	c.JSON(http.StatusOK, doc)
}

// changed answers with what a change by one number makes of a document: of a path in it.
func (s *Server) changed(field string, change func(*rig.Scene, string, float64) (*scene.Document, error)) gin.HandlerFunc {
	return func(c *gin.Context) {
		var req ChangePath
		if !body(c, &req) {
			return
		}
		compiled, ok := s.compiledFrom(c, req.Doc)
		if !ok {
			return
		}
		doc, err := change(compiled, req.Path, req.By)
		if err == nil {
			_, err = s.compile(c.Request.Context(), doc)
		}
		if err != nil {
			fail(c, http.StatusUnprocessableEntity, field, err.Error(), nil)
			return
		}
		c.JSON(http.StatusOK, doc)
	}
}
