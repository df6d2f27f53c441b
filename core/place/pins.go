package place

import (
	"errors"
	"math"

	"bead/core/geom"
)

// Points is what pin spacing needs of a curve.
type Points interface {
	At(s float64) (p, tangent geom.Vec)
	Length() float64
	Closed() bool
}

// ErrNoPin is returned when no point of the path lies one pitch further on.
var ErrNoPin = errors.New("the path has no point that far ahead in a straight line: a shorter pitch is needed")

// NextPin returns the least distance beyond s whose point is chord metres from
// the point at s in a straight line, within one length of the path.
//
// The straight distance grows at most as fast as the distance along the path, so
// stepping on by what is missing can never pass the first such point. Near it
// Newton's steps are taken.
func NextPin(c Points, s, chord float64) (float64, error) {
	from, _ := c.At(s)
	next, _, err := PinAfter(c, s, from, chord)
	return next, err
}

// PinAfter is NextPin from a point that is known, and returns the next one as well.
func PinAfter(c Points, s float64, from geom.Vec, chord float64) (next float64, at geom.Vec, err error) {
	q, far := s+chord, s+c.Length()
	if !c.Closed() {
		far = c.Length()
	}
	const tolerance = 1e-14
	// What rounding leaves of a place and of a distance along the path.
	noise := tolerance*chord + 4e-16*(math.Abs(s)+c.Length()+math.Abs(from.X)+math.Abs(from.Y)+math.Abs(from.Z))
	for range 400 {
		if q > far+tolerance*far {
			return 0, at, ErrNoPin
		}
		p, t := c.At(q)
		v := p.Sub(from)
		d := v.Norm()
		missing := chord - d
		if math.Abs(missing) <= noise {
			return q, p, nil
		}
		next := missing
		// d|v|/dq = cos of the angle between v and the path; exact on a straight. Where the path
		// bends the other way Newton's step comes out a little beyond, and the next one back.
		if slope := v.Dot(t) / d; math.Abs(missing) < 1e-2*chord && slope > 0.1 {
			next = missing / slope
		} else if missing < 0 {
			return q, p, nil
		}
		if q+next == q {
			return q, p, nil
		}
		q += next
		at = p
	}
	return q, at, nil
}

// MarchPins appends n distances to dst, the first at start, each a straight chord
// from the one before.
func MarchPins(dst []float64, c Points, start, chord float64, n int) ([]float64, error) {
	s := start
	for i := range n {
		if i > 0 {
			next, err := NextPin(c, s, chord)
			if err != nil {
				return dst, err
			}
			s = next
		}
		dst = append(dst, s)
	}
	return dst, nil
}

// EvenPins returns n pins at equal straight distances that close the loop of a
// closed path (n chords) or reach from end to end of an open one (n-1 chords),
// and the one chord that does so.
func EvenPins(c Points, n int) (pins []float64, chord float64, err error) {
	chords := n
	if !c.Closed() {
		chords = n - 1
	}
	if chords < 1 || (c.Closed() && n < 2) {
		return []float64{0}, c.Length(), nil
	}
	// over is how far the last pin comes to lie beyond the end.
	over := func(chord float64) float64 {
		s := 0.0
		for range chords {
			next, err := NextPin(beyond{c}, s, chord)
			if err != nil {
				return c.Length()
			}
			s = next
		}
		return s - c.Length()
	}
	hi := c.Length() / float64(chords)
	lo := hi / 2
	for over(lo) > 0 {
		if lo /= 2; lo < 1e-9*hi {
			return nil, 0, ErrNoPin
		}
	}
	if fLo, fHi := over(lo), over(hi); fHi <= 0 {
		lo = hi
	} else if lo, _ = geom.Root(over, lo, hi, fLo, fHi, 1e-13*c.Length()); lo == 0 {
		return nil, 0, ErrNoPin
	}
	pins, err = MarchPins(make([]float64, 0, n), beyond{c}, 0, lo, n)
	if err == nil && !c.Closed() {
		pins[n-1] = c.Length()
	}
	return pins, lo, err
}

// ClosingPitch is the one straight pitch with which n pins, the first at a distance, close
// round a closed path.
func ClosingPitch(c Points, start float64, n int) (float64, error) {
	over := func(chord float64) float64 {
		s := start
		for range n {
			next, err := NextPin(c, s, chord)
			if err != nil {
				return c.Length()
			}
			s = next
		}
		return s - start - c.Length()
	}
	hi := c.Length() / float64(n)
	lo := hi / 2
	fLo := over(lo)
	for ; fLo > 0; fLo = over(lo) {
		if lo /= 2; lo < 1e-9*hi {
			return 0, ErrNoPin
		}
	}
	fHi := over(hi)
	if fHi <= 0 {
		return hi, nil
	}
	pitch, ok := geom.Root(over, lo, hi, fLo, fHi, 1e-13*c.Length())
	if !ok {
		return 0, ErrNoPin
	}
	return pitch, nil
}

// beyond lets pins march past the end of an open path on its straight run-on, so
// that an over-long chord has an answer to be compared.
type beyond struct{ Points }

func (b beyond) Closed() bool { return true }

// Root is where the first pin of a closed row stands after a travel, and how many whole pitches that is.
func Root(c Points, travelled, chord float64) (root, whole float64) {
	pitches := travelled / chord
	whole = math.Floor(pitches)
	if step, err := NextPin(c, 0, chord); err == nil {
		root = step * (pitches - whole)
	}
	return root, whole
}

// March fills in pins a chord apart, with their places; where the curve has no point a chord ahead it goes
// straight on.
func March(pins []float64, at []geom.Vec, c Points, start, chord float64) {
	var on Points = onward{c}
	pins[0] = start
	at[0], _ = c.At(start)
	for i := 1; i < len(pins); i++ {
		next, p, err := PinAfter(on, pins[i-1], at[i-1], chord)
		if err != nil {
			next = pins[i-1] + chord
			p, _ = c.At(next)
		}
		pins[i], at[i] = next, p
	}
}

// onward is a curve without end: closed ones go round and round, open ones go straight on past their ends.
type onward struct{ Points }

func (o onward) Closed() bool { return true }
