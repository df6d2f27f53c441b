// Package place decides where along a path the pieces of a train stand.
// Distances are metres from the path's start.
package place

import (
	"fmt"
	"math"
)

// Mode says what the person sets and what follows from it.
type Mode string

// The spacing modes.
const (
	SetCount Mode = "set count" // the pitch follows: the pieces fill the path evenly
	SetPitch Mode = "set pitch" // the count follows: as many as fit, the rest stays open
	CloseUp  Mode = "close up"  // the nearest whole count, what is left goes to Rest
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
}

// Layout is where the pieces stand before travel: piece i at i times Pitch.
type Layout struct {
	Count int
	Pitch float64 // metres from one piece to the next along the path
	// Asked is the pitch that was wished for; 0 where the count was set.
	Asked float64
	// Seam is the opening between the last piece and the first beyond one pitch on
	// a path that comes round, else the length left free at the end. Negative: they
	// overlap.
	Seam float64
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
	if s.Mode == SetCount {
		if s.Count < 1 || s.Count > MaxPieces {
			return Layout{}, &FieldError{"count", fmt.Sprintf("%d pieces are not accepted: a count from 1 to %d is", s.Count, MaxPieces)}
		}
		n := float64(s.Count)
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
		return Layout{}, &FieldError{"mode", fmt.Sprintf("%q is not a spacing: set count, set pitch and close up are", s.Mode)}
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
