package machine

import (
	"context"
	"fmt"
	"math"
	"slices"
	"sync"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/mech"
	"bead/core/path"
	"bead/core/scene"
	"bead/core/sim"
)

// wave is a compiled wave step.
type wave struct{ side, up, phase, with *Signal }

// liveSteps compiles the steps of path i that differ from frame to frame and marks the path as deforming;
// false when something has a fault.
func (c *Builder) liveSteps(i int) bool {
	p := &c.Doc.Paths[i]
	waves, lags := 0, 0
	for k := range p.Steps {
		s := &p.Steps[k]
		switch {
		case s.Wave != nil:
			waves++
			ref := fmt.Sprintf("paths/%s/wave%d-", p.ID, waves)
			w := &wave{side: c.Value(ref + "side"), up: c.Value(ref + "up"), phase: c.Value(ref + "phase")}
			if w.side == nil || w.up == nil || w.phase == nil {
				return false
			}
			if s.Wave.With != "" {
				// Only the rig's travel is asked for, not the rig: that may lie on this very path.
				if w.with = c.Value("rigs/" + s.Wave.With + "/travel"); w.with == nil {
					return false
				}
			}
			c.waves[s.Wave] = w
		case s.Lag != nil:
			if lags++; lags > maxLags {
				c.Say(fmt.Errorf("a path has up to %d steps lag", maxLags), "paths[%d].steps[%d].lag", i, k)
				return false
			}
			l := newLag(c.Machine, s.Lag)
			if !s.Off && c.Over(&c.spent.lagFrames, l.frames(c.Doc.Range), maxLagFrames, "frames of lags", "a first frame nearer to the range, a shorter range, or fewer lags are accepted", "paths[%d].steps[%d].lag", i, k) {
				return false
			}
			c.lags[s.Lag] = l
		}
	}
	c.deforms[i] = c.deforms[i] || slices.ContainsFunc(p.Steps, c.stepMoves)
	if h := p.Shape.Hang; h != nil {
		for _, id := range []string{h.FromOn, h.ToOn} {
			if id == "" {
				continue
			}
			if !c.Carrier(c.carrierAt[id]) {
				return false
			}
		}
		w, ok := c.winchOf(i)
		if !ok {
			return false
		}
		if w != nil {
			// What is paid out changes the shape, even while the drum stands in the first frame.
			c.winches[i], c.deforms[i] = w, true
			// Said while it is compiled; in later frames the check of tension sees it.
			first := c.paid(w, i, c.heldHang(i, h, c.Clock.First), c.Clock.First).hang
			v := geom.FromArray(first.To).Sub(geom.FromArray(first.From))
			if _, err := mech.Hang(math.Hypot(v.X, v.Z), v.Y, first.Length); err != nil {
				c.Say(fmt.Errorf("off its drum: %w", err), "paths[%d].shape.hang.length", i)
				return false
			}
		}
	}
	return true
}

// stepMoves reports whether a step differs from frame to frame, even on a curve that stands still.
func (c *Builder) stepMoves(s scene.Step) bool {
	switch {
	case s.Off:
		return false
	case s.Wave != nil:
		// A wave whose values stand still, and whose rig does, is a shape like any other.
		with := c.waves[s.Wave].with
		return s.Wave.Side.Moves() || s.Wave.Up.Moves() || s.Wave.Phase.Moves() || with != nil && with.v.Moves()
	case s.Join != nil:
		return slices.ContainsFunc(s.Join.Paths, func(id string) bool { return c.deforms[c.pathAt[id]] })
	}
	return s.Lag != nil || s.Jitter != nil && s.Jitter.Beats > 0
}

// shapeMoves reports whether the shape of path i, before its steps, differs from frame to frame.
func (c *Builder) shapeMoves(i int) bool {
	h := c.Doc.Paths[i].Shape.Hang
	return slices.ContainsFunc(c.tugs[i], func(t tug) bool { return t.moves() }) || c.winches[i] != nil ||
		h != nil && (h.FromOn != "" || h.ToOn != "") || c.belts[i] != nil && c.belts[i].moves
}

// heldHang is a hanging cable whose ends have been moved to where their carriers are, in the path's space.
func (s *Machine) heldHang(i int, h *scene.HangShape, frame float64) *scene.HangShape {
	out := *h
	for _, end := range []struct {
		on string
		at *scene.Vec3
	}{{h.FromOn, &out.From}, {h.ToOn, &out.To}} {
		if end.on == "" {
			continue
		}
		k := s.carrierOf(end.on)
		now := s.PathPlace(i, frame).Inverse().Mul(s.CarrierPlace(k, frame))
		then := s.PathPlace(i, s.Clock.First).Inverse().Mul(s.CarrierPlace(k, s.Clock.First))
		*end.at = now.Mul(then.Inverse()).Apply(geom.FromArray(*end.at)).Array()
	}
	return &out
}

func (s *Machine) carrierOf(id string) int {
	for i := range s.Doc.Carriers {
		if s.Doc.Carriers[i].ID == id {
			return i
		}
	}
	return -1
}

// Held is, at a frame, the distance in metres between the ends of a hanging cable that carriers or a drum
// hold, and the cable's length; of an open belt the length it needs to reach over its last wheel. held is
// false of other paths.
func (s *Machine) Held(i int, frame float64) (apart, length float64, held bool) {
	if b := s.belts[i]; b != nil && b.shape.Ends != nil && b.moves {
		p, _ := s.reeved(s.winches[i], i, frame)
		return p.Used, p.Off, true
	}
	h := s.Doc.Paths[i].Shape.Hang
	if h == nil || h.FromOn == "" && h.ToOn == "" && s.winches[i] == nil {
		return 0, 0, false
	}
	now := s.heldHang(i, h, frame)
	if s.winches[i] != nil {
		now = s.paid(s.winches[i], i, now, frame).hang
	}
	return geom.FromArray(now.To).Sub(geom.FromArray(now.From)).Norm(), now.Length, true
}

// beat is the phase, from 0 to 1, of something that repeats so many times over the range.
func (b *stepping) beat(beats int) float64 {
	return 2 * math.Pi * float64(beats) * (b.frame - b.on.Clock.First) / float64(b.on.Doc.Range.Count())
}

// wave swings the curve.
func (b *stepping) wave(w *scene.WaveStep, in *path.Curve) ([]path.Span, string, error) {
	v, clock := b.on.waves[w], b.on.Clock
	// Thirty spans a wave draw a sine within its chord error.
	if n := in.Length() / w.Wavelength; n > path.MostSpans/30 {
		return nil, "", fmt.Errorf("a wavelength of %g m makes %.0f waves: at least %.3g m is accepted", w.Wavelength, n, in.Length()*30/path.MostSpans)
	}
	from := 0.0
	if v.with != nil {
		from = v.with.At(b.frame, clock)
	}
	note := ""
	// On a loop a part of a wave would leave a step at the seam.
	if n := math.Round(in.Length() / w.Wavelength); in.Closed() && math.Abs(n*w.Wavelength-in.Length()) > 1e-9*in.Length() {
		note = fmt.Sprintf("%.0f waves of %.4g m close on the path.", max(n, 1), in.Length()/max(n, 1))
	}
	amount := w.Amounts(from)
	if v.with != nil && in.Closed() { // counted the shorter way round from where the rig is
		of := amount
		amount = func(s float64) float64 {
			return of(from + math.Remainder(s-from, in.Length()))
		}
	}
	// The up of the wave is vertical where the path allows; where it runs up or down it is transported along
	// the path, so that the wave never changes sides.
	field, err := facing.New(in, facing.Spec{Mode: facing.Steady})
	if err == nil && len(field.Report().Along) > 0 {
		field, err = facing.New(in, facing.Spec{Mode: facing.LeastTwist})
	}
	if err != nil {
		return nil, "", err
	}
	return in.Wave(path.Waving{
		Side: v.side.At(b.frame, clock), Up: v.up.At(b.frame, clock), Wavelength: w.Wavelength,
		Phase: v.phase.At(b.frame, clock), Amount: amount, Above: func(s float64) geom.Vec { return field.Frame(s).U },
	}), note, nil
}

// lag is a compiled lag step: stations on the path that follow it as damped springs, integrated one step a
// frame from before the range on.
type lag struct {
	first  float64 // frame of the first entry
	mu     sync.Mutex
	places [][]state3 // of each frame, of each station
	goals  [][]geom.Vec
}

type state3 struct{ x, v geom.Vec }

// lagStations is the number of places on the path that swing.
const lagStations = 48

// newLag starts before the range unless a frame is given, so that a repeating motion has settled.
func newLag(s *Machine, doc *scene.LagStep) *lag {
	if doc.First != nil {
		return &lag{first: float64(*doc.First)}
	}
	// What swings decays as exp(-damping 2 pi f t).
	settle := s.Clock.FPS * settled / (2 * math.Pi * doc.Frequency * max(doc.Damping, 0.02))
	return &lag{first: s.Clock.First - math.Ceil(min(settle, lagBefore))}
}

// frames is the number of frames that are integrated up to the range's end.
func (l *lag) frames(r scene.Range) int { return max(r.Last-int(l.first)+1, 0) }

// settled is the decay, as a power of e, after which a repeating motion counts as settled.
const settled = 12

// lagBefore is the most frames before the range from which a lag is integrated.
const lagBefore = 400

// lag moves the stretch that gives way to where it has swung.
func (b *stepping) lag(k int, doc *scene.LagStep, in *path.Curve) []path.Span {
	s, l := b.on, b.on.lags[doc]
	offsets := l.offsets(s, b.path, k, doc, b.frame)
	length := in.Length()
	n := float64(lagStations - 1)
	from, to := doc.From, doc.To
	if to == 0 {
		to = length
	}
	fade := 1.0
	// Cut off it would jump back to where it is drawn to.
	if doc.Last != nil && b.frame > float64(*doc.Last) { // it comes to rest within one swing
		fade = 1 - (b.frame-float64(*doc.Last))/(s.Clock.FPS/doc.Frequency)
		fade = max(fade, 0)
		fade *= fade * (3 - 2*fade)
	}
	off := func(d float64) geom.Vec {
		u := min(max((d-from)/(to-from), 0), 1)
		if to == from {
			u = 0
		}
		u *= u * (3 - 2*u) * fade
		if u == 0 {
			return geom.Vec{}
		}
		// A smooth curve through the stations (Catmull-Rom, cubic Hermite with mean slopes).
		x := min(max(d/length, 0), 1) * n
		i := min(int(x), lagStations-2)
		v := x - float64(i)
		at := func(i int) geom.Vec { return offsets[min(max(i, 0), lagStations-1)] }
		p0, p1, p2, p3 := at(i-1), at(i), at(i+1), at(i+2)
		m1, m2 := p2.Sub(p0).Mul(0.5), p3.Sub(p1).Mul(0.5)
		v2, v3 := v*v, v*v*v
		return p1.Mul(2*v3 - 3*v2 + 1).Add(m1.Mul(v3 - 2*v2 + v)).Add(p2.Mul(3*v2 - 2*v3)).Add(m2.Mul(v3 - v2)).Mul(u)
	}
	return in.Displaced(4*lagStations, func(d float64, p, _ geom.Vec) geom.Vec { return p.Add(off(d)) })
}

// offsets are the displacements of the stations from where the path would have them, in the path's space.
func (l *lag) offsets(s *Machine, i, k int, doc *scene.LagStep, frame float64) []geom.Vec {
	out := make([]geom.Vec, lagStations)
	whole := math.Floor(frame)
	follow := sim.Follow{Frequency: doc.Frequency, Damping: doc.Damping}
	l.mu.Lock()
	defer l.mu.Unlock()
	if frame <= l.first || whole > float64(s.Doc.Range.Last)+lagBefore {
		return out
	}
	step := follow.Over(1 / s.Clock.FPS)
	for n := float64(len(l.places)); l.first+n <= whole; n++ {
		if s.stop.Err() != nil { // while it is compiled, which then ends
			return out
		}
		// In the world: what swings does not know what the path rides on.
		goal := s.goals(i, k, l.first+n)
		now := make([]state3, lagStations)
		for j := range now {
			if n == 0 {
				now[j].x = goal[j]
				continue
			}
			now[j] = next(&step, l.places[int(n)-1][j], l.goals[int(n)-1][j], goal[j])
		}
		l.places, l.goals = append(l.places, now), append(l.goals, goal)
	}
	at := int(whole - l.first)
	now, goal := l.places[at], l.goals[at]
	if frame > whole {
		part := follow.Over((frame - whole) / s.Clock.FPS)
		then := s.goals(i, k, frame)
		moved := make([]state3, lagStations)
		for j := range moved {
			moved[j] = next(&part, now[j], goal[j], then[j])
		}
		now, goal = moved, then
	}
	// Stations were integrated in the world; the curve is displaced in the path's own space.
	back := s.PathPlace(i, frame).Inverse()
	for j := range out {
		out[j] = back.Turn(now[j].x.Sub(goal[j]))
	}
	return out
}

func next(s *sim.Step, p state3, from, to geom.Vec) state3 {
	var q state3
	q.x.X, q.v.X = s.Next(p.x.X, p.v.X, from.X, to.X)
	q.x.Y, q.v.Y = s.Next(p.x.Y, p.v.Y, from.Y, to.Y)
	q.x.Z, q.v.Z = s.Next(p.x.Z, p.v.Z, from.Z, to.Z)
	return q
}

// settleBy is the number of frames of a lag that are integrated between two looks at the context.
const settleBy = 4

// Settle integrates everything that depends on earlier frames up to a frame. A picture of the frame would do
// the same, but cannot be given up. Its error is that of ctx.
func (s *Machine) Settle(ctx context.Context, frame int) error {
	for i := range s.Doc.Paths {
		for k := range s.Doc.Paths[i].Steps {
			x := &s.Doc.Paths[i].Steps[k]
			if x.Lag == nil || x.Off {
				continue
			}
			l := s.lags[x.Lag]
			for n := l.known(); n < frame && n <= s.Doc.Range.Last+lagBefore; n += settleBy {
				if err := ctx.Err(); err != nil {
					return err
				}
				l.offsets(s, i, k, x.Lag, float64(n))
			}
		}
	}
	return ctx.Err()
}

// lagging reports whether path i has a lag step.
func (s *Machine) lagging(i int) bool {
	return slices.ContainsFunc(s.Doc.Paths[i].Steps, func(x scene.Step) bool { return x.Lag != nil && !x.Off })
}

// known is the first frame that has not been integrated.
func (l *lag) known() int {
	l.mu.Lock()
	defer l.mu.Unlock()
	return int(l.first) + len(l.places)
}

// goals are the stations of path i in the world before step k: where the springs pull to.
func (s *Machine) goals(i, k int, frame float64) []geom.Vec {
	curve, err := s.shapedTo(i, k, frame)
	if err != nil {
		curve = s.Paths[i]
	}
	pose := s.PathPlace(i, frame)
	out := make([]geom.Vec, lagStations)
	for j := range out {
		d := curve.Length() * float64(j) / (lagStations - 1)
		if j == lagStations-1 && curve.Closed() {
			d = 0
		}
		p, _ := curve.At(d)
		out[j] = pose.Apply(p)
	}
	return out
}
