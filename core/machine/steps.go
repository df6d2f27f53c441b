package machine

import (
	"fmt"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/scene"
)

// stepping takes shaping steps: when a scene is compiled, and when a path is made
// anew for a frame.
type stepping struct {
	cache *path.Cache
	curve func(id string) *path.Curve // nil when it has a fault of its own
	on    *Machine
	path  int
	frame float64
}

// step takes shaping step k.
func (b *stepping) step(k int, s *scene.Step, in *path.Curve) (out *path.Curve, note string, err error) {
	if x, alone := s.One().(scene.Shaper); alone {
		did, err := x.Shape(in)
		if err != nil {
			return nil, "", err
		}
		out, err = b.cache.New(did.Spans, did.Closed)
		return out, did.Note, err
	}
	closed := in.Closed()
	spans := in.Spans()
	switch {
	case s.Join != nil:
		return b.join(s.Join, in)
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
func (b *stepping) onGround(in *path.Curve, do func(in *path.Curve, land path.Land) []path.Span) ([]path.Span, error) {
	// As it lies in the first frame: a step of shape does not change from frame to frame.
	pose := b.on.PathPlace(b.path, b.on.Clock.First)
	if pose == geom.Still {
		return do(in, b.on.land()), nil
	}
	world, err := b.cache.New(path.MoveAll(in.Spans(), pose.Apply), in.Closed())
	if err != nil {
		return nil, err
	}
	return path.MoveAll(do(world, b.on.land()), pose.Inverse().Apply), nil
}

// land is the ground that paths lie on.
func (s *Machine) land() path.Land {
	if len(s.ground) == 0 {
		return nil
	}
	return s.ground.Smooth
}

// LowestOf is the least height above the ground of path i as it is in the first frame, and a
// distance at which it is.
func (s *Machine) LowestOf(i int) (height, at float64) {
	pose := s.PathPlace(i, s.Clock.First)
	if pose == geom.Still {
		return s.Paths[i].Above(s.land(), nil)
	}
	return s.Paths[i].Above(s.land(), pose.Apply)
}

func (b *stepping) join(s *scene.JoinStep, in *path.Curve) (*path.Curve, string, error) {
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
