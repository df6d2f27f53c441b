// Package place decides where along a path the pieces of a train stand.
// Distances are metres from the path's start.
package place

import (
	"fmt"
	"math"
	"sort"

	"bead/core/geom"
)

// Mode says what the person sets and what follows from it.
type Mode string

// The spacing modes.
const (
	SetCount Mode = "set count" // the pitch follows: the pieces fill the path evenly
	SetPitch Mode = "set pitch" // the count follows: as many as fit, the rest stays open
	CloseUp  Mode = "close up"  // the nearest whole count, what is left goes to Rest
	Scatter  Mode = "scatter"   // the count is set; the pieces stand at random, by a seed
)

// Rest says what takes up what is left over when closing up.
type Rest string

// The choices of Rest.
const (
	RestPitch Rest = "pitch" // the pitch is changed a little so that the loop closes
	RestSlack Rest = "slack" // the pitch is kept; the slack is left at the seam
)

// MaxPieces bounds a train, so that a slip of the finger cannot ask for memory
// without end.
const MaxPieces = 100_000

// Spec is what the person asks for. Pitch 0 stands for the part's own length;
// Gap is added to the pitch where the pitch is asked for.
type Spec struct {
	Mode  Mode
	Count int
	Pitch float64
	Gap   float64
	Rest  Rest
	// Of Scatter: the seed, and how even it is, from 0 (at random, but no two nearer than a
	// part's length and the gap) to 1 (evenly).
	Seed int64
	Even float64
}

// Layout is where the pieces stand before travel, which At tells.
type Layout struct {
	Count int
	Pitch float64 // metres from one piece to the next along the path
	// Asked is the pitch that was wished for; 0 where the count was set.
	Asked float64
	// Seam is the opening between the last piece and the first beyond one pitch on
	// a path that comes round, else the length left free at the end. Negative: they
	// overlap.
	Seam float64
	// Places are where scattered pieces stand; nil where they are a pitch apart. Pitch is then
	// that on average.
	Places []float64
}

// Scattered reports whether the pieces stand where chance put them: none in the place of another.
func (l *Layout) Scattered() bool { return l.Places != nil }

// At is how far from the first piece i stands.
func (l *Layout) At(i int) float64 {
	if l.Places != nil {
		return l.Places[i]
	}
	return float64(i) * l.Pitch
}

// Closing is how far it is from the last piece to the first of the next round.
func (l *Layout) Closing() float64 {
	if l.Places != nil {
		return l.Pitch*float64(l.Count) - l.Places[l.Count-1]
	}
	return l.Pitch
}

// FieldError is a fault of one field of a Spec.
type FieldError struct{ Field, Text string }

func (e *FieldError) Error() string { return e.Text }

// Solve lays out a train on a path of the given length. On a path that comes
// round the pitch is counted across the seam as well, so N pieces have N pitches;
// on one that does not they have N-1. partLength stands in for a pitch of 0.
// Errors are FieldErrors that say what would be accepted.
func Solve(length float64, comesRound bool, s Spec, partLength float64) (Layout, error) {
	if !(length > 0) {
		return Layout{}, &FieldError{"", "the path has no length"}
	}
	if s.Mode == SetCount || s.Mode == Scatter {
		if s.Count < 1 || s.Count > MaxPieces {
			return Layout{}, &FieldError{"count", fmt.Sprintf("%d pieces are not accepted: a count from 1 to %d is", s.Count, MaxPieces)}
		}
		n := float64(s.Count)
		if s.Mode == Scatter && s.Count > 1 {
			return scatter(length, comesRound, s, partLength)
		}
		switch {
		case comesRound:
			return Layout{Count: s.Count, Pitch: length / n}, nil
		case s.Count == 1:
			return Layout{Count: 1, Pitch: length, Seam: length}, nil
		}
		return Layout{Count: s.Count, Pitch: length / (n - 1)}, nil
	}
	pitch := s.Pitch
	if pitch == 0 {
		pitch = partLength
	}
	pitch += s.Gap
	// Not (pitch > 0) catches NaN too.
	if !(pitch > 0) || math.IsInf(pitch, 0) {
		field := "pitch"
		if s.Pitch >= 0 && s.Gap < 0 {
			field = "gap"
		}
		return Layout{}, &FieldError{field, fmt.Sprintf("pitch and gap come to %g m: a pitch above 0 is accepted", pitch)}
	}
	pitches := length / pitch
	if pitches >= MaxPieces {
		return Layout{}, &FieldError{"pitch", fmt.Sprintf("a pitch of %g m makes %.0f pieces on %g m of path: at least %.3g m is accepted (%d pieces)",
			pitch, pitches, length, length/(MaxPieces-1), MaxPieces)}
	}
	// A loop that closes but for rounding counts as closed.
	whole := int(math.Floor(pitches + 1e-9))
	switch s.Mode {
	case SetPitch:
	case CloseUp:
		if s.Rest == RestPitch || s.Rest == "" {
			whole = max(int(math.Round(pitches)), 1)
			even := Layout{Count: whole, Pitch: length / float64(whole), Asked: pitch}
			if !comesRound {
				even.Count++
			}
			return even, nil
		}
		if s.Rest != RestSlack {
			return Layout{}, &FieldError{"rest", fmt.Sprintf("%q is not accepted: pitch and slack are", s.Rest)}
		}
	default:
		return Layout{}, &FieldError{"mode", fmt.Sprintf("%q is not a spacing: set count, set pitch, close up and scatter are", s.Mode)}
	}
	count := whole
	if !comesRound {
		count++
	}
	if count < 1 {
		return Layout{}, &FieldError{"pitch", fmt.Sprintf("a pitch of %g m is longer than the path (%g m): not one piece fits", pitch, length)}
	}
	seam := length - float64(whole)*pitch
	if math.Abs(seam) <= 1e-9*length {
		seam = 0
	}
	return Layout{Count: count, Pitch: pitch, Asked: pitch, Seam: seam}, nil
}

// scatter lays out pieces at random places of which no two are nearer than least: what is left of
// the length is parted by exponential shares, as uniformly thrown places part it (order statistics,
// any textbook of probability).
func scatter(length float64, comesRound bool, s Spec, partLength float64) (Layout, error) {
	gaps := s.Count
	if !comesRound {
		gaps--
	}
	least := max(partLength+s.Gap, 0)
	free := length - float64(gaps)*least
	if !(free >= 0) {
		most := int(length / least)
		if !comesRound {
			most++
		}
		return Layout{}, &FieldError{"count", fmt.Sprintf("%d pieces at least %.4g m apart do not fit on %.4g m: up to %d do, or more with a smaller gap", s.Count, least, length, most)}
	}
	chance := geom.Chance(s.Seed)
	out := Layout{Count: s.Count, Pitch: length / float64(gaps), Places: make([]float64, s.Count)}
	shares, sum := make([]float64, gaps), 0.0
	for i := range shares {
		shares[i] = -math.Log(1 - chance.Next())
		sum += shares[i]
	}
	at := 0.0
	for i := range gaps {
		at += s.Even*out.Pitch + (1-s.Even)*(least+free*shares[i]/sum)
		if i+1 < s.Count {
			out.Places[i+1] = at
		}
	}
	return out, nil
}

// Ease says how a value goes from one place to the next.
type Ease string

// The kinds of Ease.
const (
	Straight Ease = "straight"
	Eased    Ease = "eased" // starting and ending without slope (smoothstep)
)

// Mark is a value at a distance, with the way to the next mark.
type Mark struct {
	At, Value float64
	Ease      Ease
}

// ByDistance returns the value at distance s that marks in rising order of distance
// give, and its slope a metre. On a closed path of the given length the last mark
// leads on to the first over the seam; on an open one values hold before the first
// and after the last. No marks give 0.
func ByDistance(marks []Mark, s, length float64, closed bool) (value, slope float64) {
	n := len(marks)
	switch {
	case n == 0:
		return 0, 0
	case n == 1:
		return marks[0].Value, 0
	case !closed && s <= marks[0].At:
		return marks[0].Value, 0
	case !closed && s >= marks[n-1].At:
		return marks[n-1].Value, 0
	}
	k := sort.Search(n, func(i int) bool { return marks[i].At > s }) - 1
	from, to := marks[(k+n)%n], marks[(k+1)%n]
	if k < 0 {
		from.At -= length
	}
	if k == n-1 {
		to.At += length
	}
	h := to.At - from.At
	if h <= 0 {
		return to.Value, 0
	}
	u, rise := (s-from.At)/h, to.Value-from.Value
	if from.Ease == Eased {
		return from.Value + rise*u*u*(3-2*u), rise * 6 * u * (1 - u) / h
	}
	return from.Value + rise*u, rise / h
}
