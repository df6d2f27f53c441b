package server

import (
	"fmt"
	"math"
	"net/http"
	"sort"
	"strings"

	"github.com/gin-gonic/gin"

	"bead/core/geom"
	"bead/core/rig"
)

// Cards show a scene's first frame as a small drawing: the pieces' boxes as flat
// shapes, far ones first, and the paths as lines.
const (
	cardWidth, cardHeight = 320.0, 180.0
	cardMargin            = 22.0
	cardPieces            = 600 // beyond that only every n-th piece is drawn
	cardTriangles         = 1500
)

type cardColours struct{ ground, contour, piece, edge, first, path string }

var cardThemes = map[string]cardColours{
	"light": {"#EFEBE1", "#DDD6C6", "#AEB6B8", "#5B686E", "#D9572B", "#2E7466"},
	"dark":  {"#16222A", "#22323B", "#4A585E", "#93A0A5", "#E8734A", "#5FB3A1"},
}

func (s *Server) picture(c *gin.Context) {
	sc, err := s.cfg.Store.Get(c.Request.Context(), c.Param("id"))
	if err != nil {
		s.failWith(c, err)
		return
	}
	compiled, err := s.compile(c.Request.Context(), sc.Doc)
	if err != nil {
		s.failWith(c, err)
		return
	}
	colours, known := cardThemes[c.Query("theme")]
	if !known {
		colours = cardThemes["light"]
	}
	// The address holds the revision, so a picture never changes.
	c.Header("Cache-Control", "private, max-age=86400")
	c.Data(http.StatusOK, "image/svg+xml", drawCard(compiled, colours))
}

// corner projects a point as the corner view looks at it: x and y on the card
// (y down) and depth towards the eye.
func corner(p geom.Vec) (x, y, depth float64) {
	const turn, tilt = 0.72, 0.42 // radians
	st, ct := math.Sincos(turn)
	sx, sz := p.X*ct-p.Z*st, p.X*st+p.Z*ct
	sp, cp := math.Sincos(tilt)
	return sx, -(p.Y*cp - sz*sp), sz*cp + p.Y*sp
}

type cardShape struct {
	depth float64
	pts   [][2]float64
	first bool
	still bool
}

func drawCard(s *rig.Scene, k cardColours) []byte {
	var pic rig.Picture
	frame := s.Doc.Range.First
	for i := range s.Rigs {
		frame = max(frame, s.Rigs[i].SettledFrame())
	}
	s.Frame(&pic, frame)
	var shapes []cardShape
	groups := s.Groups(nil)
	for i := range groups {
		shapes = append(shapes, groupShapes(&groups[i], &pic)...)
	}
	sort.SliceStable(shapes, func(a, b int) bool { return shapes[a].depth < shapes[b].depth })
	var lines [][][2]float64
	for i, c := range s.Paths {
		m := s.PathPlace(i, float64(frame))
		if pic.Curves[i] != nil {
			c = pic.Curves[i]
		}
		pts, _ := rig.Polyline(c, c.Length()*1e-3)
		line := make([][2]float64, 0, len(pts)/3)
		for i := 0; i < len(pts); i += 3 {
			x, y, _ := corner(m.Apply(geom.V(float64(pts[i]), float64(pts[i+1]), float64(pts[i+2]))))
			line = append(line, [2]float64{x, y})
		}
		lines = append(lines, line)
	}
	fit := fitCard(shapes, lines)
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g"><rect width="100%%" height="100%%" fill="%s"/>`, cardWidth, cardHeight, k.ground)
	for i := range 4 { // depth contours of the chart
		fmt.Fprintf(&b, `<ellipse cx="%g" cy="%g" rx="%d" ry="%d" fill="none" stroke="%s"/>`, cardWidth*0.56, cardHeight*0.7, 60+48*i, 20+18*i, k.contour)
	}
	trace := func(pts [][2]float64) {
		for _, p := range pts {
			x, y := fit(p)
			fmt.Fprintf(&b, "%.1f,%.1f ", x, y)
		}
	}
	for _, l := range lines {
		fmt.Fprintf(&b, `<polyline fill="none" stroke="%s" stroke-width="1.6" stroke-linejoin="round" points="`, k.path)
		trace(l)
		b.WriteString(`"/>`)
	}
	for _, sh := range shapes {
		fill, edge := k.piece, k.edge
		switch {
		case sh.first:
			fill = k.first
		case sh.still:
			fill, edge = k.contour, k.contour
		}
		fmt.Fprintf(&b, `<polygon fill="%s" stroke="%s" stroke-width="0.5" stroke-linejoin="round" points="`, fill, edge)
		trace(sh.pts)
		b.WriteString(`"/>`)
	}
	b.WriteString(`</svg>`)
	return []byte(b.String())
}

// groupShapes are the outlines of what belongs together.
func groupShapes(g *rig.Group, pic *rig.Picture) []cardShape {
	var out []cardShape
	slices := min(max(cardPieces/len(g.Things), 1), 48)
	every := len(g.Things)/cardPieces + 1
	radii := map[*rig.Model]float64{} // of wheels
	for n := 0; n < len(g.Things); n += every {
		model := g.Things[n].Model
		switch {
		case g.Surfaces && !g.Skeletal:
			out = append(out, looseShapes(g, pic, n)...)
		case g.Surfaces:
			out = append(out, surfaceShapes(g, pic, n, slices)...)
		case g.Alone:
			out = append(out, facetShapes(g.Place(pic, n), model.Mesh())...)
		case !model.Part: // wheels
			if radii[model] == 0 {
				radii[model] = model.Mesh().Bounds().Size().Y / 2
			}
			out = append(out, discShape(g.Place(pic, n), radii[model]))
		default:
			out = append(out, boxShape(g.Place(pic, n), model.Bounds, n == 0))
		}
	}
	return out
}

// point is where a point of a thing that stands at t is.
func point(t [rig.Stride]float32, p geom.Vec) geom.Vec {
	return rig.Place(t[:7]).Rigid().Apply(p.Mul(float64(t[7])))
}

// add takes in one of n points of a shape.
func (sh *cardShape) add(p geom.Vec, n int) {
	x, y, d := corner(p)
	sh.pts = append(sh.pts, [2]float64{x, y})
	sh.depth += d / float64(n)
}

// boxShape is the outline of a piece's box.
func boxShape(t [rig.Stride]float32, box geom.Box, first bool) cardShape {
	sh := cardShape{first: first}
	for i := range 8 {
		p := box.Min
		if i&1 > 0 {
			p.X = box.Max.X
		}
		if i&2 > 0 {
			p.Y = box.Max.Y
		}
		if i&4 > 0 {
			p.Z = box.Max.Z
		}
		sh.add(point(t, p), 8)
	}
	sh.pts = convexHull(sh.pts)
	return sh
}

// surfaceShapes are the outlines of slices of a surface along it.
func surfaceShapes(g *rig.Group, pic *rig.Picture, thing, slices int) []cardShape {
	body := g.Skeleton(thing)
	if !body.Shown(pic) {
		return nil
	}
	at, _ := g.Vertices(pic, thing)
	within := make([][]geom.Vec, slices)
	for v := range body.Vertices() {
		p := geom.V(float64(at[3*v]), float64(at[3*v+1]), float64(at[3*v+2]))
		u := (body.Place(v) - body.Tail) / body.Length() * float64(slices)
		k := min(max(int(u), 0), slices-1)
		within[k] = append(within[k], p)
		if k > 0 && u-float64(k) < 0.5 { // slices overlap, so that no gap is seen
			within[k-1] = append(within[k-1], p)
		}
	}
	var out []cardShape
	for k, points := range within {
		if len(points) > 2 {
			sh := cardShape{first: thing == 0 && k == slices-1}
			for _, p := range points {
				sh.add(p, len(points))
			}
			sh.pts = convexHull(sh.pts)
			out = append(out, sh)
		}
	}
	return out
}

// looseShapes are the triangles of a surface that face the eye, thinned where there are many.
func looseShapes(g *rig.Group, pic *rig.Picture, thing int) []cardShape {
	at, _ := g.Vertices(pic, thing)
	out := facetShapes([rig.Stride]float32{6: 1, 7: 1, 8: 1, 9: 1}, &geom.Mesh{Positions: at, Indices: g.Things[thing].Model.Mesh().Indices})
	for i := range out {
		out[i].still = false
	}
	return out
}

// discShape is a wheel's disc.
func discShape(t [rig.Stride]float32, r float64) cardShape {
	sh := cardShape{still: true}
	const corners = 24
	for k := range corners {
		sin, cos := math.Sincos(2 * math.Pi * float64(k) / corners)
		sh.add(point(t, geom.V(0, r*cos, r*sin)), corners)
	}
	return sh
}

// facetShapes are the triangles of a thing that face the eye, thinned where there are many.
func facetShapes(t [rig.Stride]float32, m *geom.Mesh) []cardShape {
	every := len(m.Indices)/3/cardTriangles + 1
	var out []cardShape
	for i := 0; i+2 < len(m.Indices); i += 3 * every {
		sh := cardShape{still: true}
		for _, v := range m.Indices[i : i+3] {
			p := m.Positions[3*v : 3*v+3]
			sh.add(point(t, geom.V(float64(p[0]), float64(p[1]), float64(p[2]))), 3)
		}
		a, b, c := sh.pts[0], sh.pts[1], sh.pts[2]
		if (b[0]-a[0])*(c[1]-a[1])-(b[1]-a[1])*(c[0]-a[0]) < 0 { // y runs down
			out = append(out, sh)
		}
	}
	return out
}

// convexHull by Andrew's monotone chain (Inf. Proc. Letters 9(5), 1979).
func convexHull(p [][2]float64) [][2]float64 {
	sort.Slice(p, func(a, b int) bool { return p[a][0] < p[b][0] || p[a][0] == p[b][0] && p[a][1] < p[b][1] })
	half := func(from, to, step int) [][2]float64 {
		var h [][2]float64
		for i := from; i != to; i += step {
			for len(h) > 1 {
				a, b := h[len(h)-2], h[len(h)-1]
				if (b[0]-a[0])*(p[i][1]-a[1])-(b[1]-a[1])*(p[i][0]-a[0]) > 0 {
					break
				}
				h = h[:len(h)-1]
			}
			h = append(h, p[i])
		}
		return h[:len(h)-1]
	}
	return append(half(0, len(p), 1), half(len(p)-1, -1, -1)...)
}

// fitCard maps projected points into the card's margins.
func fitCard(shapes []cardShape, lines [][][2]float64) func([2]float64) (x, y float64) {
	lo, hi := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	grow := func(pts [][2]float64) {
		for _, p := range pts {
			for i := range 2 {
				lo[i], hi[i] = min(lo[i], p[i]), max(hi[i], p[i])
			}
		}
	}
	for _, s := range shapes {
		grow(s.pts)
	}
	for _, l := range lines {
		grow(l)
	}
	k := min((cardWidth-2*cardMargin)/max(hi[0]-lo[0], 1e-9), (cardHeight-2*cardMargin)/max(hi[1]-lo[1], 1e-9))
	return func(p [2]float64) (float64, float64) {
		return cardWidth/2 + k*(p[0]-(lo[0]+hi[0])/2), cardHeight/2 + k*(p[1]-(lo[1]+hi[1])/2)
	}
}
