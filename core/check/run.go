package check

import (
	"context"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"bead/core/rig"
	"bead/core/scene"
)

// Look says which frames are looked at and how.
type Look struct {
	// Frames are those that are looked at, in rising order; nil: all of the range.
	Frames []int
	// Workers is the number of cores used; 0: all. The results do not depend on it.
	Workers int
	// Progress, where it is not nil, is told how many frames have been looked at. It is
	// called from several goroutines.
	Progress func(done int)
	// Early does not wait for simulations: rigs that are still to be simulated are left out, and named.
	Early bool
	// Turn, where it is not nil, does the work of each frame, as when others have to be let by.
	Turn func(do func())
}

// Report is what the checks have found.
type Report struct {
	Results []Result `json:"results"`
	// Seen of so many frames of the range were looked at.
	Seen int `json:"seen"`
	Of   int `json:"of"`
	// Waiting are the ids of rigs that were left out, as they wait for their simulation.
	Waiting []string `json:"waiting,omitempty"`
}

// VerdictForm is the version of a Verdict; it grows when a field changes its meaning or goes.
const VerdictForm = 1

// Verdict is a report on a scene with whether it passed.
type Verdict struct {
	Version int    `json:"version"`
	Scene   string `json:"scene"`
	Passed  bool   `json:"passed"`
	Report
}

// Judged runs the checks of a scene by what somebody asks of it.
func Judged(ctx context.Context, s *rig.Scene, t *Terms, o Look) (Verdict, error) {
	report, err := Run(ctx, s, o)
	if err == nil {
		report.Results, err = t.Judge(report.Results)
	}
	return Verdict{VerdictForm, s.Doc.Name, Passed(report.Results), report}, err
}

// First are a few frames for a first answer: evenly over the range, with its ends.
func First(r scene.Range, most int) []int {
	// With one frame there are no ends apart from it.
	n := min(max(most, 2), r.Count())
	out := make([]int, n)
	for k := range out {
		out[k] = r.First + k*(r.Count()-1)/max(n-1, 1)
	}
	return slices.Compact(out)
}

// Run measures every rig of the scene, in the order of its rigs. The frames are shared out
// among the workers in runs; each result is that of the whole, whatever the split. The error
// is that of the context.
func Run(ctx context.Context, s *rig.Scene, o Look) (Report, error) {
	rg := s.Doc.Range
	frames := o.Frames
	if frames == nil {
		frames = make([]int, rg.Count())
		for k := range frames {
			frames[k] = rg.First + k
		}
	}
	out := Report{Results: []Result{}, Seen: len(frames), Of: rg.Count()}
	waits := make([]bool, len(s.Rigs))
	// Cloth comes first, since every frame is measured as it is.
	if !o.Early {
		if err := s.Simulate(ctx, nil); err != nil {
			return Report{}, err
		}
	}
	for i := range waits {
		if waits[i] = s.Rigs[i].Waits(); waits[i] {
			out.Waiting = append(out.Waiting, s.Doc.Rigs[i].ID)
		}
	}
	workers := o.Workers
	if workers <= 0 {
		workers = runtime.GOMAXPROCS(0)
	}
	workers = min(workers, len(frames))
	crews := make([]*crew, workers)
	var done atomic.Int64
	var wait sync.WaitGroup
	for w := range crews {
		crews[w] = newCrew(ctx, s, out.Seen, waits)
		// In runs, not in turn: gauges that compare frames need those next to each other.
		part := frames[w*len(frames)/workers : (w+1)*len(frames)/workers]
		wait.Go(func() {
			crews[w].walk(ctx, part, o.Turn, func() {
				if n := done.Add(1); o.Progress != nil {
					o.Progress(int(n))
				}
			})
		})
	}
	wait.Wait()
	if err := ctx.Err(); err != nil {
		return Report{}, err
	}
	if workers == 0 {
		return out, nil
	}
	// In the order of the frames, so that the first of equal figures is named whatever the split.
	for _, c := range crews[1:] {
		crews[0].merge(c)
	}
	for i, list := range crews[0].gauges {
		if waits[i] {
			continue
		}
		for _, g := range list {
			if r := g.result(); r.ID != "" { // "": there was nothing to be measured
				r.tell(s.Doc.Units)
				out.Results = append(out.Results, r)
			}
			if err := ctx.Err(); err != nil {
				return Report{}, err
			}
		}
		// What plays once has nothing to meet again.
		if !s.Doc.PlaysOnce() {
			out.Results = append(out.Results, newMeasure(s, i).loop())
		}
	}
	return out, nil
}

// crew is one worker's gauges of all rigs.
type crew struct {
	scene  *rig.Scene
	gauges [][]gauge // of each rig
}

func newCrew(ctx context.Context, s *rig.Scene, seen int, without []bool) *crew {
	c := &crew{s, make([][]gauge, len(s.Rigs))}
	for i := range s.Rigs {
		if without[i] {
			continue
		}
		m := newMeasure(s, i)
		m.seen, m.ctx = seen, ctx
		c.gauges[i] = m.gauges()
	}
	return c
}

// walk looks at frames. It also makes the frame before the first one, if that is in the range, so that each
// pair of frames is seen by one worker.
func (c *crew) walk(ctx context.Context, frames []int, turn func(do func()), looked func()) {
	if turn == nil {
		turn = func(do func()) { do() }
	}
	w := walk{crew: c}
	for _, f := range frames {
		if ctx.Err() != nil {
			return
		}
		turn(func() { w.look(ctx, f) })
		looked()
	}
}

// walk is where a worker has come to.
type walk struct {
	*crew
	now, before rig.Picture
	known       bool // before is the frame before last
	last        int
}

func (w *walk) look(ctx context.Context, f int) {
	s := w.scene
	if s.Settle(ctx, f) != nil {
		return
	}
	// The frame before, once a run: from there on each picture serves as that of the next.
	if !w.known || w.last != f-1 {
		if w.known = f > s.Doc.Range.First; w.known {
			_ = s.FrameContext(ctx, &w.before, f-1)
		}
	}
	if s.FrameContext(ctx, &w.now, f) != nil {
		return
	}
	m := moment{frame: f, pic: &w.now}
	if w.known {
		m.before = &w.before
	}
	for _, list := range w.gauges {
		for _, g := range list {
			g.look(&m)
		}
	}
	// The two pictures change places: the frame that was just seen is the one before.
	w.now, w.before = w.before, w.now
	w.known, w.last = true, f
}

func (c *crew) merge(later *crew) {
	for i, list := range c.gauges {
		for k, g := range list {
			g.merge(later.gauges[i][k])
		}
	}
}
