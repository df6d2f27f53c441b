package motion

import (
	"math"
	"sort"
)

// Period is a thing that repeats: after Every units of the way at its Rate.
type Period struct {
	Every float64 // what it repeats after: a pitch, a turn
	Rate  float64 // units a frame, signed
	// Share, where it is not 0, makes the rate that share of the one solved for.
	Share float64
}

// Left is the residual of a period after n frames: the travel modulo the period, in units of the way.
func (p Period) Left(n float64) float64 {
	if p.Every == 0 {
		return 0
	}
	return math.Remainder(p.Rate*n, p.Every)
}

// LoopChoice is one answer of the loop solver.
type LoopChoice struct {
	Frames int     `json:"frames"`
	Rounds int     `json:"rounds"` // of the period that is solved for
	Rate   float64 `json:"rate"`   // units a frame that it takes
	// Error is the greatest miss among the other periods, in their units; Change the
	// rate over the wished one, less one.
	Error  float64 `json:"error"`
	Change float64 `json:"change"`
}

// SolveLoop looks for loops near a wished number of frames and a rough rate at which
// the first thing repeats exactly, while others run as they do; rounds are counted
// in steps of whole rounds. The best come first: those at which the others miss
// least, then those whose length and rate are nearest to what was wished. fixed are
// numbers of frames that have to fit a whole number of times: the rounds of keys
// that repeat.
func SolveLoop(every, rate float64, wish int, others []Period, fixed []float64, most int) []LoopChoice {
	if !(every > 0) || wish < 1 || math.IsNaN(rate) || math.IsInf(rate, 0) {
		return nil
	}
	reach := max(wish/4, 6)
	var out []LoopChoice
	for n := max(wish-reach, 1); n <= wish+reach; n++ {
		rounds := math.Round(rate * float64(n) / every)
		if rounds == 0 {
			rounds = math.Copysign(1, rate)
		}
		if math.Abs(rounds) > 1e9 {
			continue
		}
		c := LoopChoice{Frames: n, Rounds: int(rounds), Rate: rounds * every / float64(n)}
		if rate != 0 {
			c.Change = c.Rate/rate - 1
		}
		for _, o := range others {
			if o.Share != 0 {
				o.Rate = o.Share * c.Rate
			}
			c.Error = max(c.Error, math.Abs(o.Left(float64(n))))
		}
		for _, f := range fixed {
			if f > 0 && math.Abs(math.Remainder(float64(n), f)) > 1e-6 {
				c.Error = math.Inf(1)
			}
		}
		if !math.IsInf(c.Error, 1) {
			out = append(out, c)
		}
	}
	const even = 1e-9 // misses below this are none
	cost := func(c LoopChoice) float64 {
		return math.Abs(float64(c.Frames-wish))/float64(wish) + math.Abs(c.Change)
	}
	sort.SliceStable(out, func(i, j int) bool {
		a, b := out[i], out[j]
		if d := a.Error - b.Error; math.Abs(d) > even {
			return d < 0
		}
		return cost(a) < cost(b)
	})
	return out[:min(len(out), most)]
}
