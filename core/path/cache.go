package path

import (
	"runtime"
	"slices"
	"sync"
)

// Cache keeps the measures of spans between one curve and the next, so that while
// a point is dragged only the spans beside it are measured anew. It remembers what
// the last rounds used (Next begins a round) and is not safe for concurrent use.
// The zero value is an empty cache.
type Cache struct {
	// Stop, where it is given, ends long work early.
	Stop        *Stop
	now, before map[Span]measured
	scratch     *scratch // of a fleeting one
}

// scratch is room that is used again.
type scratch struct {
	leaves   [][]leaf // of each worker
	measures []measured
	missing  []int
}

var fleeting = sync.Pool{New: func() any { return &Cache{scratch: new(scratch)} }}

// Fleeting lends an empty cache for the curves of one frame, whose room is used again for the next. It
// is given back with Done; the curves made with it stay.
func Fleeting() *Cache { return fleeting.Get().(*Cache) }

// Done gives a fleeting cache back.
func (k *Cache) Done() {
	clear(k.now)
	for w := range k.scratch.leaves {
		k.scratch.leaves[w] = k.scratch.leaves[w][:0]
	}
	k.Stop = nil
	fleeting.Put(k)
}

// room returns where n spans' measures go, those to measure anew and each worker's leaves: of a fleeting cache what
// is used again, else nothing yet.
func (k *Cache) room(n int) (out []measured, missing []int, leaves [][]leaf) {
	if k.scratch == nil {
		return make([]measured, n), nil, nil
	}
	x := k.scratch
	x.measures = slices.Grow(x.measures[:0], n)[:n]
	for len(x.leaves) < runtime.GOMAXPROCS(0) {
		x.leaves = append(x.leaves, nil)
	}
	return x.measures, x.missing[:0], x.leaves
}

// measured is a span's leaves from its own start, its length, and the greatest
// curvature found at a few inner places, 1/m.
type measured struct {
	leaves []leaf
	length float64
	bend   float64
}

// Next forgets what was not used since the call before.
func (k *Cache) Next() { k.before, k.now = k.now, nil }

// parallelFrom is the number of spans to measure from which on more than one
// core is worth its start.
const parallelFrom = 32

// measure returns the measure of every span and the number of leaves in all.
func (k *Cache) measure(spans []Span) (out []measured, leaves int) {
	out, missing, room := k.room(len(spans))
	measure := func(w, i int) {
		if room == nil {
			out[i], _ = measureSpan(nil, &spans[i])
		} else {
			out[i], room[w] = measureSpan(room[w], &spans[i])
		}
	}
	for i := range spans {
		s := &spans[i]
		if s.evenSpeed() {
			measure(0, i)
		} else if m, known := k.now[*s]; known {
			out[i] = m
		} else if m, known := k.before[*s]; known {
			out[i] = m
			k.keep(s, m)
		} else {
			missing = append(missing, i)
		}
	}
	workers := 1
	if len(missing) >= parallelFrom {
		workers = runtime.GOMAXPROCS(0)
	}
	var wait sync.WaitGroup
	for w := range workers {
		work := func() {
			for j := w; j < len(missing) && k.Stop.Err() == nil; j += workers {
				measure(w, missing[j])
			}
		}
		if workers == 1 {
			work()
			break
		}
		wait.Go(work)
	}
	wait.Wait()
	if k.Stop.Err() != nil {
		return nil, 0
	}
	for _, i := range missing {
		k.keep(&spans[i], out[i])
	}
	if k.scratch != nil {
		k.scratch.missing = missing
	}
	for i := range out {
		leaves += len(out[i].leaves)
	}
	return out, leaves
}

func (k *Cache) keep(s *Span, m measured) {
	if k.now == nil {
		k.now = map[Span]measured{}
	}
	k.now[*s] = m
}
