package check

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"strconv"
	"strings"

	"bead/core/motion"
	"bead/core/rig"
	"bead/core/scene"
)

// LoopOffer is a loop that a person can take. It has been made and has passed the rig's loop
// check before it is offered.
type LoopOffer struct {
	motion.LoopChoice
	Speed float64 `json:"speed"` // metres a second
	Text  string  `json:"text"`
	Edits []Edit  `json:"edits"`
}

// LoopAnswer is what the solver has found: offers, the best first, and what stands against a
// loop where there is none.
type LoopAnswer struct {
	Offers []LoopOffer `json:"offers"`
	Note   string      `json:"note,omitempty"`
}

const (
	loopOffers = 6  // at most
	loopTries  = 24 // lengths that are tried out
	loopMiss   = 1e-9
)

// repeating is a value that repeats by itself at a rate of its own.
type repeating struct {
	slot   scene.Slot
	period motion.Period
}

// Loops solves for a loop of rig i near a wished number of frames and a rough speed in metres
// a second, against all else of the scene that repeats by itself: other rigs that run, waves,
// rigs and turns that follow this one, and keys that repeat. What runs at a constant speed of
// its own and would miss is brought to the nearest whole number of rounds. compile makes a
// scene of a document.
func Loops(ctx context.Context, s *rig.Scene, compile func(*scene.Document) (*rig.Scene, error), i, frames int, rough float64) (LoopAnswer, error) {
	t := &s.Rigs[i]
	if t.Doc().Traits().Lead != nil {
		return LoopAnswer{}, fmt.Errorf("%s goes along with another rig: solve for that one", t.Doc().Name)
	}
	if frames < 1 || frames > scene.MaxFrames {
		return LoopAnswer{}, fmt.Errorf("a loop of %d frames is not accepted: from 1 to %d are", frames, scene.MaxFrames)
	}
	if !(math.Abs(rough) <= 1e6) {
		return LoopAnswer{}, fmt.Errorf("a speed of %g is not accepted: a number within ±1e6 is", rough)
	}
	out := LoopAnswer{Offers: []LoopOffer{}}
	if !t.ComesRound {
		out.Note = told(s.Doc.Units, say("solve.straight-on", t.Doc().Name))
		return out, nil
	}
	others, fixed := repeats(s, "rigs/"+t.Doc().ID+"/travel")
	periods := make([]motion.Period, len(others))
	for k := range others {
		periods[k] = others[k].period
	}
	// Pieces of several parts take one another's places only after a whole pattern.
	pitch := t.Layout.Pitch * float64(t.Pattern())
	// A pitch on is enough for pieces that take one another's places, a turn for all else.
	ways := []float64{pitch, t.Turn()}
	if math.Abs(t.Layout.Seam) > lengthTol || !t.Row {
		ways = ways[1:]
	}
	best := ""
	least := math.Inf(1)
	for _, period := range ways {
		for _, c := range motion.SolveLoop(period, rough/s.Clock.FPS, frames, periods, fixed, loopTries) {
			if err := ctx.Err(); err != nil {
				return LoopAnswer{}, err
			}
			o := offerFor(s, c, i, others)
			miss, text, err := try(s, compile, i, &o)
			if err != nil {
				return LoopAnswer{}, err
			}
			if miss != "" {
				// Of all that miss, the nearest choice says best what is in the way.
				if c.Error < least {
					least, best = c.Error, miss
				}
				continue
			}
			// What other rigs do then is told with the offer.
			o.Text += text
			if out.Offers = append(out.Offers, o); len(out.Offers) == loopOffers {
				return out, nil
			}
		}
		// The shorter way has offers: whole turns would only be slower.
		if len(out.Offers) > 0 {
			return out, nil
		}
	}
	why := []Saying{say("solve.none", frames)}
	if best != "" {
		why = append(why, say("solve.nearest", best))
	}
	out.Note = told(s.Doc.Units, why...)
	return out, nil
}

// repeats lists what repeats by itself beside a value: values that run at a constant speed or
// follow that one, and the frames of keys that repeat.
func repeats(s *rig.Scene, self string) (others []repeating, fixed []float64) {
	for _, slot := range s.Doc.Slots() {
		if slot.Ref == self {
			continue
		}
		if share, ok := s.Follows(slot.Ref, self); ok {
			// What follows this value repeats as a share of it.
			others = append(others, repeating{slot, motion.Period{Every: every(s, slot), Share: share}})
			continue
		}
		v := slot.Value
		// Turns of the range stay whole with it.
		ofRange := v.Turns != nil && v.Turns.Frames == 0 && v.Turns.Turns == math.Trunc(v.Turns.Turns)
		if rate, ok := s.Rate(slot.Ref); ok && rate != 0 && !ofRange {
			others = append(others, repeating{slot, motion.Period{Every: every(s, slot), Rate: rate / s.Clock.FPS}})
		}
		// Keys that act within some frames only do not set the length of the whole.
		if n := len(v.Keys); n > 1 && v.Within == nil {
			// Keys that repeat set the loop's length by whole rounds.
			round := v.Keys[n-1].Frame - v.Keys[0].Frame
			switch v.After {
			case motion.Repeat, motion.Build:
				fixed = append(fixed, round)
			case motion.Mirror:
				fixed = append(fixed, 2*round)
			}
		}
	}
	return others, fixed
}

// offerFor is the edits for a choice: of the rig's travel, of the range, and of the speeds that would miss.
func offerFor(s *rig.Scene, c motion.LoopChoice, i int, others []repeating) LoopOffer {
	t := &s.Rigs[i]
	fps := s.Clock.FPS
	o := LoopOffer{LoopChoice: c, Speed: c.Rate * fps}
	says := []Saying{say("solve.offer", c.Frames, speed(o.Speed), 100*c.Change)}
	o.Edits = []Edit{
		{fmt.Sprintf("/rigs/%d/travel", i), motion.Running{Speed: o.Speed, Start: t.Travel(s.Clock.First)}},
		{"/range/last", s.Doc.Range.First + c.Frames - 1},
	}
	// What else runs at a speed is fitted to the same loop, by as little as it takes.
	n := float64(c.Frames)
	for k := range others {
		p := others[k].period
		if p.Every == 0 || p.Share != 0 || math.Abs(p.Left(n)) <= loopMiss*p.Every {
			continue
		}
		// The nearest whole number of rounds in the loop, and never none.
		rounds := math.Round(p.Rate * n / p.Every)
		if rounds == 0 {
			rounds = math.Copysign(1, p.Rate)
		}
		scale := rounds * p.Every / n / p.Rate
		v, at := others[k].slot.Value, pointerOf(others[k].slot.Address)
		switch {
		case v.Speed != nil:
			o.Edits = append(o.Edits, Edit{at + "/speed", v.Speed.PerSecond * scale})
		case v.RPM != nil:
			o.Edits = append(o.Edits, Edit{at + "/rpm", v.RPM.RPM * scale})
		case v.Turns != nil:
			o.Edits = append(o.Edits, Edit{at + "/turns", v.Turns.Turns * scale})
		default:
			continue
		}
		says = append(says, say("solve.faster", others[k].slot.Name, 100*(scale-1)))
	}
	o.Error = 0 // it is tried out before it is offered
	o.Text = told(s.Doc.Units, says...)
	return o
}

// pointerOf is an address such as paths[0].steps[1].wave.phase as a JSON pointer.
func pointerOf(address string) string {
	return "/" + strings.NewReplacer(".", "/", "[", "/", "]", "").Replace(address)
}

// try makes the scene of an offer and compares the end of its range with the beginning. miss
// says why the rig does not loop, "" where it does; text ends the offer's sentence with what
// the other rigs do.
func try(s *rig.Scene, compile func(*scene.Document) (*rig.Scene, error), i int, o *LoopOffer) (miss, text string, err error) {
	// A copy: the scene goes on being shown while offers are tried.
	d, err := Apply(s.Doc, o.Edits)
	if err != nil {
		return "", "", err
	}
	// An offer with which the scene cannot be made is no offer.
	made, err := compile(d)
	if err != nil {
		return err.Error(), "", nil
	}
	var others []Saying
	for k := range made.Rigs {
		r := newMeasure(made, k).loop()
		switch {
		case r.State != Outside:
		case k == i:
			return r.Text, "", nil
		default:
			others = append(others, say("solve.other", d.Rigs[k].Name, strings.TrimSuffix(r.Text, ".")))
		}
	}
	if len(others) == 0 && len(made.Rigs) > 1 {
		others = []Saying{say("solve.all-loop")}
	}
	return "", told(d.Units, append(others, say("solve.end"))...), nil
}

// Apply returns a copy of the document with the edits made.
func Apply(d *scene.Document, edits []Edit) (*scene.Document, error) {
	// Assets are megabytes and are never edited; the copy gets them back.
	bare := *d
	bare.Assets = nil
	text, err := json.Marshal(&bare)
	if err != nil {
		return nil, err
	}
	var tree any
	if err := json.Unmarshal(text, &tree); err != nil {
		return nil, err
	}
	for _, e := range edits {
		text, err := json.Marshal(e.Value)
		if err != nil {
			return nil, err
		}
		var v any
		if err := json.Unmarshal(text, &v); err != nil {
			return nil, err
		}
		if err := set(tree, strings.Split(e.Path, "/")[1:], v); err != nil {
			return nil, fmt.Errorf("%s: %w", e.Path, err)
		}
	}
	if text, err = json.Marshal(tree); err != nil {
		return nil, err
	}
	out, err := scene.Decode(text)
	if err == nil {
		out.Assets = d.Assets
	}
	return out, err
}

// set sets the field at the keys below a tree of JSON values.
func set(tree any, keys []string, v any) error {
	switch x := tree.(type) {
	case map[string]any:
		if len(keys) == 1 {
			x[keys[0]] = v
			return nil
		}
		// What is left out of a document is made on the way to a field in it.
		if x[keys[0]] == nil {
			x[keys[0]] = map[string]any{}
		}
		return set(x[keys[0]], keys[1:], v)
	case []any:
		k, err := strconv.Atoi(keys[0])
		if err != nil || k < 0 || k >= len(x) {
			return fmt.Errorf("%q is no place of a list of %d", keys[0], len(x))
		}
		if len(keys) == 1 {
			x[k] = v
			return nil
		}
		return set(x[k], keys[1:], v)
	}
	return fmt.Errorf("there is nothing below it at %q", keys[0])
}

// every is what a value repeats after: a pitch of its train, a turn of its path, a
// whole turn, a wave; 0 where it does not repeat by itself.
func every(s *rig.Scene, slot scene.Slot) float64 {
	switch slot.Unit {
	// Turns come round by themselves, whatever they turn.
	case scene.Degrees:
		return 360
	case scene.Waves:
		return 1
	}
	for i := range s.Rigs {
		t := &s.Rigs[i]
		if slot.Value != &t.Doc().Travel && slot.Value != &t.Doc().Offset || !t.ComesRound {
			continue
		}
		// On a loop left open only a turn brings the gap back.
		if t.Row && math.Abs(t.Layout.Seam) <= lengthTol {
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
