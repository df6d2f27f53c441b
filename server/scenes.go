package server

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"bead/core/figure"
	"bead/core/rig"
	"bead/core/scene"
	"bead/core/surface"
	"bead/delivery"
	"bead/demo"
	"bead/formats"
	"bead/store"
)

// SceneState is a scene with what the page needs to edit it.
type SceneState struct {
	ID       string          `json:"id"`
	Revision int64           `json:"revision"`
	Touched  time.Time       `json:"touched"`
	Undo     string          `json:"undo"` // label of the step undo takes back, or empty
	Redo     string          `json:"redo"`
	Doc      *scene.Document `json:"doc"`
}

// SceneCard is a scene on the scenes page.
type SceneCard struct {
	ID       string    `json:"id"`
	Name     string    `json:"name"`
	Revision int64     `json:"revision"`
	Touched  time.Time `json:"touched"`
	Rigs     []string  `json:"rigs"`
	Frames   int       `json:"frames"`
	// Beginning says that it is kept as a beginning for other scenes.
	Beginning bool `json:"beginning,omitempty"`
	// Unreadable says why a scene can only be saved as a file or deleted; left out of others.
	Unreadable string `json:"unreadable,omitempty"`
}

// About is what the page asks first.
type About struct {
	Version string `json:"version"`
	// Kind tells what is served: scenes or demo.
	Kind     string           `json:"kind"`
	Starters []demo.Starter   `json:"starters"`
	Bakes    []formats.Format `json:"bakes"`
	Imports  []string         `json:"imports"`
	// Destinations are where files go, with the choices that suit them.
	Destinations []delivery.Destination `json:"destinations"`
}

func stateOf(s store.Scene) SceneState {
	return SceneState{ID: s.ID, Revision: s.Revision, Touched: s.Touched, Undo: s.Undo, Redo: s.Redo, Doc: s.Doc}
}

func (s *Server) about(c *gin.Context) {
	c.JSON(http.StatusOK, About{s.cfg.Version, s.cfg.Kind, demo.Starters(), formats.All, formats.PathFiles, delivery.Destinations})
}

func (s *Server) listScenes(c *gin.Context) {
	list, err := s.cfg.Store.List(c.Request.Context())
	if err != nil {
		s.failWith(c, err)
		return
	}
	cards := make([]SceneCard, len(list))
	for i, sc := range list {
		cards[i] = SceneCard{ID: sc.ID, Revision: sc.Revision, Touched: sc.Touched, Rigs: []string{}, Beginning: sc.Beginning}
		if sc.Unreadable != nil {
			cards[i].Name, cards[i].Unreadable = cmp.Or(sc.Name, "A scene without a name"), sc.Unreadable.Error()
			continue
		}
		cards[i].Name, cards[i].Frames = sc.Doc.Name, sc.Doc.Range.Count()
		for _, r := range sc.Doc.Rigs {
			cards[i].Rigs = append(cards[i].Rigs, r.Name)
		}
	}
	c.JSON(http.StatusOK, cards)
}

// body reads the request's JSON into v and reports whether it could.
func body(c *gin.Context, v any) bool {
	defer patient(c, maxBody)()
	dec := json.NewDecoder(c.Request.Body)
	dec.DisallowUnknownFields()
	if err := dec.Decode(v); err != nil {
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			fail(c, http.StatusRequestEntityTooLarge, "size", fmt.Sprintf("The request is larger than the %d MB that are read here.", large.Limit>>20), nil)
			return false
		}
		fail(c, http.StatusBadRequest, "request", "The request could not be read: "+err.Error(), nil)
		return false
	}
	return true
}

// compile prepares a document with the meshes of the store, in its turn.
func (s *Server) compile(ctx context.Context, d *scene.Document) (*rig.Scene, error) {
	return s.compileBy(ctx, &rig.Compiler{Meshes: s.library.Mesh, Figures: s.library.Figure, Kept: s.kept()}, d)
}

// kept is where simulated frames are kept; nil of nowhere.
func (s *Server) kept() rig.Kept {
	if s.cfg.Frames == nil {
		return nil
	}
	return s.cfg.Frames
}

func (s *Server) compileBy(ctx context.Context, k *rig.Compiler, d *scene.Document) (*rig.Scene, error) {
	return inTurn(ctx, s.answers, func() (*rig.Scene, error) { return k.CompileContext(ctx, d) })
}

// decode reads a document, in its turn.
func (s *Server) decode(ctx context.Context, data []byte) (*scene.Document, error) {
	return inTurn(ctx, s.answers, func() (*scene.Document, error) { return scene.DecodeContext(ctx, data) })
}

// read decodes and compiles the document of a request.
func (s *Server) read(ctx context.Context, data []byte) (*rig.Scene, error) {
	d, err := s.decode(ctx, data)
	if err != nil {
		return nil, err
	}
	return s.compile(ctx, d)
}

// accept decodes a document and compiles it, so that nothing is stored that
// could not be shown. Files that it brings along are used, and kept by the store
// when it keeps the document.
func (s *Server) accept(ctx context.Context, data []byte) (*scene.Document, error) {
	d, err := s.decode(ctx, data)
	if err != nil {
		return nil, err
	}
	if len(d.Assets) == 0 && s.proven.went(ctx, d) {
		return d, nil
	}
	k := rig.Compiler{Meshes: s.library.Mesh, Figures: s.library.Figure, Kept: s.kept()}
	if len(d.Assets) > 0 {
		own := formats.LibraryOf(d)
		k.Meshes = func(asset string) (*surface.Mesh, error) {
			if m, err := own.Mesh(asset); err == nil {
				return m, nil
			}
			return s.library.Mesh(asset)
		}
		k.Figures = func(asset string) (*figure.Figure, error) {
			if m, err := own.Figure(asset); err == nil {
				return m, nil
			}
			return s.library.Figure(asset)
		}
	}
	if _, err := s.compileBy(ctx, &k, d); err != nil {
		return nil, err
	}
	return d, nil
}

func (s *Server) createScene(c *gin.Context) {
	var req NewScene
	if !body(c, &req) {
		return
	}
	doc, err := demo.Begin(req.Starter, req.Answers)
	if err != nil {
		fail(c, http.StatusBadRequest, "starter", err.Error(), nil)
		return
	}
	sc, err := s.cfg.Store.Create(c.Request.Context(), doc, "made")
	s.answer(c, http.StatusCreated, sc, err)
}

// takeDocument makes a scene of a document as it lies in its file, so that its
// faults are found in the file's own text, or of a GLB that Bead wrote.
func (s *Server) takeDocument(c *gin.Context) {
	data, err := readAll(c, scene.MaxBytes)
	var d *scene.Document
	if err == nil && formats.IsGLB(data) { // that Bead wrote
		d, err = inTurn(c.Request.Context(), s.answers, func() (*scene.Document, error) { return formats.Reopen(c.Request.Context(), data) })
		if err != nil {
			fail(c, http.StatusUnprocessableEntity, "file", sentence(err), nil)
			return
		}
		if data, err = d.Encode(); err != nil {
			s.failWith(c, err)
			return
		}
	}
	if err == nil {
		d, err = s.accept(c.Request.Context(), data)
	}
	if err != nil {
		s.failWith(c, err)
		return
	}
	sc, err := s.cfg.Store.Create(c.Request.Context(), d, "read from a file")
	s.answer(c, http.StatusCreated, sc, err)
}

func (s *Server) answer(c *gin.Context, status int, sc store.Scene, err error) {
	if err != nil {
		s.failWith(c, err)
		return
	}
	c.Header("ETag", tagOf(sc.ID, sc.Revision))
	c.JSON(status, stateOf(sc))
}

// tagOf names a scene as it is at a revision.
func tagOf(id string, revision int64) string { return fmt.Sprintf(`"%s-%d"`, id, revision) }

// moved answers with a scene that was changed, and tells the other windows on it.
func (s *Server) moved(c *gin.Context, sc store.Scene, err error) {
	if err == nil {
		s.hub.moved(sc.ID, sc.Revision)
	}
	s.answer(c, http.StatusOK, sc, err)
}

func (s *Server) getScene(c *gin.Context) {
	sc, err := s.cfg.Store.Get(c.Request.Context(), c.Param("id"))
	if err == nil && c.GetHeader("If-None-Match") == tagOf(sc.ID, sc.Revision) {
		c.Header("ETag", tagOf(sc.ID, sc.Revision))
		c.Status(http.StatusNotModified)
		return
	}
	s.answer(c, http.StatusOK, sc, err)
}

func (s *Server) saveScene(c *gin.Context) {
	var req SaveScene
	if !body(c, &req) {
		return
	}
	d, err := s.accept(c.Request.Context(), req.Doc)
	if err != nil {
		s.failWith(c, err)
		return
	}
	sc, err := s.cfg.Store.Save(c.Request.Context(), c.Param("id"), req.Revision, d, labelOf(req.Label))
	s.moved(c, sc, err)
}

func (s *Server) deleteScene(c *gin.Context) {
	if err := s.cfg.Store.Delete(c.Request.Context(), c.Param("id")); err != nil {
		s.failWith(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}

func (s *Server) copyScene(c *gin.Context) {
	sc, err := s.cfg.Store.Get(c.Request.Context(), c.Param("id"))
	if err == nil {
		// What begins with a scene has its name, a copy says that it is one.
		if name := sc.Doc.Name + " copy"; len(name) <= 120 && c.Query("begin") == "" {
			sc.Doc.Name = name
		}
		sc, err = s.cfg.Store.Create(c.Request.Context(), sc.Doc, "copied")
	}
	s.answer(c, http.StatusCreated, sc, err)
}

// keepScene says whether a scene is kept as a beginning.
func (s *Server) keepScene(c *gin.Context) {
	var req KeepScene
	if !body(c, &req) {
		return
	}
	if err := s.cfg.Store.Keep(c.Request.Context(), c.Param("id"), req.Beginning); err != nil {
		s.failWith(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}

func (s *Server) undoScene(c *gin.Context) {
	var req AtRevision
	if body(c, &req) {
		sc, err := s.cfg.Store.Undo(c.Request.Context(), c.Param("id"), req.Revision)
		s.moved(c, sc, err)
	}
}

func (s *Server) redoScene(c *gin.Context) {
	var req AtRevision
	if body(c, &req) {
		sc, err := s.cfg.Store.Redo(c.Request.Context(), c.Param("id"), req.Revision)
		s.moved(c, sc, err)
	}
}

func (s *Server) goToStep(c *gin.Context) {
	var req AtRevision
	seq, err := strconv.ParseInt(c.Param("seq"), 10, 64)
	if err != nil {
		fail(c, http.StatusBadRequest, "request", "A step is named by its number.", nil)
		return
	}
	if body(c, &req) {
		sc, err := s.cfg.Store.GoTo(c.Request.Context(), c.Param("id"), req.Revision, seq)
		s.moved(c, sc, err)
	}
}

// HistoryStep is a step of a scene's history.
type HistoryStep struct {
	Seq     int64     `json:"seq"`
	Label   string    `json:"label"`
	Made    time.Time `json:"made"`
	Current bool      `json:"current"`
	// Of a step that changed one value: its address, what it is in words, and as what it was
	// shown before and after.
	Field string `json:"field,omitempty"`
	What  string `json:"what,omitempty"`
	Was   string `json:"was,omitempty"`
	Is    string `json:"is,omitempty"`
}

func (s *Server) history(c *gin.Context) {
	steps, err := s.cfg.Store.History(c.Request.Context(), c.Param("id"))
	if err != nil {
		s.failWith(c, err)
		return
	}
	out := make([]HistoryStep, len(steps))
	for i, st := range steps {
		out[i] = HistoryStep{st.Seq, st.Label, st.Made, st.Current, st.Change.Address, st.Change.Field, st.Change.Was, st.Change.Is}
	}
	c.JSON(http.StatusOK, out)
}

// document sends the scene as a file.
func (s *Server) document(c *gin.Context) {
	sc, err := s.cfg.Store.Get(c.Request.Context(), c.Param("id"))
	var unreadable *store.UnreadableError
	if errors.As(err, &unreadable) { // as it is stored
		text, err := s.cfg.Store.Text(c.Request.Context(), c.Param("id"))
		if err != nil {
			s.failWith(c, err)
			return
		}
		c.Header("Content-Disposition", attachment("scene-"+unreadable.ID, "bead.json"))
		c.Data(http.StatusOK, "application/json", text)
		return
	}
	if err != nil {
		s.failWith(c, err)
		return
	}
	whole, err := s.cfg.Store.WithAssets(c.Request.Context(), sc.Doc)
	var text []byte
	if err == nil {
		text, err = whole.Encode()
	}
	if err != nil {
		s.failWith(c, err)
		return
	}
	c.Header("Content-Disposition", attachment(sc.Doc.Name, "bead.json"))
	c.Data(http.StatusOK, "application/json", text)
}

// attachment is a Content-Disposition with a file name made from a scene's name.
func attachment(name, ending string) string {
	return fmt.Sprintf(`attachment; filename="%s"`, fileName(name, ending))
}

// fileName is a file's name made from a scene's.
func fileName(name, ending string) string {
	clean := strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z', r >= 'A' && r <= 'Z', r >= '0' && r <= '9', r == '-', r == '_':
			return r
		}
		return '-'
	}, name)
	return strings.Trim(clean, "-") + "." + ending
}
