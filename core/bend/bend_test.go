package bend_test

import (
	"math"
	"testing"
	"time"

	"bead/core/bend"
	"bead/core/geom"
	"bead/core/part"
)

var house = bend.Axes{Side: geom.V(1, 0, 0), Up: geom.V(0, 1, 0), Forward: geom.V(0, 0, 1)}

// sections asks a way for every place of a body.
func sections(b *bend.Body, w *bend.Work, amounts []float64, way func(z float64) bend.Section) []bend.Section {
	b.Pose(w, amounts)
	out := make([]bend.Section, len(w.Places))
	for i, z := range w.Places {
		out[i] = way(z)
	}
	return out
}

func bent(b *bend.Body, amounts []float64, way func(z float64) bend.Section) (pos, nor []float32) {
	var w bend.Work
	s := sections(b, &w, amounts, way)
	pos, nor = make([]float32, 3*b.Vertices()), make([]float32, 3*b.Vertices())
	b.Bend(pos, nor, &w, s)
	return pos, nor
}

func straight(z float64) bend.Section {
	return bend.Section{P: geom.V(0, 0, z), S: geom.V(1, 0, 0), U: geom.V(0, 1, 0), T: geom.V(0, 0, 1), W: 1, K: 1}
}

// circle is a circle of radius r in the plane of side and forward that turns towards +x, begun
// at the origin, with taper, twist and stretch if they are not 0.
func circle(r, dw, tau, k float64) func(z float64) bend.Section {
	return func(z float64) bend.Section {
		s := k * z
		sin, cos := math.Sincos(s / r)
		t := geom.V(sin, 0, cos)
		side, up := geom.V(cos, 0, -sin), geom.V(0, 1, 0)
		q, c := math.Sincos(tau * s)
		// Turned about forward; the curvature is towards the untwisted side.
		S, U := side.Mul(c).Mad(up, q), up.Mul(c).Mad(side, -q)
		kappa := side.Mul(1 / r)
		return bend.Section{P: geom.V(r-r*cos, 0, r*sin), S: S, U: U, T: t, W: 1 + dw*z, DW: dw, K: k,
			Ks: kappa.Dot(S), Ku: kappa.Dot(U), Tau: tau}
	}
}

func box(t *testing.T, segments int) *geom.Mesh {
	t.Helper()
	m, err := part.Box(0.3, 0.2, 2)
	if err != nil {
		t.Fatal(err)
	}
	return part.Slice(m, geom.V(0, 0, 1), segments)
}

// A straight path gives the part back (MATH 7: to 1e-12; the mesh itself to the bit).
func TestStraight(t *testing.T) {
	m := box(t, 40)
	b := bend.New(m, house, 1)
	pos, nor := bent(b, nil, straight)
	for i := range pos {
		if pos[i] != m.Positions[i] || math.Abs(float64(nor[i]-m.Normals[i])) > 1e-7 {
			t.Fatalf("float %d: %v %v, the part has %v %v", i, pos[i], nor[i], m.Positions[i], m.Normals[i])
		}
	}
	s := straight(0.7)
	if d := s.At(0.1, -0.2, 0).Sub(geom.V(0.1, -0.2, 0.7)).Norm(); d > 1e-12 {
		t.Errorf("off by %g", d)
	}
}

// A circle makes a box an annular sector: every vertex at its exact radius and angle, and the
// sides' normals along or against the radius (closed form).
func TestAnnularSector(t *testing.T) {
	const r = 1.7
	m := box(t, 40)
	b := bend.New(m, house, 1)
	if got := len(b.Stations); got != 41 {
		t.Fatalf("%d sections of a box cut into 40", got)
	}
	pos, nor := bent(b, nil, circle(r, 0, 0, 1))
	for i := 0; i < len(pos); i += 3 {
		x, y, z := float64(m.Positions[i]), float64(m.Positions[i+1]), float64(m.Positions[i+2])
		dx, dz := float64(pos[i])-r, float64(pos[i+2])
		if d := math.Hypot(dx, dz); math.Abs(d-(r-x)) > 3e-7 {
			t.Fatalf("vertex %d at radius %.9f, not %.9f", i/3, d, r-x)
		}
		if a := math.Atan2(dz, -dx); math.Abs(a-z/r) > 3e-7 || math.Abs(float64(pos[i+1])-y) > 1e-7 {
			t.Fatalf("vertex %d at angle %g, not %g", i/3, a, z/r)
		}
		if m.Normals[i] != 0 {
			in := float64(m.Normals[i]) * (float64(nor[i])*-dx + float64(nor[i+2])*-dz) / math.Hypot(dx, dz)
			if math.Abs(in-1) > 1e-6 {
				t.Fatalf("vertex %d: its normal points %g along the radius", i/3, in)
			}
		}
	}
}

// Normals against the finite differences of the positions, with taper, twist and stretch at once.
func TestNormals(t *testing.T) {
	way := circle(0.8, -0.15, 0.9, 1.3)
	for _, n := range []geom.Vec{geom.V(1, 0, 0), geom.V(0, -1, 0), geom.V(0, 0, 1), geom.V(0.36, 0.48, 0.8)} {
		for _, p := range []geom.Vec{geom.V(0.2, 0.1, 0.3), geom.V(-0.3, 0.25, -0.9)} {
			at := func(q geom.Vec) geom.Vec { s := way(q.Z); return s.At(q.X, q.Y, 0) }
			// Two directions in the surface, moved by differences, span the bent surface.
			a := geom.AnyPerpendicular(n)
			c := n.Cross(a)
			const h = 1e-5
			du := at(p.Mad(a, h)).Sub(at(p.Mad(a, -h)))
			dv := at(p.Mad(c, h)).Sub(at(p.Mad(c, -h)))
			want := du.Cross(dv).Unit()
			m := &geom.Mesh{
				Positions: []float32{float32(p.X), float32(p.Y), float32(p.Z)}, Normals: []float32{float32(n.X), float32(n.Y), float32(n.Z)},
			}
			_, nor := bent(bend.New(m, house, 1), nil, way)
			got := geom.V(float64(nor[0]), float64(nor[1]), float64(nor[2]))
			if d := got.Sub(want).Norm(); d > 1e-6 {
				t.Errorf("at %v a normal %v goes to %v, differences say %v", p, n, got, want)
			}
		}
	}
}

// What is fastened keeps its form: a wire's ring stays round when the coil is drawn out and bent.
func TestRigidSections(t *testing.T) {
	m, err := part.Coil(part.CoilSize{Radius: 0.2, Pitch: 0.06, Turns: 5, Wire: 0.02})
	if err != nil {
		t.Fatal(err)
	}
	pos, _ := bent(bend.New(m, house, 1), nil, circle(1, 0, 0, 3))
	row := 0
	for m.Spine[row] == m.Spine[0] {
		row++
	}
	for first := 0; first+row <= len(m.Spine); first += row {
		at := func(list []float32, k int) geom.Vec {
			k = 3 * (first + k)
			return geom.V(float64(list[k]), float64(list[k+1]), float64(list[k+2]))
		}
		for k := 1; k < row; k++ {
			was, is := at(m.Positions, k).Sub(at(m.Positions, 0)).Norm(), at(pos, k).Sub(at(pos, 0)).Norm()
			if math.Abs(was-is) > 1e-6 {
				t.Fatalf("ring at %d: a chord of %g became %g", first, was, is)
			}
		}
	}
}

// A blend is put on before bending: bending the blended part gives the same.
func TestBlendBeforeBend(t *testing.T) {
	m, err := part.Eel(part.EelSize{Length: 1.2, Girth: 0.14})
	if err != nil {
		t.Fatal(err)
	}
	open := *m
	open.Positions, open.Normals, open.Blends = append([]float32(nil), m.Positions...), append([]float32(nil), m.Normals...), nil
	for i, d := range m.Blends[0].Positions {
		open.Positions[i] += d
		open.Normals[i] += m.Blends[0].Normals[i]
	}
	way := circle(0.5, 0, 0.4, 1)
	got, gotN := bent(bend.New(m, house, 1), []float64{1}, way)
	want, wantN := bent(bend.New(&open, house, 1), nil, way)
	for i := range got {
		if math.Abs(float64(got[i]-want[i])) > 1e-6 || math.Abs(float64(gotN[i]-wantN[i])) > 1e-5 {
			t.Fatalf("float %d: %v %v, not %v %v", i, got[i], gotN[i], want[i], wantN[i])
		}
	}
	shut, _ := bent(bend.New(m, house, 1), nil, way)
	moved := 0.0
	for i := range got {
		moved = max(moved, math.Abs(float64(got[i]-shut[i])))
	}
	if moved < 0.02 {
		t.Errorf("the open jaw moves nothing by more than %g", moved)
	}
}

func TestAllocatesNothing(t *testing.T) {
	m, _ := part.Eel(part.EelSize{Length: 1.2, Girth: 0.14})
	b := bend.New(m, house, 1)
	var w bend.Work
	s := sections(b, &w, []float64{0.5}, straight)
	pos, nor := make([]float32, 3*b.Vertices()), make([]float32, 3*b.Vertices())
	if n := testing.AllocsPerRun(20, func() { b.Pose(&w, []float64{0.5}); b.Bend(pos, nor, &w, s) }); n > 0 {
		t.Errorf("%g allocations a frame", n)
	}
}

// BenchmarkBend bends about 20,000 vertices, an eel's. It reports vertices a second with normals on all cores, and the time beside that of
// a plain copy of the same arrays on one core.
func BenchmarkBend(b *testing.B) {
	m, err := part.Tube(part.TubeSize{Length: 4, Radius: 0.1})
	if err != nil {
		b.Fatal(err)
	}
	body := bend.New(part.Slice(m, geom.V(0, 0, 1), 270), house, 1)
	n := body.Vertices()
	var w bend.Work
	s := sections(body, &w, nil, circle(2, 0, 0.1, 1))
	b.RunParallel(func(pb *testing.PB) {
		var own bend.Work
		body.Pose(&own, nil)
		pos, nor := make([]float32, 3*n), make([]float32, 3*n)
		for pb.Next() {
			body.Bend(pos, nor, &own, s)
		}
	})
	perFrame := b.Elapsed().Seconds() / float64(b.N)
	from, to := make([]float32, 6*n), make([]float32, 6*n)
	rounds, start := 0, time.Now()
	for ; time.Since(start) < 200*time.Millisecond; rounds++ {
		copy(to, from)
	}
	perCopy := time.Since(start).Seconds() / float64(rounds)
	b.ReportMetric(float64(n)/perFrame/1e6, "Mvertices/s")
	b.ReportMetric(perFrame/perCopy, "x-plain-copy")
}
