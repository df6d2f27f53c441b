package path

import (
	"runtime"
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
	out = make([]measured, len(spans))
	var missing []int
	for i := range spans {
		s := &spans[i]
		if s.evenSpeed() {
			out[i] = measureSpan(s)
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
				i := missing[j]
				out[i] = measureSpan(&spans[i])
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
