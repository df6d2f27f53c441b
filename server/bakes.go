package server

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"strings"

	"github.com/gin-gonic/gin"

	"bead/core/check"
	"bead/core/rig"
	"bead/delivery"
	"bead/formats"
)

// idempotencyKey is the header by which a request may be sent again (IETF draft "The Idempotency-Key
// HTTP Header Field").
const idempotencyKey = "Idempotency-Key"

// sceneOf compiles what a request is about: a scene of the store or a document; ok is false where that is
// answered. Of a scene it fills in the revision.
func (s *Server) sceneOf(c *gin.Context, of *OfScene) (*rig.Scene, bool) {
	ctx := c.Request.Context()
	if (of.Scene == "") == (len(of.Doc) == 0) {
		fail(c, http.StatusBadRequest, "request", "Either a scene, by its id, or a doc is accepted.", nil)
		return nil, false
	}
	if of.Scene == "" {
		return s.compiledFrom(c, of.Doc)
	}
	sc, err := s.cfg.Store.Get(ctx, of.Scene)
	if err != nil {
		s.failWith(c, err)
		return nil, false
	}
	if of.Revision != 0 && of.Revision != sc.Revision {
		now := stateOf(sc)
		write(c, Problem{Status: http.StatusConflict, Code: "conflict", Current: &now,
			Detail: fmt.Sprintf("The scene is at revision %d, not %d: leave the revision out for the newest.", sc.Revision, of.Revision)})
		return nil, false
	}
	of.Revision = sc.Revision
	compiled, err := s.compile(ctx, sc.Doc)
	if err != nil {
		s.failWith(c, err)
		return nil, false
	}
	return compiled, true
}

// startBake begins a bake, or answers with the one that the same request began before.
func (s *Server) startBake(c *gin.Context) {
	text, err := readAll(c, maxBody)
	if err != nil {
		s.failWith(c, err)
		return
	}
	a := ask{person: personOf(c.Request.Context()), key: c.GetHeader(idempotencyKey), body: sha256.Sum256(text)}
	if state, known, err := s.jobs.asked(a); err != nil {
		s.failWith(c, err)
		return
	} else if known {
		c.JSON(http.StatusAccepted, state)
		return
	}
	c.Request.Body = io.NopCloser(bytes.NewReader(text))
	var req AskBake
	if !body(c, &req) {
		return
	}
	compiled, ok := s.sceneOf(c, &req.OfScene)
	if !ok {
		return
	}
	o := req.Options
	o.Library, o.Scene, o.Revision = s.library, req.OfScene.Scene, req.OfScene.Revision
	if code, err := wished(&o, &req, compiled); err != nil {
		fail(c, http.StatusBadRequest, code, "This cannot be baked: "+err.Error()+".", nil)
		return
	}
	if err := c.Request.Context().Err(); err != nil {
		s.failWith(c, err)
		return
	}
	state, err := s.jobs.start(compiled, o, a)
	if err != nil {
		s.failWith(c, err)
		return
	}
	c.JSON(http.StatusAccepted, state)
}

// wished fills in the frames of a bake and checks its options; code is that of the problem.
func wished(o *formats.Options, req *AskBake, s *rig.Scene) (code string, err error) {
	if _, known := formats.Of(o.Format); !known {
		return "format", fmt.Errorf("%q is no format: %s are", o.Format, strings.Join(formats.Endings(), ", "))
	}
	o.Frames = s.Doc.Range
	if req.First != nil {
		o.Frames.First = *req.First
	}
	if req.Last != nil {
		o.Frames.Last = *req.Last
	}
	if err := formats.CheckFrames(o.Frames); err != nil {
		return "range", err
	}
	o.TakeClosing(s.Doc)
	if err := formats.CheckDensity(o.Format, o.Density); err != nil {
		return "density", err
	}
	if !(o.Tolerance >= 0 && o.Tolerance <= 1000) {
		return "tolerance", fmt.Errorf("a tolerance of %g m is not accepted: from 0 to 1000 m is", o.Tolerance)
	}
	if err := o.CheckRigs(s); err != nil {
		return "rigs", err
	}
	return "choices", o.Fits()
}

// listBakes lists the bakes that are there.
func (s *Server) listBakes(c *gin.Context) { c.JSON(http.StatusOK, s.jobs.list()) }

func (s *Server) job(c *gin.Context) (BakeState, *job) {
	state, x := s.jobs.get(c.Param("job"))
	if x == nil {
		fail(c, http.StatusNotFound, "bake", "This bake is gone. Bake again.", nil)
	}
	return state, x
}

func (s *Server) bakeState(c *gin.Context) {
	if state, x := s.job(c); x != nil {
		c.JSON(http.StatusOK, state)
	}
}

func (s *Server) cancelBake(c *gin.Context) {
	if _, x := s.job(c); x != nil {
		x.cancel()
		c.Status(http.StatusNoContent)
	}
}

// finished is a bake whose file is there; nil where that is answered.
func (s *Server) finished(c *gin.Context) (BakeState, *job) {
	state, x := s.job(c)
	if x != nil && state.State != "finished" {
		fail(c, http.StatusConflict, "bake", "This bake is not finished.", nil)
		return state, nil
	}
	return state, x
}

func (s *Server) bakeFile(c *gin.Context) {
	state, x := s.finished(c)
	if x == nil {
		return
	}
	c.Header("Content-Disposition", attachment(state.Name, state.Format))
	if f, known := formats.Of(state.Format); known {
		c.Header("Content-Type", f.Media)
	}
	http.ServeFile(c.Writer, c.Request, x.file.Name())
}

// bakeNote describes how a file was made, and runs the checks of its scene.
func (s *Server) bakeNote(c *gin.Context) {
	state, x := s.finished(c)
	if x == nil {
		return
	}
	s.jobs.mu.Lock()
	note := x.note
	s.jobs.mu.Unlock()
	if note == nil {
		var err error
		if note, err = s.noteOf(c.Request.Context(), &state, x); err != nil {
			s.failWith(c, err)
			return
		}
		s.jobs.mu.Lock()
		x.note = note
		s.jobs.mu.Unlock()
	}
	c.Header("Content-Disposition", attachment(state.Name, state.Format+".note.json"))
	text, err := json.MarshalIndent(note, "", "  ")
	if err != nil {
		s.failWith(c, err)
		return
	}
	c.Data(http.StatusOK, "application/json; charset=utf-8", text)
}

func (s *Server) noteOf(ctx context.Context, state *BakeState, x *job) (*delivery.Note, error) {
	n := delivery.NoteOf(s.cfg.Version, x.doc, &x.wish, state.Notes)
	file, err := os.Open(x.file.Name())
	if err != nil {
		return nil, err
	}
	defer file.Close()
	if n.File, err = delivery.FileOf(fileName(state.Name, state.Format), state.Format, file); err != nil {
		return nil, err
	}
	compiled, err := s.compile(ctx, x.doc)
	if err != nil {
		return nil, err
	}
	n.Checks, err = s.judged(ctx, compiled, &check.Terms{})
	return n, err
}

// judged runs checks in their turn, and of them a frame at a time.
func (s *Server) judged(ctx context.Context, compiled *rig.Scene, t *check.Terms) (check.Verdict, error) {
	done, err := s.reports.take(ctx)
	if err != nil {
		return check.Verdict{}, err
	}
	defer done()
	if err := s.settled(ctx, compiled); err != nil {
		return check.Verdict{}, err
	}
	return check.Judged(ctx, compiled, t, check.Look{Workers: 1, Turn: func(do func()) {
		if done, err := s.checks.take(ctx); err == nil {
			defer done()
			do()
		}
	}})
}

// checkScene runs the checks of a scene.
func (s *Server) checkScene(c *gin.Context) {
	var req AskChecks
	if !body(c, &req) {
		return
	}
	terms := check.Terms{Only: req.Only, Skip: req.Skip}
	err := terms.Check()
	for _, text := range req.Tolerances {
		if err == nil {
			err = terms.Tolerate(text)
		}
	}
	if err != nil {
		fail(c, http.StatusBadRequest, "checks", sentence(err), nil)
		return
	}
	compiled, ok := s.sceneOf(c, &req.OfScene)
	if !ok {
		return
	}
	verdict, err := s.judged(c.Request.Context(), compiled, &terms)
	switch {
	case err != nil && c.Request.Context().Err() == nil:
		fail(c, http.StatusBadRequest, "checks", sentence(err), nil)
	case err != nil:
		s.failWith(c, err)
	default:
		c.JSON(http.StatusOK, verdict)
	}
}
