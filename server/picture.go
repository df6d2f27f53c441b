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
	for i := range s.Trains {
		frame = max(frame, s.Trains[i].SettledFrame())
	}
	s.Frame(&pic, frame)
	var shapes []cardShape
	for i := range s.Fixtures {
		shapes = append(shapes, fixtureShapes(pic.Fixtures[i][:], s.Parts[s.Fixtures[i].Part].Mesh)...)
	}
	for i := range pic.Rigs {
		if s.Trains[i].Bends() {
			shapes = append(shapes, bodyShapes(&s.Trains[i], &pic.Rigs[i])...)
			continue
		}
		every := len(pic.Rigs[i].Distances)/cardPieces + 1
		for n := 0; n < len(pic.Rigs[i].Distances); n += every {
			bounds := s.Parts[s.Trains[i].PartOf(n)].Bounds
			shapes = append(shapes, pieceShape(pic.Rigs[i].Transforms[n*rig.Stride:], bounds, n == 0))
		}
	}
	for i := range pic.Wheels {
		pose := s.PathPlace(i, float64(frame))
		for k, w := range pic.Wheels[i] {
			shapes = append(shapes, wheelShape(pose, w.Place, s.WheelRadius(i, k)))
		}
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

// pieceShape is the outline of a piece's box.
func pieceShape(t []float32, box geom.Box, first bool) cardShape {
	q := geom.Quat{X: float64(t[3]), Y: float64(t[4]), Z: float64(t[5]), W: float64(t[6])}
	at := geom.V(float64(t[0]), float64(t[1]), float64(t[2]))
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
		x, y, d := corner(at.Add(q.Apply(p.Mul(float64(t[7])))))
		sh.pts = append(sh.pts, [2]float64{x, y})
		sh.depth += d / 8
	}
	sh.pts = convexHull(sh.pts)
	return sh
}

// bodyShapes are the outlines of slices of the bodies of a rig.
func bodyShapes(t *rig.Train, r *rig.Pieces) []cardShape {
	var out []cardShape
	slices := min(max(cardPieces/max(len(r.Reach), 1), 1), 48)
	at := 0
	for i := range r.Reach {
		body := t.Body(i)
		n := body.Vertices()
		if r.Reach[i].Shown {
			made := make([]cardShape, slices)
			counts := make([]int, slices)
			put := func(k int, p geom.Vec) {
				x, y, d := corner(p)
				made[k].pts = append(made[k].pts, [2]float64{x, y})
				made[k].depth += d
				counts[k]++
			}
			for v := range n {
				o := at + 3*v
				p := geom.V(float64(r.Positions[o]), float64(r.Positions[o+1]), float64(r.Positions[o+2]))
				u := (body.Place(v) - body.Tail) / body.Length() * float64(slices)
				k := min(max(int(u), 0), slices-1)
				put(k, p)
				if k > 0 && u-float64(k) < 0.5 { // slices overlap, so that no gap is seen
					put(k-1, p)
				}
			}
			for k := range made {
				if counts[k] > 2 {
					made[k].depth /= float64(counts[k])
					made[k].pts = convexHull(made[k].pts)
					made[k].first = i == 0 && k == slices-1
					out = append(out, made[k])
				}
			}
		}
		at += 3 * n
	}
	return out
}

// wheelShape is a wheel's disc.
func wheelShape(pose geom.Rigid, p rig.Place, r float64) cardShape {
	q := geom.Quat{X: float64(p[3]), Y: float64(p[4]), Z: float64(p[5]), W: float64(p[6])}
	sh := cardShape{still: true}
	const corners = 24
	for k := range corners {
		sin, cos := math.Sincos(2 * math.Pi * float64(k) / corners)
		at := geom.V(float64(p[0]), float64(p[1]), float64(p[2])).Add(q.Apply(geom.V(0, r*cos, r*sin)))
		x, y, d := corner(pose.Apply(at))
		sh.pts = append(sh.pts, [2]float64{x, y})
		sh.depth += d / corners
	}
	return sh
}

// fixtureShapes are the triangles of a fixture that face the eye, thinned where there
// are many.
func fixtureShapes(t []float32, m *geom.Mesh) []cardShape {
	q := geom.Quat{X: float64(t[3]), Y: float64(t[4]), Z: float64(t[5]), W: float64(t[6])}
	at := geom.V(float64(t[0]), float64(t[1]), float64(t[2]))
	every := len(m.Indices)/3/cardTriangles + 1
	var out []cardShape
	for i := 0; i+2 < len(m.Indices); i += 3 * every {
		sh := cardShape{still: true}
		for _, v := range m.Indices[i : i+3] {
			p := m.Positions[3*v : 3*v+3]
			x, y, d := corner(at.Add(q.Apply(geom.V(float64(p[0]), float64(p[1]), float64(p[2])))))
			sh.pts = append(sh.pts, [2]float64{x, y})
			sh.depth += d / 3
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
