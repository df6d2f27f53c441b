package rig

import (
	"errors"
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/scene"
)

// builder takes shaping steps: when a scene is compiled, and when a path is made
// anew for a frame.
type builder struct {
	cache *path.Cache
	curve func(id string) *path.Curve // nil when it has a fault of its own
	scene *Scene
	path  int
	frame float64
}

// flatShare is the distance from its plane, as a share of the length, within which
// a path counts as flat.
const flatShare = 1e-6

// step takes shaping step k.
func (b *builder) step(k int, s *scene.Step, in *path.Curve) (out *path.Curve, note string, err error) {
	closed := in.Closed()
	spans := in.Spans()
	switch {
	case s.Reverse != nil:
		spans = path.Reverse(spans)
	case s.StartAt != nil:
		spans, err = in.StartAt(s.StartAt.Distance)
	case s.Close != nil:
		spans, closed = in.CloseUp(s.Close.Smooth), true
		if in.Closed() {
			note = "The path was closed before."
		}
	case s.Open != nil:
		if !closed {
			return nil, "", path.ErrOpenPath
		}
		if s.Open.Gap >= in.Length() {
			return nil, "", fmt.Errorf("a gap of %g m leaves nothing of a path %.6g m long", s.Open.Gap, in.Length())
		}
		spans, closed = in.Cut(0, in.Length()-s.Open.Gap), false
	case s.Extend != nil:
		spans, err = in.Extend(s.Extend.Before, s.Extend.After, s.Extend.Curved)
	case s.Trim != nil:
		spans, note, err = trim(s.Trim, in)
		closed = false
	case s.Join != nil:
		return b.join(s.Join, in)
	case s.Subdivide != nil:
		if n := len(spans) * s.Subdivide.Parts; n > path.MostSpans {
			return nil, "", path.TooMany(n)
		}
		spans = path.Subdivide(spans, s.Subdivide.Parts)
	case s.Resample != nil:
		spans = in.Resample(s.Resample.Count, s.Resample.Straight)
	case s.Simplify != nil:
		got := in.Simplify(s.Simplify.Tolerance)
		spans = got.Spans
		note = fmt.Sprintf("%d points instead of %d, at most %.3g mm off.", got.Points, points(in), got.Off*1000)
		if got.Kept {
			note = fmt.Sprintf("It keeps its %d points: as many others come no nearer than that.", points(in))
		}
	case s.Round != nil:
		tight := 0
		spans = in.RoundCorners(s.Round.Radius, func(at, got float64) {
			if tight++; tight == 1 {
				note = fmt.Sprintf("The corner at %.4g m has room for a radius of %.4g m only.", at, got)
			}
		})
		if n := len(in.Corners(0)); n == 0 {
			note = "The path has no corners."
		}
	case s.Smooth != nil:
		spans = in.Smooth(s.Smooth.Reach)
	case s.Offset != nil:
		spans, note, err = offset(s.Offset, in)
	case s.Mirror != nil:
		n := map[string]geom.Vec{"x": geom.V(1, 0, 0), "y": geom.V(0, 1, 0), "z": geom.V(0, 0, 1)}[s.Mirror.Axis]
		spans = path.Mirror(spans, n.Mul(s.Mirror.At), n)
	case s.Jitter != nil:
		if n := in.Length() / s.Jitter.Grain; n > path.MostSpans/10 {
			return nil, "", fmt.Errorf("a grain of %g m makes %.0f wavers: at least %.3g m is accepted", s.Jitter.Grain, n, in.Length()*10/path.MostSpans)
		}
		j := path.Jittering{Seed: s.Jitter.Seed, Amount: s.Jitter.Amount, Grain: s.Jitter.Grain, Direction: s.Jitter.Direction, Floor: s.Jitter.Floor, Phase: b.beat(s.Jitter.Beats)}
		if !j.Floor {
			spans = in.Jitter(j)
			break
		}
		spans, err = b.onGround(in, func(in *path.Curve, land path.Land) []path.Span {
			j.Land = land
			return in.Jitter(j)
		})
	case s.Wave != nil:
		spans, note, err = b.wave(s.Wave, in)
	case s.Lag != nil:
		if closed { // it would part where its end meets its start
			return nil, "", path.ErrClosedPath
		}
		spans = b.lag(k, s.Lag, in)
	case s.Drop != nil:
		spans, err = b.onGround(in, func(in *path.Curve, land path.Land) []path.Span {
			if s.Drop.Flat {
				return in.Drape(s.Drop.Clearance, land)
			}
			height, _ := in.Above(land, nil)
			note = fmt.Sprintf("Moved by %+.1f mm.", (s.Drop.Clearance-height)*1000)
			return in.Lower(s.Drop.Clearance, land)
		})
	}
	if err != nil {
		return nil, "", err
	}
	out, err = b.cache.New(spans, closed)
	return out, note, err
}

// onGround does to a curve what has to do with the ground, in the world, as the path lies there in
// the first frame.
func (b *builder) onGround(in *path.Curve, do func(in *path.Curve, land path.Land) []path.Span) ([]path.Span, error) {
	pose := b.scene.pathPose(b.path, b.scene.Clock.First)
	if pose == geom.Still {
		return do(in, b.scene.land()), nil
	}
	world, err := b.cache.New(path.MoveAll(in.Spans(), pose.Apply), in.Closed())
	if err != nil {
		return nil, err
	}
	return path.MoveAll(do(world, b.scene.land()), pose.Inverse().Apply), nil
}

// land is the ground that paths lie on.
func (s *Scene) land() path.Land {
	if len(s.ground) == 0 {
		return nil
	}
	return s.ground.Smooth
}

// LowestOf is the least height above the ground of path i as it is in the first frame, and a
// distance at which it is.
func (s *Scene) LowestOf(i int) (height, at float64) {
	pose := s.pathPose(i, s.Clock.First)
	if pose == geom.Still {
		return s.Paths[i].Above(s.land(), nil)
	}
	return s.Paths[i].Above(s.land(), pose.Apply)
}

func points(c *path.Curve) int {
	if c.Closed() {
		return len(c.Spans())
	}
	return len(c.Spans()) + 1
}

func trim(s *scene.TrimStep, in *path.Curve) ([]path.Span, string, error) {
	from, to := s.From, s.To
	if to == 0 {
		to = in.Length()
	}
	note := ""
	if to > in.Length() && !in.Closed() {
		note = fmt.Sprintf("The path ends at %.4g m.", in.Length())
	}
	if !in.Closed() && from >= in.Length() || in.Closed() && to-from > in.Length()*(1+1e-12) {
		return nil, "", fmt.Errorf("from %g m to %g m is not on a path %.6g m long", from, to, in.Length())
	}
	return in.Cut(from, to), note, nil
}

func (b *builder) join(s *scene.JoinStep, in *path.Curve) (*path.Curve, string, error) {
	if in.Closed() {
		return nil, "", path.ErrClosedPath
	}
	curves := []*path.Curve{in}
	for _, id := range s.Paths {
		other := b.curve(id)
		if other == nil {
			return nil, "", nil
		}
		curves = append(curves, other)
	}
	n := 0
	for _, c := range curves {
		n += len(c.Spans()) + 1 // with the bridge to the next
	}
	if n > path.MostSpans {
		return nil, "", path.TooMany(n)
	}
	spans, did, err := path.Join(curves, path.Joining{Snap: s.Snap, Smooth: s.Smooth, Turn: !s.Keep})
	if err != nil {
		return nil, "", err
	}
	turned, bridged := 0, 0
	for i, d := range did {
		if d.Turned {
			turned++
		}
		if i > 0 && d.Gap > s.Snap && d.Gap > 1e-9*in.Length() {
			bridged++
		}
	}
	out, err := b.cache.New(spans, false)
	return out, fmt.Sprintf("%s joined, %d turned round, %s bridged.", plural(len(curves), "path"), turned, plural(bridged, "gap")), err
}

func plural(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// offset moves out of a flat loop, else to the left of the path's run.
func offset(s *scene.OffsetStep, in *path.Curve) ([]path.Span, string, error) {
	d, normal := s.Distance, geom.V(0, 1, 0)
	pl := in.Plane()
	flat := !pl.Line && pl.Off <= flatShare*in.Length()
	switch {
	case s.Plane != "":
		along, across, err := path.Axes(string(s.Plane))
		if err != nil {
			return nil, "", err
		}
		normal = along.Cross(across)
		if flat && in.Closed() && pl.Normal.Dot(normal) > 0 {
			normal = normal.Neg()
		}
	case flat && in.Closed():
		normal = pl.Normal.Neg() // a loop turns about its normal, so this side is out
	case flat:
		normal = pl.Normal
		if normal.Y < -1e-9 || math.Abs(normal.Y) <= 1e-9 && normal.X+normal.Z < 0 {
			normal = normal.Neg()
		}
	}
	if _, t := in.At(0); pl.Line && math.Abs(t.Dot(normal)) > 1-1e-9 {
		return nil, "", errors.New("the path runs straight along the normal of that plane: another plane is accepted")
	}
	spans := in.Offset(d, normal)
	note := ""
	if k, at := in.Tightest(); k*math.Abs(d) > 1 {
		note = fmt.Sprintf("The bend at %.4g m has a radius of %.1f mm: where the offset turns into it the path folds.", at, 1000/k)
	}
	return spans, note, nil
}
