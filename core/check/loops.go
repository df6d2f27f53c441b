package check

import (
	"fmt"
	"math"

	"bead/core/motion"
	"bead/core/rig"
	"bead/core/scene"
)

// LoopOffer is a loop that a person can take.
type LoopOffer struct {
	motion.LoopChoice
	Speed float64 `json:"speed"` // units a second
	Text  string  `json:"text"`
	Edits []Edit  `json:"edits"`
}

const loopOffers = 6

// Loops solves for a loop of rig i near a wished number of frames and a rough speed
// in metres a second, against all else of the scene that repeats by itself: other
// rigs that run, rigs and turns that follow this one, and keys that repeat.
func Loops(s *rig.Scene, i, frames int, speed float64) ([]LoopOffer, error) {
	t := &s.Trains[i]
	if t.Rig().Lead != nil {
		return nil, fmt.Errorf("%s goes along with another rig: solve for that one", t.Rig().Name)
	}
	if frames < 1 || frames > scene.MaxFrames {
		return nil, fmt.Errorf("a loop of %d frames is not accepted: from 1 to %d are", frames, scene.MaxFrames)
	}
	if !(math.Abs(speed) <= 1e6) {
		return nil, fmt.Errorf("a speed of %g is not accepted: a number within ±1e6 is", speed)
	}
	fps := s.Clock.FPS
	var others []motion.Period
	var fixed []float64
	self := "rigs/" + t.Rig().ID + "/travel"
	for _, slot := range s.Doc.Slots() {
		if slot.Ref == self {
			continue
		}
		if share, ok := s.Follows(slot.Ref, self); ok {
			others = append(others, motion.Period{Every: every(s, slot), Share: share})
			continue
		}
		if rate, ok := s.Rate(slot.Ref); ok && rate != 0 {
			others = append(others, motion.Period{Every: every(s, slot), Rate: rate / fps})
		}
		v := slot.Value
		if n := len(v.Keys); n > 1 && v.Within == nil {
			round := v.Keys[n-1].Frame - v.Keys[0].Frame
			switch v.After {
			case motion.Repeat, motion.Build:
				fixed = append(fixed, round)
			case motion.Mirror:
				fixed = append(fixed, 2*round)
			}
		}
	}
	period := t.Layout.Pitch * float64(t.Pattern())
	if math.Abs(t.Layout.Seam) > lengthTol || t.Rig().Kind == scene.KindRider {
		period = t.Turn()
	}
	var out []LoopOffer
	start := t.Travel(s.Clock.First)
	for _, c := range motion.SolveLoop(period, speed/fps, frames, others, fixed, loopOffers) {
		o := LoopOffer{LoopChoice: c, Speed: c.Rate * fps}
		what := "all else that repeats meets, too"
		switch {
		case len(others)+len(fixed) == 0:
			what = "nothing else repeats by itself"
		case c.Error > 1e-9:
			what = fmt.Sprintf("something else misses by %.3g", c.Error)
		}
		o.Text = fmt.Sprintf("%d frames, %.4g m/s (%+.2f %%): %s.", c.Frames, o.Speed, 100*c.Change, what)
		o.Edits = []Edit{
			{fmt.Sprintf("/rigs/%d/travel", i), motion.Running{Speed: o.Speed, Start: start}},
			{"/range/last", s.Doc.Range.First + c.Frames - 1},
		}
		out = append(out, o)
	}
	return out, nil
}

// every is what a value repeats after: a pitch of its train, a turn of its path, a
// whole turn; 0 where it does not repeat by itself.
func every(s *rig.Scene, slot scene.Slot) float64 {
	if slot.Unit == scene.Degrees {
		return 360
	}
	for i := range s.Trains {
		t := &s.Trains[i]
		if slot.Value != &t.Rig().Travel && slot.Value != &t.Rig().Spacing.Offset || !t.ComesRound {
			continue
		}
		if t.Rig().Kind == scene.KindTrain && math.Abs(t.Layout.Seam) <= lengthTol {
			return t.Layout.Pitch * float64(t.Pattern())
		}
		return t.Turn()
	}
	for i := range s.Paths {
		if s.Doc.Paths[i].ID == slot.Path && s.Paths[i].Closed() {
			return s.Paths[i].Length()
		}
	}
	return 0
}
