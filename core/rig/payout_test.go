package rig_test

import (
	"fmt"
	"math"
	"testing"

	"bead/core/geom"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
)

// payoutScene has a roll on a way, with what else the rig says.
func payoutScene(t *testing.T, shape, payout, travel string) *rig.Scene {
	t.Helper()
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":0,"last":48},
"parts":[{"id":"core","name":"Core","forward":"+x","shape":{"tube":{"length":1.1,"radius":0.05}}}],
"paths":[{"id":"p","name":"p","shape":%s}],
"rigs":[{"id":"r","name":"Mat","path":"p","part":"core","payout":%s,"facing":{"mode":"steady"},"travel":%s}]}`, shape, payout, travel))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

const (
	level  = `{"line":{"from":[0,0,0],"to":[0,0,12]}}`
	bumpy  = `{"spline":{"points":[{"at":[0,0,0]},{"at":[0,0.25,2]},{"at":[0,-0.1,4]},{"at":[0.4,0.3,6]},{"at":[0,0,9]}]}}`
	mat    = `{"width":1,"thickness":0.02,"radius":0.3,"core":0.05}`
	winder = `{"width":1,"thickness":0.02,"radius":0.3,"core":0.05,"winds":true}`
	onward = `{"keys":[{"frame":0,"value":0,"shape":"straight"},{"frame":48,"value":8}]}`
)

func vec(list []float32, i int) geom.Vec {
	return geom.V(float64(list[3*i]), float64(list[3*i+1]), float64(list[3*i+2]))
}

// Over bumps the sheet ends where the roll touches the way, in every frame: the nearest point of
// the hub's distance to the sheet's underside is its end, a radius away. The roll never comes into
// the way, and has turned by the integral of ds / r (both by brute force).
func TestPayoutMeetsItsSheet(t *testing.T) {
	for _, payout := range []string{mat, winder} {
		s := payoutScene(t, bumpy, payout, onward)
		var p rig.Picture
		turned, before := 0.0, s.Rigs[0].Payout(0)
		for f := 0.0; f <= 48; f += 0.25 {
			s.At(&p, f)
			now := s.Rigs[0].Payout(f)
			end := now.To
			if payout == winder {
				end = now.From
			}
			at, _ := s.Paths[0].At(end)
			if gap := at.Sub(now.Hub).Norm() - now.Radius; math.Abs(gap) > 1e-9 {
				t.Fatalf("frame %g: the end of the sheet is %g m off the roll", f, gap)
			}
			for d := 0.0; d < s.Paths[0].Length(); d += 0.005 {
				q, _ := s.Paths[0].At(d)
				q = q.Sub(now.Hub)
				if in := now.Radius - q.Mad(now.Side, -q.Dot(now.Side)).Norm(); math.Abs(d-end) < 0.4 && in > 1e-6 {
					t.Fatalf("frame %g: the roll is %g m in the way at %g", f, in, d)
				}
			}
			turned += 2 * (now.Laid - before.Laid) / (now.Radius + before.Radius)
			if math.Abs(turned-now.Turned) > 2e-4 {
				t.Fatalf("frame %g: turned %g, the sum of ds / r is %g", f, now.Turned, turned)
			}
			before = now
		}
	}
}

// The sheet and the roll are turned outwards and hold what they should: their volume by the
// divergence theorem against that of a bar and of a disc under a spiral.
func TestPayoutVolume(t *testing.T) {
	for _, payout := range []string{mat, winder} {
		s := payoutScene(t, level, payout, onward)
		var p rig.Picture
		for _, f := range []int{6, 24, 47} {
			s.Frame(&p, f)
			g := s.Groups(nil)
			if len(g) != 2 || g[1].Skeletal || !g[1].Surfaces || len(g[1].Things) != 2 {
				t.Fatalf("%+v", g)
			}
			now := s.Rigs[0].Payout(float64(f))
			laid := now.To - now.From
			sheet := volume(&g[1], &p, 0, geom.Vec{})
			if want := laid * 0.02; math.Abs(sheet-want) > 1e-5 {
				t.Errorf("frame %d: the sheet holds %g m3, not %g", f, sheet, want)
			}
			// Less the steps of the arms, and open at the core and where the sheet leaves it, which
			// seen from the hub counts little.
			roll := volume(&g[1], &p, 1, now.Hub)
			r, step := now.Radius, 0.02
			want := math.Pi * (r*r - r*step + step*step/3 - 0.0025/3) // under a spiral that falls by a thickness
			if math.Abs(roll-want) > 0.03*want {
				t.Errorf("frame %d: the roll holds %g m3, not about %g", f, roll, want)
			}
		}
	}
}

// volume is that within a surface, by the divergence theorem.
func volume(g *rig.Group, p *rig.Picture, thing int, from geom.Vec) float64 {
	at, _ := g.Vertices(p, thing)
	v := 0.0
	ix := g.Things[thing].Model.Mesh().Indices
	for i := 0; i+2 < len(ix); i += 3 {
		a, b, c := vec(at, int(ix[i])).Sub(from), vec(at, int(ix[i+1])).Sub(from), vec(at, int(ix[i+2])).Sub(from)
		v += a.Dot(b.Cross(c)) / 6
	}
	return v
}

// When it has run out the core stands where the sheet ends, and goes on by a value of its own,
// turning by its own radius; nothing jumps there.
func TestPayoutRunsOut(t *testing.T) {
	away := `{"width":1,"thickness":0.02,"radius":0.12,"core":0.05,"away":{"keys":[{"frame":0,"value":0,"shape":"straight"},{"frame":40,"value":0,"shape":"straight"},{"frame":48,"value":0.6}]}}`
	s := payoutScene(t, level, away, onward)
	length := math.Pi * (0.12*0.12 - 0.05*0.05) / 0.02
	end := s.Rigs[0].Payout(48)
	if math.Abs(end.To-length) > 1e-12 || math.Abs(end.Hub.Z-length-0.6) > 1e-9 || !end.Out {
		t.Errorf("at the end: %+v, %g laid", end, length)
	}
	at40 := s.Rigs[0].Payout(40)
	if math.Abs(end.Turned-at40.Turned-0.6/0.05) > 1e-9 {
		t.Errorf("the core has turned by %g on its own, not %g", end.Turned-at40.Turned, 0.6/0.05)
	}
	out := report.Of(s).Rigs[0].Payout
	if want := 48 * length / 8; out == nil || math.Abs(*out.RunsOut-want) > 1e-6 || math.Abs(out.Capacity-length) > 1e-12 {
		t.Errorf("it runs out at %v, not at frame %g", out, want)
	}
	if before, after := s.Rigs[0].Payout(*out.RunsOut-1e-6), s.Rigs[0].Payout(*out.RunsOut+1e-6); after.Hub.Sub(before.Hub).Norm() > 1e-5 {
		t.Errorf("it jumps from %v to %v", before.Hub, after.Hub)
	}
}

// In a dip tighter than itself a roll touches twice: on a V of 90 degrees it stands with its hub
// over the fold, and the sheet ends on the side behind, a radius from the fold (geometry).
func TestPayoutInADip(t *testing.T) {
	fold := `{"polyline":{"points":[[0,2,0],[0,0,2],[0,2,4]]}}`
	s := payoutScene(t, fold, `{"width":1,"thickness":0.001,"radius":0.3,"core":0.05}`, fmt.Sprint(2*math.Sqrt2))
	now := s.Rigs[0].Payout(0)
	r := now.Radius
	if math.Abs(now.Hub.Z-2) > 1e-6 || math.Abs(now.Hub.Y-r*math.Sqrt2) > 1e-6 || math.Abs(now.To-(2*math.Sqrt2-r)) > 1e-6 {
		t.Errorf("the hub is at %v with radius %g, the sheet ends at %g", now.Hub, r, now.To)
	}
}

// On a level line, which itself has no places between its ends, a texture's distance on the sheet is
// the distance along the way; what is drawn together reaches a quarter of the roll's radius back from it.
func TestPayoutTexture(t *testing.T) {
	s := payoutScene(t, level, mat, onward)
	uvs := s.Rigs[0].Moulds()[0].Mesh.UVs
	var p rig.Picture
	for f := 1.0; f < 48; f += 3.5 {
		s.At(&p, f)
		on, last := s.Rigs[0].Payout(f).To, 0.0
		for i := range len(uvs) / 2 {
			at := float64(uvs[2*i+1])
			if at > on {
				continue
			}
			last = max(last, at)
			if here := vec(p.Rigs[0].Positions, i).Z; math.Abs(at-here) > 1e-6 {
				t.Fatalf("frame %g: %g m of the texture lie at %g", f, at, here)
			}
		}
		if on-last > 0.3/4 {
			t.Errorf("frame %g: the texture is drawn together from %g to the roll at %g", f, last, on)
		}
	}
}
