package figure_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"bead/core/figure"
	"bead/core/geom"
)

var x, y, z = geom.V(1, 0, 0), geom.V(0, 1, 0), geom.V(0, 0, 1)

func at(p geom.Vec) geom.Rigid { m := geom.Still; m.P = p; return m }

// walker is a root that glides ahead at an even pace over two legs of two bones, 3 and 4 long, whose
// feet stand for the first and the second half of a round and swing forward in the other: their keys
// come from the law of cosines, done here by hand. A round takes a second and goes 2.
func walker(keys int) *figure.Figure {
	f := &figure.Figure{Joints: []figure.Joint{{Name: "root", Parent: -1, Rest: at(geom.V(0, 6.5, 0))}}}
	for s, name := range []string{"left", "right"} {
		side := 1 - 2*float64(s)
		n := len(f.Joints)
		f.Joints = append(f.Joints,
			figure.Joint{Name: name + " hip", Parent: 0, Rest: at(geom.V(side, 0, 0))},
			figure.Joint{Name: name + " knee", Parent: n, Rest: at(geom.V(0, -3, 0))},
			figure.Joint{Name: name + " foot", Parent: n + 1, Rest: at(geom.V(0, -4, 0)), Ends: []geom.Vec{{Y: -0.1, Z: 0.5}}})
	}
	for k := range keys + 1 {
		u := float64(k) / float64(keys)
		turns, shifts := make([]geom.Quat, 7), make([]geom.Vec, 7)
		for i := range turns {
			turns[i], shifts[i] = geom.Identity, f.Joints[i].Rest.P
		}
		shifts[0].Z = 2 * u
		for s := range 2 {
			// Where the foot is beside the hip: it stands for half a round, and swings for half.
			v := u + float64(s)/2
			v -= math.Floor(v)
			ahead, lift := 0.5-2*v, 0.0
			if v > 0.5 {
				ahead, lift = -0.5+2*(v-0.5), 0.6*math.Sin(2*math.Pi*(v-0.5))
			}
			goal := geom.V(0, -6.5+0.5+lift, ahead)
			d := goal.Norm()
			hip := math.Acos((9 + d*d - 16) / (6 * d))
			knee := math.Pi - math.Acos((9+16-d*d)/24)
			// Straight down is -y; a turn about -x by a takes it ahead.
			turns[3*s+1] = geom.Rotation(x, -(math.Atan2(goal.Z, -goal.Y) + hip))
			turns[3*s+2] = geom.Rotation(x, knee)
			turns[3*s+3] = turns[3*s+1].Mul(turns[3*s+2]).Inverse() // level
		}
		f.Times, f.Turns, f.Shifts = append(f.Times, u), append(f.Turns, turns), append(f.Shifts, shifts)
	}
	return f
}

// The cycle is found: that it closes, its period, its stride, its axes, its two feet with legs of two
// bones, and when they stand.
func TestGait(t *testing.T) {
	f := walker(120)
	if err := f.Check(); err != nil {
		t.Fatal(err)
	}
	forward, up, goes := f.Axes()
	if forward != z || up != y || math.Abs(goes-2) > 1e-12 {
		t.Errorf("forward %v, up %v, %g", forward, up, goes)
	}
	g := figure.NewGait(f, forward, up, geom.Vec{}, 1, 0)
	if !g.Closed || math.Abs(g.Stride-2) > 1e-12 || g.Period != 1 || g.MissPlace > 1e-9 || !g.Moves() {
		t.Errorf("%+v", g)
	}
	feet := g.FindFeet()
	if len(feet) != 2 || f.Joints[feet[0].Joint].Name != "left foot" || len(feet[0].Leg) != 2 || feet[0].Tip {
		t.Fatalf("%+v", feet)
	}
	for i, want := range [][2]float64{{0, 0.5}, {0.5, 1}} {
		p := g.FindPlants(&feet[i])
		if len(p) != 1 || math.Abs(p[0].From-want[0]) > 0.03 && math.Abs(p[0].From-want[0]-1) > 0.03 || math.Abs(p[0].To-p[0].From-0.5) > 0.04 {
			t.Errorf("foot %d stands in %v, want %v", i, p, want)
		}
		if s := g.Slide(&feet[i], []figure.Plant{{want[0] + 0.01, want[1] - 0.01}}); s > 1e-3 { // between keys of a 120th
			t.Errorf("foot %d slides by %g", i, s)
		}
	}
	// After three rounds the root is three strides on, and each joint as it was.
	a, _ := g.Straight(nil, nil, 0.3)
	b, _ := g.Straight(nil, nil, 3.3)
	for i := range a {
		if d := b[i].P.Sub(a[i].P).Sub(geom.V(0, 0, 6)).Norm(); d > 1e-9 {
			t.Errorf("%s: %g off after three rounds", f.Joints[i].Name, d)
		}
	}
	if back, _ := g.Straight(nil, nil, -0.7); back[3].P.Sub(a[3].P).Sub(geom.V(0, 0, -2)).Norm() > 1e-9 {
		t.Error("a round back is not a stride back")
	}
	// Cut one key short it does not close and has the same stride; on the spot a stride can be given.
	short := *f
	short.Times, short.Turns, short.Shifts = f.Times[:120], f.Turns[:120], f.Shifts[:120]
	if g := figure.NewGait(&short, z, y, geom.Vec{}, 1, 0); g.Closed || math.Abs(g.Stride-2) > 1e-9 || math.Abs(g.Period-1) > 1e-9 {
		t.Errorf("cut short: %+v", g)
	}
	spot := walker(60)
	for k := range spot.Shifts {
		spot.Shifts[k][0].Z = 0
	}
	if g := figure.NewGait(spot, z, y, geom.Vec{}, 1, 0); g.Moves() || g.Stride != 0 {
		t.Errorf("on the spot: %+v", g)
	}
	given := figure.NewGait(spot, z, y, geom.Vec{}, 1, 2)
	c, _ := given.Straight(nil, nil, 1.3)
	if d := c[3].P.Sub(a[3].P).Sub(geom.V(0, 0, 2)).Norm(); d > 1e-3 {
		t.Errorf("with its stride given: %g off", d)
	}
}

// What a cycle strays to the side and up in a round is taken out: it goes as one that does not stray.
func TestGaitThatStrays(t *testing.T) {
	f, strays := walker(60), walker(60)
	for k := range strays.Times {
		strays.Shifts[k][0] = strays.Shifts[k][0].Add(geom.V(0.3, -0.2, 0).Mul(strays.Times[k]))
	}
	g, h := figure.NewGait(f, z, y, geom.Vec{}, 1, 0), figure.NewGait(strays, z, y, geom.Vec{}, 1, 0)
	if math.Abs(h.Aside-0.3) > 1e-12 || math.Abs(h.Rise+0.2) > 1e-12 {
		t.Errorf("it strays by %g and %g", h.Aside, h.Rise)
	}
	for _, rounds := range []float64{0.4, 2.9, -1.3} {
		a, _ := g.Straight(nil, nil, rounds)
		b, _ := h.Straight(nil, nil, rounds)
		for i := range a {
			if d := a[i].P.Sub(b[i].P).Norm(); d > 1e-9 {
				t.Errorf("after %g rounds %s is %g off", rounds, f.Joints[i].Name, d)
			}
		}
	}
}

// Turned axes and another scale give the same gait.
func TestGaitTurned(t *testing.T) {
	f := walker(60)
	g := figure.NewGait(f, z, y, geom.Vec{}, 1, 0)
	// y to z, z to -x: as from a program whose up is z.
	turn := geom.FromBasis(geom.V(0, -1, 0), z, geom.V(-1, 0, 0))
	o := walker(60)
	for i := range o.Joints {
		o.Joints[i].Rest.P = turn.Apply(f.Joints[i].Rest.P).Mul(100)
		for e := range o.Joints[i].Ends {
			o.Joints[i].Ends[e] = turn.Apply(f.Joints[i].Ends[e]).Mul(100)
		}
		for k := range o.Times {
			o.Shifts[k][i] = turn.Apply(f.Shifts[k][i]).Mul(100)
			o.Turns[k][i] = turn.Mul(f.Turns[k][i]).Mul(turn.Inverse())
		}
	}
	forward, up, _ := o.Axes()
	if forward != geom.V(-1, 0, 0) || up != z {
		t.Fatalf("forward %v, up %v", forward, up)
	}
	h := figure.NewGait(o, forward, up, geom.Vec{}, 0.01, 0)
	a, _ := g.Straight(nil, nil, 1.37)
	b, _ := h.Straight(nil, nil, 1.37)
	for i := range a {
		if d := a[i].P.Sub(b[i].P).Norm(); d > 1e-9 {
			t.Errorf("%s: %g off", f.Joints[i].Name, d)
		}
	}
	if back := h.ToFigure(b[4]); back.P.Sub(o.Globals(nil, o.Locals(nil, 0.37))[4].P.Sub(geom.V(200, 0, 0))).Norm() > 1e-6 {
		t.Errorf("back in the figure's axes it is at %v", back.P)
	}
}

// The law of cosines: bones 3 and 4, goal at 5: the knee is square. Other goals within reach are
// reached, lengths and the knee's side are kept; those beyond are pointed at.
func TestReach(t *testing.T) {
	leg := func() []geom.Rigid {
		return []geom.Rigid{at(geom.V(0, 7, 0)), at(geom.V(0, 4, 0.3).Sub(geom.V(0, 7, 0)).Unit().Mul(3).Add(geom.V(0, 7, 0)))}
	}
	j := leg()
	end := j[1].P.Add(geom.V(0, -4, 0))
	goal := geom.V(0, 2, 0)
	if short := figure.Reach(j, []int{0, 1}, end, goal); short != 0 {
		t.Errorf("short by %g", short)
	}
	if a := geom.Angle(j[0].P.Sub(j[1].P), goal.Sub(j[1].P)); math.Abs(a-math.Pi/2) > 1e-12 || j[1].P.Z <= 0 {
		t.Errorf("the knee has %g degrees at %v", a*180/math.Pi, j[1].P)
	}
	r := rand.New(rand.NewPCG(5, 6))
	for n := 2; n <= 5; n++ {
		for range 200 {
			joints, chain, whole := []geom.Rigid{at(geom.V(0, 0, 0))}, []int{0}, 0.0
			var long []float64
			for i := 1; i <= n; i++ {
				bone := geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64())
				joints = append(joints, at(joints[i-1].P.Add(bone)))
				long, whole = append(long, bone.Norm()), whole+bone.Norm()
				if i < n {
					chain = append(chain, i)
				}
			}
			end := joints[n].P
			goal := geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()).Unit().Mul(whole * (0.5 + 0.4*r.Float64()))
			short := figure.Reach(joints, chain, end, goal)
			if n == 2 && short > 1e-9 { // one bone is too long for it to fold so far
				continue
			}
			last := joints[n-1]
			// The end goes along with the last bone.
			for i := 1; i < n; i++ {
				if d := joints[i].P.Sub(joints[i-1].P).Norm(); math.Abs(d-long[i-1]) > 1e-9 {
					t.Fatalf("%d bones: one is %g long, was %g", n, d, long[i-1])
				}
			}
			if d := goal.Sub(last.P).Norm(); math.Abs(d-long[n-1]) > 1e-6*whole && short < 1e-9 {
				t.Fatalf("%d bones: the last ends %g from the goal, is %g long", n, d, long[n-1])
			}
			if short > 1e-7*whole {
				most := 0.0 // a bone longer than all others cannot fold to every goal
				for _, l := range long {
					most = max(most, l)
				}
				if goal.Norm() > 2*most-whole {
					t.Fatalf("%d bones of %v: %g short of %g", n, long, short, goal.Norm())
				}
			}
		}
	}
	far := leg()
	if short := figure.Reach(far, []int{0, 1}, far[1].P.Add(geom.V(0, -4, 0)), geom.V(0, 7, 9)); math.Abs(short-2) > 1e-9 || far[1].P.Sub(geom.V(0, 7, 3)).Norm() > 1e-9 {
		t.Errorf("short by %g, the knee at %v", short, far[1].P)
	}
}

// A skin of one joint a vertex goes along with it rigidly; of two, it lies between.
func TestSkin(t *testing.T) {
	f := walker(10)
	s := f.Bones()
	f.Skin = s
	if err := f.Check(); err != nil {
		t.Fatal(err)
	}
	joints := f.Globals(nil, f.Locals(nil, 0.3))
	n := len(s.Weights)
	p, q := make([]float32, 3*n), make([]float32, 3*n)
	s.Pose(p, q, joints, 1, nil)
	rest := f.AtRest()
	for v := range s.Weights {
		j := s.Joints[v][0]
		own := rest[j].Inverse().Apply(geom.V(float64(s.Mesh.Positions[3*v]), float64(s.Mesh.Positions[3*v+1]), float64(s.Mesh.Positions[3*v+2])))
		want := joints[j].Apply(own)
		if d := want.Sub(geom.V(float64(p[3*v]), float64(p[3*v+1]), float64(p[3*v+2]))).Norm(); d > 1e-5 {
			t.Fatalf("vertex %d is %g off", v, d)
		}
	}
	s.Weights[0] = [4]float32{0.5, 0.4}
	if err := f.Check(); err == nil || !strings.Contains(err.Error(), "sum to 0.9") {
		t.Errorf("%v", err)
	}
}

func TestWhatIsNoFigure(t *testing.T) {
	for says, change := range map[string]func(*figure.Figure){
		"no joints":          func(f *figure.Figure) { f.Joints = nil },
		"no keys":            func(f *figure.Figure) { f.Times = nil },
		"a second root":      func(f *figure.Figure) { f.Joints[3].Parent = -1 },
		"before the one":     func(f *figure.Figure) { f.Joints[3].Parent = 5 },
		"is not after":       func(f *figure.Figure) { f.Times[2] = f.Times[1] },
		"is no turn":         func(f *figure.Figure) { f.Turns[1][1] = geom.Quat{} },
		"at no place":        func(f *figure.Figure) { f.Joints[2].Rest.P.X = math.NaN() },
		"a tip of joint":     func(f *figure.Figure) { f.Joints[3].Ends[0].X = math.Inf(1) },
		"hangs from another": func(f *figure.Figure) { f.Joints[0].Parent = 2 },
		"keys of 7 joints":   func(f *figure.Figure) { f.Times = make([]float64, figure.MaxKeys+1) },
		"up to 500 are read": func(f *figure.Figure) { f.Joints = make([]figure.Joint, 501) },
	} {
		f := walker(10)
		change(f)
		if err := f.Check(); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
}

// Fewer keys: those that are wanted, and as many more as bring every joint to within the tolerance of
// all keys, measured here anew; with a wide one only the wanted are left.
func TestFewerKeys(t *testing.T) {
	f := walker(96)
	track := figure.NewTrack(f, 0.01)
	for k := range f.Times {
		joints := f.Globals(nil, f.Between(nil, k, k, 1))
		for i := range joints {
			joints[i].P = joints[i].P.Mul(0.01)
		}
		track.Add(f.Times[k], joints)
	}
	all := track.Figure()
	wanted := []int{0, 24, 48, 72, 96}
	for _, tol := range []float64{1e-2, 1e-3, 1e-5} {
		few, off := all.Fewer(wanted, tol)
		worst := 0.0
		for k, at := range all.Times {
			is, was := few.Globals(nil, few.Locals(nil, at-few.Times[0])), all.Globals(nil, all.Between(nil, k, k, 1))
			for i := range is {
				worst = max(worst, is[i].P.Sub(was[i].P).Norm())
			}
		}
		if off > tol || math.Abs(worst-off) > 1e-9 || len(few.Times) < 5 || len(few.Times) > 97 {
			t.Errorf("tolerance %g: %d keys, %g off, measured %g", tol, len(few.Times), off, worst)
		}
	}
	if few, _ := all.Fewer(wanted, 1); len(few.Times) != 5 {
		t.Errorf("%d keys, want the five", len(few.Times))
	}
	all.InPlace()
	if last := all.Shifts[96][0]; last.Z != all.Shifts[0][0].Z || math.Abs(last.Y-0.065) > 1e-9 {
		t.Errorf("in place its root is at %v", last)
	}
}
