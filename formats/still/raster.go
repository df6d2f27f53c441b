package still

import (
	"image"
	"image/color"
	"math"

	"bead/core/geom"
	"bead/core/look"
)

// eye is the camera: its axes right, up and ahead.
type eye struct {
	at               geom.Vec
	right, up, ahead geom.Vec
	deep             bool // with perspective
	// middle is what is in the middle of the picture and half what its half height is, both in metres, or
	// with perspective in metres at a distance of one.
	middle [2]float64
	half   float64
}

// mostWork is the most pixels that triangles cover in all, a second or two; what is beyond that is not drawn.
const mostWork = 150_000_000

// near is the distance from which on an eye with perspective sees things, metres.
const near = 0.01

// see projects a point to right, up and distance; ok is false behind the eye.
func (e *eye) see(p geom.Vec) (u, v, away float64, ok bool) {
	p = p.Sub(e.at)
	u, v, away = p.Dot(e.right), p.Dot(e.up), p.Dot(e.ahead)
	if !e.deep {
		return u, v, away, true
	}
	return u / away, v / away, away, away >= near
}

// eye stands where the scene's first camera does, or looks from the corner without perspective. What is
// there fills the picture.
func (d *drawing) eye() eye {
	const turn, tilt = 0.72, 0.42 // radians
	st, ct := math.Sincos(turn)
	sp, cp := math.Sincos(tilt)
	e := eye{right: geom.V(ct, 0, -st), up: geom.V(-st*sp, cp, -ct*sp), ahead: geom.V(-st*cp, -sp, -ct*cp)}
	if len(d.scene.Doc.Cameras) > 0 {
		first := d.scene.Look(0, d.pic.Frame)
		m := first.Place.Rigid()
		e = eye{at: m.P, right: m.X.Mul(-1), up: m.Y, ahead: m.Z, deep: true}
	}
	lo, hi := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	grow := func(p geom.Vec) {
		u, v, _, ok := e.see(p)
		for k, x := range [2]float64{u, v} {
			if ok {
				lo[k], hi[k] = min(lo[k], x), max(hi[k], x)
			}
		}
	}
	d.things(func(t *triangle) {
		for _, p := range t.at {
			grow(p)
		}
	})
	if lo[0] > hi[0] {
		d.lines(grow)
	}
	if lo[0] > hi[0] {
		lo, hi = [2]float64{-1, -1}, [2]float64{1, 1}
	}
	e.middle = [2]float64{(lo[0] + hi[0]) / 2, (lo[1] + hi[1]) / 2}
	e.half = max((hi[1]-lo[1])/2, (hi[0]-lo[0])/2*Height/Width, 1e-6) * (1 + 2*margin)
	return e
}

// canvas is a picture that is being drawn, in linear light.
type canvas struct {
	eye
	w, h  int
	light [][3]float32
	cover []float32
	depth []float32 // larger is nearer: 1 over the distance, or less the distance
	work  int       // pixels that were looked at for triangles
	// shade tells where the sun is kept off the ground.
	shade []bool
}

func newCanvas(w, h int, e eye) *canvas {
	c := &canvas{eye: e, w: w, h: h, light: make([][3]float32, w*h), cover: make([]float32, w*h), depth: make([]float32, w*h), shade: make([]bool, w*h)}
	for i := range c.depth {
		c.depth[i] = float32(math.Inf(-1))
	}
	return c
}

// place projects a point to the picture, with its depth; ok is false behind the eye.
func (c *canvas) place(p geom.Vec) (x, y, depth float64, ok bool) {
	u, v, away, ok := c.see(p)
	k := float64(c.h) / 2 / c.half
	if depth = -away; c.deep {
		depth = 1 / away
	}
	return float64(c.w)/2 + k*(u-c.middle[0]), float64(c.h)/2 - k*(v-c.middle[1]), depth, ok
}

// fill tells the pixels of a triangle, with the shares of its corners.
func (c *canvas) fill(x, y *[3]float64, tell func(i int, a, b, d float64)) {
	area := (x[1]-x[0])*(y[2]-y[0]) - (y[1]-y[0])*(x[2]-x[0])
	if area == 0 || math.IsNaN(area) {
		return
	}
	x0, x1 := span(min(x[0], x[1], x[2]), max(x[0], x[1], x[2]), c.w)
	y0, y1 := span(min(y[0], y[1], y[2]), max(y[0], y[1], y[2]), c.h)
	da, db := (y[1]-y[2])/area, (y[2]-y[0])/area // from pixel to pixel of a row
	for j := y0; j <= y1 && c.work < mostWork; j++ {
		px, py := float64(x0)+0.5, float64(j)+0.5
		a := ((x[1]-px)*(y[2]-py) - (y[1]-py)*(x[2]-px)) / area
		b := ((x[2]-px)*(y[0]-py) - (y[2]-py)*(x[0]-px)) / area
		from, to := 0.0, float64(x1-x0)
		for _, e := range [3][2]float64{{a, da}, {b, db}, {1 - a - b, -da - db}} {
			switch at := -e[0] / e[1]; { // where the row crosses that edge
			case e[1] > 0:
				from = max(from, at)
			case e[1] < 0:
				to = min(to, at)
			case e[0] < 0:
				to = -1
			}
		}
		c.work++
		if !(from <= to) { // or nowhere near
			continue
		}
		first, last := int(math.Ceil(from)), int(math.Floor(to))
		c.work += max(last-first+1, 0)
		for i := first; i <= last; i++ {
			u, v := a+float64(i)*da, b+float64(i)*db
			tell(j*c.w+x0+i, u, v, 1-u-v)
		}
	}
}

func span(lo, hi float64, of int) (from, to int) {
	return int(max(0, min(math.Floor(lo), float64(of)))), int(min(float64(of-1), max(math.Ceil(hi), -1)))
}

// triangle draws a triangle with a depth test.
func (c *canvas) triangle(t *triangle) {
	var x, y, z [3]float64
	for k := range t.at {
		var ok bool
		if x[k], y[k], z[k], ok = c.place(t.at[k]); !ok {
			return
		}
	}
	c.fill(&x, &y, func(i int, a, b, d float64) {
		depth := float32(a*z[0] + b*z[1] + d*z[2])
		if depth <= c.depth[i] {
			return
		}
		cover := float32(t.clear)
		if cover == 1 {
			c.depth[i] = depth
		}
		for k := range 3 {
			l := float32(a*t.light[0][k] + b*t.light[1][k] + d*t.light[2][k])
			c.light[i][k] = l*cover + c.light[i][k]*(1-cover)
		}
		c.cover[i] = cover + c.cover[i]*(1-cover)
	})
}

// seen is the number of fine pixels that are covered.
func (c *canvas) seen() (n int) {
	for _, x := range c.cover {
		if x > 0 {
			n++
		}
	}
	return n
}

// cast keeps the sun off level ground below a triangle.
func (c *canvas) cast(t *triangle, sun geom.Vec) {
	var x, y [3]float64
	for k, p := range t.at {
		if p.Y < -1e-3 || sun.Y < 0.05 {
			return
		}
		var ok bool
		if x[k], y[k], _, ok = c.place(p.Sub(sun.Mul(p.Y / sun.Y))); !ok {
			return
		}
	}
	c.fill(&x, &y, func(i int, _, _, _ float64) { c.shade[i] = true })
}

// dot is a round spot of a few pixels.
func (c *canvas) dot(p geom.Vec, r float64, s shade) {
	x, y, _, ok := c.place(p)
	if !ok {
		return
	}
	x0, x1 := span(x-r, x+r, c.w)
	y0, y1 := span(y-r, y+r, c.h)
	for j := y0; j <= y1; j++ {
		for i := x0; i <= x1; i++ {
			if math.Hypot(float64(i)+0.5-x, float64(j)+0.5-y) <= r {
				at := j*c.w + i
				c.cover[at] = float32(s.cover)
				for k := range 3 {
					c.light[at][k] = float32(s.light[k])
				}
			}
		}
	}
}

// shadow is how dark the sun's shadow is on the ground, and its softness in fine pixels.
const (
	shadow = 0.26
	soft   = 5
)

// picture is the mean of the fine pixels, with the shadow where nothing is seen.
func (c *canvas) picture() *image.NRGBA {
	dark := softened(c.shade, c.w, c.h)
	out := image.NewNRGBA(image.Rect(0, 0, c.w/fine, c.h/fine))
	for j := range c.h / fine {
		for i := range c.w / fine {
			var light [3]float64
			var cover, under float64
			for k := range fine * fine {
				at := (j*fine+k/fine)*c.w + i*fine + k%fine
				for n := range light {
					light[n] += float64(c.light[at][n]) / (fine * fine)
				}
				cover += float64(c.cover[at]) / (fine * fine)
				under += (1 - float64(c.cover[at])) * float64(dark[at]) * shadow / (fine * fine)
			}
			alpha := cover + under // the shadow is black
			if alpha == 0 {
				continue
			}
			var px [3]uint8
			for n := range px {
				px[n] = look.Shown(light[n] / alpha)
			}
			out.SetNRGBA(i, j, color.NRGBA{px[0], px[1], px[2], uint8(math.Round(255 * min(alpha, 1)))})
		}
	}
	return out
}

// softened is a mask whose edges are means over a few pixels, along both axes.
func softened(mask []bool, w, h int) []float32 {
	a, b := make([]float32, w*h), make([]float32, w*h)
	for i, on := range mask {
		if on {
			a[i] = 1
		}
	}
	mean := func(from, to []float32, lines, long, line, step int) {
		for l := range lines {
			sum := float32(0)
			for k := -soft; k < long; k++ {
				if in := k + soft; in < long {
					sum += from[l*line+in*step]
				}
				if out := k - soft - 1; out >= 0 {
					sum -= from[l*line+out*step]
				}
				if k >= 0 {
					to[l*line+k*step] = sum / (2*soft + 1)
				}
			}
		}
	}
	mean(a, b, h, w, w, 1)
	mean(b, a, w, h, 1, w)
	return a
}
