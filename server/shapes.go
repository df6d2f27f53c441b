package server

import (
	"context"
	"fmt"
	"net/http"
	"path/filepath"
	"strings"

	"github.com/gin-gonic/gin"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/path"
	"bead/core/rig"
	"bead/core/scene"
	"bead/core/surface"
	"bead/formats"
)

// ReadPath is a path read from a file, in the document's form.
type ReadPath struct {
	Name   string          `json:"name"`
	Length float64         `json:"length"`
	Shape  scene.PathShape `json:"shape"`
}

// readPaths turns an uploaded file into path shapes; it changes no scene.
func (s *Server) readPaths(c *gin.Context) {
	data, err := readAll(c, maxImport)
	if err != nil {
		s.failWith(c, err)
		return
	}
	named, err := formats.ReadPaths(c.Request.Context(), c.Query("file"), data, c.Query("smooth") == "true")
	if err != nil {
		fail(c, http.StatusUnprocessableEntity, "file", err.Error(), nil)
		return
	}
	out := []ReadPath{}
	for _, n := range named {
		curve, err := path.New(n.Spans, n.Closed)
		if err != nil {
			fail(c, http.StatusUnprocessableEntity, "file", fmt.Sprintf("%s: %v", n.Name, err), nil)
			return
		}
		p := ReadPath{Name: n.Name, Length: curve.Length()}
		p.Shape.Spline = scene.SplineOf(path.ToPoints(curve.Spans(), n.Closed), n.Closed)
		out = append(out, p)
	}
	c.JSON(http.StatusOK, out)
}

// shape reads the request of insertPoint.
func (s *Server) shape(c *gin.Context) (req ShapeRequest, ok bool) {
	if !body(c, &req) {
		return req, false
	}
	if err := req.Shape.Accept(); err != nil {
		s.failWith(c, err)
		return req, false
	}
	return req, true
}

// toPoints turns the path of a document, with its steps taken, into a spline that
// can be pulled about.
func (s *Server) toPoints(c *gin.Context) {
	var req OfPath
	if !body(c, &req) {
		return
	}
	compiled, err := s.read(c.Request.Context(), req.Doc)
	if err != nil {
		s.failWith(c, err)
		return
	}
	doc := compiled.Doc
	for i := range doc.Paths {
		if doc.Paths[i].ID != req.Path {
			continue
		}
		curve := compiled.Paths[i]
		shape := scene.PathShape{Spline: scene.SplineOf(path.ToPoints(curve.Spans(), curve.Closed()), curve.Closed())}
		after, err := path.New(path.Spline(shape.Spline.Resolve(), curve.Closed()), curve.Closed())
		if err != nil {
			fail(c, http.StatusUnprocessableEntity, "shape", err.Error(), nil)
			return
		}
		c.JSON(http.StatusOK, ReadPath{Length: after.Length(), Shape: shape})
		return
	}
	fail(c, http.StatusUnprocessableEntity, "path", fmt.Sprintf("%q is no path of this scene.", req.Path), nil)
}

// insertPoint puts a point in the middle of a stretch without changing its shape.
func (s *Server) insertPoint(c *gin.Context) {
	req, ok := s.shape(c)
	if !ok {
		return
	}
	if req.Shape.Spline == nil {
		fail(c, http.StatusUnprocessableEntity, "shape", "Only a spline takes more points: turn this path into points first.", nil)
		return
	}
	pts, closed := req.Shape.Spline.Resolve(), req.Shape.Spline.Closed
	spans := len(path.Spline(pts, closed))
	if req.After < 0 || req.After >= spans {
		fail(c, http.StatusUnprocessableEntity, "shape", fmt.Sprintf("No stretch follows point %d: 0 to %d are accepted.", req.After, spans-1), nil)
		return
	}
	pts = path.InsertPoint(pts, closed, req.After, 0.5)
	c.JSON(http.StatusOK, ReadPath{Shape: scene.PathShape{Spline: scene.SplineOf(pts, closed)}})
}

// ReadMesh is a mesh file that the store has taken.
type ReadMesh struct {
	Asset  string     `json:"asset"`
	Name   string     `json:"name"`
	Points int        `json:"points"`
	Min    scene.Vec3 `json:"min"` // in the file's own units
	Max    scene.Vec3 `json:"max"`
}

// taken reads an uploaded file, in its turn, and keeps it; ok is false where that is answered.
func taken[T any](s *Server, c *gin.Context, read func(ctx context.Context, name string, data []byte) (T, error)) (x T, id, name string, ok bool) {
	data, err := readAll(c, maxImport)
	if err != nil {
		s.failWith(c, err)
		return x, "", "", false
	}
	name, ctx := filepath.Base(c.Query("file")), c.Request.Context()
	if x, err = inTurn(ctx, s.answers, func() (T, error) { return read(ctx, name, data) }); err != nil {
		fail(c, http.StatusUnprocessableEntity, "file", err.Error(), nil)
		return x, "", "", false
	}
	if id, err = s.cfg.Store.PutAsset(ctx, name, data); err != nil {
		s.failWith(c, err)
		return x, "", "", false
	}
	return x, id, name, true
}

// takeMesh keeps an uploaded mesh file.
func (s *Server) takeMesh(c *gin.Context) {
	mesh, id, name, ok := taken(s, c, formats.ReadMesh)
	if !ok {
		return
	}
	box := geom.EmptyBox()
	for _, p := range mesh.Points {
		box = box.Extend(p)
	}
	c.JSON(http.StatusCreated, ReadMesh{id, name, len(mesh.Points), box.Min.Array(), box.Max.Array()})
}

// ReadFigure is a figure's file that the store has taken, with what is proposed of it.
type ReadFigure struct {
	Asset  string         `json:"asset"`
	Name   string         `json:"name"`
	Figure rig.FigureFile `json:"figure"`
}

// takeFigure keeps an uploaded figure's file.
func (s *Server) takeFigure(c *gin.Context) {
	f, id, name, ok := taken(s, c, formats.ReadFigure)
	if !ok {
		return
	}
	c.JSON(http.StatusCreated, ReadFigure{id, name, rig.DescribeFigure(f, !strings.EqualFold(filepath.Ext(name), ".bvh"))})
}

// EdgeChain is a chain of a fixture's edges, in the world.
type EdgeChain struct {
	Points []scene.Vec3 `json:"points"`
	Closed bool         `json:"closed"`
	Length float64      `json:"length"`
}

// wire sends the edges of a part in its own axes, six numbers an edge, for pointing
// at them.
func (s *Server) wire(c *gin.Context) {
	var req AskWire
	if !body(c, &req) {
		return
	}
	compiled, err := s.standing(c.Request.Context(), req.Part, scene.Fixture{ID: "one", Name: "One", Part: req.Part.ID})
	var mesh *surface.Mesh
	if err == nil {
		mesh, err = compiled.Parts[0].Solid()
	}
	if err != nil {
		s.failWith(c, err)
		return
	}
	out := []float32{}
	for _, p := range mesh.Wire() {
		out = append(out, float32(p.X), float32(p.Y), float32(p.Z))
	}
	c.JSON(http.StatusOK, out)
}

// standing compiles one part that stands alone, without what it is made of, which is its scene's.
func (s *Server) standing(ctx context.Context, part scene.Part, fixture scene.Fixture) (*rig.Scene, error) {
	part.Material, part.Surfaces = "", nil
	doc := &scene.Document{Bead: scene.Version, Name: "edges", FPS: 24, Range: scene.Range{First: 1, Last: 1},
		Parts: []scene.Part{part}, Fixtures: []scene.Fixture{fixture}}
	doc.FillDefaults()
	if faults := doc.Check(); len(faults) > 0 {
		return nil, faults
	}
	return s.compile(ctx, doc)
}

// edges follows the edges of a fixture from the place that was pointed at.
func (s *Server) edges(c *gin.Context) {
	var req AskEdges
	if !body(c, &req) {
		return
	}
	compiled, err := s.standing(c.Request.Context(), req.Part, req.Fixture)
	if err != nil {
		s.failWith(c, err)
		return
	}
	f := &compiled.Fixtures[0]
	mesh, err := compiled.Parts[0].Solid()
	var chain surface.Chain
	if err == nil {
		chain, err = mesh.Follow(f.ToOwn(geom.FromArray(req.At)), req.Way)
	}
	if err != nil {
		fail(c, http.StatusUnprocessableEntity, "edge", err.Error(), nil)
		return
	}
	out := EdgeChain{Closed: chain.Closed, Points: make([]scene.Vec3, len(chain.Points))}
	for i, p := range chain.Points {
		out.Points[i] = f.ToWorld(p).Array()
		if i > 0 || chain.Closed {
			out.Length += p.Sub(chain.Points[(i+len(chain.Points)-1)%len(chain.Points)]).Norm()
		}
	}
	c.JSON(http.StatusOK, out)
}

// beltOrder finds the order of a belt round the outside of a shape's wheels; those that are
// free come last.
func (s *Server) beltOrder(c *gin.Context) {
	req, ok := s.shape(c)
	if !ok {
		return
	}
	w := req.Shape.Wrap
	if w == nil {
		fail(c, http.StatusBadRequest, "shape", "This is no belt round wheels.", nil)
		return
	}
	wheels, of := w.Circles()
	order := []int{}
	for _, k := range mech.Order(wheels) {
		order = append(order, of[k])
	}
	for i := range w.Wheels {
		if w.Wheels[i].Free {
			order = append(order, i)
		}
	}
	c.JSON(http.StatusOK, order)
}
